<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue';
import { ChevronRight, Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { SURFACE_LIMITS } from '@veldtwind/core/airframe';
import { groupProperties, MASS_ITEM_LIMITS } from '@veldtwind/core/balance';
import { addMassItem, type CandidatePart } from '@veldtwind/core/project';
import { CANDIDATE_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import { DEG } from '@veldtwind/core/numerics';
import DerivedRow from '@/components/field/DerivedRow.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import BoundField from '@/components/field/BoundField.vue';
import LineChart from '@/components/chart/LineChart.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import EngineGroup from '@/components/engine/EngineGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { DocumentPath } from '@/lib/document-path';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import { METHOD_NAMES } from '@/store/assumptions';
import { newId } from '@/lib/ids';
import { withItemsInPlace } from '@/lib/mass-points';
import { originOf } from '@/lib/origin';
import { provideOrigin } from '@/store/number-sheet';
import { useCandidateEdit } from '@/store/candidate-edit';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import AsymmetryGroup from './AsymmetryGroup.vue';
import CrosswindGroup from './CrosswindGroup.vue';
import EstimateGroup from './EstimateGroup.vue';
import LoadingsGroup from './LoadingsGroup.vue';
import MassDetails from './MassDetails.vue';
import MassFigure from './MassFigure.vue';
import MassImport from './MassImport.vue';
import SteadyTrimGroup from './SteadyTrimGroup.vue';
import WeighGroup from './WeighGroup.vue';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();

const active = computed(() => workbench.active);
const e = computed(() => workbench.current);
const tail = computed(() => active.value?.surfaces.find((s) => s.role === 'tailplane'));
/** Pitching moment of the candidates, each by the method that its trim is of. */
const series = computed<ChartSeries[]>(() =>
  workbench.visible.flatMap((c): ChartSeries[] => {
    const curve = workbench.of(c.id)?.curve;
    if (!curve) return [];
    return [
      {
        id: c.id,
        label: workbench.visible.length > 1 ? c.letter : `${c.letter} ${c.name}`.trim(),
        style: seriesStyle(c.style),
        points: curve.points.map((p) => ({ x: p.alpha * DEG, y: p.Cm, tag: p.alpha * DEG, status: p.status })),
      },
    ];
  }),
);
const bands = computed(() => {
  const b = project.brief.bands.trimAngleDeg;
  return b.min !== null || b.max !== null ? [{ axis: 'x' as const, from: b.min, to: b.max, label: 'trim' }] : [];
});
const marks = computed(() =>
  workbench.visible.flatMap((c) => {
    const t = workbench.of(c.id)?.balance?.trims[0];
    if (!t) return [];
    const here = c.id === active.value?.id;
    return [
      {
        x: t.alpha * DEG,
        y: 0,
        text: here
          ? `trims at ${formatNumber(t.alpha * DEG, 1)}°${t.speed ? `, ${formatQuantity(t.speed, 'speed', preferences.units)} ${displayUnit('speed', preferences.units).symbol}` : ''}`
          : '',
        colour: seriesStyle(c.style).colour,
      },
    ];
  }),
);
/** How curve, trim and stability of the candidate that is worked on were made. */
const made = computed(() =>
  e.value ? METHOD_NAMES[e.value.method] + (workbench.provisional(active.value?.id ?? '') ? ', provisional' : '') : '',
);
provideOrigin(() => {
  const c = active.value;
  if (!c || !e.value) return null;
  const { speed, altitude } = project.brief;
  return originOf({ letter: c.letter, speed, altitude, method: e.value.method }, preferences.units, {
    provisional: workbench.provisional(c.id),
    doubts: e.value.problems.map((p) => p.message),
  });
});
type Row = CandidatePart['massItems'][number];
/** With those that are spread over parts where they lie. */
const placed = computed(() => active.value && withItemsInPlace(active.value, project.document.sections));
const rows = computed<Row[]>(() => placed.value?.massItems ?? []);
const grouped = computed(() => rows.value.some((r) => r.group));
/** Groups of items, each as one. */
const groups = computed(() => {
  try {
    return groupProperties(rows.value);
  } catch {
    return [];
  }
});
/** As far as the airframe may reach, m. */
const reach = computed(() =>
  Math.max(1, ...(active.value?.surfaces ?? []).map((v) => 2 * v.bays.reduce((sum, b) => sum + b.span, 0))),
);
const parts = computed(() =>
  [...(active.value?.surfaces ?? []), ...(active.value?.bodies ?? [])].map((p) => ({ id: p.id, name: p.name || p.id })),
);
const at = (v: number) => formatQuantity(v, 'length', preferences.units);
const columns = computed<LedgerColumn<Row>[]>(() => {
  const length = displayUnit('length', preferences.units);
  const mass = displayUnit('mass', preferences.units);
  return [
    { id: 'name', title: 'Item', value: (r) => r.name, words: true },
    ...(grouped.value
      ? [{ id: 'group', title: 'group', value: (r: Row) => r.group ?? '', words: true } satisfies LedgerColumn<Row>]
      : []),
    {
      id: 'mass',
      title: 'mass',
      unit: mass.symbol,
      value: (r) => r.mass * mass.scale,
      text: (r) => formatQuantity(r.mass, 'mass', preferences.units),
    },
    ...(['x', 'y', 'z'] as const).map((key): LedgerColumn<Row> => ({
      id: key,
      title: key,
      unit: length.symbol,
      value: (r) => r.position[key] * length.scale,
      text: (r) => at(r.position[key]),
    })),
    {
      id: 'share',
      title: 'share',
      unit: '%',
      value: (r) => (e.value?.mass ? (100 * r.mass * (r.mirrored ? 2 : 1)) / e.value.mass.mass : null),
      text: (r) => (e.value?.mass ? formatNumber((100 * r.mass * (r.mirrored ? 2 : 1)) / e.value.mass.mass, 1) : '—'),
    },
  ];
});
/** An edit of the candidate that is worked on, made on its newest state. */
const { change } = useCandidateEdit();
const add = () => change('New mass item', (c) => addMassItem(c, e.value?.lift?.momentReference.x ?? 0));
const remove = (id: string) =>
  change('Remove a mass item', (c) => (c.massItems = c.massItems.filter((m) => m.id !== id)));
const rename = (id: string, name: string) => changeItem(id, 'Name of a mass item', (item) => (item.name = name));
/** An edit of a mass item; what cannot be is said, and nothing changes. */
function changeItem(id: string, label: string, edit: (item: Row) => void): void {
  change(label, (c) => {
    const found = c.massItems.find((m) => m.id === id);
    if (found) edit(found);
  });
}
const inCandidate = (...rest: DocumentPath): DocumentPath => ['candidates', active.value?.id ?? '', ...rest];
const STATIC = [
  'static-margin',
  'pitch-slope',
  'pitch-slope-rad',
  'trim-angle',
  'trim-CL',
  'trim-speed',
  'neutral-point',
  'centre',
  'mass',
].map((id) => quantityIn(CANDIDATE_QUANTITIES, id));
</script>

<template>
  <AreaPage area="balance" title="Balance" question="Where is the mass, does it trim, is it stable?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0"
        title="Nothing to balance yet"
        text="Balance needs an airframe and the masses in it."
      >
        <RouterLink
          class="btn btn-main"
          :to="{ name: 'airframe', params: { project: project.id! }, query: route.query }"
          >Draw a wing</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <div
        v-else
        class="grid h-full min-h-[400px] px-4 py-3"
        :class="preferences.get('balance-view', 'beam') === 'beam' ? 'grid-rows-[1.15fr_1fr]' : 'grid-rows-[1fr_1.5fr]'"
      >
        <LineChart
          v-if="e?.lift"
          chart-id="balance-cm"
          title="Pitching moment"
          :subtitle="
            e.mass
              ? `about the centre of gravity at x = ${at(e.mass.centre.x)} ${displayUnit('length', preferences.units).symbol}; where it crosses zero the aircraft trims`
              : 'about the quarter chord, since no centre of gravity is set: give a mass item'
          "
          :series="series"
          :x="{ name: 'α', unit: '°' }"
          :y="{ name: 'Cm', zero: true }"
          :bands="bands"
          :marks="marks"
          :tag="workbench.cursor.alphaDeg"
          :caption="made"
          @cursor="(a) => (workbench.cursor.alphaDeg = a)"
        />
        <div v-else class="grid place-items-center text-soft" role="status">
          {{ e?.problems[0]?.message ?? 'Computing…' }}
        </div>
        <MassFigure
          v-if="placed"
          :candidate="placed"
          :evaluation="e"
          :bands="project.brief.bands"
          :sections="project.document.sections"
        />
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        :label="`Mass items of ${active?.letter ?? ''} ${active?.name ?? ''}`"
        file-name="veldtwind-masses"
      >
        <template #tools
          ><button class="link flex items-center gap-1" data-test="add-mass" @click="add">
            <Plus :size="13" /> Add a mass item
          </button></template
        >
      </LedgerTable>
    </template>
    <template #sheet>
      <template v-if="active">
        <SheetGroup title="Static stability">
          <QuantityRow v-for="q in STATIC" :key="q.id" :quantity="q" :from="e" />
          <p class="pt-1 text-[12px] text-soft" role="status" data-test="balance-made">{{ made }}</p>
        </SheetGroup>
        <SheetGroup v-if="e?.mass" title="Inertia about the centre">
          <DerivedRow label="Ixx, roll" :value="e.mass.inertia.xx" dimension="inertia" />
          <DerivedRow label="Iyy, pitch" :value="e.mass.inertia.yy" dimension="inertia" />
          <DerivedRow label="Izz, yaw" :value="e.mass.inertia.zz" dimension="inertia" />
          <DerivedRow label="Ixz = ∫xz dm" :value="-e.mass.inertia.xz" dimension="inertia" />
        </SheetGroup>
        <SteadyTrimGroup v-if="active.massItems.length" :key="active.id" />
        <CrosswindGroup v-if="active.massItems.length" :key="`side-${active.id}`" />
        <AsymmetryGroup v-if="active.massItems.length" :key="`halves-${active.id}`" :candidate="active" />
        <EngineGroup
          title="Thrust"
          unset="not set: thrust through the centre"
          :engine="active.engine"
          :at="e?.mass?.centre ?? { x: 0, y: 0, z: 0 }"
          :weight="9.80665 * project.brief.mass"
          :speed="project.brief.speed"
          :density="e?.design?.flow.density ?? 1.225"
          @change="
            (label, engine) =>
              change(label, (c) => {
                if (engine) c.engine = engine;
                else delete c.engine;
              })
          "
        />
        <SheetGroup v-if="tail" title="Tail">
          <BoundField
            label="Tail incidence"
            :path="inCandidate('surfaces', { id: tail.id }, 'incidenceDeg')"
            :limit="SURFACE_LIMITS.incidenceDeg"
            step="Tail incidence"
          />
        </SheetGroup>
        <SheetGroup title="Mass items" data-evidence="mass-items">
          <template #aside><button class="link" data-test="add-mass-sheet" @click="add">Add ›</button></template>
          <p v-if="active.massItems.length === 0" class="serif py-1 text-soft italic">
            No mass yet, so the centre of gravity is not known. It is never taken to be at the origin.
          </p>
          <Disclosure
            v-for="m in active.massItems"
            :key="m.id"
            v-slot="{ open }"
            as="div"
            class="border-b border-rule-light py-0.5 last:border-0"
            :default-open="active.massItems.length < 3"
          >
            <div class="flex items-center">
              <DisclosureButton class="flex min-w-0 flex-1 items-center gap-1.5 rounded py-1 text-left hover:bg-select">
                <ChevronRight :size="13" class="text-soft transition-transform" :class="open ? 'rotate-90' : ''" />
                <span class="flex-1 truncate font-semibold">{{ m.name }}</span>
                <span class="pr-1 text-soft"
                  >{{ formatQuantity(m.mass, 'mass', preferences.units) }}
                  {{ displayUnit('mass', preferences.units).symbol }}</span
                >
              </DisclosureButton>
              <button class="icon-btn" :aria-label="`Remove ${m.name}`" title="Remove" @click="remove(m.id)">
                <Trash2 :size="13" />
              </button>
            </div>
            <DisclosurePanel class="pb-1 pl-4">
              <TextRow label="Name" :model-value="m.name" :most="80" @update:model-value="(v) => rename(m.id, v)" />
              <BoundField
                :path="inCandidate('massItems', { id: m.id }, 'mass')"
                :limit="MASS_ITEM_LIMITS.mass"
                :step="`Mass of ${m.name}`"
              />
              <BoundField
                v-for="k in m.part === undefined ? (['x', 'y', 'z'] as const) : []"
                :key="k"
                :path="inCandidate('massItems', { id: m.id }, 'position', k)"
                :limit="MASS_ITEM_LIMITS.position[k]"
                :step="`Place of ${m.name}`"
              />
              <MassDetails :item="m" :parts="parts" @change="(label, edit) => changeItem(m.id, label, edit)" />
            </DisclosurePanel>
          </Disclosure>
        </SheetGroup>
        <SheetGroup v-if="groups.length" title="Groups">
          <p
            v-for="g in groups"
            :key="g.group"
            class="flex justify-between py-[2px] text-[13px]"
            data-test="mass-group"
          >
            <span class="font-semibold">{{ g.group }}</span>
            <span v-if="g.properties" class="text-soft"
              >{{ formatQuantity(g.properties.mass, 'mass', preferences.units) }}
              {{ displayUnit('mass', preferences.units).symbol }} at {{ at(g.properties.centre.x) }}</span
            >
          </p>
        </SheetGroup>
        <MassImport
          :near="e?.mass?.centre"
          :span="reach"
          @add="
            (item, alone) =>
              change(alone ? 'Mass read, in place of all items' : 'Mass read', (c) => {
                if (alone) {
                  c.massItems = [];
                  delete c.loadings;
                }
                c.massItems.push(item);
              })
          "
        />
        <EstimateGroup
          :candidate="active"
          @add="(items) => change('Estimate of the structure', (c) => c.massItems.push(...items))"
        />
        <WeighGroup
          :key="`weigh-${active.id}`"
          :candidate="active"
          :model="e?.mass ?? null"
          @change="change"
          @add="(item) => change('Trim mass', (c) => c.massItems.push({ ...item, id: newId() }))"
        />
        <LoadingsGroup v-if="active.massItems.length" :candidate="placed ?? active" @change="change" />
      </template>
    </template>
  </AreaPage>
</template>
