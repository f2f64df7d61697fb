<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { scaleSymlog } from 'd3-scale';
import { computed, ref } from 'vue';
import type { ChangeEffect } from '@veldtwind/core/candidate';
import type { Mode } from '@veldtwind/core/motion';
import { formatNumber } from '@veldtwind/core/units';
import HaloText from '@/components/plot/HaloText.vue';
import PolePlane from '@/components/plot/PolePlane.vue';
import type { SeriesStyle } from '@/lib/series-style';
import { markerPath } from '@/lib/marker-path';

/** Eigenvalues in the plane, upper half: what lies left of the axis dies out. Both scales are logarithmic away from zero, since modes differ by thousands. */
export interface Poles {
  id: string;
  letter: string;
  style: SeriesStyle;
  modes: Mode[];
  main: boolean;
}
const props = defineProps<{
  poles: Poles[];
  /** Modes while a number changes, of the candidate that is worked on. */ path: { label: string; modes: Mode[] }[];
  selected: string | null;
  /** Least damping ratio that the brief wants, or null. */ wanted: number | null;
  /** What changes do, drawn as arrows from the pole that is chosen. */ effects: ChangeEffect[];
}>();
const emit = defineEmits<{ pick: [mode: string] }>();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box);
const M = { left: 14, right: 64, top: 14, bottom: 34 };
const all = computed(() => [...props.poles.flatMap((p) => p.modes), ...props.path.flatMap((p) => p.modes)]);
const LINEAR = 0.3;
const x = computed(() => {
  const low = Math.min(-1, ...all.value.map((m) => m.re));
  const high = Math.max(0.2, ...all.value.map((m) => m.re));
  return scaleSymlog([1.3 * low, 1.6 * high], [M.left, Math.max(M.left + 10, width.value - M.right)]).constant(LINEAR);
});
const y = computed(() => {
  const high = Math.max(1, ...all.value.map((m) => m.im));
  return scaleSymlog([0, 1.4 * high], [Math.max(M.top + 10, height.value - M.bottom), M.top]).constant(LINEAR);
});
const TICKS = [0.1, 0.3, 1, 3, 10, 30, 100, 300, 1000, 3000, 10000];
const xTicks = computed(() => [...TICKS.map((t) => -t).reverse(), 0, ...TICKS].filter((t) => within(t, x.value)));
const yTicks = computed(() => [0, ...TICKS].filter((t) => within(t, y.value)));
function within(t: number, scale: { domain(): number[] }): boolean {
  const [a, b] = scale.domain();
  return t >= Math.min(a, b) && t <= Math.max(a, b);
}
/** Ticks whose labels do not touch. */
const apart = (ticks: number[], at: (t: number) => number, least: number) =>
  ticks.reduce<number[]>((kept, t) => {
    if (t === 0 || (Math.abs(at(t) - at(0)) >= least && kept.every((k) => Math.abs(at(k) - at(t)) >= least)))
      kept.push(t);
    return kept;
  }, []);
