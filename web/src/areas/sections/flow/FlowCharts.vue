<script setup lang="ts">
import { computed, ref } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartPoint, ChartSeries } from '@/lib/chart-model';
import { LOWER, UPPER } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import type { SectionView } from '@veldtwind/core/shaping';
import { isSolved } from '@veldtwind/core/section-flow';
import { LAYER_QUANTITIES, type LayerKey } from '@veldtwind/core/quantities';
import { marksOfLayers } from './layer-quantities';
import type { SectionFlowState } from './section-flow';

/** Pressure with and without viscosity; beside it the shape's distributions or any quantity of the layers. */
const props = defineProps<{ flow: SectionFlowState; view: SectionView | null }>();
const preferences = usePreferences();
const cursorX = ref<number | null>(null);
const live = computed(() => props.flow.live.value);
const viscous = computed(() => {
  const v = props.flow.viscous.value;
  return live.value.viscous && v?.distributions && isSolved(v.point) ? v : null;
});
const conditions = computed(
  () => `α = ${formatNumber(props.flow.alphaDeg.value, 2)}°, Mach ${formatNumber(props.flow.mach.value, 2)}`,
);
const subtitle = computed(() => {
  if (!live.value.viscous) return `inviscid, at ${conditions.value}: no boundary layer, no stall`;
  const re = `Re ${grouped(live.value.reynolds)}, n ${formatNumber(live.value.criticalAmplification, 1)}`;
  if (viscous.value) return `with viscosity, ${conditions.value}, ${re}; thin: without`;
  const p = props.flow.viscous.value?.point;
  return p?.status === 'unsolved' ? `unsolved at ${re}: only the inviscid pressure is shown` : `solving at ${re} …`;
});

/** Thousands apart by narrow blanks. */
function grouped(v: number): string {
  return Math.round(v).toLocaleString('en').replaceAll(',', '\u202f');
}
const inviscidSide = (from: number, to: number): ChartPoint[] => {
  const f = props.flow.inviscid.value!;
  const out = [];
  for (let i = from; i <= to; i++) out.push({ x: f.x[i], y: f.point.cp[i], tag: f.x[i] });
  return out;
};
const pressure = computed<ChartSeries[]>(() => {
  const f = props.flow.inviscid.value;
  if (!f) return [];
  const upper = inviscidSide(0, f.nose).reverse();
  const lower = inviscidSide(f.nose, f.x.length - 1);
  const v = viscous.value;
  if (!v) {
    return [
      { id: 'upper', label: 'upper', style: UPPER, markers: false, points: upper },
      { id: 'lower', label: 'lower', style: LOWER, markers: false, points: lower },
    ];
  }
  const { top, bottom } = v.distributions!;
  const side = (d: typeof top) => Array.from(d.x, (x, i) => ({ x, y: d.cp[i], tag: x }));
  return [
    { id: 'upper-inviscid', label: '', style: UPPER, reference: true, points: upper },
    { id: 'lower-inviscid', label: '', style: LOWER, reference: true, points: lower },
    { id: 'upper', label: 'upper', style: UPPER, markers: false, points: side(top) },
    { id: 'lower', label: 'lower', style: LOWER, markers: false, points: side(bottom) },
  ];
});
const pressureMarks = computed<ChartMark[]>(() => (viscous.value ? marksOfLayers(viscous.value, 'cp') : []));

const wanted = computed(() => preferences.get<LayerKey | 'shape'>('section-second-chart', 'shape'));
const second = computed(() => (viscous.value ? wanted.value : 'shape'));
const options = computed(() => [
  { id: 'shape', name: 'thickness and camber' },
  ...(viscous.value ? LAYER_QUANTITIES.map((q) => ({ id: q.id, name: q.name })) : []),
]);
const quantity = computed(() => LAYER_QUANTITIES.find((q) => q.id === second.value));
const secondSeries = computed<ChartSeries[]>(() => {
  const q = quantity.value;
  const v = viscous.value;
  if (q && v) {
    const side = (d: NonNullable<typeof v.distributions>['top']) =>
      Array.from(d.x, (x, i) => ({ x, y: d[q.id][i], tag: x })).filter((p) => Number.isFinite(p.y));
    const { top, bottom, wake } = v.distributions!;
    const list: ChartSeries[] = [
      { id: 'upper', label: 'upper', style: UPPER, markers: false, points: side(top) },
      { id: 'lower', label: 'lower', style: LOWER, markers: false, points: side(bottom) },
    ];
    if (q.wake)
      list.push({
        id: 'wake',
        label: 'wake',
        style: { colour: 'var(--soft)', dash: '2 3', marker: 'bar' },
        markers: false,
        points: side(wake).filter((p) => p.x < 1.3),
      });
    return list;
  }
  const view = props.view;
  if (!view) return [];
  const along = (values: Float64Array, from: number) =>
    Array.from(view.line.x, (x, i) => ({ x, y: values[i], tag: x })).filter((p) => p.x >= from);
  return [
    {
      id: 'thickness',
      label: 'thickness',
      style: { colour: 'var(--ink)', dash: '', marker: 'disc' },
      markers: false,
      points: along(view.line.thickness, -1),
    },
    {
      id: 'camber',
      label: 'camber',
      style: { colour: 'var(--ochre)', dash: '6 3', marker: 'square' },
      markers: false,
      points: along(view.line.camber, 0.012),
    },
  ];
});
const secondMarks = computed<ChartMark[]>(() => {
  if (quantity.value && viscous.value) return marksOfLayers(viscous.value, quantity.value.id);
  const f = props.view?.facts;
  if (!f) return [];
  const marks = [
    { x: f.thickness.at, y: f.thickness.max, text: `crest ${formatNumber(f.thickness.at, 2)}`, colour: 'var(--ink)' },
  ];
  if (Math.abs(f.camber.max) > 1e-4)
    marks.push({
      x: f.camber.at,
      y: f.camber.max,
      text: `crest ${formatNumber(f.camber.at, 2)}`,
      colour: 'var(--ochre-text)',
    });
  return marks;
});
</script>

<template>
  <div class="grid min-h-0 grid-cols-2 gap-4">
    <LineChart
      chart-id="section-pressure"
      title="Pressure along the chord"
      :subtitle="subtitle"
      :series="pressure"
      :marks="pressureMarks"
      :x="{ name: 'x / c', zero: true }"
      :y="{ name: 'Cp', invert: true, zero: true }"
      :tag="cursorX"
      :caption="viscous ? undefined : 'inviscid'"
      :digits="[3, 3]"
      @cursor="(x) => (cursorX = x)"
    />
    <LineChart
      chart-id="section-second"
      :title="quantity ? quantity.name : 'Thickness and camber'"
      :subtitle="quantity ? quantity.says : 'across the mean line, in chords'"
      :series="secondSeries"
      :marks="secondMarks"
      :x="{ name: 'x / c', zero: true }"
      :y="{ name: quantity?.symbol ?? 'y / c', zero: true, options, value: second }"
      :tag="cursorX"
      :digits="[3, quantity?.digits ?? 4]"
      @cursor="(x) => (cursorX = x)"
      @update:y-quantity="(id) => preferences.set('section-second-chart', id)"
    />
  </div>
</template>
