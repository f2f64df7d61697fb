<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue';
import { onClickOutside, useElementSize } from '@vueuse/core';
import { line, scaleLinear } from 'd3';
import { Download } from 'lucide-vue-next';
import { computed, ref, useId } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import { exportCsv, exportPng, exportSvg } from '@/lib/chart-export';
import {
  axisTicks,
  fitDomain,
  nearestPoint,
  spreadLabels,
  tickDigits,
  type AxisSpec,
  type ChartBand,
  type ChartMark,
  type ChartNote,
  type ChartPoint,
  type ChartSeries,
  type Limits,
} from '@/lib/chart-model';
import { usePreferences } from '@/store/preferences';
import AxisEditor from './AxisEditor.vue';
import MarkerShape from './MarkerShape.vue';

/**
 * Curves over one quantity. Named at their ends; crosshair linked to other figures through the points' tags; drag to zoom, double-click to fit;
 * limits by clicking an axis, quantities by clicking its name; notes; export.
 */
const props = defineProps<{
  chartId: string;
  title: string;
  subtitle?: string;
  series: ChartSeries[];
  x: AxisSpec;
  y: AxisSpec;
  bands?: ChartBand[];
  marks?: ChartMark[];
  /** Where the shared cursor is. */
  tag?: number | null;
  /** Said on the figure itself. */
  caption?: string;
  /** Digits of the crosshair's reading. */
  digits?: [number, number];
  tagName?: string;
}>();
const emit = defineEmits<{
  cursor: [tag: number | null];
  'update:xQuantity': [id: string];
  'update:yQuantity': [id: string];
}>();

const preferences = usePreferences();
const clip = useId();
const box = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const { width, height } = useElementSize(box, { width: 400, height: 260 });
const margin = computed(() => ({
  left: 54,
  right: Math.min(92, 16 + 6.6 * Math.max(1, ...props.series.map((s) => s.label.length))),
  top: 24,
  bottom: 38,
}));
const inner = computed(() => ({
  w: Math.max(60, width.value - margin.value.left - margin.value.right),
  h: Math.max(50, height.value - margin.value.top - margin.value.bottom),
}));

/** Limits that were set by hand belong to the quantities on the axes. */
const setX = ref<(Limits & { of: string }) | null>(null);
const setY = ref<(Limits & { of: string }) | null>(null);
const handX = computed(() => (setX.value?.of === props.x.name ? setX.value : null));
const handY = computed(() => (setY.value?.of === props.y.name ? setY.value : null));
const solved = computed(() =>
  props.series.map((s) => ({
    ...s,
    points: s.points.filter((p) => p.status !== 'unsolved' && Number.isFinite(p.x) && Number.isFinite(p.y)),
  })),
);
const domainX = computed<[number, number]>(() =>
  handX.value
    ? [handX.value.min, handX.value.max]
    : fitTight(
        solved.value.flatMap((s) => s.points.map((p) => p.x)),
        props.x.zero,
      ),
);
const domainY = computed<[number, number]>(() =>
  handY.value
    ? [handY.value.min, handY.value.max]
    : fitDomain(
        solved.value.flatMap((s) => s.points.map((p) => p.y)),
        props.y.zero,
      ),
);
function fitTight(values: number[], zero?: boolean): [number, number] {
  if (values.length === 0) return [0, 1];
  const low = Math.min(...values, zero ? 0 : Infinity);
  const high = Math.max(...values);
  return low === high ? [low - 1, high + 1] : [low, high];
}
const sx = computed(() => scaleLinear(domainX.value, props.x.invert ? [inner.value.w, 0] : [0, inner.value.w]));
const sy = computed(() => scaleLinear(domainY.value, props.y.invert ? [0, inner.value.h] : [inner.value.h, 0]));
const ticksX = computed(() => axisTicks(domainX.value, inner.value.w, 62, handX.value?.step));
const ticksY = computed(() => axisTicks(domainY.value, inner.value.h, 36, handY.value?.step));
const digitsX = computed(() => tickDigits(ticksX.value));
const digitsY = computed(() => tickDigits(ticksY.value));

const paths = computed(() => {
  const draw = line<ChartPoint>()
    .x((p) => sx.value(p.x))
    .y((p) => sy.value(p.y));
  return solved.value.map((s) => ({ ...s, d: draw(s.points) ?? '' }));
});
const manyPoints = (s: ChartSeries) => s.markers === false || s.reference || s.points.length > 60;

