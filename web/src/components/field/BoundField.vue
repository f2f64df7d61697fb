<script setup lang="ts">
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { readPath, writePath, type DocumentPath } from '@/lib/document-path';
import { useProject } from '@/store/project';
import NumberField from './NumberField.vue';

/** A number of the document: shown as it is, previewed while it moves, an edit when it comes to rest. Limits are those of its schema. */
const props = defineProps<{
  path: DocumentPath;
  limit: FieldLimit;
  /** The name of the step of undo. */
  step: string;
  label?: string;
  /** Narrower limits where others of the document set them. */
  min?: number;
  max?: number;
  digits?: number;
  hint?: string;
  held?: boolean;
  placeholder?: string;
  /** The field shows so many times the stored value, such as both sides of a span. */
  times?: number;
  /** Sets more than the one place. */
  also?: readonly DocumentPath[];
}>();
const project = useProject();
const times = computed(() => props.times ?? 1);
const value = computed(() => {
  const v = readPath(project.document, props.path);
  return typeof v === 'number' ? v * times.value : null;
});
/** A limit that is none is not given. */
const bound = (v: number) => (Number.isFinite(v) ? v * times.value : undefined);
// What must be above a limit is offered from the nearest that is round, whatever the field multiplies.
const least = computed(() =>
  props.min === undefined && props.limit.above ? props.limit.above.nearest : bound(props.min ?? props.limit.min),
);
const most = computed(() => bound(props.max ?? props.limit.max));
const write = (v: number | null) => {
  const stored = v === null ? null : v / times.value;
  const paths = [props.path, ...(props.also ?? [])];
  return (draft: unknown) => {
    for (const path of paths) writePath(draft, path, stored);
  };
};
/** What belongs to a candidate says so in the list of steps. */
const stepName = computed(() => {
  const [root, id] = props.path;
  const letter = root === 'candidates' ? project.document.candidates[String(id)]?.letter : undefined;
  return letter ? `${props.step} (${letter})` : props.step;
});
const preview = (v: number) => project.show(write(v));
const commit = (v: number | null) => (v !== null || props.limit.optional) && project.edit(stepName.value, write(v));
</script>

<template>
  <NumberField
    :label="label ?? limit.label"
    :dimension="limit.dimension"
    :model-value="value"
    :min="least"
    :max="most"
    :step="limit.step"
    :digits="digits"
    :hint="[hint ?? limit.hint, limit.reason].filter(Boolean).join('; ')"
    :nullable="limit.optional"
    :placeholder="placeholder"
    :held="held"
    @preview="preview"
    @commit="commit"
  />
</template>
