<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { placeStations, planformOf, referenceSurface } from '@veldtwind/core/airframe';
import type { Evaluation } from '@veldtwind/core/candidate';
import { centreRange } from '@veldtwind/core/balance';
import { bandWords } from '@veldtwind/core/findings';
import type { BriefPart, CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import HaloText from '@/components/plot/HaloText.vue';
import { axisTicks, spreadLabels, tickDigits } from '@/lib/chart-model';
import { fitDrawing, spanOf } from '@/lib/drawing-frame';
import { usePreferences } from '@/store/preferences';

/** The aircraft from its left side as a balance beam: masses where they are, the mean chord, neutral point, and the band for the centre of gravity. */
const props = defineProps<{ candidate: CandidatePart; evaluation: Evaluation | null; bands: BriefPart['bands'] }>();
const preferences = usePreferences();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box, { width: 700, height: 170 });
const unit = computed(() => displayUnit('length', preferences.units));

const drawn = computed(() => {
  const surfaces = props.candidate.surfaces.flatMap((s) => {
    try {
      const [root, ...rest] = placeStations(s);
      return [{ s, root, tip: rest[rest.length - 1] }];
    } catch {
      return [];
    }
  });
  if (surfaces.length === 0) return null;
  const items = props.candidate.massItems;
  // Of many only the heaviest are named.
  const room = Math.max(4, Math.floor(width.value / 105));
  const namedItems = [...items].sort((a, b) => b.mass - a.mass).slice(0, room);
  const xs = [
    ...surfaces.flatMap((k) => [k.root.leadingEdge.x, k.root.leadingEdge.x + k.root.chord]),
    ...items.map((m) => m.position.x),
  ];
  const zs = [
    ...surfaces.flatMap((k) => [k.root.leadingEdge.z, k.tip.leadingEdge.z]),
    ...items.map((m) => m.position.z),
  ];
  const [x0, x1] = spanOf(xs);
  const frame = fitDrawing(
    { width: width.value, height: height.value },
    { x: [x0, x1], y: spanOf(zs) },
    { left: 55, right: 55, top: 48, bottom: 62 },
  );
  const { x, y: z, scale: s } = frame;
  const atX = spreadLabels(
    namedItems.map((m) => x(m.position.x)),
    Math.min(112, (width.value - 20) / Math.max(1, namedItems.length)),
    60,
    width.value - 60,
  );
  const heaviest = Math.max(1e-9, ...items.map((m) => m.mass));
  const ticks = axisTicks([x0 * unit.value.scale, x1 * unit.value.scale], (x1 - x0) * s, 58);
  return {
    x,
    z,
    ticks,
    digits: tickDigits(ticks),
    from: x(x0),
    to: x(x1),
    surfaces: surfaces.map(({ s: part, root, tip }) => ({
      id: part.id,
      path:
        part.plane === 'vertical'
          ? `M${x(root.leadingEdge.x)},${z(root.leadingEdge.z)}L${x(tip.leadingEdge.x)},${z(tip.leadingEdge.z)}L${x(tip.leadingEdge.x + tip.chord)},${z(tip.leadingEdge.z)}L${x(root.leadingEdge.x + root.chord)},${z(root.leadingEdge.z)}Z`
          : `M${x(root.leadingEdge.x)},${z(root.leadingEdge.z)}L${x(root.leadingEdge.x + root.chord * Math.cos(root.pitch))},${z(root.leadingEdge.z - root.chord * Math.sin(root.pitch))}`,
    })),
    items: items.map((m) => ({
      id: m.id,
      at: namedItems.includes(m) ? atX[namedItems.indexOf(m)] : null,
      short: m.name.length > 17 ? `${m.name.slice(0, 16)}…` : m.name,
      name: m.name,
      x: x(m.position.x),
      z: z(m.position.z),
      r: 3 + 13 * Math.sqrt(m.mass / heaviest),
      text: `${m.name}, ${formatQuantity(m.mass, 'mass', preferences.units)} ${displayUnit('mass', preferences.units).symbol}`,
    })),
  };
});
const solvedPoints = (e: Evaluation) =>
  (e.curve?.points ?? e.lift!.points).filter((p) => !('status' in p && p.status === 'unsolved'));
