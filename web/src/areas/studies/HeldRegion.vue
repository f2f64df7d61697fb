<script setup lang="ts">
import { computed } from 'vue';
import type { Contour } from '@/lib/grid-contours';
import { usePlot } from '@/components/plot/context';

/** The ground of a map where all requirements hold. */
const props = defineProps<{ contours: Contour[] }>();
const { x, y, clip } = usePlot();
const path = computed(() =>
  props.contours
    .flatMap((c) => c.rings)
    .map((ring) => `M${ring.map((p) => `${x.value(p.x)},${y.value(p.y)}`).join('L')}Z`)
    .join(''),
);
</script>

<template>
  <path
    v-if="path"
    :clip-path="`url(#${clip})`"
    :d="path"
    fill-rule="evenodd"
    style="fill: var(--grass)"
    fill-opacity="0.16"
    data-test="held-region"
  />
</template>
