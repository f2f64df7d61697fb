<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { CurveReply } from '@veldtwind/contract';
import { choose, valueAt, type Criterion } from '@veldtwind/core/polar';
import { CURVE_QUANTITIES, type CurveFacts } from '@veldtwind/core/quantities';
import { hasFlow } from '@veldtwind/core/section-flow';
import ChipRow from '@/components/field/ChipRow.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { within, type Ranges } from '@/lib/parallel';
import { quantityColumns } from '@/lib/quantity-columns';
import { useLibrary } from '@/store/library';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { curveOwners, type CurveOwner } from './curve-owners';
import { curveConditions, curveStyles, shortReynolds, type CurvePlace } from './curve-series';
import { useCurveFacts, useFlownLifts } from './curve-facts';
import { measuredSeries } from './measured-series';
import ChooseSheet from './ChooseSheet.vue';
import CurveCharts from './CurveCharts.vue';
import CurveChips from './CurveChips.vue';
import FactFigures from './FactFigures.vue';
import FamilyView from './family/FamilyView.vue';
import { FAMILY } from './family/family-name';
import MeasuredSheet from './MeasuredSheet.vue';
import PointFigure from './PointFigure.vue';
import RunSheet from './RunSheet.vue';
import SetLinks from './SetLinks.vue';

const project = useProject();
const preferences = usePreferences();
const runs = useRuns();
const library = useLibrary();
const route = useRoute();
const router = useRouter();
onMounted(() => void runs.refresh());
watch(
  () => project.id,
  (id) => id && void runs.refresh(),
);
const VIEWS = [
  { id: 'curves', name: 'Curves' },
  { id: 'facts', name: 'Facts' },
  { id: 'family', name: 'Family study' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const view = computed<View>(() => VIEWS.find((v) => v.id === route.query.view)?.id ?? 'curves');
const query = (change: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...change } });
const COUNTS = [1, 2, 4] as const;
const count = computed(() => COUNTS.find((n) => n === preferences.get<number>('polar-count', 2)) ?? 2);

const owners = computed(() => curveOwners(runs.curves, project.edited.sections));
const ownerOf = (c: CurveReply): CurveOwner =>
  owners.value.get(c.id) ?? { key: c.name, section: null, name: c.name, mark: '' };
const styles = computed(() =>
  curveStyles([...runs.curves.filter((c) => !inFamily(c)), ...runs.curves.filter(inFamily)], ownerOf, library.styleOf),
);
/** Curves of shapes that their sections no longer have. */
const earlier = computed(() => runs.curves.filter((c) => ownerOf(c).mark && !inFamily(c)).length);
const withEarlier = computed(() => preferences.get('polar-earlier', true));
const hidden = computed(() => new Set(preferences.get<number[]>('polar-hidden', [])));
const search = computed({
  get: () => (typeof route.query.find === 'string' ? route.query.find : ''),
  set: (find: string) => query({ find: find || undefined }),
});
/** Conditions of a curve, and the shape that it is of where that is not the section's present one. */
const conditionsOf = (c: CurveReply) => {
  const { mark } = ownerOf(c);
  return mark ? `${curveConditions(c)}, ${mark}` : curveConditions(c);
};
const named = (c: CurveReply) => `${ownerOf(c).name} ${conditionsOf(c)}`;
/** Curves of family members stand with their study; here only where they are asked for. */
const inFamily = (c: CurveReply) => c.section?.startsWith(FAMILY) ?? false;
const families = computed(() => runs.curves.filter(inFamily).length);
const withFamilies = computed(() => preferences.get('polar-families', false));
const found = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  return runs.curves
    .filter((c) => withFamilies.value || !inFamily(c))
    .filter((c) => withEarlier.value || inFamily(c) || !ownerOf(c).mark)
    .filter((c) => words.every((w) => named(c).toLowerCase().includes(w)));
});
/** Curves that stay whatever is searched for or shown alone. */
const pinned = computed(() => new Set(preferences.get<number[]>('polar-pinned', [])));
const pin = (id: number) =>
  preferences.set(
    'polar-pinned',
    pinned.value.has(id) ? [...pinned.value].filter((p) => p !== id) : [...pinned.value, id],
  );
