<script setup lang="ts">
import { computed } from 'vue';
import { usePlot } from './context';

/** Bars from a base line, each at its place along the x axis; stacked where several share one. */
const props = defineProps<{
  bars: { id: string; x: number; from: number; to: number; colour: string; label?: string }[];
  /** Width of a bar in units of the x axis. */
  wide: number;
}>();
const { x, y, clip } = usePlot();
const shapes = computed(() =>
  props.bars.map((b) => {
    const [left, right] = [x.value(b.x - props.wide / 2), x.value(b.x + props.wide / 2)].sort((m, n) => m - n);
    const [top, bottom] = [y.value(b.from), y.value(b.to)].sort((m, n) => m - n);
    return { ...b, left, width: right - left, top, height: bottom - top };
  }),
);
</script>

<template>
  <g :clip-path="`url(#${clip})`">
    <rect
      v-for="b in shapes"
      :key="b.id"
      :x="b.left"
      :y="b.top"
      :width="b.width"
      :height="b.height"
      :style="{ fill: b.colour, stroke: 'var(--paper)' }"
      stroke-width="1"
    >
      <title v-if="b.label">{{ b.label }}</title>
    </rect>
  </g>
</template>
