<script setup lang="ts">
import { computed, ref } from 'vue';
import type { ComparedResponse } from '@veldtwind/core/estimation';
import { DEG } from '@veldtwind/core/numerics';
import { displayUnit } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import ChipRow from '@/components/field/ChipRow.vue';
import EstimateTable from './EstimateTable.vue';
import FrequencyCharts from './FrequencyCharts.vue';
import type { FlightRecord } from './use-record';
import { OUTPUTS, type RecordStyles } from './words';

/** What was recorded in a flight beside what the predicted and the estimated derivatives make of it. */
const props = defineProps<{ of: FlightRecord; candidate: CandidatePart }>();
const preferences = usePreferences();
const { record, found, live } = props.of;
const PLACES = 500;
const tag = ref<number | null>(null);
const speedUnit = computed(() => displayUnit('speed', preferences.units));
const start = computed(() => record.value?.from ?? 0);
/** At most so many places, evenly, of lists as long as the time. */
const places = computed(() => {
  const n = found.value?.t.length ?? 0;
  const each = Math.max(1, Math.ceil(n / PLACES));
  return Array.from({ length: Math.ceil(n / each) }, (_, i) => i * each);
});
const line = (values: readonly number[], scale: number) => {
  const { t } = found.value!;
  return places.value.map((i) => ({ x: t[i] + start.value, y: values[i] * scale, tag: t[i] }));
};
const OVER = [
  { id: 'time', name: 'Time' },
  { id: 'frequency', name: 'Frequency' },
] as const;
/** Over frequency where a control is swept. */
const over = computed(() =>
  found.value?.frequency.length ? preferences.get<'time' | 'frequency'>('record-over', 'time') : 'time',
);
const answerOf = (r: ComparedResponse) => `${r.output}-${r.control}`;
const swept = computed(() => found.value?.frequency ?? []);
const answers = computed(() => {
  const several = new Set(swept.value.map((r) => r.control)).size > 1;
  return swept.value.map((r) => ({
    id: answerOf(r),
    name: several ? `${OUTPUTS[r.output].name}, ${r.control}` : OUTPUTS[r.output].name,
  }));
});
const picked = ref('');
/** The response that is looked at: that of the rate, unless another is chosen. */
const shown = computed(
  () =>
    swept.value.find((r) => answerOf(r) === picked.value) ??
    swept.value.find((r) => r.output === 'q' || r.output === 'p') ??
    swept.value[0],
);
const STYLES = computed<RecordStyles>(() => {
  const { colour } = seriesStyle(props.candidate.style);
  return {
    recorded: { colour: 'var(--rule)', dash: '', marker: 'disc', width: 4 },
    estimated: { colour, dash: '', marker: 'disc', width: 1.8 },
    predicted: { colour: 'var(--sky)', dash: '4 3', marker: 'disc', width: 1.6 },
  };
});
const charts = computed(() =>
  (found.value?.outputs ?? []).map((o) => {
    const { name, symbol, unit } = OUTPUTS[o.name];
    const scale = unit ? DEG : speedUnit.value.scale;
    const predicted = found.value!.predicted.find((p) => p.name === o.name);
    const series: ChartSeries[] = [
      {
        id: 'recorded',
        label: 'recorded',
        style: STYLES.value.recorded,
        markers: false,
        points: line(o.measured, scale),
      },
      {
        id: 'estimated',
        label: 'estimated',
        style: STYLES.value.estimated,
        markers: false,
        points: line(o.estimated, scale),
      },
      ...(predicted
        ? [
            {
              id: 'predicted',
              label: 'predicted',
              style: STYLES.value.predicted,
              markers: false,
              points: line(predicted.values, scale),
            },
          ]
        : []),
    ];
    return {
      id: o.name,
      name,
      y: { name: symbol, unit: unit ?? speedUnit.value.symbol },
      series,
    };
  }),
);
const STROKES = ['sky', 'ochre', 'plum', 'grass', 'clay', 'ink'];
const deflections = computed<ChartSeries[]>(() => {
  const r = record.value;
  if (!r || !found.value) return [];
  const first = r.t.findIndex((v) => v >= start.value);
  return Object.entries(r.controls).map(([name, values], i) => ({
    id: name,
    label: name,
    style: { colour: `var(--${STROKES[i % STROKES.length]})`, dash: ['', '7 4', '2 3'][i % 3], marker: 'disc' },
    markers: false,
    points: line(values.slice(first), DEG),
  }));
});
</script>

