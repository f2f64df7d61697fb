<script setup lang="ts">
import { computed } from 'vue';
import type { MethodPair } from '@veldtwind/core/candidate';
import { COMPARED, METHOD_NAMES } from '@veldtwind/core/findings';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { usePreferences } from '@/store/preferences';

/** The same quantities by two methods each. It comes last: it is there a moment after the rest, and moves nothing then. */
const props = defineProps<{ pairs: readonly MethodPair[] }>();
const preferences = usePreferences();
/** A table for each two methods. */
const tables = computed(() => {
  const kinds = new Map<string, { first: string; second: string; rows: ReturnType<typeof rowOf>[] }>();
  for (const p of props.pairs) {
    const [first, second] = [p.first, p.second].map(({ method }) => METHOD_NAMES[method]);
    const polars = p.first.method === 'section-polars';
    const key = polars ? 'polars' : `${first}, ${second}`;
    const table = kinds.get(key) ?? { first, second: polars ? METHOD_NAMES.lattice : second, rows: [] };
    table.rows.push(rowOf(p));
    kinds.set(key, table);
  }
  return [...kinds.values()];
});
const agree = computed(() => props.pairs.every((p) => p.agree));
const capital = (text: string) => text[0].toUpperCase() + text.slice(1);
function rowOf(p: MethodPair) {
  const { name, by = 1, dimension, digits, unit } = COMPARED[p.quantity];
  const symbol = unit ?? displayUnit(dimension, preferences.units).symbol;
  const told = (v: number) =>
    `${formatQuantity(by * v, dimension, preferences.units, digits)}${symbol && symbol !== '°' ? ' ' : ''}${symbol}`;
  return {
    key: p.quantity,
    agree: p.agree,
    label: capital(name),
    first: told(p.first.value),
    second: told(p.second.value),
    title: `${METHOD_NAMES[p.first.method]} and ${METHOD_NAMES[p.second.method]}; band ${p.absolute ? told(p.band) : `${Math.round(100 * p.band)} %`}`,
  };
}
</script>

<template>
  <SheetGroup v-if="tables.length" title="Comparison of methods">
    <div data-test="methods">
      <table v-for="t in tables" :key="t.first + t.second" class="mb-2 w-full text-[13px]">
        <thead>
          <tr class="text-left text-[12px] text-soft">
            <th class="font-normal"></th>
            <th class="py-1 pl-2 text-right align-bottom leading-tight font-normal">{{ capital(t.first) }}</th>
            <th class="py-1 pl-2 text-right align-bottom leading-tight font-normal">{{ capital(t.second) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in t.rows" :key="r.key" :class="{ 'text-clay': !r.agree }" :title="r.title">
            <th class="py-[3px] text-left leading-tight font-normal" :class="{ 'text-soft': r.agree }">
              {{ r.label }}
            </th>
            <td class="pl-2 text-right font-medium whitespace-nowrap">{{ r.first }}</td>
            <td class="pl-2 text-right font-medium whitespace-nowrap">{{ r.second }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="text-[12px] text-soft">
      {{ agree ? 'The methods agree within their bands.' : 'The methods disagree where marked.' }}
    </p>
  </SheetGroup>
</template>