const shownX = computed(() =>
  apart([0, ...xTicks.value.filter((t) => t !== 0).sort((a, b) => Math.abs(b) - Math.abs(a))], (t) => x.value(t), 34),
);
const shownY = computed(() =>
  apart([0, ...yTicks.value.filter((t) => t !== 0).sort((a, b) => b - a)], (t) => y.value(t), 20),
);
/** Lines of constant damping ratio. */
const RATIOS = [0.1, 0.3, 0.7];
const ratioLines = computed(() =>
  [
    ...RATIOS.filter((z) => props.wanted === null || Math.abs(z - props.wanted) > 0.02),
    ...(props.wanted ? [props.wanted] : []),
  ].map((z) => {
    const points: string[] = [];
    let end: [number, number] = [0, 0];
    for (let k = 0; k <= 60; k++) {
      const size = 0.02 * (1e6 / 2) ** (k / 60);
      const [re, im] = [-z * size, size * Math.sqrt(1 - z * z)];
      if (!within(re, x.value) || !within(im, y.value)) break;
      end = [x.value(re), y.value(im)];
      points.push(`${end[0].toFixed(1)},${end[1].toFixed(1)}`);
    }
    return { z, points: points.join(' '), end, brief: z === props.wanted };
  }),
);
const tracks = computed(() => {
  const by = new Map<string, { x: number; y: number }[]>();
  for (const { modes } of props.path)
    for (const m of modes) by.set(m.name, [...(by.get(m.name) ?? []), { x: x.value(m.re), y: y.value(m.im) }]);
  return [...by].map(([name, list]) => ({
    name,
    points: list.map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(' '),
  }));
});
/** Arrows of the three greatest effects, drawn five times as long as the changes are. */
const LONGER = 5;
const arrows = computed(() => {
  const main = props.poles.find((p) => p.main)?.modes.find((m) => m.name === props.selected);
  if (!main) return [];
  return props.effects
    .flatMap((e) => {
      const d = e.modes[main.name];
      return d ? [{ label: e.label, size: Math.hypot(d.re, d.im), d }] : [];
    })
    .sort((a, b) => b.size - a.size)
    .slice(0, 3)
    .map(({ label, d }) => {
      const [x0, y0] = [x.value(main.re), y.value(main.im)];
      const [x1, y1] = [x.value(main.re + LONGER * d.re), y.value(Math.max(0, main.im + LONGER * d.im))];
      return { label, x0, y0, x1, y1, far: Math.hypot(x1 - x0, y1 - y0) > 6 };
    })
    .filter((a) => a.far);
});
const short = (name: string) => name.replace(', real ', ' ');
/** Names of poles that lie near each other on the axis stand one over the other. */
const names = computed(() => {
  const out: { name: string; x: number; y: number; colour: string }[] = [];
  for (const p of props.poles.filter((q) => q.main))
    for (const m of [...p.modes].sort((a, b) => a.re - b.re)) {
      const text = short(m.name);
      const half = 3.2 * text.length;
      let at = { x: Math.max(M.left + half, x.value(m.re)), y: y.value(m.im) - 11 };
      while (out.some((o) => Math.abs(o.y - at.y) < 13 && Math.abs(o.x - at.x) < half + 3.2 * o.name.length + 4))
        at = { x: at.x, y: at.y - 14 };
      out.push({ name: text, ...at, colour: p.style.colour });
    }
  return out;
});
</script>

<template>
  <div ref="box" class="min-h-0 flex-1">
    <svg
      v-if="width > 40"
      :width="width"
      :height="height"
      role="group"
      aria-label="Poles of the modes"
      data-test="poles"
    >
      <PolePlane :x="x" :y="y" :width="width" :height="height" :margin="M" :x-ticks="shownX" :y-ticks="shownY" />
      <g fill="none" stroke="var(--faint)" stroke-dasharray="2 4">
        <polyline
          v-for="l in ratioLines"
          :key="l.z"
          :points="l.points"
          :stroke="l.brief ? 'var(--grass)' : undefined"
          :stroke-dasharray="l.brief ? 'none' : undefined"
        />
      </g>
      <g fill="var(--soft)" font-size="11">
        <text v-for="l in ratioLines" :key="l.z" :x="l.end[0] + 3" :y="Math.max(M.top + 10, l.end[1] + 10)">
          ζ {{ l.z }}{{ l.brief ? ' by the brief' : '' }}
        </text>
      </g>
      <polyline
        v-for="t in tracks"
        :key="t.name"
        :points="t.points"
        fill="none"
        stroke="var(--ochre)"
        stroke-width="1.2"
        opacity="0.55"
      />
      <g v-for="a in arrows" :key="a.label" stroke="var(--grass)" fill="var(--grass)">
        <title>{{ a.label }}, five times</title>
        <line :x1="a.x0" :y1="a.y0" :x2="a.x1" :y2="a.y1" stroke-width="1.6" />
        <circle :cx="a.x1" :cy="a.y1" r="2.6" stroke="none" />
      </g>
      <g v-for="p in poles" :key="p.id">
        <g
          v-for="m in p.modes"
          :key="m.name"
          :transform="`translate(${x(m.re)},${y(m.im)})`"
          :class="p.main ? 'cursor-pointer' : ''"
          :role="p.main ? 'button' : 'img'"
          :tabindex="p.main ? 0 : undefined"
          :aria-label="`${p.letter} ${m.name}: ${formatNumber(m.re, 3)}; ${formatNumber(m.im, 3)}`"
          @click="p.main && emit('pick', m.name)"
          @keydown.enter="p.main && emit('pick', m.name)"
        >
          <circle v-if="p.main && selected === m.name" r="10" fill="var(--select)" stroke="var(--ochre)" />
          <path :d="markerPath(p.style.marker, p.main ? 5 : 3.5)" :fill="p.style.colour" />
        </g>
      </g>
      <HaloText v-for="n in names" :key="n.name" :x="n.x" :y="n.y" text-anchor="middle" :colour="n.colour">
        {{ n.name }}
      </HaloText>
    </svg>
  </div>
</template>