const listed = computed(() => {
  const there = new Set(found.value);
  return [...found.value, ...runs.curves.filter((c) => pinned.value.has(c.id) && !there.has(c))];
});
const shown = computed(() =>
  listed.value.filter((c) => (pinned.value.has(c.id) || !hidden.value.has(c.id)) && c.points > 0),
);
const hide = (ids: number[]) => preferences.set('polar-hidden', ids);
const toggle = (id: number) =>
  hide(hidden.value.has(id) ? [...hidden.value].filter((h) => h !== id) : [...hidden.value, id]);
const isolate = (id: number) => {
  const others = runs.curves.map((c) => c.id).filter((c) => c !== id);
  const alone = shown.value.every((c) => c.id === id || pinned.value.has(c.id));
  hide(alone ? [] : others);
};
const single = computed(() => new Set(found.value.map((c) => ownerOf(c).key)).size === 1);
const shortName = (c: CurveReply) => (single.value ? conditionsOf(c) : named(c));
const measured = (x: string, y: string) =>
  measuredSeries(Object.values(project.document.measurements), x, y, preferences.units);

/** Points that are open, as `curve:place` with commas between; the last one is stepped. */
const open = computed<CurvePlace[]>(() =>
  (typeof route.query.point === 'string' ? route.query.point : '').split(',').flatMap((text) => {
    const [id, place] = text.split(':').map(Number);
    const curve = runs.curves.find((c) => c.id === id);
    return curve && Number.isInteger(place) ? [{ curve, place }] : [];
  }),
);
/** Whether the next point picked lies over those that are open. */
const laying = ref(false);
const MOST_OPEN = 12;
const setOpen = (points: CurvePlace[]) => {
  if (points.length === 0) laying.value = false;
  query({ point: points.map((p) => `${p.curve.id}:${p.place}`).join(',') || undefined });
};
const solvedOn = (curve: CurveReply) => (runs.points.get(curve.id) ?? []).filter((p) => hasFlow(p.point));
function pick(id: string, tag: number): void {
  const curve = runs.curves.find((c) => c.id === Number(id));
  const points = curve ? solvedOn(curve) : [];
  if (!curve || points.length === 0) return;
  const { place } = points.reduce((a, b) =>
    Math.abs(valueAt(curve.input, b.place) - tag) < Math.abs(valueAt(curve.input, a.place) - tag) ? b : a,
  );
  const point = { curve, place };
  const others = open.value.filter((p) => p.curve !== curve || p.place !== place);
  setOpen(laying.value ? [...others, point].slice(-MOST_OPEN) : [point]);
}
/** The points of the curve that is stepped, instead of those of it that were open; the others stay. */
function choosePoints(places: number[]): void {
  const curve = open.value[open.value.length - 1]?.curve;
  if (!curve) return;
  const order = [...places].sort((a, b) => valueAt(curve.input, a) - valueAt(curve.input, b));
  setOpen([...open.value.filter((p) => p.curve.id !== curve.id), ...order.map((place) => ({ curve, place }))]);
}
function step(by: 1 | -1, around: boolean): void {
  const lead = open.value[open.value.length - 1];
  if (!lead) return;
  const points = solvedOn(lead.curve);
  const next = points.findIndex((p) => p.place === lead.place) + by;
  const at = around ? (next + points.length) % points.length : Math.min(points.length - 1, Math.max(0, next));
  if (points[at]) setOpen([...open.value.slice(0, -1), { curve: lead.curve, place: points[at].place }]);
}

