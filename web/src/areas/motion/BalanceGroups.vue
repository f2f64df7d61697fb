<script setup lang="ts">
import { computed } from 'vue';
import type { AirframeMotion } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import { MOTION_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { CandidatePart } from '@/lib/types';

/** Mass, margins and inertia of a flight, and what a pull-up asks for. */
const props = defineProps<{
  motion: AirframeMotion;
  candidate: CandidatePart;
}>();
const MARGINS = computed(() =>
  ['mass', 'centre', 'static-margin', ...(props.motion.stickFree ? ['stick-free-margin'] : [])].map((id) =>
    quantityIn(MOTION_QUANTITIES, id),
  ),
);
/** Deflection per g of the control that trims. */
const perG = computed(() => {
  const id = Object.keys(props.motion.trim.controls)[0];
  const name = props.candidate.surfaces.flatMap((v) => v.controls ?? []).find((c) => c.id === id)?.name;
  const value = name === undefined ? null : props.motion.manoeuvre.deflectionPerG[name];
  return name !== undefined && value != null ? { name, degrees: value * DEG } : null;
});
</script>

<template>
  <SheetGroup title="Balance">
    <QuantityRow v-for="q in MARGINS" :key="q.id" :quantity="q" :from="motion" />
    <p class="pb-1 text-[12px] text-soft">
      {{ motion.method === 'polars' ? 'With section polars' : 'Inviscid lattice' }}, at the trim, with bodies.
    </p>
    <QuantityRow
      v-for="id in ['Ixx', 'Iyy', 'Izz', 'Ixz']"
      :key="id"
      :quantity="quantityIn(MOTION_QUANTITIES, id)"
      :from="motion"
    />
    <p class="text-[12px] text-soft">About the centre of gravity, along the stream and across it.</p>
  </SheetGroup>
  <SheetGroup title="Pull-up">
    <QuantityRow :quantity="quantityIn(MOTION_QUANTITIES, 'manoeuvre-margin')" :from="motion" />
    <DerivedRow v-if="perG" :label="`${perG.name} per g`" :value="perG.degrees" dimension="angle" :digits="2" />
  </SheetGroup>
</template>
