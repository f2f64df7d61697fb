<script setup lang="ts">
import { computed } from 'vue';
import { displayUnit } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { Answers } from './use-answers';

/** Faster than so many times the design speed nobody looks. */
const FASTEST = 1.7;

/** The glide and level flight of a weight: sink and ratio over speed, thrust and power that level flight needs. */
const props = defineProps<{ answers: Answers }>();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const unit = computed(() => displayUnit('speed', preferences.units));
const glides = computed(() =>
  workbench.visible.flatMap((c) => {
    const answer = props.answers.steady.of(c.id);
    return answer && answer.glidePolar.length > 1 ? [{ candidate: c, answer }] : [];
  }),
);
type GlidePoint = NonNullable<ReturnType<Answers['steady']['of']>>['glidePolar'][number];
const of = (x: (p: GlidePoint) => number, y: (p: GlidePoint) => number) =>
  glides.value.map(({ candidate, answer }): ChartSeries => ({
    id: candidate.id,
    label: glides.value.length > 1 ? candidate.letter : `${candidate.letter} ${candidate.name}`,
    style: seriesStyle(candidate.style),
    points: answer.glidePolar
      .filter((p) => p.level < FASTEST * project.brief.speed)
      .map((p) => ({ x: x(p), y: y(p), tag: (p.alpha * 180) / Math.PI })),
  }));
const scale = computed(() => unit.value.scale);
const sink = computed(() =>
  of(
    (p) => p.speed * scale.value,
    (p) => p.sink * scale.value,
  ),
);
const ratio = computed(() =>
  of(
    (p) => p.speed * scale.value,
    (p) => p.ratio,
  ),
);
const thrust = computed(() =>
  of(
    (p) => p.level * scale.value,
    (p) => p.thrust,
  ),
);
const power = computed(() =>
  of(
    (p) => p.level * scale.value,
    (p) => p.power,
  ),
);
const marks = (which: 'sink' | 'ratio') =>
  glides.value.flatMap(({ candidate, answer }): ChartMark[] => {
    if (candidate.id !== workbench.active?.id || !answer.glide) return [];
    const { bestGlide: g, leastSink: s } = answer.glide;
    const colour = seriesStyle(candidate.style).colour;
    if (which === 'ratio')
      return g ? [{ x: g.speed * scale.value, y: g.ratio, text: `best glide ${g.ratio.toFixed(1)}`, colour }] : [];
    return s
      ? [
          {
            x: s.speed * scale.value,
            y: s.rate * scale.value,
            text: `least sink ${(s.rate * scale.value).toFixed(2)}`,
            colour,
          },
        ]
      : [];
  });
const x = computed(() => ({ name: 'speed', unit: unit.value.symbol }));
const cursor = (a: number | null) => (workbench.cursor.alphaDeg = a);
</script>

<template>
  <div class="grid h-full min-h-[420px] grid-cols-2 grid-rows-2 gap-3 px-4 py-3">
    <LineChart
      chart-id="glide-sink"
      title="Sink"
      subtitle="of a steady glide with the brief’s mass"
      :series="sink"
      :marks="marks('sink')"
      :x="x"
      :y="{ name: 'sink', unit: unit.symbol, zero: true, invert: true }"
      :tag="workbench.cursor.alphaDeg"
      @cursor="cursor"
    />
    <LineChart
      chart-id="glide-ratio"
      title="Lift over drag"
      subtitle="induced, profile and parasite drag"
      :series="ratio"
      :marks="marks('ratio')"
      :x="x"
      :y="{ name: 'CL / CD', zero: true }"
      :tag="workbench.cursor.alphaDeg"
      @cursor="cursor"
    />
    <LineChart
      chart-id="level-thrust"
      title="Thrust needed"
      subtitle="in level flight"
      :series="thrust"
      :x="x"
      :y="{ name: 'thrust', unit: 'N', zero: true }"
      :tag="workbench.cursor.alphaDeg"
      @cursor="cursor"
    />
    <LineChart
      chart-id="level-power"
      title="Power needed"
      subtitle="in level flight, thrust × speed"
      :series="power"
      :x="x"
      :y="{ name: 'power', unit: 'W', zero: true }"
      :tag="workbench.cursor.alphaDeg"
      @cursor="cursor"
    />
  </div>
</template>
