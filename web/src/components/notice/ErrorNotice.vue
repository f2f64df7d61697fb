<script setup lang="ts">
defineProps<{ message: string; hint?: string }>();
</script>

<template>
  <div class="rounded-md border border-clay/40 px-3 py-2 text-[13px]" role="alert">
    <b class="font-semibold text-clay">{{ message }}</b>
    <span v-if="hint" class="block text-soft">{{ hint }}</span>
    <slot />
  </div>
</template>
