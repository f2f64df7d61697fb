<script setup lang="ts">
import { computed, ref } from 'vue';
import { formatNumber } from '@veldtwind/core/units';
import type { SectionDetail } from '@veldtwind/core/shaping';
import { pairs, spanOf, useDrawing } from '@/lib/drawing-frame';
import { LOWER, UPPER } from '@/lib/series-style';
import HaloText from '@/components/plot/HaloText.vue';

/** A section with its curvature as a comb on the outline, its centroid and its principal axes. */
const props = defineProps<{ detail: SectionDetail; name: string }>();
const height01 = ref(0.35);
/** How far the comb may reach from the outline, chords. */
const REACH = 0.16;
const { width, height, frame } = useDrawing(
  () => {
    const [low, high] = spanOf(props.detail.y);
    return { x: [-REACH, 1.01], y: [low - REACH, high + REACH] };
  },
  () => ({ left: 30, right: 30, top: 0, bottom: 0 }),
  { size: { width: 700, height: 300 } },
);
const at = (x: number, y: number) => frame.value.place(x, y);
const outline = computed(() => frame.value.path(pairs(props.detail.x, props.detail.y), true));
/** Teeth along the outward normal, as the root of the curvature so that nose and flanks are seen at once. */
const teeth = computed(() => {
  const { s, x, y, curvature } = props.detail.smoothness;
  const n = s.length;
  return Array.from(s, (_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
    const [dx, dy] = [x[b] - x[a], y[b] - y[a]];
    const norm = Math.hypot(dx, dy) || 1;
    const k = 0.012 * Math.sign(curvature[i]) * Math.abs(curvature[i]) ** 0.5 * (0.4 + 2.4 * height01.value);
    const size = Math.min(0.15, Math.max(-0.15, k));
    return { x: x[i], y: y[i], tx: x[i] + (size * dy) / norm, ty: y[i] - (size * dx) / norm };
  });
});
const side = (from: number, to: number) => teeth.value.slice(from, to + 1);
const combs = computed(() => {
  const nose = props.detail.smoothness.nose;
  return [
    { style: UPPER, teeth: side(0, nose) },
    { style: LOWER, teeth: side(nose, teeth.value.length - 1) },
  ];
});
const axes = computed(() => {
  const { centroid: c, solid } = props.detail.moments;
  const line = (angle: number, reach: number) => {
    const [dx, dy] = [Math.cos(angle) * reach, Math.sin(angle) * reach];
    return `M${at(c.x - dx, c.y - dy)}L${at(c.x + dx, c.y + dy)}`;
  };
  return [line(solid.axis, 0.34), line(solid.axis + Math.PI / 2, 0.11)];
});
/** Lumps as stretches of the outline; only the worst of each surface is named on the figure. */
const lumps = computed(() => {
  const { x, y, nose, lumps: all } = props.detail.smoothness;
  return all.map((l) => {
    const points: string[] = [];
    let top: [number, number] | null = null;
    const middle = 0.5 * (l.from + l.to);
    x.forEach((v, i) => {
      if ((l.surface === 'upper' ? i > nose : i < nose) || v < l.from - 0.004 || v > l.to + 0.004) return;
      points.push(at(v, y[i]));
      if (!top || Math.abs(v - middle) < Math.abs(top[0] - middle)) top = [v, y[i]];
    });
    const worst = all.every((o) => o.surface !== l.surface || o.swing <= l.swing);
    return {
      ...l,
      d: points.length > 1 ? `M${points.join('L')}` : '',
      top: worst ? (top as [number, number] | null) : null,
    };
  });
});
</script>

<template>
  <div ref="box" class="relative h-full min-h-[240px]">
    <svg
      class="absolute inset-0"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`${name}: curvature comb, ${detail.smoothness.verdict}`"
      data-test="comb"
    >
      <path :d="outline" style="fill: var(--section-fill)" />
      <g v-for="(c, i) in combs" :key="i" fill="none" :style="{ stroke: c.style.colour }">
        <path
          :d="
            c.teeth
              .filter((_, k) => k % 2 === 0)
              .map((t) => `M${at(t.x, t.y)}L${at(t.tx, t.ty)}`)
              .join('')
          "
          stroke-width="0.6"
          opacity="0.65"
        />
        <path
          :d="`M${c.teeth.map((t) => at(t.tx, t.ty)).join('L')}`"
          stroke-width="1.2"
          :stroke-dasharray="c.style.dash"
        />
      </g>
      <path :d="outline" fill="none" style="stroke: var(--ink)" stroke-width="1.5" />
      <path
        v-for="(a, i) in axes"
        :key="`a${i}`"
        :d="a"
        style="stroke: var(--sky)"
        stroke-width="1.1"
        stroke-dasharray="8 3 2 3"
      />
      <circle
        :cx="frame.x(detail.moments.centroid.x)"
        :cy="frame.y(detail.moments.centroid.y)"
        r="4"
        style="fill: var(--paper); stroke: var(--sky)"
        stroke-width="1.6"
      />
      <HaloText
        :x="frame.x(detail.moments.centroid.x) + 8"
        :y="frame.y(detail.moments.centroid.y) - 6"
        :weight="600"
        colour="var(--sky)"
        ground="var(--section-fill)"
      >
        centroid {{ formatNumber(detail.moments.centroid.x, 3) }}
      </HaloText>
      <g v-for="(l, i) in lumps" :key="`l${i}`">
        <path :d="l.d" fill="none" style="stroke: var(--clay)" stroke-width="5" stroke-linecap="round" opacity="0.75" />
        <text
          v-if="l.top"
          :x="frame.x(l.top[0])"
          :y="frame.y(l.top[1]) + (l.surface === 'upper' ? -0.075 : 0.085) * frame.scale"
          text-anchor="middle"
          font-size="12.5"
          font-weight="600"
          style="fill: var(--clay)"
        >
          {{ l.swing > 1 ? 'lumpy' : 'uneven' }} from {{ formatNumber(l.from, 2) }} to {{ formatNumber(l.to, 2) }}
        </text>
      </g>
    </svg>
    <label class="absolute right-4 bottom-1 flex items-center gap-2 text-[12px] text-soft">
      curvature comb
      <input v-model.number="height01" type="range" min="0" max="1" step="0.05" aria-label="Curvature comb height" />
    </label>
  </div>
</template>
