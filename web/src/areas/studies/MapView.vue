<script setup lang="ts">
import { computed } from 'vue';
import { inUnit, unitOf } from '@veldtwind/core/quantities';
import type { Variable } from '@veldtwind/core/studies';
import { displayUnit } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';
import { METHOD_NAMES } from '@/store/assumptions';
import { usePreferences } from '@/store/preferences';
import { useTrial } from '@/store/trial';
import ContourMap from './ContourMap.vue';
import { triedText } from './tried-text';
import type { StudyMap } from './use-map';
import type { Study } from './use-study';

/** Curves of a quantity over one variable, or its map over two; a click tries a place in the figures of every area. */
const props = defineProps<{ study: Study; map: StudyMap; candidate: CandidatePart; made: string }>();
const preferences = usePreferences();
const trial = useTrial();
const unitAt = (v: Variable) => displayUnit(v.limit.dimension, preferences.units);
const made = computed(() => {
  const { provisional, busy } = props.map;
  // What stands until the finer map is there is coarser, and with polars of the method below.
  if (!provisional.value) return busy.value ? `${props.made}, computing…` : props.made;
  const coarse = props.made === METHOD_NAMES.lattice ? 'coarse' : 'provisional';
  return [METHOD_NAMES.lattice, coarse, ...(busy.value ? ['computing…'] : [])].join(', ');
});
const series = computed(() => {
  const { x, quantity } = { x: props.map.x.value, quantity: props.map.quantity.value };
  if (!x || !quantity) return [];
  const points = props.map
    .curveOf(quantity)
    .flatMap(({ at, value }) =>
      value === null
        ? []
        : [{ x: at * unitAt(x.variable).scale, y: inUnit(quantity.response, value, preferences.units), tag: at }],
    );
  const { letter, style } = props.candidate;
  return [{ id: props.candidate.id, label: letter, style: seriesStyle(style), points }];
});
const bands = computed(() => {
  const a = props.map.quantity.value;
  if (!a || (a.min === null && a.max === null)) return [];
  const shown = (v: number | null) => (v === null ? null : inUnit(a.response, v, preferences.units));
  return [{ axis: 'y' as const, from: shown(a.min), to: shown(a.max), label: 'brief' }];
});
const marks = computed(() => {
  const { x } = { x: props.map.x.value };
  const [s] = series.value;
  if (!x || !s || s.points.length < 2) return [];
  const here = x.variable.value * unitAt(x.variable).scale;
  const k = s.points.findIndex((p, i) => i > 0 && p.x >= here);
  if (k < 1) return [];
  const [a, b] = [s.points[k - 1], s.points[k]];
  const y = a.y + ((here - a.x) / (b.x - a.x || 1)) * (b.y - a.y);
  return [{ x: here, y, text: `${props.candidate.letter}, current`, colour: 'var(--ink)' }];
});
function attempt(values: (readonly [Variable, number])[]): void {
  trial.show({
    candidate: props.candidate.id,
    label: `Trial of ${values.map(([v]) => v.label).join(', ')}`.slice(0, 110),
    says: triedText(values, preferences.units),
    values: new Map(values.map(([v, value]) => [v.path, value])),
  });
}
</script>

<template>
  <p v-if="map.failure.value" class="pt-2 text-clay" role="alert">
    {{ map.failure.value.message }} {{ map.failure.value.hint }}
  </p>
  <p v-else-if="!map.x.value || !map.quantity.value" class="pt-2 text-soft" role="status">Choose a variable.</p>
  <p v-else-if="!map.result.value" class="pt-2 text-soft" role="status">Computing…</p>
  <ContourMap
    v-else-if="map.y.value"
    :x="map.x.value"
    :y="map.y.value"
    :quantity="map.quantity.value"
    :asked="study.everything.value"
    :grid-of="map.gridOf"
    :letter="candidate.letter"
    :made="made"
    @pick="
      (u, v) =>
        attempt([
          [map.x.value!.variable, u],
          [map.y.value!.variable, v],
        ])
    "
  />
  <LineChart
    v-else
    class="min-h-0 flex-1"
    chart-id="study-curve"
    :title="map.quantity.value.response.name.replace(/^[a-z]/, (c) => c.toUpperCase())"
    :subtitle="made"
    :series="series"
    :x="{ name: map.x.value.variable.label, unit: unitAt(map.x.value.variable).symbol }"
    :y="{
      name: map.quantity.value.response.name,
      unit: unitOf(map.quantity.value.response, preferences.units) || undefined,
    }"
    :bands="bands"
    :marks="marks"
    @pick="(_, at) => attempt([[map.x.value!.variable, at]])"
  />
</template>
