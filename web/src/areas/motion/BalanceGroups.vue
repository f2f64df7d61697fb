<script setup lang="ts">
import { computed } from 'vue';
import type { AirframeMotion } from '@veldtwind/core/candidate';
import DerivedRow from '@/components/field/DerivedRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { CandidatePart } from '@/lib/types';

/** Mass, margins and inertia of a flight, and what a pull-up asks for. */
const props = defineProps<{
  motion: AirframeMotion;
  candidate: CandidatePart;
}>();
const DEG = 180 / Math.PI;
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
    <DerivedRow label="Mass" :value="motion.mass.mass" dimension="mass" />
    <DerivedRow label="Centre of gravity, x" :value="motion.mass.centre.x" dimension="length" />
    <DerivedRow label="Static margin" :value="motion.staticMargin" dimension="ratio" />
    <DerivedRow
      v-if="motion.stickFree"
      label="Stick-free margin"
      :note="`${motion.stickFree.name} floats by its hinge moment, thin-section theory`"
      :value="motion.stickFree.staticMargin"
      dimension="ratio"
    />
    <p class="pb-1 text-[12px] text-soft">
      {{ motion.method === 'polars' ? 'With section polars' : 'Inviscid lattice' }}, at the trim, with bodies.
    </p>
    <DerivedRow label="Ixx" :value="motion.case.Ixx" dimension="plain" :digits="3" unit="kg m²" />
    <DerivedRow label="Iyy" :value="motion.case.Iyy" dimension="plain" :digits="3" unit="kg m²" />
    <DerivedRow label="Izz" :value="motion.case.Izz" dimension="plain" :digits="3" unit="kg m²" />
    <DerivedRow label="Ixz = ∫xz dm" :value="motion.case.Ixz" dimension="plain" :digits="3" unit="kg m²" />
    <p class="text-[12px] text-soft">About the centre of gravity, along the stream and across it.</p>
  </SheetGroup>
  <SheetGroup title="Pull-up">
    <DerivedRow
      label="Manoeuvre margin"
      note="How far aft the centre may go until a pull-up needs no deflection"
      :value="motion.manoeuvre.margin"
      dimension="ratio"
    />
    <DerivedRow v-if="perG" :label="`${perG.name} per g`" :value="perG.degrees" dimension="angle" :digits="2" />
  </SheetGroup>
</template>
