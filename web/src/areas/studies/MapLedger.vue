<script setup lang="ts">
import { computed } from 'vue';
import { inUnit, textOf, unitOf } from '@veldtwind/core/quantities';
import type { Try } from '@veldtwind/core/studies';
import { displayUnit } from '@veldtwind/core/units';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { usePreferences } from '@/store/preferences';
import { shortText } from './tried-text';
import type { StudyMap } from './use-map';
import { valueIn, type Study } from './use-study';

/** Every place of a map with all its quantities. */
const props = defineProps<{ study: Study; map: StudyMap; label: string; made: string }>();
const preferences = usePreferences();
type Row = Try & { id: string };
const rows = computed<Row[]>(() => (props.map.result.value?.tries ?? []).map((t) => ({ ...t, id: String(t.index) })));
const columns = computed<LedgerColumn<Row>[]>(() => {
  const made = props.map.result.value;
  if (!made) return [];
  const variables = made.variables.flatMap((v, i) => {
    const variable = props.study.variableOf(v.paths[0]);
    if (!variable) return [];
    const { symbol, scale } = displayUnit(variable.limit.dimension, preferences.units);
    return [
      {
        id: v.name,
        title: variable.label,
        unit: symbol || undefined,
        value: (r: Row) => r.values[i] * scale,
        text: (r: Row) => shortText(r.values[i] * scale),
      },
    ];
  });
  return [
    ...variables,
    ...props.study.everything.value.map((a): LedgerColumn<Row> => ({
      id: a.key,
      title: a.response.name,
      unit: unitOf(a.response, preferences.units) || undefined,
      value: (r) => {
        const v = valueIn(made, r.answers, a);
        return v === null ? null : inUnit(a.response, v, preferences.units);
      },
      text: (r) => textOf(a.response, valueIn(made, r.answers, a), preferences.units),
    })),
  ];
});
</script>

<template>
  <LedgerTable :rows="rows" :columns="columns" :label="label" file-name="veldtwind-map" :made="made" />
</template>
