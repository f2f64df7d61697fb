<script setup lang="ts">
import { computed } from 'vue';
import type { ChartSeries } from '@/lib/chart-model';
import { isOpenMarker, markerPath } from '@/lib/marker-path';
import { pixelText } from '@/lib/pixel-text';
import { pixelsOf } from '@/lib/plot-scale';
import { PolylineText } from '@/lib/polyline-text';
import { usePlot } from './context';

/**
 * Curves: one polyline, one path for all markers, one for the doubtful ones, so that hundreds stay fluid.
 * A doubtful point is drawn open with a stroke through it; an unsolved one is a tick on the axis, never a point on the curve.
 */
const props = defineProps<{ series: ChartSeries[] }>();
const { x, y, inner, clip, inView } = usePlot();

/** Beyond, markers would cover the curve. */
const MOST_MARKERS = 60;
const MARKER = 2.1;
const marked = (s: ChartSeries) =>
  s.dots === true || (s.markers !== false && !s.reference && s.points.length <= MOST_MARKERS);

const drawn = computed(() => {
  const [sx, sy] = [pixelsOf(x.value), pixelsOf(y.value)];
  return props.series.map((s) => {
    const line = new PolylineText();
    let sound = '';
    let doubtful = '';
    let unsolved = '';
    const shape = markerPath(s.style.marker, MARKER);
    const withMarkers = marked(s);
    for (const p of s.points) {
      const px = sx(p.x);
      if (p.status === 'unsolved') {
        unsolved += `M${pixelText(px)},${inner.value.h}v-7`;
        continue;
      }
      const py = sy(p.y);
      line.to(px, py);
      if (!withMarkers || !inView(px, py)) continue;
      const place = `${pixelText(px)},${pixelText(py)}`;
      if (p.status === 'doubtful') doubtful += `M${place}${shape}M${pixelText(px - 5)},${pixelText(py + 5)}l10,-10`;
      else sound += `M${place}${shape}`;
    }
    const ground = new PolylineText();
    if (s.over) {
      for (const p of s.points) ground.to(sx(p.x), sy(p.y));
      for (const p of s.over.slice().reverse()) ground.to(sx(p.x), sy(p.y));
    }
    return { s, ground: ground.text, line: line.text, sound, doubtful, unsolved, open: isOpenMarker(s.style.marker) };
  });
});
</script>

<template>
  <g>
    <g :clip-path="`url(#${clip})`" fill="none" stroke-linejoin="round">
      <template v-for="c in drawn" :key="c.s.id">
        <polygon v-if="c.ground" :points="c.ground" :style="`fill:${c.s.style.colour}`" opacity="0.16" stroke="none" />
        <path v-if="c.unsolved" :d="c.unsolved" :style="`stroke:${c.s.style.colour}`" stroke-width="1.5" />
        <polyline
          v-if="!c.s.dots"
          :points="c.line"
          :style="`stroke:${c.s.style.colour}`"
          :stroke-width="c.s.style.width ?? (c.s.reference ? 1.1 : 2.1)"
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
          :style="`fill:${c.open ? 'none' : c.s.style.colour};stroke:${c.s.style.colour}`"
        />
        <path v-if="c.doubtful" :d="c.doubtful" :style="`fill:var(--paper);stroke:${c.s.style.colour}`" />
      </template>
    </g>
  </g>
</template>
