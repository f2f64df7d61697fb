<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import type { SectionView } from '@/worker/compute.worker';

/** A section to scale: outline, mean line, crests, nose circle and edge. */
const props = defineProps<{ view: SectionView; name: string; alphaDeg?: number }>();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box, { width: 700, height: 170 });
const MARGIN = 78;
const scale = computed(() =>
  Math.min(
    width.value - 2 * MARGIN - 40,
    (1.6 * height.value) / Math.max(0.12, props.view.facts.thickness.max + Math.abs(props.view.facts.camber.max)),
  ),
);
const frame = computed(() => {
  const { y } = props.view;
  const top = Math.max(...y);
  const bottom = Math.min(...y);
  const s = Math.min(scale.value, (height.value - 56) / Math.max(0.05, top - bottom));
  const left = (width.value - s) / 2;
  const zero = (height.value + 4) / 2 + ((top + bottom) / 2) * s;
  return {
    s,
    at: (px: number, py: number) => `${(left + px * s).toFixed(2)},${(zero - py * s).toFixed(2)}`,
    x: (px: number) => left + px * s,
    y: (py: number) => zero - py * s,
  };
});
const outline = computed(() => `M${Array.from(props.view.x, (x, i) => frame.value.at(x, props.view.y[i])).join('L')}Z`);
const mean = computed(
  () =>
    `M${Array.from(props.view.line.x, (x, i) => [x, i] as const)
      .filter(([x]) => x > 0.012)
      .map(([x, i]) => frame.value.at(x, props.view.line.camber[i]))
      .join('L')}`,
);
const heightAt = (x: number) => {
  const { line } = props.view;
  let k = 0;
  while (k < line.x.length - 2 && line.x[k + 1] < x) k++;
  const u = (x - line.x[k]) / (line.x[k + 1] - line.x[k]);
  return {
    camber: line.camber[k] + u * (line.camber[k + 1] - line.camber[k]),
    half: 0.5 * (line.thickness[k] + u * (line.thickness[k + 1] - line.thickness[k])),
  };
};
const crest = computed(() => {
  const f = props.view.facts;
  const t = heightAt(f.thickness.at);
  return {
    x: frame.value.x(f.thickness.at),
    top: frame.value.y(t.camber + t.half),
    bottom: frame.value.y(t.camber - t.half),
    cx: frame.value.x(f.camber.at),
    cy: frame.value.y(heightAt(f.camber.at).camber),
  };
});
const percent = (v: number, d = 1) => `${formatNumber(100 * v, d)} %`;
</script>

<template>
  <div ref="box" class="relative min-h-0">
    <svg
      class="absolute inset-0"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`${name}, drawn to scale: thickness ${percent(view.facts.thickness.max)} at ${percent(view.facts.thickness.at)}, camber ${percent(view.facts.camber.max)}`"
      style="font-family: var(--font-sans)"
    >
      <line
        v-for="i in 11"
        :key="i"
        :x1="frame.x((i - 1) / 10)"
        :x2="frame.x((i - 1) / 10)"
        y1="14"
        :y2="height - 8"
        style="stroke: var(--rule-light)"
      />
      <line
        :x1="frame.x(0)"
        :x2="frame.x(1)"
        :y1="frame.y(0)"
        :y2="frame.y(0)"
        style="stroke: var(--rule)"
        stroke-dasharray="10 3 2 3"
      />
      <path
        :d="outline"
        style="fill: var(--section-fill); stroke: var(--ink)"
        stroke-width="1.9"
        stroke-linejoin="round"
        data-test="outline"
      />
      <path
        v-if="Math.abs(view.facts.camber.max) > 1e-4"
        :d="mean"
        fill="none"
        style="stroke: var(--ochre)"
        stroke-width="1.2"
        stroke-dasharray="5 3"
      />
      <line
        :x1="crest.x"
        :x2="crest.x"
        :y1="crest.top"
        :y2="crest.bottom"
        style="stroke: var(--soft)"
        stroke-width="0.9"
      />
      <text
        :x="crest.x"
        :y="crest.top - 7"
        text-anchor="middle"
        font-size="12.5"
        font-weight="600"
        style="fill: var(--ink)"
      >
        {{ percent(view.facts.thickness.max) }} thick at {{ formatNumber(view.facts.thickness.at, 2) }}
      </text>
      <g v-if="Math.abs(view.facts.camber.max) > 1e-4">
        <circle :cx="crest.cx" :cy="crest.cy" r="3.4" style="fill: var(--ochre)" />
        <text
          :x="crest.cx + 8"
          :y="crest.cy + 16"
          font-size="12.5"
          font-weight="600"
          style="fill: var(--ochre-text); stroke: var(--section-fill)"
          stroke-width="3"
          paint-order="stroke"
        >
          camber {{ percent(view.facts.camber.max) }} at {{ formatNumber(view.facts.camber.at, 2) }}
        </text>
      </g>
      <circle
        :cx="frame.x(view.facts.noseRadius)"
        :cy="frame.y(0)"
        :r="Math.max(1, view.facts.noseRadius * frame.s)"
        fill="none"
        style="stroke: var(--soft)"
        stroke-dasharray="2 2"
        stroke-width="0.9"
      />
      <text :x="frame.x(0) - 8" :y="frame.y(0) + 4" text-anchor="end" font-size="12" style="fill: var(--soft)">
        r {{ percent(view.facts.noseRadius) }}
      </text>
      <text :x="frame.x(1) + 8" :y="frame.y(0) + 4" font-size="12" style="fill: var(--soft)">
        {{ formatNumber((view.facts.trailingEdge.angle * 180) / Math.PI, 1) }}°
        <tspan v-if="view.facts.trailingEdge.gap > 1e-6">, gap {{ percent(view.facts.trailingEdge.gap, 2) }}</tspan>
      </text>
    </svg>
  </div>
</template>
