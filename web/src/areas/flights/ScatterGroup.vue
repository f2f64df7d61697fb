<script setup lang="ts">
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import type { Scatter } from '@veldtwind/core/simulation';
import { formatNumber } from '@veldtwind/core/units';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { useScatter } from './use-scatter';

/** Many flights in which what is thought to be known is off: how far, and what comes of it. */
const props = defineProps<{ scatter: ReturnType<typeof useScatter> }>();
const s = props.scatter;
const plain = (label: string, min: number, max: number, step: number): FieldLimit => ({
  label,
  dimension: 'plain',
  min,
  max,
  step,
});
const FIELDS = [
  { key: 'speed', limit: { label: 'Launch speed, ±', dimension: 'speed', min: 0, max: 100, step: 0.5 } },
  { key: 'elevationDeg', limit: { label: 'Launch angle, ±', dimension: 'angle', min: 0, max: 45, step: 0.5 } },
  { key: 'headingDeg', limit: { label: 'Heading, ±', dimension: 'angle', min: 0, max: 90, step: 0.5 } },
  { key: 'wind', limit: { label: 'Wind, ±', dimension: 'speed', min: 0, max: 50, step: 0.5 } },
  { key: 'mass', limit: { label: 'Mass, ±', dimension: 'ratio', min: 0, max: 0.5, step: 0.01 } },
  { key: 'drag', limit: { label: 'Drag, ±', dimension: 'ratio', min: 0, max: 0.5, step: 0.01 } },
  { key: 'slopes', limit: { label: 'Derivatives, ±', dimension: 'ratio', min: 0, max: 0.5, step: 0.01 } },
] as const satisfies readonly { key: string; limit: FieldLimit }[];
const LIMITS = [
  {
    key: 'loadFactor',
    limit: {
      label: 'Load factor, at most',
      dimension: 'plain',
      min: 0,
      max: 1000,
      above: { nearest: 0.1 },
      step: 0.5,
      optional: true,
    },
  },
  {
    key: 'distance',
    limit: {
      label: 'Landing distance limit',
      dimension: 'length',
      min: 0,
      max: 1e6,
      above: { nearest: 0.1 },
      step: 5,
      optional: true,
    },
  },
] as const satisfies readonly { key: 'loadFactor' | 'distance'; limit: FieldLimit }[];
function setLimit(of: Scatter, key: 'loadFactor' | 'distance', v: number | null): void {
  const { [key]: _, ...rest } = of.limits ?? {};
  const next = v === null ? rest : { ...rest, [key]: v };
  if (Object.keys(next).length) of.limits = next;
  else delete of.limits;
}
const words = computed(() => {
  const lines = s.lines.value;
  if (lines.length === 0) return '';
  const bad = lines.filter((l) => l.ended === 'diverged' || l.ended === 'no-trim').length;
  const ground = lines.filter((l) => l.ended === 'ground').length;
  const reached = lines.filter((l) => l.ended === 'waypoints').length;
  const load = Math.max(...lines.map((l) => Math.abs(l.greatestLoadFactor)));
  const share = (n: number) => `${formatNumber((100 * n) / lines.length, n === lines.length || n === 0 ? 0 : 1)} %`;
  const e = s.ellipse.value;
  const inside = s.inside.value;
  return [
    inside !== null && `${formatNumber(100 * inside, 1)} % stay inside the limits`,
    reached > 0 && `${share(reached)} reach all way-points`,
    ground > 0 && `${share(ground)} meet the ground`,
    `${share(bad)} run away or do not begin`,
    `greatest load factor ${formatNumber(load, 2)}`,
    e && `95 % end within ${formatNumber(2 * e.axes[0], 0)} by ${formatNumber(2 * e.axes[1], 0)} m`,
  ]
    .filter(Boolean)
    .join('; ');
});
</script>

<template>
  <SheetGroup title="Scatter">
    <template #aside>
      <button v-if="!s.running.value" class="link text-[13px]" data-test="scatter" @click="s.start">
        {{
          s.unfinished.value
            ? `fly the other ${s.settings.value.runs - s.lines.value.length}`
            : `fly ${s.settings.value.runs} times`
        }}
      </button>
      <button v-else class="link text-[13px]" data-test="scatter-stop" @click="s.stop">end</button>
    </template>
    <p v-if="s.running.value" class="text-[12.5px] text-soft" role="status">
      {{ s.lines.value.length }} of {{ s.settings.value.runs }} flown
    </p>
    <p v-if="s.why.value" class="text-[12.5px] text-clay" role="alert">{{ s.why.value }}</p>
    <p v-if="words" class="text-[12.5px]" data-test="scatter-words">{{ words }}.</p>
    <p v-else-if="s.stale.value" class="text-[12.5px] text-soft">
      What was flown belongs to another scenario or aircraft.
    </p>
    <LimitField
      :limit="plain('Runs', 2, 2000, 50)"
      :model-value="s.settings.value.runs"
      :digits="0"
      @commit="(v) => v !== null && s.change('Runs of a scatter', (c) => (c.runs = Math.round(v)))"
    />
    <LimitField
      v-for="f in FIELDS"
      :key="f.key"
      :limit="f.limit"
      :model-value="s.settings.value[f.key]"
      @commit="(v) => v !== null && s.change(`${f.limit.label.replace(', ±', '')} scatter`, (c) => (c[f.key] = v))"
    />
    <LimitField
      v-for="f in LIMITS"
      :key="f.key"
      :limit="f.limit"
      :model-value="s.settings.value.limits?.[f.key] ?? null"
      placeholder="none"
      @commit="(v) => s.change(f.limit.label, (c) => setLimit(c, f.key, v))"
    />
    <p class="pt-1 text-[12px] text-soft">Each is a standard deviation; the same seed flies the same.</p>
  </SheetGroup>
</template>
