<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue';
import { sectionLookup } from '@veldtwind/core/candidate';
import {
  bodyLines,
  inView,
  moveBodyHandle,
  moveSurfaceHandle,
  placeStations,
  planformOf,
  referenceSurface,
  standingIn,
  surfaceLines,
  type DrawingView,
  type Point3,
  type ViewLine,
} from '@veldtwind/core/airframe';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart, PicturePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import HaloText from '@/components/plot/HaloText.vue';
import { keptByPart } from '@/lib/by-part';
import { spanOf, useDrawing, type DrawingFrame } from '@/lib/drawing-frame';
import type { MassPoint } from '@/lib/mass-points';
import { seriesStyle } from '@/lib/series-style';
import type { SectionPart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import MassLayer from './MassLayer.vue';
import type { PartStyle } from './parts-3d';
import { bodyHandles, surfaceHandles, type DrawnHandle } from './handles';

/** One view of a drawing to scale: from above with the nose up the page, from ahead, or from the left. Handles move the part that is chosen. */
const props = withDefaults(
  defineProps<{
    view: DrawingView;
    candidates: CandidatePart[];
    activeId: string;
    sections: Record<string, SectionPart>;
    points?: (Point3 & { text: string; colour: string })[];
    /** Share of the half span that the shared cursor is at. */
    station?: number | null;
    dimensions?: boolean;
    meanChord?: boolean;
    /** Sections seen from their end. */
    sectionLines?: boolean;
    /** The part that is chosen, and its station. */
    selected?: string | null;
    selectedStation?: number | null;
    editable?: boolean;
    /** How a part of the active candidate is drawn, by its id. */
    looks?: Record<string, PartStyle>;
    /** Mass items; all of them are in view. */
    masses?: MassPoint[];
    /** Whether they are named; a pointer over one tells its name anyway. */
    massNames?: boolean;
    /** A picture that lies under it. */
    underlay?: PicturePart;
    /** Width that is shown where nothing is drawn yet, m. */
    room?: number;
  }>(),
  { dimensions: true, meanChord: true, sectionLines: true },
);
const emit = defineEmits<{ pick: [part: string, station: number | null] }>();
const preferences = usePreferences();
const project = useProject();
const NAMES: Record<DrawingView, string> = { plan: 'From above', front: 'From ahead', side: 'From the left' };

function safe<T>(work: () => T, otherwise: T): T {
  try {
    return work();
  } catch {
    return otherwise;
  }
}
interface Shape {
  key: string;
  part: string;
  active: boolean;
  style: ReturnType<typeof seriesStyle>;
  line: ViewLine;
}
const placed = computed(() => props.candidates.flatMap((c) => safe(() => [standingIn(c)], [])));
const active = computed(() => placed.value.find((c) => c.id === props.activeId));
const lines = keptByPart<object, ViewLine[]>();
const ofSurfaces = keptByPart<object, ViewLine[]>();
const lookOf = (candidate: string, part: string) => (candidate === props.activeId ? props.looks?.[part] : undefined);
const shapes = computed<Shape[]>(() => {
  const lookup = sectionLookup(props.sections);
  // What is worked on lies over the others.
  const order = [...placed.value].sort((a, b) => Number(a.id === props.activeId) - Number(b.id === props.activeId));
  return order.flatMap((c) => {
    const own = (part: string, lines: ViewLine[]): Shape[] =>
      (lookOf(c.id, part) === 'hidden' ? [] : lines)
        .filter((line) => line.what !== 'section' || props.sectionLines)
        .map((line, i) => ({
          key: `${c.id}-${part}-${i}`,
          part,
          active: c.id === props.activeId,
          style: seriesStyle(c.style),
          line,
        }));
    return [
      ...c.bodies.flatMap((b) =>
        own(
          b.id,
          safe(() => lines(null, b, props.view, () => bodyLines(b, props.view)), []),
        ),
      ),
      ...c.surfaces.flatMap((s) =>
        own(
          s.id,
          safe(() => ofSurfaces(props.sections, s, props.view, () => surfaceLines(s, props.view, lookup)), []),
        ),
      ),
    ];
  });
});
/** What is shown where nothing is drawn: a span, and half of it along. */
const room = (r: number): [[number, number], [number, number]] =>
  props.view === 'side'
    ? [
        [-0.1 * r, 0.6 * r],
        [-0.15 * r, 0.25 * r],
      ]
    : [[-0.55 * r, 0.55 * r], props.view === 'plan' ? [-0.05 * r, 0.45 * r] : [-0.1 * r, 0.1 * r]];
const drawing = useDrawing(
  () => {
    const all = [
      ...shapes.value.flatMap((s) => s.line.points),
      ...(props.masses ?? []).map((m) => inView(m, props.view)),
    ];
    const r = props.room ?? 0;
    const [u, v] = room(r);
    const x = spanOf(
      all.map((p) => p[0]),
      r ? u[0] : undefined,
      r ? u[1] : undefined,
    );
    const y = spanOf(
      all.map((p) => p[1]),
      r ? v[0] : undefined,
      r ? v[1] : undefined,
    );
    // A flat view is given some height, so that it is no line.
    const least = 0.06 * (x[1] - x[0]);
    const low = Math.max(0, least - (y[1] - y[0])) / 2;
    return { x, y: [y[0] - low, y[1] + low] };
  },
  () => ({ left: 58, right: 104, top: 34, bottom: 26 }),
  { down: props.view === 'plan', size: { width: 500, height: 220 } },
);
const { width, height } = drawing;
/** While a handle is dragged the page stays where it is. */
const frozen = shallowRef<DrawingFrame | null>(null);
const frame = computed(() => frozen.value ?? (shapes.value.length > 0 || props.room ? drawing.frame.value : null));
const d = (s: Shape) => frame.value!.path(s.line.points, s.line.closed);
const length = (v: number, dimension: 'length' | 'chord' = 'length') =>
  `${formatQuantity(v, dimension, preferences.units)} ${displayUnit(dimension, preferences.units).symbol}`;
const px = ([u, v]: readonly [number, number]) => ({ x: frame.value!.x(u), y: frame.value!.y(v) });

/** Overall size, and what is told of the wing. */
const dims = computed(() => {
  const c = active.value;
  if (!c || !frame.value) return null;
  const all = shapes.value.filter((s) => s.active).flatMap((s) => s.line.points);
  if (all.length === 0) return null;
  const [u, v] = [spanOf(all.map((p) => p[0])), spanOf(all.map((p) => p[1]))];
  const [a, b] = [px([u[0], v[0]]), px([u[1], v[1]])];
  const top = Math.min(a.y, b.y) - 13;
  const wing = safe(() => (c.surfaces.length ? referenceSurface(c.surfaces) : null), null);
  const stations =
    wing && wing.plane === 'horizontal' && props.view === 'plan' ? safe(() => placeStations(wing), []) : [];
  const plan = wing ? safe(() => planformOf(wing), null) : null;
  const chord = (i: number) => {
    const s = stations[i];
    return { ...px([s.leadingEdge.y, s.leadingEdge.x + 0.5 * s.chord]), text: length(s.chord, 'chord') };
  };
  return {
    left: a.x,
    right: b.x,
    top: Math.max(14, top),
    across: length(u[1] - u[0]),
    /** At the right, clear of the candidates laid over. */
    side: Math.min(
      width.value - 8,
      Math.max(...shapes.value.flatMap((k) => k.line.points.map((p) => frame.value!.x(p[0])))) +
        (stations.length ? 54 : 12),
    ),
    high: [Math.min(a.y, b.y), Math.max(a.y, b.y)] as const,
    up: length(v[1] - v[0]),
    root: stations.length ? chord(0) : null,
    tip: stations.length ? chord(stations.length - 1) : null,
    mac:
      plan && wing && stations.length
        ? {
            from: px([wing.position.y + plan.mac.offset, plan.mac.leadingEdge]),
            to: px([wing.position.y + plan.mac.offset, plan.mac.leadingEdge + plan.mac.chord]),
            text: `mean ${length(plan.mac.chord, 'chord')}`,
          }
        : null,
    half: stations.length ? stations[stations.length - 1].leadingEdge.y : null,
  };
});

const handles = computed<DrawnHandle[]>(() => {
  const c = active.value;
  if (!props.editable || !c || !props.selected) return [];
  const surface = c.surfaces.find((s) => s.id === props.selected);
  if (surface) return safe(() => surfaceHandles(surface, props.view), []);
  const body = c.bodies.find((b) => b.id === props.selected);
  return body ? safe(() => bodyHandles(body, props.view), []) : [];
});
/** Moves go in steps of a millimetre. */
const whole = (v: number) => Math.round(v * 1000) / 1000;
const refusal = ref('');
const moved = ref<{ from: [number, number]; handle: DrawnHandle; by: [number, number] } | null>(null);
function edited(handle: DrawnHandle, by: readonly [number, number]) {
  const [id, part] = [props.activeId, props.selected];
  return (draft: { candidates: Record<string, unknown> }) => {
    const c = draft.candidates[id] as CandidatePart | undefined;
    if (!c) return;
    if ('surface' in handle.moves) {
      const s = c.surfaces.find((k) => k.id === part);
      if (s) moveSurfaceHandle(s, handle.moves.surface, props.view, by);
    } else {
      const b = c.bodies.find((k) => k.id === part);
      if (b) moveBodyHandle(b, handle.moves.body, props.view, by);
    }
  };
}
/** Tries a move; one that cannot be is said, and the part stays where it last could be. */
function attempt(handle: DrawnHandle, by: [number, number], keep: boolean): boolean {
  const label = `${handle.name} by hand (${active.value?.letter ?? ''})`;
  try {
    if (keep) project.edit(label, edited(handle, by) as never);
    else project.show(edited(handle, by) as never);
    refusal.value = '';
    return true;
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    refusal.value = error.message;
    return false;
  }
}
function grab(e: PointerEvent, handle: DrawnHandle): void {
  (e.currentTarget as Element).setPointerCapture(e.pointerId);
  frozen.value = drawing.frame.value;
  moved.value = { from: [e.clientX, e.clientY], handle, by: [0, 0] };
  emit('pick', props.selected!, handle.station);
}
function drag(e: PointerEvent): void {
  const m = moved.value;
  const f = frozen.value;
  if (!m || !f) return;
  const up = props.view === 'plan' ? 1 : -1;
  const by: [number, number] = [
    whole((e.clientX - m.from[0]) / f.scale),
    whole((up * (e.clientY - m.from[1])) / f.scale),
  ];
  if (attempt(m.handle, by, false)) m.by = by;
}
function drop(): void {
  const m = moved.value;
  moved.value = null;
  frozen.value = null;
  if (m && (m.by[0] !== 0 || m.by[1] !== 0)) attempt(m.handle, m.by, true);
  else project.show(() => undefined);
}
const NUDGES: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
function nudge(e: KeyboardEvent, handle: DrawnHandle): void {
  const way = NUDGES[e.key];
  if (!way) return;
  e.preventDefault();
  const step = e.shiftKey ? 0.001 : 0.01;
  attempt(handle, [way[0] * step, way[1] * step * (props.view === 'plan' ? -1 : 1)], true);
}
</script>

<template>
  <div ref="box" class="relative min-h-0 overflow-hidden">
    <span class="absolute top-1 left-3 z-10 text-[12px] text-soft">{{ NAMES[view] }}</span>
    <p
      v-if="refusal"
      class="absolute bottom-1 left-3 z-10 max-w-[90%] rounded bg-leaf px-2 text-[12px] text-clay"
      role="status"
      data-test="handle-refusal"
    >
      {{ refusal }}
    </p>
    <svg
      v-if="frame"
      :width="width"
      :height="height"
      class="absolute inset-0"
      role="group"
      :aria-label="`${NAMES[view]}: ${candidates.map((c) => c.letter).join(', ')}${dims ? `; ${dims.across} by ${dims.up}` : ''}`"
      :data-test="view"
    >
      <image
        v-if="underlay"
        :href="underlay.data"
        :x="frame.x(underlay.left)"
        :y="frame.y(underlay.top)"
        :width="underlay.width * frame.scale"
        :height="underlay.width * underlay.aspect * frame.scale"
        :opacity="underlay.opacity"
        preserveAspectRatio="none"
        class="pointer-events-none"
        data-test="underlay"
      />
      <line
        v-if="view !== 'side'"
        :x1="frame.x(0)"
        :x2="frame.x(0)"
        y1="16"
        :y2="height - 6"
        style="stroke: var(--rule)"
        stroke-dasharray="10 3 2 3"
      />
      <path
        v-for="s in shapes"
        :key="s.key"
        :d="d(s)"
        :style="{
          fill:
            s.active && s.line.what !== 'hinge' && looks?.[s.part] !== 'see-through'
              ? s.part === selected
                ? 'var(--select)'
                : 'var(--section-fill)'
              : 'none',
          stroke: s.active ? 'var(--ink)' : s.style.colour,
        }"
        :stroke-width="s.line.what === 'edge' ? 1.3 : 0.8"
        :stroke-dasharray="s.active ? '' : s.style.dash"
        stroke-linejoin="round"
        :data-part="s.active ? s.part : undefined"
        :class="s.active ? 'cursor-pointer' : 'pointer-events-none'"
        @click="s.active && emit('pick', s.part, null)"
      />
      <g
        v-if="dims && dimensions"
        font-size="12"
        style="fill: var(--soft); font-family: var(--font-sans)"
        class="pointer-events-none"
      >
        <path
          :d="`M${dims.left},${dims.top}H${dims.right}M${dims.left},${dims.top - 4}v8M${dims.right},${dims.top - 4}v8`"
          style="stroke: var(--faint)"
        />
        <HaloText
          :x="dims.left + 0.75 * (dims.right - dims.left)"
          :y="dims.top - 4"
          colour="var(--soft)"
          text-anchor="middle"
        >
          {{ dims.across }}
        </HaloText>
        <path
          :d="`M${dims.side},${dims.high[0]}V${dims.high[1]}M${dims.side - 4},${dims.high[0]}h8M${dims.side - 4},${dims.high[1]}h8`"
          style="stroke: var(--faint)"
        />
        <HaloText :x="dims.side + 6" :y="0.5 * (dims.high[0] + dims.high[1]) + 4" colour="var(--soft)">
          {{ dims.up }}
        </HaloText>
        <HaloText v-if="dims.tip" :x="dims.tip.x + 10" :y="dims.tip.y + 4" colour="var(--soft)">
          {{ dims.tip.text }}
        </HaloText>
        <HaloText v-if="dims.root" :x="dims.root.x - 8" :y="dims.root.y + 4" colour="var(--soft)" text-anchor="end">
          {{ dims.root.text }}
        </HaloText>
      </g>
      <g v-if="dims?.mac && meanChord" class="pointer-events-none">
        <line
          :x1="dims.mac.from.x"
          :x2="dims.mac.to.x"
          :y1="dims.mac.from.y"
          :y2="dims.mac.to.y"
          style="stroke: var(--sky)"
          stroke-width="1.4"
        />
        <HaloText :x="dims.mac.to.x + 5" :y="dims.mac.to.y + 13" colour="var(--sky)">{{ dims.mac.text }}</HaloText>
      </g>
      <line
        v-if="station != null && dims?.half"
        :x1="frame.x(Math.abs(station) * dims.half)"
        :x2="frame.x(Math.abs(station) * dims.half)"
        y1="20"
        :y2="height - 8"
        style="stroke: var(--clay)"
        stroke-dasharray="2 3"
      />
      <MassLayer
        v-if="masses?.length"
        :frame="frame"
        :view="view"
        :points="masses"
        :height="height"
        :named="massNames"
      />
      <g v-for="(p, i) in points ?? []" :key="p.text" class="pointer-events-none">
        <circle
          v-bind="{ cx: px(inView(p, view)).x, cy: px(inView(p, view)).y }"
          r="4"
          :style="{ fill: p.colour, stroke: 'var(--paper)' }"
        />
        <HaloText
          :x="px(inView(p, view)).x + 8"
          :y="px(inView(p, view)).y + (i % 2 ? 16 : -6)"
          :weight="600"
          :colour="p.colour"
        >
          {{ p.text }}
        </HaloText>
      </g>
      <g
        v-for="h in handles"
        :key="h.key"
        :transform="`translate(${px(h.at).x},${px(h.at).y})`"
        role="button"
        tabindex="0"
        :aria-label="`${h.name}; drag it, or move it with the arrow keys`"
        class="handle cursor-grab"
        :data-test="`handle-${view}-${h.key}`"
        @pointerdown.prevent="(e) => grab(e, h)"
        @pointermove="drag"
        @pointerup="drop"
        @pointercancel="drop"
        @keydown="(e) => nudge(e, h)"
      >
        <title>{{ h.name }}</title>
        <circle r="10" fill="transparent" />
        <rect
          v-if="h.kind === 'part'"
          x="-5"
          y="-5"
          width="10"
          height="10"
          rx="2"
          transform="rotate(45)"
          style="fill: var(--paper); stroke: var(--ochre)"
          stroke-width="1.8"
        />
        <path
          v-else-if="h.kind === 'trailing'"
          d="M-6,-3.5H6L0,5Z"
          style="fill: var(--paper); stroke: var(--ochre)"
          stroke-width="1.6"
        />
        <circle
          v-else
          r="4.6"
          :style="{ fill: h.station === selectedStation ? 'var(--ochre)' : 'var(--paper)', stroke: 'var(--ochre)' }"
          stroke-width="1.8"
        />
      </g>
      <slot :frame="frame" :width="width" :height="height" />
    </svg>
    <slot v-else name="empty" />
  </div>
</template>

<style scoped>
.handle:focus-visible {
  outline: 2px solid var(--ochre);
  outline-offset: 2px;
}
</style>
