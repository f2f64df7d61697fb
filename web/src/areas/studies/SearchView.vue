<script setup lang="ts">
import { computed, onMounted, watch } from 'vue';
import { inUnit, unitOf } from '@veldtwind/core/quantities';
import type { Try } from '@veldtwind/core/studies';
import { displayUnit } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import ParallelChart from '@/components/chart/ParallelChart.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import type { ChartSeries } from '@/lib/chart-model';
import type { ParallelAxis, ParallelLine, Ranges } from '@/lib/parallel';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import RunBar from './RunBar.vue';
import TryPanel from './TryPanel.vue';
import { useSearch, SENSES, type Aim } from './use-search';
import type { StudyRuns } from './use-runs';
import type { Study } from './use-study';

/** The least or greatest of one quantity under the brief's bands, or of two against each other: how the tries went, and the one that is chosen. */
const props = defineProps<{ study: Study; runs: StudyRuns; candidate: CandidatePart; ranges: Ranges }>();
const emit = defineEmits<{ ranges: [Ranges] }>();
const preferences = usePreferences();
const search = useSearch(props.study);
onMounted(() => props.runs.lookAtNewest());
watch(
  () => props.runs.list.value.length,
  () => props.runs.lookAtNewest(),
);

const PICTURES = [
  { id: 'history', name: 'History' },
  { id: 'scatter', name: 'Scatter' },
  { id: 'parallel', name: 'Parallel axes' },
] as const;
type Picture = (typeof PICTURES)[number]['id'];
const shown = computed(() => props.runs.shown.value);
const aims = computed(() =>
  (shown.value?.plan?.aim ?? []).flatMap((a) => {
    const answer = props.runs.answers.value.find((o) => o.key === a.id || o.response.id === a.id);
    return answer ? [{ ...answer, sense: a.sense }] : [];
  }),
);
const picture = computed<Picture>(() =>
  preferences.get<Picture>('study-picture', aims.value.length > 1 ? 'scatter' : 'history'),
);
const at = (key: string, t: Try): number | null => {
  const a = props.runs.answers.value.find((o) => o.key === key);
  const v = props.runs.valueOf(t, key);
  return a && v !== null ? inUnit(a.response, v, preferences.units) : null;
};
const nameOf = (key: string) => {
  const a = props.runs.answers.value.find((o) => o.key === key);
  return a ? { name: a.response.name, unit: unitOf(a.response, preferences.units) || undefined } : { name: '' };
};
const tries = computed(() => shown.value?.tries ?? []);
const own = computed(() => seriesStyle(props.candidate.style));
const dots = (
  id: string,
  label: string,
  colour: string,
  list: { x: number; y: number; tag: number }[],
): ChartSeries => ({
  id,
  label,
  style: { colour, dash: '', marker: 'disc' },
  points: list,
  dots: true,
});
/** The aim of each try, in their order, and the best so far. */
const history = computed<ChartSeries[]>(() => {
  const [aim] = aims.value;
  if (!aim) return [];
  const sign = aim.sense === 'least' ? 1 : -1;
  const point = (t: Try) => ({ x: t.index + 1, y: at(aim.key, t)!, tag: t.index });
  const known = tries.value.filter((t) => at(aim.key, t) !== null);
  const [held, missed] = [known.filter(props.runs.holds), known.filter((t) => !props.runs.holds(t))];
  const best: { x: number; y: number; tag: number }[] = [];
  for (const t of held) {
    const p = point(t);
    const last = best[best.length - 1];
    if (!last || sign * p.y < sign * last.y) best.push(...(last ? [{ ...last, x: p.x }] : []), p);
  }
  const last = best[best.length - 1];
  if (last) best.push({ ...last, x: tries.value.length });
  return [
    { id: 'best', label: 'best so far', style: { ...own.value, dash: '' }, points: best },
    dots('missed', 'infeasible', 'var(--faint)', missed.map(point)),
    dots('held', 'feasible', own.value.colour, held.map(point)),
  ].filter((s) => s.points.length > 0);
});
const over = computed(() => {
  const kept = preferences.get<{ x?: string; y?: string }>('study-scatter', {});
  const keys = props.runs.answers.value.map((a) => a.key);
  const pick = (id: string | undefined, other: string | undefined) => (id && keys.includes(id) ? id : other);
  const x = pick(kept.x, aims.value[0]?.key ?? keys[0]);
  return { x, y: pick(kept.y, aims.value[1]?.key ?? keys.find((k) => k !== x)) };
});
const scatter = computed<ChartSeries[]>(() => {
  const { x, y } = over.value;
  if (!x || !y) return [];
  const point = (t: Try) => ({ x: at(x, t)!, y: at(y, t)!, tag: t.index });
  const known = tries.value.filter((t) => at(x, t) !== null && at(y, t) !== null);
  const front = new Set(shown.value?.result?.front?.map((t) => t.index));
  const onFront = known
    .filter((t) => front.has(t.index))
    .map(point)
    .sort((a, b) => a.x - b.x);
  return [
    dots('missed', 'infeasible', 'var(--faint)', known.filter((t) => !props.runs.holds(t)).map(point)),
    dots(
      'held',
      'feasible',
      own.value.colour,
      known.filter((t) => props.runs.holds(t) && !front.has(t.index)).map(point),
    ),
    { id: 'front', label: 'non-dominated', style: { ...own.value, dash: '' }, points: onFront, markers: true },
  ].filter((s) => s.points.length > 0);
});
const axes = computed<ParallelAxis[]>(() => [
  ...props.runs.variables.value.map(({ variable }) => ({ id: variable.path, name: variable.label, digits: 3 })),
  ...props.runs.answers.value.map((a) => ({ id: a.key, name: a.response.name, digits: a.response.digits ?? 3 })),
]);
const lines = computed<ParallelLine[]>(() =>
  tries.value.map((t) => ({
    id: String(t.index),
    label: `Trial ${t.index + 1}`,
    style: props.runs.holds(t) ? own.value : { colour: 'var(--faint)', dash: '', marker: 'disc' as const },
    values: Object.fromEntries([
      ...props.runs.variables.value.map(({ variable, index }) => [
        variable.path,
        t.values[index] * displayUnit(variable.limit.dimension, preferences.units).scale,
      ]),
      ...props.runs.answers.value.map((a) => [a.key, at(a.key, t)]),
    ]) as Record<string, number | null>,
  })),
);
const options = computed(() => props.runs.answers.value.map((a) => ({ id: a.key, name: a.response.name })));
const setOver = (more: { x?: string; y?: string }) => preferences.set('study-scatter', { ...over.value, ...more });
const start = computed(() => props.runs.variables.value.map(({ index }) => tries.value[0]?.values[index]));
const told = computed(() => {
  const [aim] = aims.value;
  return aim ? `${SENSES[aim.sense]} ${aim.response.name}` : '';
});
const setAim = (i: number, more: Partial<Aim>) => search.setAim(i, more);
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col gap-2">
    <div class="flex flex-wrap items-center gap-2 text-[13px]">
      <span v-for="(aim, i) in search.aims.value" :key="i" class="flex items-center gap-1">
        <span v-if="i > 0" class="text-soft">and</span>
        <select
          class="rounded border border-rule bg-field px-1.5 py-[3px]"
          :aria-label="i === 0 ? 'Sense of the objective' : 'Sense of the second objective'"
          :value="aim.sense"
          @change="(e) => setAim(i, { sense: (e.target as HTMLSelectElement).value as Aim['sense'] })"
        >
          <option v-for="(name, id) in SENSES" :key="id" :value="id">{{ name }}</option>
        </select>
        <select
          class="max-w-56 rounded border border-rule bg-field px-1.5 py-[3px]"
          :aria-label="i === 0 ? 'Objective' : 'Second objective'"
          :data-test="`aim-${i}`"
          :value="aim.id"
          @change="(e) => setAim(i, { id: (e.target as HTMLSelectElement).value })"
        >
          <option v-if="i > 0" value="">remove</option>
          <option v-for="r in study.responses.value" :key="r.id" :value="r.id">{{ r.name }}</option>
        </select>
      </span>
      <button v-if="search.aims.value.length < 2" class="link text-[12.5px]" @click="search.addAim()">
        Add a second objective
      </button>
      <span class="flex-1" />
      <button
        class="btn btn-main"
        data-test="start-search"
        :disabled="study.chosen.value.length === 0"
        @click="search.start(runs.studies.start)"
      >
        Search
      </button>
    </div>
    <RunBar :runs="runs" />
    <p v-if="!shown" class="pt-2 text-[12.5px] text-soft">
      A search varies the numbers at the right within their bounds, and meets the brief’s requirements before all else.
      The server makes it: it goes on with this page closed.
    </p>
    <div v-else class="flex min-h-0 flex-1 gap-5">
      <div class="flex min-h-0 min-w-0 flex-1 flex-col">
        <ChipRow
          label="Figure"
          :options="PICTURES"
          :on="[picture]"
          test="study-picture"
          @pick="(id) => preferences.set('study-picture', id)"
        />
        <LineChart
          v-if="picture === 'history'"
          class="min-h-0 flex-1"
          chart-id="study-history"
          :title="told.replace(/^[a-z]/, (c) => c.toUpperCase())"
          subtitle="a point is a trial"
          :series="history"
          :x="{ name: 'trial' }"
          :y="aims[0] ? nameOf(aims[0].key) : { name: '' }"
          :tag="runs.chosen.value?.index ?? null"
          :digits="[0, 4]"
          @pick="(_, tag) => runs.pick(tag)"
        />
        <LineChart
          v-else-if="picture === 'scatter' && over.x && over.y"
          class="min-h-0 flex-1"
          chart-id="study-scatter"
          title="Trials"
          subtitle="a point is a trial"
          :series="scatter"
          :x="{ ...nameOf(over.x), options, value: over.x }"
          :y="{ ...nameOf(over.y), options, value: over.y }"
          :tag="runs.chosen.value?.index ?? null"
          @pick="(_, tag) => runs.pick(tag)"
          @update:x-quantity="(x) => setOver({ x })"
          @update:y-quantity="(y) => setOver({ y })"
        />
        <ParallelChart
          v-else
          class="min-h-0 flex-1"
          title="Variables and quantities of each trial"
          :lines="lines"
          :axes="axes"
          :ranges="ranges"
          :selected="runs.chosen.value ? String(runs.chosen.value.index) : null"
          @ranges="(r) => emit('ranges', r)"
          @pick="(id) => runs.pick(Number(id))"
        />
      </div>
      <div class="w-[300px] shrink-0 overflow-auto">
        <TryPanel :runs="runs" :start="start as number[]" />
      </div>
    </div>
  </div>
</template>
