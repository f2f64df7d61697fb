<script setup lang="ts">
defineProps<{ title: string }>();
</script>

<template>
  <section class="border-b border-rule pb-3 not-first:pt-3 last:border-b-0">
    <div class="mb-1 flex items-baseline justify-between gap-2">
      <h2 class="text-[15.5px] font-semibold">{{ title }}</h2>
      <slot name="aside" />
    </div>
    <slot />
  </section>
</template>
