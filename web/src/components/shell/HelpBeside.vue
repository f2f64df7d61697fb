<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { defineAsyncComponent } from 'vue';
import { HELP_WIDTH, useHelp } from '@/store/help';

/** A page outside of a project, with the help beside it: F1, or a mark in the page, opens it. */
const props = defineProps<{
  /** The help's page on it, and its section. */ page: string;
  section?: string;
}>();
const help = useHelp();
const HelpPanel = defineAsyncComponent(() => import('./HelpPanel.vue'));
useEventListener('keydown', (e: KeyboardEvent) => {
  if (e.key !== 'F1') return;
  e.preventDefault();
  help.show({ page: props.page, section: props.section });
});
</script>

<template>
  <div class="grid h-full" :style="{ gridTemplateColumns: help.open ? `minmax(0, 1fr) ${HELP_WIDTH}px` : '1fr' }">
    <slot />
    <HelpPanel v-if="help.open" />
  </div>
</template>
