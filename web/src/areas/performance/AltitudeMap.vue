<script setup lang="ts">
import { ticks } from 'd3-array';
import { computed, ref } from 'vue';
import type { PerformanceMap } from '@veldtwind/core/candidate';
import { interpolate } from '@veldtwind/core/numerics';
import type { Energy } from '@veldtwind/core/performance';
import { tableText } from '@veldtwind/core/spreadsheet';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import ChartMenu from '@/components/chart/ChartMenu.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import ContourLines from '@/components/plot/ContourLines.vue';
import HaloText from '@/components/plot/HaloText.vue';
import PlotAxes from '@/components/plot/PlotAxes.vue';
import PlotFrame from '@/components/plot/PlotFrame.vue';
import { exportPng, exportSvg } from '@/lib/chart-export';
import { gridContours } from '@/lib/grid-contours';
import { saveText } from '@/lib/save';
import { usePreferences } from '@/store/preferences';

/** A quantity of level flight over speed and altitude, as lines of equal value; where the aircraft cannot fly the ground is tinted. */
const props = defineProps<{
  /** By the lattice, until that with polars is there. */ provisional: boolean;
  map: PerformanceMap;
  letter: string;
  ceiling: number | null;
  energy: Energy | null;
}>();
const preferences = usePreferences();
const KINDS = [
  { id: 'climb', name: 'rate of climb' },
  { id: 'power', name: 'power required' },
  { id: 'ratio', name: 'lift over drag' },
  { id: 'specificRange', name: 'specific range' },
] as const;
/** Way per energy or fuel, from m/J and m/kg. */
const PER = { battery: { symbol: 'km/Wh', scale: 3.6 }, fuel: { symbol: 'km/kg', scale: 1e-3 } } as const;
type Kind = (typeof KINDS)[number]['id'];
/** Without an energy there is no specific range. */
const kinds = computed(() => KINDS.filter((k) => k.id !== 'specificRange' || props.energy));
const kind = computed<Kind>(() => {
  const kept = preferences.get<Kind>('performance-map', 'climb');
  return kinds.value.some((k) => k.id === kept) ? kept : 'climb';
});
const unit = computed(() =>
  kind.value === 'climb'
    ? displayUnit('speed', preferences.units)
    : kind.value === 'specificRange'
      ? PER[props.energy?.kind ?? 'battery']
      : { symbol: kind.value === 'power' ? 'W' : '', scale: 1 },
);
const speedUnit = computed(() => displayUnit('speed', preferences.units));
const heightUnit = computed(() => displayUnit('altitude', preferences.units));
const rows = computed(() => props.map[kind.value]);
const values = computed(() => rows.value.flat().filter((v): v is number => v !== null));
const levels = computed(() => {
  const all = values.value.map((v) => v * unit.value.scale);
  if (all.length === 0) return [];
  // Far below the ceiling lines crowd: only what flies is divided.
  const low = kind.value === 'climb' ? Math.max(Math.min(...all), -0.5 * Math.max(...all)) : Math.min(...all);
  return ticks(low, Math.max(...all), 9);
});
/** Digits that tell two neighbouring lines apart. */
const digits = computed(() => {
  const [a, b] = levels.value;
  return b === undefined ? 1 : Math.max(0, -Math.floor(Math.log10(b - a) + 1e-9));
});
const frame = ref<InstanceType<typeof PlotFrame> | null>(null);
const zoom = ref<{ x: [number, number]; y: [number, number] } | null>(null);
const domains = computed(() => {
  if (zoom.value) return zoom.value;
  const { speeds, altitudes } = props.map;
  const ends = (list: number[], scale: number): [number, number] => [list[0] * scale, list[list.length - 1] * scale];
  return { x: ends(speeds, speedUnit.value.scale), y: ends(altitudes, heightUnit.value.scale) };
});
const lines = computed(() => {
  const { speeds, altitudes } = props.map;
  const grid = {
    xs: speeds.map((v) => v * speedUnit.value.scale),
    ys: altitudes.map((v) => v * heightUnit.value.scale),
    rows: rows.value.map((row) => row.map((v) => (v === null ? null : v * unit.value.scale))),
  };
  return gridContours(grid, levels.value).map((c) => ({ ...c, text: formatNumber(c.value, digits.value) }));
});
const stall = computed(() =>
  props.map.altitudes.flatMap((h, i) => {
    const v = props.map.stall[i];
    return v === null ? [] : [{ x: v * speedUnit.value.scale, y: h * heightUnit.value.scale }];
  }),
);
/** The value where the pointer is, between the four about it; none beside what flies. */
const reading = ref('');
function read({ px, py }: { px: number; py: number }): void {
  const { x, y } = frame.value!;
  const [v, h] = [x.invert(px), y.invert(py)];
  const { speeds, altitudes } = props.map;
  const across = altitudes.map((_, i) =>
    interpolate(
      speeds,
      rows.value[i].map((c) => c ?? NaN),
      v / speedUnit.value.scale,
    ),
  );
  const value = interpolate(altitudes, across, h / heightUnit.value.scale);
  const at = `${formatNumber(v, 1)} ${speedUnit.value.symbol}, ${formatNumber(h, 0)} ${heightUnit.value.symbol}`;
  reading.value = Number.isFinite(value)
    ? `${at}: ${formatNumber(value * unit.value.scale, kind.value === 'power' ? 0 : Math.max(2, digits.value + 1))} ${unit.value.symbol}`.trim()
    : `${at}: no level flight`;
}
const numbers = () => {
  const { speeds, altitudes } = props.map;
  const head = [
    `altitude [${heightUnit.value.symbol}]`,
    `speed [${speedUnit.value.symbol}]`,
    `${title.value} [${unit.value.symbol}]`,
  ];
  const lines = altitudes.flatMap((h, i) =>
    speeds.map((v, k) => {
      const value = rows.value[i][k];
      return [h * heightUnit.value.scale, v * speedUnit.value.scale, value === null ? '' : value * unit.value.scale];
    }),
  );
  saveText(tableText([head, ...lines]), 'veldtwind-performance-map.csv', 'text/csv');
};
const title = computed(() => KINDS.find((k) => k.id === kind.value)!.name);
</script>

