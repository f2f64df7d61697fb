<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import { GRAVITY } from '@veldtwind/core/atmosphere';
import { awaitsPolars } from '@veldtwind/core/project';
import type { LevelPoint, TrimmedBy } from '@veldtwind/core/performance';
import {
  LEVEL_QUANTITIES,
  LIMIT_QUANTITIES,
  PERFORMANCE_QUANTITIES,
  quantityIn,
  textOf,
} from '@veldtwind/core/quantities';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import EngineGroup from '@/components/engine/EngineGroup.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import VariantGroup from '@/components/variants/VariantGroup.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { originOf } from '@/lib/origin';
import { quantityColumns } from '@/lib/quantity-columns';
import type { CandidatePart } from '@/lib/types';
import { METHOD_NAMES, useAssumptions } from '@/store/assumptions';
import { provideOrigin } from '@/store/number-sheet';
import { useNeededPolars } from '@/store/needed-polars';
import { usePerformances } from '@/store/performances';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import AltitudeMap from './AltitudeMap.vue';
import EnergyGroup from './EnergyGroup.vue';
import LoadChart from './LoadChart.vue';
import PayloadCharts from './PayloadCharts.vue';
import SettingsGroups from './SettingsGroups.vue';
import SpeedCharts from './SpeedCharts.vue';
import TurnCharts from './TurnCharts.vue';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const { assumed, assume } = useAssumptions();
const active = computed(() => workbench.active);
const VIEWS = [
  { id: 'speed', name: 'By speed' },
  { id: 'map', name: 'By altitude' },
  { id: 'turns', name: 'Turns' },
  { id: 'loads', name: 'Loads' },
  { id: 'payload', name: 'Payload' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const view = computed(() => preferences.get<View>('performance-view', 'speed'));

const p = usePerformances();
const polars = useNeededPolars();
onMounted(() => (p.open = true));
onUnmounted(() => (p.open = p.mapOpen = false));
watch(view, (v) => (p.mapOpen = v === 'map'), { immediate: true });
const loadingOf = (c: CandidatePart) =>
  p.loading && Object.hasOwn(c.loadings ?? {}, p.loading) ? p.loading : undefined;
const loadings = computed(() => [
  { id: '', name: 'all items' },
  ...Object.keys(active.value?.loadings ?? {}).map((id) => ({ id, name: id })),
]);
const list = computed(() =>
  [...workbench.visible, ...p.beside].flatMap((candidate) => {
    const made = p.madeOf(candidate.id).performance;
    return made ? [{ candidate, made }] : [];
  }),
);
const whole = computed(() => (active.value ? p.madeOf(active.value.id) : null));
const own = computed(() => whole.value?.performance ?? null);
const limits = computed(() => whole.value?.limits ?? null);
const failure = computed(() => (active.value && !own.value ? p.failureOf(active.value.id) : null));
const cursor = ref<number | null>(null);

const provisional = computed(() => own.value !== null && awaitsPolars(own.value.method, assumed.value.method));
const made = computed(() =>
  own.value
    ? `${METHOD_NAMES[own.value.method]}${own.value.method === 'lattice' ? ', drag from the build-up' : ''}${provisional.value ? ', provisional' : ''}`
    : '',
);
provideOrigin(() => {
  const [c, m] = [active.value, own.value];
  if (!c || !m) return null;
  const { speed, altitude } = project.brief;
  const of = { letter: c.letter, speed, altitude, loading: loadingOf(c), method: m.method };
  return originOf(of, preferences.units, {
    provisional: provisional.value,
    doubts: m.design.reason === undefined ? [] : [m.design.reason],
  });
});

const STATES: Record<LevelPoint['status'], string> = {
  solved: '',
  doubtful: 'doubtful',
  limited: 'control at its limit',
  unflyable: 'no level flight',
};
type Row = LevelPoint & { id: string };
/** Of the speeds below all flight only the last one, which says why. */
const rows = computed<Row[]>(() => {
  const points = own.value?.points ?? [];
  const first = points.findIndex((q) => q.status !== 'unflyable');
  return points.slice(Math.max(0, first - 1)).map((q) => ({ ...q, id: String(q.speed) }));
});
const columns = computed<LedgerColumn<Row>[]>(() => {
  const unit = displayUnit('speed', preferences.units);
  return [
    {
      id: 'speed',
      title: 'speed',
      unit: unit.symbol,
      value: (r) => r.speed * unit.scale,
      text: (r) => formatQuantity(r.speed, 'speed', preferences.units, 1),
    },
    ...quantityColumns<Row, LevelPoint>(LEVEL_QUANTITIES, (r) => r, preferences.units),
    { id: 'status', title: 'status', value: (r) => STATES[r.status], words: true },
    { id: 'reason', title: 'reason', value: (r) => r.reason ?? '', words: true },
  ];
});
const ofMade = (id: string) => quantityIn(PERFORMANCE_QUANTITIES, id);
const ofLimits = (id: string) => quantityIn(LIMIT_QUANTITIES, id);
const FIGURES = PERFORMANCE_QUANTITIES.map((q) => q.id);
const REACH = ['range', 'endurance', 'ceiling', 'serviceCeiling', 'turnRate', 'turnRadius'].map(
  (id) => `performance.${id}`,
);
const summary = computed(() => {
  const m = own.value;
  if (!m) return '';
  const told = (id: string) =>
    `${textOf(ofMade(id), ofMade(id).of(m), preferences.units)} ${ofMade(id).per ?? displayUnit(ofMade(id).dimension, preferences.units).symbol}`.trim();
  return [
    'speed' in m.stall ? `stalls at ${told('performance.stallSpeed')}` : '',
    m.glide.bestGlide ? `glides ${told('performance.bestGlide')}` : '',
    m.climb.best ? `climbs ${told('performance.climbRate')}` : 'has no engine',
  ]
    .filter(Boolean)
    .join(', ');
});
/** Why something that is asked for is not there. */
const missingRange = computed(() =>
  limits.value && 'missing' in limits.value.range ? limits.value.range.missing : '',
);
const TRIMS: readonly { id: TrimmedBy; name: string }[] = [
  { id: 'control', name: 'pitch control' },
  { id: 'incidence', name: 'tail incidence' },
  { id: 'none', name: 'none' },
];
function change(label: string, edit: (c: CandidatePart) => void): void {
  const id = active.value?.id;
  if (id)
    project.edit(`${label} (${active.value!.letter})`, (draft) => draft.candidates[id] && edit(draft.candidates[id]));
}
</script>

<template>
  <AreaPage area="performance" title="Performance" question="How well does it do the job?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0 || active.massItems.length === 0"
        title="No airframe with a mass yet"
        text="Performance needs a wing and mass items: the weight that it carries, and its centre of gravity."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'balance', params: { project: project.id! } }"
          >Give it mass</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <p v-else-if="failure" class="px-6 pt-6 text-clay" role="alert">{{ failure.message }} {{ failure.hint }}</p>
      <div v-else class="flex h-full min-h-[330px] flex-col gap-2 px-5 pt-3 pb-1">
        <div class="flex flex-wrap items-baseline justify-between gap-x-3">
          <p class="text-[12.5px] text-soft" role="status" data-test="performance-summary">
            <template v-if="own"
              ><b class="font-semibold text-ink">{{ active.letter }} {{ active.name }}</b> {{ summary }};
              {{ made }}</template
            ><template v-else>Computing…</template>
          </p>
          <ChipRow
            label="View"
            :options="VIEWS"
            :on="[view]"
            test="performance-view"
            @pick="(id) => preferences.set('performance-view', id)"
          />
        </div>
        <template v-if="own">
          <SpeedCharts v-if="view === 'speed'" v-model:speed="cursor" :list="list" :active="active.id" />
          <AltitudeMap
            v-else-if="view === 'map' && p.map"
            :map="p.map"
            :provisional="p.mapIsFirst"
            :letter="active.letter"
            :energy="active.energy ?? null"
            :ceiling="limits?.ceiling?.altitude ?? null"
          />
          <TurnCharts v-else-if="view === 'turns' && limits" :limits="limits" :letter="active.letter" />
          <LoadChart v-else-if="view === 'loads' && limits" :loads="limits.loads" :letter="active.letter" />
          <PayloadCharts
            v-else-if="view === 'payload' && limits"
            :payload="limits.payload"
            :mass="own.weight / GRAVITY"
            :missing="missingRange"
            :letter="active.letter"
          />
          <p v-else class="pt-4 text-soft" role="status">Computing…</p>
        </template>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        :label="`Level flight of ${active?.letter ?? ''} ${active?.name ?? ''}, by speed`"
        file-name="veldtwind-performance"
        :made="made"
      />
    </template>
    <template #sheet>
      <template v-if="active && active.massItems.length">
        <SheetGroup title="Performance figures">
          <QuantityRow v-for="id in FIGURES" :key="id" :quantity="ofMade(id)" :from="own" />
          <QuantityRow v-for="id in REACH" :key="id" :quantity="ofLimits(id)" :from="limits" />
          <p v-if="own && 'missing' in own.stall" class="text-[12px] text-soft" role="status">
            {{ own.stall.missing }}
          </p>
          <p v-if="p.busy" class="text-[12px] text-soft" role="status" data-test="performance-busy">Computing…</p>
          <p v-if="missingRange" class="text-[12px] text-soft" role="status">{{ missingRange }}</p>
          <p class="pt-1 text-[12px] text-soft" role="status" data-test="performance-made">{{ made }}</p>
        </SheetGroup>
        <SheetGroup title="Trim">
          <SelectRow
            label="Trim control"
            test="trimmed-by"
            :model-value="assumed.performance.trimmedBy"
            :options="TRIMS"
            @update:model-value="
              (v) => assume('Trim control', { performance: { ...assumed.performance, trimmedBy: v as TrimmedBy } })
            "
          />
          <SelectRow
            v-if="loadings.length > 1"
            label="Loading"
            test="performance-loading"
            :model-value="p.loading"
            :options="loadings"
            @update:model-value="(v) => (p.loading = v)"
          />
          <PolarNeeds
            v-if="p.needs.length && p.missing.length"
            :needs="p.needs"
            :missing="p.missing"
            :seconds="polars.secondsFor(p.missing)"
            @compute="polars.compute(p.missing, `Polars for Performance, ${active.letter}`)"
          />
        </SheetGroup>
        <VariantGroup :without="['bodies']" />
        <EnergyGroup
          :energy="active.energy"
          @change="
            (label, energy) =>
              change(label, (c) => {
                if (energy) c.energy = energy;
                else delete c.energy;
              })
          "
        />
        <EngineGroup
          title="Thrust"
          unset="not set: it glides"
          :engine="active.engine"
          :at="workbench.current?.mass?.centre ?? { x: 0, y: 0, z: 0 }"
          :weight="GRAVITY * project.brief.mass"
          :speed="project.brief.speed"
          :density="workbench.current?.design?.flow.density ?? 1.225"
          @change="
            (label, engine) =>
              change(label, (c) => {
                if (engine) c.engine = engine;
                else delete c.engine;
              })
          "
        />
        <SettingsGroups :limits="limits" />
      </template>
    </template>
  </AreaPage>
</template>
