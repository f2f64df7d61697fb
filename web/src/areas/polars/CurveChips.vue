<script setup lang="ts">
import { Pin } from 'lucide-vue-next';
import type { CurveReply } from '@veldtwind/contract';
import type { SeriesStyle } from '@/lib/series-style';

/** The curves by name: a click hides or shows one, a double click shows it alone; one that is pinned stays. */
defineProps<{
  curves: CurveReply[];
  styles: ReadonlyMap<number, SeriesStyle>;
  hidden: ReadonlySet<number>;
  pinned: ReadonlySet<number>;
  name: (c: CurveReply) => string;
}>();
defineEmits<{ toggle: [id: number]; isolate: [id: number]; pin: [id: number]; all: [] }>();
/** More than so many would leave no room for the charts; the ledger lists all. */
const MOST = 60;
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
        class="flex items-center gap-1.5 py-[1px] pl-1.5"
        :class="hidden.has(c.id) && !pinned.has(c.id) ? 'text-soft line-through opacity-60' : ''"
        :aria-pressed="!hidden.has(c.id) || pinned.has(c.id)"
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
    <button v-if="hidden.size" class="link text-[12px]" data-test="show-all" @click="$emit('all')">Show all</button>
  </div>
</template>
