<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { pointOn, referenceSurface, standingIn, SURFACE_LIMITS } from '@veldtwind/core/airframe';
import type { Evaluation } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import {
  axisTitle,
  CANDIDATE_QUANTITIES,
  quantityIn,
  SPAN_QUANTITIES,
  unitOf,
  type LiftPoint,
} from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import LineChart from '@/components/chart/LineChart.vue';
import BoundField from '@/components/field/BoundField.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { DocumentPath } from '@/lib/document-path';
import { ALL_LIFT, answerSeries, liftQuantity, METHODS, stateOf, type Answered, type Method } from '@/lib/lift-series';
import { quantityColumns } from '@/lib/quantity-columns';
import { seriesStyle } from '@/lib/series-style';
import { originOf } from '@/lib/origin';
import { usePerformances } from '@/store/performances';
import { provideOrigin } from '@/store/number-sheet';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import CompareTable from './CompareTable.vue';
import FigureCharts, { type LiftFigure } from './FigureCharts.vue';
import GroundFigures from './GroundFigures.vue';
import LoadGroup from './LoadGroup.vue';
import MachGroup from './MachGroup.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import VariantGroup from '@/components/variants/VariantGroup.vue';
import ReferenceGroup from './ReferenceGroup.vue';
import SkinFigures from './SkinFigures.vue';
import SpanHandles, { type SpanHandle } from './SpanHandles.vue';
import StallGroup from './StallGroup.vue';
import StreamFigures from './StreamFigures.vue';
import StripTable from './StripTable.vue';
import SweepGroup from './SweepGroup.vue';
import { FIRST_AXES, RUNS } from './sweep-kinds';
import { useAnswers } from './use-answers';
import { useSpan } from './use-span';

// The space view comes when the page stands: its library is large.
const AirframeView = defineAsyncComponent(() => import('@/components/view3d/AirframeView.vue'));

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();

const active = computed(() => workbench.active);
const lift = computed(() => workbench.current?.lift ?? null);
const all = useAnswers();
const { answers, methods, kind, steady, design } = all;
const wing = computed(() =>
  active.value && active.value.surfaces.length > 0 ? referenceSurface(active.value.surfaces) : null,
);
const tail = computed(() => active.value?.surfaces.find((s) => s.role === 'tailplane'));

