<script setup lang="ts">
import { ChevronLeft, ChevronRight, X } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import type { CurveReply } from '@veldtwind/core/contract';
import { valueAt } from '@veldtwind/core/polar';
import { LAYER_QUANTITIES, type LayerKey } from '@veldtwind/core/quantities';
import type { Distributions, SolvedPoint } from '@veldtwind/core/section-flow';
import { formatNumber } from '@veldtwind/core/units';
import { call } from '@/api/client';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { LOWER, UPPER } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { curveConditions } from './curve-series';

/** One solved point with everything along its surfaces, read from what is stored. */
const props = defineProps<{ curve: CurveReply; place: number }>();
defineEmits<{ step: [by: 1 | -1]; close: [] }>();
const project = useProject();
const preferences = usePreferences();
const shown = ref<{ point: SolvedPoint; distributions: Distributions } | null>(null);
const failure = ref<string | null>(null);
const cursorX = ref<number | null>(null);

watch(
  () => [props.curve.id, props.place] as const,
  async ([curve, place]) => {
    try {
      const read = (await call('storedPoint', {
        params: { id: project.id!, curve: String(curve), place: String(place) },
      })) as unknown as { point: SolvedPoint; distributions: Distributions };
      if (curve !== props.curve.id || place !== props.place) return;
      shown.value = read;
      failure.value = null;
    } catch (error) {
      shown.value = null;
      failure.value = (error as Error).message;
    }
  },
  { immediate: true },
);
const title = computed(() => {
  const v = formatNumber(valueAt(props.curve.input, props.place), props.curve.input.swept === 'cl' ? 3 : 2);
  const at =
    props.curve.input.swept === 'alpha' ? `α = ${v}°` : props.curve.input.swept === 'cl' ? `cl = ${v}` : `Re ${v}`;
  return `${props.curve.name}, ${curveConditions(props.curve)}, ${at}`;
});
const numbers = computed(() => {
  const p = shown.value?.point;
  return p
    ? `cl ${formatNumber(p.cl, 4)}, cd ${formatNumber(p.cd, 5)}, cm ${formatNumber(p.cm, 4)}; critical Mach number ${formatNumber(p.machCritical, 2)}`
    : (failure.value ?? 'reading …');
});
type Layer = Distributions['top'];
const side = (d: Layer, key: 'cp' | 'cpInviscid' | LayerKey) =>
  Array.from(d.x, (x, i) => ({ x, y: Number(d[key][i] ?? NaN), tag: x })).filter((p) => Number.isFinite(p.y));
const pressure = computed<ChartSeries[]>(() => {
  if (!shown.value) return [];
  const { top, bottom } = shown.value.distributions;
  return [
    { id: 'upper-inviscid', label: '', style: UPPER, reference: true, points: side(top, 'cpInviscid') },
    { id: 'lower-inviscid', label: '', style: LOWER, reference: true, points: side(bottom, 'cpInviscid') },
    { id: 'upper', label: 'upper', style: UPPER, markers: false, points: side(top, 'cp') },
    { id: 'lower', label: 'lower', style: LOWER, markers: false, points: side(bottom, 'cp') },
  ];
});
const layer = computed(() => {
  const id = preferences.get<string>('polar-layer', 'shapeFactor');
  return LAYER_QUANTITIES.find((q) => q.id === id) ?? LAYER_QUANTITIES[0];
});
const layers = computed<ChartSeries[]>(() => {
  if (!shown.value) return [];
  const { top, bottom } = shown.value.distributions;
  return [
    { id: 'upper', label: 'upper', style: UPPER, markers: false, points: side(top, layer.value.id) },
    { id: 'lower', label: 'lower', style: LOWER, markers: false, points: side(bottom, layer.value.id) },
  ];
});
</script>

<template>
  <section class="flex min-h-0 flex-col border-t border-rule pt-2" aria-label="The point" data-test="stored-point">
    <div class="flex items-center gap-1">
      <h2 class="min-w-0 truncate text-[15px] font-semibold">{{ title }}</h2>
      <p class="min-w-0 flex-1 truncate pl-2 text-[12.5px] text-soft" role="status">{{ numbers }}</p>
      <button class="icon-btn" aria-label="Point before" title="Point before" @click="$emit('step', -1)">
        <ChevronLeft :size="15" />
      </button>
      <button class="icon-btn" aria-label="Next point" title="Next point" @click="$emit('step', 1)">
        <ChevronRight :size="15" />
      </button>
      <button class="icon-btn" aria-label="Close the point" title="Close" @click="$emit('close')">
        <X :size="15" />
      </button>
    </div>
    <div class="grid min-h-0 flex-1 grid-cols-2 gap-4">
      <LineChart
        chart-id="polar-pressure"
        title="Pressure along the chord"
        subtitle="with viscosity; thin: without"
        :series="pressure"
        :x="{ name: 'x / c', zero: true }"
        :y="{ name: 'Cp', invert: true, zero: true }"
        :tag="cursorX"
        :digits="[3, 3]"
        @cursor="(x) => (cursorX = x)"
      />
      <LineChart
        chart-id="polar-layer"
        :title="layer.name"
        :subtitle="layer.says"
        :series="layers"
        :x="{ name: 'x / c', zero: true }"
        :y="{
          name: layer.symbol,
          zero: true,
          options: LAYER_QUANTITIES.map((q) => ({ id: q.id, name: q.name })),
          value: layer.id,
        }"
        :tag="cursorX"
        :digits="[3, layer.digits ?? 4]"
        @cursor="(x) => (cursorX = x)"
        @update:y-quantity="(id) => preferences.set('polar-layer', id)"
      />
    </div>
  </section>
</template>
