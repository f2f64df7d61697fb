<script setup lang="ts">
import { useNumberSheet, useOrigin } from '@/store/number-sheet';

/** A number that tells on a click what it is and how it was made. */
const props = defineProps<{
  title: string;
  value: string;
  unit: string;
  says?: string;
  formula?: string;
  /** Its id in the registry. */ quantity?: string;
}>();
const sheet = useNumberSheet();
const origin = useOrigin();
const ask = () => sheet.ask({ ...props, origin: origin() });
</script>

<template>
  <button
    type="button"
    class="cursor-help rounded-sm font-medium hover:underline hover:decoration-dotted hover:underline-offset-4"
    :aria-label="`${title}: ${value} ${unit}. Show its definition`"
    @click="ask"
  >
    {{ value }}
  </button>
</template>