/** Names at the ends of the curves: beside the last point that is in view. */
const endLabels = computed(() => {
  const ends = solved.value.flatMap((s) => {
    if (s.label === '') return [];
    const inside = s.points.filter(
      (p) => p.x >= domainX.value[0] && p.x <= domainX.value[1] && p.y >= domainY.value[0] && p.y <= domainY.value[1],
    );
    const p = inside.reduce<ChartPoint | null>((best, q) => (!best || q.x > best.x ? q : best), null);
    return p ? [{ s, x: sx.value(p.x), y: sy.value(p.y) }] : [];
  });
  const ys = spreadLabels(
    ends.map((e) => e.y),
    13.5,
    4,
    inner.value.h,
  );
  return ends.map((e, i) => ({ ...e, at: ys[i] }));
});

const bandShapes = computed(() =>
  (props.bands ?? []).flatMap((b) => {
    const [d, s, end] =
      b.axis === 'x' ? [domainX.value, sx.value, inner.value.w] : [domainY.value, sy.value, inner.value.h];
    const from = Math.max(d[0], b.from ?? d[0]);
    const to = Math.min(d[1], b.to ?? d[1]);
    if (!(to > from)) return [];
    const [p, q] = [s(from), s(to)].sort((m, n) => m - n);
    return [{ ...b, p: Math.max(0, p), size: Math.min(end, q) - Math.max(0, p) }];
  }),
);
const inView = (px: number, py: number) => px >= -1 && px <= inner.value.w + 1 && py >= -1 && py <= inner.value.h + 1;
const markShapes = computed(() =>
  (props.marks ?? []).flatMap((m) => {
    const [px, py] = [sx.value(m.x), sy.value(m.y)];
    return inView(px, py) ? [{ ...m, px, py, left: px > inner.value.w - 90 }] : [];
  }),
);
const unsolved = computed(() =>
  props.series.flatMap((s) =>
    s.points.filter((p) => p.status === 'unsolved').map((p) => ({ x: sx.value(p.x), colour: s.style.colour })),
  ),
);

// The shared cursor, and the one reading beside it.
const hoverSeries = ref(0);
const cursorPoints = computed(() =>
  props.tag == null
    ? []
    : solved.value
        .filter((s) => !s.reference)
        .flatMap((s, i) => {
          const p = nearestPoint(s, { tag: props.tag });
          return p && inView(sx.value(p.x), sy.value(p.y)) ? [{ p, s, i }] : [];
        }),
);
const lead = computed(() => cursorPoints.value.find((c) => c.i === hoverSeries.value) ?? cursorPoints.value[0]);
const read = (p: ChartPoint) =>
  `${formatNumber(p.x, props.digits?.[0] ?? 2)}, ${formatNumber(p.y, props.digits?.[1] ?? 3)}`;

function local(e: PointerEvent | MouseEvent): { x: number; y: number } {
  const r = svg.value!.getBoundingClientRect();
  return { x: e.clientX - r.left - margin.value.left, y: e.clientY - r.top - margin.value.top };
}
const zoomBox = ref<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  const at = local(e);
  zoomBox.value = { x0: at.x, y0: at.y, x1: at.x, y1: at.y };
  svg.value!.setPointerCapture(e.pointerId);
}
function move(e: PointerEvent): void {
  const at = local(e);
  if (zoomBox.value) {
    zoomBox.value = {
      ...zoomBox.value,
      x1: Math.min(inner.value.w, Math.max(0, at.x)),
      y1: Math.min(inner.value.h, Math.max(0, at.y)),
    };
    return;
  }
  let best = Infinity;
  let tag: number | null = null;
  solved.value
    .filter((s) => !s.reference)
    .forEach((s, i) => {
      for (const p of s.points) {
        const d = (sx.value(p.x) - at.x) ** 2 + 0.15 * (sy.value(p.y) - at.y) ** 2;
        if (d < best && p.tag !== undefined) {
          best = d;
          tag = p.tag;
          hoverSeries.value = i;
        }
      }
    });
  emit('cursor', tag);
}
function up(): void {
  const z = zoomBox.value;
  zoomBox.value = null;
  if (!z || Math.abs(z.x1 - z.x0) < 6 || Math.abs(z.y1 - z.y0) < 6) return;
  const [a, b] = [sx.value.invert(z.x0), sx.value.invert(z.x1)].sort((m, n) => m - n);
  const [c, d] = [sy.value.invert(z.y0), sy.value.invert(z.y1)].sort((m, n) => m - n);
  setX.value = { min: a, max: b, step: null, of: props.x.name };
  setY.value = { min: c, max: d, step: null, of: props.y.name };
}
function fit(): void {
  setX.value = null;
  setY.value = null;
}
const zoomed = computed(() => Boolean(handX.value || handY.value));

