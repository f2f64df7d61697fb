<script setup lang="ts">
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { limitsOf, type SavedStep } from '@veldtwind/core/shaping';
import NumberField from '@/components/field/NumberField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import { useProject } from '@/store/project';
import type { Refusal } from './recipe';

/** The numbers and choices of one shaping step, with the reason at the field that was refused. */
const props = defineProps<{ step: SavedStep; refusal: Refusal | null; own: string }>();
const emit = defineEmits<{ preview: [step: SavedStep]; commit: [step: SavedStep] }>();
const project = useProject();
const fields = computed(() => Object.entries(limitsOf(props.step.kind)));
const value = (field: string) =>
  ((props.step as unknown as Record<string, number | undefined>)[field] ?? null) as number | null;
const changed = (field: string, v: unknown) => ({ ...props.step, [field]: v ?? undefined }) as SavedStep;
/** What changes slowly is not solved while it moves. */
const slow = computed(() => props.step.kind.endsWith('-speed'));
const round = (limit: FieldLimit, v: number | null) => (v !== null && limit.dimension === 'count' ? Math.round(v) : v);
const stepOf = (limit: FieldLimit) =>
  limit.dimension === 'ratio'
    ? limit.max <= 0.05
      ? 0.0005
      : 0.0025
    : limit.dimension === 'angle'
      ? 0.5
      : limit.dimension === 'count'
        ? 1
        : 0.01;
const SIDES = [
  { id: 'upper', name: 'upper' },
  { id: 'lower', name: 'lower' },
] as const;
const others = computed(() => project.sections.filter((s) => s.id !== props.own));
</script>

<template>
  <div>
    <SelectRow
      v-if="step.kind === 'mix'"
      label="The other"
      :model-value="step.with"
      :options="others"
      test="mix-with"
      @update:model-value="(id) => emit('commit', changed('with', id))"
    />
    <SelectRow
      v-if="'surface' in step"
      label="Surface"
      :model-value="step.surface"
      :options="SIDES"
      @update:model-value="(id) => emit('commit', changed('surface', id))"
    />
    <template v-for="[field, limit] in fields" :key="field">
      <NumberField
        :label="limit.label"
        :dimension="limit.dimension"
        :digits="limit.dimension === 'count' ? 0 : limit.dimension === 'ratio' ? 2 : undefined"
        :model-value="value(field)"
        :min="limit.min"
        :max="limit.max"
        :step="stepOf(limit)"
        :hint="limit.hint"
        :nullable="limit.optional"
        :placeholder="limit.optional ? 'kept' : undefined"
        @preview="(v) => !slow && emit('preview', changed(field, round(limit, v)))"
        @commit="(v) => (v !== null || limit.optional) && emit('commit', changed(field, round(limit, v)))"
      />
      <p v-if="refusal?.field === field" class="pb-1 text-[12px] text-clay" role="alert" data-test="step-refusal">
        {{ refusal.message }} {{ refusal.hint }}
      </p>
    </template>
    <p
      v-if="refusal && (!refusal.field || !fields.some(([f]) => f === refusal!.field))"
      class="pb-1 text-[12px] text-clay"
      role="alert"
      data-test="step-refusal"
    >
      {{ refusal.message }} {{ refusal.hint }}
    </p>
  </div>
</template>
