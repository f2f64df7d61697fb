<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref, useId } from 'vue';
import type { AxisSpec } from '@/lib/chart-model';
import { pinched, type Place } from '@/lib/pinch';
import { equalDomains, plotScale } from '@/lib/plot-scale';
import { providePlot } from './context';

/**
 * The frame that a plot's parts are composed in: it makes the scales from the domains, and tells what the pointer and the keys do in their units.
 * Parts are children; they draw from the scales of the frame.
 */
const props = defineProps<{
  xDomain: [number, number];
  yDomain: [number, number];
  xAxis: AxisSpec;
  yAxis: AxisSpec;
  /** Room for names at the right, px. */
  right: number;
  label: string;
  /** A unit is as long along both axes. */
  equal?: boolean;
}>();
const emit = defineEmits<{
  /** The pointer moved, in pixels between the axes. */
  point: [at: { px: number; py: number }];
  leave: [];
  /** Pressed and released in one place. */
  tap: [];
  zoom: [x: [number, number], y: [number, number]];
  fit: [];
  key: [event: KeyboardEvent];
}>();

const LEAST_DRAG = 6;
const clip = useId();
const box = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const { width, height } = useElementSize(box, { width: 400, height: 260 });
const margin = computed(() => ({ left: 54, right: props.right, top: 24, bottom: 38 }));
const inner = computed(() => ({
  w: Math.max(60, width.value - margin.value.left - margin.value.right),
  h: Math.max(50, height.value - margin.value.top - margin.value.bottom),
}));
const domains = computed(() =>
  props.equal ? equalDomains(props.xDomain, props.yDomain, inner.value) : { x: props.xDomain, y: props.yDomain },
);
// What the scales depend on, one by one: a page may hand over the same axis as a new object whenever anything moves.
const domainX = computed(() => domains.value.x);
const domainY = computed(() => domains.value.y);
const typeX = computed(() => props.xAxis.scale);
const typeY = computed(() => props.yAxis.scale);
const turnedX = computed(() => Boolean(props.xAxis.invert));
const turnedY = computed(() => Boolean(props.yAxis.invert));
const w = computed(() => inner.value.w);
const h = computed(() => inner.value.h);
const x = computed(() => plotScale(domainX.value, w.value, typeX.value, turnedX.value));
const y = computed(() => plotScale(domainY.value, h.value, typeY.value, !turnedY.value));
const inView = (px: number, py: number) => px >= -1 && px <= inner.value.w + 1 && py >= -1 && py <= inner.value.h + 1;
const handles = ref(0);
providePlot({ inner, margin, x, y, clip, inView, handles });

function local(e: PointerEvent): { px: number; py: number } {
  const r = svg.value!.getBoundingClientRect();
  return { px: e.clientX - r.left - margin.value.left, py: e.clientY - r.top - margin.value.top };
}
const dragged = ref<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
/** Fingers on the figure; of two, where they touched and the scales that there were then. */
const fingers = new Map<number, Place>();
let pinch: { from: readonly [Place, Place]; x: typeof x.value; y: typeof y.value } | null = null;
const two = (): readonly [Place, Place] | null => {
  const [a, b] = [...fingers.values()];
  return b ? [a, b] : null;
};
function touch(e: PointerEvent): void {
  fingers.set(e.pointerId, local(e));
  const from = two();
  if (from) {
    dragged.value = null;
    pinch = { from, x: x.value, y: y.value };
  } else emit('point', local(e));
}
function spread(): void {
  const now = two();
  if (!pinch || !now) return;
  const view = pinched(pinch.from, now, inner.value);
  const between = (scale: typeof x.value, [p, q]: [number, number]) =>
    [scale.invert(p), scale.invert(q)].sort((m, n) => m - n) as [number, number];
  const [zx, zy] = [between(pinch.x, view.x), between(pinch.y, view.y)];
  if ([...zx, ...zy].every(Number.isFinite)) emit('zoom', zx, zy);
}
function lift(e: PointerEvent): void {
  fingers.delete(e.pointerId);
  if (fingers.size < 2) pinch = null;
}
function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  if (e.pointerType === 'touch') touch(e);
  if (pinch) return;
  const { px, py } = local(e);
  dragged.value = { x0: px, y0: py, x1: px, y1: py };
  svg.value!.setPointerCapture(e.pointerId);
}
function move(e: PointerEvent): void {
  const at = local(e);
  if (fingers.has(e.pointerId)) fingers.set(e.pointerId, at);
  if (pinch) return spread();
  if (!dragged.value) return emit('point', at);
  const within = (v: number, most: number) => Math.min(most, Math.max(0, v));
  dragged.value = { ...dragged.value, x1: within(at.px, inner.value.w), y1: within(at.py, inner.value.h) };
}
function up(e: PointerEvent): void {
  lift(e);
  const z = dragged.value;
  dragged.value = null;
  if (z && Math.hypot(z.x1 - z.x0, z.y1 - z.y0) < LEAST_DRAG) emit('tap');
  if (!z || Math.abs(z.x1 - z.x0) < LEAST_DRAG || Math.abs(z.y1 - z.y0) < LEAST_DRAG) return;
  const between = (scale: typeof x.value, p: number, q: number) =>
    [scale.invert(p), scale.invert(q)].sort((m, n) => m - n) as [number, number];
  emit('zoom', between(x.value, z.x0, z.x1), between(y.value, z.y0, z.y1));
}
/** Where a place of the plot lies in the frame, px: for what stands over it. */
const place = (vx: number, vy: number) => ({
  left: margin.value.left + x.value(vx),
  top: margin.value.top + y.value(vy),
});
defineExpose({ svg, place, width, height, x, y, inner });
</script>

<template>
  <div ref="box" class="relative min-h-0 flex-1">
    <svg
      ref="svg"
      class="absolute inset-0 block touch-none"
      :width="width"
      :height="height"
      :role="handles > 0 ? 'group' : 'img'"
      :aria-label="label"
      tabindex="0"
      style="font-family: var(--font-sans)"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="(e) => (lift(e), (dragged = null))"
      @pointerleave="!dragged && emit('leave')"
      @dblclick="emit('fit')"
      @keydown="(e) => e.target === e.currentTarget && emit('key', e)"
    >
      <clipPath :id="clip"><rect :width="inner.w" :height="inner.h" x="-0.5" y="-0.5" /></clipPath>
      <g :transform="`translate(${margin.left},${margin.top})`">
        <rect :width="inner.w" :height="inner.h" fill="transparent" />
        <slot />
        <rect
          v-if="dragged && Math.abs(dragged.x1 - dragged.x0) > 3"
          :x="Math.min(dragged.x0, dragged.x1)"
          :y="Math.min(dragged.y0, dragged.y1)"
          :width="Math.abs(dragged.x1 - dragged.x0)"
          :height="Math.abs(dragged.y1 - dragged.y0)"
          style="fill: var(--ochre); stroke: var(--ochre)"
          fill-opacity="0.12"
        />
      </g>
    </svg>
    <slot name="over" />
  </div>
</template>
