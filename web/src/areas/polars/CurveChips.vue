<script setup lang="ts">
import { Pin } from 'lucide-vue-next';
import type { CurveReply } from '@veldtwind/contract';
import { onClickOutside } from '@vueuse/core';
import { nextTick, ref } from 'vue';
import StyleMenu from '@/components/field/StyleMenu.vue';
import type { SeriesStyle } from '@/lib/series-style';
import { useLibrary } from '@/store/library';

/** The curves by name: a click hides or shows one, a double click shows it alone; one that is pinned stays. */
defineProps<{
  curves: CurveReply[];
  styles: ReadonlyMap<number, SeriesStyle>;
  hidden: ReadonlySet<number>;
  pinned: ReadonlySet<number>;
  name: (c: CurveReply) => string;
  /** The project's section of a curve, whose style it has. */
  sectionOf: (c: CurveReply) => string | null;
}>();
defineEmits<{ toggle: [id: number]; isolate: [id: number]; pin: [id: number]; all: [] }>();
/** More than so many would leave no room for the charts; the ledger lists all. */
const MOST = 60;
const library = useLibrary();
/** The section whose style is being set, and where its menu stands. */
const styling = ref<{ section: string; x: number; y: number } | null>(null);
const menu = ref<HTMLElement | null>(null);
onClickOutside(menu, () => (styling.value = null));
function style(section: string | null, event: MouseEvent): void {
  if (section === null) return;
  const at = (event.currentTarget as HTMLElement).getBoundingClientRect();
  styling.value = { section, x: at.left, y: at.top };
  // The menu stands at the end of the page: the keyboard is taken there.
  void nextTick(() => menu.value?.querySelector('button')?.focus());
}
</script>

<template>
  <div
    class="flex max-h-[52px] shrink-0 flex-wrap items-center gap-1 overflow-y-auto py-1"
    role="group"
    aria-label="Curves shown"
  >
    <span
      v-for="c in curves.slice(0, MOST)"
      :key="c.id"
      class="flex items-center rounded border border-rule text-[12px]"
    >
      <button
        class="py-[1px] pl-1.5"
        :disabled="sectionOf(c) === null"
        :aria-label="`Style of ${name(c)}`"
        title="Colour, dash, marker and width of its section, everywhere"
        data-test="curve-style"
        @click="(e) => style(sectionOf(c), e)"
      >
        <svg width="18" height="8" aria-hidden="true">
          <line
            x1="0"
            x2="18"
            y1="4"
            y2="4"
            :style="{ stroke: styles.get(c.id)!.colour }"
            :stroke-width="styles.get(c.id)!.width"
            :stroke-dasharray="styles.get(c.id)!.dash"
          />
        </svg>
      </button>
      <button
        class="flex items-center gap-1.5 py-[1px] pl-1.5"
        :class="hidden.has(c.id) && !pinned.has(c.id) ? 'text-soft line-through opacity-60' : ''"
        :aria-pressed="!hidden.has(c.id) || pinned.has(c.id)"
        :title="`${name(c)}: click hides or shows it, double click shows it alone`"
        @click="$emit('toggle', c.id)"
        @dblclick="$emit('isolate', c.id)"
      >
        {{ name(c) }}
      </button>
      <button
        class="px-1 py-[3px]"
        :class="pinned.has(c.id) ? 'text-ochre' : 'text-faint hover:text-ink'"
        :aria-label="pinned.has(c.id) ? `Let ${name(c)} go` : `Pin ${name(c)}`"
        :title="
          pinned.has(c.id) ? 'Pinned: it stays whatever is shown alone or searched for' : 'Pin it, so that it stays'
        "
        data-test="pin-curve"
        @click="$emit('pin', c.id)"
      >
        <Pin :size="11" :fill="pinned.has(c.id) ? 'currentColor' : 'none'" />
      </button>
    </span>
    <span v-if="curves.length > MOST" class="text-[12px] text-soft">and {{ curves.length - MOST }} more below</span>
    <Teleport to="body">
      <div
        v-if="styling"
        ref="menu"
        class="fixed z-50"
        :style="{ left: `${styling.x}px`, bottom: `calc(100vh - ${styling.y - 4}px)` }"
        @keydown.esc="styling = null"
      >
        <StyleMenu
          :model-value="library.styleOf(styling.section)"
          @change="(more) => library.restyle(styling!.section, more)"
        />
      </div>
    </Teleport>
    <button v-if="hidden.size" class="link text-[12px]" data-test="show-all" @click="$emit('all')">Show all</button>
  </div>
</template>
