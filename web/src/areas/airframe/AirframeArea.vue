<script setup lang="ts">
import { Copy, Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { planformOf, type Planform, type Surface } from '@veldtwind/core/airframe';
import { designationSection, type PartChange } from '@veldtwind/core/project';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import AirframeView from '@/components/view3d/AirframeView.vue';
import PlanView from '@/components/view3d/PlanView.vue';
import { useCandidateEdit } from '@/lib/edit-candidate';
import { freeId } from '@/lib/ids';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { newSurface } from './templates';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();
const { show, save, surfaceIn } = useCandidateEdit();

const active = computed(() => workbench.active);
const surface = computed<Surface | undefined>(
  () => active.value?.surfaces.find((s) => s.id === route.params.surface) ?? active.value?.surfaces[0],
);
const select = (id: string) =>
  router.replace({ name: 'airframe', params: { project: project.id!, surface: id }, query: route.query });
const plan = computed<Planform | null>(() => {
  try {
    return surface.value ? planformOf(surface.value) : null;
  } catch {
    return null;
  }
});

/** Adds a surface, and with the first one the sections that it needs, as one step of undo. */
function add(role: Surface['role']): void {
  const c = active.value;
  if (!c) return;
  const changes: PartChange[] = [];
  const ensure = (designation: string, name: string): string => {
    const known = project.sections.find((s) => s.source.kind === 'designation' && s.source.designation === designation);
    if (known) return known.id;
    const id = freeId(name, (i) => Boolean(project.document.sections[i]));
    changes.push(project.putSection(designationSection(id, name, designation)));
    return id;
  };
  const wingSection =
    c.surfaces.find((s) => s.role === 'wing')?.stations[0].section ??
    project.sections[0]?.id ??
    ensure('2411', 'Section 2411');
  const tailSection =
    role === 'wing'
      ? wingSection
      : (c.surfaces.find((s) => s.role !== 'wing')?.stations[0].section ?? ensure('0009', 'Section 0009'));
  const made = newSurface(role, c, wingSection, tailSection, project.brief.spanLimit ?? 3);
  changes.push(project.putCandidate({ ...c, surfaces: [...c.surfaces, made] }));
  project.edit(`New ${role} (${c.letter})`, changes);
  void select(made.id);
}
const remove = (s: Surface) => save(`Remove ${s.name}`, (c) => (c.surfaces = c.surfaces.filter((k) => k.id !== s.id)));
function copy(s: Surface): void {
  const id = freeId(s.role, (i) => active.value!.surfaces.some((k) => k.id === i));
  save(`Copy ${s.name}`, (c) => {
    const twin = structuredClone(surfaceIn(c, s.id));
    // Set off by half its chord, so that the copy is seen.
    c.surfaces.push({
      ...twin,
      id,
      name: `${s.name} copy`,
      position: {
        ...twin.position,
        x: Number((twin.position.x + 0.5 * twin.stations[0].chord).toFixed(4)),
        z: Number((twin.position.z + 0.25 * twin.stations[0].chord).toFixed(4)),
      },
    });
  });
  void select(id);
}
function addStation(s: Surface): void {
  save('New station', (c) => {
    const t = surfaceIn(c, s.id);
    const k = t.bays.length - 1;
    const [a, b] = [t.stations[k], t.stations[k + 1]];
    const bay = t.bays[k];
    t.stations.splice(k + 1, 0, {
      chord: Number(((a.chord + b.chord) / 2).toFixed(4)),
      twistDeg: (a.twistDeg + b.twistDeg) / 2,
      section: a.section,
    });
    t.bays.splice(k, 1, { ...bay, span: bay.span / 2 }, { ...bay, span: bay.span / 2 });
  });
}
const dropStation = (s: Surface, i: number) =>
  save('Remove a station', (c) => {
    const t = surfaceIn(c, s.id);
    const k = Math.min(i, t.bays.length - 1);
    const gone = t.bays[k];
    t.stations.splice(i, 1);
    t.bays.splice(k, 1);
    const other = t.bays[Math.min(Math.max(0, k - 1), t.bays.length - 1)];
    other.span = Number((other.span + gone.span).toFixed(6));
  });

const field = (label: string, change: (s: Surface, v: number) => void) => ({
  preview: (v: number) => surface.value && show((c) => change(surfaceIn(c, surface.value!.id), v)),
  commit: (v: number | null) =>
    surface.value &&
    v !== null &&
    save(`${surface.value.name}: ${label}`, (c) => change(surfaceIn(c, surface.value!.id), v)),
});
const setSection = (i: number, id: string) =>
  save(`${surface.value!.name}: section`, (c) => (surfaceIn(c, surface.value!.id).stations[i].section = id));
const stationName = (i: number, n: number) => (i === 0 ? 'Root' : i === n - 1 ? 'Tip' : `Station ${i + 1}`);
const oneBay = computed(() => surface.value?.bays.length === 1);

interface Row {
  id: string;
  s: Surface;
  plan: Planform | null;
}
const rows = computed<Row[]>(() =>
  (active.value?.surfaces ?? []).map((s) => {
    try {
      return { id: s.id, s, plan: planformOf(s) };
    } catch {
      return { id: s.id, s, plan: null };
    }
  }),
);
const columns = computed<LedgerColumn<Row>[]>(() => {
  const length = displayUnit('length', preferences.units);
  const area = displayUnit('area', preferences.units);
  const number = (
    id: string,
    title: string,
    unit: string,
    of: (p: Planform) => number,
    digits: number,
  ): LedgerColumn<Row> => ({
    id,
    title,
    unit,
    value: (r) => (r.plan ? of(r.plan) : null),
    text: (r) => (r.plan ? formatNumber(of(r.plan), digits) : '—'),
  });
  return [
    { id: 'name', title: 'Surface', value: (r) => r.s.name, words: true },
    number('area', 'area', area.symbol, (p) => p.area * area.scale, area.digits),
    number('span', 'span', length.symbol, (p) => p.span * length.scale, length.digits),
    number('aspect', 'aspect ratio', '', (p) => p.aspectRatio, 2),
    number('taper', 'taper', '', (p) => p.taper, 3),
    number('mac', 'mean aerodynamic chord', length.symbol, (p) => p.mac.chord * length.scale, length.digits),
    number('quarter', 'its quarter chord at x', length.symbol, (p) => p.quarterChord * length.scale, length.digits),
    {
      id: 'incidence',
      title: 'incidence',
      unit: '°',
      value: (r) => r.s.incidenceDeg,
      text: (r) => formatNumber(r.s.incidenceDeg, 2),
    },
    {
      id: 'sections',
      title: 'sections',
      value: (r) =>
        [...new Set(r.s.stations.map((t) => project.document.sections[t.section]?.name ?? t.section))].join(', '),
      words: true,
    },
  ];
});
const mass = computed(() => workbench.current?.mass);
const points = computed(() => [
  ...(mass.value ? [{ ...mass.value.centre, text: 'centre of gravity', colour: 'var(--ochre-text)' }] : []),
]);
const name = (v: string) =>
  v.trim() && surface.value && save('Name of a surface', (c) => (surfaceIn(c, surface.value!.id).name = v.trim()));
const at = (v: number) =>
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
          <label class="grid grid-cols-[70px_1fr] items-center text-soft"
            >Name
            <input
              class="rounded border border-rule bg-field px-2 py-[3px] text-ink"
              maxlength="60"
              :value="active.name"
              @change="
                (ev) =>
                  (ev.target as HTMLInputElement).value.trim() &&
                  save('Name of the candidate', (c) => (c.name = (ev.target as HTMLInputElement).value.trim()))
              "
          /></label>
          <label class="mt-1 grid grid-cols-[70px_1fr] text-soft"
            >Why
            <textarea
              class="serif rounded border border-rule bg-field px-2 py-1 text-ink italic"
              rows="2"
              maxlength="4000"
              :value="active.note"
              placeholder="why this candidate exists"
              @change="
                (ev) => save('Note on the candidate', (c) => (c.note = (ev.target as HTMLTextAreaElement).value))
              "
            />
          </label>
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
            <label class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft"
              >Name
              <input
                class="rounded border border-rule bg-field px-2 py-[3px] text-ink"
                maxlength="60"
                :value="surface.name"
                @change="(ev) => name((ev.target as HTMLInputElement).value)"
            /></label>
            <template v-if="oneBay">
              <NumberField
                :label="surface.mirrored ? 'Span' : surface.plane === 'vertical' ? 'Height' : 'Span'"
                dimension="length"
                :model-value="surface.bays[0].span * (surface.mirrored ? 2 : 1)"
                :min="0.001"
                :max="1000"
                :step="0.01"
                held
                @preview="(v) => field('span', (s, w) => (s.bays[0].span = w / (s.mirrored ? 2 : 1))).preview(v)"
                @commit="(v) => field('span', (s, w) => (s.bays[0].span = w / (s.mirrored ? 2 : 1))).commit(v)"
              />
              <NumberField
                label="Sweep, ¼ chord"
                dimension="angle"
                :model-value="surface.bays[0].sweepDeg"
                :min="-75"
                :max="75"
                :step="0.5"
                held
                @preview="(v) => field('sweep', (s, w) => (s.bays[0].sweepDeg = w)).preview(v)"
                @commit="(v) => field('sweep', (s, w) => (s.bays[0].sweepDeg = w)).commit(v)"
              />
              <NumberField
                label="Dihedral"
                dimension="angle"
                :model-value="surface.bays[0].dihedralDeg"
                :min="-75"
                :max="75"
                :step="0.5"
                held
                @preview="(v) => field('dihedral', (s, w) => (s.bays[0].dihedralDeg = w)).preview(v)"
                @commit="(v) => field('dihedral', (s, w) => (s.bays[0].dihedralDeg = w)).commit(v)"
              />
            </template>
            <NumberField
              label="Incidence"
              dimension="angle"
              :model-value="surface.incidenceDeg"
              :min="-45"
              :max="45"
              :step="0.1"
              held
              @preview="(v) => field('incidence', (s, w) => (s.incidenceDeg = w)).preview(v)"
              @commit="(v) => field('incidence', (s, w) => (s.incidenceDeg = w)).commit(v)"
            />
            <NumberField
              v-for="k in ['x', 'y', 'z'] as const"
              :key="k"
              :label="`Place, ${k} ${{ x: 'aft', y: 'right', z: 'up' }[k]}`"
              dimension="length"
              :model-value="surface.position[k]"
              :min="-1000"
              :max="1000"
              :step="0.01"
              hint="Of the leading edge at the root"
              held
              @preview="(v) => field('place', (s, w) => (s.position[k] = w)).preview(v)"
              @commit="(v) => field('place', (s, w) => (s.position[k] = w)).commit(v)"
            />
          </SheetGroup>
          <SheetGroup title="Stations and bays">
            <template #aside
              ><button class="link" data-test="add-station" @click="addStation(surface)">
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
                  @click="dropStation(surface, i)"
                >
                  <Trash2 :size="12" />
                </button>
              </div>
              <NumberField
                label="Chord"
                dimension="chord"
                :model-value="t.chord"
                :min="0.001"
                :max="1000"
                :step="0.005"
                held
                @preview="(v) => field('chord', (s, w) => (s.stations[i].chord = w)).preview(v)"
                @commit="(v) => field('chord', (s, w) => (s.stations[i].chord = w)).commit(v)"
              />
              <NumberField
                label="Twist"
                dimension="angle"
                :model-value="t.twistDeg"
                :min="-45"
                :max="45"
                :step="0.1"
                held
                @preview="(v) => field('twist', (s, w) => (s.stations[i].twistDeg = w)).preview(v)"
                @commit="(v) => field('twist', (s, w) => (s.stations[i].twistDeg = w)).commit(v)"
              />
              <label class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft"
                >Section
                <select
                  class="rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
                  :value="t.section"
                  @change="(ev) => setSection(i, (ev.target as HTMLSelectElement).value)"
                >
                  <option v-for="s in project.sections" :key="s.id" :value="s.id">{{ s.name }}</option>
                  <option v-if="!project.document.sections[t.section]" :value="t.section">{{ t.section }}</option>
                </select>
              </label>
              <template v-if="!oneBay && i < surface.bays.length">
                <NumberField
                  :label="`Bay ${i + 1}, span`"
                  dimension="length"
                  :model-value="surface.bays[i].span"
                  :min="0.001"
                  :max="1000"
                  :step="0.01"
                  held
                  @preview="(v) => field('bay span', (s, w) => (s.bays[i].span = w)).preview(v)"
                  @commit="(v) => field('bay span', (s, w) => (s.bays[i].span = w)).commit(v)"
                />
                <NumberField
                  :label="`Bay ${i + 1}, sweep`"
                  dimension="angle"
                  :model-value="surface.bays[i].sweepDeg"
                  :min="-75"
                  :max="75"
                  :step="0.5"
                  held
                  @preview="(v) => field('bay sweep', (s, w) => (s.bays[i].sweepDeg = w)).preview(v)"
                  @commit="(v) => field('bay sweep', (s, w) => (s.bays[i].sweepDeg = w)).commit(v)"
                />
                <NumberField
                  :label="`Bay ${i + 1}, dihedral`"
                  dimension="angle"
                  :model-value="surface.bays[i].dihedralDeg"
                  :min="-75"
                  :max="75"
                  :step="0.5"
                  held
                  @preview="(v) => field('bay dihedral', (s, w) => (s.bays[i].dihedralDeg = w)).preview(v)"
                  @commit="(v) => field('bay dihedral', (s, w) => (s.bays[i].dihedralDeg = w)).commit(v)"
                />
              </template>
            </div>
          </SheetGroup>
          <SheetGroup title="Follows">
            <DerivedRow label="Area" :value="plan?.area" dimension="area" />
            <DerivedRow label="Span" :value="plan?.span" dimension="length" />
            <DerivedRow label="Aspect ratio" :value="plan?.aspectRatio" dimension="plain" :digits="2" unit="" />
            <DerivedRow label="Taper" :value="plan?.taper" dimension="plain" unit="" />
            <DerivedRow label="Mean aerodynamic chord" :value="plan?.mac.chord" dimension="chord" />
            <p v-if="plan" class="pt-1 text-[12px] text-soft">
              Its quarter chord lies at x = {{ at(plan.quarterChord) }}.
            </p>
          </SheetGroup>
        </template>
      </template>
    </template>
  </AreaPage>
</template>
