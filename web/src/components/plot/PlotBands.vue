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
/** Width of a letter and height of a row of names, px. */
const LETTER = 6.2;
const ROW = 13;
/** Names with their places: those that would lie over each other stand in rows, and side by side at a horizontal band. */
const names = computed(() => {
  const placed: { x: number; y: number; half: number }[] = [];
  return shapes.value.map((b) => {
    const half = (LETTER * b.label.length) / 2;
    const at =
      b.axis === 'x'
        ? { x: b.start + b.size / 2, y: b.crowded ? inner.value.h - 6 : 12 }
        : { x: inner.value.w - 6 - half, y: b.start + 12 };
    const covered = () =>
      placed.some((p) => Math.abs(p.x - at.x) < p.half + half + 4 && Math.abs(p.y - at.y) < ROW - 1);
    for (let k = 0; k < shapes.value.length && covered(); k++)
      if (b.axis === 'x') at.y += b.crowded ? -ROW : ROW;
      else if (at.x > 3 * half + 8) at.x -= 2 * half + 8;
      else at.y += ROW;
    placed.push({ ...at, half });
    return at;
  });
});
</script>

<template>
  <g>
    <g v-for="(b, i) in shapes" :key="b.label">
      <rect
        :x="b.axis === 'x' ? b.start : 0"
        :y="b.axis === 'x' ? 0 : b.start"
        :width="b.axis === 'x' ? b.size : inner.w"
        :height="b.axis === 'x' ? inner.h : b.size"
        style="fill: var(--grass)"
        fill-opacity="0.13"
      />
      <text :x="names[i].x" :y="names[i].y" text-anchor="middle" font-size="11.5" style="fill: var(--grass-text)">
        {{ b.label }}
      </text>
    </g>
  </g>
</template>
