<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { extent } from 'd3-array';
import { computed, ref } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import HaloText from '@/components/plot/HaloText.vue';
import type { ParallelAxis, ParallelLine } from '@/lib/parallel';
import { within } from '@/lib/parallel';

/**
 * Many quantities of many things at once: an upright axis for each quantity, a line for each thing. Each axis has two handles that keep only what lies
 * between them; what is kept stands out.
 */
const props = defineProps<{
  title: string;
  lines: ParallelLine[];
  axes: ParallelAxis[];
  /** Limits by axis; an open side is null. */
  ranges: Record<string, [number | null, number | null]>;
  selected?: string | null;
}>();
const emit = defineEmits<{ ranges: [ranges: Record<string, [number | null, number | null]>]; pick: [id: string] }>();

const root = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(root);
const PAD = { left: 46, right: 60, top: 46, bottom: 26 };
const over = ref<string | null>(null);
const domains = computed(() =>
  Object.fromEntries(
    props.axes.map((a) => {
      const [low = 0, high = 0] = extent(props.lines, (l) => l.values[a.id] ?? undefined);
      return [a.id, low === high ? [low - Math.abs(low || 1) * 0.1, high + Math.abs(high || 1) * 0.1] : [low, high]];
    }),
  ),
);
const inner = computed(() => Math.max(40, height.value - PAD.top - PAD.bottom));
/** Axes that no line has a value on have nothing to limit. */
const empty = computed(
  () => new Set(props.axes.filter((a) => !props.lines.some((l) => l.values[a.id] != null)).map((a) => a.id)),
);
const xOf = (i: number) =>
  PAD.left + (props.axes.length < 2 ? 0 : (i * (width.value - PAD.left - PAD.right)) / (props.axes.length - 1));
const yOf = (id: string, v: number) => {
  const [low, high] = domains.value[id];
  return PAD.top + inner.value * (1 - (v - low) / (high - low));
};
const valueOf = (id: string, y: number) => {
  const [low, high] = domains.value[id];
  return low + (1 - (y - PAD.top) / inner.value) * (high - low);
};
const path = (l: ParallelLine) => {
  let d = '';
  let broken = true;
  props.axes.forEach((a, i) => {
    const v = l.values[a.id];
    if (v === null || v === undefined || !Number.isFinite(v)) {
      broken = true;
      return;
    }
    d += `${broken ? 'M' : 'L'}${xOf(i).toFixed(1)} ${yOf(a.id, v).toFixed(1)}`;
    broken = false;
  });
  return d;
};
const kept = computed(() => new Set(props.lines.filter((l) => within(l, props.ranges)).map((l) => l.id)));
const drawn = computed(() => {
  const rank = (l: ParallelLine) => (l.id === over.value || l.id === props.selected ? 2 : kept.value.has(l.id) ? 1 : 0);
  return props.lines.map((l) => ({ ...l, d: path(l), rank: rank(l) })).sort((a, b) => a.rank - b.rank);
});
const limit = (id: string, side: 0 | 1) => props.ranges[id]?.[side] ?? domains.value[id][side];
function setLimit(id: string, side: 0 | 1, value: number): void {
  const [low, high] = domains.value[id];
  const other = limit(id, side === 0 ? 1 : 0);
  const held = side === 0 ? Math.min(value, other) : Math.max(value, other);
  const open = side === 0 ? held <= low : held >= high;
  const next: [number | null, number | null] = [...(props.ranges[id] ?? [null, null])];
  next[side] = open ? null : Number(held.toPrecision(6));
  emit('ranges', { ...props.ranges, [id]: next });
}
const clear = (id: string) => emit('ranges', { ...props.ranges, [id]: [null, null] });
let dragging: { id: string; side: 0 | 1 } | null = null;
function down(e: PointerEvent, id: string, side: 0 | 1): void {
  dragging = { id, side };
  (e.currentTarget as Element).setPointerCapture(e.pointerId);
}
function move(e: PointerEvent): void {
  if (!dragging || !root.value) return;
  setLimit(dragging.id, dragging.side, valueOf(dragging.id, e.clientY - root.value.getBoundingClientRect().top));
}
function key(e: KeyboardEvent, id: string, side: 0 | 1): void {
  const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 5, PageDown: -5 }[e.key];
  if (e.key === 'Escape' || e.key === 'Delete') clear(id);
  else if (by === undefined) return;
  else {
    const [low, high] = domains.value[id];
    setLimit(id, side, limit(id, side) + (by * (high - low)) / 50);
  }
  e.preventDefault();
  e.stopPropagation();
}
const shown = (a: ParallelAxis, v: number) => formatNumber(v, a.digits);
const any = computed(() => Object.values(props.ranges).some((r) => r[0] !== null || r[1] !== null));
</script>

