<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { FACTS, useLibrary } from '@/store/library';

/** From and to of any fact; a section shows when it lies inside all of them. */
const library = useLibrary();
const bounds = computed(() =>
  Object.fromEntries(
    FACTS.map((f) => {
      let [low, high] = [Infinity, -Infinity];
      for (const r of library.rows) {
        if (!r.summary || r.summary.failure) continue;
        const v = f.of(r.summary);
        low = Math.min(low, v);
        high = Math.max(high, v);
      }
      return [f.id, low <= high ? [low.toFixed(f.digits), high.toFixed(f.digits)] : ['', '']];
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
function set(id: string, end: 'min' | 'max', text: string): void {
  texts.value[`${id}-${end}`] = text;
  const value = text.trim() === '' ? null : Number(text.replace(',', '.').replace('−', '-'));
  if (value !== null && !Number.isFinite(value)) return;
  const now = library.ranges[id] ?? { min: null, max: null };
  library.ranges = { ...library.ranges, [id]: { ...now, [end]: value } };
}
const name = (id: string, title: string) => (id.endsWith('-at') ? `${id.replace('-at', '')} crest` : title);
</script>

<template>
  <div>
    <div v-for="f in FACTS" :key="f.id" class="grid grid-cols-[1fr_62px_62px_28px] items-center gap-1.5 py-[2px]">
      <span class="truncate text-soft">{{ name(f.id, f.title) }}</span>
      <input
        v-for="end in ['min', 'max'] as const"
        :key="end"
        class="w-full rounded border border-rule bg-field px-1.5 py-[2px] text-right"
        :value="texts[`${f.id}-${end}`] ?? library.ranges[f.id]?.[end] ?? ''"
        :placeholder="bounds[f.id][end === 'min' ? 0 : 1]"
        :aria-label="`${name(f.id, f.title)} ${end === 'min' ? 'from' : 'to'}`"
        inputmode="decimal"
        @input="(e) => set(f.id, end, (e.target as HTMLInputElement).value)"
      />
      <span class="text-[12px] text-soft">{{ f.unit }}</span>
    </div>
    <button v-if="library.filtered" class="link mt-1 text-[12.5px]" @click="library.ranges = {}">
      Clear the filters
    </button>
  </div>
</template>
