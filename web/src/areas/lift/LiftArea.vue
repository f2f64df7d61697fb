<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { referenceSurface } from '@veldtwind/core/airframe';
import { angleForLift, designPoint } from '@veldtwind/core/candidate';
import { ellipticLoad } from '@veldtwind/core/lift';
import { formatNumber } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import LineChart from '@/components/chart/LineChart.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import AirframeView from '@/components/view3d/AirframeView.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { useCandidateEdit } from '@/lib/edit-candidate';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { pointQuantity, pointSeries, POINT_QUANTITIES, stripsAt, type Shown } from './quantities';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();
const { show, save, surfaceIn } = useCandidateEdit();
const DEG = 180 / Math.PI;

const active = computed(() => workbench.active);
const lift = computed(() => workbench.current?.lift ?? null);
const shown = computed<Shown[]>(() =>
  workbench.visible.flatMap((candidate) => {
    const l = workbench.of(candidate.id)?.lift;
    return l ? [{ candidate, lift: l }] : [];
  }),
);
const wing = computed(() =>
  active.value && active.value.surfaces.length > 0 ? referenceSurface(active.value.surfaces) : null,
);
const tail = computed(() => active.value?.surfaces.find((s) => s.role === 'tailplane'));

/** The angle that the span load is drawn for: the cursor's, else the one chosen, else that of the design lift. */
const chosen = computed<number | null>({
  get: () => (route.query.alpha !== undefined ? Number(route.query.alpha) : null),
  set: (a) => void router.replace({ query: { ...route.query, alpha: a === null ? undefined : String(a) } }),
});
const designAngle = computed(() => {
  if (!lift.value || !active.value) return null;
  try {
    const cl = designPoint(project.brief, active.value).CL;
    const a = cl === null ? null : angleForLift(lift.value, cl);
    return a === null ? null : a * DEG;
  } catch {
    return null;
  }
});
const alpha = computed(() => workbench.cursor.alphaDeg ?? chosen.value ?? designAngle.value ?? 0);

const spanMode = ref<'load' | 'cl'>(preferences.get('lift-span', 'load'));
const spanLoad = computed<ChartSeries[]>(() => {
  const series: ChartSeries[] = [];
  for (const { candidate, lift: l } of shown.value) {
    const surface = candidate.id === active.value?.id ? wing.value : referenceSurface(candidate.surfaces);
    if (!surface) continue;
    const { strips } = stripsAt(l, alpha.value, surface.id);
    const mean = l.reference.area / l.reference.span;
    const main = candidate.id === active.value?.id;
    series.push({
      id: candidate.id,
      label: shown.value.length > 1 ? candidate.letter : `${candidate.letter} ${candidate.name}`,
      style: seriesStyle(candidate.style),
      markers: false,
      points: strips.map((s) => ({
        x: Math.abs(s.station),
        y: spanMode.value === 'load' ? (s.cl * s.chord) / mean : s.cl,
        tag: Math.abs(s.station),
      })),
    });
    if (main && spanMode.value === 'load') {
      // The ellipse that carries what this surface carries.
      const half = strips.reduce((sum, s) => sum + s.cl * s.chord * s.width, 0);
      const span = strips.reduce((sum, s) => sum + s.width, 0);
      const CL = half / span / mean;
      series.push({
        id: `${candidate.id}-elliptic`,
        label: 'elliptic',
        reference: true,
        style: { colour: 'var(--soft)', dash: '3 3', marker: 'disc' },
        points: Array.from({ length: 61 }, (_, i) => ({
          x: Math.sin((i / 60) * (Math.PI / 2)),
          y: ellipticLoad(CL, Math.sin((i / 60) * (Math.PI / 2))),
        })),
      });
    }
  }
  return series;
});
const greatest = computed(() => {
  if (!lift.value || !wing.value || spanMode.value !== 'cl') return [];
  const { strips } = stripsAt(lift.value, alpha.value, wing.value.id);
  const top = strips.reduce((best, s) => (s.cl > best.cl ? s : best), strips[0]);
  return top
    ? [
        {
          x: Math.abs(top.station),
          y: top.cl,
          text: `greatest local cl ${formatNumber(top.cl, 2)}`,
          colour: 'var(--clay)',
        },
      ]
    : [];
});

