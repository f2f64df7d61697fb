<script setup lang="ts">
import { computed } from 'vue';
import type { ChangeEffect } from '@veldtwind/core/candidate';
import type { Mode } from '@veldtwind/core/motion';
import { formatNumber } from '@veldtwind/core/units';

/** What helps a mode most: changes in the order of how much faster they let it die out, each way. */
const props = defineProps<{ effects: ChangeEffect[]; mode: Mode }>();
const MOST = 5;
/** The other way of each change helps as much as the one way harms. */
const list = computed(() =>
  props.effects
    .flatMap((e) => {
      const d = e.modes[props.mode.name];
      if (!d) return [];
      const way = d.re <= 0 ? 1 : -1;
      return [{ id: e.id, label: way > 0 ? e.label : turned(e.label), re: way * d.re, im: way * d.im }];
    })
    .sort((a, b) => a.re - b.re)
    .slice(0, MOST),
);
const most = computed(() => Math.max(1e-12, ...list.value.map((e) => Math.abs(e.re))));
function turned(label: string): string {
  if (label.includes('ahead')) return label.replace('ahead', 'aft');
  return label.replace('+', '−');
}
const signed = (v: number) => `${v < 0 ? '−' : '+'}${formatNumber(Math.abs(v), Math.abs(v) < 0.01 ? 4 : 3)}`;
</script>

<template>
  <div data-test="effects">
    <h3 class="mt-2 mb-1 text-[13px] font-semibold">What helps the {{ mode.name }} most</h3>
    <table class="w-full text-[12.5px]">
      <caption class="sr-only">
        Changes and what they do to the growth of the
        {{
          mode.name
        }}
      </caption>
      <tbody>
        <tr v-for="e in list" :key="e.id" class="border-t border-rule-light">
          <th class="py-[3px] pr-2 text-left font-normal">{{ e.label }}</th>
          <td class="w-20">
            <span class="block h-1.5 rounded-sm bg-grass" :style="{ width: `${(100 * Math.abs(e.re)) / most}%` }" />
          </td>
          <td class="w-20 text-right" :title="`frequency ${signed(e.im)} rad/s`">{{ signed(e.re) }} 1/s</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
