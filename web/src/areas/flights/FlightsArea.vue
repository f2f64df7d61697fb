<script setup lang="ts">
import { useRafFn } from '@vueuse/core';
import { Pause, Play } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { massProperties } from '@veldtwind/core/balance';
import type { KeptFlight } from '@veldtwind/core/project';
import { FLIGHT_QUANTITIES, inUnit, unitOf, type FlightFacts } from '@veldtwind/core/quantities';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import NewMenu from '@/components/field/NewMenu.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { quantityColumns } from '@/lib/quantity-columns';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { COLUMNS, columnsOf, seriesOf, thinned } from './columns';
import FlightPath, { type PathLine } from '@/components/view3d/FlightPath.vue';
import ScenarioSheet from './ScenarioSheet.vue';
import { TEMPLATES } from './templates';
import { useFlights } from './use-flights';
import { useObserved } from './use-observed';
import { useScatter } from './use-scatter';
import ObservedFigure from './ObservedFigure.vue';
import ObservedGroup from './ObservedGroup.vue';
import ScatterGroup from './ScatterGroup.vue';
import TablesGroup from './TablesGroup.vue';

const project = useProject();
const preferences = usePreferences();
const flights = useFlights();
const scatter = useScatter(flights);
const observed = useObserved(flights);
const VIEWS = [
  { id: 'flown', name: 'Flown' },
  { id: 'observed', name: 'Observed' },
] as const;
const { picture } = observed;
const { active, list, part, flight, failure, stale } = flights;
const PLACES = 900;
const cursor = ref<number | null>(null);
const playing = ref(false);
const times = computed(() => (flight.value ? seriesOf(flight.value, 't') : []));
const end = computed(() => times.value.at(-1) ?? 0);
const now = ref(0);
const frames = useRafFn(
  ({ delta }) => {
    now.value += (delta / 1000) * rate.value;
    if (now.value >= end.value) [now.value, playing.value] = [end.value, false];
  },
  { immediate: false },
);
watch(playing, (on) => (on ? frames.resume() : frames.pause()));
const RATES = [0.25, 1, 4, 16].map((v) => ({ id: v, name: `${v} ×` }));
const rate = computed(() => preferences.get<number>('flight-rate', 1));
function play(): void {
  if (!playing.value && now.value >= end.value) now.value = 0;
  playing.value = !playing.value;
}
watch(cursor, (t) => {
  if (t !== null && !playing.value) now.value = t;
});
watch(end, (e) => (now.value = Math.min(now.value, e)));
const kept = computed(() => part.value?.kept ?? []);
const hidden = ref<string[]>([]);
const shownKept = computed(() => kept.value.filter((k) => !hidden.value.includes(k.id)));
const styleOf = (i: number) => seriesStyle((active.value?.style ?? 0) + 1 + i);
const picked = computed(() => thinned(times.value.length, PLACES));
const at = computed(() => {
  const t = times.value;
  let [low, high] = [0, picked.value.length - 1];
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (t[picked.value[mid]] <= now.value) low = mid;
    else high = mid - 1;
  }
  return low;
});
const lines = computed<PathLine[]>(() => {
  const line = (
    id: string,
    f: Pick<KeptFlight, 'columns' | 'series'>,
    places: number[],
    style: { colour: string; dash: string },
  ): PathLine => {
    const of = (name: string) => {
      const values = seriesOf(f, name);
      return places.map((i) => values[i]);
    };
    return {
      id,
      ...style,
      x: of('x'),
      y: of('y'),
      h: of('height'),
      phi: of('phi'),
      theta: of('theta'),
      psi: of('psi'),
    };
  };
  const out: PathLine[] = [];
  if (flight.value) out.push(line('now', flight.value, picked.value, seriesStyle(active.value?.style ?? 0)));
  shownKept.value.forEach((k, i) =>
    out.push(
      line(
        k.id,
        k,
        k.series[0].map((_, j) => j),
        styleOf(i),
      ),
    ),
  );
  return out;
});
const options = computed(() =>
  columnsOf(flight.value?.columns ?? []).map((c) => ({ id: c.id, name: c.quantity.name })),
);
const DEFAULTS = ['height', 'V', 'alpha', 'phi'];
const shown = computed(() => preferences.get<string[]>('flight-charts', DEFAULTS));
const columnOf = (id: string) => columnsOf(flight.value?.columns ?? []).find((c) => c.id === id) ?? COLUMNS[0];
const setChart = (i: number, id: string) =>
  preferences.set(
    'flight-charts',
    shown.value.map((v, k) => (k === i ? id : v)),
  );
