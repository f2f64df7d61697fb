<script setup lang="ts">
import { computed } from 'vue';
import { flowState } from '@veldtwind/core/atmosphere';
import type { LiftPoint } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { CandidatePart } from '@/lib/types';
import { useProject } from '@/store/project';
import { useCriticalMach } from './use-critical-mach';

/** Where the flow first reaches the speed of sound in the state that is looked at. */
const props = defineProps<{ candidate: CandidatePart; point: LiftPoint['point'] | null }>();
const project = useProject();
const { first, failure } = useCriticalMach(
  () => props.candidate,
  () => props.point,
);
const mach = computed(() => flowState(props.point?.speed ?? project.brief.speed, project.brief.altitude).mach);
const where = computed(() => {
  const s = first.value;
  if (!s) return '';
  const name = props.candidate.surfaces.find((f) => f.id === s.surface)?.name ?? s.surface;
  return `First on ${name} at ${formatNumber(100 * s.station, 0)} % of the half span, in the flow normal to its sweep.`;
});
const beyond = computed(() => first.value !== null && mach.value > first.value.mach);
</script>

<template>
  <SheetGroup title="Compressibility">
    <DerivedRow label="Mach number" :value="mach" dimension="plain" :digits="3" />
    <DerivedRow label="Critical Mach number" :value="first?.mach" dimension="plain" :digits="3" />
    <p v-if="failure" class="text-[12.5px] text-clay" role="alert">{{ failure.message }}</p>
    <p v-else-if="beyond" class="text-[12.5px] text-clay" role="alert" data-test="beyond-critical">
      {{ where }} This flight is beyond it: shocks raise the drag, and neither lattice nor polars know them.
    </p>
    <p v-else class="text-[12px] text-soft">{{ where }}</p>
  </SheetGroup>
</template>
