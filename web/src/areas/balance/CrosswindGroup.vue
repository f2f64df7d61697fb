<script setup lang="ts">
import { computed, ref } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useLive } from '@/lib/live';
import { useCandidateMotion } from '@/store/candidate-motion';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';

/** Straight flight in a crosswind, with an engine out or with unequal wings: bank, controls and what is left of them. */
const project = useProject();
const asked = ref({ crosswind: 5, rollMoment: 0, yawMoment: 0 });
const { input, withPolars } = useCandidateMotion(() => project.brief.speed);
const live = useLive(lanes.motion, 'lateral', () => {
  const of = input();
  return of && { of, ...asked.value };
});
const now = computed(() => (live.failure.value ? null : live.value.value));
const FIELDS: { key: keyof typeof asked.value; limit: FieldLimit; digits: number; hint: string }[] = [
  {
    key: 'crosswind',
    limit: { label: 'Crosswind', dimension: 'speed', min: -100, max: 100, step: 0.5 },
    digits: 1,
    hint: 'From the right positive',
  },
  {
    key: 'yawMoment',
    limit: { label: 'Yawing moment', dimension: 'moment', min: -1e6, max: 1e6, step: 1 },
    digits: 1,
    hint: 'Nose right positive; with one engine out, its thrust times its lateral arm',
  },
  {
    key: 'rollMoment',
    limit: { label: 'Rolling moment', dimension: 'moment', min: -1e6, max: 1e6, step: 1 },
    digits: 1,
    hint: 'Right wing down positive; from asymmetric loading or unequal wings',
  },
];
</script>

<template>
  <SheetGroup title="Steady sideslip">
    <LimitField
      v-for="f in FIELDS"
      :key="f.key"
      :limit="f.limit"
      :digits="f.digits"
      :hint="f.hint"
      :model-value="asked[f.key]"
      @preview="(v) => (asked = { ...asked, [f.key]: v })"
      @commit="(v) => v !== null && (asked = { ...asked, [f.key]: v })"
    />
    <p v-if="live.failure.value" class="py-1 text-[12.5px] text-clay" role="alert">
      {{ live.failure.value.message }} {{ live.failure.value.hint }}
    </p>
    <div v-else-if="now" data-test="lateral-trim">
      <DerivedRow label="Sideslip angle" :value="now.sideslip * DEG" dimension="angle" :digits="1" />
      <DerivedRow
        label="Bank angle"
        note="Right wing down positive"
        :value="now.bank * DEG"
        dimension="angle"
        :digits="1"
      />
      <template v-for="c in now.controls" :key="c.name">
        <DerivedRow :label="c.name" :value="c.deflection * DEG" dimension="angle" :digits="1" />
        <p v-if="c.left !== null && c.left < 0" class="text-[12.5px] text-clay">
          {{ c.name }} is beyond its limit of {{ formatNumber((c.limit ?? 0) * DEG, 1) }}°.
        </p>
        <DerivedRow
          v-else-if="c.left !== null"
          :label="`${c.name}: remaining travel`"
          :value="c.left"
          dimension="ratio"
          :digits="0"
        />
      </template>
      <DerivedRow
        v-if="now.most && now.mostCrosswind !== null"
        label="Maximum crosswind"
        :note="`Where ${now.most.control} meets its limit`"
        :value="now.mostCrosswind"
        dimension="speed"
      />
    </div>
    <p class="pt-1 text-[12px] text-soft" role="status">
      {{ withPolars ? 'lattice with section polars' : 'vortex lattice' }}, at the design speed
    </p>
  </SheetGroup>
</template>
