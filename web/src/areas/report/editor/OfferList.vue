<script setup lang="ts">
/** Quantities to choose from, below the text that asks for one. */
defineProps<{ offers: readonly { id: string; name: string }[]; at: number }>();
defineEmits<{ choose: [id: string] }>();
</script>

<template>
  <ul
    v-if="offers.length"
    class="absolute right-2 left-2 z-20 mt-1 max-w-96 rounded border border-rule bg-leaf py-1 shadow-lg"
    role="listbox"
    aria-label="Quantities"
  >
    <li
      v-for="(o, i) in offers"
      :key="o.id"
      role="option"
      :aria-selected="i === at"
      class="cursor-pointer px-3 py-1 text-[13px]"
      :class="i === at ? 'bg-select' : ''"
      @mousedown.prevent="$emit('choose', o.id)"
    >
      {{ o.name }}
    </li>
  </ul>
</template>
