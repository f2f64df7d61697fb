<script setup lang="ts">
import { TabGroup, TabList, Tab } from '@headlessui/vue';
import { Copy, Download, Trash2 } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { fittedName } from '@veldtwind/core/limits';
import { LONGEST_SECTION_NAME, resolvedSource } from '@veldtwind/core/project';
import { DEFAULT_SPREAD, isSolved, type PanelSpread } from '@veldtwind/core/section-flow';
import type { SectionSource } from '@veldtwind/core/shaping';
import { formatNumber } from '@veldtwind/core/units';
import { call } from '@/api/client';
import AreaPage from '@/components/shell/AreaPage.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { freeId } from '@/lib/ids';
import { useLive } from '@/lib/live';
import { quantityColumns } from '@/lib/quantity-columns';
import { saveText } from '@/lib/save';
import type { SectionPart } from '@/lib/types';
import { sourceWords, useLibrary, type LibraryRow } from '@/store/library';
import { LIBRARY_QUANTITIES } from '@/store/library-quantities';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import CompareFigure from './compare/CompareFigure.vue';
import CombFigure from './facts/CombFigure.vue';
import FactsSheet from './facts/FactsSheet.vue';
import FlowCharts from './flow/FlowCharts.vue';
import FlowSheet from './flow/FlowSheet.vue';
import OutlineFigure from './flow/OutlineFigure.vue';
import { useSectionFlow } from './flow/section-flow';
import LibraryCards from './library/LibraryCards.vue';
import NewSection from './library/NewSection.vue';
import RangeFilters from './library/RangeFilters.vue';
import StarterSections from './library/StarterSections.vue';
import WriteSections from './library/WriteSections.vue';
import PanelsFigure from './panels/PanelsFigure.vue';
import PanelsSheet from './panels/PanelsSheet.vue';
import RecipeSheet from './shape/RecipeSheet.vue';
import ShapeFigure from './shape/ShapeFigure.vue';
import FlownSheet from './shape/FlownSheet.vue';
import { useRecipe } from './shape/recipe';
import { useFlown } from './shape/use-flown';

const VIEWS = [
  { id: 'library', name: 'Library' },
  { id: 'shape', name: 'Shape' },
  { id: 'flow', name: 'Flow' },
  { id: 'facts', name: 'Facts' },
  { id: 'panels', name: 'Panels' },
  { id: 'compare', name: 'Compare' },
] as const;
type View = (typeof VIEWS)[number]['id'];

const project = useProject();
const library = useLibrary();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();

const section = computed<SectionPart | undefined>(
  () => project.document.sections[String(route.params.section ?? '')] ?? project.sections[0],
);
const view = computed<View>(() => {
  const asked = VIEWS.find((v) => v.id === route.query.view)?.id;
  return asked ?? (route.params.section ? 'flow' : 'library');
});
const go = (id: string | undefined, next: View = view.value) =>
  router.replace({
    name: 'sections',
    params: { project: project.id!, section: id },
    query: { ...route.query, view: next },
  });
const select = (id: string) => void go(id);
const open = (id: string) => void go(id, view.value === 'library' || view.value === 'compare' ? 'shape' : view.value);

/** The section as it is computed: sections it is mixed from inside it. */
const source = computed<SectionSource | null>(() => {
  try {
    return section.value ? resolvedSource(project.document.sections, section.value.id) : null;
  } catch {
    // A mix whose parts are missing; the recipe says which.
    return null;
  }
});
/** Only what is looked at is computed: a row that is picked in the library solves no flow. */
const measured = computed(() => view.value === 'flow' || view.value === 'facts');
const { value: detail, failure } = useLive(lanes.section, 'section-detail', () =>
  measured.value && source.value ? { source: source.value } : null,
);

const flow = useSectionFlow(
  source,
  computed(() => view.value === 'flow'),
);
const recipe = useRecipe(
  section,
  { alphaDeg: flow.alphaDeg, mach: flow.mach },
  computed(() => view.value === 'shape'),
);
const flown = useFlown(
  section,
  recipe,
  computed(() => view.value === 'shape' && preferences.get('shape-below', 'flown') === 'flown'),
);
const openedStep = ref<number | null>(null);
watch(
  () => section.value?.id,
  () => (openedStep.value = null),
);

