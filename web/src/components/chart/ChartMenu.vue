<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue';
import { Download } from 'lucide-vue-next';

/** What can be done with a figure as a whole. */
defineProps<{ title: string }>();
defineEmits<{ png: []; svg: []; csv: []; note: [] }>();
const ITEMS = [
  ['png', 'Picture (PNG)'],
  ['svg', 'Drawing (SVG)'],
  ['csv', 'Numbers (CSV)'],
  ['note', 'Place a note'],
] as const;
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="icon-btn" :aria-label="`Export or annotate ${title}`" title="Export, note"
      ><Download :size="13"
    /></MenuButton>
    <MenuItems class="menu absolute right-0 mt-1">
      <MenuItem v-for="[id, words] in ITEMS" :key="id" v-slot="{ active }"
        ><button class="menu-item" :data-on="active" @click="$emit(id as 'png')">{{ words }}</button></MenuItem
      >
    </MenuItems>
  </Menu>
</template>
