<script setup lang="ts">
import { computed } from 'vue';
import { displayUnit } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { seriesOf, thinned } from './columns';
import type { Observed } from './use-observed';
import type { useFlights } from './use-flights';

/** The observed path over the predicted one, the fitted one and that of a body without lift; and what is left of it. */
const props = defineProps<{ of: Observed; flights: ReturnType<typeof useFlights> }>();
const PLACES = 400;
const preferences = usePreferences();
const unit = computed(() => displayUnit('altitude', preferences.units));
/** A place of a path in the units chosen. */
const inUnits = (p: { x: number; y: number; tag: number }) => ({
  ...p,
  x: p.x * unit.value.scale,
  y: p.y * unit.value.scale,
});
const found = computed(() => (props.of.live.failure.value ? null : props.of.live.value.value));
const observed = computed(() => props.of.observed.value);
/** The scenario as it stands, begun where the record begins. */
const predicted = computed(() => {
  const [f, o] = [props.flights.flight.value, observed.value];
  if (!f || !o) return [];
  const [t, x, y, h] = ['t', 'x', 'y', 'height'].map((c) => seriesOf(f, c));
  const last = o.t[o.t.length - 1];
  return thinned(t.length, PLACES)
    .filter((i) => t[i] <= last)
    .map((i) => ({ x: Math.hypot(x[i] - x[0], y[i] - y[0]), y: h[i] - h[0] + o.height[0], tag: t[i] }))
    .map(inUnits);
});
const paths = computed<ChartSeries[]>(() => {
  const o = observed.value;
  if (!o) return [];
  const letter = props.flights.active.value?.letter ?? '';
  const f = found.value;
  const line = (p: { t: number[]; x: number[]; height: number[] }) =>
    thinned(p.t.length, PLACES).map((i) => inUnits({ x: p.x[i], y: p.height[i], tag: p.t[i] }));
  const low = (Math.min(...o.height) - 1) * unit.value.scale;
  return [
    {
      id: 'observed',
      label: 'observed',
      style: { colour: 'var(--ink)', dash: '', marker: 'disc' },
      dots: true,
      points: o.t.map((t, i) => inUnits({ x: o.x[i], y: o.height[i], tag: t })),
    },
    ...(f
      ? [
          {
            id: 'fitted',
            label: 'fitted',
            style: { ...seriesStyle(0), width: 2 },
            markers: false,
            points: line(f.path),
          },
          {
            id: 'stone',
            label: 'without lift',
            style: { colour: 'var(--faint)', dash: '5 4', marker: 'bar' as const },
            markers: false,
            // It falls out of the picture.
            points: line(f.ballistic).filter((p) => p.y > low),
          },
        ]
      : []),
    {
      id: 'predicted',
      label: `${letter} as planned`,
      style: { ...seriesStyle(1), width: 1.5 },
      markers: false,
      points: predicted.value,
    },
  ];
});
const residuals = computed<ChartSeries[]>(() => {
  const r = found.value?.residuals;
  if (!r) return [];
  const of = (values: number[]) => r.t.map((t, i) => ({ x: t, y: values[i] * unit.value.scale, tag: t }));
  return [
    { id: 'x', label: 'distance', style: seriesStyle(0), points: of(r.x), markers: false },
    { id: 'height', label: 'height', style: seriesStyle(1), points: of(r.height), markers: false },
  ];
});
</script>

<template>
  <div class="grid min-h-0 flex-1 grid-rows-[1.7fr_1fr] gap-2">
    <LineChart
      chart-id="flight-observed"
      title="Observed path"
      subtitle="over the fitted throw, the scenario as planned, and a body without lift and drag"
      :series="paths"
      :x="{ name: 'distance', unit: unit.symbol, zero: true }"
      :y="{ name: 'height', unit: unit.symbol }"
      :digits="[2, 2]"
    />
    <LineChart
      chart-id="flight-residuals"
      title="Residuals"
      subtitle="observed less fitted"
      :series="residuals"
      :x="{ name: 'time', unit: 's', zero: true }"
      :y="{ name: 'residual', unit: unit.symbol, zero: true }"
      :digits="[2, 3]"
    />
  </div>
</template>
