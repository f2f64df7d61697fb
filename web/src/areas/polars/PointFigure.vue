<script setup lang="ts">
import { ChevronLeft, ChevronRight, Layers, Pause, Play, X } from 'lucide-vue-next';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { valueAt } from '@veldtwind/core/polar';
import { LAYER_QUANTITIES, type LayerKey } from '@veldtwind/core/quantities';
import type { Distributions, SolvedPoint } from '@veldtwind/core/section-flow';
import { formatNumber } from '@veldtwind/core/units';
import { call } from '@/api/client';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { LOWER, seriesStyle, UPPER, type SeriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { curveConditions, type CurvePlace } from './curve-series';
import PointChooser from './PointChooser.vue';
import { bodyOf } from './point-series';

/** Solved points with everything along their surfaces, read from what is stored. The last one is stepped; the others lie under it. */
const props = defineProps<{
  points: CurvePlace[];
  laying: boolean;
  steppable: boolean;
  /** Places of the points that the last one's curve has. */
  places: readonly number[];
  /** Most points at the same time. */
  most: number;
}>();
const emit = defineEmits<{
  step: [by: 1 | -1, around: boolean];
  close: [];
  lay: [on: boolean];
  drop: [index: number];
  choose: [places: number[]];
}>();
const project = useProject();
const preferences = usePreferences();
interface Read {
  point: SolvedPoint;
  distributions: Distributions;
}
/** What was read, by curve and place; stored points never change. */
const read = shallowRef<ReadonlyMap<string, Read>>(new Map());
const keyOf = (p: CurvePlace) => `${p.curve.id}:${p.place}`;
const failure = ref<string | null>(null);
const cursorX = ref<number | null>(null);
/** Points kept for stepping back and forth. */
const MOST_KEPT = 200;

watch(
  () => props.points.map(keyOf).join(),
  async () => {
    failure.value = null;
    for (const p of props.points) {
      const key = keyOf(p);
      if (read.value.has(key)) continue;
      try {
        const found = (await call('storedPoint', {
          params: { id: project.id!, curve: String(p.curve.id), place: String(p.place) },
        })) as unknown as Read;
        read.value = new Map([...[...read.value].slice(-MOST_KEPT), [key, found]]);
      } catch (error) {
        failure.value = (error as Error).message;
      }
    }
  },
  { immediate: true },
);
const lead = computed(() => props.points[props.points.length - 1]);
const at = ({ curve, place }: CurvePlace) => {
  const v = formatNumber(
    valueAt(curve.input, place),
    curve.input.swept === 'cl' ? 3 : curve.input.swept === 're' ? 0 : 2,
  );
  return curve.input.swept === 'alpha' ? `α = ${v}°` : curve.input.swept === 'cl' ? `cl = ${v}` : `Re ${v}`;
};
/** The points of the curve that is stepped, and those of them that are drawn. */
const choices = computed(() => props.places.map((place) => ({ place, text: at({ curve: lead.value.curve, place }) })));
const drawn = computed(() => props.points.filter((p) => p.curve.id === lead.value.curve.id).map((p) => p.place));
const title = computed(() => `${lead.value.curve.name}, ${curveConditions(lead.value.curve)}, ${at(lead.value)}`);
const numbers = computed(() => {
  const p = read.value.get(keyOf(lead.value))?.point;
  return p
    ? `cl ${formatNumber(p.cl, 4)}, cd ${formatNumber(p.cd, 5)}, cm ${formatNumber(p.cm, 4)}; critical Mach number ${formatNumber(p.machCritical, 2)}`
    : (failure.value ?? 'reading …');
});
/** What tells the points from each other, as short as it can be. */
const names = computed(() => {
  const differ = (of: (p: CurvePlace) => string) => new Set(props.points.map(of)).size > 1;
  const parts = [(p: CurvePlace) => p.curve.name, (p: CurvePlace) => curveConditions(p.curve), at].filter(differ);
  return props.points.map((p) => parts.map((part) => part(p)).join(', '));
});
const several = computed(() => props.points.length > 1);
/** One point has the styles of the two surfaces; of several, each has its own colour, and the lower surface is dashed. */
const stylesOf = (i: number): [SeriesStyle, SeriesStyle] => {
  if (!several.value) return [UPPER, LOWER];
  const style = { ...seriesStyle(i), dash: '' };
  return [style, { ...style, dash: '6 3' }];
};
type Layer = Distributions['top'];
const side = (d: Layer, key: 'cp' | 'cpInviscid' | LayerKey) =>
  Array.from(d.x, (x, i) => ({ x, y: Number(d[key][i] ?? NaN), tag: x })).filter((p) => Number.isFinite(p.y));
const shown = computed(() =>
  props.points.flatMap((p, i) => {
    const found = read.value.get(keyOf(p));
    return found ? [{ ...found, i, styles: stylesOf(i), name: names.value[i] }] : [];
  }),
);
const surfaces = (key: 'cp' | LayerKey): ChartSeries[] =>
  shown.value.flatMap(({ distributions: d, i, styles: [up, low], name }) => [
    { id: `upper-${i}`, label: several.value ? name : 'upper', style: up, markers: false, points: side(d.top, key) },
    { id: `lower-${i}`, label: several.value ? '' : 'lower', style: low, markers: false, points: side(d.bottom, key) },
  ]);
const pressure = computed<ChartSeries[]>(() => [
  ...(several.value ? [] : shown.value).flatMap(({ distributions: d, styles: [up, low] }) => [
    { id: 'upper-inviscid', label: '', style: up, reference: true, points: side(d.top, 'cpInviscid') },
    { id: 'lower-inviscid', label: '', style: low, reference: true, points: side(d.bottom, 'cpInviscid') },
  ]),
  ...surfaces('cp'),
]);
const layer = computed(() => {
  const id = preferences.get<string>('polar-layer', 'shapeFactor');
  return LAYER_QUANTITIES.find((q) => q.id === id) ?? LAYER_QUANTITIES[0];
});
const layers = computed(() => surfaces(layer.value.id));
const body = computed<ChartSeries[]>(() =>
  shown.value.flatMap(({ distributions, i, styles: [style] }) => bodyOf(distributions, `${i}`, style)),
);

// Plays along the curve, one point after the other and round again.
const playing = ref<ReturnType<typeof setInterval> | null>(null);
const EVERY = 450;
function play(): void {
  if (playing.value) clearInterval(playing.value);
  playing.value = playing.value ? null : setInterval(() => emit('step', 1, true), EVERY);
}
onBeforeUnmount(() => playing.value && clearInterval(playing.value));
</script>

<template>
  <section class="flex min-h-0 flex-col border-t border-rule pt-2" aria-label="Stored point" data-test="stored-point">
    <div class="flex items-center gap-1">
      <h2 class="min-w-0 truncate text-[15px] font-semibold">{{ title }}</h2>
      <p class="min-w-0 flex-1 truncate pl-2 text-[12.5px] text-soft" role="status">{{ numbers }}</p>
      <button
        class="icon-btn"
        :class="laying ? 'bg-select text-ochre' : ''"
        :aria-pressed="laying"
        aria-label="Overlay the next points"
        title="Overlay the next points that are picked"
        data-test="lay-over"
        @click="emit('lay', !laying)"
      >
        <Layers :size="15" />
      </button>
      <PointChooser
        v-if="choices.length > 1"
        :name="lead.curve.name"
        :choices="choices"
        :chosen="drawn"
        :most="most - (points.length - drawn.length)"
        @choose="(list) => emit('choose', list)"
      />
      <template v-if="steppable">
        <button class="icon-btn" aria-label="Previous point" title="Previous point" @click="emit('step', -1, false)">
          <ChevronLeft :size="15" />
        </button>
        <button
          class="icon-btn"
          :aria-label="playing ? 'Stop playing' : 'Play along the curve'"
          :title="playing ? 'Stop' : 'Play along the curve'"
          data-test="play"
          @click="play"
        >
          <Pause v-if="playing" :size="15" /><Play v-else :size="15" />
        </button>
        <button class="icon-btn" aria-label="Next point" title="Next point" @click="emit('step', 1, false)">
          <ChevronRight :size="15" />
        </button>
      </template>
      <button class="icon-btn" aria-label="Close the point" title="Close" @click="emit('close')">
        <X :size="15" />
      </button>
    </div>
    <ul v-if="several" class="flex flex-wrap gap-1" aria-label="Overlaid points">
      <li v-for="(name, i) in names" :key="i">
        <button
          class="flex items-center gap-1 rounded border border-rule px-1.5 text-[12px]"
          :style="{ color: stylesOf(i)[0].colour }"
          :aria-label="`Remove ${name}`"
          :title="`Remove ${name}`"
          @click="emit('drop', i)"
        >
          {{ name }} <X :size="11" />
        </button>
      </li>
    </ul>
    <div class="grid min-h-0 flex-1 grid-cols-3 gap-3">
      <LineChart
        chart-id="polar-pressure"
        title="Pressure"
        :subtitle="several ? 'full: upper, dashed: lower' : 'with viscosity; thin: without'"
        :series="pressure"
        :x="{ name: 'x / c', zero: true }"
        :y="{ name: 'Cp', invert: true, zero: true }"
        :tag="cursorX"
        :digits="[3, 3]"
        @cursor="(x) => (cursorX = x)"
      />
      <LineChart
        chart-id="polar-layer"
        :title="layer.name"
        :subtitle="layer.says"
        :series="layers"
        :x="{ name: 'x / c', zero: true }"
        :y="{
          name: layer.symbol,
          zero: true,
          options: LAYER_QUANTITIES.map((q) => ({ id: q.id, name: q.name })),
          value: layer.id,
        }"
        :tag="cursorX"
        :digits="[3, layer.digits ?? 4]"
        @cursor="(x) => (cursorX = x)"
        @update:y-quantity="(id) => preferences.set('polar-layer', id)"
      />
      <LineChart
        chart-id="polar-body"
        title="Shape"
        subtitle="thin: with its displacement thickness"
        equal
        :series="body"
        :x="{ name: 'x / c' }"
        :y="{ name: 'y / c' }"
        :tag="cursorX"
        :digits="[3, 4]"
        @cursor="(x) => (cursorX = x)"
      />
    </div>
  </section>
</template>