function keys(e: KeyboardEvent): void {
  const list = solved.value.filter((s) => !s.reference && s.points.length > 0);
  if (list.length === 0 || e.target !== e.currentTarget) return;
  if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
    hoverSeries.value = (hoverSeries.value + (e.key === 'ArrowDown' ? 1 : list.length - 1)) % list.length;
    if (props.tag == null) emit('cursor', list[hoverSeries.value].points[0].tag ?? null);
  } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
    const points = (list[hoverSeries.value] ?? list[0]).points;
    const at =
      props.tag == null ? -1 : points.indexOf(nearestPoint(list[hoverSeries.value] ?? list[0], { tag: props.tag })!);
    emit(
      'cursor',
      points[Math.min(points.length - 1, Math.max(0, at + (e.key === 'ArrowRight' ? 1 : -1)))].tag ?? null,
    );
  } else if (e.key === 'Escape') emit('cursor', null);
  else if (e.key === 'n') startNote();
  else if (e.key === 'f') fit();
  else return;
  e.preventDefault();
  e.stopPropagation();
}

const editor = ref<'x' | 'y' | null>(null);
const panel = ref<HTMLElement | null>(null);
onClickOutside(panel, () => ((editor.value = null), (choosing.value = null), (noteAt.value = null)));
const choosing = ref<'x' | 'y' | null>(null);
const choose = (axis: 'x' | 'y', id: string) => {
  choosing.value = null;
  if (axis === 'x') emit('update:xQuantity', id);
  else emit('update:yQuantity', id);
};

const notes = computed(() => preferences.get<ChartNote[]>(`notes-${props.chartId}`, []));
const noteAt = ref<{ x: number; y: number } | null>(null);
const noteText = ref('');
function startNote(): void {
  const c = lead.value?.p;
  noteAt.value = c
    ? { x: c.x, y: c.y }
    : { x: sx.value.invert(inner.value.w / 2), y: sy.value.invert(inner.value.h / 2) };
  noteText.value = '';
}
function saveNote(): void {
  if (noteAt.value && noteText.value.trim())
    preferences.set(`notes-${props.chartId}`, [
      ...notes.value,
      { ...noteAt.value, text: noteText.value.trim().slice(0, 80) },
    ]);
  noteAt.value = null;
}
const dropNote = (i: number) =>
  preferences.set(
    `notes-${props.chartId}`,
    notes.value.filter((_, k) => k !== i),
  );
const noteShapes = computed(() =>
  notes.value.flatMap((n, i) =>
    inView(sx.value(n.x), sy.value(n.y)) ? [{ ...n, i, px: sx.value(n.x), py: sy.value(n.y) }] : [],
  ),
);

const axisName = (a: AxisSpec) => (a.unit ? `${a.name}, ${a.unit}` : a.name);
const summary = computed(
  () =>
    `${props.title}. ${axisName(props.y)} over ${axisName(props.x)}. ${props.series.length} curves: ${props.series.map((s) => s.label).join('; ')}.`,
);
const fileName = computed(() => `veldtwind-${props.chartId}`);
</script>

