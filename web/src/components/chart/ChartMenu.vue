<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue';
import { Download, Minimize2 } from 'lucide-vue-next';
import { ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useEnlarged } from '@/lib/enlarged';
import { useHelp } from '@/store/help';

/** What can be done with a figure as a whole. */
const props = defineProps<{
  title: string;
  /** A figure that takes no notes. */ plain?: boolean;
  /** Some of its points are doubtful. */ doubtful?: boolean;
}>();
const emit = defineEmits<{ png: []; svg: []; csv: []; note: []; report: [] }>();
const help = useHelp();
const route = useRoute();
const ALL = [
  ['png', 'Picture (PNG)'],
  ['svg', 'Drawing (SVG)'],
  ['csv', 'Numbers (CSV)'],
  ['report', 'Put into the report'],
  ['note', 'Place a note'],
] as const;
type Item = (typeof ALL)[number][0];
const ITEMS = ALL.filter(([id]) => (id !== 'note' && id !== 'report') || !props.plain);
const root = ref<HTMLElement | null>(null);
const { enlarged, can, enlarge, putBack } = useEnlarged(
  () => root.value,
  () => props.title,
);
// The help stands beside the page, where a figure that fills it would cover it.
watch([() => help.asked, () => help.place], () => enlarged.value && putBack());
</script>

<template>
  <div ref="root" class="flex items-center gap-1">
    <button
      v-if="enlarged"
      class="icon-btn"
      aria-label="Back to the page"
      title="Back to the page (Esc)"
      data-test="figure-back"
      @click="putBack"
    >
      <Minimize2 :size="15" />
    </button>
    <Menu as="div" class="relative">
      <MenuButton
        class="icon-btn"
        :aria-label="plain ? `Export ${title}` : `Export or annotate ${title}`"
        :title="plain ? 'Enlarge, export' : 'Enlarge, export, note'"
        ><Download :size="13"
      /></MenuButton>
      <MenuItems class="menu absolute right-0 mt-1">
        <MenuItem v-if="can() && !enlarged" v-slot="{ active }"
          ><button class="menu-item" :data-on="active" data-test="figure-enlarge" @click="enlarge">
            Enlarge
          </button></MenuItem
        >
        <MenuItem v-for="[id, words] in ITEMS" :key="id" v-slot="{ active }"
          ><button class="menu-item" :data-on="active" @click="emit(id as Item as 'png')">{{ words }}</button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button class="menu-item" :data-on="active" @click="help.about(String(route.name ?? ''), 'Figures')">
            Help on the figures
          </button></MenuItem
        >
        <MenuItem v-if="doubtful" v-slot="{ active }"
          ><button class="menu-item" :data-on="active" @click="help.show({ page: 'help/doubts' })">
            Why points are doubtful
          </button></MenuItem
        >
      </MenuItems>
    </Menu>
  </div>
</template>
