<script setup lang="ts">
defineProps<{ title: string; text: string }>();
</script>

<template>
  <div class="grid h-full place-items-center p-8">
    <div class="max-w-md text-center">
      <svg width="120" height="44" viewBox="0 0 120 44" class="mx-auto mb-4" aria-hidden="true">
        <path
          d="M4 34c22-22 70-26 112-4-36-4-76-2-112 4z"
          style="fill: var(--section-fill); stroke: var(--faint)"
          stroke-dasharray="3 3"
        />
        <path d="M0 41h120" style="stroke: var(--rule)" />
      </svg>
      <h2 class="text-lg font-semibold">{{ title }}</h2>
      <p class="serif mt-1.5 text-[14.5px] text-soft italic">{{ text }}</p>
      <div class="mt-4 flex justify-center gap-2"><slot /></div>
    </div>
  </div>
</template>
