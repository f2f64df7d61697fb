<script setup lang="ts">
import { computed, ref } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { twistForLoad } from '@veldtwind/core/solve';
import { formatNumber } from '@veldtwind/core/units';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** Solves for the twist that brings the wing's load nearest to one that is wanted, as an edit. */
const props = defineProps<{ designLift: number | null }>();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const BENDING: FieldLimit = {
  label: 'Bending at the root',
  dimension: 'ratio',
  min: 0.6,
  max: 1,
  step: 0.05,
  hint: 'of the elliptic load’s',
};
const bending = computed(() => preferences.get<number>('lift-bending', 1));
const said = ref('');
const busy = ref(false);
async function solve(): Promise<void> {
  const c = workbench.active;
  if (!c || props.designLift === null) return;
  busy.value = true;
  try {
    const input = twistForLoad.inputsOf!(project.document, c.id, props.designLift, bending.value);
    const { surfaceId, twistsDeg, missBefore, missAfter } = await lanes.aircraft.run('twist-for-load', input);
    const target = bending.value === 1 ? 'the elliptic load' : `${Math.round(100 * bending.value)} % of its bending`;
    project.edit(`Twist for ${target} (${c.letter})`, (draft) => {
      const surface = draft.candidates[c.id]?.surfaces.find((s) => s.id === surfaceId);
      surface?.stations.forEach((s, i) => {
        s.twistDeg = twistsDeg[i];
        delete s.twistRelative;
      });
    });
    said.value = `Twists ${twistsDeg.map((t) => `${formatNumber(t, 2)}°`).join(', ')}: the load is off by ${formatNumber(100 * missAfter, 1)} % of its greatest (${formatNumber(100 * missBefore, 1)} % before), at CL ${formatNumber(props.designLift, 3)}.`;
  } catch (error) {
    said.value = (error as Error).message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <SheetGroup title="Span load">
    <LimitField
      :limit="BENDING"
      :model-value="bending"
      @commit="(v) => v !== null && preferences.set('lift-bending', v)"
    />
    <button class="btn mt-1.5" :disabled="designLift === null || busy" data-test="solve-twist" @click="solve">
      Solve for the twist
    </button>
    <p class="pt-1 text-[12px] text-soft" role="status" data-test="twist-said">
      {{
        said || 'Brings the load at the design lift nearest to the elliptic one, or to one that bends the root less.'
      }}
    </p>
  </SheetGroup>
</template>
