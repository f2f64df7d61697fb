<script setup lang="ts">
import { computed, onMounted, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { CurveReply } from '@veldtwind/core/contract';
import { choose, polarAtLift, valueAt, type AtLift, type Criterion, type PolarFacts } from '@veldtwind/core/polar';
import { designPoint } from '@veldtwind/core/candidate';
import { axisTitle, FACT_QUANTITIES, POLAR_QUANTITIES, quantityIn, unitOf } from '@veldtwind/core/quantities';
import { isSolved } from '@veldtwind/core/section-flow';
import { formatNumber } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import LineChart from '@/components/chart/LineChart.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { quantityColumns } from '@/lib/quantity-columns';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { useWorkbench } from '@/store/workbench';
import { curveConditions, curveStyles, polarSeries, shortReynolds } from './curve-series';
import ChooseSheet from './ChooseSheet.vue';
import PointFigure from './PointFigure.vue';
import RunSheet from './RunSheet.vue';

const project = useProject();
const preferences = usePreferences();
const workbench = useWorkbench();
const runs = useRuns();
const route = useRoute();
const router = useRouter();
onMounted(() => void runs.refresh());
watch(
  () => project.id,
  (id) => id && void runs.refresh(),
);

const styles = computed(() => curveStyles(runs.curves));
const hidden = computed(() => new Set(preferences.get<number[]>('polar-hidden', [])));
const search = computed({
  get: () => String(route.query.find ?? ''),
  set: (find: string) => void router.replace({ query: { ...route.query, find: find || undefined } }),
});
const named = (c: CurveReply) => `${c.name} ${curveConditions(c)}`;
const found = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  return runs.curves.filter((c) => words.every((w) => named(c).toLowerCase().includes(w)));
});
const shown = computed(() => found.value.filter((c) => !hidden.value.has(c.id) && c.points > 0));
const hide = (ids: number[]) => preferences.set('polar-hidden', ids);
const toggle = (id: number) =>
  hide(hidden.value.has(id) ? [...hidden.value].filter((h) => h !== id) : [...hidden.value, id]);
const isolate = (id: number) => {
  const others = runs.curves.map((c) => c.id).filter((c) => c !== id);
  const alone = shown.value.length === 1 && shown.value[0].id === id;
  hide(alone ? [] : others);
};

const axes = computed(() => preferences.get('polar-axes', { x1: 'cd', y1: 'cl', x2: 'alpha', y2: 'cl' }));
const setAxis = (key: string, id: string) => preferences.set('polar-axes', { ...axes.value, [key]: id });
const options = computed(() => POLAR_QUANTITIES.map((q) => ({ id: q.id, name: axisTitle(q, preferences.units) })));
const axis = (id: string) => {
  const q = quantityIn(POLAR_QUANTITIES, id);
  return { name: q.symbol, unit: unitOf(q, preferences.units) || undefined, options: options.value, value: id };
};
const title = (x: string, y: string) => {
  const [qx, qy] = [quantityIn(POLAR_QUANTITIES, x), quantityIn(POLAR_QUANTITIES, y)];
  return `${qy.name.charAt(0).toUpperCase()}${qy.name.slice(1)} over ${qx.name}`;
};
const single = computed(() => new Set(runs.curves.map((c) => c.name)).size === 1);
const series = (x: string, y: string) =>
  polarSeries(shown.value, runs.points, styles.value, x, y, preferences.units, single.value);
const first = computed(() => series(axes.value.x1, axes.value.y1));
const second = computed(() => series(axes.value.x2, axes.value.y2));

const designLift = computed(() => {
  try {
    return workbench.active ? designPoint(project.brief, workbench.active).CL : null;
  } catch {
    return null;
  }
});
const bands = (x: string, y: string) =>
  designLift.value === null
    ? []
    : (['x', 'y'] as const).flatMap((side) =>
        (side === 'x' ? x : y) === 'cl'
          ? [{ axis: side, from: designLift.value! - 0.02, to: designLift.value! + 0.02, label: 'design lift' }]
          : [],
      );