const axes = computed(() => preferences.get('lift-axes', { x1: 'alpha', y1: 'CL', x2: 'alpha', y2: 'Cm' }));
const setAxis = (key: string, id: string) => preferences.set('lift-axes', { ...axes.value, [key]: id });
const options = POINT_QUANTITIES.map((q) => ({ id: q.id, name: q.unit ? `${q.name}, ${q.unit}` : q.name }));
const axis = (id: string) => ({ name: pointQuantity(id).name, unit: pointQuantity(id).unit, options, value: id });
const first = computed(() => pointSeries(shown.value, axes.value.x1, axes.value.y1));
const second = computed(() => pointSeries(shown.value, axes.value.x2, axes.value.y2));
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
  alpha: number;
  values: Record<string, number>;
  q: number;
}
const rows = computed<Row[]>(() => {
  if (!lift.value) return [];
  const q = workbench.current?.design?.flow.dynamicPressure ?? NaN;
  return lift.value.points.map((p) => ({
    id: (p.alpha * DEG).toFixed(3),
    alpha: p.alpha * DEG,
    values: {
      CL: p.CL,
      CDi: p.CDi,
      Cm: p.Cm,
      efficiency: p.efficiency,
      greatest: Math.max(...p.strips.map((s) => s.cl)),
      lift: p.CL * q * lift.value!.reference.area,
      drag: p.CDi * q * lift.value!.reference.area,
    },
    q,
  }));
});
const col = (id: string, title: string, digits: number, unit?: string): LedgerColumn<Row> => ({
  id,
  title,
  unit,
  value: (r) => (Number.isFinite(r.values[id]) ? r.values[id] : null),
  text: (r) => formatNumber(r.values[id], digits),
});
const columns: LedgerColumn<Row>[] = [
  { id: 'alpha', title: 'α', unit: '°', value: (r) => r.alpha, text: (r) => formatNumber(r.alpha, 2) },
  col('CL', 'CL', 4),
  col('CDi', 'CD induced', 5),
  col('Cm', 'Cm', 4),
  col('efficiency', 'span efficiency', 3),
  col('greatest', 'greatest local cl', 3),
  col('lift', 'lift', 1, 'N'),
  col('drag', 'induced drag', 2, 'N'),
];
const selected = computed(() => {
  const near = rows.value.reduce<Row | null>(
    (best, r) => (!best || Math.abs(r.alpha - alpha.value) < Math.abs(best.alpha - alpha.value) ? r : best),
    null,
  );
  return near?.id ?? null;
});

