<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { useElementSize } from '@vueuse/core';
import { ArrowDownWideNarrow, ArrowUpNarrowWide, Search } from 'lucide-vue-next';
import { computed, nextTick, ref, watch } from 'vue';
import { useLibrary } from '@/store/library';
import { LIBRARY_QUANTITIES, libraryName } from '@/store/library-quantities';
import SectionCard from './SectionCard.vue';

/** All sections as cards; only those in view are drawn. */
const props = defineProps<{ selected?: string }>();
const emit = defineEmits<{ select: [id: string]; open: [id: string] }>();
const library = useLibrary();
const scroller = ref<HTMLElement | null>(null);
const { width } = useElementSize(scroller, { width: 820, height: 400 });
const across = computed(() => Math.max(1, Math.floor((width.value - 24) / 250)));
const lines = computed(() => Math.ceil(library.shown.length / across.value));
const virtual = useVirtualizer(
  computed(() => ({
    count: lines.value,
    getScrollElement: () => scroller.value,
    estimateSize: () => 142,
    overscan: 3,
  })),
);
watch(
  [() => props.selected, across],
  ([id]) => {
    const at = library.shown.findIndex((r) => r.id === id);
    if (at >= 0) void nextTick(() => virtual.value.scrollToIndex(Math.floor(at / across.value), { align: 'auto' }));
  },
  { immediate: true },
);
const colour = (id: string) => (library.compared.includes(id) ? library.styleOf(id).colour : 'var(--soft)');
</script>

<template>
  <div class="flex h-full min-h-0 flex-col">
    <div class="flex items-center gap-2 px-5 py-2">
      <label class="relative flex-1">
        <Search :size="14" class="absolute top-1.5 left-2 text-faint" />
        <input
          v-model="library.search"
          class="w-full rounded border border-rule bg-field py-[3px] pr-2 pl-7"
          placeholder="Search names, tags, notes, where used"
          aria-label="Search the library"
          data-test="library-search"
        />
      </label>
      <label class="flex items-center gap-1 text-soft">
        sorted by
        <select
          v-model="library.order.by"
          class="rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
          aria-label="Sorted by"
        >
          <option value="name">name</option>
          <option v-for="f in LIBRARY_QUANTITIES" :key="f.id" :value="f.id">{{ libraryName(f) }}</option>
        </select>
      </label>
      <button
        class="icon-btn"
        :aria-label="library.order.down ? 'Greatest first' : 'Least first'"
        :title="library.order.down ? 'Greatest first' : 'Least first'"
        @click="library.order.down = !library.order.down"
      >
        <ArrowDownWideNarrow v-if="library.order.down" :size="15" /><ArrowUpNarrowWide v-else :size="15" />
      </button>
      <span class="w-28 text-right text-soft" role="status" data-test="library-count">
        {{
          library.shown.length === library.rows.length
            ? library.rows.length
            : `${library.shown.length} of ${library.rows.length}`
        }}
        sections
      </span>
    </div>
    <div ref="scroller" class="min-h-0 flex-1 overflow-y-auto px-5 pb-3" data-test="library-cards">
      <p v-if="library.shown.length === 0 && library.rows.length > 0" class="py-8 text-center text-soft">
        No section matches.
        <button class="link" @click="((library.search = ''), (library.ranges = {}))">Show all</button>
      </p>
      <div class="relative" :style="{ height: `${virtual.getTotalSize()}px` }">
        <div
          v-for="line in virtual.getVirtualItems()"
          :key="String(line.key)"
          class="absolute inset-x-0 grid gap-2.5"
          :style="{
            transform: `translateY(${line.start}px)`,
            gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))`,
          }"
        >
          <SectionCard
            v-for="row in library.shown.slice(line.index * across, (line.index + 1) * across)"
            :key="row.id"
            :row="row"
            :selected="row.id === selected"
            :compared="library.compared.includes(row.id)"
            :colour="colour(row.id)"
            @open="emit('select', row.id)"
            @dblclick="emit('open', row.id)"
            @compare="library.compare(row.id)"
          />
        </div>
      </div>
    </div>
  </div>
</template>
