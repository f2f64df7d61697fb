<script setup lang="ts">
import { computed } from 'vue';
import type { PerformanceLimits } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import type { Turn, TurnLimit } from '@veldtwind/core/performance';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { usePreferences } from '@/store/preferences';

/** The tightest level turns over speed: those that the engine holds, and those that stall and structure allow. */
const props = defineProps<{ limits: PerformanceLimits; letter: string }>();
const preferences = usePreferences();
const speedUnit = computed(() => displayUnit('speed', preferences.units));
const lengthUnit = computed(() => displayUnit('length', preferences.units));
const LIMITED: Record<TurnLimit, string> = {
  stall: 'stall',
  travel: 'control limit',
  structure: 'structure',
  power: 'power',
};
const KINDS = [
  { key: 'sustained', label: 'sustained', style: { colour: 'var(--ochre)', dash: '', marker: 'disc' } },
  { key: 'instantaneous', label: 'instantaneous', style: { colour: 'var(--sky)', dash: '6 3', marker: 'square' } },
] as const;
/** Turns that are this much wider than the tightest do not settle the limits of the figure. */
const WIDE = 5;
const least = computed(() => Math.min(...props.limits.turnCurve.instantaneous.map((t) => t.radius)));
const seriesOf = (of: (t: Turn) => number): ChartSeries[] =>
  KINDS.map(({ key, label, style }) => ({
    id: key,
    label,
    style,
    markers: false,
    points: props.limits.turnCurve[key].map((t) => ({
      x: t.speed * speedUnit.value.scale,
      y: of(t),
      tag: t.speed,
      aside: of === radius && t.radius > WIDE * least.value,
    })),
  }));
const rate = (t: Turn) => t.rate * DEG;
const radius = (t: Turn) => t.radius * lengthUnit.value.scale;
const mark = (t: Turn | null, of: (t: Turn) => number, word: string): ChartMark[] =>
  t
    ? [{ x: t.speed * speedUnit.value.scale, y: of(t), text: `${word}, by ${LIMITED[t.by]}`, colour: 'var(--clay)' }]
    : [];
const marks = computed(() => ({
  rate: mark(
    props.limits.turns.sustained.quickest,
    rate,
    `${formatNumber(props.limits.turns.sustained.quickest ? rate(props.limits.turns.sustained.quickest) : 0, 0)} °/s`,
  ),
  radius: mark(
    props.limits.turns.sustained.tightest,
    radius,
    `${formatNumber(props.limits.turns.sustained.tightest ? radius(props.limits.turns.sustained.tightest) : 0, 1)} ${lengthUnit.value.symbol}`,
  ),
}));
</script>

<template>
  <div class="grid min-h-0 flex-1 grid-cols-2 gap-4">
    <LineChart
      chart-id="performance-turn-rate"
      title="Turn rate"
      :subtitle="`${letter}, level turns. Sustained: thrust equals drag`"
      :series="seriesOf(rate)"
      :marks="marks.rate"
      :x="{ name: 'speed', unit: speedUnit.symbol }"
      :y="{ name: 'turn rate', unit: '°/s', zero: true }"
    />
    <LineChart
      chart-id="performance-turn-radius"
      title="Turn radius"
      :series="seriesOf(radius)"
      :marks="marks.radius"
      :x="{ name: 'speed', unit: speedUnit.symbol }"
      :y="{ name: 'radius', unit: lengthUnit.symbol, zero: true }"
    />
  </div>
</template>
