<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { skinAt, sparAt, type SectionPlace } from '@veldtwind/core/members';
import type { SurfaceStructure } from '@veldtwind/core/structure';
import { formatNumber } from '@veldtwind/core/units';

/** The section at a place, cut: skin, spars, the elastic axis; one scale both ways. */
const props = defineProps<{
  place: SectionPlace;
  structure: SurfaceStructure;
  name: string;
  /** Chord fraction. */ axis: number | null;
}>();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box);
const MARGIN = 10;
const scale = computed(() => {
  const { ring, chord } = props.place;
  const zs = ring.map((p) => p[1]);
  const [low, high] = [Math.min(...zs), Math.max(...zs)];
  const k = Math.max(1, Math.min((width.value - 2 * MARGIN) / chord, (height.value - 2 * MARGIN) / (high - low)));
  const left = 0.5 * (width.value - k * chord);
  const top = 0.5 * (height.value - k * (high - low));
  return { k, x: (v: number) => left + k * v, z: (v: number) => top + k * (high - v) };
});
const at = (x: number, z: number) => `${scale.value.x(x).toFixed(1)},${scale.value.z(z).toFixed(1)}`;
const outline = computed(() => `M${props.place.ring.map(([x, z]) => at(x, z)).join('L')}Z`);
/** The skin between its outer and its inner line. */
const skin = computed(() => {
  const own = props.structure.skin;
  if (!own) return '';
  const end = (own.to ?? 1) * props.place.chord;
  const n = 60;
  const xs = Array.from({ length: n + 1 }, (_, k) => end * 0.5 * (1 - Math.cos((Math.PI * k) / n)));
  const { upper, lower } = props.place;
  const room = (x: number) => Math.min(own.thickness, 0.5 * (upper(x) - lower(x)));
  const outer = [...[...xs].reverse().map((x) => at(x, upper(x))), ...xs.map((x) => at(x, lower(x)))];
  const inner = [
    ...[...xs].reverse().map((x) => at(x, lower(x) + room(x))),
    ...xs.map((x) => at(x, upper(x) - room(x))),
  ];
  return `M${outer.join('L')}L${inner.join('L')}Z`;
});
interface Shape {
  id: string;
  d: string;
  web?: boolean;
}
const rect = (x: number, z: number, w: number, h: number) =>
  `M${at(x - w / 2, z - h / 2)}L${at(x + w / 2, z - h / 2)}L${at(x + w / 2, z + h / 2)}L${at(x - w / 2, z + h / 2)}Z`;
const spars = computed<Shape[]>(() =>
  props.structure.spars.flatMap((spar): Shape[] => {
    const s = sparAt(
      spar,
      props.place,
      props.name,
      skinAt(props.structure, spar.at * props.place.chord, props.place.chord),
      false,
    );
    if (!s || !(s.height > 0)) return [];
    if (spar.kind === 'solid') return [{ id: spar.id, d: rect(s.x, s.z, s.width, s.height) }];
    if (spar.kind === 'tube') return [];
    const cap = 0.5 * (s.height - s.cap);
    const webs = spar.kind === 'box' ? [-0.5 * (s.width - s.web), 0.5 * (s.width - s.web)] : [0];
    return [
      { id: `${spar.id}-top`, d: rect(s.x, s.z + cap, s.width, s.cap) },
      { id: `${spar.id}-bottom`, d: rect(s.x, s.z - cap, s.width, s.cap) },
      ...webs.map((x, i) => ({
        id: `${spar.id}-web${i}`,
        d: rect(s.x + x, s.z, s.web, s.height - 2 * s.cap),
        web: true,
      })),
    ];
  }),
);
const tubes = computed(() =>
  props.structure.spars.flatMap((spar) => {
    if (spar.kind !== 'tube') return [];
    const s = sparAt(spar, props.place, props.name, 0, false);
    if (!s) return [];
    const { k, x, z } = scale.value;
    return [{ id: spar.id, x: x(s.x), y: z(s.z), r: 0.5 * k * (s.width - s.wall), wall: Math.max(1, k * s.wall) }];
  }),
);
const axisX = computed(() => (props.axis === null ? null : props.axis * props.place.chord));
const axisZ = computed(() => {
  const x = axisX.value ?? 0;
  return 0.5 * (props.place.upper(x) + props.place.lower(x));
});
</script>

<template>
  <div ref="box" class="relative min-h-0 overflow-hidden">
    <svg
      v-if="width > 0"
      :width="width"
      :height="height"
      class="absolute inset-0"
      role="img"
      :aria-label="`Section of ${name} at ${formatNumber(100 * place.share, 0)} % of the half span with its members`"
      data-test="structure-cut"
    >
      <path
        :d="outline"
        :style="{ fill: structure.core ? 'var(--section-fill)' : 'none', stroke: 'var(--soft)' }"
        stroke-linejoin="round"
      />
      <path v-if="skin" :d="skin" style="fill: var(--sky); stroke: var(--sky)" stroke-width="0.6" />
      <path v-for="s in spars" :key="s.id" :d="s.d" :style="{ fill: s.web ? 'var(--soft)' : 'var(--ochre)' }" />
      <circle
        v-for="t in tubes"
        :key="t.id"
        :cx="t.x"
        :cy="t.y"
        :r="t.r"
        style="fill: none; stroke: var(--ochre)"
        :stroke-width="t.wall"
      />
      <g v-if="axisX !== null" :transform="`translate(${scale.x(axisX)}, ${scale.z(axisZ)})`">
        <path d="M-7 0H7M0-7V7" style="stroke: var(--ink)" />
        <title>elastic axis at {{ formatNumber(100 * (axis ?? 0), 1) }} % chord</title>
      </g>
    </svg>
  </div>
</template>
