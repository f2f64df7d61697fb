<script setup lang="ts">
import { computed, ref } from 'vue';
import { inView, placeStations, standingIn, trailingEdge, type DrawingView } from '@veldtwind/core/airframe';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import HaloText from '@/components/plot/HaloText.vue';
import type { DrawingFrame } from '@/lib/drawing-frame';
import { usePreferences } from '@/store/preferences';
import { useWorkbench } from '@/store/workbench';
import { useSketch } from './use-sketch';

/** Draws an outline over a view: clicks put points, which snap to the grid, the plane of symmetry, corners that are there, and the first point, which closes it. */
const props = defineProps<{ frame: DrawingFrame; width: number; height: number; view: DrawingView }>();
const sketch = useSketch();
const workbench = useWorkbench();
const preferences = usePreferences();
const pointer = ref<[number, number] | null>(null);

/** Pixels within which something draws the pointer to itself. */
const NEAR = 9;
/** A round step of about so many pixels. */
const grid = computed(() => {
  const least = 9 / props.frame.scale;
  const power = 10 ** Math.floor(Math.log10(least));
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= least)!;
});
const corners = computed<[number, number][]>(() => {
  const c = workbench.active;
  if (!c) return [];
  try {
    return standingIn(c).surfaces.flatMap((s) =>
      placeStations(s).flatMap((p) => [inView(p.leadingEdge, props.view), inView(trailingEdge(p), props.view)]),
    );
  } catch {
    return [];
  }
});
const px = ([u, v]: readonly [number, number]) => [props.frame.x(u), props.frame.y(v)] as const;
const far = (a: readonly [number, number], b: readonly [number, number]) => Math.hypot(a[0] - b[0], a[1] - b[1]);
const clean = (v: number) => Number(v.toFixed(5));
/** Where a click would put a point, and why there. */
function snapped(x: number, y: number): { at: [number, number]; why: string } {
  const raw = props.frame.at(x, y);
  const free: [number, number] = [clean(raw.x), clean(raw.y)];
  const points = sketch.points.value;
  if (sketch.tool.value === 'scale') return { at: free, why: '' };
  if (points.length > 2 && far(px(points[0]), [x, y]) < NEAR) return { at: points[0], why: 'closes the outline' };
  if (!sketch.snap.value) return { at: free, why: '' };
  const corner = [...points, ...corners.value].find((p) => far(px(p), [x, y]) < NEAR);
  if (corner) return { at: corner, why: 'corner' };
  const g = grid.value;
  const at: [number, number] = [clean(Math.round(free[0] / g) * g), clean(Math.round(free[1] / g) * g)];
  if (props.view !== 'side' && Math.abs(props.frame.x(0) - x) < NEAR) return { at: [0, at[1]], why: 'middle' };
  const last = points[points.length - 1];
  if (last && Math.abs(px(last)[0] - x) < NEAR) return { at: [last[0], at[1]], why: 'straight along' };
  if (last && Math.abs(px(last)[1] - y) < NEAR) return { at: [at[0], last[1]], why: 'straight across' };
  return { at, why: '' };
}
const place = (e: PointerEvent) => {
  const r = (e.currentTarget as SVGElement).getBoundingClientRect();
  return [e.clientX - r.left, e.clientY - r.top] as const;
};
const next = computed(() => (pointer.value ? snapped(...pointer.value) : null));
function click(e: PointerEvent): void {
  const { at } = snapped(...place(e));
  if (sketch.tool.value === 'scale') {
    sketch.measured.value = [...(sketch.measured.value.length > 1 ? [] : sketch.measured.value), at];
    return;
  }
  const points = sketch.points.value;
  if (points.length > 2 && at === points[0]) return;
  const last = points[points.length - 1];
  if (!last || last[0] !== at[0] || last[1] !== at[1]) sketch.add(at);
}
/** A length that is typed puts the next point so far along the line to the pointer. */
const typed = ref('');
function byLength(): void {
  const unit = displayUnit('length', preferences.units);
  const value = Number(typed.value.replace(',', '.')) / unit.scale;
  const last = sketch.points.value[sketch.points.value.length - 1];
  if (!(value > 0) || !last || !next.value) return;
  const [dx, dy] = [next.value.at[0] - last[0], next.value.at[1] - last[1]];
  const size = Math.hypot(dx, dy);
  if (size === 0) return;
  sketch.add([clean(last[0] + (value * dx) / size), clean(last[1] + (value * dy) / size)]);
  typed.value = '';
}
function key(e: KeyboardEvent): void {
  if (/^[\d.,]$/.test(e.key)) typed.value += e.key;
  else if (e.key === 'Enter' && typed.value) byLength();
  else if (e.key === 'Escape') typed.value = '';
  else if (e.key === 'Backspace') {
    if (typed.value) typed.value = typed.value.slice(0, -1);
    else sketch.back();
  } else return;
  e.preventDefault();
  e.stopPropagation();
}
const line = computed(() => props.frame.path(sketch.points.value, false));
const ghost = computed(() =>
  props.view === 'plan' && sketch.target.value !== 'fin'
    ? props.frame.path(
        sketch.points.value.map(([u, v]) => [-u, v] as const),
        false,
      )
    : '',
);
const length = (v: number) =>
  `${formatQuantity(v, 'length', preferences.units)} ${displayUnit('length', preferences.units).symbol}`;
