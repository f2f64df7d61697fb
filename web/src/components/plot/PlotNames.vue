<script setup lang="ts">
import { computed } from 'vue';
import { spreadLabels, type ChartPoint, type ChartSeries } from '@/lib/chart-model';
import { solvedPoints, usePlot } from './context';

/** Names at the ends of the curves: beside the last point that is in view, moved apart where they would touch. */
const props = defineProps<{ series: ChartSeries[] }>();
const { x, y, inner, inView } = usePlot();
const LINE = 13.5;
/** Names that fit one above the other; of more, only as many are written. */
const most = computed(() => Math.max(1, Math.floor(inner.value.h / LINE)));
const names = computed(() => {
  const ends = props.series.flatMap((s) => {
    if (s.label === '') return [];
    let last: ChartPoint | null = null;
    for (const p of solvedPoints(s)) if (inView(x.value(p.x), y.value(p.y)) && (!last || p.x > last.x)) last = p;
    return last ? [{ s, x: x.value(last.x), y: y.value(last.y) }] : [];
  });
  const every = Math.max(1, Math.ceil(ends.length / most.value));
  const few = ends.filter((_, i) => i % every === 0);
  const ys = spreadLabels(
    few.map((e) => e.y),
    LINE,
    4,
    inner.value.h,
  );
  // Many names stand in one column, so that none lies over a curve that goes on further.
  const column = few.length > 2 ? Math.max(...few.map((e) => e.x)) : 0;
  return few.map((e, i) => ({ ...e, at: ys[i], column: Math.max(column, e.x) }));
});
</script>

<template>
  <g>
    <g v-for="e in names" :key="e.s.id">
      <line
        v-if="Math.abs(e.at - e.y) > 5 || e.column > e.x + 5"
        :x1="e.x + 2"
        :x2="e.column + 7"
        :y1="e.y"
        :y2="e.at"
        :style="`stroke:${e.s.style.colour}`"
        stroke-width="0.8"
      />
      <text
        :x="e.column + 9"
        :y="e.at + 4"
        font-size="12.5"
        :font-weight="e.s.reference ? 400 : 600"
        :style="`fill:${e.s.style.colour}`"
      >
        {{ e.s.label }}
      </text>
    </g>
  </g>
</template>
