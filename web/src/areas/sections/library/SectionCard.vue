<script setup lang="ts">
import { computed } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import { sourceWords, type LibraryRow } from '@/store/library';

/** A section at a glance: its outline to scale and the facts that tell it from others. */
const props = defineProps<{ row: LibraryRow; selected: boolean; compared: boolean; colour: string }>();
defineEmits<{ open: []; compare: [] }>();
const summary = computed(() => props.row.summary);
const WIDTH = 180;
const path = computed(() => {
  const o = summary.value?.outline;
  if (!o) return '';
  const points = [];
  for (let i = 0; i < o.length; i += 2)
    points.push(`${(6 + o[i] * (WIDTH - 12)).toFixed(1)},${(30 - o[i + 1] * (WIDTH - 12)).toFixed(1)}`);
  return `M${points.join('L')}Z`;
});
const number = (v: number | null, digits: number) => (v === null ? '—' : formatNumber(v, digits));
const percent = (v: number) => `${formatNumber(100 * v, 1)} %`;
</script>

<template>
  <article
    class="group relative flex h-[132px] cursor-pointer flex-col rounded-md border bg-leaf px-3 pt-2 pb-1.5 transition-colors"
    :class="selected ? 'border-ochre bg-select' : 'border-rule hover:border-ochre'"
    data-test="section-card"
    tabindex="0"
    :aria-label="row.part.name"
    :aria-current="selected"
    @click="$emit('open')"
    @keydown.enter.self="$emit('open')"
  >
    <div class="flex items-baseline gap-2">
      <h3 class="serif min-w-0 flex-1 truncate text-[14.5px] font-semibold">{{ row.part.name }}</h3>
      <label class="flex shrink-0 items-center gap-1 text-[12px] text-soft" @click.stop>
        <input
          type="checkbox"
          :checked="compared"
          class="accent-[var(--ochre)]"
          :style="{ accentColor: colour }"
          @change="$emit('compare')"
        />
        compare
      </label>
    </div>
    <svg
      :viewBox="`0 0 ${WIDTH} 50`"
      class="my-0.5 h-[46px] w-full"
      preserveAspectRatio="xMidYMid meet"
      aria-hidden="true"
    >
      <line x1="6" :x2="WIDTH - 6" y1="30" y2="30" style="stroke: var(--rule)" stroke-width="0.8" />
      <path :d="path" style="fill: var(--section-fill); stroke: var(--ink)" stroke-width="1" stroke-linejoin="round" />
    </svg>
    <p v-if="row.failure" class="line-clamp-2 text-[12px] text-clay">{{ row.failure }}</p>
    <p v-else-if="summary" class="truncate text-[12.5px]">
      <b class="font-semibold">{{ percent(summary.facts.thickness.max) }}</b>
      <span class="text-soft"> at {{ formatNumber(summary.facts.thickness.at, 2) }}</span>
      <template v-if="Math.abs(summary.facts.camber.max) > 1e-4">
        · camber <b class="font-semibold">{{ percent(summary.facts.camber.max) }}</b>
        <span class="text-soft"> at {{ formatNumber(summary.facts.camber.at, 2) }}</span>
      </template>
      <span v-else class="text-soft"> · symmetric</span>
    </p>
    <p v-else class="text-[12.5px] text-soft">measuring …</p>
    <p
      v-if="row.polar"
      class="truncate text-[12px] text-soft"
      :title="`From its polar at Re ${formatNumber(row.polar.reynolds, 0)}`"
      data-test="card-polar"
    >
      cl max <b class="font-semibold text-ink">{{ number(row.polar.facts.clMax, 2) }}</b> · cl / cd
      <b class="font-semibold text-ink">{{ number(row.polar.facts.bestLiftToDrag, 0) }}</b>
      at {{ formatNumber(row.polar.reynolds / 1000, 0) }} k
    </p>
    <p class="truncate text-[12px] text-soft" :title="row.part.note">
      <span v-for="t in row.part.tags" :key="t" class="mr-1 rounded bg-select px-1 text-ink">{{ t }}</span>
      {{ row.used ? `used by ${row.used}` : row.part.note || sourceWords(row.part) }}
    </p>
  </article>
</template>
