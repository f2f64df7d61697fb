<script setup lang="ts">
import { computed } from 'vue';
import { MATERIAL_LIMITS, MATERIALS, materialOf, type Material, type MaterialChoice } from '@veldtwind/core/structure';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import TextRow from '@/components/field/TextRow.vue';

/** A material: of the table, or typed. */
const props = defineProps<{ label: string; modelValue: MaterialChoice; test?: string }>();
const emit = defineEmits<{ 'update:modelValue': [value: MaterialChoice] }>();
const OWN = 'own';
const OPTIONS = [
  ...Object.entries(MATERIALS).map(([id, m]) => ({ id, name: m.name })),
  { id: OWN, name: 'own material' },
];
const own = computed(() => (typeof props.modelValue === 'string' ? null : props.modelValue));
const FIELDS = ['density', 'modulus', 'shearModulus', 'tension', 'compression', 'shear'] as const;
function choose(id: string): void {
  if (id !== OWN) emit('update:modelValue', id as MaterialChoice);
  else emit('update:modelValue', { ...materialOf(props.modelValue) });
}
const set = (more: Partial<Material>) => own.value && emit('update:modelValue', { ...own.value, ...more });
</script>

<template>
  <SelectRow
    :label="label"
    :model-value="own ? OWN : (modelValue as string)"
    :options="OPTIONS"
    :test="test"
    @update:model-value="choose"
  />
  <template v-if="own">
    <TextRow label="Name" :model-value="own.name" :most="60" @update:model-value="(name) => name && set({ name })" />
    <LimitField
      v-for="k in FIELDS"
      :key="k"
      :limit="MATERIAL_LIMITS[k]"
      :model-value="own[k]"
      @commit="(v) => v !== null && set({ [k]: v })"
    />
  </template>
</template>