const keptSpread = computed<PanelSpread>(() => preferences.get('section-panels', DEFAULT_SPREAD));
const movingSpread = ref<PanelSpread | null>(null);
const spread = computed(() => movingSpread.value ?? keptSpread.value);
function changeSpread(next: PanelSpread, done: boolean): void {
  movingSpread.value = done ? null : next;
  if (done) preferences.set('section-panels', next);
}
const { value: panels } = useLive(lanes.shape, 'section-panels', () =>
  view.value === 'panels' && source.value ? { source: source.value, spread: spread.value } : null,
);

const columns = computed<LedgerColumn<LibraryRow>[]>(() => [
  { id: 'name', title: 'Section', value: (r) => r.part.name, words: true },
  { id: 'source', title: 'source', value: (r) => sourceWords(r.part), words: true },
  ...quantityColumns<LibraryRow, LibraryRow>(LIBRARY_QUANTITIES, (r) => r, preferences.units),
  { id: 'used', title: 'used by', value: (r) => r.used || null, text: (r) => r.used || '—', words: true },
  {
    id: 'tags',
    title: 'tags',
    value: (r) => r.part.tags.join(', ') || null,
    text: (r) => r.part.tags.join(', ') || '—',
    words: true,
  },
]);

const solvedFlow = computed(() => {
  const v = flow.viscous.value;
  return flow.live.value.viscous && v?.distributions && isSolved(v.point) ? v : null;
});
const condition = computed(
  () => `α = ${formatNumber(flow.alphaDeg.value, 2)}°, Mach ${formatNumber(flow.mach.value, 2)}`,
);
const change = (label: string, more: Partial<SectionPart>) =>
  section.value && changeSection(label, section.value.id, more);
const changeSection = (label: string, id: string, more: Partial<SectionPart>) =>
  project.edit(label, (draft) => {
    if (draft.sections[id]) Object.assign(draft.sections[id], more);
  });
const taken = (id: string) => Boolean(project.document.sections[id]);
function copy(): void {
  const s = section.value!;
  const id = freeId(`${s.name} copy`, taken);
  const count = id.split('-copy')[1]?.replace('-', ' ') ?? '';
  const name = fittedName(s.name, LONGEST_SECTION_NAME, ` copy${count}`);
  project.edit(`Copy ${s.name}`, (draft) => {
    const { fileName: _fileName, ...rest } = draft.sections[s.id];
    draft.sections[id] = { ...rest, id, name };
  });
  select(id);
}
function mix(): void {
  const a = section.value!;
  const b = project.sections.find((s) => s.id !== a.id);
  if (!b) return;
  const name = `${a.name} to ${b.name}`.slice(0, 70);
  const id = freeId(name, taken);
  project.edit(`Mix ${name}`, (draft) => {
    draft.sections[id] = {
      id,
      name,
      source: { kind: 'mix', a: a.id, b: b.id, fraction: 0.5 },
      steps: [],
      tags: [],
      note: '',
    };
  });
  void go(id, 'shape');
}
/** Takes sections away, but for those that something uses. */
async function remove(list: SectionPart[]): Promise<void> {
  const gone = new Set(list.map((s) => s.id));
  const used = list.filter((s) => library.used(s.id).length > 0);
  const mixed = project.sections.filter(
    (s) =>
      !gone.has(s.id) &&
      ((s.source.kind === 'mix' && (gone.has(s.source.a) || gone.has(s.source.b))) ||
        s.steps.some((t) => t.kind === 'mix' && gone.has(t.with))),
  );
  if (used.length > 0 || mixed.length > 0) {
    const words = [
      ...used.map(
        (s) =>
          `${s.name} is used by ${[...new Set(library.used(s.id).map((u) => `${u.surface} of ${u.letter}`))].join(', ')}`,
      ),
      ...mixed.map((s) => `${s.name} is mixed from it`),
    ];
    toast.error(`${words.slice(0, 4).join('; ')}.`, {
      description: 'Give those another section first; nothing was removed.',
    });
    return;
  }
  const words = list.length === 1 ? list[0].name : `${list.length} sections`;
  project.edit(`Remove ${words}`, (draft) => {
    for (const s of list) delete draft.sections[s.id];
  });
  toast(`${words} removed`, { action: { label: 'Undo', onClick: () => void project.step('undo') } });
}
/** The text that the section was read from, as it stood. */
async function original(): Promise<void> {
  try {
    const key = `original:${section.value!.id}`;
    const part = (await call('readPart', { params: { id: project.id!, key } })) as { fileName: string; text: string };
    saveText(part.text, part.fileName, 'text/plain');
  } catch (error) {
    toast.error((error as Error).message);
  }
}
const writing = computed(() => [
  ...(section.value ? [{ id: 'open', label: section.value.name, sections: [section.value] }] : []),
  ...(library.compared.length > 1
    ? [
        {
          id: 'compared',
          label: `the ${library.compared.length} compared`,
          sections: library.compared.map((id) => project.document.sections[id]),
        },
      ]
    : []),
  { id: 'shown', label: `all ${library.shown.length} shown`, sections: library.shown.map((r) => r.part) },
]);
const EDGES = [
  { id: 'published', name: 'as published' },
  { id: 'sharp', name: 'sharp' },
] as const;
const setEdge = (trailingEdge: 'published' | 'sharp') =>
  void recipe.setSource('Trailing edge', (s) => (s.kind === 'designation' ? { ...s, trailingEdge } : s));
