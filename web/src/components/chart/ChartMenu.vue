<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue';
import { Download } from 'lucide-vue-next';

/** What can be done with a figure as a whole. */
const props = defineProps<{ title: string; /** A figure that takes no notes. */ plain?: boolean }>();
defineEmits<{ png: []; svg: []; csv: []; note: []; report: [] }>();
const ALL = [
  ['png', 'Picture (PNG)'],
  ['svg', 'Drawing (SVG)'],
  ['csv', 'Numbers (CSV)'],
  ['report', 'Put into the report'],
  ['note', 'Place a note'],
] as const;
const ITEMS = ALL.filter(([id]) => (id !== 'note' && id !== 'report') || !props.plain);
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton
      class="icon-btn"
      :aria-label="plain ? `Export ${title}` : `Export or annotate ${title}`"
      :title="plain ? 'Export' : 'Export, note'"
      ><Download :size="13"
    /></MenuButton>
    <MenuItems class="menu absolute right-0 mt-1">
      <MenuItem v-for="[id, words] in ITEMS" :key="id" v-slot="{ active }"
        ><button class="menu-item" :data-on="active" @click="$emit(id as 'png')">{{ words }}</button></MenuItem
      >
    </MenuItems>
  </Menu>
</template>
