<script setup lang="ts">
import { computed } from 'vue';
import { extentOf } from '@veldtwind/core/figures';
import { layoutPicture, type LayoutPlan } from '@veldtwind/core/layouts';

/** A layout from above. */
const props = defineProps<{ plan: LayoutPlan }>();
const drawn = computed(() => {
  const items = layoutPicture(props.plan);
  const { low, high } = extentOf({ items });
  const size = Math.max(high[0] - low[0], (high[1] - low[1]) * 1.6);
  const middle = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2];
  const lines = items.flatMap((i) => (i.kind === 'line' ? [i] : []));
  return {
    box: `${-0.52 * size} ${-0.33 * size} ${1.04 * size} ${0.66 * size}`,
    paths: lines.map(({ points, closed }) => ({
      d: `M${points.map(([x, y]) => `${(x - middle[0]).toFixed(1)} ${(middle[1] - y).toFixed(1)}`).join('L')}${closed ? 'Z' : ''}`,
      closed,
    })),
  };
});
</script>

<template>
  <svg :viewBox="drawn.box" class="block h-20 w-full" aria-hidden="true">
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
