<script setup lang="ts">
import { formatNumber } from '@veldtwind/core/units';
import type { FlownRow } from './use-flown';

/** Numbers of a flow before and now, with what changed. */
defineProps<{ rows: FlownRow[] }>();
const said = (v: number | null, digits: number, sign = false) =>
  v === null ? '—' : `${sign && v >= 0.5 * 10 ** -digits ? '+' : ''}${formatNumber(v, digits)}`;
/** What is smaller than it is shown is no change. */
const colour = (r: FlownRow) => {
  if (r.change === null || r.better === 0 || Math.abs(r.change) < 0.5 * 10 ** -r.digits) return '';
  return r.change * r.better > 0 ? 'text-grass' : 'text-clay';
};
</script>

<template>
  <table class="w-full text-[12.5px] tabular-nums" aria-label="Before and now" data-test="flown-table">
    <thead class="text-soft">
      <tr>
        <th class="py-[2px] text-left font-normal" />
        <th class="text-right font-normal">before</th>
        <th class="text-right font-normal">now</th>
        <th class="text-right font-normal">change</th>
        <th class="text-right font-normal">%</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.id" class="border-t border-rule-light" :data-test="`flown-row-${r.id}`">
        <th class="py-[2px] text-left font-normal text-soft" scope="row">{{ r.name }}</th>
        <td class="text-right text-soft">{{ said(r.before, r.digits) }}</td>
        <td class="text-right font-semibold">{{ said(r.now, r.digits) }}</td>
        <td class="text-right" :class="colour(r)">{{ said(r.change, r.digits, true) }}</td>
        <td class="text-right" :class="colour(r)">{{ said(r.percent, 1, true) }}</td>
      </tr>
    </tbody>
  </table>
</template>
