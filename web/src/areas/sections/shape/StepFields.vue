<script setup lang="ts">
import { computed } from 'vue';
import { limitsOf, type SavedStep } from '@veldtwind/core/shaping';
import LimitField from '@/components/field/LimitField.vue';
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
      label="Second section"
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
      <LimitField
        :limit="limit"
        :model-value="value(field)"
        :digits="limit.dimension === 'ratio' ? 2 : undefined"
        :placeholder="limit.optional ? (limit.otherwise ?? 'kept') : undefined"
        @preview="(v) => !slow && emit('preview', changed(field, v))"
        @commit="(v) => emit('commit', changed(field, v))"
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
