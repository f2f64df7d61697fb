<script setup lang="ts">
import { computed } from 'vue';
import type { PictureLine } from '@veldtwind/core/layouts';

/** An aircraft from above, as large as its box. */
const props = defineProps<{ lines: readonly PictureLine[] }>();
const drawn = computed(() => {
  const points = props.lines.flatMap((line) => line.points);
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const low = [Math.min(...xs), Math.min(...ys)];
  const high = [Math.max(...xs), Math.max(...ys)];
  const size = Math.max(high[0] - low[0], (high[1] - low[1]) * 1.6);
  const middle = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2];
  return {
    box: `${-0.52 * size} ${-0.33 * size} ${1.04 * size} ${0.66 * size}`,
    paths: props.lines.map((line) => ({
      d: `M${line.points.map(([x, y]) => `${(x - middle[0]).toFixed(1)} ${(middle[1] - y).toFixed(1)}`).join('L')}${line.closed ? 'Z' : ''}`,
      closed: line.closed,
    })),
  };
});
</script>

<template>
  <svg v-if="lines.length" :viewBox="drawn.box" class="block" aria-hidden="true">
    <path
      v-for="(p, i) in drawn.paths"
      :key="i"
      :d="p.d"
      :fill="p.closed ? 'var(--leaf)' : 'none'"
      :stroke="p.closed ? 'var(--ink)' : 'var(--soft)'"
      :stroke-width="p.closed ? 1.2 : 0.8"
      stroke-linejoin="round"
      vector-effect="non-scaling-stroke"
    />
  </svg>
</template>
