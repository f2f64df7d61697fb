<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { inUnit, textOf, unitOf } from '@veldtwind/core/quantities';
import { answerKey, type Variable } from '@veldtwind/core/studies';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { METHOD_NAMES } from '@/store/assumptions';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { Ranges } from '@/lib/parallel';
import SwitchRow from '@/components/field/SwitchRow.vue';
import EffectsTable from './EffectsTable.vue';
import MapGroup from './MapGroup.vue';
import MapLedger from './MapLedger.vue';
import MapView from './MapView.vue';
import SearchView from './SearchView.vue';
import SolutionPanel from './SolutionPanel.vue';
import SpreadView from './SpreadView.vue';
import TriesLedger from './TriesLedger.vue';
import VariablesGroup from './VariablesGroup.vue';
import { valueText } from './tried-text';
import { useMap } from './use-map';
import { useRuns } from './use-runs';
import { BUDGET_LIMIT, useSearch } from './use-search';
import { SAMPLES_LIMIT, useSpread } from './use-spread';
import { answerFor, useStudy, valueIn } from './use-study';

/** What numbers of a candidate do to the brief's bands: by steps, over ranges, at their best, and with what is uncertain. */
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const VIEWS = [
  { id: 'effects', name: 'Sensitivities' },
  { id: 'map', name: 'Map' },
  { id: 'search', name: 'Search' },
  { id: 'spread', name: 'Uncertainty' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const view = computed(() => preferences.get<View>('study-view', 'effects'));
const study = useStudy(() => view.value === 'effects');
const map = useMap(study, () => view.value === 'map');
const search = useSearch(study);
const spread = useSpread(study);
const searches = useRuns(study, 'search');
const spreads = useRuns(study, 'spread');
// Whoever asked what moves a quantity is shown that, and the address is then that of the area.
const result = computed(() => study.effects.value.result);
const wanted = ref(false);
const route = useRoute();
const router = useRouter();
watch(
  () => route.query.of,
  (of) => {
    if (typeof of !== 'string') return;
    study.setFocus(of);
    preferences.set('study-view', 'effects');
    const { of: _, solve, ...query } = route.query;
    if (solve) wanted.value = true;
    void router.replace({ query });
  },
  { immediate: true },
);
// Whoever asked what would meet a requirement is told as soon as there is something to solve.
watch(
  () => wanted.value && result.value !== null,
  (ready) => {
    if (!ready) return;
    wanted.value = false;
    void study.solve();
  },
);
const ranges = ref<Ranges>({});
const madeOfTries = computed(
  () => METHOD_NAMES[(view.value === 'search' ? searches : spreads).shown.value?.method ?? 'lattice'],
);
const active = computed(() => workbench.active);
const made = computed(() => METHOD_NAMES[study.method.value]);
const madeOfEffects = computed(() => {
  const { method, provisional } = study.effects.value;
  return `${METHOD_NAMES[method]}${provisional ? ', provisional' : ''}`;
});
const failure = computed(() => study.effects.value.failure);
const rows = computed(() =>
  study.chosen.value.flatMap((c) => {
    const variable = study.variableOf(c.path);
    return variable ? [{ ...c, variable }] : [];
  }),
);
interface Row {
  id: string;
  label: string;
  step: string;
  effects: (number | null)[];
}
const ledger = computed<Row[]>(() =>
  rows.value.map(({ path, variable }) => ({
    id: path,
    label: variable.label,
    step: stepText(variable),
    effects: study.asked.value.map(
      (a) =>
        result.value?.effects?.find((e) => e.variable === path && e.answer === answerKey(answerFor(a)))?.perStep ??
        null,
    ),
  })),
);
const stepText = (v: Variable) => valueText(v, v.step, preferences.units);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'label', title: 'variable', value: (r) => r.label, words: true },
  { id: 'step', title: 'step', value: (r) => r.step, words: true },
  ...study.asked.value.map((a, i): LedgerColumn<Row> => ({
    id: a.key,
    title: a.response.name,
    unit: unitOf(a.response, preferences.units) || undefined,
    value: (r) => (r.effects[i] === null ? null : inUnit(a.response, r.effects[i], preferences.units)),
    text: (r) =>
      r.effects[i] === null
        ? '—'
        : formatNumber(Number(inUnit(a.response, r.effects[i], preferences.units).toPrecision(3)), 5),
  })),
]);
</script>

