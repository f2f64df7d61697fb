<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  FAMILY_NUMBERS,
  halfway,
  memberSteps,
  shortName,
  type Criterion,
  type FamilyNumber,
} from '@veldtwind/core/polar';
import { CURVE_QUANTITIES, type CurveFacts } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import ParallelChart from '@/components/chart/ParallelChart.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { newId } from '@/lib/ids';
import { within, type ParallelLine, type Ranges } from '@/lib/parallel';
import { quantityColumns } from '@/lib/quantity-columns';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { shortReynolds } from '../curve-series';
import EffectsTable from './EffectsTable.vue';
import FamilySheet from './FamilySheet.vue';
import { useSearchDriver } from './search-driver';
import { studyPlan, useFamily, type FamilyMember } from './use-family';

/** Family study: sections made by varying a few numbers, compared by what their polars come to. */
defineProps<{ views: readonly { id: string; name: string }[] }>();
const emit = defineEmits<{ view: [id: string | undefined] }>();
const project = useProject();
const preferences = usePreferences();
const runs = useRuns();

const studies = computed(() => Object.values(project.document.studies));
const chosenId = computed(() => preferences.get<string | null>(`study-${project.id ?? ''}`, null));
const study = computed(() => project.document.studies[chosenId.value ?? ''] ?? studies.value[0]);
const choose = (id: string) => preferences.set(`study-${project.id ?? ''}`, id);
const { base, problem, members, missing } = useFamily(study);
useSearchDriver(study, base, members);

const reynolds = computed(() => [...(study.value?.reynolds ?? [])].sort((a, b) => a - b));
const atRe = ref(0);
const at = computed(() => Math.min(atRe.value, reynolds.value.length - 1));

const START = ['cd-design', 'cl-max', 'best-ratio', 'lift-kept', 'cm-zero'];
const facts = computed(() => preferences.get<string[]>('family-facts', START));
const toggleFact = (id: string) =>
  preferences.set(
    'family-facts',
    facts.value.includes(id) ? facts.value.filter((f) => f !== id) : [...facts.value, id],
  );
const FACT_CHIPS = CURVE_QUANTITIES.map((q) => ({ id: q.id, name: q.symbol, title: q.name }));
const numbers = computed(() => study.value?.numbers ?? []);
const percent = (id: string) => id in FAMILY_NUMBERS;
const ranges = ref<Ranges>({});
const axes = computed(() => [
  ...numbers.value.map((n) => ({
    id: n.id,
    name: percent(n.id) ? `${shortName(n.id)}, %` : shortName(n.id),
    digits: percent(n.id) ? 1 : 4,
  })),
  ...CURVE_QUANTITIES.filter((q) => facts.value.includes(q.id)).map((q) => ({
    id: q.id,
    name: q.symbol,
    digits: q.digits ?? 3,
  })),
]);
const valuesOf = (m: FamilyMember) => {
  const f = m.facts[at.value];
  return {
    ...Object.fromEntries(numbers.value.map((n, i) => [n.id, percent(n.id) ? 100 * m.member[i] : m.member[i]])),
    ...Object.fromEntries(
      CURVE_QUANTITIES.filter((q) => facts.value.includes(q.id)).map((q) => [q.id, f ? q.of(f) : null]),
    ),
  };
};
/** Members are coloured by their first number, so that its run through the facts is seen. */
const lines = computed<ParallelLine[]>(() => {
  const first = [...new Set(members.value.map((m) => m.member[0]))].sort((a, b) => a - b);
  return members.value
    .filter((m) => m.facts[at.value] !== null)
    .map((m) => ({
      id: m.key,
      label: m.name,
      style: { ...seriesStyle(first.indexOf(m.member[0])), dash: m.tried ? '4 2' : '' },
      values: valuesOf(m),
    }));
});

const picked = ref<string[]>([]);
function pick(id: string): void {
  picked.value = picked.value.includes(id) ? picked.value.filter((p) => p !== id) : [...picked.value, id].slice(-2);
}
const chosen = computed(() => picked.value.flatMap((id) => members.value.filter((m) => m.key === id)));

interface Row {
  id: string;
  m: FamilyMember;
  facts: CurveFacts | null;
}
const words = ref('');
const rows = computed<Row[]>(() => {
  const asked = words.value.toLowerCase().split(/\s+/).filter(Boolean);
  return members.value
    .filter(
      (m) => asked.every((w) => m.name.toLowerCase().includes(w)) && within({ values: valuesOf(m) }, ranges.value),
    )
    .map((m) => ({ id: m.key, m, facts: m.facts[at.value] }));
});
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'section', words: true, value: (r) => `${r.m.name}${r.m.tried ? ' ·' : ''}` },
  ...(study.value?.criteria.length
    ? [
        {
          id: 'cost',
          title: 'misses by',
          value: (r: Row) => r.m.cost,
          text: (r: Row) => (r.m.cost === null ? '—' : formatNumber(r.m.cost, 3)),
        },
      ]
    : []),
  ...quantityColumns<Row, CurveFacts>(CURVE_QUANTITIES, (r) => r.facts, preferences.units),
]);

