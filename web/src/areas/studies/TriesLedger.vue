<script setup lang="ts">
import { computed } from 'vue';
import { inUnit, textOf, unitOf } from '@veldtwind/core/quantities';
import type { Try } from '@veldtwind/core/studies';
import { displayUnit } from '@veldtwind/core/units';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { within, type Ranges } from '@/lib/parallel';
import { usePreferences } from '@/store/preferences';
import { shortText } from './tried-text';
import type { StudyRuns } from './use-runs';

/** Every try of a study: its values, its answers, and whether it meets all requirements. */
const props = defineProps<{ runs: StudyRuns; label: string; ranges?: Ranges; made: string }>();
const preferences = usePreferences();
type Row = Try & { id: string };
const rows = computed<Row[]>(() =>
  (props.runs.shown.value?.tries ?? [])
    .filter((t) => !props.ranges || within({ values: valuesOf(t) }, props.ranges))
    .map((t) => ({ ...t, id: String(t.index) })),
);
const scaleOf = (v: { limit: { dimension: Parameters<typeof displayUnit>[0] } }) =>
  displayUnit(v.limit.dimension, preferences.units).scale;
/** By the axes of the figure. */
function valuesOf(t: Try): Record<string, number | null> {
  return Object.fromEntries([
    ...props.runs.variables.value.map(({ variable, index }) => [variable.path, t.values[index] * scaleOf(variable)]),
    ...props.runs.answers.value.map((a) => {
      const v = props.runs.valueOf(t, a.key);
      return [a.key, v === null ? null : inUnit(a.response, v, preferences.units)];
    }),
  ]) as Record<string, number | null>;
}
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'try', title: 'trial', value: (r) => r.index + 1, text: (r) => String(r.index + 1) },
  {
    id: 'meets',
    title: 'requirements',
    value: (r) => (props.runs.holds(r) ? 'met' : r.answers.every((v) => v === null) ? 'failed' : 'missed'),
    words: true,
  },
  ...props.runs.variables.value.map(({ variable, index }): LedgerColumn<Row> => ({
    id: variable.path,
    title: variable.label,
    unit: displayUnit(variable.limit.dimension, preferences.units).symbol || undefined,
    value: (r) => r.values[index] * scaleOf(variable),
    text: (r) => shortText(r.values[index] * scaleOf(variable)),
  })),
  ...props.runs.answers.value.map((a): LedgerColumn<Row> => ({
    id: a.key,
    title: a.response.name,
    unit: unitOf(a.response, preferences.units) || undefined,
    value: (r) => {
      const v = props.runs.valueOf(r, a.key);
      return v === null ? null : inUnit(a.response, v, preferences.units);
    },
    text: (r) => textOf(a.response, props.runs.valueOf(r, a.key), preferences.units),
  })),
  {
    id: 'reason',
    title: 'reason',
    value: (r) => [...new Set(Object.values(r.reasons ?? {}))].join(' '),
    words: true,
  },
]);
</script>

<template>
  <LedgerTable
    :rows="rows"
    :columns="columns"
    :label="label"
    :selected="runs.chosen.value ? String(runs.chosen.value.index) : null"
    file-name="veldtwind-tries"
    :made="made"
    @select="(id) => runs.pick(Number(id))"
  />
</template>
