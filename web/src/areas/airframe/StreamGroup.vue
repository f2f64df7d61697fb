<script setup lang="ts">
import { computed } from 'vue';
import { referenceSurface, SURFACE_LIMITS, type LiftingSurface, type StreamEffects } from '@veldtwind/core/airframe';
import { inputsOfStreams } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { formatNumber } from '@veldtwind/core/units';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import { useLive } from '@/lib/live';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import { useCandidateEdit } from '@/store/candidate-edit';

/** What changes the stream at a surface, with its amount, counted or not: wake of the wing, slipstream, and lift carried over to a body. */
const props = defineProps<{ candidate: CandidatePart; surface: LiftingSurface }>();
const project = useProject();
const { changeSurface } = useCandidateEdit();
const live = useLive(lanes.skins, 'streams', () => {
  try {
    return inputsOfStreams(project.document, props.candidate.id);
  } catch (error) {
    // What is wrong with the shape is told where it is drawn.
    if (error instanceof VeldtwindError) return null;
    throw error;
  }
});
const factors = computed(() => (live.failure.value ? null : (live.value.value?.[props.surface.id] ?? null)));
const isWing = computed(() => referenceSurface(props.candidate.surfaces).id === props.surface.id);
const EFFECTS: { id: keyof StreamEffects; label: string; shown: () => boolean }[] = [
  { id: 'wake', label: 'Wake of the wing', shown: () => !isWing.value },
  { id: 'slipstream', label: 'Propeller slipstream', shown: () => !isWing.value },
  { id: 'carryOver', label: 'Wing–body carry-over', shown: () => props.surface.plane === 'horizontal' },
];
const rows = computed(() =>
  EFFECTS.filter((e) => e.shown()).map((e) => ({
    ...e,
    on: props.surface.streamEffects?.[e.id] ?? false,
    amount: factors.value ? `× ${formatNumber(factors.value[e.id], 3)}` : '…',
  })),
);
const set = (label: string, edit: (s: LiftingSurface) => void) =>
  changeSurface(`${props.surface.name}: ${label}`, props.surface.id, edit);
function toggle(id: keyof StreamEffects, label: string, on: boolean): void {
  set(label.toLowerCase(), (s) => {
    const { [id]: _, ...rest } = s.streamEffects ?? {};
    const next = on ? { ...rest, [id]: true } : rest;
    if (Object.keys(next).length > 0) s.streamEffects = next;
    else delete s.streamEffects;
  });
}
</script>

<template>
  <SheetGroup title="Interference effects">
    <LimitField
      :limit="SURFACE_LIMITS.pressureRatio"
      :model-value="surface.pressureRatio ?? 1"
      :digits="3"
      hint="Dynamic pressure here over that of the free stream"
      @commit="
        (v) =>
          set('dynamic pressure ratio', (s) => {
            if (v === null || v === 1) delete s.pressureRatio;
            else s.pressureRatio = v;
          })
      "
    />
    <SwitchRow
      v-for="r in rows"
      :key="r.id"
      :label="`${r.label}, ${r.amount}`"
      :test="`stream-${r.id}`"
      :model-value="r.on"
      @update:model-value="(on) => toggle(r.id, r.label, on)"
    />
    <p v-if="live.failure.value" class="text-[12.5px] text-clay" role="alert">{{ live.failure.value.message }}</p>
    <p class="text-[12px] text-soft">
      Factors on the forces of this surface in the brief’s level flight; those switched on count in lift, balance,
      motion and flights.
    </p>
  </SheetGroup>
</template>