const VIEWS = [
  { id: 'lift', name: 'Load' },
  { id: 'four', name: 'Four figures' },
  { id: 'skin', name: 'Surface pressure' },
  { id: 'stream', name: 'Flow' },
  { id: 'ground', name: 'Ground effect' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const view = computed<View>(() => {
  const kept = preferences.get<View>('lift-view', 'lift');
  return VIEWS.some((v) => v.id === kept) ? kept : 'lift';
});
function look(id: View): void {
  preferences.set('lift-view', id);
  if (id === 'skin' && !methods.value.includes('skins')) all.toggle('skins');
}
const methodChips = (Object.keys(METHODS) as Method[]).map((id) => ({
  id,
  name: METHODS[id].name,
  title: METHODS[id].says,
}));
/** The answers of the candidate that is worked on, the fullest first. */
const own = computed(() => answers.value.filter((a) => a.candidate.id === active.value?.id));
const best = computed(() => own.value[0] ?? null);
const viscous = computed(() => (active.value ? steady.of(active.value.id) : null));

/** The angle that the span load is drawn for: the cursor's, else the one chosen, else that of the design lift. */
const chosen = computed<number | null>({
  get: () => (route.query.alpha !== undefined ? Number(route.query.alpha) : null),
  set: (a) => void router.replace({ query: { ...route.query, alpha: a === null ? undefined : String(a) } }),
});
const ofCandidate = (id: string) => quantityIn(CANDIDATE_QUANTITIES, id);
const designAngle = computed(() => (workbench.current ? ofCandidate('design-angle').of(workbench.current) : null));
/** The value that runs, where that is no angle; shared by the figures of the page. */
const runCursor = ref<number | null>(null);
const overAngle = computed(() => kind.value === 'alpha' || kind.value === 'carrying');
const cursor = computed<number | null>({
  get: () => (overAngle.value ? workbench.cursor.alphaDeg : runCursor.value),
  set: (v) => (overAngle.value ? (workbench.cursor.alphaDeg = v) : (runCursor.value = v)),
});
const runs = computed(() => liftQuantity(RUNS[kind.value]));
const wanted = computed(() => cursor.value ?? chosen.value ?? (overAngle.value ? (designAngle.value ?? 0) : null));
/** The state of an answer that is nearest to what is looked at. */
function stateNear(a: Answered): LiftPoint['point'] | null {
  const at = (p: LiftPoint['point']) => runs.value.of(stateOf(a, p)) ?? NaN;
  const middle = a.points[Math.floor(a.points.length / 2)] ?? null;
  const target = wanted.value;
  if (target === null) return middle;
  return a.points.reduce<LiftPoint['point'] | null>(
    (near, p) => (!near || Math.abs(at(p) - target) < Math.abs(at(near) - target) ? p : near),
    null,
  );
}
const point = computed(() => (best.value ? stateNear(best.value) : null));

const spanQuantity = computed(
  () => SPAN_QUANTITIES.find((q) => q.id === preferences.get('lift-span', 'load')) ?? SPAN_QUANTITIES[0],
);
const isLoad = computed(() => spanQuantity.value.id === 'load');
const span = useSpan({ answers, best, point, wing, quantity: spanQuantity, stateNear });
const noStall = computed(() =>
  best.value && best.value.method !== 'polars' ? 'inviscid: no stall in this model' : '',
);
/** What the load comes to, so that it is seen while a station is dragged. */
const spanWords = computed(() => {
  const p = point.value;
  if (!p) return '';
  const what = isLoad.value ? 'local lift × chord ÷ mean chord, ' : '';
  return `${what}α ${formatNumber(p.alpha * DEG, 1)}°: CL ${formatNumber(p.CL, 3)}, CDi ${formatNumber(p.CDi, 5)}, efficiency ${formatNumber(p.efficiency, 3)}`;
});
const HANDLES = [
  { id: 'twist', name: 'twist', title: 'Drag the twist of the stations' },
  { id: 'chord', name: 'chord', title: 'Drag the chord of the stations' },
] as const;
const handles = computed(() => preferences.get<SpanHandle | null>('lift-handles', null));
const spanCaption = computed(() => {
  if (noStall.value) return noStall.value;
  const stalled = (point.value?.stalled ?? []).filter((s) => s.surface === wing.value?.id);
  return stalled.length
    ? `stalled ${stalled.map((s) => `${formatNumber(100 * Math.abs(s.from), 0)}–${formatNumber(100 * Math.abs(s.to), 0)} %`).join(', ')} of the half span`
    : '';
});
/** Where the wing stalls first, on the aircraft. */
const stallPoint = computed(() => {
  const begins = viscous.value?.stallBegins;
  if (!begins || !active.value || kind.value !== 'alpha') return [];
  try {
    const surface = standingIn(active.value).surfaces.find((s) => s.id === begins.surface);
    if (!surface) return [];
    const at = pointOn(surface, begins.eta, 0.35);
    return [{ ...at, text: `stalls first, ${formatNumber(begins.alpha * DEG, 1)}°`, colour: 'var(--clay)' }];
  } catch {
    return [];
  }
});

interface Axes {
  x1: string;
  y1: string;
  x2: string;
  y2: string;
  x3: string;
  y3: string;
  x4: string;
  y4: string;
}
const axesKey = computed(() => (kind.value === 'alpha' ? 'lift-axes' : `lift-axes-${kind.value}`));
const axes = computed<Axes>(() => ({
  x3: 'CD',
  y3: 'CL',
  x4: 'CL',
  y4: 'lift-to-drag',
  ...FIRST_AXES[kind.value],
  ...preferences.get<Partial<Axes>>(axesKey.value, {}),
}));
const setAxis = (key: string, id: string) => preferences.set(axesKey.value, { ...axes.value, [key]: id });
const options = computed(() => ALL_LIFT.map((q) => ({ id: q.id, name: axisTitle(q, preferences.units) })));
const axis = (id: string) => {
  const q = liftQuantity(id);
  return { name: q.symbol, unit: unitOf(q, preferences.units) || undefined, options: options.value, value: id };
};
const titled = (x: string, y: string) => {
  const [qx, qy] = [liftQuantity(x), liftQuantity(y)];
  // The two usual figures are called by what they show.
  return x === 'alpha' && (y === 'CL' || y === 'Cm')
    ? qy.name.replace(/^[a-z]/, (c) => c.toUpperCase())
    : `${qy.symbol} over ${qx.symbol}`.replace(/^[a-z](?=[a-z]{2})/, (c) => c.toUpperCase());
};
const aboutWords = computed(() =>
  workbench.current?.mass ? 'about the centre of gravity' : 'about the quarter chord: no centre of gravity yet',
);
/** The trim stands on the curve of the method that it is of, and nowhere else. */
const trimMethod = computed(() =>
  answers.value.some((a) => a.candidate.id === active.value?.id && a.method === workbench.current?.method),
);
const figures = computed<LiftFigure[]>(() =>
  ([1, 2, 3, 4] as const).map((n) => {
    const [x, y] = [axes.value[`x${n}`], axes.value[`y${n}`]];
    const b = project.brief.bands.trimAngleDeg;
    const trims = x === 'alpha' && y === 'Cm' && kind.value === 'alpha';
    const t = trims && trimMethod.value ? workbench.current?.balance?.trims[0] : undefined;
    return {
      n,
      id: ['lift-first', 'lift-second', 'lift-third', 'lift-fourth'][n - 1],
      title: titled(x, y),
      subtitle: n === 1 ? 'of the whole aircraft, on the wing’s area' : y === 'Cm' ? aboutWords.value : '',
      x,
      y,
      series: answerSeries(answers.value, x, y, RUNS[kind.value], preferences.units),
      bands:
        x === 'alpha' && n === 2 && (b.min !== null || b.max !== null)
          ? [{ axis: 'x' as const, from: b.min, to: b.max, label: 'trim' }]
          : [],
      marks: [
        ...(t && active.value
          ? [
              {
                x: t.alpha * DEG,
                y: 0,
                text: `${formatNumber(t.alpha * DEG, 1)}°`,
                colour: seriesStyle(active.value.style).colour,
              },
            ]
          : []),
        ...(x === 'alpha' && y === 'CL' && viscous.value?.CLmax != null && viscous.value.alphaCLmax !== null
          ? [
              {
                x: viscous.value.alphaCLmax * DEG,
                y: viscous.value.CLmax,
                text: `CLmax ${formatNumber(viscous.value.CLmax, 2)}`,
                colour: 'var(--clay)',
              },
            ]
          : []),
      ],
    };
  }),
);

interface Row {
  id: string;
  at: LiftPoint;
  status: string;
}
const rows = computed<Row[]>(() =>
  best.value
    ? best.value.points.map((p, i) => ({
        id: (runs.value.of(stateOf(best.value!, p)) ?? i).toFixed(3),
        at: stateOf(best.value!, p),
        status: p.status ? (p.reason ? `${p.status}: ${p.reason}` : p.status) : '',
      }))
    : [],
);
const columns = computed<LedgerColumn<Row>[]>(() => {
  const list = ALL_LIFT.filter((q) => q.id !== 'ratio' && rows.value.some((r) => Math.abs(q.of(r.at) ?? 0) > 1e-9));
  const numbers = quantityColumns<Row, LiftPoint>(list, (r) => r.at, preferences.units);
  return rows.value.some((r) => r.status)
    ? [...numbers, { id: 'status', title: 'status', value: (r: Row) => r.status, words: true }]
    : numbers;
});
const selected = computed(() => {
  const p = point.value;
  return p && best.value ? (rows.value.find((r) => r.at.point === p)?.id ?? null) : null;
});

const ledger = computed(() => preferences.get<'states' | 'strips' | 'candidates'>('lift-ledger', 'states'));

const inSurface = (id: string, ...rest: (string | number)[]): DocumentPath => [
  'candidates',
  active.value?.id ?? '',
  'surfaces',
  { id },
  ...rest,
];
const everyBay = (key: string) =>
  wing.value ? wing.value.bays.slice(1).map((_, i) => inSurface(wing.value!.id, 'bays', i + 1, key)) : [];
const FOLLOWS = [
  'lift-slope',
  'lift-slope-deg',
  'zero-lift-angle',
  'design-angle',
  'neutral-point',
  'zero-lift-moment',
];
// Stall and glide are those of Performance, in trim.
const performances = usePerformances();
onMounted(() => (performances.readInLift = true));
onUnmounted(() => (performances.readInLift = false));
const inTrim = computed(() => (active.value ? performances.madeOf(active.value.id).performance : null));
const evaluation = computed<Evaluation | null>(() => workbench.current);
provideOrigin(() => {
  const [c, e] = [active.value, evaluation.value];
  if (!c || !e) return null;
  const { speed, altitude } = project.brief;
  return originOf({ letter: c.letter, speed, altitude, method: e.method }, preferences.units, {
    provisional: workbench.provisional(c.id),
    doubts: e.problems.map((p) => p.message),
  });
});
const missing = computed(() => (active.value ? steady.missing(active.value.id) : []));
const needs = computed(() => (active.value ? (steady.needs.value.get(active.value.id) ?? []) : []));
/** Of all candidates that are looked at: one click serves them all. */
const missingOfAll = computed(() => {
  const seen = new Set<string>();
  return all.looked.value
    .flatMap((c) => steady.missing(c.id))
    .filter((n) => !seen.has(n.sweep.key) && seen.add(n.sweep.key));
});
const computePolars = () =>
  void steady.polars.compute(
    missingOfAll.value,
    `Polars for Lift, ${workbench.visible.map((c) => c.letter).join(', ')}`,
  );
const station = computed(() => workbench.cursor.station ?? 0.4);
</script>

<template>
  <AreaPage area="lift" title="Lift" question="How does it lift, and where does it stall first?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0"
        title="Nothing to lift yet"
        text="Lift needs at least a wing: two stations with a chord and a section each."
      >
        <RouterLink
          class="btn btn-main"
          :to="{ name: 'airframe', params: { project: project.id! }, query: route.query }"
          >Draw a wing</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <div v-else-if="lift" class="flex h-full min-h-[420px] flex-col">
        <div class="flex flex-wrap items-center gap-x-5 gap-y-1 px-5 pt-2.5">
          <ChipRow label="Figures" :options="VIEWS" :on="[view]" test="lift-view" @pick="look" />
          <ChipRow label="Method" :options="methodChips" :on="methods" test="lift-method" @pick="all.toggle" />
          <span v-if="missingOfAll.length && methods.includes('polars')" class="text-[12.5px] text-clay" role="status">
            {{ missingOfAll.length }} {{ missingOfAll.length === 1 ? 'polar' : 'polars' }} missing:
            <button class="link" data-test="compute-now" @click="computePolars">compute them</button>
          </span>
          <span v-else-if="steady.failureOf(active.id)" class="text-[12.5px] text-clay" role="alert">{{
            steady.failureOf(active.id)!.message
          }}</span>
        </div>
        <div
          v-if="view === 'lift'"
          class="grid min-h-0 flex-1 grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-x-3 px-4 py-2"
          :class="workbench.stale(active.id) ? 'opacity-90' : ''"
        >
          <div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[1.45fr_1fr]">
            <div class="relative grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)]">
              <LineChart
                chart-id="span-load"
                :title="spanQuantity.name.charAt(0).toUpperCase() + spanQuantity.name.slice(1)"
                :subtitle="spanWords"
                :series="span.series.value"
                :marks="span.marks.value"
                :x="{ name: 'half span', zero: true }"
                :y="{
                  name: spanQuantity.symbol,
                  unit: unitOf(spanQuantity, preferences.units) || undefined,
                  zero: true,
                  options: SPAN_QUANTITIES.map((q) => ({ id: q.id, name: `${q.name}, ${q.symbol}` })),
                  value: spanQuantity.id,
                }"
                :tag="workbench.cursor.station"
                :caption="spanCaption"
                @cursor="(s) => (workbench.cursor.station = s)"
                @update:y-quantity="(q) => preferences.set('lift-span', q)"
              >
                <template v-if="wing && handles" #handles>
                  <SpanHandles :candidate="active.id" :surface="wing" :series="span.own.value" :what="handles" />
                </template>
              </LineChart>
              <ChipRow
                v-if="wing"
                class="absolute top-0 right-10"
                label="Drag on the figure"
                :options="HANDLES"
                :on="handles ? [handles] : []"
                test="span-handles"
                @pick="(id) => preferences.set('lift-handles', handles === id ? null : id)"
              />
            </div>
            <AirframeView
              :candidates="[active]"
              :active-id="active.id"
              :sections="project.document.sections"
              :station="workbench.cursor.station"
              :points="stallPoint"
            />
          </div>
          <FigureCharts
            class="grid min-h-0 grid-rows-2 gap-2"
            :figures="figures.slice(0, 2)"
            :axis="axis"
            :caption="noStall"
            :tag="cursor"
            @cursor="(v) => (cursor = v)"
            @axis="setAxis"
          />
        </div>
        <FigureCharts
          v-else-if="view === 'four'"
          class="grid min-h-0 flex-1 grid-cols-2 grid-rows-2 gap-2 px-4 py-2"
          :figures="figures"
          :axis="axis"
          :caption="noStall"
          :tag="cursor"
          @cursor="(v) => (cursor = v)"
          @axis="setAxis"
        />
        <SkinFigures
          v-else-if="view === 'skin'"
          class="min-h-0 flex-1"
          :answers="all"
          :alpha-deg="point ? point.alpha * DEG : 0"
          :surface="wing?.id ?? ''"
          :station="station"
        />
        <StreamFigures
          v-else-if="view === 'stream'"
          class="min-h-0 flex-1"
          :candidate="active"
          :answer="best"
          :point="point"
        />
        <GroundFigures v-else class="min-h-0 flex-1" />
      </div>
      <div v-else class="grid h-full place-items-center text-soft" role="status">
        {{ workbench.failure?.message ?? workbench.current?.problems[0]?.message ?? 'Computing…' }}
      </div>
    </template>
    <template #ledger>
      <div class="flex h-full flex-col">
        <ChipRow
          class="px-4 pt-1.5"
          label="Rows"
          :options="[
            { id: 'states', name: 'States' },
            { id: 'strips', name: 'Strips' },
            { id: 'candidates', name: 'Candidates at the design point' },
          ]"
          :on="[ledger]"
          test="lift-ledger"
          @pick="(id) => preferences.set('lift-ledger', id)"
        />
        <LedgerTable
          v-if="ledger === 'states'"
          class="min-h-0 flex-1"
          :rows="rows"
          :columns="columns"
          :label="`Lift of ${active?.letter ?? ''} ${active?.name ?? ''}, ${best ? METHODS[best.method].name : ''}`"
          file-name="veldtwind-lift"
          :made="best ? METHODS[best.method].name : ''"
          :selected="selected"
          @select="(id) => (chosen = Number(id))"
          @hover="(id) => (cursor = id === null ? null : Number(id))"
        />
        <StripTable
          v-else-if="ledger === 'strips' && active"
          class="min-h-0 flex-1"
          :candidate="active"
          :point="point"
          :polars="steady.polars.ready(needs)"
        />
        <CompareTable v-else class="min-h-0 flex-1" :answer-of="(id) => steady.of(id)" />
      </div>
    </template>
    <template #sheet>
      <template v-if="active && wing">
        <SheetGroup v-if="methods.includes('polars')" title="Polars of the strips">
          <PolarNeeds
            :needs="needs"
            :missing="missing"
            :seconds="steady.polars.secondsFor(missingOfAll)"
            @compute="computePolars"
          />
        </SheetGroup>
        <StallGroup v-if="viscous" :answer="viscous" :surfaces="active.surfaces" :kind="kind" :in-trim="inTrim" />
        <SheetGroup :title="`${wing.name} of ${active.letter}`" help="Twist and incidence">
          <BoundField
            label="Twist at tip"
            :path="inSurface(wing.id, 'stations', wing.stations.length - 1, 'twistDeg')"
            :limit="SURFACE_LIMITS.station.twistDeg"
            step="Twist at the tip"
          />
          <BoundField
            :path="inSurface(wing.id, 'incidenceDeg')"
            :limit="SURFACE_LIMITS.incidenceDeg"
            step="Wing incidence"
          />
          <BoundField
            :path="inSurface(wing.id, 'bays', 0, 'sweepDeg')"
            :also="everyBay('sweepDeg')"
            :limit="SURFACE_LIMITS.bay.sweepDeg"
            step="Sweep"
            :hint="wing.bays.length > 1 ? 'Sets every bay' : ''"
          />
          <BoundField
            v-if="wing.bays.length === 1"
            :path="inSurface(wing.id, 'bays', 0, 'dihedralDeg')"
            :limit="SURFACE_LIMITS.bay.dihedralDeg"
            step="Dihedral"
          />
          <BoundField
            v-if="tail"
            label="Tail incidence"
            :path="inSurface(tail.id, 'incidenceDeg')"
            :limit="SURFACE_LIMITS.incidenceDeg"
            step="Tail incidence"
          />
        </SheetGroup>
        <LoadGroup :design-lift="design?.CL ?? null" />
        <SweepGroup :answers="all" />
        <VariantGroup />
        <SheetGroup title="Derived">
          <QuantityRow v-for="id in FOLLOWS" :key="id" :quantity="ofCandidate(id)" :from="evaluation" />
          <DerivedRow label="Span efficiency" :value="point?.efficiency" dimension="plain" unit="" />
        </SheetGroup>
        <MachGroup :candidate="active" :point="point" />
        <ReferenceGroup :candidate="active" :used="best?.reference ?? null" />
        <p class="pt-2 text-[12px] text-soft" role="status" data-test="lift-made">
          {{ lift?.panels ?? 0 }} panels, vortex lattice, {{ formatNumber(workbench.lastMs, 0) }} ms
        </p>
      </template>
    </template>
  </AreaPage>
</template>
