<script setup lang="ts">
import { computed, ref } from 'vue';
import { SURFACE_LIMITS, type LiftingSurface, type SurfaceAsymmetry } from '@veldtwind/core/airframe';
import { explainedBy, type AsymmetryCause, type AsymmetryKind } from '@veldtwind/core/candidate';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG, RAD } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { ASYMMETRY_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { formatNumber, formatQuantity, displayUnit, type Dimension } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useLive } from '@/lib/live';
import { useCandidateEdit } from '@/store/candidate-edit';
import { useCandidateMotion } from '@/store/candidate-motion';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';

/** How the halves of a surface differ, what that does, what holds it, and which difference would explain a roll that was seen. */
const props = defineProps<{ candidate: CandidatePart }>();
const project = useProject();
const preferences = usePreferences();
const { changeSurface } = useCandidateEdit();

const mirrored = computed(() => props.candidate.surfaces.filter((s) => s.mirrored));
const picked = ref('');
const surface = computed(() => mirrored.value.find((s) => s.id === picked.value) ?? mirrored.value[0]);
const KEYS = Object.keys(SURFACE_LIMITS.asymmetry) as (keyof SurfaceAsymmetry)[];
function set(key: keyof SurfaceAsymmetry, label: string, value: number | null): void {
  const s = surface.value;
  changeSurface(`${s.name}: ${label.toLowerCase()}, right − left`, s.id, (draft) => {
    const { [key]: _, ...rest } = draft.asymmetry ?? {};
    const next = value ? { ...rest, [key]: value } : rest;
    if (Object.keys(next).length > 0) draft.asymmetry = next;
    else delete draft.asymmetry;
  });
}
const rig = (id: string, name: string, value: number | null) =>
  changeSurface(`${name}: rigging, right − left`, surface.value.id, (draft) => {
    const c = draft.controls?.find((v) => v.id === id);
    if (!c) return;
    if (value) c.riggingDeg = value;
    else delete c.riggingDeg;
  });

const given = (s: LiftingSurface) => !!s.asymmetry || (s.controls ?? []).some((c) => c.riggingDeg);
const any = computed(() => mirrored.value.some(given));
/** A roll that was seen, °/s. */
const seen = ref<number | null>(null);
const SEEN: FieldLimit = {
  label: 'Observed roll, °/s',
  dimension: 'plain',
  min: -2000,
  max: 2000,
  step: 1,
  hint: 'Controls fixed, right wing down positive',
  optional: true,
};
/** Shares of the design speed that the control limit is looked for at. */
const SPEEDS = [0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.2, 1.5];
const { input, withPolars } = useCandidateMotion(() => project.brief.speed);
const live = useLive(lanes.motion, 'asymmetry', () => {
  const of = any.value || seen.value !== null ? input() : null;
  return of && { of, speeds: any.value ? SPEEDS.map((k) => Number((k * of.speed).toFixed(3))) : [] };
});
const now = computed(() => (live.failure.value ? null : live.value.value));

const named = (labels: Record<string, string>) =>
  Object.entries(labels).map(([id, label]) => ({ q: quantityIn(ASYMMETRY_QUANTITIES, `asymmetry.${id}`), label }));
const SUMS = named({ rollingMoment: 'Rolling moment', yawingMoment: 'Yawing moment', rollRate: 'Roll rate' });
const HELD = named({ bank: 'Bank angle', sideslip: 'Sideslip angle', leastTravelLeft: 'Remaining travel' });
const UNIT: Record<AsymmetryKind, { label: string; dimension: Dimension; times: number; digits?: number }> = {
  incidence: { label: 'incidence', dimension: 'angle', times: DEG, digits: 2 },
  twist: { label: 'tip twist', dimension: 'angle', times: DEG, digits: 2 },
  dihedral: { label: 'dihedral', dimension: 'angle', times: DEG, digits: 1 },
  mass: { label: 'mass', dimension: 'mass', times: 1 },
  drag: { label: 'profile drag', dimension: 'ratio', times: 1, digits: 0 },
  rigging: { label: 'rigging', dimension: 'angle', times: DEG, digits: 2 },
};
const nameOf = (c: AsymmetryCause) =>
  `${c.name}${c.control ? `, ${c.control.name}` : ''}: ${UNIT[c.kind].label}`.replace(/^./, (v) => v.toUpperCase());
