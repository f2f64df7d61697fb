<script setup lang="ts">
import { computed } from 'vue';
import type { ChartNote } from '@/lib/chart-model';
import { usePlot } from './context';

/** Notes on a figure, where they were placed. */
const props = defineProps<{ notes: ChartNote[] }>();
defineEmits<{ remove: [id: string] }>();
const { x, y, inView } = usePlot();
const shapes = computed(() =>
  props.notes.flatMap((n) => {
    const [px, py] = [x.value(n.x), y.value(n.y)];
    return inView(px, py) ? [{ ...n, px, py }] : [];
  }),
);
</script>

<template>
  <g>
    <g v-for="n in shapes" :key="n.id">
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
        @click.stop="$emit('remove', n.id)"
      >
        ×
      </text>
    </g>
  </g>
</template>
