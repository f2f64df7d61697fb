<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { digitsOf, inUnit, unitOf } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import { useLibrary } from '@/store/library';
import { LIBRARY_QUANTITIES, libraryName } from '@/store/library-quantities';
import { usePreferences } from '@/store/preferences';

/** From and to of any fact; a section shows when it lies inside all of them. */
const library = useLibrary();
const preferences = usePreferences();
/** One shown unit in stored ones. */
const one = (q: (typeof LIBRARY_QUANTITIES)[number]) => 1 / inUnit(q, 1, preferences.units);
const bounds = computed(() =>
  Object.fromEntries(
    LIBRARY_QUANTITIES.map((q) => {
      let [low, high] = [Infinity, -Infinity];
      for (const r of library.rows) {
        const v = q.of(r);
        if (v === null) continue;
        low = Math.min(low, v);
        high = Math.max(high, v);
      }
      const text = (v: number) => formatNumber(inUnit(q, v, preferences.units), digitsOf(q, preferences.units));
      return [q.id, low <= high ? [text(low), text(high)] : ['', '']];
    }),
  ),
);
/** What stands in the fields, as it is typed: 17. is on its way to 17.5. */
const texts = ref<Record<string, string>>({});
watch(
  () => library.filtered,
  (on) => {
    if (!on) texts.value = {};
  },
);
function set(q: (typeof LIBRARY_QUANTITIES)[number], end: 'min' | 'max', text: string): void {
  const { id } = q;
  texts.value[`${id}-${end}`] = text;
  const value = text.trim() === '' ? null : Number(text.replace(',', '.').replace('−', '-')) * one(q);
  if (value !== null && !Number.isFinite(value)) return;
  const now = library.ranges[id] ?? { min: null, max: null };
  library.ranges = { ...library.ranges, [id]: { ...now, [end]: value } };
}
/** What stands in a field that nobody types in. */
const held = (q: (typeof LIBRARY_QUANTITIES)[number], end: 'min' | 'max') => {
  const v = library.ranges[q.id]?.[end];
  return v == null ? '' : String(Number(inUnit(q, v, preferences.units).toPrecision(10)));
};
/** Facts of polars can be limited where there are polars. */
const shown = computed(() => LIBRARY_QUANTITIES.filter((q) => !q.polar || bounds.value[q.id][0] !== ''));
</script>

<template>
  <div>
    <div v-for="f in shown" :key="f.id" class="grid grid-cols-[1fr_62px_62px_28px] items-center gap-1.5 py-[2px]">
      <span class="truncate text-soft">{{ libraryName(f) }}</span>
      <input
        v-for="end in ['min', 'max'] as const"
        :key="end"
        class="w-full rounded border border-rule bg-field px-1.5 py-[2px] text-right"
        :value="texts[`${f.id}-${end}`] ?? held(f, end)"
        :placeholder="bounds[f.id][end === 'min' ? 0 : 1]"
        :aria-label="`${libraryName(f)} ${end === 'min' ? 'from' : 'to'}`"
        inputmode="decimal"
        @input="(e) => set(f, end, (e.target as HTMLInputElement).value)"
      />
      <span class="text-[12px] text-soft">{{ unitOf(f, preferences.units) }}</span>
    </div>
    <button v-if="library.filtered" class="link mt-1 text-[12.5px]" @click="library.ranges = {}">
      Clear the filters
    </button>
  </div>
</template>