const text = (c: AsymmetryCause, amount: number) => {
  const { dimension, times, digits } = UNIT[c.kind];
  const shown = formatQuantity(amount * times, dimension, preferences.units, digits);
  const { symbol } = displayUnit(dimension, preferences.units);
  return symbol === '°' ? `${shown}°` : `${shown} ${symbol}`;
};
const causes = computed(() => (now.value?.causes ?? []).filter((c) => c.given));
const total = computed(() => props.candidate.massItems.reduce((sum, m) => sum + m.mass, 0));
/** What alone would bring the roll that was seen. */
const explained = computed(() =>
  seen.value === null || !now.value
    ? []
    : explainedBy(now.value.causes, seen.value * RAD, total.value).map(({ cause, amount }) => ({
        c: cause,
        text: text(cause, amount),
      })),
);
const moment = (v: number) =>
  `${formatQuantity(v, 'moment', preferences.units)} ${displayUnit('moment', preferences.units).symbol}`;
const rate = (v: number | null) => (v === null ? 'not damped' : `${formatNumber(v * DEG, 1)} °/s`);
</script>

<template>
  <SheetGroup v-if="surface" title="Asymmetry">
    <template #aside><span class="text-[12px] text-soft">right − left</span></template>
    <SelectRow
      v-if="mirrored.length > 1"
      label="Surface"
      :model-value="surface.id"
      :options="mirrored"
      test="asymmetry-surface"
      @update:model-value="(v) => (picked = v)"
    />
    <LimitField
      v-for="key in KEYS"
      :key="`${surface.id}-${key}`"
      :limit="{ ...SURFACE_LIMITS.asymmetry[key], optional: true }"
      :model-value="surface.asymmetry?.[key] ?? 0"
      :digits="key === 'mass' ? 3 : undefined"
      @commit="(v) => set(key, SURFACE_LIMITS.asymmetry[key].label, v)"
    />
    <LimitField
      v-for="c in surface.controls ?? []"
      :key="`${surface.id}-${c.id}`"
      :limit="{ ...SURFACE_LIMITS.control.riggingDeg, optional: true }"
      :label="`${c.name} rigging`"
      :model-value="c.riggingDeg ?? 0"
      @commit="(v) => rig(c.id, c.name, v)"
    />
    <p v-if="live.failure.value" class="py-1 text-[12.5px] text-clay" role="alert">
      {{ live.failure.value.message }} {{ live.failure.value.hint }}
    </p>
    <div v-else-if="now && any" data-test="asymmetry">
      <QuantityRow v-for="s in SUMS" :key="s.label" :quantity="s.q" :label="s.label" :from="now.now" />
      <template v-if="now.now.held">
        <QuantityRow v-for="s in HELD" :key="s.label" :quantity="s.q" :label="s.label" :from="now.now" />
        <template v-for="c in now.now.held.controls" :key="c.name">
          <DerivedRow :label="c.name" :value="c.deflection * DEG" dimension="angle" :digits="1" />
          <p v-if="c.left !== null && c.left < 0" class="text-[12.5px] text-clay">
            {{ c.name }} is beyond its limit of {{ formatNumber((c.limit ?? 0) * DEG, 1) }}°.
          </p>
        </template>
      </template>
      <p v-else class="text-[12.5px] text-clay">No control rolls or yaws: straight flight cannot be held.</p>
      <DerivedRow
        v-if="now.limit"
        :label="now.limit.side === 'below' ? 'Least speed in straight flight' : 'Greatest speed in straight flight'"
        :note="`${now.limit.control}: no travel left ${now.limit.side} it`"
        :value="now.limit.speed"
        dimension="speed"
      />
      <table v-if="causes.length > 1" class="mt-1 w-full text-[12.5px]">
        <caption class="sr-only">
          Contributions
        </caption>
        <tbody>
          <tr v-for="c in causes" :key="nameOf(c)">
            <th scope="row" class="py-0.5 text-left font-normal text-soft">{{ nameOf(c) }}</th>
            <td class="text-right">{{ moment(c.rollMoment) }}</td>
            <td class="w-20 text-right">{{ rate(c.rollRate) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <LimitField :limit="SEEN" :model-value="seen" :digits="1" @commit="(v) => (seen = v)" />
    <table v-if="explained.length" class="w-full text-[12.5px]" data-test="asymmetry-explained">
      <caption class="pb-0.5 text-left text-soft">
        Each of these alone explains it, right − left
      </caption>
      <tbody>
        <tr v-for="e in explained" :key="nameOf(e.c)">
          <th scope="row" class="py-0.5 text-left font-normal text-soft">{{ nameOf(e.c) }}</th>
          <td class="text-right">{{ e.text }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="now" class="pt-1 text-[12px] text-soft" role="status">
      turned sections by the vortex lattice, damping and controls by the
      {{ withPolars ? 'lattice with section polars' : 'vortex lattice' }}, at the design speed
    </p>
  </SheetGroup>
</template>
