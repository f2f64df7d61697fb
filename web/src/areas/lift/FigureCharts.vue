<script lang="ts">
import type { AxisSpec, ChartBand, ChartMark, ChartSeries } from '@/lib/chart-model';

/** A figure of the page: any quantity over any other. */
export interface LiftFigure {
  n: number;
  id: string;
  title: string;
  subtitle: string;
  x: string;
  y: string;
  series: ChartSeries[];
  bands: ChartBand[];
  marks: ChartMark[];
}
</script>
<script setup lang="ts">
import LineChart from '@/components/chart/LineChart.vue';

/** Figures beside each other with a cursor of their own. */
defineProps<{ figures: LiftFigure[]; axis: (id: string) => AxisSpec; caption: string; tag: number | null }>();
defineEmits<{ cursor: [tag: number | null]; axis: [key: string, id: string] }>();
</script>

<template>
  <div>
    <LineChart
      v-for="f in figures"
      :key="f.n"
      :chart-id="f.id"
      :title="f.title"
      :subtitle="f.subtitle"
      :series="f.series"
      :x="axis(f.x)"
      :y="axis(f.y)"
      :bands="f.bands"
      :marks="f.marks"
      :tag="tag"
      :caption="f.n === 1 ? caption : ''"
      @cursor="(a) => $emit('cursor', a)"
      @update:x-quantity="(q) => $emit('axis', `x${f.n}`, q)"
      @update:y-quantity="(q) => $emit('axis', `y${f.n}`, q)"
    />
  </div>
</template>