const run = () => {
  const s = study.value;
  if (s && missing.value.length)
    void runs.start(`${s.name}: ${missing.value.length} sections`.slice(0, 80), studyPlan(s, missing.value));
};
function between(): void {
  const s = study.value;
  const [a, b] = chosen.value;
  if (!s || !a || !b) return;
  const member = halfway(a.member, b.member);
  project.edit(
    `Half way between ${a.name} and ${b.name}`.slice(0, 120),
    (draft) => void draft.studies[s.id].tries.push(member),
  );
}
function keep(): void {
  const s = study.value;
  if (!s) return;
  const own = project.document.sections[s.base];
  project.edit(`Keep ${chosen.value.map((m) => m.name).join(' and ')}`.slice(0, 120), (draft) => {
    for (const m of chosen.value) {
      const id = `s-${newId().slice(0, 8)}`;
      const made = structuredClone(own);
      const recipe = s.numbers
        .map((n, i) => ({ id: n.id, value: m.member[i] }))
        .filter((n) => !(n.id in FAMILY_NUMBERS));
      for (const { id: path, value } of recipe) {
        const [, step, field] = path.split('.');
        (made.steps[Number(step)] as unknown as Record<string, number>)[field] = value;
      }
      draft.sections[id] = {
        ...made,
        id,
        name: m.name.slice(0, 80),
        steps: [...made.steps, ...memberSteps(s.numbers, m.member)],
        tags: ['family'],
        note: `From the family study ${s.name}.`,
      };
    }
  });
}
const setCriteria = (criteria: Criterion[]) =>
  study.value &&
  project.edit('Criteria of the study', (draft) => void (draft.studies[study.value.id].criteria = criteria));
const NUMBER_NAMES = Object.fromEntries(Object.entries(FAMILY_NUMBERS).map(([id, n]) => [id, n.name])) as Record<
  FamilyNumber,
  string
>;
</script>

<template>
  <AreaPage area="polars" title="Polars" question="How do the sections behave?">
    <template #figure>
      <div class="flex h-full min-h-[420px] flex-col px-4 py-2">
        <div class="flex items-center gap-3 pb-1">
          <ChipRow
            label="View"
            test="view"
            :options="views"
            :on="['family']"
            @pick="(v) => emit('view', v === 'curves' ? undefined : v)"
          />
          <span class="flex-1" />
          <label v-if="reynolds.length > 1" class="text-[12.5px] text-soft">
            at Re
            <select v-model="atRe" class="rounded border border-rule bg-field px-1 text-ink">
              <option v-for="(re, i) in reynolds" :key="re" :value="i">{{ shortReynolds(re) }}</option>
            </select>
          </label>
        </div>
        <EmptyState
          v-if="!study"
          title="No family study yet"
          text="Take a section, say which of its numbers to vary, and see which number drives which fact. Begin at the right."
        />
        <EmptyState
          v-else-if="lines.length === 0"
          :title="study.name"
          :text="problem ?? `${members.length} sections, none run yet: run them at the right.`"
        />
        <template v-else>
          <ParallelChart
            class="min-h-[200px] flex-1"
            :title="`${study.name}: ${numbers.map((n) => NUMBER_NAMES[n.id as FamilyNumber] ?? shortName(n.id)).join(', ')}`"
            :lines="lines"
            :axes="axes"
            :ranges="ranges"
            :selected="picked[picked.length - 1] ?? null"
            @ranges="(r) => (ranges = r)"
            @pick="pick"
          />
          <ChipRow class="py-1" label="Facts with an axis" :options="FACT_CHIPS" :on="facts" @pick="toggleFact" />
          <EffectsTable class="mt-1" :members="members" :numbers="numbers" :at="at" :facts="facts" />
        </template>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        v-model:filter="words"
        :rows="rows"
        :columns="columns"
        label="Members of the family"
        file-name="veldtwind-family"
        filtered-outside
        :selected="picked[picked.length - 1] ?? null"
        @select="pick"
      />
    </template>
    <template #sheet>
      <FamilySheet
        :studies="studies"
        :study="study"
        :base="base"
        :problem="problem"
        :members="members"
        :missing="missing.length"
        :chosen="chosen"
        @choose="choose"
        @run="run"
        @between="between"
        @keep="keep"
        @criteria="setCriteria"
      />
    </template>
  </AreaPage>
</template>
