<script setup lang="ts">
import { computed } from 'vue';
import { DEG, interpolate } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import { pairs, spanOf, useDrawing } from '@/lib/drawing-frame';
import { LAMINAR, LOWER, TURBULENT, UPPER } from '@/lib/series-style';
import type { ViscousFlow } from '@veldtwind/core/polar';
import type { SectionView } from '@veldtwind/core/shaping';
import { layerMarks, valueAt } from './layer-quantities';
import HaloText from '@/components/plot/HaloText.vue';

/** A section to scale: outline, mean line, crests, nose circle and edge; with a flow, its displacement thickness and where the layers change. */
const props = defineProps<{ view: SectionView; name: string; flow?: ViscousFlow | null; flapped?: boolean }>();
const { width, height, frame } = useDrawing(
  () => ({ x: [0, 1], y: spanOf(props.view.y, -0.025, 0.025) }),
  () => ({ left: 98, right: 98, top: 30, bottom: 26 }),
  { size: { width: 700, height: 170 } },
);
const outline = computed(() => frame.value.path(pairs(props.view.x, props.view.y), true));
const mean = computed(
  () =>
    `M${Array.from(props.view.line.x, (x, i) => [x, i] as const)
      .filter(([x]) => x > 0.012)
      .map(([x, i]) => frame.value.place(x, props.view.line.camber[i]))
      .join('L')}`,
);
const heightAt = (x: number) => {
  const { line } = props.view;
  return { camber: interpolate(line.x, line.camber, x), half: 0.5 * interpolate(line.x, line.thickness, x) };
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
const outlineOfFlow = computed(() => {
  const d = props.flow?.distributions;
  if (!d) return null;
  const loop = [
    ...Array.from(d.top.x, (x, i) => [x, d.top.y[i]] as const).reverse(),
    ...Array.from(d.bottom.x, (x, i) => [x, d.bottom.y[i]] as const),
  ];
  return `M${loop.map(([x, y]) => frame.value.place(x, y)).join('L')}Z`;
});
/** Edge of the displaced flow: a polyline for each stretch of one kind of layer. */
const displaced = computed(() => {
  const d = props.flow?.distributions;
  if (!d) return [];
  const out: { path: string; dash: string }[] = [];
  for (const [surface, sign] of [
    ['top', 1],
    ['bottom', -1],
  ] as const) {
    const side = d[surface];
    const n = side.x.length;
    const offset = (i: number) => {
      const [a, b] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
      const [dx, dy] = [side.x[b] - side.x[a], side.y[b] - side.y[a]];
      const k = (sign * side.displacementThickness[i]) / (Math.hypot(dx, dy) || 1);
      return frame.value.place(side.x[i] - k * dy, side.y[i] + k * dx);
    };
    const turbulent = Array.from(side.shearStress).findIndex(Number.isFinite);
    const first = turbulent < 0 ? n : turbulent;
    const line = (from: number, to: number) => Array.from({ length: to - from }, (_, k) => offset(from + k)).join('L');
    if (first > 1) out.push({ path: `M${line(0, Math.min(n, first + 1))}`, dash: LAMINAR.dash });
    const share =
      side.displacementThickness[n - 1] /
      (d.top.displacementThickness.at(-1)! + d.bottom.displacementThickness.at(-1)!);
    const wake = Array.from(
      d.wake.x,
      (x, i) => [x, d.wake.y[i] + sign * share * d.wake.displacementThickness[i]] as const,
    )
      .filter(([x], i) => i > 2 && x < 1.16)
      .map(([x, y]) => frame.value.place(x, y));
    out.push({ path: `M${[line(Math.min(first, n - 1), n), ...wake].join('L')}`, dash: TURBULENT.dash });
  }
  return out;
});
const marks = computed(() => {
  if (!props.flow?.distributions) return [];
  return layerMarks(props.flow)
    .filter((m) => m.x > 0.015 && (m.x < 0.975 || m.kind === 'separation'))
    .map((m) => {
      const top = m.surface === 'top';
      return {
        ...m,
        px: frame.value.x(m.x),
        py: frame.value.y(valueAt(props.flow!.distributions![m.surface], 'y', m.x)),
        away: top ? -1 : 1,
        colour: top ? UPPER.colour : LOWER.colour,
        text: m.kind === 'transition' || m.kind === 'separation' ? `${m.kind} ${formatNumber(m.x, 2)}` : '',
      };
    });
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
        :d="outlineOfFlow ?? outline"
        style="fill: var(--section-fill); stroke: var(--ink)"
        stroke-width="1.9"
        stroke-linejoin="round"
        data-test="outline"
      />
      <path
        v-for="(l, i) in displaced"
        :key="`d${i}`"
        :d="l.path"
        fill="none"
        :style="{ stroke: TURBULENT.colour }"
        stroke-width="1.4"
        :stroke-dasharray="l.dash"
        data-test="displaced"
      />
      <path
        v-if="!flapped && Math.abs(view.facts.camber.max) > 1e-4"
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
        <HaloText
          :x="crest.cx + 8"
          :y="crest.cy + 16"
          :size="12.5"
          :weight="600"
          colour="var(--ochre-text)"
          ground="var(--section-fill)"
        >
          camber {{ percent(view.facts.camber.max) }} at {{ formatNumber(view.facts.camber.at, 2) }}
        </HaloText>
      </g>
      <g v-for="(m, i) in marks" :key="`m${i}`" :data-test="`mark-${m.kind}`">
        <line
          :x1="m.px"
          :x2="m.px"
          :y1="m.py"
          :y2="m.py + m.away * 20"
          :style="{ stroke: m.colour }"
          stroke-width="1.3"
        />
        <circle
          :cx="m.px"
          :cy="m.py"
          r="3.2"
          :style="{ fill: m.kind === 'transition' ? m.colour : 'var(--paper)', stroke: m.colour }"
          stroke-width="1.4"
        />
        <HaloText
          v-if="m.text"
          :x="m.px"
          :y="m.py + m.away * 24 + (m.away > 0 ? 9 : 0)"
          text-anchor="middle"
          :weight="600"
          :colour="m.colour"
        >
          {{ m.text }}
        </HaloText>
      </g>
      <circle
        :cx="frame.x(view.facts.noseRadius)"
        :cy="frame.y(0)"
        :r="Math.max(1, view.facts.noseRadius * frame.scale)"
        fill="none"
        style="stroke: var(--soft)"
        stroke-dasharray="2 2"
        stroke-width="0.9"
      />
      <text :x="frame.x(0) - 8" :y="frame.y(0) + 4" text-anchor="end" font-size="12" style="fill: var(--soft)">
        r {{ percent(view.facts.noseRadius) }}
      </text>
      <text :x="frame.x(1) + 8" :y="frame.y(0) + (flow ? 26 : 4)" font-size="12" style="fill: var(--soft)">
        {{ formatNumber(view.facts.trailingEdge.angle * DEG, 1) }}°
        <tspan v-if="view.facts.trailingEdge.gap > 1e-6">, gap {{ percent(view.facts.trailingEdge.gap, 2) }}</tspan>
      </text>
    </svg>
  </div>
</template>
