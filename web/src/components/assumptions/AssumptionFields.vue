<script setup lang="ts">
import { ASSUMPTION_LIMITS } from '@veldtwind/core/project';
import BoundField from '@/components/field/BoundField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import { METHOD_CHOICES, useAssumptions } from '@/store/assumptions';
import HandlingFields from './HandlingFields.vue';

/** All that decides numbers of the project without being a size of the aircraft. */
const { assumed, assume } = useAssumptions();
</script>

<template>
  <SelectRow
    label="Method"
    :model-value="assumed.method"
    :options="METHOD_CHOICES"
    test="assumed-method"
    @update:model-value="(v) => assume('Method', { method: v })"
  />
  <SwitchRow
    label="Compute polars automatically"
    :model-value="assumed.computePolars"
    test="compute-automatically"
    @update:model-value="(v) => assume('Automatic polars', { computePolars: v })"
  />
  <BoundField
    :path="['brief', 'assumptions', 'criticalAmplification']"
    :limit="ASSUMPTION_LIMITS.criticalAmplification"
    step="Critical amplification"
    :digits="1"
  />
  <HandlingFields />
</template>
