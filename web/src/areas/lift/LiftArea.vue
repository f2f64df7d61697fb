<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { referenceSurface, SURFACE_LIMITS } from '@veldtwind/core/airframe';
import type { Evaluation } from '@veldtwind/core/candidate';
import { ellipticLoad, type StripLoad } from '@veldtwind/core/lift';
import { SWEEP_LIMITS } from '@veldtwind/core/project';
import {
  axisTitle,
  CANDIDATE_QUANTITIES,
  inUnit,
  LIFT_QUANTITIES,
  quantityIn,
  SPAN_QUANTITIES,
  unitOf,
  type LiftPoint,
} from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import LineChart from '@/components/chart/LineChart.vue';
import BoundField from '@/components/field/BoundField.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable from '@/components/table/LedgerTable.vue';
import AirframeView from '@/components/view3d/AirframeView.vue';
import type { ChartSeries } from '@/lib/chart-model';
import type { DocumentPath } from '@/lib/document-path';
import { liftQuantity, liftSeries, pointOf, stripsAt } from '@/lib/lift-series';
import { quantityColumns } from '@/lib/quantity-columns';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useShownLift } from '@/store/shown-lift';
import { useWorkbench } from '@/store/workbench';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();
const DEG = 180 / Math.PI;

const active = computed(() => workbench.active);
const lift = computed(() => workbench.current?.lift ?? null);
const shown = useShownLift();
const own = computed(() => shown.value.find((s) => s.candidate.id === active.value?.id));
const wing = computed(() =>
  active.value && active.value.surfaces.length > 0 ? referenceSurface(active.value.surfaces) : null,
);
const tail = computed(() => active.value?.surfaces.find((s) => s.role === 'tailplane'));

/** The angle that the span load is drawn for: the cursor's, else the one chosen, else that of the design lift. */
const chosen = computed<number | null>({
  get: () => (route.query.alpha !== undefined ? Number(route.query.alpha) : null),
  set: (a) => void router.replace({ query: { ...route.query, alpha: a === null ? undefined : String(a) } }),
});
const ofCandidate = (id: string) => quantityIn(CANDIDATE_QUANTITIES, id);
const designAngle = computed(() => (workbench.current ? ofCandidate('design-angle').of(workbench.current) : null));
const alpha = computed(() => workbench.cursor.alphaDeg ?? chosen.value ?? designAngle.value ?? 0);

const spanQuantity = computed(
  () => SPAN_QUANTITIES.find((q) => q.id === preferences.get('lift-span', 'load')) ?? SPAN_QUANTITIES[0],
);
const isLoad = computed(() => spanQuantity.value.id === 'load');
const spanSeries = computed<ChartSeries[]>(() => {
  const series: ChartSeries[] = [];
  const q = spanQuantity.value;
  for (const { candidate, lift: l } of shown.value) {
    const main = candidate.id === active.value?.id;
    const surface = main ? wing.value : referenceSurface(candidate.surfaces);
    if (!surface) continue;
    const { strips } = stripsAt(l, alpha.value, surface.id);
    const meanChord = l.reference.area / l.reference.span;
    series.push({
      id: candidate.id,
      label: shown.value.length > 1 ? candidate.letter : `${candidate.letter} ${candidate.name}`,
      style: seriesStyle(candidate.style),
      markers: false,
      points: strips.map((strip) => ({
        x: Math.abs(strip.station),
        y: inUnit(q, q.of({ strip, meanChord })!, preferences.units),
        tag: Math.abs(strip.station),
      })),
    });
    if (main && isLoad.value) series.push(elliptic(candidate.id, strips, meanChord));
  }
  return series;
});
/** The ellipse that carries what a surface carries. */
function elliptic(id: string, strips: readonly StripLoad[], meanChord: number): ChartSeries {
  const half = strips.reduce((sum, s) => sum + s.cl * s.chord * s.width, 0);
  const span = strips.reduce((sum, s) => sum + s.width, 0);
  const CL = half / span / meanChord;
  return {
    id: `${id}-elliptic`,
    label: 'elliptic',
    reference: true,
    style: { colour: 'var(--soft)', dash: '3 3', marker: 'disc' },
    points: Array.from({ length: 61 }, (_, i) => {
      const x = Math.sin((i / 60) * (Math.PI / 2));
      return { x, y: ellipticLoad(CL, x) };
    }),
  };
}
const greatest = computed(() => {
  if (!lift.value || !wing.value || spanQuantity.value.id !== 'cl') return [];
  const { strips } = stripsAt(lift.value, alpha.value, wing.value.id);
  const top = strips.reduce((best, s) => (s.cl > best.cl ? s : best), strips[0]);
  const text = top && `greatest local cl ${formatNumber(top.cl, 2)}`;
  return top ? [{ x: Math.abs(top.station), y: top.cl, text, colour: 'var(--clay)' }] : [];
});