/** What ends the range, by name. */
const LIMITS = {
  staticMargin: { name: 'static margin', dimension: 'ratio', digits: 0 },
  trimAngleDeg: { name: 'trim angle', dimension: 'angle', digits: 1 },
  pitchSlopePerDeg: { name: 'pitch slope', dimension: 'plain', digits: 3 },
} as const;
const ruler = computed(() => {
  const d = drawn.value;
  const e = props.evaluation;
  if (!d || !e?.lift || !e.balance) return null;
  try {
    const { mac } = planformOf(referenceSurface(props.candidate.surfaces));
    const np = e.balance.neutralPoint;
    const range = centreRange({ ...e.lift, points: solvedPoints(e) }, e.balance.centres, props.bands, (band, value) => {
      const { name, dimension, digits } = LIMITS[band];
      return `${name} ${(bandWords({ min: value, max: null }, dimension, preferences.units, digits) ?? '').replace('above ', '')}`;
    });
    const [low, high] = [range.forward?.x ?? null, range.aft?.x ?? null];
    const cg = e.mass?.centre.x ?? null;
    const marks = [
      { x: d.x(np), text: `neutral point ${formatQuantity(np, 'length', preferences.units)}`, colour: 'var(--sky)' },
      ...(cg === null
        ? []
        : [
            {
              x: d.x(cg),
              text: `centre of gravity ${formatQuantity(cg, 'length', preferences.units)}`,
              colour: 'var(--ochre-text)',
            },
          ]),
    ].sort((a, b) => a.x - b.x);
    const at = spreadLabels(
      marks.map((m) => m.x),
      165,
      90,
      width.value - 90,
    );
    return {
      marks: marks.map((m, i) => ({ ...m, at: at[i] })),
      mac: [d.x(mac.leadingEdge), d.x(mac.leadingEdge + mac.chord)],
      band: (low === null && high === null) || range.empty ? null : [d.x(low ?? mac.leadingEdge), d.x(high ?? np)],
      empty: range.empty ? `no place holds both ${range.forward!.by} and ${range.aft!.by}` : '',
      ends: range.empty
        ? []
        : [
            ...(range.forward ? [{ x: d.x(range.forward.x), text: range.forward.by, end: 'end' as const }] : []),
            ...(range.aft ? [{ x: d.x(range.aft.x), text: range.aft.by, end: 'start' as const }] : []),
          ],
      margin: e.balance ? formatNumber(100 * e.balance.staticMargin, 1) : null,
    };
  } catch {
    return null;
  }
});
const y = computed(() => height.value - 40);
</script>

<template>
  <div ref="box" class="relative min-h-0">
    <svg
      v-if="drawn"
      class="absolute inset-0"
      :width="width"
      :height="height"
      role="img"
      aria-label="The aircraft from the left with its mass items, mean chord, centre of gravity and neutral point"
      style="font-family: var(--font-sans)"
      data-test="beam"
    >
      <path
        v-for="s in drawn.surfaces"
        :key="s.id"
        :d="s.path"
        style="fill: var(--section-fill); stroke: var(--ink)"
        stroke-width="2"
        stroke-linejoin="round"
      />
      <g v-for="m in drawn.items" :key="m.id">
        <title>{{ m.text }}</title>
        <circle
          :cx="m.x"
          :cy="m.z"
          :r="m.r"
          style="fill: var(--plum); stroke: var(--plum)"
          fill-opacity="0.22"
          stroke-width="1.1"
        />
        <path v-if="m.at !== null" :d="`M${m.x},${m.z - m.r}L${m.at},19`" fill="none" style="stroke: var(--rule)" />
        <text v-if="m.at !== null" :x="m.at" y="14" text-anchor="middle" font-size="11.5" style="fill: var(--soft)">
          {{ m.short }}
        </text>
      </g>
      <line :x1="drawn.from" :x2="drawn.to" :y1="y" :y2="y" style="stroke: var(--faint)" />
      <g v-for="t in drawn.ticks" :key="t" :transform="`translate(${drawn.x(t / unit.scale)},${y})`">
        <line y2="4" style="stroke: var(--faint)" />
        <text y="16" text-anchor="middle" font-size="12" style="fill: var(--soft)">
          {{ formatNumber(t, drawn.digits) }}
        </text>
      </g>
      <text :x="drawn.to + 12" :y="y + 4" font-size="12.5" font-weight="600" style="fill: var(--ink)">
        x, {{ unit.symbol }}
      </text>
      <g v-if="ruler">
        <rect
          v-if="ruler.band"
          :x="Math.min(...ruler.band)"
          :width="Math.abs(ruler.band[1] - ruler.band[0])"
          :y="y - 15"
          height="15"
          style="fill: var(--grass)"
          fill-opacity="0.2"
        >
          <title>Where the brief’s bands let the centre of gravity be</title>
        </rect>
        <g v-for="l in ruler.ends" :key="l.text" data-test="centre-limit">
          <line :x1="l.x" :x2="l.x" :y1="y - 20" :y2="y" style="stroke: var(--grass)" stroke-width="1.4" />
          <HaloText
            :x="l.end === 'end' ? l.x - 4 : l.x + 4"
            :y="y - 19"
            :text-anchor="l.end"
            :size="11.5"
            colour="var(--grass-text)"
          >
            {{ l.text }}
          </HaloText>
        </g>
        <text
          v-if="ruler.empty"
          :x="ruler.mac[1] + 6"
          :y="y - 6"
          font-size="11.5"
          style="fill: var(--clay)"
          data-test="centre-empty"
        >
          {{ ruler.empty }}
        </text>
        <rect
          :x="ruler.mac[0]"
          :width="ruler.mac[1] - ruler.mac[0]"
          :y="y - 5"
          height="5"
          style="fill: var(--slate)"
          fill-opacity="0.6"
        >
          <title>Mean aerodynamic chord</title>
        </rect>
        <g v-for="m in ruler.marks" :key="m.text">
          <path :d="`M${m.x},${y - 5}l-5,-10h10z`" :style="{ fill: m.colour }" />
          <path
            :d="`M${m.x},${y + 1}V${y + 20}L${m.at},${y + 25}`"
            fill="none"
            :style="{ stroke: m.colour }"
            stroke-width="0.8"
          />
          <text
            :x="m.at"
            :y="y + 37"
            text-anchor="middle"
            font-size="12.5"
            font-weight="600"
            :style="{ fill: m.colour }"
          >
            {{ m.text }} {{ unit.symbol }}
          </text>
        </g>
      </g>
    </svg>
  </div>
</template>