<template>
  <figure class="flex min-h-0 flex-1 flex-col" data-chart="performance-map">
    <div class="flex items-baseline gap-3">
      <ChipRow
        label="Quantity"
        :options="kinds"
        :on="[kind]"
        test="map-kind"
        @pick="(id) => preferences.set('performance-map', id)"
      />
      <p class="text-[12.5px] text-soft">
        {{ letter }}, {{ title }}{{ unit.symbol ? `, ${unit.symbol}` : '' }}, in trim<i v-if="provisional"
          >, provisional</i
        ><template v-if="ceiling !== null"
          >; absolute ceiling {{ formatNumber(ceiling * heightUnit.scale, 0) }} {{ heightUnit.symbol }}</template
        >
      </p>
      <span class="flex-1" />
      <span class="text-[12.5px] tabular-nums" role="status">{{ reading }}</span>
      <button v-if="zoom" class="link text-[12.5px]" @click="zoom = null">Fit</button>
      <ChartMenu
        plain
        :title="`the map of ${title}`"
        @png="exportPng(frame!.svg!, 'veldtwind-performance-map')"
        @svg="exportSvg(frame!.svg!, 'veldtwind-performance-map')"
        @csv="numbers"
      />
    </div>
    <PlotFrame
      ref="frame"
      :x-domain="domains.x"
      :y-domain="domains.y"
      :x-axis="{ name: 'speed', unit: speedUnit.symbol }"
      :y-axis="{ name: 'altitude', unit: heightUnit.symbol }"
      :right="24"
      :label="`${title} of ${letter}, by speed and altitude`"
      @point="read"
      @leave="reading = ''"
      @zoom="(x, y) => (zoom = { x, y })"
      @fit="zoom = null"
    >
      <PlotAxes
        fixed
        :x-axis="{ name: 'speed', unit: speedUnit.symbol }"
        :y-axis="{ name: 'altitude', unit: heightUnit.symbol }"
      />
      <ContourLines :lines="lines" :stall="stall" :zero="kind === 'climb'" />
      <HaloText v-if="values.length === 0" :x="40" :y="40" :size="13" colour="var(--soft)"
        >It flies nowhere in this range.</HaloText
      >
    </PlotFrame>
  </figure>
</template>
