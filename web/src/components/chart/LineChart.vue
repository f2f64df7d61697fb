<script setup lang="ts">
import { onClickOutside } from '@vueuse/core';
import { toast } from 'vue-sonner';
import { MOST_POINTS } from '@veldtwind/core/report';
import { useAreaName } from '@/lib/area-name';
import { figureOf } from '@/lib/figure-of';
import { useReports } from '@/store/reports';
import { computed, ref } from 'vue';
import { exportCsv, exportPng, exportSvg } from '@/lib/chart-export';
import {
  domainOf,
  nearestPoint,
  type AxisSpec,
  type ChartBand,
  type ChartMark,
  type ChartSeries,
  type Limits,
} from '@/lib/chart-model';
import { solvedPoints } from '@/components/plot/context';
import PlotAxes from '@/components/plot/PlotAxes.vue';
import PlotBands from '@/components/plot/PlotBands.vue';
import PlotCurves from '@/components/plot/PlotCurves.vue';
import PlotCursor from '@/components/plot/PlotCursor.vue';
import PlotFrame from '@/components/plot/PlotFrame.vue';
import PlotMarks from '@/components/plot/PlotMarks.vue';
import PlotNames from '@/components/plot/PlotNames.vue';
import PlotNotes from '@/components/plot/PlotNotes.vue';
import { useNotes } from '@/store/notes';
import { usePreferences } from '@/store/preferences';
import AxisEditor from './AxisEditor.vue';
import ChartMenu from './ChartMenu.vue';
import NoteForm from './NoteForm.vue';
import QuantityMenu from './QuantityMenu.vue';

/**
 * Curves over one quantity, composed of the plot's parts. Named at their ends; crosshair linked to other figures through the points' tags; drag to
 * zoom, double-click to fit; limits by clicking an axis, quantities by clicking its name; notes; export.
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
  /** Where the shared cursor is: the value of the quantity that links the page's figures. */
  tag?: number | null;
  /** Said on the figure itself. */
  caption?: string;
  /** Digits of the crosshair's reading. */
  digits?: [number, number];
  /** A unit is as long along both axes. */
  equal?: boolean;
  /** Curves are named elsewhere, once for several figures. */
  nameless?: boolean;
}>();
const emit = defineEmits<{
  cursor: [tag: number | null];
  /** The point read was chosen, by a click or by Enter. */
  pick: [series: string, tag: number];
  'update:xQuantity': [id: string];
  'update:yQuantity': [id: string];
}>();

type Axis = 'x' | 'y';
const frame = ref<InstanceType<typeof PlotFrame> | null>(null);
const spec = (axis: Axis) => (axis === 'x' ? props.x : props.y);

/** Limits that were set by hand belong to the quantities on the axes. Those typed are remembered; a zoom is of the moment. */
type ByHand = Partial<Record<Axis, Limits & { of: string }>>;
const preferences = usePreferences();
const limitsKey = computed(() => `limits-${props.chartId}`);
const zoom = ref<ByHand>({});
const byHand = computed<ByHand>(() => ({ ...preferences.get<ByHand>(limitsKey.value, {}), ...zoom.value }));
const hand = (axis: Axis) => (byHand.value[axis]?.of === spec(axis).name ? byHand.value[axis] : undefined);
function setHand(axis: Axis, limits: Limits | undefined): void {
  const { [axis]: _, ...others } = zoom.value;
  zoom.value = others;
  const { [axis]: __, ...kept } = preferences.get<ByHand>(limitsKey.value, {});
  preferences.set(limitsKey.value, limits ? { ...kept, [axis]: { ...limits, of: spec(axis).name } } : kept);
}
const zoomTo = (x: [number, number], y: [number, number]) =>
  (zoom.value = {
    x: { min: x[0], max: x[1], step: null, of: spec('x').name },
    y: { min: y[0], max: y[1], step: null, of: spec('y').name },
  });
function fit(): void {
  zoom.value = {};
  if (Object.keys(preferences.get<ByHand>(limitsKey.value, {})).length) preferences.set(limitsKey.value, {});
}
const zoomed = computed(() => Boolean(hand('x') || hand('y')));
const curves = computed(() => props.series.map((s) => ({ ...s, points: solvedPoints(s) })));
const domain = (axis: Axis): [number, number] => {
  const set = hand(axis);
  return set ? [set.min, set.max] : domainOf(curves.value, axis, spec(axis));
};
// The same pair as long as its numbers are the same: whatever is drawn from it then stays as it is, as when only the cursor moves.
const kept = (next: [number, number], last: [number, number] | undefined) =>
  last?.[0] === next[0] && last[1] === next[1] ? last : next;
