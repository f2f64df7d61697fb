<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed } from 'vue';
import { bodyFacts, standingIn, surfaceFacts, tailFacts, type SurfaceFacts } from '@veldtwind/core/airframe';
import { sectionLookup } from '@veldtwind/core/candidate';
import { candidateDifferences, type Difference } from '@veldtwind/core/project';
import { type Dimension, displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { keptByPart } from '@/lib/by-part';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { stationRows, type StationRow } from './station-rows';

/** The numbers of the airframe: its surfaces, stations, bodies, tails, or where it differs from another candidate. */
const part = defineModel<string | null>('part', { required: true });
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const TABLES = [
  { id: 'surfaces', name: 'Surfaces' },
  { id: 'stations', name: 'Stations' },
  { id: 'bodies', name: 'Bodies' },
  { id: 'tails', name: 'Tails' },
  { id: 'differences', name: 'Differences' },
] as const;
type Table = (typeof TABLES)[number]['id'];
const table = computed(() => preferences.get<Table>('airframe-table', 'surfaces'));
const active = computed(() => workbench.active);
/** The tables follow when a value has come to rest: wetted areas of many bays take longer than a picture. */
const rested = refDebounced(active, 120);
const standing = computed(() => {
  try {
    return rested.value ? standingIn(rested.value) : null;
  } catch {
    return null;
  }
});
const factsOf = keptByPart<object, SurfaceFacts>();
const column = <R,>(
  id: string,
  title: string,
  of: (r: R) => number | null,
  dimension: Dimension,
  digits?: number,
): LedgerColumn<R> => {
  const unit = displayUnit(dimension, preferences.units);
  return {
    id,
    title,
    unit: unit.symbol || undefined,
    value: (r) => {
      const v = of(r);
      return v === null ? null : v * unit.scale;
    },
    text: (r) => {
      const v = of(r);
      return v === null ? '—' : formatQuantity(v, dimension, preferences.units, digits);
    },
  };
};
const words = <R,>(id: string, title: string, of: (r: R) => string): LedgerColumn<R> => ({
  id,
  title,
  value: of,
  words: true,
});

type SurfaceRow = { id: string; name: string; sections: string; facts: SurfaceFacts | null };
const surfaceRows = computed<SurfaceRow[]>(() => {
  const lookup = sectionLookup(project.document.sections);
  return (standing.value?.surfaces ?? []).map((s) => {
    const names = s.stations.map((t) => project.document.sections[t.section]?.name ?? t.section);
    let facts: SurfaceFacts | null = null;
    try {
      facts = factsOf(project.document.sections, s, '', () => surfaceFacts(s, lookup));
    } catch {
      // A surface that is no shape says so in its sheet.
    }
    return { id: s.id, name: s.name, sections: [...new Set(names)].join(', '), facts };
  });
});
const of = (pick: (f: SurfaceFacts) => number) => (r: SurfaceRow) => (r.facts ? pick(r.facts) : null);
const surfaceColumns = computed<LedgerColumn<SurfaceRow>[]>(() => [
  words('name', 'Surface', (r) => r.name),
  column(
    'area',
    'area',
    of((f) => f.areaProjected),
    'area',
  ),
  column(
    'areaTrue',
    'true area',
    of((f) => f.areaTrue),
    'area',
  ),
  column(
    'wetted',
    'wetted',
    of((f) => f.areaWetted),
    'area',
  ),
  column(
    'span',
    'span',
    of((f) => f.spanProjected),
    'length',
  ),
  column(
    'spanTrue',
    'true span',
    of((f) => f.spanTrue),
    'length',
  ),
  column(
    'aspect',
    'aspect ratio',
    of((f) => f.aspectRatio),
    'plain',
    2,
  ),
  column(
    'taper',
    'taper',
    of((f) => f.taper),
    'plain',
    3,
  ),
  column(
    'mac',
    'aerodynamic chord',
    of((f) => f.mac.chord),
    'chord',
  ),
  column(
    'macX',
    'its nose at x',
    of((f) => f.mac.x),
    'length',
  ),
  words('sections', 'sections', (r) => r.sections),
]);
const rowsOfStations = computed<StationRow[]>(() =>
  standing.value ? stationRows(standing.value, project.document, workbench.current?.design ?? null) : [],
);
const stationColumns = computed<LedgerColumn<StationRow>[]>(() => [
  words('name', 'Station', (r) => r.name),
  column('y', 'y', (r) => r.y, 'length'),
  column('chord', 'chord', (r) => r.chord, 'chord'),
  column('twist', 'pitch', (r) => r.pitchDeg, 'angle', 2),
  column('reynolds', 'Reynolds number', (r) => r.reynolds, 'count'),
  column('thickness', 'thickness', (r) => r.thickness, 'chord'),
  words('section', 'section', (r) => r.section),
]);
const bodyRows = computed(() =>
  (rested.value?.bodies ?? []).flatMap((b) => {
    try {
      return [{ name: b.name, ...bodyFacts(b) }];
    } catch {
      return [];
    }
  }),
);
type BodyRow = (typeof bodyRows.value)[number];
const bodyColumns = computed<LedgerColumn<BodyRow>[]>(() => [
  words('name', 'Body', (r) => r.name),
  column('length', 'length', (r) => r.length, 'length'),
  column('wetted', 'wetted', (r) => r.areaWetted, 'area'),
  {
    id: 'volume',
    title: 'volume',
    unit: 'l',
    value: (r) => 1000 * r.volume,
    text: (r) => formatNumber(1000 * r.volume, 1),
  },
  column('frontal', 'frontal area', (r) => r.frontalArea, 'area', 4),
]);
const tailRows = computed(() => {
  if (!standing.value) return [];
  try {
    const { surfaces } = standing.value;
    return tailFacts(surfaces).map((t) => {
      return { ...t, name: surfaces.find((k) => k.id === t.id)!.name };
    });
  } catch {
    return [];
  }
});
type TailRow = (typeof tailRows.value)[number];
const tailColumns = computed<LedgerColumn<TailRow>[]>(() => [
  words('name', 'Tail', (r) => r.name),
  column('arm', 'arm', (r) => r.arm, 'length'),
  column('horizontal', 'horizontal volume coefficient', (r) => r.horizontalVolume, 'plain', 3),
  column('vertical', 'vertical volume coefficient', (r) => r.verticalVolume, 'plain', 4),
]);
const others = computed(() => project.candidates.filter((c) => c.id !== active.value?.id));
const otherId = computed({
  get: () => preferences.get<string>('airframe-other', '') || (others.value[0]?.id ?? ''),
  set: (id) => preferences.set('airframe-other', id),
});
const other = computed(() => others.value.find((c) => c.id === otherId.value) ?? others.value[0]);
const differences = computed<Difference[]>(() =>
  active.value && other.value ? candidateDifferences(active.value, other.value) : [],
);
const value = (v: Difference['a'], d: Difference) =>
  v === null
    ? '—'
    : typeof v === 'string'
      ? (project.document.sections[v]?.name ?? v)
      : `${formatQuantity(v, d.dimension, preferences.units)} ${displayUnit(d.dimension, preferences.units).symbol}`.trim();
const differenceColumns = computed<LedgerColumn<Difference>[]>(() => [
  words('part', 'Part', (r) => r.part),
  words('what', 'what', (r) => r.what),
  words('a', `${active.value?.letter ?? ''}`, (r) => value(r.a, r)),
  words('b', `${other.value?.letter ?? ''}`, (r) => value(r.b, r)),
]);
const title = computed(() => `${active.value?.letter ?? ''} ${active.value?.name ?? ''}`);

/** One table among those that can be shown, whatever its rows. */
interface Shown {
  rows: { id: string }[];
  columns: LedgerColumn<{ id: string }>[];
  label: string;
  file: string;
  /** The part that a row belongs to. */
  partOf: (row: string) => string | null;
}
const entry = <R extends { id: string }>(
  rows: R[],
  columns: LedgerColumn<R>[],
  label: string,
  file: string,
  partOf: Shown['partOf'] = (id) => id,
): Shown => ({ rows, columns: columns as unknown as Shown['columns'], label, file, partOf });
const shown = computed<Shown>(() => {
  switch (table.value) {
    case 'stations':
      return entry(
        rowsOfStations.value,
        stationColumns.value,
        `Stations of ${title.value}`,
        'veldtwind-stations',
        (id) => id.split('/')[0],
      );
    case 'bodies':
      return entry(bodyRows.value, bodyColumns.value, `Bodies of ${title.value}`, 'veldtwind-bodies');
    case 'tails':
      return entry(tailRows.value, tailColumns.value, `Tails of ${title.value}`, 'veldtwind-tails');
    case 'differences':
      return entry(
        differences.value,
        differenceColumns.value,
        `${title.value} beside`,
        'veldtwind-differences',
        () => null,
      );
    default:
      return entry(surfaceRows.value, surfaceColumns.value, `Surfaces of ${title.value}`, 'veldtwind-airframe');
  }
});
const pick = (row: string) => {
  const id = shown.value.partOf(row);
  if (id) part.value = id;
};
</script>

<template>
  <LedgerTable
    :key="table"
    :rows="shown.rows"
    :columns="shown.columns"
    :label="shown.label"
    :file-name="shown.file"
    :selected="part"
    @select="pick"
  >
    <template #tools>
      <select
        v-if="table === 'differences'"
        v-model="otherId"
        class="rounded border border-rule bg-field px-1"
        aria-label="Candidate to compare with"
        data-test="other"
      >
        <option v-for="c in others" :key="c.id" :value="c.id">{{ c.letter }} {{ c.name }}</option>
      </select>
      <ChipRow
        label="Tables"
        :options="TABLES"
        :on="[table]"
        test="table"
        @pick="(id) => preferences.set('airframe-table', id)"
      />
    </template>
  </LedgerTable>
</template>
