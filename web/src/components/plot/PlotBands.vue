<script setup lang="ts">
import { computed } from 'vue';
import type { ChartBand, ChartMark } from '@/lib/chart-model';
import { usePlot } from './context';

/** Stretches of an axis that are wanted. A name makes room for a mark that stands where it would be. */
const props = defineProps<{ bands: ChartBand[]; marks?: ChartMark[] }>();
/** Height of a line of words. */
const LINE = 26;
const { x, y, inner } = usePlot();
const shapes = computed(() =>
  props.bands.flatMap((b) => {
    const scale = b.axis === 'x' ? x.value : y.value;
    const end = b.axis === 'x' ? inner.value.w : inner.value.h;
    const [low, high] = scale
      .domain()
      .slice()
      .sort((m, n) => m - n);
    const from = Math.max(low, b.from ?? low);
    const to = Math.min(high, b.to ?? high);
    if (!(to > from)) return [];
    const [p, q] = [scale(from), scale(to)].sort((m, n) => m - n);
    const start = Math.max(0, p);
    const size = Math.min(end, q) - start;
    const crowded =
      b.axis === 'x' &&
      props.marks?.some((m) => x.value(m.x) > start - LINE && x.value(m.x) < start + size && y.value(m.y) < LINE);
    return [{ ...b, start, size, crowded }];
  }),
);
</script>

<template>
  <g>
    <g v-for="b in shapes" :key="b.label">
      <rect
        :x="b.axis === 'x' ? b.start : 0"
        :y="b.axis === 'x' ? 0 : b.start"
        :width="b.axis === 'x' ? b.size : inner.w"
        :height="b.axis === 'x' ? inner.h : b.size"
        style="fill: var(--grass)"
        fill-opacity="0.13"
      />
      <text
        :x="b.axis === 'x' ? b.start + b.size / 2 : inner.w - 6"
        :y="b.crowded ? inner.h - 6 : b.axis === 'x' ? 12 : b.start + 12"
        :text-anchor="b.axis === 'x' ? 'middle' : 'end'"
        font-size="11.5"
        style="fill: var(--grass-text)"
      >
        {{ b.label }}
      </text>
    </g>
  </g>
</template>
