<script setup lang="ts">
import { computed } from 'vue';
import type { LoadEnvelope } from '@veldtwind/core/performance';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { usePreferences } from '@/store/preferences';

/** Load factor over equivalent airspeed: manoeuvres and gusts. */
const props = defineProps<{ loads: LoadEnvelope; letter: string }>();
const preferences = usePreferences();
const unit = computed(() => displayUnit('speed', preferences.units));
const at = (v: number) => v * unit.value.scale;
const series = computed<ChartSeries[]>(() => [
  {
    id: 'manoeuvre',
    label: 'manoeuvre',
    style: { colour: 'var(--ochre)', dash: '', marker: 'disc', width: 2 },
    markers: false,
    points: props.loads.manoeuvre.map((p) => ({ x: at(p.speed), y: p.n })),
  },
  ...props.loads.gusts.flatMap((g) =>
    (['up', 'down'] as const).map((way): ChartSeries => ({
      id: `${g.at}-${way}`,
      label: `${way === 'up' ? '+' : '−'}${formatNumber(at(g.gust), 1)} ${unit.value.symbol} gust`,
      style: { colour: 'var(--sky)', dash: '6 3', marker: 'square', width: 1.3 },
      markers: false,
      points: [
        { x: 0, y: 1 },
        { x: at(g.speed), y: g[way] },
      ],
    })),
  ),
]);
const marks = computed<ChartMark[]>(() => {
  const { stall, manoeuvring, manoeuvre } = props.loads;
  const greatest = Math.max(...manoeuvre.map((p) => p.n));
  return [
    ...(stall === null ? [] : [{ x: at(stall), y: 1, text: 'stall speed', colour: 'var(--clay)' }]),
    ...(manoeuvring === null
      ? []
      : [{ x: at(manoeuvring), y: greatest, text: 'manoeuvring speed', colour: 'var(--clay)' }]),
  ];
});
</script>

<template>
  <LineChart
    chart-id="performance-loads"
    class="flex-1"
    title="V–n diagram"
    :subtitle="`${letter}, manoeuvre and gust envelope by 14 CFR 23.333 and 23.341 (1996)`"
    :series="series"
    :marks="marks"
    :x="{ name: 'equivalent airspeed', unit: unit.symbol, zero: true }"
    :y="{ name: 'load factor' }"
  />
</template>