const axes = computed(() => preferences.get('lift-axes', { x1: 'alpha', y1: 'CL', x2: 'alpha', y2: 'Cm' }));
const setAxis = (key: string, id: string) => preferences.set('lift-axes', { ...axes.value, [key]: id });
const options = computed(() => LIFT_QUANTITIES.map((q) => ({ id: q.id, name: axisTitle(q, preferences.units) })));
const axis = (id: string) => {
  const q = liftQuantity(id);
  return { name: q.symbol, unit: unitOf(q, preferences.units) || undefined, options: options.value, value: id };
};
const titled = (x: string, y: string) => {
  const [qx, qy] = [liftQuantity(x), liftQuantity(y)];
  // The two usual figures are called by what they show.
  return x === 'alpha' && (y === 'CL' || y === 'Cm')
    ? qy.name.replace(/^[a-z]/, (c) => c.toUpperCase())
    : `${qy.symbol} over ${qx.symbol}`;
};
const first = computed(() => liftSeries(shown.value, axes.value.x1, axes.value.y1, preferences.units));
const second = computed(() => liftSeries(shown.value, axes.value.x2, axes.value.y2, preferences.units));
const band = computed(() => {
  const b = project.brief.bands.trimAngleDeg;
  return axes.value.x2 === 'alpha' && (b.min !== null || b.max !== null)
    ? [{ axis: 'x' as const, from: b.min, to: b.max, label: 'trim' }]
    : [];
});
const trimMark = computed(() => {
  const t = workbench.current?.balance?.trims[0];
  const c = active.value;
  if (!t || !c || axes.value.x2 !== 'alpha' || axes.value.y2 !== 'Cm') return [];
  return [{ x: t.alpha * DEG, y: 0, text: `${formatNumber(t.alpha * DEG, 1)}°`, colour: seriesStyle(c.style).colour }];
});
const aboutWords = computed(() =>
  workbench.current?.mass ? 'about the centre of gravity' : 'about the quarter chord: no centre of gravity yet',
);
const point = computed(() => (lift.value ? stripsAt(lift.value, alpha.value, wing.value?.id ?? '').point : null));

interface Row {
  id: string;
  alphaDeg: number;
  at: LiftPoint;
}
const rows = computed<Row[]>(() =>
  own.value
    ? own.value.lift.points.map((p) => ({
        id: (p.alpha * DEG).toFixed(3),
        alphaDeg: p.alpha * DEG,
        at: pointOf(own.value!, p),
      }))
    : [],
);
const columns = computed(() =>
  quantityColumns<Row, LiftPoint>(
    LIFT_QUANTITIES.filter((q) => q.id !== 'ratio'),
    (r) => r.at,
    preferences.units,
  ),
);
const selected = computed(() => {
  const near = rows.value.reduce<Row | null>(
    (best, r) => (!best || Math.abs(r.alphaDeg - alpha.value) < Math.abs(best.alphaDeg - alpha.value) ? r : best),
    null,
  );
  return near?.id ?? null;
});

const inSurface = (id: string, ...rest: (string | number)[]): DocumentPath => [
  'candidates',
  active.value?.id ?? '',
  'surfaces',
  { id },
  ...rest,
];
const inSweep = (key: string): DocumentPath => ['candidates', active.value?.id ?? '', 'sweep', key];
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
const evaluation = computed<Evaluation | null>(() => workbench.current);
</script>

