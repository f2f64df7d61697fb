<script setup lang="ts">
import { computed, toRaw } from 'vue';
import { Thruster, type Engine, type EngineKind } from '@veldtwind/core/propulsion';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import { usePreferences } from '@/store/preferences';
import { ENGINE_FIELDS, ENGINE_KINDS, firstEngine, valueOf, withValue } from './engine-fields';

/** What pushes an aircraft: its kind, its figures, and what they come to at rest and in flight. */
const props = defineProps<{
  title: string;
  engine: Engine | undefined;
  /** Where the thrust begins to act, and what it is sized by. */
  at: { x: number; y: number; z: number };
  weight: number;
  speed: number;
  density: number;
  /** What it means that none is set. */
  unset: string;
}>();
const emit = defineEmits<{ change: [label: string, engine: Engine | undefined] }>();
const preferences = usePreferences();
const kinds = computed(() => ENGINE_KINDS.map((k) => (k.id === '' ? { ...k, name: props.unset } : k)));
function choose(kind: EngineKind | ''): void {
  emit('change', 'Engine', kind === '' ? undefined : firstEngine(kind, props.at, props.weight, props.speed));
}
const set = (path: readonly string[], label: string, value: number | null) => {
  if (value !== null && props.engine) emit('change', label, withValue(toRaw(props.engine), path, value));
};
const shown = (v: number) =>
  `${formatQuantity(v, 'force', preferences.units)} ${displayUnit('force', preferences.units).symbol}`;
/** Full thrust at rest and at the brief's speed. */
const comesTo = computed(() => {
  if (!props.engine || props.engine.kind === 'none') return null;
  const thruster = new Thruster(toRaw(props.engine));
  const [still, flown] = [0, props.speed].map((speed) => thruster.thrust(1, { speed, density: props.density }));
  const motor = thruster.motor(1, { speed: props.speed, density: props.density });
  return {
    thrust: `Full thrust ${shown(still)} at rest, ${shown(flown)} at the design speed.`,
    motor:
      motor && motor.rps > 0
        ? `There ${(60 * motor.rps).toFixed(0)} rpm, ${motor.current.toFixed(1)} A, ${motor.shaftPower.toFixed(0)} W at the shaft of ${motor.batteryPower.toFixed(0)} W; efficiency ${formatNumber(100 * motor.efficiency, 0)} %.`
        : '',
  };
});
</script>

<template>
  <SheetGroup :title="title" help="Engine">
    <SelectRow
      label="Engine"
      test="engine-kind"
      :model-value="engine?.kind ?? ''"
      :options="kinds"
      @update:model-value="choose"
    />
    <template v-if="engine">
      <LimitField
        v-for="f in ENGINE_FIELDS[engine.kind]"
        :key="f.path.join('.')"
        :limit="f.limit"
        :digits="f.digits"
        :model-value="valueOf(engine, f.path)"
        @commit="(v) => set(f.path, f.limit.label, v)"
      />
      <template v-if="engine.kind === 'motor'">
        <SwitchRow
          label="Propeller side force"
          :model-value="engine.sideForce"
          @update:model-value="
            (v) => engine?.kind === 'motor' && emit('change', 'Side force', { ...toRaw(engine), sideForce: v })
          "
        />
        <SelectRow
          label="Propeller torque"
          :model-value="engine.turns"
          :options="[
            { id: 'none', name: 'left out' },
            { id: 'right', name: 'turns right, from behind' },
            { id: 'left', name: 'turns left, from behind' },
          ]"
          @update:model-value="
            (v) => engine?.kind === 'motor' && emit('change', 'Torque', { ...toRaw(engine), turns: v })
          "
        />
      </template>
      <p v-if="comesTo" class="text-[12px] text-soft" role="status">{{ comesTo.thrust }} {{ comesTo.motor }}</p>
    </template>
  </SheetGroup>
</template>