const charts = computed(() =>
  shown.value.map((id, i) => {
    const column = columnOf(id);
    const { quantity } = column;
    const series: ChartSeries[] = [];
    // What rounding leaves is none.
    const points = (f: Pick<KeptFlight, 'columns' | 'series'>, places: number[]) => {
      const [t, v] = [seriesOf(f, 't'), seriesOf(f, column.id)];
      return v.length
        ? places.map((k) => ({
            x: t[k],
            y: Math.abs(v[k]) < 1e-10 ? 0 : inUnit(quantity, quantity.of({ [column.id]: v[k] })!, preferences.units),
            tag: t[k],
          }))
        : [];
    };
    if (flight.value)
      series.push({
        id: 'now',
        label: active.value?.letter ?? 'now',
        style: seriesStyle(active.value?.style ?? 0),
        markers: false,
        points: points(flight.value, picked.value),
      });
    shownKept.value.forEach((k, j) =>
      series.push({
        id: k.id,
        label: k.letter,
        style: styleOf(j),
        markers: false,
        points: points(
          k,
          k.series[0].map((_, n) => n),
        ),
      }),
    );
    const { name } = quantity;
    const y = { name, unit: unitOf(quantity, preferences.units), options: options.value, value: column.id };
    return { i, title: name.charAt(0).toUpperCase() + name.slice(1), series, y };
  }),
);
const summary = computed(() => flight.value?.summary ?? null);
const centre = computed(() => {
  try {
    const m = massProperties(active.value?.massItems ?? []);
    return { x: m?.centre.x ?? 0, z: m?.centre.z ?? 0 };
  } catch {
    return { x: 0, z: 0 };
  }
});
interface Row extends FlightFacts {
  id: string;
  name: string;
  ended: string;
}
const rows = computed<Row[]>(() => [
  ...(summary.value
    ? [
        {
          ...summary.value,
          id: 'now',
          name: `${active.value?.letter ?? ''} ${active.value?.name ?? ''}, now`,
          ended: summary.value.reason,
        },
      ]
    : []),
  ...kept.value.map((k) => ({
    ...k,
    name: `${k.name}${k.print === flights.print.value.slice(0, 80) ? ' (as now)' : ''}`,
  })),
]);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'flight', value: (r) => r.name, words: true },
  ...quantityColumns<Row, FlightFacts>(FLIGHT_QUANTITIES, (r) => r, preferences.units),
  { id: 'ended', title: 'how it ended', value: (r) => r.ended, words: true },
]);
const selected = ref<string | null>(null);
function toggle(id: string): void {
  selected.value = id;
}
function removeKept(): void {
  const id = selected.value;
  if (!id || id === 'now') return;
  flights.edit('Remove a kept flight', (p) => {
    p.kept = p.kept.filter((k) => k.id !== id);
  });
  selected.value = null;
}
function hideKept(): void {
  const id = selected.value;
  if (!id) return;
  hidden.value = hidden.value.includes(id) ? hidden.value.filter((h) => h !== id) : [...hidden.value, id];
}
const trimWords = computed(() => {
  const t = summary.value?.trim;
  if (!t) return '';
  const controls = Object.entries(t.controls).map(([n, d]) => `${n} ${formatNumber(d, 2)}°`);
  return `Begins in trim: α ${formatNumber(t.alphaDeg, 2)}°, climb ${formatNumber(t.climbDeg, 2)}°, throttle ${formatNumber(100 * t.throttle, 0)} %${controls.length ? `, ${controls.join(', ')}` : ''}.`;
});
</script>

