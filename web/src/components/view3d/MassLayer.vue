<script setup lang="ts">
import { computed } from 'vue';
import { inView, type DrawingView as View } from '@veldtwind/core/airframe';
import HaloText from '@/components/plot/HaloText.vue';
import { spreadLabels } from '@/lib/chart-model';
import type { DrawingFrame } from '@/lib/drawing-frame';
import type { MassPoint } from '@/lib/mass-points';

/** Mass items on a view of the drawing: discs whose area goes with the mass, the heaviest named. */
const props = defineProps<{ frame: DrawingFrame; view: View; points: MassPoint[]; height: number; named: boolean }>();
const discs = computed(() =>
  props.points.map((p) => {
    const [u, v] = inView(p, props.view);
    return { ...p, cx: props.frame.x(u), cy: props.frame.y(v), r: 3 + 13 * Math.sqrt(p.share) };
  }),
);
const NAMED = 8;
const LINE = 14;
/** Names in a column beside the discs, in their order down the page, each with a line to its disc. */
const names = computed(() => {
  if (!props.named) return [];
  const own = discs.value.filter((d) => !d.key.endsWith('-mirrored')).slice(0, NAMED);
  const column = Math.max(0, ...discs.value.map((d) => d.cx + d.r)) + 40;
  const at = spreadLabels(
    own.map((d) => d.cy),
    LINE,
    2 * LINE,
    props.height - LINE,
  );
  return own.map((d, i) => ({ ...d, left: column, at: at[i] }));
});
</script>

<template>
  <g data-test="mass-layer">
    <circle
      v-for="d in discs"
      :key="d.key"
      :cx="d.cx"
      :cy="d.cy"
      :r="d.r"
      style="fill: var(--plum); stroke: var(--plum)"
      fill-opacity="0.22"
      stroke-width="1.1"
    >
      <title>{{ d.text }}</title>
    </circle>
    <g v-for="d in names" :key="d.key" class="pointer-events-none">
      <path :d="`M${d.cx + d.r},${d.cy}L${d.left - 4},${d.at}`" fill="none" style="stroke: var(--faint)" />
      <HaloText :x="d.left" :y="d.at + 4" :size="11.5" colour="var(--soft)">{{ d.name }}</HaloText>
    </g>
  </g>
</template>
