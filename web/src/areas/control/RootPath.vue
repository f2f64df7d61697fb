<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { formatNumber } from '@veldtwind/core/units';
import { scaleSymlog } from 'd3-scale';
import { computed, ref, useId } from 'vue';
import HaloText from '@/components/plot/HaloText.vue';
import PolePlane from '@/components/plot/PolePlane.vue';
import { rootLines } from './root-lines';

/**
 * Root locus: where the poles go while the gains of a loop grow from nothing: crosses begin, the drawn line is the path, the filled places are where they are now. Dragging
 * one along its path takes the gains with it.
 */
const props = defineProps<{
  path: { k: number; poles: [number, number][] }[];
  open: [number, number][];
  closed: [number, number][];
  /** Poles before the last change. */ before: [number, number][] | null;
  /** Poles of a model from a file. */ beside: [number, number][] | null;
}>();
const emit = defineEmits<{ preview: [times: number]; commit: [times: number] }>();
const box = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const { width, height } = useElementSize(box);
const M = { left: 12, right: 58, top: 14, bottom: 32 };
/** Faster ones are those of movers and delays: they lie far off and say little. */
const FARTHEST = 90;
const seen = (p: [number, number]) => p[1] >= -1e-9 && Math.hypot(p[0], p[1]) < FARTHEST;
const opened = computed(() => props.open.filter(seen));
const now = computed(() => props.closed.filter(seen));
const earlier = computed(() => (props.before ?? []).filter(seen));
const others = computed(() => (props.beside ?? []).filter(seen));
const all = computed(() => [...opened.value, ...now.value, ...others.value]);
const x = computed(() => {
  const low = Math.min(-2, ...all.value.map((p) => p[0]));
  const high = Math.max(0.5, ...now.value.map((p) => p[0]));
  return scaleSymlog([1.5 * low, 2 * high], [M.left, Math.max(M.left + 10, width.value - M.right)]).constant(0.5);
});
const y = computed(() => {
  const high = Math.max(2, ...all.value.map((p) => p[1]));
  return scaleSymlog([0, 1.7 * high], [Math.max(M.top + 10, height.value - M.bottom), M.top]).constant(0.5);
});
const within = (v: number, s: { domain(): number[] }) => v >= Math.min(...s.domain()) && v <= Math.max(...s.domain());
const STEPS = [0.3, 1, 3, 10, 30, 100];
const apart = (list: number[], at: (v: number) => number, least: number) =>
  list.reduce<number[]>((kept, t) => (kept.every((k) => Math.abs(at(k) - at(t)) >= least) ? [...kept, t] : kept), []);
