<script setup lang="ts">
import { computed, ref } from 'vue';
import { withStep, type SavedStep } from '@veldtwind/core/shaping';
import { formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { pairs, spanOf, useDrawing } from '@/lib/drawing-frame';
import { LOWER, UPPER } from '@/lib/series-style';
import type { SectionView } from '@veldtwind/core/shaping';
import { initials, usePeople } from '@/store/people';
import ChipRow from '@/components/field/ChipRow.vue';
import { usePreferences } from '@/store/preferences';
import FlownFigure from './FlownFigure.vue';
import type { RecipeState, ShapeChange } from './recipe';
import type { FlownState } from './use-flown';

/** The section before and after its recipe, with handles where something can be dragged; below, what that does to shape and pressure. */
const props = defineProps<{
  recipe: RecipeState;
  sectionId: string;
  name: string;
  condition: string;
  opened: number | null;
  flown: FlownState;
}>();
const preferences = usePreferences();
/** What stands below the shape: its flow where it is flown, or its thickness and the pressure without viscosity. */
const VIEWS = [
  { id: 'flown', name: 'Flow at flown conditions' },
  { id: 'shape', name: 'Thickness and inviscid pressure' },
] as const;
const below = computed(() => preferences.get<'flown' | 'shape'>('shape-below', 'flown'));
const svg = ref<SVGSVGElement | null>(null);
// Two people who shape one section see each other's hand.
const people = usePeople();
const drawn = computed(() => `section:${props.sectionId}`);
const cursor = ref<number | null>(null);
const after = computed(() => props.recipe.shaped.value?.view ?? null);
const before = computed(() => props.recipe.before.value);
const shapedAtAll = computed(() => props.recipe.live.value.steps.some((s) => !s.off));

/** In steps, so that the drawing keeps its scale while a value moves a little. */
const STEP = 0.03;
const { width, height, frame } = useDrawing(
  () => {
    const [low, high] = spanOf([...(after.value?.y ?? []), ...(before.value?.y ?? [])], -STEP, STEP);
    return { x: [0, 1], y: [Math.floor(low / STEP) * STEP, Math.ceil(high / STEP) * STEP] };
  },
  () => ({ left: 60, right: 60, top: 8, bottom: 8 }),
  { least: 60, size: { width: 700, height: 190 } },
);
const path = (v: SectionView | null | undefined) => (v ? frame.value.path(pairs(v.x, v.y), true) : '');

interface Handle {
  x: number;
  y: number;
  label: string;
  /** What it does to the recipe, whatever the recipe is by then. */
  move: (x: number, y: number) => ShapeChange;
  end: string;
}
/** The height of a surface at x. */
function heightAt(v: SectionView, surface: 'upper' | 'lower', x: number): number {
  let best = 0;
  let gap = Infinity;
  let nose = 0;
  v.x.forEach((px, i) => (nose = px < v.x[nose] ? i : nose));
  v.x.forEach((px, i) => {
    if (surface === 'upper' ? i > nose : i < nose) return;
    if (Math.abs(px - x) < gap) [gap, best] = [Math.abs(px - x), v.y[i]];
  });
  return best;
}
const replaceStep = (index: number, change: Partial<SavedStep>): ShapeChange => {
  const name = { id: props.recipe.live.value.steps[index]?.id, index };
  return (shape) => ({ ...shape, steps: withStep(shape.steps, name, (s) => ({ ...s, ...change }) as SavedStep) });
};
const handles = computed<Handle[]>(() => {
  const { source, steps } = props.recipe.live.value;
  const list: Handle[] = [];
  if (source.kind === 'drawn' && !shapedAtAll.value) {
    source.points.forEach((p, i) =>
      list.push({
        x: p[0],
        y: p[1],
        label: `Point ${i + 1}`,
        end: 'Draw a point',
        move: (x, y) => (shape) => {
          if (shape.source.kind !== 'drawn') return shape;
          const points = shape.source.points.map((q, k): [number, number] =>
            k === i ? [Number(x.toFixed(5)), Number(y.toFixed(5))] : q,
          );
          return { ...shape, source: { ...shape.source, points } };
        },
      }),
    );
  }
  const index = props.opened ?? -1;
  const step = steps[index];
  if (step?.kind === 'bump' && !step.off && after.value) {
    const sign = step.surface === 'upper' ? 1 : -1;
    const base = heightAt(after.value, step.surface, step.at) - sign * step.height;
    list.push({
      x: step.at,
      y: base + sign * step.height,
      label: 'The bump',
      end: 'Drag a bump',
      move: (x, y) =>
        replaceStep(index, {
          at: Number(Math.min(1, Math.max(0, x)).toFixed(3)),
          height: Number(Math.min(0.1, Math.max(-0.1, sign * (y - base))).toFixed(4)),
        } as Partial<SavedStep>),
    });
  }
  return list;
});
let held: { handle: Handle; last: ShapeChange | null } | null = null;
function grab(e: PointerEvent, handle: Handle): void {
  held = { handle, last: null };
  (e.target as Element).setPointerCapture(e.pointerId);
}
function drag(e: PointerEvent): void {
  if (!held) return;
  const r = svg.value!.getBoundingClientRect();
  const at = frame.value.at(e.clientX - r.left, e.clientY - r.top);
  held.last = held.handle.move(at.x, at.y);
  props.recipe.preview(held.last);
  people.drag({ of: drawn.value, x: at.x, y: at.y });
}
function drop(): void {
  if (held?.last) void props.recipe.commit(held.handle.end, held.last);
  held = null;
  people.drag(null);
}
function nudge(e: KeyboardEvent, handle: Handle): void {
  const step = e.shiftKey ? 0.005 : 0.0005;
  const way = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[e.key];
  if (!way) return;
  e.preventDefault();
  void props.recipe.commit(handle.end, handle.move(handle.x + way[0] * step * 4, handle.y + way[1] * step));
}

const along = (v: SectionView, values: Float64Array, from: number) =>
  Array.from(v.line.x, (x, i) => ({ x, y: values[i], tag: x })).filter((p) => p.x >= from);
const distributions = computed<ChartSeries[]>(() => {
  const [a, b] = [after.value, before.value];
  if (!a) return [];
  const faint = { colour: 'var(--soft)', dash: '', marker: 'disc' as const };
  return [
    ...(b && shapedAtAll.value
      ? [
          { id: 'thickness-before', label: '', reference: true, style: faint, points: along(b, b.line.thickness, -1) },
          { id: 'camber-before', label: '', reference: true, style: faint, points: along(b, b.line.camber, -1) },
        ]
      : []),
    {
      id: 'thickness',
      label: 'thickness',
      markers: false,
      style: { colour: 'var(--ink)', dash: '', marker: 'disc' },
      points: along(a, a.line.thickness, -1),
    },
    {
      id: 'camber',
      label: 'camber',
      markers: false,
      style: { colour: 'var(--ochre)', dash: '6 3', marker: 'square' },
      points: along(a, a.line.camber, -1),
    },
  ];
});
const pressure = computed<ChartSeries[]>(() => {
  const p = props.recipe.pressure.value;
  if (!p) return [];
  const side = (f: typeof p.after, from: number, to: number) => {
    const out = [];
    for (let i = from; i <= to; i++) out.push({ x: f.x[i], y: f.point.cp[i], tag: f.x[i] });
    return out;
  };
  const both = (f: typeof p.after) => [side(f, 0, f.nose).reverse(), side(f, f.nose, f.x.length - 1)];
  const [u, l] = both(p.after);
  const [bu, bl] = both(p.before);
  return [
    ...(shapedAtAll.value
      ? [
          { id: 'upper-before', label: '', reference: true, style: UPPER, points: bu },
          { id: 'lower-before', label: '', reference: true, style: LOWER, points: bl },
        ]
      : []),
    { id: 'upper', label: 'upper', markers: false, style: UPPER, points: u },
    { id: 'lower', label: 'lower', markers: false, style: LOWER, points: l },
  ];
});
const facts = computed(() => after.value?.facts);
</script>

<template>
  <div class="grid h-full min-h-[400px] grid-rows-[minmax(110px,0.6fr)_auto_1fr] px-4 pt-1 pb-2">
    <div ref="box" class="relative min-h-0">
      <svg
        ref="svg"
        class="absolute inset-0"
        :width="width"
        :height="height"
        role="group"
        :aria-label="`${name} before and after its shaping steps`"
        data-test="shape-drawing"
        @pointermove="drag"
        @pointerup="drop"
        @pointercancel="drop"
      >
        <line :x1="frame.x(0)" :x2="frame.x(1)" :y1="frame.y(0)" :y2="frame.y(0)" style="stroke: var(--rule)" />
        <path
          v-if="after"
          :d="path(after)"
          style="fill: var(--section-fill); stroke: var(--ink)"
          stroke-width="1.8"
          stroke-linejoin="round"
          data-test="shape-after"
        />
        <path
          v-if="before && shapedAtAll"
          :d="path(before)"
          fill="none"
          style="stroke: var(--soft)"
          stroke-width="1.1"
          stroke-dasharray="4 3"
          data-test="shape-before"
        />
        <path
          v-if="recipe.moving.value && recipe.kept.value"
          :d="path(recipe.kept.value)"
          fill="none"
          style="stroke: var(--ochre)"
          stroke-width="1.1"
          stroke-dasharray="1.5 2.5"
        />
        <circle
          v-for="h in handles"
          :key="h.label"
          :cx="frame.x(h.x)"
          :cy="frame.y(h.y)"
          r="5.5"
          tabindex="0"
          role="button"
          :aria-label="h.label"
          class="cursor-move"
          style="fill: var(--paper); stroke: var(--ochre)"
          stroke-width="2"
          data-test="shape-handle"
          @pointerdown.prevent="(e) => grab(e, h)"
          @keydown="(e) => nudge(e, h)"
        />
        <g v-for="p in people.handlesOn(drawn)" :key="p.tab" class="pointer-events-none" data-test="their-handle">
          <circle
            :cx="frame.x(p.handle!.x)"
            :cy="frame.y(p.handle!.y)"
            r="9"
            style="fill: var(--sky); stroke: var(--paper)"
            stroke-width="1.5"
          />
          <text
            :x="frame.x(p.handle!.x)"
            :y="frame.y(p.handle!.y) + 3"
            text-anchor="middle"
            font-size="9"
            font-weight="600"
            style="fill: var(--paper)"
          >
            {{ initials(p.name) }}
            <title>{{ p.name }}</title>
          </text>
        </g>
      </svg>
      <p v-if="facts" class="absolute top-1 left-1 text-[12.5px] text-soft" data-test="shape-facts">
        <b class="font-semibold text-ink">{{ formatNumber(100 * facts.thickness.max, 2) }} %</b> thick at
        {{ formatNumber(facts.thickness.at, 3) }}, camber
        <b class="font-semibold text-ink">{{ formatNumber(100 * facts.camber.max, 2) }} %</b> at
        {{ formatNumber(facts.camber.at, 3) }}, nose {{ formatNumber(100 * facts.noseRadius, 2) }} %, gap
        {{ formatNumber(100 * facts.trailingEdge.gap, 2) }} %
      </p>
      <p class="absolute top-1 right-1 text-[12px] text-soft">
        <template v-if="shapedAtAll">dashed: the source</template>
        <template v-if="recipe.moving.value">; dotted: as kept</template>
      </p>
    </div>
    <ChipRow
      class="pb-1"
      label="Figures below the outline"
      test="below"
      :options="VIEWS"
      :on="[below]"
      @pick="(id) => preferences.set('shape-below', id)"
    />
    <FlownFigure v-if="below === 'flown'" :flown="flown" />
    <div v-else class="grid min-h-0 grid-cols-2 gap-4">
      <LineChart
        chart-id="shape-distributions"
        title="Thickness and camber"
        :subtitle="shapedAtAll ? 'across the mean line; thin: the source' : 'across the mean line, in chords'"
        :series="distributions"
        :x="{ name: 'x / c', zero: true }"
        :y="{ name: 'y / c', zero: true }"
        :tag="cursor"
        :digits="[3, 4]"
        @cursor="(x) => (cursor = x)"
      />
      <LineChart
        chart-id="shape-pressure"
        title="Pressure along the chord"
        :subtitle="`inviscid, ${condition}${shapedAtAll ? '; thin: the source' : ''}`"
        :series="pressure"
        :x="{ name: 'x / c', zero: true }"
        :y="{ name: 'Cp', invert: true, zero: true }"
        :tag="cursor"
        caption="inviscid"
        :digits="[3, 3]"
        @cursor="(x) => (cursor = x)"
      />
    </div>
  </div>
</template>
