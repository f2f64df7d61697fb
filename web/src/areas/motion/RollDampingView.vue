<script setup lang="ts">
import { computed } from 'vue';
import type { MotionInput } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { useLive } from '@/lib/live';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';
import { lanes } from '@/worker/lane';

/** Roll damping over the angle of attack through the stall, and where the wing drives its own roll on. */
const props = defineProps<{ active: CandidatePart; input: () => MotionInput | null }>();
const live = useLive(lanes.skins, 'roll-damping', () => {
  const of = props.input();
  return of?.polars ? { of } : null;
});
const found = computed(() => (live.failure.value ? null : live.value.value));
const series = computed((): ChartSeries[] =>
  found.value
    ? [
        {
          id: 'damping',
          label: props.active.letter,
          style: seriesStyle(props.active.style),
          points: found.value.points.flatMap((p) =>
            p.Cl_p === null
              ? []
              : [{ x: p.alpha * DEG, y: p.Cl_p, status: p.doubtful ? ('doubtful' as const) : ('solved' as const) }],
          ),
        },
      ]
    : [],
);
const marks = computed((): ChartMark[] => {
  const at = found.value?.autorotatesFrom ?? null;
  const p = found.value?.points.find((k) => k.alpha === at);
  return p
    ? [
        {
          x: p.alpha * DEG,
          y: p.Cl_p ?? 0,
          text: `autorotates from ${formatNumber(p.alpha * DEG, 0)}°`,
          colour: 'var(--clay)',
        },
      ]
    : [];
});
const words = computed(() => {
  if (live.failure.value) return live.failure.value.message;
  if (!props.input()?.polars) return 'This needs the polars of the sections: without viscosity nothing stalls.';
  const f = found.value;
  if (!f) return 'Computing…';
  if (f.autorotatesFrom === null) return 'The roll stays damped at all angles up to 22°.';
  const settles = f.settlesAt === null ? '' : `, and settles near p·b/2V = ${formatNumber(f.settlesAt, 2)}`;
  return `From ${formatNumber(f.autorotatesFrom * DEG, 0)}° the wing drives its own roll on${settles}. Doubtful past the stall.`;
});
</script>

<template>
  <div class="grid min-h-0 flex-1 grid-rows-[auto_minmax(0,1fr)] gap-1">
    <p class="text-[12.5px] text-soft" role="status" data-test="roll-words">{{ words }}</p>
    <LineChart
      chart-id="roll-damping"
      title="Roll damping"
      subtitle="slope of the rolling moment with the rate of roll, with section polars"
      :series="series"
      :marks="marks"
      :x="{ name: 'α', unit: '°' }"
      :y="{ name: 'Clp', unit: '/rad', zero: true }"
    />
  </div>
</template>