/** The point that is open, as `curve:place`. */
const open = computed(() => {
  const [curve, place] = String(route.query.point ?? '')
    .split(':')
    .map(Number);
  const found = runs.curves.find((c) => c.id === curve);
  return found && Number.isInteger(place) ? { curve: found, place } : null;
});
const openPoint = (curve: number | null, place = 0) =>
  void router.replace({ query: { ...route.query, point: curve === null ? undefined : `${curve}:${place}` } });
function pick(id: string, tag: number): void {
  const points = (runs.points.get(Number(id)) ?? []).filter((p) => isSolved(p.point));
  const curve = runs.curves.find((c) => c.id === Number(id));
  if (!curve || points.length === 0) return;
  const near = points.reduce((a, b) =>
    Math.abs(valueAt(curve.input, b.place) - tag) < Math.abs(valueAt(curve.input, a.place) - tag) ? b : a,
  );
  openPoint(curve.id, near.place);
}
function step(by: 1 | -1): void {
  if (!open.value) return;
  const points = (runs.points.get(open.value.curve.id) ?? []).filter((p) => isSolved(p.point));
  const at = points.findIndex((p) => p.place === open.value!.place);
  const next = points[Math.min(points.length - 1, Math.max(0, at + by))];
  if (next) openPoint(open.value.curve.id, next.place);
}
const marks = (x: string, y: string) => {
  const o = open.value;
  const s = o && series(x, y).find((c) => c.id === String(o.curve.id));
  const p = s?.points.find((q) => q.tag === valueAt(o!.curve.input, o!.place));
  return p && Number.isFinite(p.y) ? [{ x: p.x, y: p.y, text: '', colour: 'var(--ink)' }] : [];
};

const criteria = computed(() => preferences.get<Criterion[]>('polar-criteria', []));
const verdicts = computed(() =>
  choose(
    found.value
      .filter((c) => c.facts !== null && c.points > 0)
      .map((c) => ({
        section: c.name,
        curve: curveConditions(c),
        facts: Object.fromEntries(FACT_QUANTITIES.map((q) => [q.id, q.of(c.facts!)])),
      })),
    criteria.value,
  ),
);

interface Row {
  id: string;
  curve: CurveReply;
  facts: PolarFacts | null;
  design: AtLift | null;
}
const rows = computed<Row[]>(() =>
  found.value.map((curve) => ({
    id: String(curve.id),
    curve,
    facts: curve.facts,
    design:
      designLift.value === null || curve.input.swept === 're'
        ? null
        : polarAtLift(
            (runs.points.get(curve.id) ?? []).map((p) => p.point),
            designLift.value,
          ),
  })),
);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'section', title: 'section', words: true, value: (r) => r.curve.name },
  {
    id: 're',
    title: 'Re',
    value: (r) => r.curve.input.conditions.reynolds,
    text: (r) => (r.curve.input.swept === 're' ? 'swept' : shortReynolds(r.curve.input.conditions.reynolds)),
  },
  {
    id: 'points',
    title: 'points',
    value: (r) => r.curve.points,
    text: (r) => `${r.curve.points}${r.curve.unsolved ? ` (${r.curve.unsolved} unsolved)` : ''}`,
  },
  ...(designLift.value === null
    ? []
    : ([
        {
          id: 'cd-design',
          title: `cd at cl ${formatNumber(designLift.value, 2)}`,
          value: (r) => r.design?.cd ?? null,
          text: (r) => (r.design ? formatNumber(r.design.cd, 5) : '—'),
        },
        {
          id: 'edge-design',
          title: 'to the low-drag edge',
          value: (r) => r.design?.toEdge ?? null,
          text: (r) => (r.design ? formatNumber(r.design.toEdge, 2) : '—'),
        },
      ] satisfies LedgerColumn<Row>[])),
  ...quantityColumns<Row, PolarFacts>(FACT_QUANTITIES, (r) => r.facts, preferences.units),
]);
</script>

