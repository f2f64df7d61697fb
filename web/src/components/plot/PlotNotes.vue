<script setup lang="ts">
import { computed } from 'vue';
import type { ChartNote } from '@/lib/chart-model';
import { usePlot } from './context';
import HaloText from './HaloText.vue';

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
      <HaloText
        :x="n.px + 6"
        :y="n.py - 6"
        font-style="italic"
        colour="var(--ink)"
        style="font-family: var(--font-serif)"
      >
        {{ n.text }}
      </HaloText>
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
