<script setup lang="ts">
import HelpMark from './HelpMark.vue';

/** A group of the sheet. Its help is the section of the area's page that has its title, or `help`. */
defineProps<{ title: string; help?: string }>();
</script>

<template>
  <section class="group/sheet border-b border-rule pb-3 not-first:pt-3 last:border-b-0" :data-help="help ?? title">
    <div class="mb-1 flex flex-wrap items-baseline justify-between gap-x-2">
      <h2 class="text-[15.5px] font-semibold">{{ title }}</h2>
      <span class="ml-auto flex items-baseline gap-2">
        <slot name="aside" />
        <HelpMark class="self-center" :heading="title" :section="help" />
      </span>
    </div>
    <slot />
  </section>
</template>