<template>
  <AreaPage area="studies" title="Studies" question="What if, and what is best?">
    <template #figure>
      <EmptyState
        v-if="!active || !study.candidate.value"
        title="No airframe with a mass yet"
        text="A study varies numbers of a candidate that flies: it needs a wing and mass items."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'airframe', params: { project: project.id! } }"
          >Draw a wing</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <p v-else-if="failure" class="px-6 pt-6 text-clay" role="alert">{{ failure.message }} {{ failure.hint }}</p>
      <div v-else class="flex h-full min-h-[330px] flex-col gap-2 overflow-auto px-5 pt-3 pb-2">
        <ChipRow
          label="View"
          :options="VIEWS"
          :on="[view]"
          test="study-view"
          @pick="(id) => preferences.set('study-view', id)"
        />
        <MapView v-if="view === 'map'" :study="study" :map="map" :candidate="active" :made="made" />
        <SearchView
          v-else-if="view === 'search'"
          :study="study"
          :runs="searches"
          :candidate="active"
          :ranges="ranges"
          @ranges="(r) => (ranges = r)"
        />
        <SpreadView v-else-if="view === 'spread'" :study="study" :runs="spreads" :spread="spread" />
        <SolutionPanel v-if="view === 'effects'" :study="study" class="mb-1" />
        <EffectsTable
          v-if="view === 'effects' && result"
          :study="study"
          :result="result"
          :made="madeOfEffects"
          :stale="study.effects.value.stale"
          :progress="study.effects.value.progress"
          :step-text="stepText"
        />
        <p v-else-if="view === 'effects'" class="pt-4 text-soft" role="status">
          {{
            study.chosen.value.length
              ? `Computing… ${Math.round(100 * (study.effects.value.progress ?? 0))} %`
              : 'Choose a variable.'
          }}
        </p>
      </div>
    </template>
    <template #ledger>
      <TriesLedger
        v-if="view === 'search' || view === 'spread'"
        :runs="view === 'search' ? searches : spreads"
        :ranges="view === 'search' ? ranges : undefined"
        :label="`Trials of ${(view === 'search' ? searches : spreads).shown.value?.study.name ?? 'no study yet'}`"
        :made="madeOfTries"
      />
      <MapLedger
        v-else-if="view === 'map'"
        :study="study"
        :map="map"
        :label="`Map of ${active?.letter ?? ''} ${active?.name ?? ''}`"
        :made="map.provisional.value ? METHOD_NAMES.lattice : made"
      />
      <LedgerTable
        v-else
        :rows="ledger"
        :columns="columns"
        :label="`Sensitivities of ${active?.letter ?? ''} ${active?.name ?? ''}, change per step`"
        file-name="veldtwind-sensitivities"
        :made="madeOfEffects"
      />
    </template>
    <template #sheet>
      <template v-if="study.candidate.value">
        <MapGroup v-if="view === 'map'" :study="study" :map="map" />
        <VariablesGroup v-else :study="study" :spread="view === 'spread' ? spread : undefined" />
        <SheetGroup v-if="view === 'search' || view === 'spread'" title="Trials">
          <LimitField
            v-if="view === 'search'"
            :limit="BUDGET_LIMIT"
            :model-value="search.budget.value"
            @commit="(v) => v !== null && search.change({ budget: v })"
          />
          <LimitField
            v-else
            :limit="SAMPLES_LIMIT"
            :model-value="spread.samples.value"
            @commit="(v) => v !== null && spread.setSamples(v)"
          />
        </SheetGroup>
        <SheetGroup title="Quantities">
          <p class="text-[12px] text-soft">The brief’s requirements, and more for comparison.</p>
          <SwitchRow
            v-if="view !== 'effects'"
            label="Include performance (1 s per trial)"
            :model-value="study.performance.value"
            @update:model-value="study.setPerformance"
          />
          <ul class="mt-1 text-[13px]">
            <li
              v-for="a in view === 'effects' ? study.asked.value : study.everything.value"
              :key="a.key"
              class="flex justify-between gap-2 py-[2px]"
            >
              <span class="text-soft">{{ a.response.name.replace(/^[a-z]/, (c) => c.toUpperCase()) }}</span>
              <span v-if="result && view === 'effects'" class="tabular-nums"
                >{{ textOf(a.response, valueIn(result, result.tries[0]?.answers ?? [], a), preferences.units) }}
                {{ unitOf(a.response, preferences.units) }}</span
              >
            </li>
          </ul>
        </SheetGroup>
      </template>
    </template>
  </AreaPage>
</template>
