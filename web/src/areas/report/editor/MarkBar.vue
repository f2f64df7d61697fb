<script setup lang="ts">
import type { Component } from 'vue';

/** Marks of a text, for what is selected. */
defineProps<{
  label: string;
  marks: readonly { name: string; icon: Component; on?: boolean; run: () => void }[];
}>();
</script>

<template>
  <div class="flex flex-wrap items-center gap-0.5" role="toolbar" :aria-label="`Formatting of ${label}`">
    <button
      v-for="m in marks"
      :key="m.name"
      type="button"
      class="icon-btn"
      :class="m.on ? 'bg-select text-ink' : ''"
      :aria-label="m.name"
      :aria-pressed="m.on"
      :title="m.name"
      @mousedown.prevent
      @click="m.run"
    >
      <component :is="m.icon" :size="14" />
    </button>
  </div>
</template>
