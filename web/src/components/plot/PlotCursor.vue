<script setup lang="ts">
import { computed } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import { nearestPoint, type ChartPoint, type ChartSeries } from '@/lib/chart-model';
import { markerPath } from '@/lib/marker-path';
import { pixelText } from '@/lib/pixel-text';
import { usePlot } from './context';
import HaloText from './HaloText.vue';

/** The shared cursor: every curve's point at it, and the reading of one of them. */
const props = defineProps<{
  series: ChartSeries[];
  /** Value of the quantity that links the figures of a page. */
  at: number | null;
  /** The curve that is read. */
  lead: number;
  digits: [number, number];
}>();
const { x, y, inner, inView } = usePlot();
const RING = markerPath('disc', 4.6);
const points = computed(() =>
  props.at === null
    ? []
    : props.series
        .filter((s) => !s.reference)
        .flatMap((s, i) => {
          const p = nearestPoint(s, { tag: props.at });
          if (!p) return [];
          const [px, py] = [x.value(p.x), y.value(p.y)];
          return inView(px, py) ? [{ p, s, i, px, py }] : [];
        }),
);
/** One path of rings for each colour, so that hundreds of curves cost as little as one. */
const rings = computed(() => {
  const byColour = new Map<string, string>();
  for (const { s, px, py } of points.value)
    byColour.set(s.style.colour, `${byColour.get(s.style.colour) ?? ''}M${pixelText(px)},${pixelText(py)}${RING}`);
  return [...byColour];
});
const lead = computed(() => points.value.find((c) => c.i === props.lead) ?? points.value[0]);
const read = (p: ChartPoint) => `${formatNumber(p.x, props.digits[0])}, ${formatNumber(p.y, props.digits[1])}`;
const left = computed(() => Boolean(lead.value && lead.value.px > inner.value.w - 96));
</script>

<template>
  <g v-if="lead" data-screen-only pointer-events="none">
    <line
      :x1="lead.px"
      :x2="lead.px"
      y1="0"
      :y2="inner.h"
      style="stroke: var(--soft)"
      stroke-dasharray="2 3"
      stroke-width="0.8"
    />
    <path
      v-for="[colour, d] in rings"
      :key="colour"
      :d="d"
      fill="none"
      :style="`stroke:${colour}`"
      stroke-width="1.6"
    />
    <HaloText
      :x="lead.px + (left ? -7 : 7)"
      :y="Math.min(inner.h - 6, Math.max(26, lead.py + 18))"
      :text-anchor="left ? 'end' : 'start'"
      colour="var(--ink)"
      :rim="3.5"
    >
      {{ read(lead.p) }}
    </HaloText>
  </g>
</template>