<template>
  <AreaPage area="lift" title="Lift" question="How does it lift?">
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
      <div
        v-else-if="lift"
        class="grid h-full min-h-[420px] grid-cols-[1.1fr_1fr] gap-x-3 px-4 py-3"
        :class="active && workbench.stale(active.id) ? 'opacity-90' : ''"
      >
        <div class="grid min-h-0 grid-rows-[1.45fr_1fr]">
          <LineChart
            chart-id="span-load"
            :title="spanQuantity.name.charAt(0).toUpperCase() + spanQuantity.name.slice(1)"
            :subtitle="`${isLoad ? 'local lift × chord ÷ mean chord' : 'along the wing'}, at α = ${formatNumber(point ? point.alpha * DEG : 0, 1)}°, CL ${formatNumber(point?.CL ?? 0, 3)}`"
            :series="spanSeries"
            :marks="greatest"
            :x="{ name: 'half span', zero: true }"
            :y="{
              name: spanQuantity.symbol,
              unit: unitOf(spanQuantity, preferences.units) || undefined,
              zero: true,
              options: SPAN_QUANTITIES.map((q) => ({ id: q.id, name: `${q.name}, ${q.symbol}` })),
              value: spanQuantity.id,
            }"
            :tag="workbench.cursor.station"
            caption="inviscid: no stall in this model"
            @cursor="(s) => (workbench.cursor.station = s)"
            @update:y-quantity="(q) => preferences.set('lift-span', q)"
          />
          <AirframeView
            :candidates="[active]"
            :active-id="active.id"
            :sections="project.document.sections"
            :station="workbench.cursor.station"
          />
        </div>
        <div class="grid min-h-0 grid-rows-2 gap-2">
          <LineChart
            chart-id="lift-first"
            :title="titled(axes.x1, axes.y1)"
            subtitle="of the whole aircraft, on the wing’s area"
            :series="first"
            :x="axis(axes.x1)"
            :y="axis(axes.y1)"
            :tag="workbench.cursor.alphaDeg"
            caption="inviscid: no stall in this model"
            @cursor="(a) => (workbench.cursor.alphaDeg = a)"
            @update:x-quantity="(q) => setAxis('x1', q)"
            @update:y-quantity="(q) => setAxis('y1', q)"
          />
          <LineChart
            chart-id="lift-second"
            :title="titled(axes.x2, axes.y2)"
            :subtitle="axes.y2 === 'Cm' ? aboutWords : ''"
            :series="second"
            :x="axis(axes.x2)"
            :y="axis(axes.y2)"
            :bands="band"
            :marks="trimMark"
            :tag="workbench.cursor.alphaDeg"
            @cursor="(a) => (workbench.cursor.alphaDeg = a)"
            @update:x-quantity="(q) => setAxis('x2', q)"
            @update:y-quantity="(q) => setAxis('y2', q)"
          />
        </div>
      </div>
      <div v-else class="grid h-full place-items-center text-soft" role="status">
        {{ workbench.failure?.message ?? workbench.current?.problems[0]?.message ?? 'Computing…' }}
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        :label="`Lift of ${active?.letter ?? ''} ${active?.name ?? ''}`"
        file-name="veldtwind-lift"
        :selected="selected"
        @select="(id) => (chosen = Number(id))"
        @hover="(id) => (workbench.cursor.alphaDeg = id === null ? null : Number(id))"
      />
    </template>
    <template #sheet>
      <template v-if="active && wing">
        <SheetGroup :title="`${wing.name} of ${active.letter}`">
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
        <SheetGroup title="Sweep of angles">
          <BoundField
            :path="inSweep('fromDeg')"
            :limit="SWEEP_LIMITS.fromDeg"
            :max="active.sweep.toDeg - 0.1"
            :digits="1"
            step="Sweep of angles, from"
          />
          <BoundField
            :path="inSweep('toDeg')"
            :limit="SWEEP_LIMITS.toDeg"
            :min="active.sweep.fromDeg + 0.1"
            :digits="1"
            step="Sweep of angles, to"
          />
          <BoundField
            :path="inSweep('stepDeg')"
            :limit="SWEEP_LIMITS.stepDeg"
            :digits="1"
            step="Sweep of angles, step"
          />
        </SheetGroup>
        <SheetGroup title="Follows">
          <QuantityRow v-for="id in FOLLOWS" :key="id" :quantity="ofCandidate(id)" :from="evaluation" />
          <DerivedRow label="Span efficiency" :value="point?.efficiency" dimension="plain" unit="" />
        </SheetGroup>
        <p class="pt-2 text-[12px] text-soft" role="status" data-test="lift-made">
          {{ lift?.panels ?? 0 }} panels, vortex lattice, {{ formatNumber(workbench.lastMs, 0) }} ms
        </p>
      </template>
    </template>
  </AreaPage>
</template>