<template>
  <figure class="flex min-h-0 flex-col" data-chart="parallel">
    <figcaption class="flex items-baseline gap-2 pl-1">
      <h3 class="min-w-0 flex-1 truncate text-[15px] font-semibold">{{ title }}</h3>
      <span class="text-[12.5px] text-soft" role="status" data-test="parallel-kept"
        >{{ kept.size }} of {{ lines.length }} within the limits</span
      >
      <button v-if="any" class="link text-[12.5px]" @click="emit('ranges', {})">Open all limits</button>
    </figcaption>
    <div ref="root" class="relative min-h-0 flex-1 overflow-hidden">
      <svg v-if="width > 0" class="absolute inset-0" :width="width" :height="height" role="group" :aria-label="title">
        <path
          v-for="l in drawn"
          :key="l.id"
          :d="l.d"
          fill="none"
          :data-line="l.id"
          :data-kept="l.rank > 0 ? '' : undefined"
          :style="{ stroke: l.rank === 0 ? 'var(--rule)' : l.style.colour, cursor: 'pointer' }"
          :stroke-width="l.rank === 2 ? 3 : l.rank === 1 ? 1.5 : 1"
          :stroke-dasharray="l.rank === 0 ? undefined : l.style.dash"
          @pointerenter="over = l.id"
          @pointerleave="over = null"
          @click="emit('pick', l.id)"
        >
          <title>{{ l.label }}</title>
        </path>
        <g v-for="(a, i) in axes" :key="a.id">
          <line
            :x1="xOf(i)"
            :x2="xOf(i)"
            :y1="PAD.top"
            :y2="PAD.top + inner"
            style="stroke: var(--faint)"
            @dblclick="clear(a.id)"
          />
          <text
            :x="xOf(i)"
            :y="i % 2 ? 30 : 14"
            text-anchor="middle"
            font-size="12"
            font-weight="600"
            style="fill: var(--ink)"
          >
            {{ a.name }}
          </text>
          <text
            v-if="empty.has(a.id)"
            :x="xOf(i)"
            :y="PAD.top + inner + 14"
            text-anchor="middle"
            font-size="11"
            style="fill: var(--soft)"
          >
            not reached
          </text>
          <HaloText
            v-for="side in empty.has(a.id) ? [] : ([0, 1] as const)"
            :key="side"
            :x="xOf(i) + 7"
            :y="yOf(a.id, domains[a.id][side]) + (side ? 10 : -3)"
            :size="11"
            colour="var(--soft)"
          >
            {{ shown(a, domains[a.id][side]) }}
          </HaloText>
          <g
            v-for="side in empty.has(a.id) ? [] : ([0, 1] as const)"
            :key="`h${side}`"
            role="slider"
            tabindex="0"
            class="outline-none focus-visible:[&>path]:stroke-2"
            aria-orientation="vertical"
            :aria-label="`${a.name}, ${side ? 'at most' : 'at least'}`"
            :aria-valuemin="domains[a.id][0]"
            :aria-valuemax="domains[a.id][1]"
            :aria-valuenow="limit(a.id, side)"
            :aria-valuetext="shown(a, limit(a.id, side))"
            style="cursor: ns-resize"
            @pointerdown="(e) => down(e, a.id, side)"
            @pointermove="move"
            @pointerup="dragging = null"
            @keydown="(e) => key(e, a.id, side)"
          >
            <path
              :transform="`translate(${xOf(i)} ${yOf(a.id, limit(a.id, side))})`"
              :d="side ? 'M-7 0 H7 L0 -9 Z' : 'M-7 0 H7 L0 9 Z'"
              :style="{
                fill: ranges[a.id]?.[side] == null ? 'var(--leaf)' : 'var(--ochre)',
                stroke: 'var(--ink)',
              }"
              stroke-width="0.8"
            />
            <HaloText
              v-if="ranges[a.id]?.[side] != null"
              :x="xOf(i) - 9"
              :y="yOf(a.id, limit(a.id, side)) + 4"
              :size="11"
              :weight="600"
              text-anchor="end"
              colour="var(--ochre)"
            >
              {{ shown(a, limit(a.id, side)) }}
            </HaloText>
          </g>
        </g>
        <HaloText v-if="over" :x="PAD.left" :y="height - 6" colour="var(--ink)">
          {{ lines.find((l) => l.id === over)?.label ?? '' }}
        </HaloText>
      </svg>
    </div>
  </figure>
</template>
