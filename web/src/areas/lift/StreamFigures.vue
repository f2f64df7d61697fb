<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue';
import { standingIn } from '@veldtwind/core/airframe';
import { inputsOfFlowLines } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import { useLive } from '@/lib/live';
import type { Answered } from '@/lib/lift-series';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import { liftRibbons, spaceLines } from './flow-scene';

// The space view comes when the page stands: its library is large.
const AirframeView = defineAsyncComponent(() => import('@/components/view3d/AirframeView.vue'));

/** The air about the aircraft in one state: the wake that leaves its edges, lines of the stream, and the local lift as a ribbon over the span. */
const props = defineProps<{
  candidate: CandidatePart;
  answer: Answered | null;
  point: Answered['points'][number] | null;
}>();
const project = useProject();
const preferences = usePreferences();
const PARTS = [
  { id: 'wake', name: 'wake', title: 'Lines that leave the trailing edges' },
  { id: 'stream', name: 'stream', title: 'Lines from ahead' },
  { id: 'lift', name: 'local lift', title: 'A ribbon as high as the local lift times the chord' },
] as const;
type Part = (typeof PARTS)[number]['id'];
const on = computed(() => preferences.get<Part[]>('lift-stream', ['wake', 'stream', 'lift']));
const toggle = (id: Part) =>
  preferences.set('lift-stream', on.value.includes(id) ? on.value.filter((p) => p !== id) : [...on.value, id]);

const lines = useLive(lanes.skins, 'flow-lines', () => {
  const p = props.point;
  if (!p || (!on.value.includes('wake') && !on.value.includes('stream'))) return null;
  // With the polars' loads, where they are of one side.
  const own = props.answer?.method === 'polars' && p.beta === 0 ? p.strips.map((s) => s.circulation) : undefined;
  const state = { alpha: p.alpha, ...(p.beta ? { beta: p.beta } : {}) };
  return inputsOfFlowLines(project.document, props.candidate.id, state, own);
});
const drawn = computed(() => {
  const l = lines.value.value;
  if (!l) return [];
  return spaceLines({
    half: l.half,
    wake: on.value.includes('wake') ? l.wake : [],
    stream: on.value.includes('stream') ? l.stream : [],
  });
});
const ribbons = computed(() => {
  const [p, a] = [props.point, props.answer];
  if (!p || !a || !on.value.includes('lift')) return [];
  try {
    return liftRibbons(standingIn(props.candidate).surfaces, p.strips, p.states, p.alpha, a.reference.span);
  } catch {
    return [];
  }
});
const words = computed(() => {
  const p = props.point;
  if (!p) return '';
  const stalled = p.states?.some((s) => s.stalled !== 0);
  return `α ${formatNumber(p.alpha * DEG, 1)}°, CL ${formatNumber(p.CL, 3)}${props.answer?.method === 'polars' ? ', loads with section polars' : ', inviscid loads'}${stalled ? '; stalled where the ribbon is red' : ''}. The lines are those in the field of a straight wake.`;
});
</script>

<template>
  <div class="flex min-h-0 flex-col px-4 py-2">
    <div class="flex flex-wrap items-center gap-3">
      <h2 class="text-[17px] font-semibold">Flow about the aircraft</h2>
      <ChipRow label="Shown" :options="PARTS" :on="on" test="stream-part" @pick="toggle" />
      <span class="text-[12.5px] text-soft" role="status" data-test="stream-words">
        {{ lines.failure.value?.message ?? words }}
      </span>
    </div>
    <AirframeView
      class="flex-1"
      :candidates="[candidate]"
      :active-id="candidate.id"
      :sections="project.document.sections"
      :dimensions="false"
      :lines="drawn"
      :ribbons="ribbons"
      :room="1.5"
    />
  </div>
</template>
