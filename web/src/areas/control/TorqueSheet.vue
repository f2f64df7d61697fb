<script setup lang="ts">
import { ACTUATION_LIMITS as L, SERVOS } from '@veldtwind/core/actuation';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import type { TorqueRow, useTorque } from './use-torque';

/** What moves a control: its servo with the linkage, and the balance ahead of its hinge. */
const props = defineProps<{ torque: ReturnType<typeof useTorque>; row: TorqueRow }>();
const NONE = 'none';
const OWN = 'own';
const OPTIONS = [
  { id: NONE, name: 'none' },
  ...SERVOS.map((s) => ({ id: s.name, name: `${s.name}, ${s.torque} N m` })),
  { id: OWN, name: 'typed' },
];
/** A rod at 15 mm on both sides: something to begin with. */
const FIRST = { arm: 0.015, horn: 0.015 };
const servo = () => props.torque.actuation.value[props.row.id]?.servo;
const chosen = () => {
  const s = servo();
  if (!s) return NONE;
  return SERVOS.find((c) => c.name === s.name && c.torque === s.torque && c.travelDeg === s.travelDeg)?.name ?? OWN;
};
function choose(id: string): void {
  const { name } = props.row.control;
  const known = SERVOS.find((s) => s.name === id);
  props.torque.change(`Servo of ${name}`, props.row.id, (a) => {
    if (id === NONE) delete a.servo;
    else if (known)
      a.servo = { ...FIRST, ...a.servo, name: known.name, torque: known.torque, travelDeg: known.travelDeg };
    else a.servo = { ...FIRST, torque: 0.5, travelDeg: 45, ...a.servo, name: '' };
  });
}
</script>

<template>
  <SheetGroup :title="row.control.name" help="Servo">
    <SelectRow label="Servo" :model-value="chosen()" :options="OPTIONS" test="servo" @update:model-value="choose" />
    <template v-if="servo()">
      <LimitField
        v-for="key in ['torque', 'travelDeg', 'arm', 'horn'] as const"
        :key="key"
        :limit="L[key]"
        :model-value="servo()![key] ?? null"
        @commit="(v) => torque.setServo(`Servo of ${row.control.name}`, row.id, { [key]: v ?? undefined })"
      />
      <SwitchRow
        v-if="row.surface.mirrored"
        label="Drives both sides"
        :model-value="servo()!.both ?? false"
        test="servo-both"
        @update:model-value="
          (v) => torque.setServo(`Sides of the servo of ${row.control.name}`, row.id, { both: v || undefined })
        "
      />
    </template>
    <LimitField
      :limit="L.overhang"
      :model-value="torque.actuation.value[row.id]?.overhang ?? null"
      placeholder="none"
      @commit="(v) => torque.change(`Balance of ${row.control.name}`, row.id, (a) => (a.overhang = v ?? undefined))"
    />
  </SheetGroup>
</template>
