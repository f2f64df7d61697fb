<script setup lang="ts">
import { computed } from 'vue';
import { referenceSurface } from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import { sectionKey, stripPolars, type PolarUse, type SectionPolars, type StripPolars } from '@veldtwind/core/lift';
import { DEG, VeldtwindError } from '@veldtwind/core/numerics';
import type { LiftPoint } from '@veldtwind/core/quantities';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { reynoldsText } from '@/lib/reynolds-text';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { useCriticalMach } from './use-critical-mach';

/** The strips of the candidate in one state: what each carries, how far it is from its stall, and which polars it reads. */
const props = defineProps<{
  candidate: CandidatePart;
  point: LiftPoint['point'] | null;
  /** Polars that are there. */ polars: readonly SectionPolars[];
}>();
const project = useProject();
const preferences = usePreferences();
const workbench = useWorkbench();
const EVEN = 0.005;

const speed = computed(() => props.point?.speed ?? project.brief.speed);
const have = computed(() => new Map(props.polars.map((p) => [sectionKey(p), p.curves.map((c) => c.reynolds)])));
const critical = useCriticalMach(
  () => props.candidate,
  () => props.point,
);
interface Row extends StripPolars {
  id: string;
  name: string;
  cl: number | null;
  clMax: number | null;
  cd: number | null;
  angle: number | null;
  critical: number | null;
}
/** The strips, or why there are none. */
const cut = computed<{ strips: StripPolars[]; why: string }>(() => {
  const { surfaces, bodies } = props.candidate;
  try {
    const { reynoldsPerMetre } = flowState(speed.value, project.brief.altitude);
    return { strips: stripPolars(surfaces, bodies, have.value, reynoldsPerMetre), why: '' };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    return { strips: [], why: error.message };
  }
});
const rows = computed<Row[]>(() => {
  const { surfaces } = props.candidate;
  const p = props.point;
  return cut.value.strips.map((s, k): Row => {
    const i = p?.strips.findIndex((t) => t.id === s.surface && Math.abs(t.station - s.station) < 1e-9) ?? -1;
    const state = i < 0 ? undefined : p?.states?.[i];
    return {
      ...s,
      id: `${k}`,
      name: surfaces.find((f) => f.id === s.surface)?.name ?? s.surface,
      cl: i < 0 ? null : p!.strips[i].cl,
      clMax: state && Number.isFinite(state.clMax) ? state.clMax : null,
      cd: state?.cd ?? null,
      angle: state ? state.angle * DEG : null,
      critical:
        critical.strips.value.find((t) => t.surface === s.surface && Math.abs(t.station - s.station) < 1e-9)?.mach ??
        null,
    };
  });
});
const sectionName = (id: string) => project.document.sections[id]?.name ?? id.replace(/^naca:/, 'NACA ');
function words({ section, flap, weight, reynolds: [a, b], share, outside }: PolarUse): string {
  const at =
    share === 0 || a === b
      ? reynoldsText(a)
      : `${reynoldsText(a)} to ${reynoldsText(b)}, ${formatNumber(100 * share, 0)} %`;
  const part = weight < 1 - EVEN ? `${formatNumber(100 * weight, 0)} % ` : '';
  const turned = flap ? `, flap ${formatNumber(flap.angleDeg, 0)}°` : '';
  return `${part}${sectionName(section)}${turned}: ${at}${outside ? ` (nearest; it runs ${outside})` : ''}`;
}
const column = (
  id: string,
  title: string,
  value: (r: Row) => number | null,
  digits: number,
  unit?: string,
): LedgerColumn<Row> => ({
  id,
  title,
  unit,
  value,
  text: (r) => {
    const v = value(r);
    return v === null ? '—' : formatNumber(v, digits);
  },
});
const columns = computed<LedgerColumn<Row>[]>(() => {
  const chord = displayUnit('chord', preferences.units);
  return [
    { id: 'name', title: 'Surface', value: (r) => r.name, words: true },
    column('station', 'half span', (r) => 100 * r.station, 1, '%'),
    column('chord', 'chord', (r) => r.chord * chord.scale, chord.digits, chord.symbol),
    column('reynolds', 'Reynolds number', (r) => r.reynolds, 0),
    column('cl', 'cl', (r) => r.cl, 3),
    column('clMax', 'local maximum', (r) => r.clMax, 3),
    column('cd', 'cd', (r) => r.cd, 5),
    column('angle', 'α local', (r) => r.angle, 2, '°'),
    column('critical', 'critical Mach number', (r) => r.critical, 3),
    {
      id: 'uses',
      title: 'polars read',
      value: (r) => r.uses.map(words).join('; ') || 'none is there yet',
      words: true,
    },
  ];
});
/** The strip of the wing at the cursor. */
const selected = computed(() => {
  const at = workbench.cursor.station;
  if (at === null) return null;
  const wing = referenceSurface(props.candidate.surfaces).id;
  const near = rows.value.reduce<Row | null>(
    (best, r) =>
      r.surface !== wing ? best : !best || Math.abs(r.station - at) < Math.abs(best.station - at) ? r : best,
    null,
  );
  return near?.id ?? null;
});
const hover = (id: string | null) =>
  (workbench.cursor.station = id === null ? null : (rows.value.find((r) => r.id === id)?.station ?? null));
</script>

<template>
  <p v-if="cut.why" class="px-4 pt-2 text-clay" role="alert">{{ cut.why }}</p>
  <LedgerTable
    v-else
    :rows="rows"
    :columns="columns"
    :label="`Strips of ${candidate.letter} at ${point ? `α ${formatNumber(point.alpha * DEG, 1)}°, ` : ''}${formatQuantity(speed, 'speed', preferences.units)} ${displayUnit('speed', preferences.units).symbol}`"
    file-name="veldtwind-strips"
    :selected="selected"
    @hover="hover"
  />
</template>
