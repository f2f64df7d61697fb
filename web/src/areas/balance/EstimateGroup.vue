<script setup lang="ts">
import { computed } from 'vue';
import { toast } from 'vue-sonner';
import type { MassItem } from '@veldtwind/core/balance';
import { sectionsUsed } from '@veldtwind/core/candidate';
import type { FieldLimit } from '@veldtwind/core/limits';
import type { CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { newId } from '@/lib/ids';
import { useLive } from '@/lib/live';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';

/** A first guess of the structure's mass from what the airframe is made of; its items are then changed one by one. */
const props = defineProps<{ candidate: CandidatePart }>();
const emit = defineEmits<{ add: [items: MassItem[]] }>();
const project = useProject();
const preferences = usePreferences();
type Guess = { skin: number; solid: number; rib: number; ribSpacing: number };
const key = computed(() => `estimate-${(project.id ?? '').slice(0, 8)}`);
const guess = computed<Guess>(() =>
  preferences.get<Guess>(key.value, { skin: 0.6, solid: 0, rib: 1.2, ribSpacing: 0.25 }),
);
const FIELDS: { k: keyof Guess; limit: FieldLimit; digits: number }[] = [
  { k: 'skin', limit: { label: 'Skin, kg/m²', dimension: 'plain', min: 0, max: 1000, step: 0.1 }, digits: 2 },
  { k: 'solid', limit: { label: 'Solid, kg/m³', dimension: 'plain', min: 0, max: 20000, step: 1 }, digits: 1 },
  { k: 'rib', limit: { label: 'Ribs, kg/m²', dimension: 'plain', min: 0, max: 1000, step: 0.1 }, digits: 2 },
  { k: 'ribSpacing', limit: { label: 'a rib every', dimension: 'length', min: 0, max: 100, step: 0.05 }, digits: 3 },
];
/** Of the ids in the estimate; what is added has ids that meet no others. */
const PREFIX = 'estimate';
const made = useLive(lanes.skins, 'mass-estimate', () => {
  const { surfaces, bodies } = props.candidate;
  return {
    surfaces,
    bodies,
    sections: sectionsUsed(project.document.sections, props.candidate),
    materials: guess.value,
    prefix: PREFIX,
  };
});
const found = computed(() => (made.failure.value ? null : made.value.value));
function add(): void {
  if (!found.value) return;
  const own = `e${newId().slice(0, 8)}`;
  emit(
    'add',
    found.value.items.map((item) => ({ ...item, id: item.id.replace(PREFIX, own) })),
  );
  toast.success(`${found.value.items.length} mass items of the structure are added.`);
}
</script>

<template>
  <SheetGroup title="Estimate the structure" data-evidence="estimate">
    <LimitField
      v-for="f in FIELDS"
      :key="f.k"
      :limit="f.limit"
      :digits="f.digits"
      :model-value="guess[f.k]"
      @commit="(v) => v !== null && preferences.set(key, { ...guess, [f.k]: v })"
    />
    <p v-if="found?.properties" class="text-[12.5px] text-soft" data-test="estimate-words">
      {{ formatQuantity(found.properties.mass, 'mass', preferences.units) }}
      {{ displayUnit('mass', preferences.units).symbol }} in {{ found.items.length }} items, centre at
      {{ formatQuantity(found.properties.centre.x, 'length', preferences.units) }}
      {{ displayUnit('length', preferences.units).symbol }}
    </p>
    <p v-else-if="made.failure.value" class="text-[12.5px] text-clay">{{ made.failure.value.message }}</p>
    <button class="btn mt-1 w-full" :disabled="!found?.properties" data-test="estimate-add" @click="add">
      Add these as mass items
    </button>
    <p class="pt-1 text-[12px] text-soft">Spread over their parts; each can be changed or taken away by itself.</p>
  </SheetGroup>
</template>
