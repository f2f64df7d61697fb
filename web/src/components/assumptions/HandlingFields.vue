<script setup lang="ts">
import { AIRCRAFT_CLASSES } from '@veldtwind/core/motion';
import SelectRow from '@/components/field/SelectRow.vue';
import { useAssumptions } from '@/store/assumptions';

/** The class of the aircraft and the phase of flight that its handling is judged for. */
const { assumed, assume } = useAssumptions();
const CLASS_NAMES = {
  I: 'I: small, light',
  II: 'II: medium',
  III: 'III: large, heavy',
  IV: 'IV: high manoeuvrability',
  uncrewed: 'uncrewed: no levels',
} as const;
const CLASSES = AIRCRAFT_CLASSES.map((id) => ({ id, name: CLASS_NAMES[id] }));
const PHASES = [
  { id: 'A', name: 'A: precise and rapid' },
  { id: 'B', name: 'B: gradual' },
  { id: 'C', name: 'C: near the ground' },
] as const;
</script>

<template>
  <SelectRow
    label="Aircraft class"
    :model-value="assumed.aircraftClass"
    :options="CLASSES"
    test="aircraft-class"
    @update:model-value="(v) => assume('Aircraft class', { aircraftClass: v })"
  />
  <SelectRow
    label="Flight phase"
    :model-value="assumed.flightPhase"
    :options="PHASES"
    test="flight-phase"
    @update:model-value="(v) => assume('Flight phase', { flightPhase: v })"
  />
</template>
