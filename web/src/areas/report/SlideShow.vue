<script setup lang="ts">
import { ChevronLeft, ChevronRight, SlidersHorizontal, X } from 'lucide-vue-next';
import { computed, onMounted, ref, watch } from 'vue';
import type { ComposedBlock } from '@veldtwind/core/report';
import LiveNumber from './LiveNumber.vue';
import { pageHtml } from './report-look';

/** The same blocks one a page, 16:9: a heading stands over what follows it. */
const props = defineProps<{
  blocks: readonly ComposedBlock[];
  name: string;
  /** Blocks that are of an earlier state. */ late?: ReadonlySet<string>;
  /** An issue, whose numbers stay. */ frozen?: boolean;
}>();
const live = ref(false);
const emit = defineEmits<{ close: [] }>();
const root = ref<HTMLElement | null>(null);
const at = ref(0);
interface Slide {
  head: string;
  block: ComposedBlock | null;
}
const slides = computed<Slide[]>(() => {
  const out: Slide[] = [{ head: props.name, block: null }];
  let head = '';
  let bare = false;
  for (const block of props.blocks) {
    if (block.kind === 'heading') {
      if (bare) out.push({ head, block: null });
      head = block.text;
      bare = true;
    } else if (block.kind !== 'missing') {
      out.push({ head, block });
      bare = false;
    }
  }
  return out;
});
const slide = computed(() => slides.value[Math.min(at.value, slides.value.length - 1)]);
watch(slides, (s) => (at.value = Math.min(at.value, s.length - 1)));
const go = (by: number) => (at.value = Math.max(0, Math.min(slides.value.length - 1, at.value + by)));
const KEYS: Record<string, () => void> = {
  ArrowRight: () => go(1),
  ArrowDown: () => go(1),
  PageDown: () => go(1),
  ' ': () => go(1),
  ArrowLeft: () => go(-1),
  ArrowUp: () => go(-1),
  PageUp: () => go(-1),
  Home: () => go(-slides.value.length),
  End: () => go(slides.value.length),
  Escape: () => emit('close'),
};
function key(e: KeyboardEvent): void {
  const run = KEYS[e.key];
  const typed = (e.target as HTMLElement).closest('input, select, textarea');
  if (!run || (typed && e.key !== 'Escape') || e.altKey || e.ctrlKey || e.metaKey) return;
  e.preventDefault();
  e.stopPropagation();
  run();
}
onMounted(() => root.value?.focus());
</script>

<template>
  <Teleport to="body">
    <div
      ref="root"
      class="fixed inset-0 z-40 flex flex-col items-center justify-center bg-paper outline-none"
      tabindex="-1"
      role="dialog"
      aria-modal="true"
      :aria-label="`Slides of ${name}`"
      data-test="slides"
      @keydown="key"
    >
      <section class="slide flex flex-col overflow-hidden px-[5%] py-[3.2%]" aria-live="polite" :data-slide="at">
        <h2 v-if="slide.block" class="text-[min(3.4vw,36px)] font-semibold">{{ slide.head }}</h2>
        <h2 v-else class="m-auto text-[min(5vw,56px)] font-semibold">{{ slide.head }}</h2>
        <!-- Markup of the block writer, in which every text is escaped. -->
        <!-- eslint-disable-next-line vue/no-v-html -->
        <div
          v-if="slide.block"
          class="report-content slide-content mt-3 min-h-0 flex-1 overflow-auto"
          :class="late?.has(slide.block.id) ? 'opacity-50' : ''"
          :aria-busy="late?.has(slide.block.id)"
          v-html="pageHtml(slide.block)"
        />
      </section>
      <LiveNumber v-if="live" class="absolute bottom-3 left-4" />
      <div class="absolute right-4 bottom-3 flex items-center gap-1 text-[13px] text-soft">
        <button
          v-if="!frozen"
          class="icon-btn"
          aria-label="Change a number"
          title="Change a number"
          :aria-pressed="live"
          data-test="slide-live"
          @click="live = !live"
        >
          <SlidersHorizontal :size="16" />
        </button>
        <button class="icon-btn" aria-label="Previous slide" :disabled="at === 0" @click="go(-1)">
          <ChevronLeft :size="16" />
        </button>
        <span class="tabular-nums" data-test="slide-number">{{ at + 1 }} / {{ slides.length }}</span>
        <button
          class="icon-btn"
          aria-label="Next slide"
          :disabled="at === slides.length - 1"
          data-test="slide-next"
          @click="go(1)"
        >
          <ChevronRight :size="16" />
        </button>
        <button class="icon-btn" aria-label="Close the slides" @click="emit('close')"><X :size="16" /></button>
      </div>
    </div>
  </Teleport>
</template>
