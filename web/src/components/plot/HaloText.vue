<script setup lang="ts">
/** A word on a drawing, with a rim of the ground around it so that it reads over lines. */
defineProps<{ colour: string; ground?: string; size?: number; weight?: number; rim?: number }>();
</script>

<template>
  <text
    :font-size="size ?? 12"
    :font-weight="weight"
    :style="{ fill: colour, stroke: ground ?? 'var(--paper)' }"
    :stroke-width="rim ?? 3"
    paint-order="stroke"
  >
    <slot />
  </text>
</template>
