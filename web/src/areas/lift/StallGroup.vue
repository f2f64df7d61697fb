<script setup lang="ts">
import { computed } from 'vue';
import type { TrimmedStall } from '@veldtwind/core/candidate';
import type { LiftingSurface } from '@veldtwind/core/airframe';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import type { SteadyAnswer } from './use-steady';
import { controlMargins, heaviestMass, levelRange, type SteadySweep } from '@veldtwind/core/flight';
import { ASSUMPTION_LIMITS } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import BoundField from '@/components/field/BoundField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

/** What the polars of the sections add: greatest lift, where the stall begins and what controls have left there, glide, and level speeds of a power. */
const props = defineProps<{
  answer: SteadyAnswer;
  surfaces: readonly LiftingSurface[];
  kind: SteadySweep['kind'];
  /** The slowest level flight in trim, where it is known. */ inTrim: TrimmedStall | null;
}>();
const project = useProject();
const preferences = usePreferences();
const DEG = 180 / Math.PI;
const overAngle = computed(() => props.kind === 'alpha' || props.kind === 'carrying');
const speedUnit = computed(() => displayUnit('speed', preferences.units));
/** What is left to the ailerons where the wing begins to stall. */
const rollMargins = computed(() => {
  const v = props.answer;
  if (!v.stallBegins || props.kind !== 'alpha') return [];
  return controlMargins(props.surfaces, v.points, v.stallBegins.alpha);
});
const heaviest = computed(() => {
  const v = props.answer;
  if (!v.CLmax) return null;
  const q = flowState(project.brief.speed, project.brief.altitude).dynamicPressure;
  return heaviestMass(v.CLmax, v.reference.area, q, GRAVITY);
});
/** Level speeds that a power holds. */
const power = computed(() => project.brief.assumptions.power);
const speeds = computed(() => {
  const v = props.answer;
  if (v.glidePolar.length < 2) return null;
  return levelRange(v.glidePolar, power.value);
});
</script>

<template>
  <SheetGroup title="With polars">
    <DerivedRow label="Greatest lift, CLmax" :value="answer.CLmax ?? undefined" dimension="plain" :digits="3" />
    <DerivedRow
      label="at an angle of"
      :value="answer.alphaCLmax === null ? undefined : answer.alphaCLmax * DEG"
      dimension="angle"
    />
    <DerivedRow
      v-if="answer.stallBegins"
      label="Stall begins at"
      :value="answer.stallBegins.alpha * DEG"
      dimension="angle"
    />
    <DerivedRow
      v-if="answer.stallBegins"
      label="at the half span’s"
      :value="answer.stallBegins.eta"
      dimension="ratio"
    />
    <template v-for="m in rollMargins" :key="m.control">
      <DerivedRow
        :label="`${m.name} there: lift left`"
        note="Least difference of a strip’s greatest lift and its own, over the greatest"
        :value="m.share"
        dimension="ratio"
      />
      <DerivedRow
        :label="`${m.name} stalls at`"
        :value="m.stallsAt === null ? undefined : m.stallsAt * DEG"
        dimension="angle"
      />
    </template>
    <DerivedRow
      v-if="inTrim"
      label="Stall speed in trim"
      note="Slowest level flight with zero pitching moment, thrust idle, at its own Reynolds number"
      :value="inTrim.speed"
      dimension="speed"
      data-evidence="stall-speed"
    />
    <DerivedRow
      label="Untrimmed stall speed"
      note="Level flight at the greatest lift, at its own Reynolds number, controls as they stand"
      :value="answer.stall?.speed"
      dimension="speed"
    />
    <DerivedRow label="Best glide" :value="answer.glide?.bestGlide?.ratio" dimension="plain" :digits="2" />
    <DerivedRow label="at a speed of" :value="answer.glide?.bestGlide?.speed" dimension="speed" />
    <DerivedRow label="Least sink" :value="answer.glide?.leastSink?.rate" dimension="speed" :digits="3" />
    <DerivedRow label="Heaviest mass" :value="heaviest ?? undefined" dimension="mass" />
    <p v-if="answer.CLmax === null && overAngle" class="text-[12px] text-soft">
      The lift still rises at the end of the sweep: let it go on to see the stall.
    </p>
    <BoundField
      :path="['brief', 'assumptions', 'power']"
      :limit="ASSUMPTION_LIMITS.power"
      step="Power available"
      :digits="0"
    />
    <p class="text-[12px] text-soft" role="status">
      <template v-if="speeds"
        >Level from {{ formatQuantity(speeds.from, 'speed', preferences.units) }} to
        {{ formatQuantity(speeds.to, 'speed', preferences.units) }} {{ speedUnit.symbol }}.</template
      ><template v-else>No level speed of the sweep is held by this power.</template>
    </p>
  </SheetGroup>
</template>
