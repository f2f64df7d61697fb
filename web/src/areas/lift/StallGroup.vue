<script setup lang="ts">
import { computed } from 'vue';
import type { LiftingSurface } from '@veldtwind/core/airframe';
import type { Performance } from '@veldtwind/core/candidate';
import { controlMargins, type SteadySweep } from '@veldtwind/core/flight';
import { DEG } from '@veldtwind/core/numerics';
import { PERFORMANCE_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useProject } from '@/store/project';
import type { SteadyAnswer } from './use-steady';

/** What the polars of the sections add: greatest lift, where the stall begins and what controls have left there; with the stall and the glide in trim. */
const props = defineProps<{
  answer: SteadyAnswer;
  surfaces: readonly LiftingSurface[];
  kind: SteadySweep['kind'];
  /** Null until it is computed. */ inTrim: Performance | null;
}>();
const project = useProject();
const overAngle = computed(() => props.kind === 'alpha' || props.kind === 'carrying');
/** What is left to the ailerons where the wing begins to stall. */
const rollMargins = computed(() => {
  const v = props.answer;
  if (!v.stallBegins || props.kind !== 'alpha') return [];
  return controlMargins(props.surfaces, v.points, v.stallBegins.alpha);
});
const TOLD = ['stallSpeed', 'bestGlide', 'bestGlideSpeed', 'leastSink', 'mass', 'heaviestMass', 'massReserve'].map(
  (id) => quantityIn(PERFORMANCE_QUANTITIES, `performance.${id}`),
);
</script>

<template>
  <SheetGroup title="With polars">
    <DerivedRow label="Greatest lift, CLmax" :value="answer.CLmax ?? undefined" dimension="plain" :digits="3" />
    <DerivedRow
      label="Angle of CLmax"
      :value="answer.alphaCLmax === null ? undefined : answer.alphaCLmax * DEG"
      dimension="angle"
    />
    <DerivedRow
      v-if="answer.stallBegins"
      label="Angle of first stall"
      :value="answer.stallBegins.alpha * DEG"
      dimension="angle"
    />
    <DerivedRow
      v-if="answer.stallBegins"
      label="Station of first stall"
      :value="answer.stallBegins.eta"
      dimension="ratio"
    />
    <template v-for="m in rollMargins" :key="m.control">
      <DerivedRow
        :label="`${m.name}: lift left at first stall`"
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
    <p v-if="answer.CLmax === null && overAngle" class="text-[12px] text-soft">
      The lift still rises at the end of the sweep: let it go on to see the stall.
    </p>
  </SheetGroup>
  <SheetGroup title="Trimmed performance">
    <template #aside>
      <RouterLink class="link text-[12px]" :to="{ name: 'performance', params: { project: project.id! } }"
        >Performance</RouterLink
      >
    </template>
    <QuantityRow v-for="q in TOLD" :key="q.id" :quantity="q" :from="inTrim" />
    <p v-if="inTrim && 'missing' in inTrim.stall" class="text-[12px] text-soft">{{ inTrim.stall.missing }}</p>
    <p v-else-if="!inTrim" class="text-[12px] text-soft" role="status">Computing…</p>
  </SheetGroup>
</template>
