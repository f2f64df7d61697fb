<script setup lang="ts">
import { computed } from 'vue';
import { stepOf, type FieldLimit } from '@veldtwind/core/limits';
import NumberField from './NumberField.vue';

/** A number within a limit: name, unit, least, greatest, step, reason and whether it may be empty follow from the limit. */
const props = defineProps<{
  limit: FieldLimit;
  modelValue: number | null;
  label?: string;
  /** Narrower limits where other numbers set them. */
  min?: number;
  max?: number;
  digits?: number;
  hint?: string;
  held?: boolean;
  placeholder?: string;
  /** The field shows so many times the value, such as both sides of a span. */
  times?: number;
}>();
const emit = defineEmits<{ preview: [value: number]; commit: [value: number | null] }>();
const times = computed(() => props.times ?? 1);
const shown = computed(() => (props.modelValue === null ? null : props.modelValue * times.value));
/** A limit that is none is not given. */
const bound = (v: number) => (Number.isFinite(v) ? v * times.value : undefined);
// What must be above a limit is offered from the nearest that is round, whatever the field multiplies.
const least = computed(() =>
  props.min === undefined && props.limit.above ? props.limit.above.nearest : bound(props.min ?? props.limit.min),
);
const most = computed(() => bound(props.max ?? props.limit.max));
const stored = (v: number) => {
  const value = v / times.value;
  return props.limit.dimension === 'count' ? Math.round(value) : value;
};
const commit = (v: number | null) => {
  if (v !== null) emit('commit', stored(v));
  else if (props.limit.optional) emit('commit', null);
};
</script>

<template>
  <NumberField
    :label="label ?? limit.label"
    :dimension="limit.dimension"
    :model-value="shown"
    :min="least"
    :max="most"
    :step="stepOf(limit)"
    :digits="digits"
    :hint="[hint ?? limit.hint, limit.reason].filter(Boolean).join('; ')"
    :nullable="limit.optional"
    :placeholder="placeholder"
    :held="held"
    @preview="(v) => emit('preview', stored(v))"
    @commit="commit"
  />
</template>
