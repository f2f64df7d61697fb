<script setup lang="ts">
import { computed, ref } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import type { Report } from './reading';

/** What was found in the files and what was changed: each with its points before and after, drawn over each other. */
const props = defineProps<{ reports: Report[] }>();
defineEmits<{ mirror: [report: Report]; open: [id: string]; close: [] }>();
/** Reports that are drawn at once; the rest is in the table of sections, refused ones first. */
const MOST = 40;
const only = ref(false);
const sorted = computed(() => [...props.reports.filter((r) => r.failure), ...props.reports.filter((r) => !r.failure)]);
const list = computed(() =>
  (only.value ? sorted.value.filter((r) => r.failure || r.read?.repaired) : sorted.value).slice(0, MOST),
);
const counts = computed(() => ({
  read: props.reports.filter((r) => r.read).length,
  repaired: props.reports.filter((r) => r.read?.repaired).length,
  refused: props.reports.filter((r) => r.failure).length,
}));
const draw = (points: readonly (readonly number[])[], close: boolean) =>
  `M${points.map(([x, y]) => `${(8 + 264 * x).toFixed(2)},${(38 - 264 * y).toFixed(2)}`).join('L')}${close ? 'Z' : ''}`;
</script>

<template>
  <div data-test="read-report">
    <p class="flex items-baseline gap-2 pb-1">
      <span role="status">
        {{ counts.read }} read<template v-if="counts.repaired">, {{ counts.repaired }} of them repaired</template
        ><template v-if="counts.refused"
          >, <b class="text-clay">{{ counts.refused }} refused</b></template
        >
      </span>
      <span class="flex-1" />
      <button class="link text-[12.5px]" @click="$emit('close')">Done</button>
    </p>
    <label v-if="reports.length > 3" class="flex items-center gap-1.5 pb-1 text-[12.5px] text-soft">
      <input v-model="only" type="checkbox" /> only what was repaired or refused
    </label>
    <div v-for="(r, i) in list" :key="`${r.name}-${i}`" class="border-t border-rule-light py-1.5 text-[12.5px]">
      <p class="flex gap-2">
        <b class="min-w-0 flex-1 truncate font-semibold" :title="r.name">{{ r.name }}</b>
        <button v-if="r.section" class="link" @click="$emit('open', r.section)">open</button>
      </p>
      <template v-if="r.read">
        <svg
          v-if="r.read.repaired"
          viewBox="0 0 280 76"
          class="w-full"
          role="img"
          :aria-label="`${r.name} before and after`"
        >
          <path
            :d="draw(r.read.points, true)"
            style="fill: var(--section-fill); stroke: var(--ink)"
            stroke-width="1.3"
          />
          <path
            :d="draw(r.read.before, false)"
            fill="none"
            style="stroke: var(--clay)"
            stroke-width="0.9"
            stroke-dasharray="3 2"
          />
          <circle
            v-for="(p, k) in r.read.before.length <= 240 && reports.length <= 12 ? r.read.before : []"
            :key="k"
            :cx="8 + 264 * p[0]"
            :cy="38 - 264 * p[1]"
            r="1.1"
            style="fill: var(--clay)"
          />
          <text x="272" y="12" text-anchor="end" font-size="10.5" style="fill: var(--clay)">as it stood</text>
          <text x="272" y="72" text-anchor="end" font-size="10.5" style="fill: var(--ink)">as it is taken</text>
        </svg>
        <p class="text-soft">{{ r.read.points.length }} points from {{ r.read.layout }}</p>
        <p v-if="r.cut">{{ r.cut }}</p>
        <p v-for="d in r.read.diagnosis" :key="d.code">
          {{ d.message }}
          <span v-if="d.lines?.length" class="text-soft"
            >Line {{ d.lines.slice(0, 6).join(', ') }}{{ d.lines.length > 6 ? ' …' : '' }}.</span
          >
          <span v-if="d.displacement" class="text-soft">
            Moves points by up to {{ formatNumber(100 * d.displacement, 3) }} % c.</span
          >
        </p>
      </template>
      <template v-else>
        <p class="text-clay" role="alert">{{ r.failure?.message }}</p>
        <p class="text-soft">{{ r.failure?.hint }}</p>
        <button v-if="r.half" class="btn mt-1" data-test="mirror-it" @click="$emit('mirror', r)">
          It is symmetric: mirror it
        </button>
      </template>
    </div>
    <p v-if="reports.length > MOST" class="text-[12px] text-soft">
      The first {{ MOST }} are listed, refused ones first.
    </p>
  </div>
</template>
