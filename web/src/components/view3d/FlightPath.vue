<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { placeSurface, type LiftingSurface } from '@veldtwind/core/airframe';
import { bodyToLocal, quaternionOf } from '@veldtwind/core/simulation';
import { formatNumber } from '@veldtwind/core/units';
import HaloText from '@/components/plot/HaloText.vue';

/** A flight in space: its path over the ground, with the aircraft at its attitude, larger than it is. Drag to turn it. */
export interface PathLine {
  id: string;
  colour: string;
  dash: string;
  x: number[];
  y: number[];
  h: number[];
  phi: number[];
  theta: number[];
  psi: number[];
}
const props = defineProps<{
  lines: PathLine[];
  /** Index in the first line where the aircraft is drawn. */ at: number;
  surfaces: LiftingSurface[];
  centre: { x: number; z: number };
  /** Where runs of a scatter ended, over the ground. */ ends?: { x: number; y: number }[];
  wayPoints: { name?: string; x: number; y: number; height: number; radius: number }[];
}>();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box);
const turn = ref({ azimuth: -0.9, elevation: 0.42 });
const main = computed(() => props.lines[0] ?? null);
type P3 = [number, number, number];
/** North, east, up to the plane of the picture. */
const flat = ([n, e, u]: P3): [number, number] => {
  const { azimuth: a, elevation: l } = turn.value;
  return [-n * Math.sin(a) + e * Math.cos(a), -(u * Math.cos(l) - (n * Math.cos(a) + e * Math.sin(a)) * Math.sin(l))];
};
const places = computed<P3[]>(() => [
  ...props.lines.flatMap((l) =>
    l.x.flatMap((_, i): P3[] => [
      [l.x[i], l.y[i], l.h[i]],
      [l.x[i], l.y[i], 0],
    ]),
  ),
  ...(props.ends ?? []).map((e): P3 => [e.x, e.y, 0]),
  ...props.wayPoints.flatMap((w): P3[] => [
    [w.x, w.y, w.height],
    [w.x, w.y, 0],
  ]),
]);
const frame = computed(() => {
  let [l, r, t, b] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const p of places.value) {
    const [x, y] = flat(p);
    l = Math.min(l, x);
    r = Math.max(r, x);
    t = Math.min(t, y);
    b = Math.max(b, y);
  }
  if (!(r > l) && !(b > t)) [l, r, t, b] = [-1, 1, -1, 1];
  const scale = Math.min((width.value - 60) / Math.max(1e-6, r - l), (height.value - 50) / Math.max(1e-6, b - t));
  const k = Number.isFinite(scale) && scale > 0 ? scale : 1;
  return { k, x: width.value / 2 - (k * (l + r)) / 2, y: height.value / 2 - (k * (t + b)) / 2 };
});
const on = (p: P3): [number, number] => {
  const [x, y] = flat(p);
  return [frame.value.x + frame.value.k * x, frame.value.y + frame.value.k * y];
};
const text = (list: P3[]) =>
  list
    .map(on)
    .map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`)
    .join(' ');
const paths = computed(() =>
  props.lines.map((l) => ({
    ...l,
    path: text(l.x.map((_, i): P3 => [l.x[i], l.y[i], l.h[i]])),
    shadow: text(l.x.map((_, i): P3 => [l.x[i], l.y[i], 0])),
  })),
);
/** A grid on the ground whose squares are a round length. */
const grid = computed(() => {
  const far = Math.max(1, ...places.value.map((p) => Math.max(Math.abs(p[0]), Math.abs(p[1]))));
  const step = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 1e4, 5e4].find((s) => far / s < 6) ?? 1e5;
  const [n0, n1] = range(0, step);
  const [e0, e1] = range(1, step);
  const lines: string[] = [];
  for (let n = n0; n <= n1 + 1e-9; n += step)
    lines.push(
      text([
        [n, e0, 0],
        [n, e1, 0],
      ]),
    );
  for (let e = e0; e <= e1 + 1e-9; e += step)
    lines.push(
      text([
        [n0, e, 0],
        [n1, e, 0],
      ]),
    );
  return {
    lines,
    step,
    corner: [on([n0, e0, 0]), on([n0, e1, 0]), on([n1, e0, 0]), on([n1, e1, 0])].reduce((a, b) =>
      b[1] > a[1] ? b : a,
    ),
  };
});
function range(axis: 0 | 1, step: number): [number, number] {
  const list = places.value.map((p) => p[axis]);
  return [Math.floor(Math.min(0, ...list) / step) * step, Math.ceil(Math.max(step, ...list) / step) * step];
}
/** Outlines of the surfaces about the centre of gravity, body axes over the span. */
const outline = computed(() => {
  const shapes: P3[][] = [];
  let span = 0.1;
  for (const s of props.surfaces) {
    let stations;
    try {
      stations = placeSurface(s).stations;
    } catch {
      continue;
    }
    for (const side of s.mirrored ? [1, -1] : [1]) {
      const nose = stations.map((t): P3 => [t.leadingEdge.x, side * t.leadingEdge.y, t.leadingEdge.z]);
      const tail = stations.map((t): P3 => [
        t.leadingEdge.x + 4 * (t.quarterChord.x - t.leadingEdge.x),
        side * (t.leadingEdge.y + 4 * (t.quarterChord.y - t.leadingEdge.y)),
        t.leadingEdge.z + 4 * (t.quarterChord.z - t.leadingEdge.z),
      ]);
      shapes.push([...nose, ...tail.reverse()]);
      span = Math.max(span, ...nose.map((p) => 2 * Math.abs(p[1])));
    }
  }
  return shapes.map((shape) =>
    shape.map(([x, y, z]): P3 => [-(x - props.centre.x) / span, y / span, -(z - props.centre.z) / span]),
  );
});
const AIRCRAFT = 54;
const aircraft = computed(() => {
  const l = main.value;
  if (!l || l.x.length === 0) return null;
  const i = Math.max(0, Math.min(l.x.length - 1, props.at));
  const m = bodyToLocal(quaternionOf(l.phi[i], l.theta[i], l.psi[i]), 0, new Float64Array(9));
  const [cx, cy] = on([l.x[i], l.y[i], l.h[i]]);
  const size = AIRCRAFT;
  const shapes = outline.value.map((shape) =>
    shape
      .map(([a, b, c]) => {
        const [n, e, d] = [
          m[0] * a + m[1] * b + m[2] * c,
          m[3] * a + m[4] * b + m[5] * c,
          m[6] * a + m[7] * b + m[8] * c,
        ];
        const [x, y] = flat([n, e, -d]);
        return `${(cx + size * x).toFixed(1)},${(cy + size * y).toFixed(1)}`;
      })
      .join(' '),
  );
  const [gx, gy] = on([l.x[i], l.y[i], 0]);
  return { shapes, cx, cy, gx, gy };
});
let from: { x: number; y: number; azimuth: number; elevation: number } | null = null;
function grab(e: PointerEvent): void {
  from = { x: e.clientX, y: e.clientY, ...turn.value };
  (e.currentTarget as Element).setPointerCapture(e.pointerId);
}
function move(e: PointerEvent): void {
  if (!from) return;
  turn.value = {
    azimuth: from.azimuth + (e.clientX - from.x) / 150,
    elevation: Math.max(0.02, Math.min(1.55, from.elevation + (e.clientY - from.y) / 200)),
  };
}
function key(e: KeyboardEvent): void {
  const by = { ArrowLeft: [-0.1, 0], ArrowRight: [0.1, 0], ArrowUp: [0, 0.08], ArrowDown: [0, -0.08] }[e.key];
  if (!by) return;
  e.preventDefault();
  turn.value = {
    azimuth: turn.value.azimuth + by[0],
    elevation: Math.max(0.02, Math.min(1.55, turn.value.elevation + by[1])),
  };
}
</script>

<template>
  <div ref="box" class="min-h-0 flex-1">
    <svg
      v-if="width > 40"
      :width="width"
      :height="height"
      class="cursor-grab touch-none focus:outline-1"
      tabindex="0"
      role="img"
      aria-label="Path of the flight in space; drag or use the arrow keys to turn it"
      data-test="flight-path"
      @pointerdown="grab"
      @pointermove="move"
      @pointerup="from = null"
      @keydown="key"
    >
      <polyline v-for="(l, i) in grid.lines" :key="i" :points="l" fill="none" stroke="var(--rule-light)" />
      <text :x="grid.corner[0]" :y="grid.corner[1] + 14" font-size="11" fill="var(--soft)" text-anchor="middle">
        squares of {{ formatNumber(grid.step, 0) }} m
      </text>
      <circle
        v-for="(e, i) in ends ?? []"
        :key="`e${i}`"
        :cx="on([e.x, e.y, 0])[0]"
        :cy="on([e.x, e.y, 0])[1]"
        r="2"
        fill="var(--plum)"
        opacity="0.55"
      />
      <g v-for="(w, i) in wayPoints" :key="`w${i}`">
        <line
          :x1="on([w.x, w.y, 0])[0]"
          :y1="on([w.x, w.y, 0])[1]"
          :x2="on([w.x, w.y, w.height])[0]"
          :y2="on([w.x, w.y, w.height])[1]"
          stroke="var(--grass)"
          stroke-dasharray="2 3"
        />
        <circle :cx="on([w.x, w.y, w.height])[0]" :cy="on([w.x, w.y, w.height])[1]" r="4" fill="var(--grass)" />
        <HaloText
          :x="on([w.x, w.y, w.height])[0]"
          :y="on([w.x, w.y, w.height])[1] - 9"
          text-anchor="middle"
          colour="var(--grass)"
        >
          {{ w.name ?? i + 1 }}
        </HaloText>
      </g>
      <g v-for="p in paths" :key="p.id" fill="none">
        <polyline :points="p.shadow" stroke="var(--faint)" stroke-width="1" />
        <polyline :points="p.path" :stroke="p.colour" :stroke-dasharray="p.dash" stroke-width="2" />
      </g>
      <g v-if="aircraft">
        <line
          :x1="aircraft.cx"
          :y1="aircraft.cy"
          :x2="aircraft.gx"
          :y2="aircraft.gy"
          stroke="var(--soft)"
          stroke-dasharray="1 3"
        />
        <polygon
          v-for="(s, i) in aircraft.shapes"
          :key="i"
          :points="s"
          fill="var(--paper)"
          fill-opacity="0.75"
          stroke="var(--ink)"
          stroke-width="1.2"
          stroke-linejoin="round"
        />
      </g>
    </svg>
  </div>
</template>
