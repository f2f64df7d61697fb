<script setup lang="ts">
import { curveCatmullRom, line } from 'd3-shape';
import { computed } from 'vue';
import { usePlot } from '@/components/plot/context';
import HaloText from '@/components/plot/HaloText.vue';

/** Lines of equal value in a plot, each with its value; a stall is the edge on the left. */
const props = withDefaults(
  defineProps<{
    lines: {
      value: number;
      text: string;
      rings: { x: number; y: number; edge: boolean }[][];
      /** Of its own, where it is not that of the others. */ colour?: string;
    }[];
    stall?: { x: number; y: number }[];
    /** Whether the line of zero is an end. */
    zero?: boolean;
    /** Where no text may stand. */ avoid?: { x: number; y: number }[];
  }>(),
  { stall: () => [], zero: false, avoid: () => [] },
);
const { x, y, inner, clip } = usePlot();
const draw = line<{ x: number; y: number }>(
  (p) => x.value(p.x),
  (p) => y.value(p.y),
).curve(curveCatmullRom.alpha(0.5));
/** Rings without their stretches along the edge of the grid, or beyond the stall. */
const stallAt = (height: number) => {
  if (props.stall.length === 0) return -Infinity;
  const i = props.stall.findIndex((p) => p.y >= height);
  if (i < 0) return props.stall[props.stall.length - 1].x;
  if (i === 0) return props.stall[0].x;
  const [a, b] = [props.stall[i - 1], props.stall[i]];
  return a.x + ((height - a.y) / (b.y - a.y || 1)) * (b.x - a.x);
};
/** Where along a line its text may stand, the best first. */
const SHARES = [0.5, 0.35, 0.65, 0.22, 0.78, 0.1, 0.9];
const LETTER = 6.6;
const HIGH = 14;
interface Box {
  left: number;
  right: number;
  y: number;
}
/** The first place along a line whose text stands clear of the others. */
function freePlace(line: { x: number; y: number }[], text: string, taken: Box[]): { x: number; y: number } | undefined {
  const half = (LETTER * text.length) / 2;
  for (const share of SHARES) {
    const at = line[Math.min(line.length - 1, Math.floor(share * line.length))];
    if (!at) return undefined;
    const [px, py] = [x.value(at.x), y.value(at.y)];
    const box = { left: px - half, right: px + half, y: py };
    if (box.left < 0 || box.right > inner.value.w || py < HIGH || py > inner.value.h - HIGH / 2) continue;
    if (taken.some((t) => t.left < box.right && box.left < t.right && Math.abs(t.y - py) < HIGH)) continue;
    taken.push(box);
    return at;
  }
  return undefined;
}
const shapes = computed(() => {
  const taken: Box[] = props.avoid.map((p) => ({ left: x.value(p.x) - 14, right: x.value(p.x) + 26, y: y.value(p.y) }));
  // Lines of a colour of their own matter most.
  const order = [...props.lines].sort((a, b) => Number(Boolean(b.colour)) - Number(Boolean(a.colour)));
  return order.map(({ value, text, rings, colour }) => {
    const stretches: { x: number; y: number }[][] = [];
    for (const ring of rings) {
      let run: { x: number; y: number }[] = [];
      for (const p of ring) {
        if (!p.edge && p.x > stallAt(p.y)) run.push({ x: p.x, y: p.y });
        else {
          if (run.length > 1) stretches.push(run);
          run = [];
        }
      }
      if (run.length > 1) stretches.push(run);
    }
    const longest = stretches.reduce<{ x: number; y: number }[]>((a, b) => (b.length > a.length ? b : a), []);
    return {
      value,
      text,
      colour: colour ?? (props.zero && value === 0 ? 'var(--clay)' : 'var(--sky)'),
      own: Boolean(colour),
      path: stretches.map((s) => draw(s) ?? '').join(''),
      at: freePlace(longest, text, taken),
    };
  });
});
const beyond = computed(() => {
  if (props.stall.length < 2) return null;
  const [first, last] = [props.stall[0], props.stall[props.stall.length - 1]];
  const edge = draw(props.stall) ?? '';
  return {
    edge,
    area: `${edge}L0,${y.value(last.y)}L0,${y.value(first.y)}Z`,
    at: props.stall[Math.floor(props.stall.length / 2)],
  };
});
</script>

<template>
  <g :clip-path="`url(#${clip})`">
    <path v-if="beyond" :d="beyond.area" style="fill: var(--clay)" fill-opacity="0.09" />
    <path v-if="beyond" :d="beyond.edge" fill="none" style="stroke: var(--clay)" stroke-width="1.4" />
    <path
      v-for="(s, i) in shapes"
      :key="i"
      :d="s.path"
      fill="none"
      :style="{ stroke: s.colour }"
      :stroke-width="s.own ? 1.8 : zero && s.value === 0 ? 2 : 1.3"
      :stroke-dasharray="zero && s.value < 0 ? '4 3' : undefined"
    />
  </g>
  <template v-for="(s, i) in shapes" :key="`t${i}`">
    <HaloText
      v-if="s.at"
      :x="x(s.at.x)"
      :y="y(s.at.y) + 4"
      text-anchor="middle"
      :size="12"
      :weight="600"
      :colour="s.colour === 'var(--sky)' ? 'var(--ink)' : s.colour"
      >{{ s.text }}</HaloText
    >
  </template>
  <HaloText
    v-if="beyond"
    :x="Math.max(6, x(beyond.at.x) - 8)"
    :y="y(beyond.at.y)"
    :text-anchor="x(beyond.at.x) > 60 ? 'end' : 'start'"
    :size="12"
    colour="var(--clay)"
    >stall</HaloText
  >
</template>
