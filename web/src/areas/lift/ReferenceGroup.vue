<script setup lang="ts">
import { computed } from 'vue';
import { referenceOf, referenceSurface, surfaceFacts, type Reference } from '@veldtwind/core/airframe';
import { sectionLookup } from '@veldtwind/core/candidate';
import { REFERENCE_LIMITS, type CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import BoundField from '@/components/field/BoundField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

/** Area, span and chord that coefficients are made with: those of the wing as it is, or typed. */
const props = defineProps<{ candidate: CandidatePart; used: Reference | null }>();
const project = useProject();
const preferences = usePreferences();
const KINDS = [
  { id: 'projected', name: 'wing, projected' },
  { id: 'typed', name: 'typed' },
] as const;
type Kind = (typeof KINDS)[number]['id'];
const kind = computed<Kind>(() => (props.candidate.reference ? 'typed' : 'projected'));
const put = (label: string, reference: Reference | null) =>
  project.edit(label, (draft) => {
    const c = draft.candidates[props.candidate.id];
    if (c) c.reference = reference;
  });
const rounded = (r: Reference): Reference => ({
  area: Number(r.area.toPrecision(7)),
  span: Number(r.span.toPrecision(7)),
  chord: Number(r.chord.toPrecision(7)),
});
function choose(next: Kind): void {
  if (next === 'projected') put('Reference of the wing', null);
  else put('Reference typed', rounded(referenceOf(props.candidate.surfaces)));
}
/** The planform as it lies along its dihedral and twist. */
const planform = computed<Reference | null>(() => {
  try {
    const wing = referenceSurface(props.candidate.surfaces);
    const facts = surfaceFacts(wing, sectionLookup(project.document.sections));
    return rounded({ area: facts.areaTrue, span: facts.spanTrue, chord: facts.mac.chord });
  } catch {
    return null;
  }
});
const path = (key: keyof Reference) => ['candidates', props.candidate.id, 'reference', key];
const said = (v: number, of: 'area' | 'length' | 'chord') =>
  `${formatQuantity(v, of, preferences.units)} ${displayUnit(of, preferences.units).symbol}`;
</script>

<template>
  <SheetGroup title="Reference">
    <SelectRow
      label="Coefficients on"
      :model-value="kind"
      :options="KINDS"
      test="reference-kind"
      @update:model-value="choose"
    />
    <template v-if="kind === 'typed'">
      <BoundField :path="path('area')" :limit="REFERENCE_LIMITS.area" step="Reference area" />
      <BoundField :path="path('span')" :limit="REFERENCE_LIMITS.span" step="Reference span" />
      <BoundField :path="path('chord')" :limit="REFERENCE_LIMITS.chord" step="Reference chord" />
      <button v-if="planform" class="link text-[12.5px]" @click="put('Reference of the true planform', planform)">
        use the true area
      </button>
    </template>
    <p v-if="used" class="pt-1 text-[12px] text-soft" data-test="reference-used">
      {{ said(used.area, 'area') }}, span {{ said(used.span, 'length') }}, chord {{ said(used.chord, 'chord') }}.
    </p>
  </SheetGroup>
</template>