<template>
  <div class="flex h-full min-h-[510px] flex-col px-5 py-3 @max-[600px]:h-auto">
    <div class="flex flex-wrap items-baseline gap-x-5">
      <h2 class="sr-only">Flight record</h2>
      <ul v-if="found" class="flex gap-3 text-[12.5px] text-soft" aria-label="Legend">
        <li v-for="(style, name) in STYLES" :key="name" class="flex items-center gap-1.5">
          <svg width="22" height="8" aria-hidden="true">
            <line
              x2="22"
              y1="4"
              y2="4"
              :style="`stroke:${style.colour}`"
              :stroke-width="style.width"
              :stroke-dasharray="style.dash"
            />
          </svg>
          {{ name }}
        </li>
      </ul>
      <span class="ml-auto"><slot /></span>
    </div>
    <p v-if="!record" class="mt-2 text-[13px] text-soft" role="status">
      No flight is recorded yet. Read a CSV under “Flight record” at the right: time, responses and deflections.
    </p>
    <p v-else-if="live.failure.value" class="mt-2 text-[13px] text-clay" role="alert" data-test="record-failure">
      {{ live.failure.value.message }} {{ live.failure.value.hint }}
    </p>
    <p v-else-if="!found" class="mt-2 text-[13px] text-soft" role="status">The derivatives are being estimated…</p>
    <div
      v-else
      class="mt-1 grid min-h-0 flex-1 grid-cols-[minmax(0,1.45fr)_minmax(0,1fr)] gap-x-5 @max-[600px]:grid-cols-[minmax(0,1fr)]"
    >
      <div class="flex min-h-0 flex-col gap-1">
        <div v-if="found.frequency.length" class="flex flex-wrap gap-x-4 gap-y-1">
          <ChipRow
            label="Horizontal axis"
            :options="OVER"
            :on="[over]"
            test="record-over"
            @pick="(id) => preferences.set('record-over', id)"
          />
          <ChipRow
            v-if="over === 'frequency' && shown"
            label="Response"
            test="frequency"
            :options="answers"
            :on="[answerOf(shown)]"
            @pick="(id) => (picked = id)"
          />
        </div>
        <FrequencyCharts v-if="over === 'frequency' && shown" :response="shown" :styles="STYLES" />
        <div
          v-else
          class="grid min-h-0 flex-1 auto-rows-fr grid-cols-2 gap-x-3 gap-y-1 @max-[600px]:h-[560px]"
          data-test="record-charts"
        >
          <LineChart
            v-for="c in charts"
            :key="c.id"
            :chart-id="`record-${c.id}`"
            :title="c.name"
            nameless
            :series="c.series"
            :x="{ name: 'time', unit: 's' }"
            :y="c.y"
            :tag="tag"
            :digits="[2, 2]"
            @cursor="(t) => (tag = t)"
          />
          <LineChart
            :class="{ 'col-span-2': charts.length % 2 === 0 }"
            chart-id="record-deflections"
            title="Deflections"
            :series="deflections"
            :x="{ name: 'time', unit: 's' }"
            :y="{ name: 'δ', unit: '°', zero: true }"
            :tag="tag"
            :digits="[2, 2]"
            @cursor="(t) => (tag = t)"
          />
        </div>
      </div>
      <section class="min-h-0 overflow-y-auto">
        <EstimateTable :found="found" :stale="live.stale.value" @use="of.use" />
      </section>
    </div>
  </div>
</template>
