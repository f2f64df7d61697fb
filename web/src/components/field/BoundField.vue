<script setup lang="ts">
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { readPath, writePath, type DocumentPath } from '@/lib/document-path';
import { useProject } from '@/store/project';
import LimitField from './LimitField.vue';

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
  /** What the number is where the document does not say it. */
  rest?: number;
}>();
const project = useProject();
const value = computed(() => {
  const v = readPath(project.document, props.path);
  return typeof v === 'number' ? v : (props.rest ?? null);
});
const write = (v: number | null) => {
  const paths = [props.path, ...(props.also ?? [])];
  return (draft: unknown) => {
    for (const path of paths) writePath(draft, path, v);
  };
};
/** What belongs to a candidate says so in the list of steps. */
const stepName = computed(() => {
  const [root, id] = props.path;
  const letter = root === 'candidates' ? project.document.candidates[String(id)]?.letter : undefined;
  return letter ? `${props.step} (${letter})` : props.step;
});
</script>

<template>
  <LimitField
    :limit="limit"
    :label="label"
    :model-value="value"
    :min="min"
    :max="max"
    :digits="digits"
    :hint="hint"
    :held="held"
    :placeholder="placeholder"
    :times="times"
    @preview="(v) => project.show(write(v))"
    @commit="(v) => project.edit(stepName, write(v))"
  />
</template>
