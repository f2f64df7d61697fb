<script setup lang="ts">
import { ticks } from 'd3-array';
import { computed, ref } from 'vue';
import { bandWords } from '@veldtwind/core/findings';
import { digitsOf, inUnit, textOf, unitOf } from '@veldtwind/core/quantities';
import { tableText } from '@veldtwind/core/spreadsheet';
import type { Variable } from '@veldtwind/core/studies';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import ChartMenu from '@/components/chart/ChartMenu.vue';
import ContourLines from '@/components/plot/ContourLines.vue';
import HaloText from '@/components/plot/HaloText.vue';
import PlotAxes from '@/components/plot/PlotAxes.vue';
import PlotFrame from '@/components/plot/PlotFrame.vue';
import { exportPng, exportSvg } from '@/lib/chart-export';
import { gridContours, gridValue, refined, type Grid } from '@/lib/grid-contours';
import { saveText } from '@/lib/save';
import { usePreferences } from '@/store/preferences';
import HeldRegion from './HeldRegion.vue';
import type { MapAxis } from './use-map';
import type { Asked } from './use-study';

/** A quantity over two variables as lines of equal value, with the brief's bounds as lines, and the ground that holds all of them tinted. */
const props = defineProps<{
  x: MapAxis;
  y: MapAxis;
  quantity: Asked;
  /** With their bands; what has none is not drawn. */ asked: Asked[];
  gridOf: (a: Asked) => Grid | null;
  letter: string;
  made: string;
}>();
const emit = defineEmits<{ pick: [x: number, y: number] }>();
const preferences = usePreferences();
/** Places that a finer grid has for one. */
const FINER = 5;
const LINES = 9;

const unitAt = (v: Variable) => displayUnit(v.limit.dimension, preferences.units);
const axis = ({ variable }: MapAxis) => ({ name: variable.label, unit: unitAt(variable).symbol });
const ends = ({ from, to, variable }: MapAxis): [number, number] => [
  from * unitAt(variable).scale,
  to * unitAt(variable).scale,
];
/** A quantity's surface, as it is shown. */
function surface(a: Asked): Grid | null {
  const grid = props.gridOf(a);
  if (!grid) return null;
  const shown = {
    xs: grid.xs.map((v) => v * unitAt(props.x.variable).scale),
    ys: grid.ys.map((v) => v * unitAt(props.y.variable).scale),
    rows: grid.rows.map((r) => r.map((v) => (v === null ? null : inUnit(a.response, v, preferences.units)))),
  };
  return refined(shown, FINER);
}
const ground = computed(() => surface(props.quantity));
const values = computed(() => ground.value?.rows.flat().filter((v): v is number => v !== null) ?? []);
const lines = computed(() => {
  const grid = ground.value;
  if (!grid || values.value.length === 0) return [];
  const levels = ticks(Math.min(...values.value), Math.max(...values.value), LINES);
  const digits = levels.length > 1 ? Math.max(0, -Math.floor(Math.log10(levels[1] - levels[0]) + 1e-9)) : 2;
  return gridContours(grid, levels).map((c) => ({ ...c, text: formatNumber(c.value, digits) }));
});
const bound = computed(() => props.asked.filter((a) => a.min !== null || a.max !== null));
/** Bounds of the brief that cross the map. */
const bounds = computed(() =>
  bound.value.flatMap((a) => {
    const grid = surface(a);
    if (!grid) return [];
    const name = (sign: string, v: number) =>
      `${a.response.name} ${sign} ${textOf(a.response, v, preferences.units)} ${unitOf(a.response, preferences.units)}`.trim();
    return (['min', 'max'] as const).flatMap((side) => {
      const v = a[side];
      if (v === null) return [];
      const at = inUnit(a.response, v, preferences.units);
      const text = name(side === 'min' ? '≥' : '≤', v);
      return gridContours(grid, [at]).map((c) => ({ ...c, text, colour: 'var(--clay)' }));
    });
  }),
);
/** How far inside the tightest band each place is, below zero outside; nothing without bands. */
const held = computed(() => {
  const grids = bound.value.flatMap((a) => {
    const grid = surface(a);
    return grid ? [{ a, grid }] : [];
  });
  if (grids.length === 0) return [];
  const [{ grid: first }] = grids;
  if (grids.some(({ grid }) => grid.xs.length !== first.xs.length)) return [];
  const reserve = (a: Asked, v: number | null): number => {
    if (v === null) return -1;
    const [min, max] = [a.min, a.max].map((b) => (b === null ? null : inUnit(a.response, b, preferences.units)));
    const size = Math.max(1e-12, min !== null && max !== null ? max - min : Math.abs(min ?? max ?? 1));
    return Math.min(min === null ? Infinity : v - min, max === null ? Infinity : max - v) / size;
  };
  const rows = first.ys.map((_, k) =>
    first.xs.map((_, i) => Math.min(...grids.map(({ a, grid }) => reserve(a, grid.rows[k][i])))),
  );
  return gridContours({ xs: first.xs, ys: first.ys, rows }, [0]);
});
const holds = computed(() => held.value.some((c) => c.rings.length > 0));

