<script setup lang="ts">
import { computed, ref } from 'vue';
import type { ComparedResponse } from '@veldtwind/core/estimation';
import { DEG } from '@veldtwind/core/numerics';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartPoint, ChartSeries } from '@/lib/chart-model';
import { OUTPUTS, type RecordStyles } from './words';

/** How one measured quantity answers a swept control over frequency: gain, phase and coherence, beside the linear motion. */
const props = defineProps<{ response: ComparedResponse; styles: RecordStyles }>();
/** Below it noise, or what is not linear, covers the response. */
const SOUND = 0.6;
const tag = ref<number | null>(null);
type Place = { gain: number; phase: number };
const curve = (name: 'estimated' | 'predicted', places: Place[], of: (p: Place) => number): ChartSeries => ({
  id: name,
  label: name,
  style: props.styles[name],
  markers: false,
  points: places.map((p, i) => ({ x: props.response.points[i].omega, y: of(p), tag: props.response.points[i].omega })),
});
const both = (of: (p: Place) => number): ChartSeries[] => [
  {
    id: 'recorded',
    label: 'recorded',
    style: { colour: 'var(--ink)', dash: '', marker: 'disc' },
    dots: true,
    points: props.response.points.map((p): ChartPoint => ({
      x: p.omega,
      y: of(p),
      tag: p.omega,
      status: p.coherence < SOUND ? 'doubtful' : 'solved',
    })),
  },
  curve('estimated', props.response.estimated, of),
  curve('predicted', props.response.predicted, of),
];
const charts = computed(() => {
  const { output, control, points } = props.response;
  const x = { name: 'frequency', unit: 'rad/s', scale: 'log' as const };
  return [
    {
      id: 'gain',
      title: `${OUTPUTS[output].name} per ${control}`,
      series: both((p) => 20 * Math.log10(p.gain)),
      x,
      y: { name: 'gain', unit: 'dB' },
    },
    { id: 'phase', title: 'Phase', series: both((p) => p.phase * DEG), x, y: { name: 'phase', unit: '°' } },
    {
      id: 'coherence',
      title: 'Coherence',
      series: [
        {
          id: 'coherence',
          label: 'coherence',
          style: { colour: 'var(--ink)', dash: '', marker: 'disc' as const, width: 1.5 },
          markers: false,
          points: points.map((p) => ({ x: p.omega, y: p.coherence, tag: p.omega })),
        },
      ],
      x,
      y: { name: 'γ²', zero: true },
    },
  ];
});
</script>

<template>
  <div
    class="grid min-h-0 flex-1 grid-rows-[1.15fr_1fr_1fr] gap-y-1 @max-[600px]:h-[560px]"
    data-test="frequency-charts"
  >
    <LineChart
      v-for="c in charts"
      :key="c.id"
      nameless
      :chart-id="`record-${c.id}`"
      :title="c.title"
      :series="c.series"
      :x="c.x"
      :y="c.y"
      :tag="tag"
      :digits="[2, 2]"
      @cursor="(t) => (tag = t)"
    />
  </div>
</template>
