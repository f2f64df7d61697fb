<script setup lang="ts">
import { computed } from 'vue';
import type { ChartMark } from '@/lib/chart-model';
import { usePlot } from './context';
import HaloText from './HaloText.vue';

/** Places with a word. */
const props = defineProps<{ marks: ChartMark[] }>();
const { x, y, inner, inView } = usePlot();
const shapes = computed(() =>
  props.marks.flatMap((m) => {
    const [px, py] = [x.value(m.x), y.value(m.y)];
    return inView(px, py) ? [{ ...m, px, py, left: px > inner.value.w - 90 }] : [];
  }),
);
</script>

<template>
  <g>
    <g v-for="(m, i) in shapes" :key="i">
      <circle :cx="m.px" :cy="m.py" r="4.2" :style="{ fill: m.colour, stroke: 'var(--paper)' }" stroke-width="1.4" />
      <HaloText
        :x="m.left ? m.px - 8 : m.px + 8"
        :y="m.falling && m.left ? m.py + 16 : m.py - 7"
        :text-anchor="m.left ? 'end' : 'start'"
        :size="12.5"
        :weight="600"
        :colour="m.colour"
      >
        {{ m.text }}
      </HaloText>
    </g>
  </g>
</template>