const tagsOf = (text: string) =>
  [
    ...new Set(
      text
        .split(',')
        .map((t) => t.trim().slice(0, 30))
        .filter(Boolean),
    ),
  ].slice(0, 20);
</script>

<template>
  <AreaPage
    area="sections"
    :title="view === 'library' ? 'Sections' : (section?.name ?? 'Sections')"
    question="Which aerofoils, in what shape?"
  >
    <template #figure>
      <div class="flex h-full flex-col">
        <TabGroup
          :selected-index="VIEWS.findIndex((v) => v.id === view)"
          manual
          @change="(i: number) => go(section?.id, VIEWS[i].id)"
        >
          <TabList class="flex shrink-0 gap-1 border-b border-rule-light px-4" aria-label="Views of the sections">
            <Tab
              v-for="v in VIEWS"
              :key="v.id"
              class="border-b-2 px-2.5 py-1.5"
              :class="
                v.id === view ? 'border-ochre font-semibold text-ink' : 'border-transparent text-soft hover:text-ink'
              "
              :data-test="`view-${v.id}`"
              >{{ v.name
              }}<span v-if="v.id === 'compare' && library.compared.length" class="ml-1 text-soft">{{
                library.compared.length
              }}</span></Tab
            >
          </TabList>
        </TabGroup>
        <div class="min-h-0 flex-1">
          <EmptyState
            v-if="!section"
            title="No section yet"
            text="A section is an aerofoil: made from digits, drawn, read from files, or taken from the starter library."
          >
            <StarterSections main @made="select" />
            <OpenDemo />
          </EmptyState>
          <LibraryCards v-else-if="view === 'library'" :selected="section.id" @select="select" @open="open" />
          <CompareFigure v-else-if="view === 'compare'" />
          <ShapeFigure
            v-else-if="view === 'shape'"
            :recipe="recipe"
            :section-id="section.id"
            :name="section.name"
            :condition="condition"
            :opened="openedStep"
            :flown="flown"
          />
          <ErrorNotice v-else-if="failure" :message="failure.message" :hint="failure.hint" class="m-6 h-fit" />
          <div
            v-else-if="view === 'flow'"
            class="grid h-full min-h-[400px] grid-rows-[minmax(120px,0.72fr)_1fr] px-4 pt-1 pb-2"
          >
            <OutlineFigure
              v-if="detail"
              :view="detail"
              :name="section.name"
              :flow="solvedFlow"
              :flapped="flow.live.value.flap !== null"
            />
            <div v-else />
            <FlowCharts :flow="flow" :view="detail" />
          </div>
          <CombFigure v-else-if="view === 'facts' && detail" :detail="detail" :name="section.name" />
          <PanelsFigure v-else-if="view === 'panels' && panels" :panels="panels" :name="section.name" />
        </div>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        v-model:filter="library.search"
        :rows="library.shown"
        :columns="columns"
        label="Sections"
        file-name="veldtwind-sections"
        :selected="section?.id"
        filtered-outside
        @select="select"
      >
        <template #lead="{ row }">
          <input
            type="checkbox"
            class="block"
            :checked="library.compared.includes(row.id)"
            :aria-label="`Compare ${row.part.name}`"
            :style="{ accentColor: library.compared.includes(row.id) ? library.styleOf(row.id).colour : undefined }"
            @change="library.compare(row.id)"
          />
        </template>
      </LedgerTable>
    </template>
    <template #sheet>
      <template v-if="view === 'library' || !section">
        <SheetGroup title="New section"><NewSection @made="select" /></SheetGroup>
        <SheetGroup title="Starter library"><StarterSections @made="select" /></SheetGroup>
        <SheetGroup v-if="section" title="Filter"><RangeFilters /></SheetGroup>
      </template>
      <template v-if="section">
        <FlowSheet v-if="view === 'flow'" :flow="flow" />
        <RecipeSheet
          v-if="view === 'shape'"
          v-model:opened="openedStep"
          :recipe="recipe"
          :section="section"
          :alpha-deg="flow.alphaDeg.value"
        />
        <FlownSheet
          v-if="view === 'shape' && preferences.get('shape-below', 'flown') === 'flown'"
          :flown="flown"
          :section="section"
        />
        <SheetGroup v-else-if="view === 'shape'" title="Pressure is shown">
          <NumberField
            label="Angle of attack"
            dimension="angle"
            :model-value="flow.kept.value.alphaDeg"
            :min="-30"
            :max="30"
            :step="0.25"
            @preview="(v) => flow.preview({ alphaDeg: v, hold: 'alpha' })"
            @commit="(v) => v !== null && flow.commit({ alphaDeg: v, hold: 'alpha' })"
          />
        </SheetGroup>
        <FactsSheet v-if="view === 'facts' && detail" :detail="detail" />
        <PanelsSheet v-if="view === 'panels'" :spread="spread" :panels="panels" @change="changeSpread" />
        <SheetGroup title="This section">
          <template #aside>
            <span class="flex items-center">
              <button
                v-if="project.sections.length > 1"
                class="link mr-1 text-[12.5px]"
                data-test="mix-section"
                @click="mix"
              >
                mix with …
              </button>
              <button
                class="icon-btn"
                aria-label="Copy this section"
                title="Copy"
                data-test="copy-section"
                @click="copy"
              >
                <Copy :size="13" />
              </button>
              <button
                class="icon-btn"
                aria-label="Remove this section"
                title="Remove"
                data-test="remove-section"
                @click="remove([section])"
              >
                <Trash2 :size="13" />
              </button>
            </span>
          </template>
          <TextRow
            label="Name"
            :model-value="section.name"
            :most="LONGEST_SECTION_NAME"
            needed
            test="section-name"
            @update:model-value="(name) => change('Name of a section', { name })"
          />
          <TextRow
            label="Tags"
            :model-value="section.tags.join(', ')"
            :most="640"
            placeholder="with commas"
            test="section-tags"
            @update:model-value="(v) => change('Tags of a section', { tags: tagsOf(v) })"
          />
          <div class="grid grid-cols-[1fr_auto] items-center gap-2 py-[3px] text-soft">
            Source
            <span class="truncate text-right font-medium text-ink">{{ sourceWords(section) }}</span>
          </div>
          <button
            v-if="section.fileName"
            class="link inline-flex items-center gap-1 text-[12.5px]"
            data-test="original"
            @click="original"
          >
            <Download :size="12" />the file as it was read
          </button>
          <SelectRow
            v-if="section.source.kind === 'designation'"
            label="Trailing edge"
            :model-value="section.source.trailingEdge"
            :options="EDGES"
            @update:model-value="setEdge"
          />
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
        <SheetGroup v-if="view === 'flow' && detail" title="Facts">
          <DerivedRow label="Thickness" :value="detail.facts.thickness.max" dimension="ratio" :digits="2" />
          <DerivedRow label="Max. thickness at" :value="detail.facts.thickness.at" dimension="plain" unit="c" />
          <DerivedRow label="Camber" :value="detail.facts.camber.max" dimension="ratio" :digits="2" />
          <DerivedRow label="Max. camber at" :value="detail.facts.camber.at" dimension="plain" unit="c" />
        </SheetGroup>
        <SheetGroup title="Files"><WriteSections :choices="writing" /></SheetGroup>
        <SheetGroup
          v-if="view === 'library' && library.shown.length > 1 && library.shown.length < library.rows.length"
          title="All shown"
        >
          <button class="btn" data-test="remove-shown" @click="remove(library.shown.map((r) => r.part))">
            Remove the {{ library.shown.length }} shown
          </button>
        </SheetGroup>
      </template>
    </template>
  </AreaPage>
</template>
