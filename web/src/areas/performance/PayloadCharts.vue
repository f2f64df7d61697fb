<script setup lang="ts">
import { computed } from 'vue';
import type { MassRange } from '@veldtwind/core/performance';
import { displayUnit } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { usePreferences } from '@/store/preferences';

/** Range and endurance over the mass: what payload costs for the same energy. */
const props = defineProps<{
  payload: MassRange[];
  /** As it is, kg. */
  mass: number;
  missing: string;
  letter: string;
}>();
const preferences = usePreferences();
const unit = computed(() => displayUnit('mass', preferences.units));
const KINDS = [
  {
    id: 'range',
    title: 'Range against mass',
    name: 'range',
    unit: 'km',
    of: (m: MassRange) => m.range && m.range / 1000,
  },
  {
    id: 'time',
    title: 'Endurance against mass',
    name: 'endurance',
    unit: 'min',
    of: (m: MassRange) => m.time && m.time / 60,
  },
] as const;
const seriesOf = (of: (m: MassRange) => number | null): ChartSeries[] => [
  {
    id: 'payload',
    label: props.letter,
    style: { colour: 'var(--ochre)', dash: '', marker: 'disc' },
    markers: true,
    points: props.payload.flatMap((m) => {
      const y = of(m);
      return y === null ? [] : [{ x: m.mass * unit.value.scale, y, tag: m.mass }];
    }),
  },
];
/** Where it stands now: one of the masses. */
const marksOf = (of: (m: MassRange) => number | null): ChartMark[] => {
  const now = props.payload.find((m) => Math.abs(m.mass / props.mass - 1) < 1e-6);
  const y = now ? of(now) : null;
  return now && y !== null ? [{ x: now.mass * unit.value.scale, y, text: 'current mass', colour: 'var(--clay)' }] : [];
};
</script>

<template>
  <p v-if="payload.length === 0" class="pt-4 text-soft" role="status">{{ missing }}</p>
  <div v-else class="grid min-h-0 flex-1 grid-cols-2 gap-4">
    <LineChart
      v-for="k in KINDS"
      :key="k.id"
      :chart-id="`performance-payload-${k.id}`"
      :title="k.title"
      subtitle="same energy, each mass at its best speed"
      :series="seriesOf(k.of)"
      :marks="marksOf(k.of)"
      :x="{ name: 'mass', unit: unit.symbol }"
      :y="{ name: k.name, unit: k.unit, zero: true }"
    />
  </div>
</template>
