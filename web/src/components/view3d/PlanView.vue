<script setup lang="ts">
import { computed } from 'vue';
import { placeStations, planformOf, referenceSurface } from '@veldtwind/core/airframe';
import type { CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import { spanOf, useDrawing } from '@/lib/drawing-frame';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import HaloText from '@/components/plot/HaloText.vue';

/** The plan: nose up the page would waste room, so x runs down and the wing lies across, as on a three-view drawing. */
const props = defineProps<{
  candidates: CandidatePart[];
  activeId: string;
  points?: { x: number; y: number; text: string; colour: string }[];
  station?: number | null;
}>();
const preferences = usePreferences();

const shapes = computed(() =>
  props.candidates.flatMap((c) =>
    c.surfaces.flatMap((s) => {
      try {
        const placed = placeStations(s);
        return (s.mirrored ? [1, -1] : [1]).map((side) => ({
          key: `${c.id}-${s.id}-${side}`,
          active: c.id === props.activeId,
          style: seriesStyle(c.style),
          points: [
            ...placed.map((p) => [side * p.leadingEdge.y, p.leadingEdge.x]),
            ...placed
              .slice()
              .reverse()
              .map((p) => [side * p.leadingEdge.y, p.leadingEdge.x + p.chord * Math.cos(p.pitch)]),
          ],
        }));
      } catch {
        return [];
      }
    }),
  ),
);
const active = computed(() => props.candidates.find((c) => c.id === props.activeId));
const drawing = useDrawing(
  () => {
    const all = shapes.value.flatMap((s) => s.points);
    return { x: spanOf(all.map((p) => p[0])), y: spanOf(all.map((p) => p[1])) };
  },
  () => ({ left: 75, right: 75, top: 34, bottom: 24 }),
  { down: true, top: true, size: { width: 500, height: 220 } },
);
const { width, height } = drawing;
const frame = computed(() => (shapes.value.length > 0 ? drawing.frame.value : null));
/** The plane of symmetry on the page. */
const middle = computed(() => frame.value?.x(0) ?? width.value / 2);
const d = (points: number[][]) => frame.value!.path(points as [number, number][], true);
const length = (v: number, dimension: 'length' | 'chord' = 'length') =>
  `${formatQuantity(v, dimension, preferences.units)} ${displayUnit(dimension, preferences.units).symbol}`;
const dims = computed(() => {
  const c = active.value;
  const f = frame.value;
  if (!c || !f || c.surfaces.length === 0) return null;
  try {
    const wing = referenceSurface(c.surfaces);
    const placed = placeStations(wing);
    const plan = planformOf(wing);
    const tip = placed[placed.length - 1];
    const [tx, ty] = [f.x(tip.leadingEdge.y), f.y(Math.min(...placed.map((p) => p.leadingEdge.x)))];
    const lx = f.x(wing.mirrored ? -tip.leadingEdge.y : wing.position.y);
    const chordAt = (p: (typeof placed)[number]) => {
      return {
        x: f.x(p.leadingEdge.y),
        y: f.y(p.leadingEdge.x + 0.5 * p.chord),
        text: length(p.chord, 'chord'),
      };
    };
    const mac = { y: plan.mac.offset + wing.position.y, x: plan.mac.leadingEdge };
    const [mx, my, my2] = [f.x(mac.y), f.y(mac.x), f.y(mac.x + plan.mac.chord)];
    return {
      lx,
      tx,
      ty: ty - 14,
      span: length(plan.span),
      // Clear of the tips of the other candidates.
      tip: { ...chordAt(tip), x: f.x(Math.max(...shapes.value.flatMap((one) => one.points.map((p) => p[0])))) },
      root: chordAt(placed[0]),
      mac: { mx, my, my2, text: `mean ${length(plan.mac.chord, 'chord')}` },
      half: tip.leadingEdge.y,
      vertical: wing.plane === 'vertical',
    };
  } catch {
    return null;
  }
});
</script>

<template>
  <div ref="box" class="relative min-h-0">
    <svg
      v-if="frame"
      :width="width"
      :height="height"
      class="absolute inset-0"
      role="img"
      :aria-label="`Plan of ${candidates.map((c) => c.letter).join(', ')}${dims ? `; span ${dims.span}` : ''}`"
      data-test="plan"
    >
      <line
        :x1="middle"
        :x2="middle"
        y1="16"
        :y2="height - 6"
        style="stroke: var(--rule)"
        stroke-dasharray="10 3 2 3"
      />
      <path
        v-for="s in shapes"
        :key="s.key"
        :d="d(s.points)"
        :style="{ fill: s.active ? 'var(--section-fill)' : 'none', stroke: s.active ? 'var(--ink)' : s.style.colour }"
        :stroke-width="s.active ? 1.3 : 1.4"
        :stroke-dasharray="s.active ? '' : s.style.dash"
        stroke-linejoin="round"
      />
      <g v-if="dims && !dims.vertical" font-size="12" style="fill: var(--soft); font-family: var(--font-sans)">
        <path
          :d="`M${dims.lx},${dims.ty}H${dims.tx}M${dims.lx},${dims.ty - 4}v8M${dims.tx},${dims.ty - 4}v8`"
          style="stroke: var(--faint)"
        />
        <text :x="(dims.tx + middle) / 2" :y="dims.ty - 4" text-anchor="middle">{{ dims.span }}</text>
        <text :x="dims.tip.x + 8" :y="dims.tip.y + 4">{{ dims.tip.text }}</text>
        <text :x="middle - 6" :y="dims.root.y + 4" text-anchor="end">{{ dims.root.text }}</text>
        <line
          :x1="dims.mac.mx"
          :x2="dims.mac.mx"
          :y1="dims.mac.my"
          :y2="dims.mac.my2"
          style="stroke: var(--sky)"
          stroke-width="1.4"
        />
        <text :x="dims.mac.mx + 5" :y="dims.mac.my2 + 13" style="fill: var(--sky)">{{ dims.mac.text }}</text>
        <line
          v-if="station != null"
          :x1="frame.x(Math.abs(station) * dims.half)"
          :x2="frame.x(Math.abs(station) * dims.half)"
          y1="20"
          :y2="height - 8"
          style="stroke: var(--clay)"
          stroke-dasharray="2 3"
        />
      </g>
      <g v-for="p in points ?? []" :key="p.text">
        <circle :cx="frame.x(p.y)" :cy="frame.y(p.x)" r="4" :style="{ fill: p.colour, stroke: 'var(--paper)' }" />
        <HaloText :x="frame.x(p.y) + 8" :y="frame.y(p.x) + 4" :weight="600" :colour="p.colour">
          {{ p.text }}
        </HaloText>
      </g>
    </svg>
  </div>
</template>