const factsOf = useCurveFacts();
const lifts = useFlownLifts();
/** Bands of what the aircraft lifts, or of what the sections of its wing lift in one of these conditions. */
const liftsOf = computed(() => {
  const kept = preferences.get('polar-lifts-of', '');
  return lifts.all.value.some((l) => l.name === kept) ? kept : '';
});
const flown = computed(() => (liftsOf.value ? lifts.apart(liftsOf.value) : lifts.all.value));
const criteria = computed(() => preferences.get<Criterion[]>('polar-criteria', []));
const verdicts = computed(() => {
  const asked = new Set(criteria.value.map((c) => c.fact));
  const quantities = CURVE_QUANTITIES.filter((q) => asked.has(q.id));
  return choose(
    found.value.flatMap((c) => {
      const { key, mark } = ownerOf(c);
      // An earlier shape is judged only where somebody keeps it, and then by itself.
      if (mark && !inFamily(c) && !pinned.value.has(c.id)) return [];
      const facts = c.points > 0 ? factsOf(c) : null;
      if (!facts) return [];
      return [
        {
          section: mark ? `${key}|${mark}` : key,
          curve: curveConditions(c),
          facts: Object.fromEntries(quantities.map((q) => [q.id, q.of(facts)])),
        },
      ];
    }),
    criteria.value,
  );
});
/** The project's section that is judged, and its name. */
const sectionOf = (key: string) => (Object.hasOwn(project.document.sections, key) ? key : null);
const nameOf = (key: string) => {
  const [section, mark] = key.split('|');
  return [project.document.sections[section]?.name ?? section, mark].filter(Boolean).join(', ');
};

const ranges = ref<Ranges>({});
interface Row {
  id: string;
  curve: CurveReply;
  facts: CurveFacts | null;
}
const rows = computed<Row[]>(() =>
  found.value
    .map((curve) => ({ id: String(curve.id), curve, facts: factsOf(curve) }))
    .filter(
      ({ facts }) =>
        view.value !== 'facts' ||
        within({ values: Object.fromEntries(CURVE_QUANTITIES.map((q) => [q.id, facts && q.of(facts)])) }, ranges.value),
    ),
);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'section', title: 'section', words: true, value: (r) => ownerOf(r.curve).name },
  ...(earlier.value
    ? [{ id: 'shape', title: 'shape', words: true, value: (r: Row) => ownerOf(r.curve).mark || 'present' }]
    : []),
  {
    id: 're',
    title: 'Re',
    name: 'Reynolds number',
    value: (r) => r.curve.input.conditions.reynolds,
    text: (r) => (r.curve.input.swept === 're' ? 'swept' : shortReynolds(r.curve.input.conditions.reynolds)),
  },
  {
    id: 'points',
    title: 'points',
    value: (r) => r.curve.points,
    text: (r) => `${r.curve.points}${r.curve.unsolved ? ` (${r.curve.unsolved} unsolved)` : ''}`,
  },
  ...quantityColumns<Row, CurveFacts>(CURVE_QUANTITIES, (r) => r.facts, preferences.units),
]);
const selected = ref<string | null>(null);
</script>

