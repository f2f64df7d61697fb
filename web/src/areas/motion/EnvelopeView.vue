<script setup lang="ts">
import { computed } from 'vue';
import { inputsOfMotion, type EnvelopePoint, type MotionInput } from '@veldtwind/core/candidate';
import type { Mode } from '@veldtwind/core/motion';
import { DEG } from '@veldtwind/core/numerics';
import { withSetting, type CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { useLive } from '@/lib/live';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import type { useMotion } from './use-motion';

/** A mode over the speeds of flight, with altitudes, loadings or settings laid over each other. */
const props = defineProps<{
  active: CandidatePart;
  motion: ReturnType<typeof useMotion>;
  mode: string | null;
  speed: number;
  loading: string | undefined;
}>();
const project = useProject();
const preferences = usePreferences();
const OVER = [
  { id: 'altitude', name: 'altitudes' },
  { id: 'loading', name: 'loadings' },
  { id: 'setting', name: 'settings' },
] as const;
type Over = (typeof OVER)[number]['id'];
const over = computed(() => preferences.get<Over>('envelope-over', 'altitude'));
const SPEEDS = [0.65, 0.75, 0.85, 1, 1.15, 1.3, 1.5, 1.75];
const ALTITUDES = [0, 1500, 3000];
const live = useLive(lanes.skins, 'motion-envelope', () => {
  const c = props.active;
  if (c.surfaces.length === 0 || c.massItems.length === 0) return null;
  const polars = props.motion.polars.forMethod(c, [props.speed]);
  const of = (document = props.motion.documentOf(c.id), loading = props.loading) =>
    inputsOfMotion(document, c.id, props.speed, loading, polars);
  const base = of();
  const loadings = Object.keys(c.loadings ?? {});
  const variants: { label: string; of: MotionInput }[] =
    over.value === 'altitude'
      ? ALTITUDES.map((h) => ({
          label: `${formatQuantity(base.altitude + h, 'altitude', preferences.units)} ${displayUnit('altitude', preferences.units).symbol}`,
          of: { ...base, altitude: Math.min(11_000, base.altitude + h) },
        }))
      : over.value === 'loading'
        ? (loadings.length ? loadings : [undefined]).map((l) => ({
            label: l ?? 'all items',
            of: of(undefined, l),
          }))
        : [
            { label: 'as drawn', of: of(project.document) },
            ...(c.settings ?? []).map((s) => ({
              label: s.name,
              of: of({
                ...project.document,
                candidates: { ...project.document.candidates, [c.id]: withSetting(c, s.name) },
              }),
            })),
          ];
  return { variants, speeds: SPEEDS.map((k) => Number((k * props.speed).toPrecision(4))) };
});
interface Quantity {
  id: string;
  name: string;
  unit?: string;
  of: (m: Mode | undefined, p: EnvelopePoint) => number | null | undefined;
}
const QUANTITIES: Quantity[] = [
  { id: 'damping', name: 'damping ratio', of: (m) => m?.dampingRatio },
  { id: 'frequency', name: 'frequency', unit: 'rad/s', of: (m) => m && Math.hypot(m.re, m.im) },
  { id: 'growth', name: 'real part', unit: '1/s', of: (m) => m?.re },
  { id: 'half', name: 'time to half', unit: 's', of: (m) => m?.timeToHalf },
  { id: 'alpha', name: 'angle of attack in trim', unit: '°', of: (_, p) => (p.alpha !== null ? p.alpha * DEG : null) },
  {
    id: 'margin',
    name: 'static margin',
    unit: '%',
    of: (_, p) => (p.staticMargin === null ? null : 100 * p.staticMargin),
  },
  {
    id: 'deflection',
    name: 'deflection that trims',
    unit: '°',
    of: (_, p) => Object.values(p.controls).map((d) => d * DEG)[0],
  },
];
const charts = computed(() => preferences.get<string[]>('envelope-charts', ['damping', 'frequency']));
const set = (i: number, id: string) =>
  preferences.set(
    'envelope-charts',
    charts.value.map((c, k) => (k === i ? id : c)),
  );
const STROKES = [
  { colour: 'var(--ochre)', dash: '', marker: 'disc' },
  { colour: 'var(--sky)', dash: '7 3', marker: 'square' },
  { colour: 'var(--plum)', dash: '2 3', marker: 'disc' },
  { colour: 'var(--grass)', dash: '', marker: 'square' },
  { colour: 'var(--ink)', dash: '5 2 1 2', marker: 'disc' },
] as const;
const unit = computed(() => displayUnit('speed', preferences.units));
function seriesOf(q: Quantity): ChartSeries[] {
  const points = live.value.value ?? [];
  return [...new Set(points.map((p) => p.label))].map((label, i) => ({
    id: label,
    label,
    style: STROKES[i % STROKES.length],
    markers: true,
    points: points.flatMap((p) => {
      if (p.label !== label) return [];
      const v = q.of(
        p.modes.find((m) => m.name === props.mode),
        p,
      );
      return v == null || !Number.isFinite(v) ? [] : [{ x: p.speed * unit.value.scale, y: v }];
    }),
  }));
}
const failures = computed(() => (live.value.value ?? []).filter((p) => p.failure));
const options = QUANTITIES.map(({ id, name, unit: u }) => ({ id, name: u ? `${name}, ${u}` : name }));
const shown = computed(() => charts.value.map((id) => QUANTITIES.find((q) => q.id === id) ?? QUANTITIES[0]));
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col gap-1" data-test="envelope">
    <div class="flex items-baseline gap-3">
      <ChipRow
        label="Overlay"
        :options="OVER"
        :on="[over]"
        test="envelope"
        @pick="(id) => preferences.set('envelope-over', id)"
      />
      <p class="text-[12.5px] text-soft" role="status">
        {{
          live.waiting.value
            ? 'being computed …'
            : failures.length
              ? `does not fly in ${failures.length} of ${live.value.value?.length}: ${failures[0].failure}`
              : `the ${mode ?? 'mode'} that is chosen at the right`
        }}
      </p>
    </div>
    <div class="grid min-h-0 flex-1 grid-cols-2 gap-4">
      <LineChart
        v-for="(q, i) in shown"
        :key="i"
        :chart-id="`envelope-${i}`"
        :title="q.name.charAt(0).toUpperCase() + q.name.slice(1)"
        :series="seriesOf(q)"
        :x="{ name: 'speed', unit: unit.symbol }"
        :y="{ name: q.name, unit: q.unit, options, value: q.id }"
        @update:y-quantity="(id) => set(i, id)"
      />
    </div>
  </div>
</template>
