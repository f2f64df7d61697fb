<script setup lang="ts">
import { computed } from 'vue';
import type { CurveReply } from '@veldtwind/contract';
import { valueAt } from '@veldtwind/core/polar';
import { axisTitle, unitOf } from '@veldtwind/core/quantities';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import type { SeriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useRuns } from '@/store/runs';
import { useWorkbench } from '@/store/workbench';
import { axesSeries, curveOfSeries, POLAR_AXES, polarAxis, polarSeries, type CurvePlace } from './curve-series';

/** One, two or four charts of the curves, each axis any quantity. */
const props = defineProps<{
  curves: CurveReply[];
  styles: ReadonlyMap<number, SeriesStyle>;
  /** What a curve is called at its end. */
  name: (c: CurveReply) => string;
  count: 1 | 2 | 4;
  /** Lifts that the aircraft flies at, by name. */
  flown: readonly { name: string; cl: number }[];
  open: CurvePlace[];
  /** Measured curves laid over the computed ones. */
  measured: (x: string, y: string) => ChartSeries[];
}>();
const emit = defineEmits<{ pick: [curve: string, tag: number] }>();
const preferences = usePreferences();
const workbench = useWorkbench();
const runs = useRuns();
const IDS = ['polar-first', 'polar-second', 'polar-third', 'polar-fourth'];
const FIRST = [
  { x: 'cd', y: 'cl' },
  { x: 'alpha', y: 'cl' },
  { x: 'cl', y: 'ratio' },
  { x: 'alpha', y: 'cm' },
];
const kept = computed(() => preferences.get('polar-charts', FIRST));
const axes = computed(() => FIRST.slice(0, props.count).map((a, i) => kept.value[i] ?? a));
const setAxis = (i: number, key: 'x' | 'y', id: string) =>
  preferences.set(
    'polar-charts',
    FIRST.map((a, k) => (k === i ? { ...(kept.value[k] ?? a), [key]: id } : (kept.value[k] ?? a))),
  );
const options = computed(() => POLAR_AXES.map((q) => ({ id: q.id, name: axisTitle(q, preferences.units) })));
const axis = (id: string) => {
  const q = polarAxis(id);
  return { name: q.symbol, unit: unitOf(q, preferences.units) || undefined, options: options.value, value: id };
};
const title = ({ x, y }: { x: string; y: string }) => {
  const [qx, qy] = [polarAxis(x), polarAxis(y)];
  return `${qy.name.charAt(0).toUpperCase()}${qy.name.slice(1)} over ${qx.name}`;
};
const HALF = 0.012;
const bands = ({ x, y }: { x: string; y: string }) =>
  (['x', 'y'] as const).flatMap((side) =>
    (side === 'x' ? x : y) === 'cl'
      ? props.flown.map(({ name, cl }) => ({ axis: side, from: cl - HALF, to: cl + HALF, label: name }))
      : [],
  );
/** More curves than this are neither told apart nor drawn at once: the first by the order of the list. */
const MOST_DRAWN = 300;
const drawn = computed(() => props.curves.slice(0, MOST_DRAWN));
const charts = computed(() =>
  axes.value.map((a, i) => {
    const series = axesSeries(a.x, a.y, (x, y) =>
      polarSeries(drawn.value, runs.points, props.styles, x, y, preferences.units, props.name),
    );
    const both = [a.x, a.y].some((id) => polarAxis(id).of.length > 1);
    return {
      ...a,
      id: IDS[i],
      title: title(a),
      subtitle: both ? 'full: upper surface, dashed: lower' : undefined,
      series: both ? series : [...series, ...props.measured(a.x, a.y)],
      bands: bands(a),
    };
  }),
);
const marks = (series: ChartSeries[]): ChartMark[] =>
  props.open.flatMap(({ curve, place }) => {
    const p = series.find((c) => c.id === String(curve.id))?.points.find((q) => q.tag === valueAt(curve.input, place));
    return p && Number.isFinite(p.y) ? [{ x: p.x, y: p.y, text: '', colour: 'var(--ink)' }] : [];
  });
const digits = (id: string) => Math.min(4, polarAxis(id).digits ?? 4);
</script>

<template>
  <p v-if="curves.length > drawn.length" class="text-[12.5px] text-soft" role="status">
    {{ drawn.length }} of {{ curves.length }} curves are drawn: search in the ledger, or hide some.
  </p>
  <div class="grid min-h-0 flex-1 gap-3" :class="{ 'grid-cols-2': count > 1, 'grid-rows-2': count === 4 }">
    <LineChart
      v-for="(c, i) in charts"
      :key="c.id"
      :chart-id="c.id"
      :title="c.title"
      :subtitle="c.subtitle"
      :series="c.series"
      :x="axis(c.x)"
      :y="axis(c.y)"
      :bands="c.bands"
      :marks="marks(c.series)"
      :tag="workbench.cursor.alphaDeg"
      :digits="[digits(c.x), digits(c.y)]"
      @cursor="(a) => (workbench.cursor.alphaDeg = a)"
      @pick="(id, tag) => emit('pick', curveOfSeries(id), tag)"
      @update:x-quantity="(q) => setAxis(i, 'x', q)"
      @update:y-quantity="(q) => setAxis(i, 'y', q)"
    />
  </div>
</template>
