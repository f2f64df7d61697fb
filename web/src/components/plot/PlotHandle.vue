<script setup lang="ts">
import { computed, onBeforeUnmount, shallowRef } from 'vue';
import { usePlot, type PlotScale } from './context';
import HaloText from './HaloText.vue';

/** A place on a plot that can be dragged, or moved by the arrow keys: along one axis, or over both. */
const props = defineProps<{
  x: number;
  y: number;
  along: 'x' | 'y' | 'both';
  /** What it is, for those who do not see it. */ label: string;
  /** What is said beside it while it moves. */ text: (at: { x: number; y: number }) => string;
  /** What an arrow key changes: a share along a logarithmic axis, a step along the other. */
  steps: { x: number; y: number };
  colour?: string;
}>();
const emit = defineEmits<{ preview: [at: { x: number; y: number }]; commit: [at: { x: number; y: number }] }>();
const { x: across, y: upward, inView, inner, handles } = usePlot();
handles.value++;
onBeforeUnmount(() => handles.value--);
/** While it is dragged: the scales at the beginning, since the plot may be fitted anew under the pointer. */
const held = shallowRef<{ x: PlotScale; y: PlotScale; px: number; py: number; at: { x: number; y: number } } | null>(
  null,
);
const place = computed(() =>
  held.value ? { px: held.value.px, py: held.value.py } : { px: across.value(props.x), py: upward.value(props.y) },
);
const shown = computed(() => Number.isFinite(place.value.px) && inView(place.value.px, place.value.py));
const cursor = computed(() => ({ x: 'ew-resize', y: 'ns-resize', both: 'move' })[props.along]);
let start = { x: 0, y: 0 };
function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  e.stopPropagation();
  (e.target as Element).setPointerCapture(e.pointerId);
  start = { x: e.clientX - place.value.px, y: e.clientY - place.value.py };
  held.value = { x: across.value.copy(), y: upward.value.copy(), ...place.value, at: { x: props.x, y: props.y } };
}
function move(e: PointerEvent): void {
  const h = held.value;
  if (!h) return;
  e.stopPropagation();
  const within = (v: number, most: number) => Math.min(most, Math.max(0, v));
  const px = props.along === 'y' ? h.px : within(e.clientX - start.x, inner.value.w);
  const py = props.along === 'x' ? h.py : within(e.clientY - start.y, inner.value.h);
  const at = {
    x: props.along === 'y' ? h.at.x : h.x.invert(px),
    y: props.along === 'x' ? h.at.y : h.y.invert(py),
  };
  held.value = { ...h, px, py, at };
  emit('preview', at);
}
function up(e: PointerEvent): void {
  const h = held.value;
  if (!h) return;
  e.stopPropagation();
  held.value = null;
  if (h.at.x !== props.x || h.at.y !== props.y) emit('commit', h.at);
}
function key(e: KeyboardEvent): void {
  const { steps, along } = props;
  const [right, left] = [e.key === 'ArrowRight', e.key === 'ArrowLeft'];
  const [above, below] = [e.key === 'ArrowUp', e.key === 'ArrowDown'];
  const at = { x: props.x, y: props.y };
  if (along !== 'y' && (right || left)) at.x *= right ? 1 + steps.x : 1 / (1 + steps.x);
  else if (along !== 'x' && (above || below)) at.y += above ? steps.y : -steps.y;
  else return;
  e.preventDefault();
  e.stopPropagation();
  emit('commit', at);
}
</script>

<template>
  <g v-if="shown">
    <circle
      class="focus:outline-2"
      :cx="place.px"
      :cy="place.py"
      r="7"
      stroke-width="2.5"
      :style="{ fill: 'var(--paper)', stroke: colour ?? 'var(--ochre)', cursor }"
      tabindex="0"
      role="slider"
      :aria-label="label"
      :aria-valuenow="Number((along === 'y' ? y : x).toPrecision(4))"
      :aria-valuetext="text({ x, y })"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="held = null"
      @dblclick.stop
      @keydown="key"
    />
    <HaloText
      v-if="held"
      :x="place.px"
      :y="place.py > 30 ? place.py - 14 : place.py + 22"
      text-anchor="middle"
      :size="12.5"
      :weight="600"
      colour="var(--ink)"
    >
      {{ text(held.at) }}
    </HaloText>
  </g>
</template>
