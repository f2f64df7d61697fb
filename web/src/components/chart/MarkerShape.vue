<script setup lang="ts">
import type { SeriesStyle } from '@/lib/series-style';

defineProps<{
  x: number;
  y: number;
  marker: SeriesStyle['marker'];
  colour: string;
  size?: number;
  open?: boolean;
  struck?: boolean;
}>();
const path = (m: SeriesStyle['marker'], r: number): string =>
  ({
    disc: `M${-r},0a${r},${r} 0 1 0 ${2 * r},0a${r},${r} 0 1 0 ${-2 * r},0`,
    square: `M${-r},${-r}h${2 * r}v${2 * r}h${-2 * r}z`,
    diamond: `M0,${-1.35 * r}L${1.35 * r},0L0,${1.35 * r}L${-1.35 * r},0z`,
    triangle: `M0,${-1.25 * r}L${1.2 * r},${r}L${-1.2 * r},${r}z`,
    cross: `M${-r},${-r}L${r},${r}M${-r},${r}L${r},${-r}`,
    bar: `M0,${-1.4 * r}V${1.4 * r}`,
  })[m];
</script>

<template>
  <g :transform="`translate(${x},${y})`">
    <path
      :d="path(marker, size ?? 2.8)"
      :style="{ fill: open || marker === 'cross' || marker === 'bar' ? 'var(--paper)' : colour, stroke: colour }"
      stroke-width="1.5"
    />
    <path v-if="struck" d="M-5,5L5,-5" :style="{ stroke: colour }" stroke-width="1.3" />
  </g>
</template>
