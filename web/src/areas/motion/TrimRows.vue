<script setup lang="ts">
import { computed } from 'vue';
import type { AirframeMotion } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import { MOTION_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import { travelWords } from '@/lib/travel-words';
import type { CandidatePart } from '@/lib/types';

/** The trim of level flight: angle, coefficients, and the deflections that hold it with how much of them works. */
const props = defineProps<{ motion: AirframeMotion; candidate: CandidatePart }>();
const controls = computed(() => {
  const named = props.candidate.surfaces.flatMap((s) => s.controls ?? []);
  return Object.entries(props.motion.trim.controls).map(([id, d]) => {
    const works = props.motion.works[id];
    return {
      id,
      name: named.find((c) => c.id === id)?.name ?? id,
      deflection: d * DEG,
      note: works && works.now < 0.98 ? travelWords(works.now, d * DEG, works.method) : null,
    };
  });
});
</script>

<template>
  <QuantityRow
    v-for="id in ['level-angle', 'level-CL', 'level-CD']"
    :key="id"
    :quantity="quantityIn(MOTION_QUANTITIES, id)"
    :from="motion"
  />
  <template v-for="c in controls" :key="c.id">
    <DerivedRow :label="c.name" :value="c.deflection" dimension="angle" :digits="2" />
    <p v-if="c.note" class="text-[12px] text-soft">{{ c.note }}</p>
  </template>
  <p v-if="controls.length === 0" class="text-[12.5px] text-soft">
    No control trims: Cm {{ formatNumber(motion.trim.Cm, 4) }} is left.
  </p>
</template>
