<script setup lang="ts">
import { Copy, Download, Trash2 } from 'lucide-vue-next';
import { computed, shallowRef, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { writeCoordinates } from '@veldtwind/core/formats';
import { designationSection, usesOfSection } from '@veldtwind/core/project';
import { pairsFromOutline } from '@veldtwind/core/section';
import { sourceOutline } from '@veldtwind/core/shaping';
import { formatNumber } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { freeId } from '@/lib/ids';
import { saveText } from '@/lib/save';
import type { SectionPart } from '@/lib/types';
import { useProject } from '@/store/project';
import { latestOnly } from '@/lib/latest-only';
import { sectionWorker } from '@/worker/compute';
import type { SectionView } from '@/worker/compute.worker';
import FlowCharts from './FlowCharts.vue';
import FlowSheet from './FlowSheet.vue';
import NewSection from './NewSection.vue';
import OutlineFigure from './OutlineFigure.vue';
import { useSectionFlow } from './section-flow';

const project = useProject();
const route = useRoute();
const router = useRouter();
const RAD = Math.PI / 180;

const section = computed<SectionPart | undefined>(
  () => project.document.sections[String(route.params.section ?? '')] ?? project.sections[0],
);
const select = (id: string) =>
  router.replace({ name: 'sections', params: { project: project.id!, section: id }, query: route.query });

const view = shallowRef<SectionView | null>(null);
const failure = ref<{ message: string; hint?: string } | null>(null);
const flow = useSectionFlow(section);

const plain = <T,>(v: T): T => JSON.parse(JSON.stringify(v)) as T;
const askView = latestOnly(
  (s: SectionPart) => sectionWorker.section(plain(s.source)),
  (v) => (view.value = v),
  (e) => ((view.value = null), (failure.value = e as Error)),
);
watch(
  () => section.value?.source,
  () => section.value && askView(section.value),
  { immediate: true },
);
interface Row {
  id: string;
  s: SectionPart;
  used: string;
  view?: SectionView;
}
const views = shallowRef(new Map<string, SectionView>());
watch(
  () => project.sections,
  async (list) => {
    for (const s of list) {
      const key = JSON.stringify(s.source);
      if (views.value.has(key)) continue;
      try {
        const v = await sectionWorker.section(plain(s.source));
        views.value = new Map(views.value).set(key, v);
      } catch {
        // A section that cannot be measured shows dashes; opening it says why.
      }
    }
  },
  { immediate: true },
);
const rows = computed<Row[]>(() =>
  project.sections.map((s) => ({
    id: s.id,
    s,
    used: [...new Set(usesOfSection(project.document, s.id).map((u) => `${u.letter} ${u.surface.toLowerCase()}`))].join(
      ', ',
    ),
    view: views.value.get(JSON.stringify(s.source)),
  })),
);
const fact = (
  id: string,
  title: string,
  of: (v: SectionView) => number,
  digits: number,
  unit?: string,
): LedgerColumn<Row> => ({
  id,
  title,
  unit,
  value: (r) => (r.view ? of(r.view) : null),
  text: (r) => (r.view ? formatNumber(of(r.view), digits) : '—'),
});
const columns: LedgerColumn<Row>[] = [
  { id: 'name', title: 'Section', value: (r) => r.s.name, words: true },
  {
    id: 'source',
    title: 'source',
    value: (r) =>
      r.s.source.kind === 'designation'
        ? `${r.s.source.designation.length === 4 ? 'four' : 'five'} digits ${r.s.source.designation}`
        : `${r.s.source.points.length} points`,
    words: true,
  },
  fact('thickness', 'thickness', (v) => 100 * v.facts.thickness.max, 2, '%'),
  fact('thickness-at', 'at', (v) => v.facts.thickness.at, 3),
  fact('camber', 'camber', (v) => 100 * v.facts.camber.max, 2, '%'),
  fact('camber-at', 'at', (v) => v.facts.camber.at, 3),
  fact('nose', 'nose radius', (v) => 100 * v.facts.noseRadius, 2, '%'),
  fact('edge', 'edge angle', (v) => v.facts.trailingEdge.angle / RAD, 1, '°'),
  fact('area', 'area', (v) => v.facts.area, 4, 'c²'),
  { id: 'used', title: 'used by', value: (r) => r.used || null, text: (r) => r.used || '—', words: true },
];

const shown = computed(() => {
  const v = flow.viscous.value;
  return flow.live.value.viscous && v?.distributions && v.point.status !== 'unsolved' ? v : null;
});
const change = (label: string, more: Partial<SectionPart>) =>
  section.value && project.edit(label, [project.putSection({ ...section.value, ...more })]);
function makeFirst(): void {
  project.edit('New section 4415', [project.putSection(designationSection('section-4415', 'Section 4415', '4415'))]);
  void select('section-4415');
}
function copy(): void {
  const s = section.value!;
  const id = freeId(`${s.name} copy`, (i) => Boolean(project.document.sections[i]));
  project.edit(`Copy ${s.name}`, [project.putSection({ ...s, id, name: `${s.name} copy` })]);
  void select(id);
}
function remove(): void {
  const s = section.value!;
  const uses = usesOfSection(project.document, s.id);
  if (uses.length > 0) {
    toast.error(`${s.name} is used by ${[...new Set(uses.map((u) => `${u.surface} of ${u.letter}`))].join(', ')}.`, {
      description: 'Give those stations another section first; nothing was removed.',
    });
    return;
  }
  project.edit(`Remove ${s.name}`, [{ part: `section:${s.id}`, value: null }]);
  toast(`${s.name} removed`, { action: { label: 'Undo', onClick: () => void project.step('undo') } });
}
const download = () =>
  section.value &&
  saveText(
    writeCoordinates(section.value.name, pairsFromOutline(sourceOutline(section.value.source))),
    `${section.value.id}.txt`,
    'text/plain',
  );
</script>

<template>
  <AreaPage area="sections" :title="section?.name ?? 'Sections'" question="Which aerofoils, in what shape?">
    <template #figure>
      <EmptyState
        v-if="!section"
        title="No section yet"
        text="A section is an aerofoil: made from four or five digits, or read from a coordinate file."
      >
        <button class="btn btn-main" @click="makeFirst">Make section 4415</button>
        <OpenDemo />
      </EmptyState>
      <div v-else class="grid h-full min-h-[400px] grid-rows-[minmax(120px,0.72fr)_1fr] px-4 pt-1 pb-2">
        <OutlineFigure
          v-if="view"
          :view="view"
          :name="section.name"
          :flow="shown"
          :flapped="flow.live.value.flap !== null"
        />
        <ErrorNotice v-else-if="failure" :message="failure.message" :hint="failure.hint" class="m-6 h-fit" />
        <div v-else />
        <FlowCharts :flow="flow" :view="view" />
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        label="Sections"
        file-name="veldtwind-sections"
        :selected="section?.id"
        @select="select"
      />
    </template>
    <template #sheet>
      <SheetGroup title="New section"><NewSection @made="select" /></SheetGroup>
      <template v-if="section">
        <FlowSheet :flow="flow" />
        <SheetGroup title="This section">
          <template #aside>
            <span class="flex">
              <button class="icon-btn" aria-label="Save its coordinates" title="Save its coordinates" @click="download">
                <Download :size="13" />
              </button>
              <button class="icon-btn" aria-label="Copy this section" title="Copy" @click="copy">
                <Copy :size="13" />
              </button>
              <button
                class="icon-btn"
                aria-label="Remove this section"
                title="Remove"
                data-test="remove-section"
                @click="remove"
              >
                <Trash2 :size="13" />
              </button>
            </span>
          </template>
          <label class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft"
            >Name
            <input
              class="rounded border border-rule bg-field px-2 py-[3px] text-ink"
              maxlength="80"
              :value="section.name"
              @change="
                (ev) =>
                  (ev.target as HTMLInputElement).value.trim() &&
                  change('Name of a section', { name: (ev.target as HTMLInputElement).value.trim() })
              "
          /></label>
          <div class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft">
            Source
            <span class="text-right font-medium text-ink">{{
              section.source.kind === 'designation'
                ? `${section.source.designation.length === 4 ? 'four' : 'five'} digits ${section.source.designation}`
                : (section.original?.fileName ?? `${section.source.points.length} points`)
            }}</span>
          </div>
          <label
            v-if="section.source.kind === 'designation'"
            class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft"
            >Trailing edge
            <select
              class="rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
              :value="section.source.trailingEdge"
              @change="
                (ev) =>
                  section?.source.kind === 'designation' &&
                  change('Trailing edge', {
                    source: {
                      ...section.source,
                      trailingEdge: (ev.target as HTMLSelectElement).value as 'sharp' | 'published',
                    },
                  })
              "
            >
              <option value="published">as published</option>
              <option value="sharp">sharp</option>
            </select>
          </label>
          <textarea
            class="serif mt-1 w-full rounded border border-rule bg-field px-2 py-1 italic"
            rows="2"
            maxlength="4000"
            :value="section.note"
            placeholder="what it suits"
            aria-label="Note on this section"
            @change="(ev) => change('Note on a section', { note: (ev.target as HTMLTextAreaElement).value })"
          />
        </SheetGroup>
        <SheetGroup title="Facts">
          <template v-if="view">
            <DerivedRow label="Thickness" :value="view.facts.thickness.max" dimension="ratio" :digits="2" />
            <DerivedRow label="Its crest" :value="view.facts.thickness.at" dimension="plain" unit="c" />
            <DerivedRow label="Camber" :value="view.facts.camber.max" dimension="ratio" :digits="2" />
            <DerivedRow label="Its crest" :value="view.facts.camber.at" dimension="plain" unit="c" />
            <DerivedRow label="Nose radius" :value="view.facts.noseRadius" dimension="ratio" :digits="2" />
            <DerivedRow label="Edge angle" :value="view.facts.trailingEdge.angle / RAD" dimension="angle" />
            <DerivedRow label="Edge gap" :value="view.facts.trailingEdge.gap" dimension="ratio" :digits="3" />
            <DerivedRow label="Area" :value="view.facts.area" dimension="plain" :digits="4" unit="c²" />
          </template>
        </SheetGroup>
      </template>
    </template>
  </AreaPage>
</template>
