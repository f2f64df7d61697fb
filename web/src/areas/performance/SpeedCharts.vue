<script setup lang="ts">
import { computed } from 'vue';
import type { Performance } from '@veldtwind/core/candidate';
import { inUnit, LEVEL_QUANTITIES, quantityIn, textOf, unitOf, type Quantity } from '@veldtwind/core/quantities';
import type { LevelPoint } from '@veldtwind/core/performance';
import { awaitsPolars } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';
import { useAssumptions } from '@/store/assumptions';
import { usePreferences } from '@/store/preferences';

/** Level flight in trim over speed: two quantities, all candidates, with the optima of the one that is worked on. */
const props = defineProps<{ list: { candidate: CandidatePart; made: Performance }[]; active: string }>();
const speed = defineModel<number | null>('speed', { required: true });
const preferences = usePreferences();
const { assumed } = useAssumptions();
const unit = computed(() => displayUnit('speed', preferences.units));
const own = computed(() => props.list.find((p) => p.candidate.id === props.active)?.made ?? null);
const charts = computed(() => preferences.get<string[]>('performance-charts', ['power-needed', 'climb-rate']));
const set = (i: number, id: string) =>
  preferences.set(
    'performance-charts',
    charts.value.map((c, k) => (k === i ? id : c)),
  );
const options = computed(() =>
  LEVEL_QUANTITIES.map((q) => ({
    id: q.id,
    name: [q.name, unitOf(q, preferences.units)].filter(Boolean).join(', '),
  })),
);
const shown = computed(() =>
  charts.value.map((id) => LEVEL_QUANTITIES.find((q) => q.id === id) ?? LEVEL_QUANTITIES[0]),
);
/** What is drawn dashed beside a quantity: what the engine gives of it. */
const BESIDE: Record<string, string> = { 'power-needed': 'power-available', 'level-drag': 'thrust-available' };

/** Whether a candidate stands on the lattice until its polars are there. */
const isProvisional = (made: Performance) => awaitsPolars(made.method, assumed.value.method);
const pointsOf = (made: Performance, q: Quantity<LevelPoint>) =>
  made.points.flatMap((p) => {
    const y = q.of(p);
    if (y === null || p.status === 'unflyable') return [];
    // What is only doubtful is told in the ledger; a control at its stop is seen on the curve.
    const status = p.status === 'limited' ? ('doubtful' as const) : undefined;
    return [{ x: p.speed * unit.value.scale, y: inUnit(q, y, preferences.units), tag: p.speed, status }];
  });
function seriesOf(q: Quantity<LevelPoint>): ChartSeries[] {
  const beside = BESIDE[q.id] ? quantityIn(LEVEL_QUANTITIES, BESIDE[q.id]) : null;
  return props.list.flatMap(({ candidate: c, made }) => {
    const style = seriesStyle(c.style);
    const points = pointsOf(made, q);
    // Of the one that is worked on: engines of candidates are mostly the same.
    const available = beside && c.id === props.active ? pointsOf(made, beside) : [];
    return [
      {
        id: c.id,
        label: isProvisional(made) ? `${c.letter} provisional` : c.letter,
        style,
        points,
        markers: points.some((p) => p.status),
      },
      ...(available.length
        ? [
            {
              id: `${c.id}-available`,
              label: 'available',
              style: { ...style, dash: '6 3', width: 1.3 },
              points: available,
              markers: false,
            },
          ]
        : []),
    ];
  });
}
/** Optima that lie on a quantity's curve. */
function marksOf(q: Quantity<LevelPoint>): ChartMark[] {
  const made = own.value;
  if (!made) return [];
  const out: ChartMark[] = [];
  const mark = (v: number | null | undefined, y: number | null, text: string) => {
    if (v != null && y !== null)
      out.push({ x: v * unit.value.scale, y: inUnit(q, y, preferences.units), text, colour: 'var(--clay)' });
  };
  const word = (value: number) => `${textOf(q, value, preferences.units)} ${unitOf(q, preferences.units)}`.trim();
  // The curve begins at the first point that is flown behind the stall.
  const slow = made.points.find((p) => p.status !== 'unflyable');
  if ('speed' in made.stall && slow)
    mark(slow.speed, q.of(slow), `stall ${formatQuantity(made.stall.speed, 'speed', preferences.units)}`);
  const { best, steepest, fastest } = made.climb;
  const { bestGlide, leastSink } = made.glide;
  if (q.id === 'climb-rate' && best) mark(best.speed, best.rate, `best climb ${word(best.rate)}`);
  if (q.id === 'climb-angle' && steepest) {
    const deg = quantityIn(LEVEL_QUANTITIES, 'climb-angle').of({ climbAngle: steepest.angle } as LevelPoint)!;
    mark(steepest.speed, deg, `steepest ${word(deg)}`);
  }
  if (q.id === 'level-ratio' && bestGlide)
    mark(bestGlide.speed, bestGlide.ratio, `best glide ${word(bestGlide.ratio)}`);
  if (q.id === 'level-sink' && leastSink) mark(leastSink.speed, leastSink.sink, `least sink ${word(leastSink.sink)}`);
  if (q.id === 'power-needed' || q.id === 'level-drag') {
    const design = q.of(made.design);
    if (design !== null) mark(made.design.speed, design, `design ${word(design)}`);
    const crossing = fastest === null ? null : at(made, q, fastest);
    if (crossing !== null) mark(fastest, crossing, 'fastest');
  }
  return out;
}
/** A quantity at a speed, between the points. */
function at(made: Performance, q: Quantity<LevelPoint>, v: number): number | null {
  const i = made.points.findIndex((p) => p.speed >= v);
  if (i < 1) return null;
  const [a, b] = [made.points[i - 1], made.points[i]];
  const [ya, yb] = [q.of(a), q.of(b)];
  return ya === null || yb === null ? null : ya + ((v - a.speed) / (b.speed - a.speed)) * (yb - ya);
}
</script>

<template>
  <div class="grid min-h-0 flex-1 grid-cols-2 gap-4">
    <LineChart
      v-for="(q, i) in shown"
      :key="i"
      :chart-id="`performance-${i}`"
      :title="q.name.charAt(0).toUpperCase() + q.name.slice(1)"
      :subtitle="q.says"
      :series="seriesOf(q)"
      :marks="marksOf(q)"
      :x="{ name: 'speed', unit: unit.symbol }"
      :y="{ name: q.symbol, unit: unitOf(q, preferences.units) || undefined, options, value: q.id }"
      :tag="speed"
      @cursor="(tag) => (speed = tag)"
      @update:y-quantity="(id) => set(i, id)"
    />
  </div>
</template>