const domainX = computed<[number, number]>((last) => kept(domain('x'), last));
const domainY = computed<[number, number]>((last) => kept(domain('y'), last));
/** Room for the names at the right: as much as the longest needs, and no more than a quarter of a wide figure. */
const right = computed(() =>
  props.nameless
    ? 14
    : Math.min(
        Math.max(92, 0.26 * (frame.value?.width ?? 0)),
        16 + 6.6 * Math.max(1, ...props.series.map((s) => s.label.length)),
      ),
);

// The shared cursor, and the curve that is read beside it.
const lead = ref(0);
const readable = computed(() => curves.value.filter((s) => !s.reference && s.points.length > 0));
function point({ px, py }: { px: number; py: number }): void {
  const { x, y } = frame.value!;
  let best = Infinity;
  let tag: number | null = null;
  readable.value.forEach((s, i) => {
    for (const p of s.points) {
      const d = (x(p.x) - px) ** 2 + 0.15 * (y(p.y) - py) ** 2;
      if (d < best && p.tag !== undefined) {
        best = d;
        tag = p.tag;
        lead.value = i;
      }
    }
  });
  emit('cursor', tag);
}
function pick(): void {
  const own = readable.value[lead.value];
  if (own && props.tag != null) emit('pick', own.id, props.tag);
}
function key(e: KeyboardEvent): void {
  const list = readable.value;
  const own = list[lead.value] ?? list[0];
  if (!own) return;
  const at = props.tag == null ? null : nearestPoint(own, { tag: props.tag });
  if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
    lead.value = (lead.value + (e.key === 'ArrowDown' ? 1 : list.length - 1)) % list.length;
    if (props.tag == null) emit('cursor', list[lead.value].points[0].tag ?? null);
  } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
    const k = (at ? own.points.indexOf(at) : -1) + (e.key === 'ArrowRight' ? 1 : -1);
    emit('cursor', own.points[Math.min(own.points.length - 1, Math.max(0, k))].tag ?? null);
  } else if (e.key === 'Enter') pick();
  // It goes on: a figure that fills the page is put back by it.
  else if (e.key === 'Escape') return emit('cursor', null);
  else if (e.key === 'n') startNote();
  else if (e.key === 'f') fit();
  else return;
  e.preventDefault();
  e.stopPropagation();
}

const editor = ref<Axis | null>(null);
const choosing = ref<Axis | null>(null);
const panel = ref<HTMLElement | null>(null);
onClickOutside(panel, () => (editor.value = choosing.value = noteAt.value = null));
const choose = (axis: Axis, id: string) => {
  choosing.value = null;
  if (axis === 'x') emit('update:xQuantity', id);
  else emit('update:yQuantity', id);
};
const editorPlace = (axis: Axis) =>
  axis === 'x'
    ? { left: Math.max(0, (frame.value?.width ?? 400) / 2 - 110), top: Math.max(0, (frame.value?.height ?? 260) - 200) }
    : { left: 58, top: 8 };

const { notes, add, remove } = useNotes(
  () => props.chartId,
  () => ({ x: props.x.value ?? props.x.name, y: props.y.value ?? props.y.name }),
);
const noteAt = ref<{ x: number; y: number } | null>(null);
function startNote(): void {
  const own = readable.value[lead.value] ?? readable.value[0];
  const c = own && props.tag != null ? nearestPoint(own, { tag: props.tag }) : null;
  const { x, y, inner } = frame.value!;
  noteAt.value = c ? { x: c.x, y: c.y } : { x: x.invert(inner.w / 2), y: y.invert(inner.h / 2) };
}
function placeNote(text: string): void {
  if (noteAt.value) add(noteAt.value, text);
  noteAt.value = null;
}
const notePlace = computed(() => {
  const at = noteAt.value && frame.value ? frame.value.place(noteAt.value.x, noteAt.value.y) : { left: 0, top: 0 };
  return { ...at, left: Math.min((frame.value?.width ?? 400) - 230, at.left) };
});