<template>
  <AreaPage area="polars" title="Polars" question="How do the sections behave?">
    <template #figure>
      <EmptyState
        v-if="runs.loaded && runs.curves.length === 0"
        title="No polars yet"
        text="Choose sections and Reynolds numbers in the run plan at the right, and run it: the curves grow here while points are solved."
      />
      <div v-else-if="runs.curves.length" class="flex h-full min-h-[420px] flex-col px-4 py-3">
        <div class="grid min-h-0 flex-1 grid-cols-2 gap-3">
          <LineChart
            chart-id="polar-first"
            :title="title(axes.x1, axes.y1)"
            :series="first"
            :x="axis(axes.x1)"
            :y="axis(axes.y1)"
            :bands="bands(axes.x1, axes.y1)"
            :marks="marks(axes.x1, axes.y1)"
            :tag="workbench.cursor.alphaDeg"
            :digits="[4, 4]"
            @cursor="(a) => (workbench.cursor.alphaDeg = a)"
            @pick="pick"
            @update:x-quantity="(q) => setAxis('x1', q)"
            @update:y-quantity="(q) => setAxis('y1', q)"
          />
          <LineChart
            chart-id="polar-second"
            :title="title(axes.x2, axes.y2)"
            :series="second"
            :x="axis(axes.x2)"
            :y="axis(axes.y2)"
            :bands="bands(axes.x2, axes.y2)"
            :marks="marks(axes.x2, axes.y2)"
            :tag="workbench.cursor.alphaDeg"
            :digits="[2, 4]"
            @cursor="(a) => (workbench.cursor.alphaDeg = a)"
            @pick="pick"
            @update:x-quantity="(q) => setAxis('x2', q)"
            @update:y-quantity="(q) => setAxis('y2', q)"
          />
        </div>
        <div class="flex flex-wrap items-center gap-1 py-1" role="group" aria-label="Curves shown">
          <button
            v-for="c in found.slice(0, 60)"
            :key="c.id"
            class="flex items-center gap-1.5 rounded border border-rule px-1.5 py-[1px] text-[12px]"
            :class="hidden.has(c.id) ? 'text-soft line-through opacity-60' : ''"
            :aria-pressed="!hidden.has(c.id)"
            :title="`${named(c)}: click hides or shows it, double click shows it alone`"
            @click="toggle(c.id)"
            @dblclick="isolate(c.id)"
          >
            <svg width="18" height="8" aria-hidden="true">
              <line
                x1="0"
                x2="18"
                y1="4"
                y2="4"
                :style="{ stroke: styles.get(c.id)!.colour }"
                :stroke-width="styles.get(c.id)!.width"
                :stroke-dasharray="styles.get(c.id)!.dash"
              />
            </svg>
            {{ single ? curveConditions(c) : named(c) }}
          </button>
          <button v-if="hidden.size" class="link text-[12px]" @click="hide([])">Show all</button>
        </div>
        <PointFigure
          v-if="open"
          class="basis-[46%]"
          :curve="open.curve"
          :place="open.place"
          @step="step"
          @close="openPoint(null)"
        />
      </div>
      <div v-else class="grid h-full place-items-center text-soft" role="status">{{ runs.failure ?? 'Reading …' }}</div>
    </template>
    <template #ledger>
      <LedgerTable
        v-model:filter="search"
        :rows="rows"
        :columns="columns"
        label="Facts of the curves"
        file-name="veldtwind-polars"
        filtered-outside
        :selected="open ? String(open.curve.id) : null"
        @select="(id) => pick(id, 0)"
      />
    </template>
    <template #sheet>
      <RunSheet />
      <ChooseSheet
        v-if="runs.curves.length"
        :criteria="criteria"
        :verdicts="verdicts"
        @change="(c) => preferences.set('polar-criteria', c)"
      />
    </template>
  </AreaPage>
</template>
