<script setup lang="ts">
import { computed } from 'vue';
import { inputsOfGround } from '@veldtwind/core/candidate';
import type { GroundState, GroundSweep } from '@veldtwind/core/lift';
import { DEG } from '@veldtwind/core/numerics';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { useLiveEach } from '@/lib/live-each';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** Level flight close to the ground: drag, angle, slope of lift and margin over the height, against free air. */
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const unit = computed(() => displayUnit('length', preferences.units));
const answers = useLiveEach(
  () => workbench.visible.map((c) => c.id),
  lanes.skins,
  'ground',
  (id) => (project.document.candidates[id]?.surfaces.length ? inputsOfGround(project.document, id) : null),
);
const FIGURES: {
  id: string;
  title: string;
  y: string;
  unit?: string;
  of: (r: GroundState, free: GroundState) => number;
}[] = [
  { id: 'drag', title: 'Induced drag over that of free air', y: 'CDi / CDi free', of: (r, f) => r.CDi / f.CDi },
  { id: 'angle', title: 'Angle of attack', y: 'α', unit: '°', of: (r) => r.alpha * DEG },
  {
    id: 'slope',
    title: 'Lift slope over that of free air',
    y: 'CLα / CLα free',
    of: (r, f) => r.CL_alpha / f.CL_alpha,
  },
  {
    id: 'margin',
    title: 'Change of the static margin',
    y: 'change of static margin',
    unit: '%',
    of: (r, f) => 100 * (r.staticMargin - f.staticMargin),
  },
];
const found = computed(() =>
  workbench.visible.flatMap((c) => {
    const sweep = answers.of(c.id)?.value.value ?? null;
    return sweep ? [{ candidate: c, sweep }] : [];
  }),
);
const series = (of: (r: GroundState, free: GroundState) => number): ChartSeries[] =>
  found.value.map(({ candidate, sweep }) => ({
    id: candidate.id,
    label: found.value.length > 1 ? candidate.letter : `${candidate.letter} ${candidate.name}`,
    style: seriesStyle(candidate.style),
    points: sweep.rows.map((r) => ({ x: r.height! * unit.value.scale, y: of(r, sweep.free), tag: r.height! })),
  }));
const failure = computed(() => answers.all().find((a) => a.failure.value)?.failure.value ?? null);
const told = (s: GroundSweep) =>
  `CL ${formatNumber(s.CL, 3)}; the lowest corner touches at ${formatQuantity(s.touches, 'length', preferences.units)} ${unit.value.symbol}`;
const words = computed(() => {
  if (failure.value) return failure.value.message;
  const own = found.value.find(({ candidate }) => candidate.id === workbench.active?.id);
  return own ? `${own.candidate.letter}: ${told(own.sweep)}.` : 'Computing…';
});
</script>

<template>
  <div class="flex min-h-0 flex-col px-4 py-2">
    <p class="text-[12.5px] text-soft" role="status" data-test="ground-words">
      Level flight at the brief’s speed, inviscid lattice with its image below the ground; height of the centre of
      gravity. {{ words }}
    </p>
    <div class="grid min-h-0 flex-1 grid-cols-2 grid-rows-2 gap-3">
      <LineChart
        v-for="f in FIGURES"
        :key="f.id"
        :chart-id="`ground-${f.id}`"
        :title="f.title"
        :series="series(f.of)"
        :x="{ name: 'height', unit: unit.symbol, zero: true }"
        :y="{ name: f.y, unit: f.unit }"
      />
    </div>
  </div>
</template>