const reach = computed(() => {
  const last = sketch.points.value[sketch.points.value.length - 1];
  return last && next.value && sketch.tool.value === 'draw'
    ? { from: px(last), to: px(next.value.at), text: length(far(last, next.value.at)) }
    : null;
});
const legs = computed(() =>
  sketch.points.value.slice(1).map((p, i) => {
    const q = sketch.points.value[i];
    const [a, b] = [px(p), px(q)];
    return { x: 0.5 * (a[0] + b[0]), y: 0.5 * (a[1] + b[1]), text: length(far(p, q)) };
  }),
);
</script>

<template>
  <g>
    <rect
      x="0"
      y="0"
      :width="width"
      :height="height"
      fill="transparent"
      class="cursor-crosshair"
      tabindex="0"
      role="application"
      aria-label="Sketch: click to put points, type a length and press Enter, Backspace takes the last point back"
      data-test="sketch"
      @pointermove="(e) => (pointer = [...place(e)])"
      @pointerleave="pointer = null"
      @pointerdown="(e) => ((e.currentTarget as SVGElement).focus(), click(e))"
      @keydown="key"
    />
    <g class="pointer-events-none">
      <path :d="ghost" fill="none" style="stroke: var(--ochre)" stroke-width="1" stroke-dasharray="3 4" opacity="0.6" />
      <path
        :d="line"
        style="fill: var(--select); stroke: var(--ochre)"
        fill-opacity="0.5"
        stroke-width="2"
        stroke-linejoin="round"
      />
      <HaloText v-for="(l, i) in legs" :key="i" :x="l.x + 6" :y="l.y - 4" :size="11" colour="var(--soft)">{{
        l.text
      }}</HaloText>
      <template v-if="reach">
        <path
          :d="`M${reach.from[0]},${reach.from[1]}L${reach.to[0]},${reach.to[1]}`"
          style="stroke: var(--ochre)"
          stroke-dasharray="4 3"
        />
        <HaloText :x="reach.to[0] + 10" :y="reach.to[1] - 8" :size="12" :weight="600" colour="var(--ochre-text)"
          >{{ typed || reach.text }}{{ typed ? ' ↵' : '' }}</HaloText
        >
      </template>
      <circle
        v-for="(p, i) in sketch.points.value"
        :key="i"
        :cx="px(p)[0]"
        :cy="px(p)[1]"
        :r="i === 0 ? 5.5 : 4"
        style="fill: var(--paper); stroke: var(--ochre)"
        stroke-width="2"
      />
      <template v-if="next">
        <circle :cx="px(next.at)[0]" :cy="px(next.at)[1]" r="3" style="fill: var(--ochre)" />
        <HaloText v-if="next.why" :x="px(next.at)[0] + 10" :y="px(next.at)[1] + 16" :size="11" colour="var(--soft)">{{
          next.why
        }}</HaloText>
      </template>
      <template v-for="(p, i) in sketch.measured.value" :key="`m${i}`">
        <path
          :d="`M${px(p)[0] - 6},${px(p)[1]}h12M${px(p)[0]},${px(p)[1] - 6}v12`"
          style="stroke: var(--sky)"
          stroke-width="2"
        />
      </template>
    </g>
  </g>
</template>
