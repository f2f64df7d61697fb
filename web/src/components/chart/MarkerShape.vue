<script setup lang="ts">
import { isOpenMarker, markerPath } from '@/lib/marker-path';
import type { SeriesStyle } from '@/lib/series-style';

/** One marker. */
defineProps<{ x: number; y: number; marker: SeriesStyle['marker']; colour: string; size?: number }>();
</script>

<template>
  <path
    :transform="`translate(${x},${y})`"
    :d="`M0,0${markerPath(marker, size ?? 2.8)}`"
    :style="{ fill: isOpenMarker(marker) ? 'var(--paper)' : colour, stroke: colour }"
    stroke-width="1.5"
  />
</template>