<template>
  <AreaPage area="flights" title="Flights" question="How does it fly, from launch to landing?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0 || active.massItems.length === 0"
        title="Nothing that flies yet"
        text="A flight needs an airframe with mass."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'balance', params: { project: project.id! } }"
          >Give it mass</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <EmptyState
        v-else-if="!part"
        title="No scenario yet"
        text="A scenario says how a flight begins, what acts on it and who flies: every candidate can fly it."
      >
        <button
          v-for="t in TEMPLATES"
          :key="t.id"
          class="btn"
          :data-test="`scenario-${t.id}`"
          @click="flights.add(t.id)"
        >
          {{ t.name }}
        </button>
      </EmptyState>
      <div v-else class="flex h-full min-h-[430px] flex-col gap-1.5 px-5 py-2.5">
        <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
          <ChipRow
            label="Scenarios"
            :options="list.map((s) => ({ id: s.id, name: s.name }))"
            :on="[part.id]"
            test="scenario"
            @pick="flights.choose"
          />
          <ChipRow
            v-if="observed.observed.value"
            label="View"
            test="flight-view"
            :options="VIEWS"
            :on="[picture]"
            @pick="(id) => (picture = id)"
          />
          <NewMenu class="ml-auto" label="New scenario" :options="TEMPLATES" @pick="(id) => flights.add(id)" />
          <button class="btn" :disabled="!flight || stale" data-test="keep-flight" @click="flights.keep(false)">
            Keep this flight
          </button>
          <button
            v-if="flights.keptBefore.value"
            class="btn"
            :disabled="!flight || stale"
            data-test="keep-in-place"
            @click="flights.keep(true)"
          >
            Replace the last kept flight
          </button>
        </div>
        <p v-if="failure" class="text-clay" role="alert">
          {{ failure.message }} {{ 'hint' in failure ? failure.hint : '' }}
        </p>
        <p v-else-if="!flight" class="text-soft" role="status">The tables of the aerodynamics are being made…</p>
        <ObservedFigure v-if="picture === 'observed'" :of="observed" :flights="flights" />
        <div
          v-else-if="flight"
          class="grid min-h-0 flex-1 grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,1fr)] grid-rows-2 gap-x-5 gap-y-1"
        >
          <section class="row-span-2 flex min-h-0 flex-col">
            <div class="flex items-center gap-2">
              <h2 class="text-[16px] font-semibold">The path</h2>
              <button
                class="icon-btn"
                :aria-label="playing ? 'Stop' : 'Fly'"
                :title="playing ? 'Stop' : 'Fly'"
                data-test="play"
                @click="play"
              >
                <Pause v-if="playing" :size="14" /><Play v-else :size="14" />
              </button>
              <ChipRow
                label="Playback rate"
                :options="RATES"
                :on="[rate]"
                @pick="(v) => preferences.set('flight-rate', v)"
              />
            </div>
            <input
              v-model.number="now"
              class="w-full accent-(--ochre)"
              type="range"
              min="0"
              :max="end"
              :step="end / 600"
              aria-label="Time of the flight"
            />
            <p class="text-[12px] text-soft" data-test="flight-now">
              {{ formatNumber(now, 2) }} s<template v-if="lines[0]">
                · {{ formatQuantity(lines[0].h[at] ?? 0, 'altitude', preferences.units, 1) }}
                {{ displayUnit('altitude', preferences.units).symbol }} high</template
              >
            </p>
            <FlightPath
              :lines="lines"
              :at="at"
              :surfaces="active.surfaces"
              :centre="centre"
              :way-points="part.scenario.waypoints"
              :ends="scatter.lines.value.filter((l) => l.ended !== 'no-trim')"
            />
          </section>
          <LineChart
            v-for="c in charts"
            :key="c.i"
            :chart-id="`flight-${c.i}`"
            :title="c.title"
            :series="c.series"
            :x="{ name: 'time', unit: 's', zero: true }"
            :y="c.y"
            :tag="playing ? now : cursor"
            @cursor="(t) => (cursor = t)"
            @update:y-quantity="(id) => setChart(c.i, id)"
          />
        </div>
      </div>
    </template>
    <template #ledger>
      <div class="flex h-full flex-col">
        <p v-if="summary" class="px-4 pt-1.5 text-[12.5px]" data-test="flight-words" :class="{ 'opacity-60': stale }">
          <b>{{ summary.reason }}</b> {{ trimWords }} {{ ' '
          }}<span v-if="summary.leftRail">
            Leaves the rail after {{ formatNumber(summary.leftRail.t, 2) }} s at
            {{ formatQuantity(summary.leftRail.speed, 'speed', preferences.units) }}
            {{ displayUnit('speed', preferences.units).symbol }}.</span
          >
          <span v-for="w in summary.waypoints" :key="w.name"
            >{{ ' ' }}{{ w.name }} after {{ formatNumber(w.t, 1) }} s.</span
          >
          <span v-for="n in summary.notes" :key="n" class="text-clay">{{ ' ' }}{{ n }}</span>
        </p>
        <LedgerTable
          class="min-h-0 flex-1"
          :rows="rows"
          :columns="columns"
          label="This flight and those kept"
          file-name="veldtwind-flights"
          :selected="selected"
          @select="toggle"
        />
        <p v-if="selected && selected !== 'now'" class="flex gap-4 px-4 pb-2 text-[13px]">
          <button class="link" @click="hideKept">{{ hidden.includes(selected) ? 'Draw it' : 'Do not draw it' }}</button>
          <button class="link" @click="removeKept">Remove it</button>
        </p>
      </div>
    </template>
    <template #sheet>
      <template v-if="part && active">
        <ScenarioSheet :key="part.id" :flights="flights" />
        <TablesGroup :flights="flights" />
        <ObservedGroup :of="observed" />
        <ScatterGroup :scatter="scatter" />
        <SheetGroup v-if="flights.needs.value.length" title="Polars of the strips">
          <PolarNeeds
            :needs="flights.needs.value"
            :missing="flights.missing.value"
            :seconds="flights.polars.secondsFor(flights.missing.value)"
            @compute="flights.polars.compute(flights.missing.value, `Polars for Flights, ${active.letter}`)"
          />
        </SheetGroup>
        <p class="pt-2 text-[12px] text-soft" role="status" data-test="flight-made">
          {{
            flights.withPolars.value
              ? 'tables with the polars of the sections'
              : 'tables without viscosity: it does not stall'
          }}, {{ formatNumber(flights.tables.ms.value, 0) }} ms; the flight
          {{ formatNumber(flights.run.ms.value, 0) }} ms
        </p>
      </template>
    </template>
  </AreaPage>
</template>