<template>
  <figure class="flex min-h-0 flex-col" :data-chart="chartId">
    <figcaption class="flex items-baseline gap-2 pl-1">
      <div class="min-w-0 flex-1">
        <h3 class="truncate text-[15px] font-semibold">{{ title }}</h3>
        <p v-if="subtitle" class="truncate text-[12.5px] text-soft" :title="subtitle">{{ subtitle }}</p>
      </div>
      <button v-if="zoomed" class="link text-[12.5px]" @click="fit">Fit</button>
      <Menu as="div" class="relative">
        <MenuButton class="icon-btn" :aria-label="`Export or annotate ${title}`" title="Export, note"
          ><Download :size="13"
        /></MenuButton>
        <MenuItems class="menu absolute right-0 mt-1">
          <MenuItem v-slot="{ active }"
            ><button class="menu-item" :data-on="active" @click="exportPng(svg!, fileName)">
              Picture (PNG)
            </button></MenuItem
          >
          <MenuItem v-slot="{ active }"
            ><button class="menu-item" :data-on="active" @click="exportSvg(svg!, fileName)">
              Drawing (SVG)
            </button></MenuItem
          >
          <MenuItem v-slot="{ active }"
            ><button class="menu-item" :data-on="active" @click="exportCsv(series, axisName(x), axisName(y), fileName)">
              Numbers (CSV)
            </button></MenuItem
          >
          <MenuItem v-slot="{ active }"
            ><button class="menu-item" :data-on="active" @click="startNote">Place a note</button></MenuItem
          >
        </MenuItems>
      </Menu>
    </figcaption>
    <div ref="box" class="relative min-h-0 flex-1">
      <svg
        ref="svg"
        class="absolute inset-0 block touch-none"
        :width="width"
        :height="height"
        role="img"
        :aria-label="summary"
        tabindex="0"
        style="font-family: var(--font-sans)"
        @pointerdown="down"
        @pointermove="move"
        @pointerup="up"
        @pointerleave="!zoomBox && emit('cursor', null)"
        @dblclick="fit"
        @keydown="keys"
      >
        <clipPath :id="clip"><rect :width="inner.w" :height="inner.h" x="-0.5" y="-0.5" /></clipPath>
        <g :transform="`translate(${margin.left},${margin.top})`">
          <rect :width="inner.w" :height="inner.h" fill="transparent" />
          <g v-for="b in bandShapes" :key="b.label">
            <rect
              v-if="b.axis === 'x'"
              :x="b.p"
              :width="b.size"
              y="0"
              :height="inner.h"
              style="fill: var(--grass)"
              fill-opacity="0.13"
            />
            <rect
              v-else
              x="0"
              :width="inner.w"
              :y="b.p"
              :height="b.size"
              style="fill: var(--grass)"
              fill-opacity="0.13"
            />
            <text
              v-if="b.axis === 'x'"
              :x="b.p + b.size / 2"
              y="12"
              text-anchor="middle"
              font-size="11.5"
              style="fill: var(--grass-text)"
            >
              {{ b.label }}
            </text>
            <text v-else x="6" :y="b.p + 12" font-size="11.5" style="fill: var(--grass-text)">{{ b.label }}</text>
          </g>
          <g>
            <g v-for="t in ticksY" :key="`y${t}`" :transform="`translate(0,${sy(t)})`">
              <line x1="0" :x2="inner.w" :style="{ stroke: t === 0 ? 'var(--faint)' : 'var(--rule-light)' }" />
              <text x="-8" y="4" text-anchor="end" font-size="12" style="fill: var(--soft)">
                {{ formatNumber(t, digitsY) }}
              </text>
            </g>
            <line
              v-if="domainX[0] < 0 && domainX[1] > 0"
              :x1="sx(0)"
              :x2="sx(0)"
              y1="0"
              :y2="inner.h"
              style="stroke: var(--rule)"
            />
            <line x1="0" :x2="inner.w" :y1="inner.h" :y2="inner.h" style="stroke: var(--faint)" />
            <g v-for="t in ticksX" :key="`x${t}`" :transform="`translate(${sx(t)},${inner.h})`">
              <line y2="4" style="stroke: var(--faint)" />
              <text y="17" text-anchor="middle" font-size="12" style="fill: var(--soft)">
                {{ formatNumber(t, digitsX) }}
              </text>
            </g>
            <rect
              data-screen-only
              :x="0"
              :y="inner.h"
              :width="inner.w"
              height="20"
              fill="transparent"
              class="cursor-pointer"
              role="button"
              :aria-label="`Limits of ${axisName(x)}`"
              @pointerdown.stop
              @dblclick.stop
              @click.stop="editor = 'x'"
            >
              <title>Set limits and step</title>
            </rect>
            <rect
              data-screen-only
              :x="-margin.left"
              y="10"
              :width="margin.left - 4"
              :height="inner.h - 10"
              fill="transparent"
              class="cursor-pointer"
              role="button"
              :aria-label="`Limits of ${axisName(y)}`"
              @pointerdown.stop
              @dblclick.stop
              @click.stop="editor = 'y'"
            >
              <title>Set limits and step</title>
            </rect>
          </g>
          <g :clip-path="`url(#${clip})`">
            <line
              v-for="(u, i) in unsolved"
              :key="`u${i}`"
              :x1="u.x"
              :x2="u.x"
              :y1="inner.h - 7"
              :y2="inner.h"
              :style="{ stroke: u.colour }"
              stroke-width="1.5"
            />
            <path
              v-for="s in paths"
              :key="s.id"
              :d="s.d"
              fill="none"
              :style="{ stroke: s.style.colour }"
              :stroke-width="s.reference ? 1.1 : 2.1"
              :stroke-dasharray="s.style.dash"
              stroke-linejoin="round"
              :data-series="s.id"
            />
          </g>
          <template v-for="s in solved" :key="`m${s.id}`">
            <template v-if="!manyPoints(s)">
              <template v-for="(p, i) in s.points" :key="i">
                <MarkerShape
                  v-if="inView(sx(p.x), sy(p.y))"
                  :x="sx(p.x)"
                  :y="sy(p.y)"
                  :marker="s.style.marker"
                  :colour="s.style.colour"
                  :size="2.1"
                  :open="p.status === 'doubtful'"
                  :struck="p.status === 'doubtful'"
                />
              </template>
            </template>
          </template>
          <g v-for="(m, i) in markShapes" :key="`k${i}`">
            <circle
              :cx="m.px"
              :cy="m.py"
              r="4.2"
              :style="{ fill: m.colour, stroke: 'var(--paper)' }"
              stroke-width="1.4"
            />
            <text
              :x="m.left ? m.px - 8 : m.px + 8"
              :y="m.py - 7"
              :text-anchor="m.left ? 'end' : 'start'"
              font-size="12.5"
              font-weight="600"
              :style="{ fill: m.colour, stroke: 'var(--paper)' }"
              stroke-width="3"
              paint-order="stroke"
            >
              {{ m.text }}
            </text>
          </g>
          <g v-for="(e, i) in endLabels" :key="`e${i}`">
            <line
              v-if="Math.abs(e.at - e.y) > 5"
              :x1="e.x + 2"
              :x2="e.x + 7"
              :y1="e.y"
              :y2="e.at"
              :style="{ stroke: e.s.style.colour }"
              stroke-width="0.8"
            />
            <text
              :x="e.x + 9"
              :y="e.at + 4"
              font-size="12.5"
              :font-weight="e.s.reference ? 400 : 600"
              :style="{ fill: e.s.style.colour }"
            >
              {{ e.s.label }}
            </text>
          </g>
          <g v-for="n in noteShapes" :key="`n${n.i}`">
            <circle :cx="n.px" :cy="n.py" r="2" style="fill: var(--ink)" />
            <text
              :x="n.px + 6"
              :y="n.py - 6"
              font-size="12"
              font-style="italic"
              style="fill: var(--ink); stroke: var(--paper); font-family: var(--font-serif)"
              stroke-width="3"
              paint-order="stroke"
            >
              {{ n.text }}
            </text>
            <text
              data-screen-only
              :x="n.px - 9"
              :y="n.py + 4"
              font-size="11"
              class="cursor-pointer"
              style="fill: var(--soft)"
              role="button"
              :aria-label="`Remove the note ${n.text}`"
              @pointerdown.stop
              @click.stop="dropNote(n.i)"
            >
              ×
            </text>
          </g>
          <g v-if="lead" data-screen-only pointer-events="none">
            <line
              :x1="sx(lead.p.x)"
              :x2="sx(lead.p.x)"
              y1="0"
              :y2="inner.h"
              style="stroke: var(--soft)"
              stroke-dasharray="2 3"
              stroke-width="0.8"
            />
            <circle
              v-for="c in cursorPoints"
              :key="c.s.id"
              :cx="sx(c.p.x)"
              :cy="sy(c.p.y)"
              r="4.6"
              fill="none"
              :style="{ stroke: c.s.style.colour }"
              stroke-width="1.6"
            />
            <text
              :x="sx(lead.p.x) + (sx(lead.p.x) > inner.w - 96 ? -7 : 7)"
              :y="Math.min(inner.h - 6, Math.max(26, sy(lead.p.y) + 18))"
              :text-anchor="sx(lead.p.x) > inner.w - 96 ? 'end' : 'start'"
              font-size="12"
              style="fill: var(--ink); stroke: var(--paper)"
              stroke-width="3.5"
              paint-order="stroke"
            >
              {{ read(lead.p) }}
            </text>
          </g>
          <rect
            v-if="zoomBox && Math.abs(zoomBox.x1 - zoomBox.x0) > 3"
            :x="Math.min(zoomBox.x0, zoomBox.x1)"
            :y="Math.min(zoomBox.y0, zoomBox.y1)"
            :width="Math.abs(zoomBox.x1 - zoomBox.x0)"
            :height="Math.abs(zoomBox.y1 - zoomBox.y0)"
            style="fill: var(--ochre); stroke: var(--ochre)"
            fill-opacity="0.12"
          />
          <g
            :role="y.options ? 'button' : undefined"
            :aria-label="y.options ? `Quantity on the vertical axis: ${axisName(y)}` : undefined"
            :class="y.options ? 'cursor-pointer' : ''"
            @pointerdown.stop
            @dblclick.stop
            @click.stop="y.options && (choosing = 'y')"
          >
            <text :x="-margin.left + 6" y="-10" font-size="12.5" font-weight="600" style="fill: var(--ink)">
              {{ axisName(y) }}
              <tspan v-if="y.options" data-screen-only dx="3" style="fill: var(--ochre-text)">▾</tspan>
            </text>
          </g>
          <g
            :role="x.options ? 'button' : undefined"
            :aria-label="x.options ? `Quantity on the horizontal axis: ${axisName(x)}` : undefined"
            :class="x.options ? 'cursor-pointer' : ''"
            @pointerdown.stop
            @dblclick.stop
            @click.stop="x.options && (choosing = 'x')"
          >
            <text
              :x="inner.w"
              :y="inner.h + 33"
              text-anchor="end"
              font-size="12.5"
              font-weight="600"
              style="fill: var(--ink)"
            >
              {{ axisName(x) }}
              <tspan v-if="x.options" data-screen-only dx="3" style="fill: var(--ochre-text)">▾</tspan>
            </text>
          </g>
          <text
            v-if="caption"
            :x="inner.w"
            y="-10"
            text-anchor="end"
            font-size="11.5"
            font-style="italic"
            style="fill: var(--soft); font-family: var(--font-serif)"
          >
            {{ caption }}
          </text>
        </g>
      </svg>
      <div ref="panel">
        <AxisEditor
          v-if="editor === 'x'"
          :name="axisName(x)"
          :limits="{ min: domainX[0], max: domainX[1], step: handX?.step ?? null }"
          :place="{ left: Math.max(0, width / 2 - 110), top: Math.max(0, height - 200) }"
          @set="(l) => (setX = { ...l, of: x.name })"
          @fit="setX = null"
          @close="editor = null"
        />
        <AxisEditor
          v-if="editor === 'y'"
          :name="axisName(y)"
          :limits="{ min: domainY[0], max: domainY[1], step: handY?.step ?? null }"
          :place="{ left: 58, top: 8 }"
          @set="(l) => (setY = { ...l, of: y.name })"
          @fit="setY = null"
          @close="editor = null"
        />
        <div
          v-if="choosing"
          class="menu absolute max-h-56 overflow-y-auto"
          :style="choosing === 'x' ? { right: '20px', bottom: '28px' } : { left: '8px', top: '20px' }"
          role="menu"
        >
          <button
            v-for="o in (choosing === 'x' ? x.options : y.options) ?? []"
            :key="o.id"
            class="menu-item"
            role="menuitem"
            :data-on="o.id === (choosing === 'x' ? x.value : y.value)"
            @click="choose(choosing!, o.id)"
          >
            {{ o.name }}
          </button>
        </div>
        <form
          v-if="noteAt"
          class="menu absolute flex gap-1 p-2"
          :style="{
            left: `${Math.min(width - 230, margin.left + sx(noteAt.x))}px`,
            top: `${margin.top + sy(noteAt.y)}px`,
          }"
          @submit.prevent="saveNote"
          @keydown.esc="noteAt = null"
        >
          <input
            v-model="noteText"
            autofocus
            maxlength="80"
            class="w-40 rounded border border-rule bg-field px-2"
            placeholder="Note"
            aria-label="Note"
          />
          <button class="btn">Place</button>
        </form>
      </div>
    </div>
  </figure>
</template>
