<script setup lang="ts">
import { computed } from 'vue';
import type { ChartPoint, ChartSeries } from '@/lib/chart-model';
import { isOpenMarker, markerPath } from '@/lib/marker-path';
import { pixelText } from '@/lib/pixel-text';
import { solvedPoints, usePlot } from './context';

/**
 * Curves: one path for the line, one for all markers, one for the doubtful ones, so that hundreds stay fluid.
 * A doubtful point is drawn open with a stroke through it; an unsolved one is a tick on the axis, never a point on the curve.
 */
const props = defineProps<{ series: ChartSeries[] }>();
const { x, y, inner, clip, inView } = usePlot();

/** Beyond, markers would cover the curve. */
const MOST_MARKERS = 60;
const MARKER = 2.1;
const marked = (s: ChartSeries) => s.markers !== false && !s.reference && s.points.length <= MOST_MARKERS;

const drawn = computed(() => {
  const [sx, sy] = [x.value, y.value];
  const at = (p: ChartPoint) => [sx(p.x), sy(p.y)] as const;
  return props.series.map((s) => {
    let line = '';
    let sound = '';
    let doubtful = '';
    const shape = markerPath(s.style.marker, MARKER);
    const withMarkers = marked(s);
    for (const p of solvedPoints(s)) {
      const [px, py] = at(p);
      if (!Number.isFinite(px) || !Number.isFinite(py)) continue;
      const place = `${pixelText(px)},${pixelText(py)}`;
      line += `${line === '' ? 'M' : 'L'}${place}`;
      if (!withMarkers || !inView(px, py)) continue;
      if (p.status === 'doubtful') doubtful += `M${place}${shape}M${px - 5},${py + 5}l10,-10`;
      else sound += `M${place}${shape}`;
    }
    let unsolved = '';
    for (const p of s.points) if (p.status === 'unsolved') unsolved += `M${pixelText(sx(p.x))},${inner.value.h}v-7`;
    return { s, line, sound, doubtful, unsolved, open: isOpenMarker(s.style.marker) };
  });
});
</script>

<template>
  <g>
    <g :clip-path="`url(#${clip})`" fill="none" stroke-linejoin="round">
      <template v-for="c in drawn" :key="c.s.id">
        <path v-if="c.unsolved" :d="c.unsolved" :style="{ stroke: c.s.style.colour }" stroke-width="1.5" />
        <path
          :d="c.line"
          :style="{ stroke: c.s.style.colour }"
          :stroke-width="c.s.reference ? 1.1 : 2.1"
          :stroke-dasharray="c.s.style.dash"
          :data-series="c.s.id"
        />
      </template>
    </g>
    <g stroke-width="1.5">
      <template v-for="c in drawn" :key="c.s.id">
        <path
          v-if="c.sound"
          :d="c.sound"
          :style="{ fill: c.open ? 'none' : c.s.style.colour, stroke: c.s.style.colour }"
        />
        <path v-if="c.doubtful" :d="c.doubtful" :style="{ fill: 'var(--paper)', stroke: c.s.style.colour }" />
      </template>
    </g>
  </g>
</template>
