<script setup lang="ts">
import { computed } from 'vue';
import { LAYER_QUANTITIES, type LayerKey } from '@veldtwind/core/quantities';
import { dragOfStretches, isSolved, type DragOfSurface } from '@veldtwind/core/section-flow';
import type { FlownFlow } from '@veldtwind/core/polar';
import { formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartPoint, ChartSeries } from '@/lib/chart-model';
import { reynoldsText } from '@/lib/reynolds-text';
import { LOWER, UPPER } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { marksOfLayers } from '../flow/layer-quantities';
import FlownTable from './FlownTable.vue';
import type { FlownState } from './use-flown';

/** The flow of the shape at one of its flown conditions, over what it was before; beside it the numbers. */
const props = defineProps<{ flown: FlownState }>();
const preferences = usePreferences();
const quantity = computed(() => preferences.get<LayerKey | 'cp' | 'drag'>('flown-quantity', 'cp'));
const options = [
  { id: 'cp', name: 'pressure, Cp' },
  { id: 'drag', name: 'where drag arises' },
  ...LAYER_QUANTITIES.map((q) => ({ id: q.id as string, name: q.name })),
];
const at = computed(() => props.flown.named.value[props.flown.place.value]);
const now = computed(() => props.flown.now.value[props.flown.place.value] ?? null);
const before = computed(() => props.flown.before.value[props.flown.place.value] ?? null);

/** Stretches of the chord that drag is told over. */
const EDGES = Array.from({ length: 21 }, (_, i) => i / 20);
/** Drag of each stretch, as a flight of steps, in counts per tenth of the chord. */
function strips(d: DragOfSurface): ChartPoint[] {
  return dragOfStretches(d, EDGES).flatMap((cd, k) => {
    const y = (cd * 1e4) / (10 * (EDGES[k + 1] - EDGES[k]));
    return [
      { x: EDGES[k], y, tag: EDGES[k] },
      { x: EDGES[k + 1], y, tag: EDGES[k + 1] },
    ];
  });
}
function series(flow: FlownFlow | null, old: boolean): ChartSeries[] {
  if (!flow?.distributions) return [];
  const { distributions, drag } = flow;
  const q = quantity.value;
  const line = (end: 'top' | 'bottom', style: typeof UPPER, points: ChartPoint[]): ChartSeries => ({
    id: `${end}${old ? '-before' : ''}`,
    label: old ? '' : end === 'top' ? 'upper' : 'lower',
    style: old ? { ...style, dash: '4 3' } : style,
    markers: false,
    reference: old,
    points,
  });
  const pointsOf = (end: 'top' | 'bottom'): ChartPoint[] => {
    const d = distributions[end];
    if (q === 'drag') return drag ? strips(drag[end]) : [];
    return Array.from(d.x, (x, i) => ({ x, y: d[q][i], tag: x })).filter((p) => Number.isFinite(p.y));
  };
  const bare: ChartSeries[] =
    q === 'cp' && !old
      ? (['top', 'bottom'] as const).map((end) => ({
          id: `${end}-inviscid`,
          label: '',
          style: { ...(end === 'top' ? UPPER : LOWER), dash: '1 3' },
          markers: false,
          reference: true,
          points: Array.from(distributions[end].x, (x, i) => ({ x, y: distributions[end].cpInviscid[i], tag: x })),
        }))
      : [];
  return [...bare, line('top', UPPER, pointsOf('top')), line('bottom', LOWER, pointsOf('bottom'))];
}
const all = computed(() => [...series(before.value, true), ...series(now.value, false)]);
const marks = computed(() => {
  const flow = now.value;
  const q = quantity.value;
  return flow?.distributions && q !== 'drag' ? marksOfLayers(flow, q) : [];
});
const yName = computed(() =>
  quantity.value === 'cp'
    ? 'Cp'
    : quantity.value === 'drag'
      ? 'drag counts per tenth of the chord'
      : (LAYER_QUANTITIES.find((l) => l.id === quantity.value)?.name ?? ''),
);
const said = (i: number) => {
  const c = props.flown.changes.value[i];
  if (!c) return '…';
  if (c.after.status === 'unsolved') return 'no flow';
  const p = c.percent.cd;
  return p === null ? '' : `cd ${p >= 0.05 ? '+' : ''}${formatNumber(p, 1)} %`;
};
const better = (i: number) => {
  const p = props.flown.changes.value[i]?.percent.cd ?? 0;
  return props.flown.changes.value[i]?.after.status === 'unsolved' || p > 0.05
    ? 'text-clay'
    : p < -0.05
      ? 'text-grass'
      : 'text-soft';
};
const reason = computed(() => {
  const p = now.value?.point;
  return p && (!isSolved(p) || p.status === 'doubtful') ? p.reason : undefined;
});
</script>

<template>
  <div class="flex min-h-0 flex-col gap-1">
    <div class="flex flex-wrap items-center gap-1" role="group" aria-label="Flown conditions">
      <button
        v-for="(c, i) in flown.named.value"
        :key="i"
        class="chip"
        :class="{ on: i === flown.place.value }"
        :aria-pressed="i === flown.place.value"
        :data-test="`flown-${i}`"
        @click="flown.choose(i)"
      >
        {{ c.name }} <span class="text-soft">cl {{ formatNumber(c.cl, 2) }}, Re {{ reynoldsText(c.reynolds) }}</span>
        <span class="ml-1 font-semibold" :class="better(i)">{{ said(i) }}</span>
      </button>
    </div>
    <p v-if="flown.failure.value" class="text-[12.5px] text-clay" role="status">
      {{ flown.failure.value }} The last shape that could be made stays.
    </p>
    <p v-if="flown.named.value.length === 0" class="text-[12.5px] text-soft">
      No condition yet: the brief gives the lift of cruise, climb and stall, or type one at the right.
    </p>
    <div v-else class="grid min-h-0 flex-1 grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-4">
      <LineChart
        chart-id="shape-flown"
        :title="`${at?.name ?? ''}: ${options.find((o) => o.id === quantity)?.name ?? ''}`"
        subtitle="along the chord; dashed: before; dotted: without viscosity"
        :series="all"
        :marks="marks"
        :x="{ name: 'x / c', zero: true }"
        :y="{ name: yName, invert: quantity === 'cp', zero: true, options, value: quantity }"
        :digits="[3, 4]"
        :caption="now?.point.status === 'unsolved' ? 'no flow at this lift' : undefined"
        @update:y-quantity="(id) => preferences.set('flown-quantity', id)"
      />
      <div class="min-h-0 overflow-y-auto">
        <FlownTable :rows="flown.rows.value" />
        <p v-if="reason" class="pt-1 text-[12px] text-soft" data-test="flown-reason">{{ reason }}</p>
      </div>
    </div>
  </div>
</template>
