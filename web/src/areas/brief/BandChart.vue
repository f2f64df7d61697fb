<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { scaleLinear } from 'd3-scale';
import { computed, ref } from 'vue';
import { bandWords, inBand, quantityWords } from '@veldtwind/core/findings';
import type { Band, CandidatePart } from '@veldtwind/core/project';
import type { Dimension } from '@veldtwind/core/units';
import MarkerShape from '@/components/chart/MarkerShape.vue';
import { spreadLabels } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';

/** Every band of the brief as a line, with the candidates where they stand on it. */
const props = defineProps<{
  rows: {
    key: string;
    name: string;
    dimension: Dimension;
    digits: number;
    band: Band;
    values: { candidate: CandidatePart; value: number }[];
  }[];
}>();
const preferences = usePreferences();
const box = ref<HTMLElement | null>(null);
const { width } = useElementSize(box, { width: 700, height: 200 });
const LEFT = 150;
const ROW = 74;

const lines = computed(() =>
  props.rows.map((r) => {
    const set = preferences.units;
    const all = [...r.values.map((v) => v.value), r.band.min, r.band.max].filter((v): v is number => v !== null);
    const low = Math.min(...all);
    const high = Math.max(...all);
    const air = all.length ? Math.max(0.25 * (high - low), 0.02 * Math.abs(high), 1e-6) : 1;
    const s = scaleLinear(all.length ? [low - air, high + air] : [0, 1], [LEFT, Math.max(LEFT + 80, width.value - 40)]);
    const xs = r.values.map((v) => s(v.value));
    const at = spreadLabels(xs, 62, LEFT, width.value - 10);
    return {
      ...r,
      words: bandWords(r.band, r.dimension, set, r.digits) ?? 'open',
      from: r.band.min === null ? s.range()[0] : s(r.band.min),
      to: r.band.max === null ? s.range()[1] : s(r.band.max),
      end: s.range()[1],
      open: r.band.min === null && r.band.max === null,
      marks: r.values.map((v, i) => ({
        x: xs[i],
        label: at[i],
        text: `${v.candidate.letter} ${quantityWords({ value: v.value, dimension: r.dimension, digits: r.digits }, set)}`,
        style: seriesStyle(v.candidate.style),
        inside: inBand(v.value, r.band),
      })),
    };
  }),
);
</script>

<template>
  <div ref="box">
    <h2 class="text-[16px] font-semibold">The bands, and where the candidates stand</h2>
    <svg
      :width="width"
      :height="lines.length * ROW + 6"
      role="img"
      aria-label="Bands of the brief with the candidates’ values"
      style="font-family: var(--font-sans)"
    >
      <g v-for="(l, i) in lines" :key="l.key" :transform="`translate(0,${i * ROW + 44})`">
        <text x="4" y="-2" font-size="14" font-weight="600" style="fill: var(--ink)">{{ l.name }}</text>
        <text x="4" y="15" font-size="12.5" style="fill: var(--soft)">{{ l.words }}</text>
        <line :x1="LEFT" :x2="l.end" y1="0" y2="0" style="stroke: var(--rule)" stroke-width="1.4" />
        <rect
          v-if="!l.open"
          :x="l.from"
          :width="Math.max(0, l.to - l.from)"
          y="-9"
          height="18"
          rx="3"
          style="fill: var(--grass)"
          fill-opacity="0.18"
        />
        <g v-for="m in l.marks" :key="m.text">
          <MarkerShape :x="m.x" :y="0" :marker="m.style.marker" :colour="m.style.colour" :size="4.6" />
          <line :x1="m.x" :x2="m.label" y1="-8" y2="-15" :style="{ stroke: m.style.colour }" stroke-width="0.8" />
          <text
            :x="m.label"
            y="-19"
            text-anchor="middle"
            font-size="12.5"
            font-weight="600"
            :style="{ fill: m.inside === false ? 'var(--clay)' : m.style.colour }"
          >
            {{ m.inside === false ? '▲ ' : '' }}{{ m.text }}
          </text>
        </g>
        <text
          v-if="l.marks.length === 0"
          :x="LEFT"
          y="-14"
          font-size="12.5"
          font-style="italic"
          style="fill: var(--soft)"
        >
          no candidate is balanced yet
        </text>
      </g>
    </svg>
  </div>
</template>
