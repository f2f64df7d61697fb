<script setup lang="ts">
import { Copy, Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import {
  copiedSurface,
  MOST_STATIONS,
  removeStation,
  splitBay,
  SURFACE_LIMITS,
  type LiftingSurface,
} from '@veldtwind/core/airframe';
import { addSurface, type CandidatePart } from '@veldtwind/core/project';
import { quantityIn, SURFACE_QUANTITIES, surfaceRow, type SurfaceRow } from '@veldtwind/core/quantities';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import BoundField from '@/components/field/BoundField.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import AirframeView from '@/components/view3d/AirframeView.vue';
import PlanView from '@/components/view3d/PlanView.vue';
import BodySheet from './BodySheet.vue';
import type { DocumentPath } from '@/lib/document-path';
import { quantityColumns } from '@/lib/quantity-columns';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();

const active = computed(() => workbench.active);
const surface = computed<LiftingSurface | undefined>(
  () => active.value?.surfaces.find((s) => s.id === route.params.surface) ?? active.value?.surfaces[0],
);
const select = (id: string) =>
  router.replace({ name: 'airframe', params: { project: project.id!, surface: id }, query: route.query });
const row = computed(() => surface.value && surfaceRow(surface.value));

/** An edit of the candidate that is worked on, made on its newest state. */
function change(label: string, edit: (c: CandidatePart) => void): void {
  const id = active.value?.id;
  if (id === undefined) return;
  project.edit(`${label} (${active.value!.letter})`, (draft) => {
    const c = draft.candidates[id];
    if (c) edit(c as CandidatePart);
  });
}
/** The same of one surface. */
const changeSurface = (label: string, s: LiftingSurface, edit: (s: LiftingSurface) => void) =>
  change(label, (c) => {
    const found = c.surfaces.find((k) => k.id === s.id);
    if (found) edit(found);
  });

function add(role: LiftingSurface['role']): void {
  const id = active.value?.id;
  if (id === undefined) return;
  let made: string | undefined;
  project.edit(`New ${role} (${active.value!.letter})`, (draft) => {
    made = addSurface(draft, id, role)?.id;
  });
  if (made) void select(made);
}
const remove = (s: LiftingSurface) =>
  change(`Remove ${s.name}`, (c) => (c.surfaces = c.surfaces.filter((k) => k.id !== s.id)));
function copy(s: LiftingSurface): void {
  let made = '';
  change(`Copy ${s.name}`, (c) => {
    const from = c.surfaces.find((k) => k.id === s.id);
    if (!from) return;
    const twin = copiedSurface(from, c.surfaces);
    made = twin.id;
    c.surfaces.push(twin);
  });
  if (made) void select(made);
}
const surfacePath = computed<DocumentPath>(() => [
  'candidates',
  active.value?.id ?? '',
  'surfaces',
  { id: surface.value?.id ?? '' },
]);
const at = (...rest: (string | number)[]): DocumentPath => [...surfacePath.value, ...rest];
const stationName = (i: number, n: number) => (i === 0 ? 'Root' : i === n - 1 ? 'Tip' : `Station ${i + 1}`);
const oneBay = computed(() => surface.value?.bays.length === 1);
const sectionOptions = computed(() => project.sections.map(({ id, name }) => ({ id, name })));

type Row = SurfaceRow & { id: string };
const rows = computed<Row[]>(() => (active.value?.surfaces ?? []).map((s) => ({ id: s.id, ...surfaceRow(s) })));
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'Surface', value: (r) => r.surface.name, words: true },
  ...quantityColumns<Row, SurfaceRow>(SURFACE_QUANTITIES, (r) => r, preferences.units),
  {
    id: 'sections',
    title: 'sections',
    value: (r) =>
      [...new Set(r.surface.stations.map((t) => project.document.sections[t.section]?.name ?? t.section))].join(', '),
    words: true,
  },
]);
const mass = computed(() => workbench.current?.mass);
const points = computed(() => [
  ...(mass.value ? [{ ...mass.value.centre, text: 'centre of gravity', colour: 'var(--ochre-text)' }] : []),
]);
const quantity = (id: string) => quantityIn(SURFACE_QUANTITIES, id);
const length = (v: number) =>
  `${formatQuantity(v, 'length', preferences.units)} ${displayUnit('length', preferences.units).symbol}`;
