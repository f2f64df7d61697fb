<script setup lang="ts">
import { computed, ref } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG } from '@veldtwind/core/numerics';
import { BRIEF_LIMITS } from '@veldtwind/core/project';
import { formatNumber } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import { useLive } from '@/lib/live';
import { useCandidateMotion } from '@/store/candidate-motion';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** Steady flight at a speed: level, a climb, a glide or a turn, with the drag of the polars and the thrust line; and what a pull-up asks of the controls. */
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
interface Asked {
  speed: number | null;
  climbDeg: number;
  bankDeg: number;
  line: { x: number; z: number; tiltDeg: number } | null;
}
const key = computed(() => `steady-${(project.id ?? '').slice(0, 8)}-${(workbench.active?.id ?? '').slice(0, 12)}`);
const kept = computed<Asked>(() =>
  preferences.get<Asked>(key.value, { speed: null, climbDeg: 0, bankDeg: 0, line: null }),
);
/** While a value is dragged. */
const shown = ref<Partial<Asked>>({});
const asked = computed<Asked>(() => ({ ...kept.value, ...shown.value }));
const set = (more: Partial<Asked>) => {
  shown.value = {};
  preferences.set(key.value, { ...kept.value, ...more });
};
const speed = computed(() => asked.value.speed ?? project.brief.speed);
const { input, needs, missing, withPolars, polars } = useCandidateMotion(() => speed.value);
const live = useLive(lanes.motion, 'steady-flight', () => {
  const of = input();
  const { climbDeg, bankDeg, line } = asked.value;
  return of && { of, climbDeg, bankDeg, ...(line && { thrustLine: line }) };
});
const now = computed(() => (live.failure.value ? null : live.value.value));
const names = computed(() =>
  Object.fromEntries(
    (workbench.active?.surfaces ?? []).flatMap((s) => (s.controls ?? []).map((c) => [c.id, c.name || c.id])),
  ),
);
const perG = computed(() =>
  Object.entries(now.value?.manoeuvre.deflectionPerG ?? {}).filter((e): e is [string, number] => e[1] !== null),
);
const CLIMB: FieldLimit = { label: 'Climb', dimension: 'angle', min: -60, max: 60, step: 0.5 };
const BANK: FieldLimit = { label: 'Bank', dimension: 'angle', min: -80, max: 80, step: 5 };
const LINE: { k: 'x' | 'z' | 'tiltDeg'; limit: FieldLimit }[] = [
  { k: 'x', limit: { label: 'Thrust at x', dimension: 'length', min: -1000, max: 1000, step: 0.05 } },
  { k: 'z', limit: { label: 'at z', dimension: 'length', min: -1000, max: 1000, step: 0.02 } },
  { k: 'tiltDeg', limit: { label: 'Tilted upward', dimension: 'angle', min: -90, max: 90, step: 0.5 } },
];
function line(on: boolean): void {
  const centre = workbench.current?.mass?.centre;
  set({
    line: on ? { x: Number((centre?.x ?? 0).toFixed(3)), z: Number((centre?.z ?? 0).toFixed(3)), tiltDeg: 0 } : null,
  });
}
</script>

<template>
  <SheetGroup title="Steady flight">
    <LimitField
      :limit="BRIEF_LIMITS.speed"
      :model-value="speed"
      @preview="(v) => (shown = { speed: v })"
      @commit="(v) => v !== null && set({ speed: v === project.brief.speed ? null : v })"
    />
    <LimitField
      :limit="CLIMB"
      :model-value="asked.climbDeg"
      :digits="1"
      @preview="(v) => (shown = { climbDeg: v })"
      @commit="(v) => v !== null && set({ climbDeg: v })"
    />
    <LimitField
      :limit="BANK"
      :model-value="asked.bankDeg"
      :digits="0"
      @preview="(v) => (shown = { bankDeg: v })"
      @commit="(v) => v !== null && set({ bankDeg: v })"
    />
    <SwitchRow
      label="Separate thrust line"
      test="thrust-line"
      :model-value="asked.line !== null"
      @update:model-value="line"
    />
    <template v-if="asked.line">
      <LimitField
        v-for="f in LINE"
        :key="f.k"
        :limit="f.limit"
        :model-value="asked.line[f.k]"
        @preview="(v) => (shown = { line: { ...asked.line!, [f.k]: v } })"
        @commit="(v) => v !== null && set({ line: { ...kept.line!, [f.k]: v } })"
      />
    </template>
    <p v-if="live.failure.value" class="py-1 text-[12.5px] text-clay" role="alert">
      {{ live.failure.value.message }} {{ live.failure.value.hint }}
    </p>
    <div v-else-if="now" data-test="steady-trim">
      <DerivedRow label="Angle of attack" :value="now.alpha * DEG" dimension="angle" />
      <DerivedRow
        v-for="(d, id) in now.controls"
        :key="id"
        :label="names[id] ?? String(id)"
        :value="d * DEG"
        dimension="angle"
        :digits="2"
      />
      <p v-for="b in now.beyond" :key="b.id" class="text-[12.5px] text-clay">
        {{ b.name }} is beyond its limit of {{ formatNumber(b.limit * DEG, 1) }}°.
      </p>
      <DerivedRow label="Lift coefficient" :value="now.CL" dimension="plain" :digits="4" />
      <DerivedRow label="Drag coefficient" :value="now.CD" dimension="plain" :digits="5" />
      <DerivedRow
        label="Thrust"
        :note="now.thrust < 0 ? 'It would have to be braked' : 'Along its line'"
        :value="now.thrust"
        dimension="force"
      />
      <DerivedRow label="Load factor" :value="now.loadFactor" dimension="plain" :digits="3" />
      <DerivedRow label="Static margin" note="At this speed, with bodies" :value="now.staticMargin" dimension="ratio" />
      <DerivedRow
        label="Manoeuvre margin"
        note="How far aft the centre may go until a pull-up needs no deflection"
        :value="now.manoeuvre.margin"
        dimension="ratio"
      />
      <DerivedRow label="Manoeuvre point, x" :value="now.manoeuvrePoint" dimension="length" />
      <DerivedRow
        v-for="[name, d] in perG"
        :key="name"
        :label="`${name} per g`"
        :value="d * DEG"
        dimension="angle"
        :digits="2"
      />
    </div>
    <p class="pt-1 text-[12px] text-soft" role="status">
      {{ withPolars ? 'lattice with section polars' : 'vortex lattice, drag from the build-up' }}
    </p>
    <PolarNeeds
      v-if="missing.length"
      :needs="needs"
      :missing="missing"
      :seconds="polars.secondsFor(missing)"
      @compute="polars.compute(missing, `Polars for Balance, ${workbench.active?.letter ?? ''}`)"
    />
  </SheetGroup>
</template>