const wingField = (label: string, change: (s: import('@/lib/types').Surface, v: number) => void) => ({
  preview: (v: number) => wing.value && show((c) => change(surfaceIn(c, wing.value!.id), v)),
  commit: (v: number | null) => wing.value && v !== null && save(label, (c) => change(surfaceIn(c, wing.value!.id), v)),
});
const tipTwist = wingField('Twist at the tip', (s, v) => (s.stations[s.stations.length - 1].twistDeg = v));
const incidence = wingField('Wing incidence', (s, v) => (s.incidenceDeg = v));
const sweep = wingField('Sweep', (s, v) => s.bays.forEach((b) => (b.sweepDeg = v)));
const dihedral = wingField('Dihedral', (s, v) => s.bays.forEach((b) => (b.dihedralDeg = v)));
const sweepSetting = (key: 'fromDeg' | 'toDeg' | 'stepDeg', name: string) => ({
  commit: (v: number | null) => v !== null && save(`Sweep of angles, ${name}`, (c) => (c.sweep[key] = v)),
});
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
            :title="spanMode === 'load' ? 'Span load' : 'Local lift coefficient'"
            :subtitle="`${spanMode === 'load' ? 'local lift × chord ÷ mean chord' : 'along the wing'}, at α = ${formatNumber(point ? point.alpha * DEG : 0, 1)}°, CL ${formatNumber(point?.CL ?? 0, 3)}`"
            :series="spanLoad"
            :marks="greatest"
            :x="{ name: 'half span', zero: true }"
            :y="{
              name: spanMode === 'load' ? 'cl c / c̄' : 'cl',
              zero: true,
              options: [
                { id: 'load', name: 'Span load, cl c / c̄' },
                { id: 'cl', name: 'Local lift coefficient, cl' },
              ],
              value: spanMode,
            }"
            :tag="workbench.cursor.station"
            caption="inviscid: no stall in this model"
            @cursor="(s) => (workbench.cursor.station = s)"
            @update:y-quantity="(q) => ((spanMode = q as 'load' | 'cl'), preferences.set('lift-span', q))"
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
            :title="
              axes.y1 === 'CL' && axes.x1 === 'alpha'
                ? 'Lift'
                : `${pointQuantity(axes.y1).name} over ${pointQuantity(axes.x1).name}`
            "
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
            :title="
              axes.y2 === 'Cm'
                ? 'Pitching moment'
                : `${pointQuantity(axes.y2).name} over ${pointQuantity(axes.x2).name}`
            "
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
        {{ workbench.current?.problems[0]?.message ?? 'Computing…' }}
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
          <NumberField
            label="Twist at tip"
            dimension="angle"
            :model-value="wing.stations[wing.stations.length - 1].twistDeg"
            :min="-20"
            :max="20"
            :step="0.1"
            @preview="tipTwist.preview"
            @commit="tipTwist.commit"
          />
          <NumberField
            label="Incidence"
            dimension="angle"
            :model-value="wing.incidenceDeg"
            :min="-20"
            :max="20"
            :step="0.1"
            @preview="incidence.preview"
            @commit="incidence.commit"
          />
          <NumberField
            label="Sweep, ¼ chord"
            dimension="angle"
            :model-value="wing.bays[0].sweepDeg"
            :min="-60"
            :max="60"
            :step="0.5"
            :hint="wing.bays.length > 1 ? 'Sets every bay' : ''"
            @preview="sweep.preview"
            @commit="sweep.commit"
          />
          <NumberField
            v-if="wing.bays.length === 1"
            label="Dihedral"
            dimension="angle"
            :model-value="wing.bays[0].dihedralDeg"
            :min="-30"
            :max="30"
            :step="0.5"
            @preview="dihedral.preview"
            @commit="dihedral.commit"
          />
          <NumberField
            v-if="tail"
            label="Tail incidence"
            dimension="angle"
            :model-value="tail.incidenceDeg"
            :min="-20"
            :max="20"
            :step="0.1"
            @preview="(v) => show((c) => (surfaceIn(c, tail!.id).incidenceDeg = v))"
            @commit="(v) => v !== null && save('Tail incidence', (c) => (surfaceIn(c, tail!.id).incidenceDeg = v))"
          />
        </SheetGroup>
        <SheetGroup title="Sweep of angles">
          <NumberField
            label="From"
            dimension="angle"
            :digits="1"
            :model-value="active.sweep.fromDeg"
            :min="-30"
            :max="active.sweep.toDeg - 0.1"
            :step="1"
            @commit="sweepSetting('fromDeg', 'from').commit"
          />
          <NumberField
            label="To"
            dimension="angle"
            :digits="1"
            :model-value="active.sweep.toDeg"
            :min="active.sweep.fromDeg + 0.1"
            :max="30"
            :step="1"
            @commit="sweepSetting('toDeg', 'to').commit"
          />
          <NumberField
            label="Step"
            dimension="angle"
            :digits="1"
            :model-value="active.sweep.stepDeg"
            :min="0.1"
            :max="5"
            :step="0.5"
            @commit="sweepSetting('stepDeg', 'step').commit"
          />
        </SheetGroup>
        <SheetGroup title="Follows">
          <DerivedRow label="Lift slope" :value="lift?.liftSlope" dimension="plain" unit="/rad" />
          <DerivedRow
            label="Lift slope"
            :value="lift ? lift.liftSlope / DEG : null"
            dimension="plain"
            :digits="4"
            unit="/°"
          />
          <DerivedRow label="Zero-lift angle" :value="lift ? lift.zeroLiftAngle * DEG : null" dimension="angle" />
          <DerivedRow label="α of the design lift" :value="designAngle" dimension="angle" />
          <DerivedRow label="Span efficiency" :value="point?.efficiency" dimension="plain" unit="" />
          <DerivedRow label="Neutral point" :value="lift?.neutralPoint" dimension="length" />
          <DerivedRow label="Cm at zero lift" :value="lift?.zeroLiftMoment" dimension="plain" :digits="4" unit="" />
        </SheetGroup>
        <p class="pt-2 text-[12px] text-soft" role="status" data-test="lift-made">
          {{ lift?.panels ?? 0 }} panels, vortex lattice, {{ formatNumber(workbench.lastMs, 0) }} ms
        </p>
      </template>
    </template>
  </AreaPage>
</template>
