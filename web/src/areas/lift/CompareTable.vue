<script setup lang="ts">
import { computed } from 'vue';
import type { Performance } from '@veldtwind/core/candidate';
import type { LevelPoint } from '@veldtwind/core/performance';
import { LEVEL_QUANTITIES, PERFORMANCE_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { quantityColumns } from '@/lib/quantity-columns';
import { METHOD_NAMES } from '@/store/assumptions';
import { usePerformances } from '@/store/performances';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { SteadyAnswer } from './use-steady';

/** Candidates beside each other, in level flight in trim at the design point, as Performance tells it. */
const props = defineProps<{ answerOf: (id: string) => SteadyAnswer | null }>();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const performances = usePerformances();

interface Row {
  id: string;
  name: string;
  made: Performance | null;
  CLmax: number | null;
}
const rows = computed(() =>
  workbench.visible.map((c): Row => ({
    id: c.id,
    name: `${c.letter} ${c.name}`.trim(),
    made: performances.madeOf(c.id).performance,
    CLmax: props.answerOf(c.id)?.CLmax ?? null,
  })),
);
const LEVEL = ['level-lift', 'level-alpha', 'level-drag-coefficient', 'level-ratio', 'level-drag'].map((id) =>
  quantityIn(LEVEL_QUANTITIES, id),
);
const OWN = ['stallSpeed', 'bestGlide', 'leastSink', 'mass', 'heaviestMass', 'massReserve'].map((id) =>
  quantityIn(PERFORMANCE_QUANTITIES, `performance.${id}`),
);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'Candidate', value: (r) => r.name, words: true },
  ...quantityColumns<Row, LevelPoint>(LEVEL, (r) => r.made?.design ?? null, preferences.units),
  {
    id: 'CLmax',
    title: 'CLmax, controls as set',
    value: (r) => r.CLmax,
    text: (r) => (r.CLmax === null ? '—' : formatNumber(r.CLmax, 3)),
  },
  ...quantityColumns<Row, Performance>(OWN, (r) => r.made, preferences.units),
  {
    id: 'method',
    title: 'method',
    value: (r) => (r.made ? METHOD_NAMES[r.made.method] : ''),
    words: true,
  },
]);
const label = computed(() => {
  const { speed, mass } = project.brief;
  const at = `${formatQuantity(speed, 'speed', preferences.units)} ${displayUnit('speed', preferences.units).symbol}`;
  return `Level flight in trim at ${at}, ${formatNumber(mass, 1)} kg`;
});
</script>

<template>
  <LedgerTable
    :rows="rows"
    :columns="columns"
    :label="label"
    file-name="veldtwind-candidates"
    :selected="workbench.active?.id ?? null"
    @select="(id) => project.document.candidates[id] && workbench.setActive(id)"
  />
</template>
