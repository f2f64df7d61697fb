<script setup lang="ts">
import { computed } from 'vue';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { usePreferences } from '@/store/preferences';
import type { useControl } from './use-control';

/** The margins of a loop over speed, a curve a loading, with the derivative that costs most and what is aimed at. */
const props = defineProps<{ control: ReturnType<typeof useControl> }>();
const preferences = usePreferences();
const STROKES = [
  { colour: 'var(--ochre)', dash: '', marker: 'disc' },
  { colour: 'var(--sky)', dash: '', marker: 'square' },
  { colour: 'var(--grass)', dash: '', marker: 'disc' },
  { colour: 'var(--ink)', dash: '', marker: 'square' },
] as const;
/** A margin over speed, a curve a loading; dashed with the derivative that costs most, and what is aimed at. */
function overSpeed(of: 'gainMarginDb' | 'phaseMarginDeg', aim: number): ChartSeries[] {
  const points = props.control.reach.value.value ?? [];
  const times = displayUnit('speed', preferences.units).scale;
  const loadings = [...new Set(points.map((p) => p.loading))];
  const speeds = points.map((p) => p.speed * times);
  const line = (loading: string | null, key: 'as' | 'worst', i: number): ChartSeries => ({
    id: `${key}-${loading ?? ''}`,
    label: key === 'as' ? (loading ?? 'all items') : i === 0 ? '20 % off' : '',
    style: { ...STROKES[i % STROKES.length], dash: key === 'as' ? '' : '4 4' },
    markers: key === 'as',
    reference: key === 'worst',
    points: points.flatMap((p) => {
      const v = p.loading === loading ? p[key]?.[of] : null;
      return v == null ? [] : [{ x: p.speed * times, y: Math.abs(v) * (p[key]!.stable ? 1 : -1) }];
    }),
  });
  return [
    ...(points.length
      ? [
          {
            id: 'aim',
            label: 'aimed at',
            style: { colour: 'var(--clay)', dash: '2 3', marker: 'disc' as const },
            markers: false,
            reference: true,
            points: [Math.min(...speeds), Math.max(...speeds)].map((x) => ({ x, y: aim })),
          },
        ]
      : []),
    ...loadings.flatMap((l, i) => [line(l, 'worst', i), line(l, 'as', i)]),
  ];
}
const phaseReach = computed(() => overSpeed('phaseMarginDeg', props.control.settings.value.aims.phaseMarginDeg));
const gainReach = computed(() => overSpeed('gainMarginDb', props.control.settings.value.aims.gainMarginDb));
const speedAxis = computed(() => ({ name: 'speed', unit: displayUnit('speed', preferences.units).symbol }));
/** The flight with the least phase margin of all. */
const reachWords = computed(() => {
  const points = props.control.reach.value.value ?? [];
  const [sym, times] = [speedAxis.value.unit, displayUnit('speed', preferences.units).scale];
  const there = (p: (typeof points)[number]) =>
    `${formatNumber(p.speed * times, 1)} ${sym}${p.loading ? `, ${p.loading}` : ''}`;
  const rank = (p: (typeof points)[number]) => (p.worst!.stable ? 0 : -1e6) + Math.abs(p.worst!.phaseMarginDeg ?? 180);
  const flown = points.filter((p) => p.worst).sort((a, b) => rank(a) - rank(b));
  const failed = points.filter((p) => p.failure);
  const w = flown[0];
  const said = !w
    ? ''
    : `Worst at ${there(w)}${w.worst!.name ? `, with ${w.worst!.name.replace('_', ' ')} ${w.worst!.by > 0 ? '+' : '−'}20 %` : ''}: ${
        !w.worst!.stable
          ? 'not stable'
          : w.worst!.phaseMarginDeg === null
            ? 'it crosses nowhere'
            : `${formatNumber(Math.abs(w.worst!.phaseMarginDeg), 0)}° left`
      }.`;
  return failed.length ? `${said} It does not fly at ${failed.map(there).join('; ')}: ${failed[0].failure}` : said;
});
</script>

<template>
  <div class="row-span-2 flex min-h-0 flex-col gap-1">
    <LineChart
      class="flex-1"
      chart-id="control-phase-speed"
      title="Phase margin over speed"
      :subtitle="control.reach.waiting.value ? 'being computed …' : reachWords"
      :series="phaseReach"
      :x="speedAxis"
      :y="{ name: 'phase margin', unit: '°', zero: true }"
    />
    <LineChart
      class="flex-1"
      chart-id="control-gain-speed"
      title="Gain margin over speed"
      subtitle="below zero where the loop is not stable"
      :series="gainReach"
      :x="speedAxis"
      :y="{ name: 'gain margin', unit: 'dB', zero: true }"
    />
  </div>
</template>
