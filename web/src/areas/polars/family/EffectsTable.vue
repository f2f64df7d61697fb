<script setup lang="ts">
import { computed } from 'vue';
import { effectsOf, shortName } from '@veldtwind/core/polar';
import { CURVE_QUANTITIES, digitsOf, inUnit } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
import type { FamilyMember } from './use-family';

/** Which number drives which fact: the change of each fact from the least to the greatest value of each number. */
const props = defineProps<{ members: FamilyMember[]; numbers: { id: string }[]; at: number; facts: string[] }>();
const preferences = usePreferences();
const rows = computed(() =>
  CURVE_QUANTITIES.filter((q) => props.facts.includes(q.id)).flatMap((q) => {
    const values = props.members.map((m) => {
      const f = m.facts[props.at];
      return f ? q.of(f) : null;
    });
    const e = effectsOf(
      props.members.map((m) => m.member),
      values,
    );
    if (!e) return [];
    const most = Math.max(...e.over.map(Math.abs), 1e-12);
    return [
      {
        id: q.id,
        name: q.symbol,
        explained: e.explained,
        cells: e.over.map((v) => ({
          text: formatNumber(inUnit(q, v, preferences.units), digitsOf(q, preferences.units)),
          share: Math.abs(v) / most,
          up: v >= 0,
        })),
      },
    ];
  }),
);
</script>

<template>
  <table v-if="rows.length" class="w-full text-[12.5px]" data-test="effects">
    <caption class="pb-1 text-left text-[15px] font-semibold">
      What drives what
      <span class="text-[12.5px] font-normal text-soft"
        >change from the least to the greatest value of each number, others held; a linear fit</span
      >
    </caption>
    <thead>
      <tr class="border-b border-rule text-soft">
        <th class="text-left font-medium">fact</th>
        <th v-for="n in numbers" :key="n.id" class="px-2 text-right font-medium">{{ shortName(n.id) }}</th>
        <th class="text-right font-medium" title="Share of the fact's variance that the fit explains">explained</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.id" class="border-b border-rule-light">
        <td>{{ r.name }}</td>
        <td v-for="(c, i) in r.cells" :key="i" class="relative px-2 text-right">
          <span
            class="absolute inset-y-[3px] right-0 rounded-sm opacity-25"
            :style="{ width: `${92 * c.share}%`, background: c.up ? 'var(--sky)' : 'var(--plum)' }"
          />
          <span class="relative">{{ c.text }}</span>
        </td>
        <td class="text-right text-soft">{{ Math.round(100 * r.explained) }} %</td>
      </tr>
    </tbody>
  </table>
</template>
