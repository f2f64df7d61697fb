<script setup lang="ts">
import { CircleHelp } from 'lucide-vue-next';
import { useRoute } from 'vue-router';
import { useHelp } from '@/store/help';

/** Leads to the help on a heading of the area that it stands in. */
const props = defineProps<{
  heading: string;
  /** Its section in the help, where that is named otherwise. */ section?: string;
}>();
const route = useRoute();
const help = useHelp();
const ask = () => help.about(String(route.name ?? ''), props.section ?? props.heading);
</script>

<template>
  <button
    class="help-mark"
    :aria-label="`Help on ${heading}`"
    :title="`Help on ${heading}`"
    data-test="help-mark"
    @click="ask"
  >
    <CircleHelp :size="13" />
  </button>
</template>
