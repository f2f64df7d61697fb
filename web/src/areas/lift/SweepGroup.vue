<script setup lang="ts">
import { computed } from 'vue';
import { BRIEF_LIMITS, SWEEP_LIMITS } from '@veldtwind/core/project';
import type { FieldLimit } from '@veldtwind/core/limits';
import BoundField from '@/components/field/BoundField.vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { DocumentPath } from '@/lib/document-path';
import { useWorkbench } from '@/store/workbench';
import { SWEEP_KINDS } from './sweep-kinds';
import type { Answers } from './use-answers';

/** What runs along the curves, and from where to where. */
const props = defineProps<{ answers: Answers }>();
const workbench = useWorkbench();
const active = computed(() => workbench.active!);
const form = computed(() => props.answers.form.value);
const set = props.answers.setForm;
const inSweep = (key: string): DocumentPath => ['candidates', active.value.id, 'sweep', key];
const controls = computed(() =>
  active.value.surfaces.flatMap((s) => (s.controls ?? []).map((c) => ({ id: c.id, name: c.name }))),
);
const angle = (label: string, min: number, max: number): FieldLimit => ({
  label,
  dimension: 'angle',
  min,
  max,
  step: 1,
});
const LIFT: FieldLimit = { label: 'Lift coefficient', dimension: 'plain', min: -3, max: 4, step: 0.1 };
</script>

<template>
  <SheetGroup title="Sweep">
    <SelectRow
      label="Sweep variable"
      :model-value="form.kind"
      :options="SWEEP_KINDS"
      test="sweep-kind"
      @update:model-value="(kind) => set({ kind })"
    />
    <template v-if="form.kind === 'alpha' || form.kind === 'carrying'">
      <BoundField
        :path="inSweep('fromDeg')"
        :limit="SWEEP_LIMITS.fromDeg"
        :max="active.sweep.toDeg - 0.1"
        :digits="1"
        step="Sweep of angles, from"
      />
      <BoundField
        :path="inSweep('toDeg')"
        :limit="SWEEP_LIMITS.toDeg"
        :min="active.sweep.fromDeg + 0.1"
        :digits="1"
        step="Sweep of angles, to"
      />
      <BoundField :path="inSweep('stepDeg')" :limit="SWEEP_LIMITS.stepDeg" :digits="1" step="Sweep of angles, step" />
    </template>
    <template v-if="form.kind === 'level' || form.kind === 'carrying'">
      <LimitField
        :limit="{ ...BRIEF_LIMITS.speed, label: form.kind === 'level' ? 'From' : 'Polars from' }"
        :model-value="form.slowest"
        :max="form.fastest - 1"
        @commit="(v) => v !== null && set({ slowest: v })"
      />
      <LimitField
        :limit="{ ...BRIEF_LIMITS.speed, label: form.kind === 'level' ? 'To' : 'Polars to' }"
        :model-value="form.fastest"
        :min="form.slowest + 1"
        @commit="(v) => v !== null && set({ fastest: v })"
      />
    </template>
    <template v-if="form.kind === 'lift'">
      <LimitField
        :limit="{ ...LIFT, label: 'From' }"
        :model-value="form.leastLift"
        :max="form.mostLift - 0.1"
        @commit="(v) => v !== null && set({ leastLift: v })"
      />
      <LimitField
        :limit="{ ...LIFT, label: 'To' }"
        :model-value="form.mostLift"
        :min="form.leastLift + 0.1"
        @commit="(v) => v !== null && set({ mostLift: v })"
      />
    </template>
    <template v-if="form.kind === 'sideslip' || form.kind === 'control'">
      <LimitField
        :limit="angle('At an angle of', -20, 30)"
        :model-value="form.alpha"
        @commit="(v) => v !== null && set({ alpha: v })"
      />
    </template>
    <LimitField
      v-if="form.kind === 'sideslip'"
      :limit="angle('To both sides', 1, 30)"
      :model-value="form.beta"
      @commit="(v) => v !== null && set({ beta: v })"
    />
    <template v-if="form.kind === 'control'">
      <SelectRow
        v-if="controls.length"
        label="Control"
        :model-value="answers.control.value?.id ?? ''"
        :options="controls"
        @update:model-value="(control) => set({ control })"
      />
      <p v-else class="text-[12.5px] text-soft">This candidate has no controls: add one in Airframe.</p>
    </template>
    <p v-if="form.kind !== 'alpha'" class="pt-1 text-[12px] text-soft">Found with the polars of the sections only.</p>
  </SheetGroup>
</template>
