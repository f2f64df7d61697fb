<script setup lang="ts">
import { computed } from 'vue';
import type { AirframeMotion } from '@veldtwind/core/candidate';
import { loadPerAlpha } from '@veldtwind/core/findings';
import { handlingLevels, type Mode } from '@veldtwind/core/motion';
import { formatNumber } from '@veldtwind/core/units';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { CandidatePart } from '@/lib/types';
import { METHOD_NAMES } from '@/store/assumptions';
import { useProject } from '@/store/project';

/** Every mode of the candidates that are looked at, the same mode of each under the other. */
const props = defineProps<{
  active: CandidatePart | null;
  shown: { candidate: CandidatePart; motion: AirframeMotion }[];
  selected: string | null;
  made: string;
}>();
const emit = defineEmits<{ select: [mode: string] }>();
const project = useProject();

interface Row extends Mode {
  id: string;
  candidate: CandidatePart;
  method: string;
  level: string;
}
const rows = computed<Row[]>(() => {
  const { aircraftClass, flightPhase } = project.brief.assumptions;
  const all = props.shown.flatMap(({ candidate, motion }) => {
    const levels = handlingLevels(motion.modes, aircraftClass, flightPhase, loadPerAlpha(motion.case));
    return motion.modes.map((m): Row => {
      const l = levels.find((k) => k.mode === m.name);
      return {
        ...m,
        id: candidate.id === props.active?.id ? m.name : `${candidate.id} ${m.name}`,
        candidate,
        method: METHOD_NAMES[motion.method],
        level: l ? `${l.level === 4 ? 'below 3' : l.level}: ${l.says}` : '',
      };
    });
  });
  // The order of the modes is that of the candidate that is worked on; a mode that only another has comes last.
  const own = all.filter((r) => r.candidate.id === props.active?.id).map((r) => r.name);
  const place = (r: Row) => (own.includes(r.name) ? own.indexOf(r.name) : own.length);
  return [...all].sort((a, b) => place(a) - place(b) || (place(a) === own.length ? a.name.localeCompare(b.name) : 0));
});
const number = (id: keyof Mode, title: string, digits: number, unit?: string): LedgerColumn<Row> => ({
  id,
  title,
  unit,
  value: (r) => (r[id] as number | undefined) ?? null,
  text: (r) => (r[id] === undefined ? '—' : formatNumber(r[id] as number, digits)),
});
const several = computed(() => props.shown.length > 1);
const methods = computed(() => new Set(rows.value.map((r) => r.method)).size > 1);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'mode', value: (r) => r.name, words: true },
  ...(several.value
    ? [
        {
          id: 'candidate',
          title: 'candidate',
          value: (r: Row) => `${r.candidate.letter} ${r.candidate.name}`.trim(),
          words: true,
        },
      ]
    : []),
  number('dampingRatio', 'damping ratio', 3),
  {
    id: 'natural',
    title: 'natural frequency',
    unit: 'rad/s',
    value: (r) => Math.hypot(r.re, r.im),
    text: (r) => formatNumber(Math.hypot(r.re, r.im), 4),
  },
  number('timeToHalf', 'time to half', 2, 's'),
  number('timeToDouble', 'time to double', 2, 's'),
  number('period', 'period', 2, 's'),
  number('frequencyHz', 'frequency', 4, 'Hz'),
  number('re', 'real part', 4, '1/s'),
  number('im', 'damped frequency', 4, 'rad/s'),
  { id: 'level', title: 'level', value: (r) => r.level || null, text: (r) => r.level || '—', words: true },
  ...(methods.value ? [{ id: 'method', title: 'method', value: (r: Row) => r.method, words: true }] : []),
]);
const pick = (id: string) => emit('select', rows.value.find((r) => r.id === id)?.name ?? id);
</script>

<template>
  <LedgerTable
    :rows="rows"
    :columns="columns"
    :label="
      several
        ? `Modes of ${shown.map((s) => s.candidate.letter).join(', ')}`
        : `Modes of ${active?.letter ?? ''} ${active?.name ?? ''}`
    "
    file-name="veldtwind-modes"
    :made="methods ? '' : made"
    :selected="selected"
    @select="pick"
  />
</template>
