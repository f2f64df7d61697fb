<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { sectionsUsed } from '@veldtwind/core/candidate';
import { variablesOf, type Variable } from '@veldtwind/core/studies';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import NumberField from '@/components/field/NumberField.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useTrial } from '@/store/trial';
import { useWorkbench } from '@/store/workbench';

/** A number of a candidate that is changed while slides are shown: figures and numbers follow. What was changed can be put back. */
const project = useProject();
const preferences = usePreferences();
const trial = useTrial();
const workbench = useWorkbench();
/** Steps to either side that the slider reaches. */
const REACH = 12;

const candidate = ref(workbench.active?.id ?? project.candidates[0]?.id ?? '');
const path = ref('');
const subject = computed(() => {
  const c = project.document.candidates[candidate.value];
  if (!c) return null;
  const { speed, altitude } = project.document.brief;
  return { candidate: c, sections: sectionsUsed(project.document.sections, c), flight: { speed, altitude } };
});
const variables = computed<Variable[]>(() =>
  subject.value ? variablesOf(subject.value).filter((v) => !v.path.startsWith('sections.')) : [],
);
const variable = computed(() => variables.value.find((v) => v.path === path.value) ?? null);
/** Where it stood when it was chosen: the middle of the slider, and what it goes back to. */
const start = ref<number | null>(null);
watch([candidate, path], () => (start.value = variable.value?.value ?? null));
const range = computed(() => {
  const v = variable.value;
  if (!v || start.value === null) return null;
  const least = v.limit.above?.nearest ?? v.limit.min;
  return {
    from: Math.max(least, start.value - REACH * v.step),
    to: Math.min(v.limit.max, start.value + REACH * v.step),
  };
});
/** While it is dragged it is only said. */
const dragged = ref<number | null>(null);
const unit = computed(() => variable.value && displayUnit(variable.value.limit.dimension, preferences.units));
const said = computed(() => {
  const v = dragged.value ?? variable.value?.value;
  return v === undefined || !unit.value
    ? ''
    : `${formatNumber(v * unit.value.scale, unit.value.digits)} ${unit.value.symbol}`.trim();
});
function set(value: number): void {
  const v = variable.value;
  dragged.value = null;
  if (!v || value === v.value) return;
  trial.apply({ candidate: candidate.value, label: v.label, says: said.value, values: new Map([[v.path, value]]) });
}
const moved = computed(() => start.value !== null && variable.value !== null && variable.value.value !== start.value);
</script>

<template>
  <div
    class="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-md border border-rule bg-leaf px-3 py-2 text-[13px] shadow-sm"
    role="group"
    aria-label="Change a number"
    data-test="live-number"
  >
    <select v-model="candidate" class="rounded border border-rule bg-field px-1.5 py-[3px]" aria-label="Candidate">
      <option v-for="c in project.candidates" :key="c.id" :value="c.id">{{ c.letter }} {{ c.name }}</option>
    </select>
    <select
      v-model="path"
      class="max-w-72 rounded border border-rule bg-field px-1.5 py-[3px]"
      aria-label="Variable"
      data-test="live-variable"
    >
      <option value="">Choose a number…</option>
      <option v-for="v in variables" :key="v.path" :value="v.path">{{ v.label }}</option>
    </select>
    <template v-if="variable && range">
      <input
        type="range"
        class="w-56 accent-[var(--ochre)]"
        :min="range.from"
        :max="range.to"
        :step="variable.step / 4"
        :value="dragged ?? variable.value"
        :aria-label="variable.label"
        :aria-valuetext="said"
        data-test="live-slider"
        @input="(e) => (dragged = Number((e.target as HTMLInputElement).value))"
        @change="(e) => set(Number((e.target as HTMLInputElement).value))"
      />
      <div class="w-56">
        <NumberField
          label="Value"
          :dimension="variable.limit.dimension"
          :model-value="dragged ?? variable.value"
          :min="variable.limit.min"
          :max="variable.limit.max"
          :step="variable.step"
          @commit="(v) => v !== null && set(v)"
        />
      </div>
      <button class="link" data-test="live-restore" :disabled="!moved" @click="set(start!)">Restore</button>
    </template>
  </div>
</template>
