<script setup lang="ts">
import { computed } from 'vue';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import type { SteadyAnswer } from './use-steady';
import { heaviestMass, type SteadyPoint } from '@veldtwind/core/flight';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

const props = defineProps<{ candidates: readonly CandidatePart[]; answerOf: (id: string) => SteadyAnswer | null }>();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const DEG = 180 / Math.PI;
const speedUnit = computed(() => displayUnit('speed', preferences.units));

/** Candidates beside each other, in level flight at the design point. */
interface Compared {
  id: string;
  name: string;
  speed: number | null;
  values: Record<string, number | null>;
}
const compared = computed<Compared[]>(() =>
  props.candidates.map((c): Compared => {
    const answer = props.answerOf(c.id);
    const own = answer?.kind === 'alpha' ? answer : null;
    const weight = project.brief.mass * GRAVITY;
    const q = flowState(project.brief.speed, project.brief.altitude).dynamicPressure;
    const CL = own ? weight / (q * own.reference.area) : null;
    const at = own && CL !== null ? between(own.points, CL) : null;
    return {
      id: c.id,
      name: `${c.letter} ${c.name}`.trim(),
      speed: project.brief.speed,
      values: {
        CL,
        alpha: at ? at.alpha * DEG : null,
        CD: at?.CD ?? null,
        ratio: at ? CL! / at.CD : null,
        drag: at ? at.CD * q * own!.reference.area : null,
        CLmax: own?.CLmax ?? null,
        stall: own?.stall?.speed ?? null,
        glide: own?.glide?.bestGlide?.ratio ?? null,
        sink: own?.glide?.leastSink?.rate ?? null,
        heaviest: own?.CLmax ? heaviestMass(own.CLmax, own.reference.area, q, GRAVITY) : null,
      },
    };
  }),
);
/** Drag and angle at a lift, on the rising part of a sweep. */
function between(points: readonly SteadyPoint[], CL: number): { alpha: number; CD: number } | null {
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]];
    if (a.CL <= CL && b.CL >= CL && b.CL > a.CL) {
      const t = (CL - a.CL) / (b.CL - a.CL);
      return { alpha: a.alpha + t * (b.alpha - a.alpha), CD: a.CD + t * (b.CD - a.CD) };
    }
  }
  return null;
}
const compareColumns = computed<LedgerColumn<Compared>[]>(() => {
  const column = (id: string, title: string, digits: number, unit?: string, scale = 1): LedgerColumn<Compared> => ({
    id,
    title,
    unit,
    value: (r) => (r.values[id] === null ? null : r.values[id] * scale),
    text: (r) => (r.values[id] === null ? '—' : formatNumber(r.values[id] * scale, digits)),
  });
  const v = speedUnit.value;
  return [
    { id: 'name', title: 'Candidate', value: (r) => r.name, words: true },
    column('CL', 'CL', 4),
    column('alpha', 'α', 2, '°'),
    column('CD', 'CD', 5),
    column('ratio', 'CL / CD', 2),
    column('drag', 'drag', 2, 'N'),
    column('CLmax', 'CLmax', 3),
    column('stall', 'stall speed', 2, v.symbol, v.scale),
    column('glide', 'best glide', 2),
    column('sink', 'least sink', 3, v.symbol, v.scale),
    column('heaviest', 'heaviest at this speed', 1, 'kg'),
  ];
});
</script>

<template>
  <LedgerTable
    :rows="compared"
    :columns="compareColumns"
    :label="`Level flight at ${formatQuantity(project.brief.speed, 'speed', preferences.units)} ${speedUnit.symbol}, ${formatNumber(project.brief.mass, 1)} kg`"
    file-name="veldtwind-candidates"
    :selected="workbench.active?.id ?? null"
    @select="(id) => project.document.candidates[id] && workbench.setActive(id)"
  />
</template>