<template>
  <FamilyView v-if="view === 'family'" :views="VIEWS" @view="(v) => query({ view: v })" />
  <AreaPage v-else area="polars" title="Polars" question="How do the sections behave?">
    <template #figure>
      <div class="flex h-full min-h-[420px] flex-col px-4 py-2">
        <div class="flex items-center gap-3 pb-1">
          <ChipRow
            label="View"
            test="view"
            :options="VIEWS"
            :on="[view]"
            @pick="(v) => query({ view: v === 'curves' ? undefined : v })"
          />
          <button
            v-if="families"
            class="chip"
            :class="{ on: withFamilies }"
            :aria-pressed="withFamilies"
            title="Curves of the members of family studies, too"
            @click="preferences.set('polar-families', !withFamilies)"
          >
            {{ families }} of families
          </button>
          <button
            v-if="earlier"
            class="chip"
            :class="{ on: withEarlier }"
            :aria-pressed="withEarlier"
            title="Curves of shapes that their sections no longer have: dotted, and never judged unless they are pinned"
            data-test="earlier-shapes"
            @click="preferences.set('polar-earlier', !withEarlier)"
          >
            {{ earlier }} outdated curve{{ earlier === 1 ? '' : 's' }}
          </button>
          <span class="flex-1" />
          <label
            v-if="view === 'curves' && lifts.all.value.length"
            class="flex items-center gap-1 text-[12.5px] text-soft"
            title="Bands in the figures: lift of the aircraft in every condition of the brief, or of the wing’s sections in one of them"
          >
            lift bands
            <select
              class="rounded border border-rule bg-transparent px-1 py-0.5 text-[12.5px] text-ink"
              :value="liftsOf"
              data-test="lift-bands"
              @change="(e) => preferences.set('polar-lifts-of', (e.target as HTMLSelectElement).value)"
            >
              <option value="">aircraft</option>
              <option v-for="l in lifts.all.value" :key="l.name" :value="l.name">sections, {{ l.name }}</option>
            </select>
          </label>
          <div v-if="view === 'curves'" class="flex items-center gap-1 text-[12.5px] text-soft">
            charts
            <ChipRow
              label="Charts"
              test="charts"
              :options="COUNTS.map((n) => ({ id: n, name: String(n) }))"
              :on="[count]"
              @pick="(n) => preferences.set('polar-count', n)"
            />
          </div>
          <SetLinks />
        </div>
        <EmptyState
          v-if="runs.loaded && runs.curves.length === 0"
          title="No polars yet"
          text="Choose sections and Reynolds numbers in the run plan at the right, and run it: the curves grow here while points are solved."
        />
        <template v-else-if="runs.curves.length && view === 'curves'">
          <CurveCharts
            :curves="shown"
            :styles="styles"
            :name="shortName"
            :count="count"
            :flown="flown"
            :open="open"
            :measured="measured"
            @pick="pick"
          />
          <CurveChips
            :curves="listed"
            :styles="styles"
            :hidden="hidden"
            :pinned="pinned"
            :name="shortName"
            :section-of="(c) => ownerOf(c).section"
            @toggle="toggle"
            @isolate="isolate"
            @pin="pin"
            @all="hide([])"
          />
          <PointFigure
            v-if="open.length"
            class="basis-[46%]"
            :points="open"
            :laying="laying"
            :steppable="solvedOn(open[open.length - 1].curve).length > 1"
            :places="solvedOn(open[open.length - 1].curve).map((p) => p.place)"
            :most="MOST_OPEN"
            @step="step"
            @choose="choosePoints"
            @lay="(on) => (laying = on)"
            @drop="(i) => setOpen(open.filter((_, k) => k !== i))"
            @close="setOpen([])"
          />
        </template>
        <FactFigures
          v-else-if="runs.curves.length"
          :curves="found"
          :styles="styles"
          :name="named"
          :facts="factsOf"
          :ranges="ranges"
          :selected="selected"
          @ranges="(r) => (ranges = r)"
          @pick="(id) => (selected = String(id))"
        />
        <div v-else class="grid h-full place-items-center text-soft" role="status">
          {{ runs.failure ?? 'Reading …' }}
        </div>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        v-model:filter="search"
        :rows="rows"
        :columns="columns"
        label="Facts of the curves"
        file-name="veldtwind-polars"
        filtered-outside
        :selected="view === 'facts' ? selected : open.length ? String(open[open.length - 1].curve.id) : null"
        @select="(id) => (view === 'facts' ? (selected = id) : pick(id, 0))"
      />
    </template>
    <template #sheet>
      <RunSheet />
      <ChooseSheet
        v-if="runs.curves.length"
        :criteria="criteria"
        :verdicts="verdicts"
        :section-of="sectionOf"
        :name-of="nameOf"
        @change="(c) => preferences.set('polar-criteria', c)"
      />
      <MeasuredSheet />
    </template>
  </AreaPage>
</template>
