<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue';
import { DEG } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { LOWER, UPPER } from '@/lib/series-style';
import { useWorkbench } from '@/store/workbench';
import type { Answers } from './use-answers';

// The space view's library is large.
const SkinView = defineAsyncComponent(() => import('./SkinView.vue'));

/** Pressures on the closed skins, and cut along one strip. */
const props = defineProps<{ answers: Answers; alphaDeg: number; surface: string; station: number }>();
const workbench = useWorkbench();
const result = computed(() => props.answers.skins.value.value);
const index = computed(() =>
  result.value
    ? result.value.points.reduce(
        (best, p, i) =>
          Math.abs(p.alpha * DEG - props.alphaDeg) < Math.abs(result.value!.points[best].alpha * DEG - props.alphaDeg)
            ? i
            : best,
        0,
      )
    : 0,
);
const point = computed(() => result.value?.points[index.value]);
const column = computed(() => {
  const own = result.value?.columns.filter((c) => c.id === props.surface && c.station >= 0) ?? [];
  return own.reduce<(typeof own)[number] | null>(
    (best, c) => (!best || Math.abs(c.station - props.station) < Math.abs(best.station - props.station) ? c : best),
    null,
  );
});
const series = computed<ChartSeries[]>(() => {
  const [c, p] = [column.value, point.value];
  if (!c || !p) return [];
  const half = c.fractions.length / 2;
  const face = (from: number, to: number) =>
    c.fractions.slice(from, to).map((x, i) => ({ x, y: p.cp[c.from + from + i] }));
  return [
    { id: 'upper', label: 'upper', style: UPPER, points: face(0, half) },
    { id: 'lower', label: 'lower', style: LOWER, points: face(half, 2 * half) },
  ];
});
/** What thickness and bodies change, in a sentence. */
const sentence = computed(() => {
  const thick = point.value;
  const lattice = props.answers.shown.value.find((s) => s.candidate.id === workbench.active?.id)?.lift;
  if (!thick || !lattice) return '';
  const [a, b] = [
    lattice.points.findLast((p) => p.alpha <= thick.alpha + 1e-9),
    lattice.points.find((p) => p.alpha >= thick.alpha - 1e-9),
  ];
  if (!a || !b) return '';
  const t = b.alpha > a.alpha ? (thick.alpha - a.alpha) / (b.alpha - a.alpha) : 0;
  const CL = a.CL + t * (b.CL - a.CL);
  const change = (100 * (thick.CL - CL)) / Math.abs(CL);
  if (Math.abs(CL) < 0.05) return '';
  return `At ${formatNumber(thick.alpha * DEG, 1)}° the skins lift ${formatNumber(Math.abs(change), 1)} % ${change >= 0 ? 'more' : 'less'} than the lattice: CL ${formatNumber(thick.CL, 3)} against ${formatNumber(CL, 3)}.`;
});
/** Where bodies and surfaces pass through each other. */
const cut = computed(() => {
  const joined = result.value?.joined ?? [];
  const name = (id: string) =>
    workbench.active?.bodies.find((b) => b.id === id)?.name ??
    workbench.active?.surfaces.find((s) => s.id === id)?.name ??
    id;
  const bodies = [...new Set(joined.map((m) => m.body))].map((body) => {
    const through = joined.filter((m) => m.body === body).map((m) => name(m.surface));
    return `${name(body)} with ${through.join(' and ')}`;
  });
  return bodies.length > 0 ? `Cut where they meet: ${bodies.join(', ')}.` : '';
});
const progress = computed(() => props.answers.skins.progress.value);
</script>

<template>
  <div class="grid h-full min-h-[420px] grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-3 px-4 py-3">
    <section class="flex min-h-0 flex-col">
      <h2 class="text-[17px] font-semibold">Surface pressure</h2>
      <p class="text-[12.5px] text-soft" data-test="skin-words">
        {{ sentence }} {{ cut }}
        <template v-if="result">{{ result.panels }} panels{{ result.half ? ' a half' : '' }}, inviscid.</template>
      </p>
      <p v-if="point?.doubt" class="text-[12.5px] text-clay" role="status" data-test="skin-doubt">
        Doubtful. {{ point.doubt }}
      </p>
      <SkinView v-if="result" class="flex-1" :result="result" :index="index" :station="station" :surface="surface" />
      <div v-else class="grid flex-1 place-items-center text-soft" role="status">
        <template v-if="answers.skins.failure.value">{{ answers.skins.failure.value }}</template>
        <template v-else-if="progress === null">Computing…</template>
        <template v-else>Panels: {{ Math.round(100 * progress) }} %</template>
      </div>
      <p v-if="result && progress !== null" class="text-[12.5px] text-soft" role="status">
        Computing anew: {{ Math.round(100 * progress) }} %
        <button class="link ml-1" @click="answers.skins.cancel">Stop</button>
      </p>
    </section>
    <LineChart
      chart-id="skin-cut"
      title="Cut along the stream"
      :subtitle="`at ${formatNumber(100 * (column?.station ?? 0), 0)} % of the half span, α = ${formatNumber((point?.alpha ?? 0) * DEG, 1)}°`"
      :series="series"
      :x="{ name: 'x / c', zero: true }"
      :y="{ name: 'cp', invert: true, zero: true }"
      caption="inviscid"
    />
  </div>
</template>