const xTicks = computed(() =>
  apart(
    [0, ...STEPS.map((t) => -t).reverse(), ...STEPS].filter((t) => within(t, x.value)),
    (t) => x.value(t),
    30,
  ),
);
const yTicks = computed(() =>
  apart(
    [0, ...STEPS.slice().reverse()].filter((t) => within(t, y.value)),
    (t) => y.value(t),
    18,
  ),
);
/** Poles of one gain joined to the nearest of the next: the branches. */
const lines = computed(() => rootLines(props.path));
const branches = computed(() => {
  return lines.value
    .map((l) =>
      l
        // Cut at the frame; what lies far beyond it is left out.
        .filter((p) => Math.hypot(p[0], p[1]) < 1e4)
        .map((p) => `${x.value(p[0]).toFixed(1)},${y.value(p[1]).toFixed(1)}`)
        .join(' '),
    )
    .filter((l) => l.includes(' '));
});
const cross = (p: [number, number]) => {
  const [a, b] = [x.value(p[0]), y.value(p[1])];
  return `M${a - 4} ${b - 4}L${a + 4} ${b + 4}M${a - 4} ${b + 4}L${a + 4} ${b - 4}`;
};
const clip = useId();
let dragged = false;
const times = ref(1);
/** The gain whose poles come nearest to the pointer. */
function factorAt(e: PointerEvent): number {
  const r = svg.value!.getBoundingClientRect();
  const [px, py] = [e.clientX - r.left, e.clientY - r.top];
  let best = { k: 1, d: Infinity };
  for (const { k, poles } of props.path)
    for (const p of poles)
      if (seen(p)) {
        const d = Math.hypot(x.value(p[0]) - px, y.value(p[1]) - py);
        if (d < best.d) best = { k, d };
      }
  return best.k;
}
function grab(e: PointerEvent): void {
  dragged = true;
  times.value = 1;
  (e.target as Element).setPointerCapture(e.pointerId);
}
function move(e: PointerEvent): void {
  if (!dragged) return;
  const k = factorAt(e);
  if (k === times.value || k < 1e-3) return;
  times.value = k;
  emit('preview', k);
}
function drop(): void {
  if (!dragged) return;
  dragged = false;
  if (times.value !== 1) emit('commit', times.value);
}
function key(e: KeyboardEvent): void {
  const up = e.key === 'ArrowUp' || e.key === 'ArrowRight';
  if (!up && e.key !== 'ArrowDown' && e.key !== 'ArrowLeft') return;
  e.preventDefault();
  emit('commit', up ? 1.1 : 1 / 1.1);
}
</script>

<template>
  <div ref="box" class="min-h-0 flex-1">
    <svg
      v-if="width > 40"
      ref="svg"
      :width="width"
      :height="height"
      role="group"
      aria-label="Path of the roots"
      data-test="root-path"
      @pointermove="move"
      @pointerup="drop"
    >
      <PolePlane :x="x" :y="y" :width="width" :height="height" :margin="M" :x-ticks="xTicks" :y-ticks="yTicks" />
      <clipPath :id="clip">
        <rect
          :x="M.left"
          :y="M.top"
          :width="Math.max(0, width - M.right - M.left)"
          :height="Math.max(0, height - M.bottom - M.top + 2)"
        />
      </clipPath>
      <g :clip-path="`url(#${clip})`" fill="none" stroke="var(--sky)" stroke-width="1.4" opacity="0.75">
        <polyline v-for="(l, i) in branches" :key="i" :points="l" />
      </g>
      <path v-for="(p, i) in opened" :key="`o${i}`" :d="cross(p)" stroke="var(--soft)" stroke-width="1.6" />
      <rect
        v-for="(p, i) in others"
        :key="`f${i}`"
        :x="x(p[0]) - 5"
        :y="y(p[1]) - 5"
        width="10"
        height="10"
        fill="none"
        stroke="var(--sky)"
        stroke-width="1.6"
      />
      <circle
        v-for="(p, i) in earlier"
        :key="`b${i}`"
        :cx="x(p[0])"
        :cy="y(p[1])"
        r="5"
        fill="none"
        stroke="var(--ink)"
        stroke-dasharray="2 2"
      />
      <circle
        v-for="(p, i) in now"
        :key="`n${i}`"
        class="cursor-grab focus:outline-2"
        :cx="x(p[0])"
        :cy="y(p[1])"
        r="6"
        :fill="p[0] > 1e-9 ? 'var(--clay)' : 'var(--ochre)'"
        stroke="var(--paper)"
        stroke-width="1.5"
        tabindex="0"
        role="slider"
        :aria-valuenow="Number(p[0].toFixed(3))"
        :aria-label="`Pole at ${p[0].toFixed(2)}, ${p[1].toFixed(2)}: drag it along its path, or use the arrow keys`"
        @pointerdown="grab"
        @keydown="key"
      />
      <HaloText v-if="times !== 1" :x="width / 2" :y="M.top + 12" text-anchor="middle" colour="var(--ink)">
        gains × {{ formatNumber(Number(times.toPrecision(3)), times < 1 ? 3 : 2) }}
      </HaloText>
    </svg>
  </div>
</template>
