<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  planformOf,
  setDimension,
  standingIn,
  tailFacts,
  USUAL_TAIL_VOLUMES,
  type LiftingSurface,
} from '@veldtwind/core/airframe';
import type { CandidatePart } from '@veldtwind/core/project';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useCandidateEdit } from '@/store/candidate-edit';

/** How large a tail is by its volume coefficient, beside what is usual; a wanted one proposes its area. */
const props = defineProps<{ candidate: CandidatePart; surface: LiftingSurface }>();
const { tryChangeSurface } = useCandidateEdit();
const usual = computed(() => USUAL_TAIL_VOLUMES[props.surface.plane]);
const facts = computed(() => {
  try {
    const { surfaces } = standingIn(props.candidate);
    const tail = tailFacts(surfaces).find((t) => t.id === props.surface.id);
    if (!tail) return null;
    const own = planformOf(surfaces.find((s) => s.id === props.surface.id)!);
    // Its shape and dihedral stay: all of its area grows as the part that counts.
    return {
      ...tail,
      area: own.area,
      areaFor: (v: number) => (own.area * v) / Math.abs(tail.volumeCoefficient),
    };
  } catch {
    return null;
  }
});
const wanted = ref<number | null>(null);
const proposal = computed(() =>
  facts.value && wanted.value !== null && facts.value.arm !== 0 ? facts.value.areaFor(wanted.value) : null,
);
const why = ref('');
function apply(): void {
  const area = proposal.value;
  if (area === null) return;
  why.value = tryChangeSurface(`${props.surface.name}: area for a volume of ${wanted.value}`, props.surface.id, (s) => {
    const made = setDimension(
      JSON.parse(JSON.stringify(s)) as LiftingSurface,
      'area',
      Number(area.toPrecision(4)),
      undefined,
      ['aspectRatio', 'taper', 'sweepLeading'],
    );
    s.stations = made.stations;
    s.bays = made.bays;
  });
}
const LIMIT = { label: 'Wanted', dimension: 'plain', min: 0.005, max: 3, step: 0.01 } as const;
/** What it does beside: a V-tail is a fin as well. */
const other = computed(() =>
  props.surface.plane === 'vertical'
    ? { name: 'horizontal', value: facts.value?.horizontalVolume ?? 0 }
    : { name: 'vertical', value: facts.value?.verticalVolume ?? 0 },
);
const within = computed(() => {
  const v = Math.abs(facts.value?.volumeCoefficient ?? 0);
  return v < usual.value.low ? 'below what is usual' : v > usual.value.high ? 'above what is usual' : 'as is usual';
});
</script>

<template>
  <SheetGroup v-if="facts" title="Tail volume">
    <DerivedRow
      label="Arm"
      :value="facts.arm"
      dimension="length"
      note="From the wing’s quarter mean chord to its own"
    />
    <DerivedRow
      label="Volume coefficient"
      :note="surface.plane === 'vertical' ? 'Of its vertical part' : 'Of its horizontal part'"
      :value="facts.volumeCoefficient"
      dimension="plain"
      :digits="3"
    />
    <DerivedRow
      v-if="Math.abs(other.value) > 1e-3"
      :label="`Volume coefficient, ${other.name}`"
      :note="`Its area with the square of the ${other.name === 'vertical' ? 'sine' : 'cosine'} of the dihedral`"
      :value="other.value"
      dimension="plain"
      :digits="3"
    />
    <p class="text-[12px] text-soft">{{ within }}: {{ usual.low }} to {{ usual.high }} ({{ usual.source }})</p>
    <LimitField
      :limit="LIMIT"
      :model-value="wanted"
      placeholder="volume coefficient"
      data-test="wanted-volume"
      @preview="(v) => (wanted = v)"
      @commit="(v) => (wanted = v)"
    />
    <template v-if="proposal !== null">
      <DerivedRow label="Required area" :value="proposal" dimension="area" />
      <button class="link text-[12.5px]" data-test="apply-volume" @click="apply">Scale to this area ›</button>
    </template>
    <p v-if="why" class="text-[12px] text-clay" role="alert">{{ why }}</p>
  </SheetGroup>
</template>
