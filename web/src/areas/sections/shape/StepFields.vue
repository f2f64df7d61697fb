<script setup lang="ts">
import { computed } from 'vue';
import { limitsOf, type FieldLimit, type SavedStep } from '@veldtwind/core/shaping';
import NumberField from '@/components/field/NumberField.vue';
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
const others = computed(() => project.sections.filter((s) => s.id !== props.own));
</script>

<template>
  <div>
    <label v-if="step.kind === 'mix'" class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft">
      The other
      <select
        class="rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
        :value="step.with"
        data-test="mix-with"
        @change="(e) => emit('commit', changed('with', (e.target as HTMLSelectElement).value))"
      >
        <option v-if="!others.some((s) => s.id === (step as { with: string }).with)" :value="step.with">
          {{ step.with }}
        </option>
        <option v-for="s in others" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
    </label>
    <label v-if="'surface' in step" class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft">
      Surface
      <select
        class="rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
        :value="step.surface"
        @change="(e) => emit('commit', changed('surface', (e.target as HTMLSelectElement).value))"
      >
        <option value="upper">upper</option>
        <option value="lower">lower</option>
      </select>
    </label>
    <template v-for="[field, limit] in fields" :key="field">
      <NumberField
        :label="limit.label"
        :dimension="limit.dimension === 'count' ? 'plain' : limit.dimension"
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