const frame = ref<InstanceType<typeof PlotFrame> | null>(null);
const pointer = ref<{ x: number; y: number } | null>(null);
const reading = computed(() => {
  const at = pointer.value;
  if (!at || !ground.value) return '';
  const told = (v: number, of: Variable) => `${formatNumber(v, 3)} ${unitAt(of).symbol}`.trim();
  const value = gridValue(ground.value, at.x, at.y);
  const says =
    value === null
      ? 'no value'
      : `${formatNumber(value, digitsOf(props.quantity.response, preferences.units))} ${unitOf(props.quantity.response, preferences.units)}`;
  return `${told(at.x, props.x.variable)}, ${told(at.y, props.y.variable)}: ${says.trim()}`;
});
function point({ px, py }: { px: number; py: number }): void {
  pointer.value = { x: frame.value!.x.invert(px), y: frame.value!.y.invert(py) };
}
function tap(): void {
  const at = pointer.value;
  if (at) emit('pick', at.x / unitAt(props.x.variable).scale, at.y / unitAt(props.y.variable).scale);
}
/** Steps of the arrow keys across the map. */
const KEY_STEPS = 40;
function key(e: KeyboardEvent): void {
  const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowDown: [0, -1], ArrowUp: [0, 1] }[e.key];
  if (e.key === 'Enter') tap();
  if (!way) return;
  e.preventDefault();
  const moved = (at: number, by: number, [a, b]: [number, number]) =>
    Math.min(b, Math.max(a, at + (by * (b - a)) / KEY_STEPS));
  const from = pointer.value ?? here.value;
  pointer.value = { x: moved(from.x, way[0], ends(props.x)), y: moved(from.y, way[1], ends(props.y)) };
}
const here = computed(() => ({
  x: props.x.variable.value * unitAt(props.x.variable).scale,
  y: props.y.variable.value * unitAt(props.y.variable).scale,
}));
const inside = computed(() => {
  const [[a, b], [c, d]] = [ends(props.x), ends(props.y)];
  return here.value.x >= a && here.value.x <= b && here.value.y >= c && here.value.y <= d;
});
const title = computed(() => {
  const { response } = props.quantity;
  const unit = unitOf(response, preferences.units);
  return unit ? `${response.name}, ${unit}` : response.name;
});
const band = computed(() => {
  const { response: r } = props.quantity;
  return bandWords(props.quantity, r.dimension, preferences.units, r.digits, r.per) ?? '';
});
function numbers(): void {
  const grid = props.gridOf(props.quantity);
  if (!grid) return;
  const head = [props.x, props.y].map((a) => `${a.variable.label} [${unitAt(a.variable).symbol}]`);
  const rows = grid.ys.flatMap((v, k) =>
    grid.xs.map((u, i) => {
      const value = grid.rows[k][i];
      return [
        u * unitAt(props.x.variable).scale,
        v * unitAt(props.y.variable).scale,
        value === null ? '' : inUnit(props.quantity.response, value, preferences.units),
        props.made,
      ];
    }),
  );
  saveText(tableText([[...head, title.value, 'method'], ...rows]), 'veldtwind-study-map.csv', 'text/csv');
}
</script>

<template>
  <figure class="flex min-h-0 flex-1 flex-col" data-chart="study-map">
    <div class="flex items-baseline gap-3">
      <p class="text-[12.5px]">
        <b class="font-semibold">{{ letter }}, {{ title }}</b
        ><span class="text-soft"
          ><template v-if="band">, required {{ band }}</template
          >; {{ made
          }}<template v-if="bound.length"
            >; {{ holds ? 'shaded: all requirements met' : 'no point meets all requirements' }}</template
          ></span
        >
      </p>
      <span class="flex-1" />
      <span class="text-[12.5px] tabular-nums" role="status">{{ reading }}</span>
      <ChartMenu
        plain
        :title="`the map of ${quantity.response.name}`"
        @png="exportPng(frame!.svg!, 'veldtwind-study-map')"
        @svg="exportSvg(frame!.svg!, 'veldtwind-study-map')"
        @csv="numbers"
      />
    </div>
    <PlotFrame
      ref="frame"
      :x-domain="ends(x)"
      :y-domain="ends(y)"
      :x-axis="axis(x)"
      :y-axis="axis(y)"
      :right="24"
      :label="`${title} of ${letter} over ${x.variable.label} and ${y.variable.label}; click, or move with the arrow keys and press Enter, to preview a point`"
      @point="point"
      @leave="pointer = null"
      @tap="tap"
      @key="key"
    >
      <HeldRegion :contours="held" />
      <PlotAxes fixed :x-axis="axis(x)" :y-axis="axis(y)" />
      <ContourLines :lines="[...lines, ...bounds]" :avoid="inside ? [here] : []" />
      <HaloText v-if="values.length === 0" :x="40" :y="40" :size="13" colour="var(--soft)"
        >No place of this map has a value.</HaloText
      >
      <circle
        v-if="frame && pointer"
        :cx="frame.x(pointer.x)"
        :cy="frame.y(pointer.y)"
        r="3"
        style="fill: var(--ochre)"
        pointer-events="none"
      />
      <template v-if="frame && inside">
        <circle
          :cx="frame.x(here.x)"
          :cy="frame.y(here.y)"
          r="5"
          fill="var(--paper)"
          style="stroke: var(--ink)"
          stroke-width="2"
        />
        <HaloText :x="frame.x(here.x) + 9" :y="frame.y(here.y) - 7" :size="12" :weight="600" colour="var(--ink)">{{
          letter
        }}</HaloText>
      </template>
    </PlotFrame>
  </figure>
</template>
