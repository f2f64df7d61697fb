<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { MASS_ITEM_LIMITS, massProperties } from '@veldtwind/core/balance';
import type { CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import { usePreferences } from '@/store/preferences';

/** Loadings by name: how much of each mass item is there, and where the centre of gravity lies then. */
const props = defineProps<{ candidate: CandidatePart }>();
const emit = defineEmits<{ change: [label: string, edit: (c: CandidatePart) => void] }>();
const preferences = usePreferences();
const loadings = computed(() => Object.entries(props.candidate.loadings ?? {}));
const said = (shares: Record<string, number>) => {
  try {
    const m = massProperties(props.candidate.massItems, shares);
    if (!m) return 'no mass';
    const [mass, length] = [displayUnit('mass', preferences.units), displayUnit('length', preferences.units)];
    return `${formatQuantity(m.mass, 'mass', preferences.units)} ${mass.symbol}, centre at ${formatQuantity(m.centre.x, 'length', preferences.units)} ${length.symbol}`;
  } catch (error) {
    return (error as Error).message;
  }
};
function add(): void {
  emit('change', 'New loading', (c) => {
    const all = { ...c.loadings };
    let name = 'loading';
    for (let k = 2; Object.hasOwn(all, name); k++) name = `loading ${k}`;
    c.loadings = { ...all, [name]: {} };
  });
}
function rename(from: string, to: string): void {
  emit('change', 'Name of a loading', (c) => {
    // In the order that they had.
    if (to !== from && Object.hasOwn(c.loadings ?? {}, to)) return;
    c.loadings = Object.fromEntries(Object.entries(c.loadings ?? {}).map(([k, v]) => [k === from ? to : k, v]));
  });
}
</script>

<template>
  <SheetGroup title="Loadings">
    <template #aside
      ><button class="link flex items-center gap-0.5 text-[13px]" data-test="add-loading" @click="add">
        <Plus :size="12" />loading
      </button></template
    >
    <p v-if="loadings.length === 0" class="text-[12.5px] text-soft">
      A loading says how much of each mass item is there: full, half, empty. Motion can be looked at for each.
    </p>
    <div
      v-for="[name, shares] in loadings"
      :key="name"
      class="mb-2 border-l-2 border-rule pl-2.5"
      data-test="loading-row"
    >
      <div class="flex items-center justify-between">
        <span class="text-[12.5px] text-soft">{{ said(shares) }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove ${name}`"
          title="Remove"
          @click="
            emit('change', `Remove ${name}`, (c) => {
              const { [name]: _, ...rest } = c.loadings ?? {};
              c.loadings = rest;
            })
          "
        >
          <Trash2 :size="12" />
        </button>
      </div>
      <TextRow label="Name" needed :most="60" :model-value="name" @update:model-value="(v) => rename(name, v)" />
      <LimitField
        v-for="m in candidate.massItems"
        :key="m.id"
        :limit="{ ...MASS_ITEM_LIMITS.share, label: m.name }"
        :model-value="shares[m.id] ?? 1"
        @commit="
          (v) =>
            v !== null &&
            emit('change', `${m.name} in ${name}`, (c) => {
              c.loadings = { ...c.loadings, [name]: { ...c.loadings?.[name], [m.id]: v } };
            })
        "
      />
    </div>
  </SheetGroup>
</template>
