<script setup lang="ts">
import { DEG } from '@veldtwind/core/numerics';
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { fitDrawing, pairs, spanOf } from '@/lib/drawing-frame';
import { LOWER, UPPER } from '@/lib/series-style';
import type { PanelView } from '@veldtwind/core/shaping';

/** Panel ends on the outline, the nose drawn large, and length and angle of the panels along the chord. */
const props = defineProps<{ panels: PanelView; name: string }>();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box, { width: 700, height: 220 });
const cursor = ref<number | null>(null);
const quantity = ref<'length' | 'angle' | 'leaves'>('angle');
const NAMES = {
  length: 'panel length, % c',
  angle: 'angle between neighbours, °',
  leaves: 'deviation from the outline, 10⁻⁶ c',
};
/** The outline up to a place of the chord, drawn as large as a part of the box allows. */
function drawn(to: number, from: number, share: number) {
  const points = [...pairs(props.panels.x, props.panels.y)].filter(([x]) => x <= to + 1e-9);
  const frame = fitDrawing(
    { width: width.value, height: height.value },
    { x: [0, to], y: spanOf(points.map((p) => p[1])) },
    { left: from * width.value + 12, right: (1 - from - share) * width.value + 12, top: 22, bottom: 10 },
  );
  return { frame, points, path: frame.path(points) };
}
const whole = computed(() => drawn(1, 0, 0.66));
const nose = computed(() => drawn(0.06, 0.68, 0.3));
const series = computed<ChartSeries[]>(() => {
  const p = props.panels;
  const n = p.x.length;
  const value = (i: number) =>
    quantity.value === 'angle' ? p.angle[i] * DEG : quantity.value === 'length' ? 100 * p.length[i] : 1e6 * p.leaves[i];
  const points = (from: number, to: number) => {
    const out = [];
    for (let i = from; i < to; i++)
      out.push({ x: quantity.value === 'angle' ? p.x[i] : 0.5 * (p.x[i] + p.x[i + 1]), y: value(i), tag: p.x[i] });
    return out;
  };
  return [
    {
      id: 'upper',
      label: 'upper',
      style: UPPER,
      markers: false,
      points: points(quantity.value === 'angle' ? 1 : 0, p.nose).reverse(),
    },
    { id: 'lower', label: 'lower', style: LOWER, markers: false, points: points(p.nose, n - 1) },
  ];
});
</script>

<template>
  <div class="grid h-full min-h-[400px] grid-rows-[0.9fr_1fr] px-5 py-2">
    <div ref="box" class="relative min-h-0">
      <svg
        class="absolute inset-0"
        :width="width"
        :height="height"
        role="img"
        :aria-label="`${panels.x.length - 1} panels on ${name}; at the right its nose, drawn large`"
        data-test="panel-drawing"
      >
        <g v-for="(d, k) in [whole, nose]" :key="k">
          <path :d="d.path" fill="none" style="stroke: var(--ink)" stroke-width="1.1" />
          <circle
            v-for="(p, i) in d.points"
            :key="i"
            :cx="d.frame.x(p[0])"
            :cy="d.frame.y(p[1])"
            :r="k === 0 ? 1.6 : 2.4"
            style="fill: var(--ochre)"
          />
        </g>
        <text :x="width * 0.68" y="14" font-size="12" style="fill: var(--soft)">the first 6 % of the chord</text>
        <line
          v-if="cursor !== null"
          :x1="whole.frame.x(cursor)"
          :x2="whole.frame.x(cursor)"
          y1="20"
          :y2="height - 6"
          style="stroke: var(--soft)"
          stroke-dasharray="2 2"
        />
      </svg>
    </div>
    <LineChart
      chart-id="section-panels"
      title="Panels along the chord"
      :subtitle="NAMES[quantity]"
      :series="series"
      :x="{ name: 'x / c', zero: true }"
      :y="{
        name: NAMES[quantity],
        zero: true,
        options: [
          { id: 'angle', name: 'angle between neighbours' },
          { id: 'length', name: 'length' },
          { id: 'leaves', name: 'deviation from the outline' },
        ],
        value: quantity,
      }"
      :tag="cursor"
      :digits="[3, 3]"
      @cursor="(x) => (cursor = x)"
      @update:y-quantity="(id) => (quantity = id as 'angle')"
    />
  </div>
</template>
