<script setup lang="ts">
import { computed } from 'vue';

/** Where 90 in a hundred lie, with the median, over the band that is required. */
const props = defineProps<{
  p5: number;
  p50: number;
  p95: number;
  band: { min: number | null; max: number | null } | null;
}>();
const W = 140;
const AIR = 0.12;
const place = computed(() => {
  const ends = [props.p5, props.p95, props.band?.min, props.band?.max].filter((v): v is number => v != null);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const wide = high - low || 1;
  return (v: number) => W * ((v - low) / wide) * (1 - 2 * AIR) + W * AIR;
});
const band = computed(() => {
  if (!props.band || (props.band.min === null && props.band.max === null)) return null;
  const from = props.band.min === null ? 0 : place.value(props.band.min);
  const to = props.band.max === null ? W : place.value(props.band.max);
  return { x: from, width: Math.max(0, to - from) };
});
</script>

<template>
  <svg :width="W" height="16" aria-hidden="true" class="block">
    <rect
      v-if="band"
      :x="band.x"
      y="1"
      :width="band.width"
      height="14"
      style="fill: var(--grass)"
      fill-opacity="0.18"
    />
    <line :x1="place(p5)" :x2="place(p95)" y1="8" y2="8" style="stroke: var(--ink)" stroke-width="2" />
    <line
      v-for="v in [p5, p95]"
      :key="v"
      :x1="place(v)"
      :x2="place(v)"
      y1="4"
      y2="12"
      style="stroke: var(--ink)"
      stroke-width="1.5"
    />
    <circle :cx="place(p50)" cy="8" r="3.5" style="fill: var(--ochre)" />
  </svg>
</template>
