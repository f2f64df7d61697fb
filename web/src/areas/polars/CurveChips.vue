<script setup lang="ts">
import type { CurveReply } from '@veldtwind/core/contract';
import type { SeriesStyle } from '@/lib/series-style';

/** The curves by name: a click hides or shows one, a double click shows it alone. */
defineProps<{
  curves: CurveReply[];
  styles: ReadonlyMap<number, SeriesStyle>;
  hidden: ReadonlySet<number>;
  name: (c: CurveReply) => string;
}>();
defineEmits<{ toggle: [id: number]; isolate: [id: number]; all: [] }>();
/** More than so many would leave no room for the charts; the ledger lists all. */
const MOST = 60;
</script>

<template>
  <div
    class="flex max-h-[52px] flex-wrap items-center gap-1 overflow-y-auto py-1"
    role="group"
    aria-label="Curves shown"
  >
    <button
      v-for="c in curves.slice(0, MOST)"
      :key="c.id"
      class="flex items-center gap-1.5 rounded border border-rule px-1.5 py-[1px] text-[12px]"
      :class="hidden.has(c.id) ? 'text-soft line-through opacity-60' : ''"
      :aria-pressed="!hidden.has(c.id)"
      :title="`${name(c)}: click hides or shows it, double click shows it alone`"
      @click="$emit('toggle', c.id)"
      @dblclick="$emit('isolate', c.id)"
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
      {{ name(c) }}
    </button>
    <span v-if="curves.length > MOST" class="text-[12px] text-soft">and {{ curves.length - MOST }} more below</span>
    <button v-if="hidden.size" class="link text-[12px]" @click="$emit('all')">Show all</button>
  </div>
</template>