const areaName = useAreaName();
/** The figure as it is now: its numbers stay when the project goes on. */
function putIntoReport(): void {
  const { title, caption = '', subtitle = '' } = props;
  const figure = figureOf(props);
  if (figure.series.reduce((sum, s) => sum + s.points.length, 0) > MOST_POINTS) {
    toast.error('The figure has too many points', { description: 'Show fewer curves.' });
    return;
  }
  useReports().put({
    kind: 'kept-figure',
    figure,
    from: areaName(),
    at: new Date().toISOString(),
    title: title.slice(0, 400),
    caption: [subtitle, caption].filter(Boolean).join(' ').slice(0, 400),
  });
  toast.success('The figure is in the report');
}
const axisName = (a: AxisSpec) => (a.unit ? `${a.name}, ${a.unit}` : a.name);
const summary = computed(
  () =>
    `${props.title}. ${axisName(props.y)} over ${axisName(props.x)}. ${props.series.length} curves: ${props.series.map((s) => s.label).join('; ')}.`,
);
const fileName = computed(() => `veldtwind-${props.chartId}`);
</script>

<template>
  <figure class="flex min-h-0 flex-col" :data-chart="chartId" :data-evidence="chartId">
    <figcaption class="flex items-baseline gap-2 pl-1">
      <div class="min-w-0 flex-1">
        <h3 class="truncate text-[15px] font-semibold">{{ title }}</h3>
        <p v-if="subtitle" class="truncate text-[12.5px] text-soft" :title="subtitle">{{ subtitle }}</p>
      </div>
      <button v-if="zoomed" class="link text-[12.5px]" @click="fit">Fit</button>
      <ChartMenu
        :title="title"
        :doubtful="series.some((s) => s.points.some((p) => p.status === 'doubtful'))"
        @png="exportPng(frame!.svg!, fileName)"
        @svg="exportSvg(frame!.svg!, fileName)"
        @csv="exportCsv(series, axisName(x), axisName(y), fileName)"
        @note="startNote"
        @report="putIntoReport"
      />
    </figcaption>
    <PlotFrame
      ref="frame"
      :x-domain="domainX"
      :y-domain="domainY"
      :x-axis="x"
      :y-axis="y"
      :right="right"
      :label="summary"
      :equal="equal"
      @point="point"
      @leave="emit('cursor', null)"
      @tap="pick"
      @zoom="zoomTo"
      @fit="fit"
      @key="key"
    >
      <PlotBands v-if="bands?.length" :bands="bands" :marks="marks" />
      <PlotAxes
        :x-axis="x"
        :y-axis="y"
        :x-step="hand('x')?.step"
        :y-step="hand('y')?.step"
        @limits="(axis) => (editor = axis)"
        @quantity="(axis) => (choosing = axis)"
      />
      <PlotCurves :series="series" />
      <PlotMarks v-if="marks?.length" :marks="marks" />
      <PlotNames v-if="!nameless" :series="series" />
      <PlotNotes :notes="notes" @remove="remove" />
      <slot name="handles" />
      <PlotCursor :series="curves" :at="tag ?? null" :lead="lead" :digits="digits ?? [2, 3]" />
      <text
        v-if="caption && frame"
        :x="frame.inner.w"
        y="-10"
        text-anchor="end"
        font-size="11.5"
        font-style="italic"
        style="fill: var(--soft); font-family: var(--font-serif)"
      >
        {{ caption }}
      </text>
      <template #over>
        <div ref="panel">
          <AxisEditor
            v-if="editor"
            :name="axisName(spec(editor))"
            :limits="{
              min: (editor === 'x' ? domainX : domainY)[0],
              max: (editor === 'x' ? domainX : domainY)[1],
              step: hand(editor)?.step ?? null,
            }"
            :place="editorPlace(editor)"
            @set="(l) => setHand(editor!, l)"
            @fit="setHand(editor!, undefined)"
            @close="editor = null"
          />
          <QuantityMenu
            v-if="choosing"
            :axis="choosing"
            :options="spec(choosing).options ?? []"
            :chosen="spec(choosing).value"
            @choose="(id) => choose(choosing!, id)"
          />
          <NoteForm v-if="noteAt" :place="notePlace" @place="placeNote" @close="noteAt = null" />
        </div>
      </template>
    </PlotFrame>
  </figure>
</template>
