<script setup lang="ts">
import { computed } from 'vue';
import { spreadLabels, type ChartPoint, type ChartSeries } from '@/lib/chart-model';
import { solvedPoints, usePlot } from './context';

/** Names at the ends of the curves: beside the last point that is in view, moved apart where they would touch. */
const props = defineProps<{ series: ChartSeries[] }>();
const { x, y, inner, inView } = usePlot();
const LINE = 13.5;
/** Names that fit one above the other with room to lie near their curves; of more, only as many are written. */
const most = computed(() => Math.max(1, Math.floor((0.7 * inner.value.h) / LINE)));
/** Curves that end left of this share of the width are named where they end, as long as they are few. */
const NEAR = 0.72;
const MOST_NEAR = 4;
const names = computed(() => {
  const ends = props.series.flatMap((s) => {
    if (s.label === '') return [];
    let last: ChartPoint | null = null;
    for (const p of solvedPoints(s)) if (inView(x.value(p.x), y.value(p.y)) && (!last || p.x > last.x)) last = p;
    return last ? [{ s, x: x.value(last.x), y: y.value(last.y) }] : [];
  });
  const early = ends.filter((e) => e.x < NEAR * inner.value.w);
  const near =
    early.length <= MOST_NEAR && early.length < ends.length ? new Set(early) : new Set<(typeof ends)[number]>();
  const rest = ends.filter((e) => !near.has(e));
  const every = Math.max(1, Math.ceil(rest.length / most.value));
  const few = rest.filter((_, i) => i % every === 0);
  const ys = spreadLabels(
    few.map((e) => e.y),
    LINE,
    4,
    inner.value.h,
  );
  // Many names stand in one column, so that none lies over a curve that goes on further.
  const column = few.length > 2 ? Math.max(...few.map((e) => e.x)) : 0;
  return [
    ...few.map((e, i) => ({ ...e, at: ys[i], column: Math.max(column, e.x), near: false })),
    ...[...near].map((e) => ({ ...e, at: Math.min(inner.value.h - 4, e.y + 12), column: e.x - 4, near: true })),
  ];
});
</script>

<template>
  <g>
    <g v-for="e in names" :key="e.s.id">
      <line
        v-if="!e.near && (Math.abs(e.at - e.y) > 5 || e.column > e.x + 5)"
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
        :style="`fill:${e.s.style.colour}${e.near ? ';stroke:var(--paper)' : ''}`"
        :stroke-width="e.near ? 3 : undefined"
        paint-order="stroke"
      >
        {{ e.s.label }}
      </text>
    </g>
  </g>
</template>