</script>

<template>
  <AreaPage area="airframe" title="Airframe" question="What does the vehicle look like?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0"
        title="Nothing drawn yet"
        text="A wing comes first: two stations with chord, twist and section, and the bay between them. Tails follow, sized to it."
      >
        <button class="btn btn-main" data-test="first-wing" @click="add('wing')">Draw a wing</button>
        <OpenDemo />
      </EmptyState>
      <div v-else class="grid h-full min-h-[420px] grid-rows-[1.55fr_1fr]">
        <AirframeView
          :candidates="workbench.visible"
          :active-id="active.id"
          :sections="project.document.sections"
          :points="points"
          :station="workbench.cursor.station"
        />
        <PlanView
          class="border-t border-rule-light"
          :candidates="workbench.visible"
          :active-id="active.id"
          :points="points.map((p) => ({ ...p, text: 'CG' }))"
          :station="workbench.cursor.station"
        />
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        :label="`Surfaces of ${active?.letter ?? ''} ${active?.name ?? ''}`"
        file-name="veldtwind-airframe"
        :selected="surface?.id"
        @select="select"
      />
    </template>
    <template #sheet>
      <template v-if="active">
        <SheetGroup :title="`${active.letter} ${active.name}`">
          <TextRow
            label="Name"
            :model-value="active.name"
            :most="60"
            needed
            @update:model-value="(v) => change('Name of the candidate', (c) => (c.name = v))"
          />
          <TextRow
            label="Why"
            :rows="2"
            :model-value="active.note"
            :most="4000"
            placeholder="why this candidate exists"
            @update:model-value="(v) => change('Note on the candidate', (c) => (c.note = v))"
          />
          <div class="mt-2 flex flex-wrap gap-1.5" role="tablist" aria-label="Surfaces">
            <button
              v-for="s in active.surfaces"
              :key="s.id"
              role="tab"
              :aria-selected="s.id === surface?.id"
              class="rounded-md border px-2.5 py-0.5"
              :class="s.id === surface?.id ? 'border-ochre bg-select font-semibold' : 'border-rule hover:border-ochre'"
              :data-test="`surface-${s.id}`"
              @click="select(s.id)"
            >
              {{ s.name }}
            </button>
          </div>
          <div class="mt-2 flex gap-3 text-[13px]">
            <button
              v-for="r in ['wing', 'tailplane', 'fin'] as const"
              :key="r"
              class="link flex items-center gap-0.5"
              :data-test="`add-${r}`"
              @click="add(r)"
            >
              <Plus :size="12" />{{ r }}
            </button>
          </div>
        </SheetGroup>
        <template v-if="surface">
          <SheetGroup :title="surface.name">
            <template #aside>
              <span class="flex">
                <button class="icon-btn" :aria-label="`Copy ${surface.name}`" title="Copy" @click="copy(surface)">
                  <Copy :size="13" />
                </button>
                <button
                  class="icon-btn"
                  :aria-label="`Remove ${surface.name}`"
                  title="Remove"
                  data-test="remove-surface"
                  @click="remove(surface)"
                >
                  <Trash2 :size="13" />
                </button>
              </span>
            </template>
            <TextRow
              label="Name"
              :model-value="surface.name"
              :most="60"
              needed
              @update:model-value="(v) => changeSurface('Name of a surface', surface!, (s) => (s.name = v))"
            />
            <template v-if="oneBay">
              <BoundField
                :label="surface.mirrored ? 'Span' : surface.plane === 'vertical' ? 'Height' : 'Span'"
                :path="at('bays', 0, 'span')"
                :limit="SURFACE_LIMITS.bay.span"
                :times="surface.mirrored ? 2 : 1"
                :step="`${surface.name}: span`"
                held
              />
              <BoundField
                :path="at('bays', 0, 'sweepDeg')"
                :limit="SURFACE_LIMITS.bay.sweepDeg"
                :step="`${surface.name}: sweep`"
                held
              />
              <BoundField
                :path="at('bays', 0, 'dihedralDeg')"
                :limit="SURFACE_LIMITS.bay.dihedralDeg"
                :step="`${surface.name}: dihedral`"
                held
              />
            </template>
            <BoundField
              :path="at('incidenceDeg')"
              :limit="SURFACE_LIMITS.incidenceDeg"
              :step="`${surface.name}: incidence`"
              held
            />
            <BoundField
              v-for="k in ['x', 'y', 'z'] as const"
              :key="k"
              :path="at('position', k)"
              :limit="SURFACE_LIMITS.position[k]"
              :step="`${surface.name}: place`"
              held
            />
          </SheetGroup>
          <SheetGroup title="Stations and bays">
            <template #aside
              ><button
                class="link"
                data-test="add-station"
                :disabled="surface.stations.length >= MOST_STATIONS"
                @click="changeSurface('New station', surface, splitBay)"
              >
                Add a station ›
              </button></template
            >
            <div v-for="(t, i) in surface.stations" :key="i" class="mb-1 border-l-2 border-rule pl-2.5">
              <div class="flex items-center justify-between">
                <h3 class="font-sans text-[12.5px] font-semibold">{{ stationName(i, surface.stations.length) }}</h3>
                <button
                  v-if="surface.stations.length > 2"
                  class="icon-btn"
                  :aria-label="`Remove ${stationName(i, surface.stations.length)}`"
                  @click="changeSurface('Remove a station', surface, (s) => removeStation(s, i))"
                >
                  <Trash2 :size="12" />
                </button>
              </div>
              <BoundField
                :path="at('stations', i, 'chord')"
                :limit="SURFACE_LIMITS.station.chord"
                :step="`${surface.name}: chord`"
                held
              />
              <BoundField
                :path="at('stations', i, 'twistDeg')"
                :limit="SURFACE_LIMITS.station.twistDeg"
                :step="`${surface.name}: twist`"
                held
              />
              <SelectRow
                label="Section"
                :model-value="t.section"
                :options="sectionOptions"
                @update:model-value="
                  (id) => changeSurface(`${surface!.name}: section`, surface!, (s) => (s.stations[i].section = id))
                "
              />
              <template v-if="!oneBay && i < surface.bays.length">
                <BoundField
                  :label="`Bay ${i + 1}, span`"
                  :path="at('bays', i, 'span')"
                  :limit="SURFACE_LIMITS.bay.span"
                  :step="`${surface.name}: bay span`"
                  held
                />
                <BoundField
                  :label="`Bay ${i + 1}, sweep`"
                  :path="at('bays', i, 'sweepDeg')"
                  :limit="SURFACE_LIMITS.bay.sweepDeg"
                  :step="`${surface.name}: bay sweep`"
                  held
                />
                <BoundField
                  :label="`Bay ${i + 1}, dihedral`"
                  :path="at('bays', i, 'dihedralDeg')"
                  :limit="SURFACE_LIMITS.bay.dihedralDeg"
                  :step="`${surface.name}: bay dihedral`"
                  held
                />
              </template>
            </div>
          </SheetGroup>
          <SheetGroup title="Follows">
            <QuantityRow
              v-for="id in ['area', 'span', 'aspect', 'taper', 'mac']"
              :key="id"
              :quantity="quantity(id)"
              :from="row"
            />
            <p v-if="row?.plan" class="pt-1 text-[12px] text-soft">
              Its quarter chord lies at x = {{ length(row.plan.quarterChord) }}.
            </p>
          </SheetGroup>
        </template>
        <BodySheet :candidate="active" :change="change" />
      </template>
    </template>
  </AreaPage>
</template>
