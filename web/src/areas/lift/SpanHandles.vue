<script setup lang="ts">
import { computed, ref } from 'vue';
import { placeStations, SURFACE_LIMITS, type LiftingSurface } from '@veldtwind/core/airframe';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import PlotHandle from '@/components/plot/PlotHandle.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

export type SpanHandle = 'twist' | 'chord';

/** Handles at the stations of a surface, on the curve along its span: dragged up and down they turn a station, or make its chord longer. */
const props = defineProps<{
  candidate: string;
  surface: LiftingSurface;
  series: ChartSeries | null;
  what: SpanHandle;
}>();
const project = useProject();
const preferences = usePreferences();
/** What the height of the curve's greatest value is worth: degrees, and a factor of the chord as a power of e. */
const TURN = 5;
const GROWTH = 1.2;
const LIMITS = { twist: SURFACE_LIMITS.station.twistDeg, chord: SURFACE_LIMITS.station.chord };

const curve = computed(() => (props.series?.points ?? []).slice().sort((a, b) => a.x - b.x));
const greatest = computed(() => Math.max(1e-6, ...curve.value.map((p) => Math.abs(p.y))));
/** The curve at a share of the half span; at its ends as far as it goes. */
function heightAt(x: number): number {
  const list = curve.value;
  if (list.length === 0) return 0;
  const k = list.findIndex((p) => p.x >= x);
  if (k < 0) return list.at(-1)!.y;
  if (k === 0) return list[0].y;
  const [a, b] = [list[k - 1], list[k]];
  return a.y + ((b.y - a.y) * (x - a.x)) / Math.max(1e-12, b.x - a.x);
}
const places = computed(() => {
  try {
    const placed = placeStations(props.surface);
    const all = placed[placed.length - 1].offset;
    return placed.map((p, i) => ({ i, x: p.offset / all, y: heightAt(p.offset / all) }));
  } catch {
    return [];
  }
});
const valueOf = (i: number) => {
  const station = props.surface.stations[i];
  return props.what === 'twist' ? station.twistDeg : station.chord;
};
/** Where a drag began: what it changes is counted from there, not from the curve that follows it. */
const from = ref<{ i: number; y: number; value: number; greatest: number } | null>(null);
function wanted(i: number, y: number): number {
  const f = from.value ?? { i, y: places.value[i].y, value: valueOf(i), greatest: greatest.value };
  from.value = f;
  const share = (y - f.y) / f.greatest;
  const { min, max } = LIMITS[props.what];
  const value = props.what === 'twist' ? f.value + TURN * share : f.value * Math.exp(GROWTH * share);
  return Number(Math.min(max, Math.max(min, value)).toFixed(props.what === 'twist' ? 2 : 4));
}
const change = (i: number, value: number) => (draft: { candidates: Record<string, unknown> }) => {
  const c = draft.candidates[props.candidate] as { surfaces: LiftingSurface[] } | undefined;
  const station = c?.surfaces.find((s) => s.id === props.surface.id)?.stations[i];
  if (!station) return;
  if (props.what === 'twist') station.twistDeg = value;
  else station.chord = value;
};
const name = (i: number) => (i === 0 ? 'root' : i === props.surface.stations.length - 1 ? 'tip' : `station ${i + 1}`);
const preview = (i: number, y: number) => project.show(change(i, wanted(i, y)) as never);
function commit(i: number, y: number): void {
  const value = wanted(i, y);
  from.value = null;
  project.edit(`${props.what === 'twist' ? 'Twist' : 'Chord'} at the ${name(i)}`, change(i, value) as never);
}
const said = (i: number) => {
  const value = valueOf(i);
  return props.what === 'twist'
    ? `twist ${formatNumber(value, 2)}°`
    : `chord ${formatQuantity(value, 'chord', preferences.units)} ${displayUnit('chord', preferences.units).symbol}`;
};
</script>

<template>
  <g>
    <PlotHandle
      v-for="p in places"
      :key="`${what}${p.i}`"
      :x="p.x"
      :y="p.y"
      along="y"
      :label="`${what === 'twist' ? 'Twist' : 'Chord'} at the ${name(p.i)}: drag it up or down, or use the arrow keys`"
      :steps="{ x: 0, y: (what === 'twist' ? 0.25 / TURN : 0.02 / GROWTH) * greatest }"
      :text="() => said(p.i)"
      @preview="(at) => preview(p.i, at.y)"
      @commit="(at) => commit(p.i, at.y)"
    />
  </g>
</template>
