<script setup lang="ts">
import { computed } from 'vue';
import { ENERGY_LIMITS, energySchema, type Energy } from '@veldtwind/core/performance';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';

/** What a candidate flies on. */
const props = defineProps<{ energy: Energy | undefined }>();
const emit = defineEmits<{ change: [label: string, energy: Energy | undefined] }>();
const KINDS = [
  { id: '', name: 'not set' },
  { id: 'battery', name: 'battery' },
  { id: 'fuel', name: 'fuel' },
] as const;
const FIRST: Record<Energy['kind'], Energy> = {
  battery: energySchema.parse({ kind: 'battery', capacity: 200 }),
  fuel: energySchema.parse({ kind: 'fuel', mass: 1, consumption: 0.5 }),
};
const FIELDS = computed(() =>
  props.energy?.kind === 'battery'
    ? (['capacity', 'usable', 'efficiency'] as const)
    : props.energy?.kind === 'fuel'
      ? (['mass', 'consumption'] as const)
      : [],
);
const PER = [
  { id: 'power', name: 'shaft power, kg/kWh' },
  { id: 'thrust', name: 'thrust, kg/(N h)' },
] as const;
const valueOf = (field: string) => (props.energy as unknown as Record<string, number>)[field];
const set = (field: string, value: unknown) =>
  value !== null && emit('change', 'Energy', { ...props.energy!, [field]: value } as Energy);
</script>

<template>
  <SheetGroup title="Energy">
    <SelectRow
      label="Energy source"
      test="energy-kind"
      :model-value="energy?.kind ?? ''"
      :options="KINDS"
      @update:model-value="(k) => emit('change', 'Energy', k === '' ? undefined : FIRST[k as Energy['kind']])"
    />
    <LimitField
      v-for="f in FIELDS"
      :key="f"
      :limit="ENERGY_LIMITS[f]"
      :model-value="valueOf(f)"
      @commit="(v) => set(f, v)"
    />
    <SelectRow
      v-if="energy?.kind === 'fuel'"
      label="Consumption basis"
      test="energy-per"
      :model-value="energy.per"
      :options="PER"
      @update:model-value="(v) => set('per', v)"
    />
  </SheetGroup>
</template>
