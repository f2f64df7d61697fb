<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { hierarchy, treemap } from 'd3-hierarchy';
import { computed, useTemplateRef } from 'vue';
import type { DragBuildUp } from '@veldtwind/core/drag';
import { formatNumber } from '@veldtwind/core/units';
import { seriesStyle } from '@/lib/series-style';

/** Every part and allowance of one candidate as a field as large as its drag. */
const props = defineProps<{ built: DragBuildUp; selected: string | null; label: string }>();
const emit = defineEmits<{ pick: [id: string] }>();
const box = useTemplateRef<HTMLElement>('box');
const { width, height } = useElementSize(box, { width: 400, height: 200 });
interface Leaf {
  id: string;
  name: string;
  CD: number;
  place: number;
  allowance: boolean;
}
const fields = computed(() => {
  const leaves: Leaf[] = [
    ...props.built.parts.map((p, i) => ({ id: p.id, name: p.name, CD: p.CD, place: i, allowance: false })),
    ...props.built.allowances.map((a, i) => ({
      id: `allowance-${i}`,
      name: a.name,
      CD: a.CD,
      place: i,
      allowance: true,
    })),
  ];
  const root = hierarchy<{ children?: Leaf[] } & Partial<Leaf>>({ children: leaves.filter((l) => l.CD > 0) })
    .sum((d) => d.CD ?? 0)
    .sort((a, b) => (b.value ?? 0) - (a.value ?? 0));
  return treemap<{ children?: Leaf[] } & Partial<Leaf>>()
    .size([width.value, height.value])
    .padding(2)(root)
    .leaves()
    .map((n) => ({ ...(n.data as Leaf), x: n.x0, y: n.y0, w: n.x1 - n.x0, h: n.y1 - n.y0 }));
});
const counts = (CD: number) => formatNumber(1e4 * CD, 1);
/** As much as fits: the share is left out first. */
const amount = (CD: number, width: number) =>
  width > 128 ? `${counts(CD)} counts · ${share(CD)}` : width > 82 ? `${counts(CD)} counts` : counts(CD);
const share = (CD: number) => `${formatNumber((100 * CD) / props.built.CD, 0)} %`;
</script>

<template>
  <div ref="box" class="relative min-h-0 overflow-hidden">
    <svg :width="width" :height="height" class="absolute inset-0" role="group" :aria-label="label" data-test="drag-map">
      <defs>
        <pattern id="drag-hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="6" style="stroke: var(--paper)" stroke-width="2" />
        </pattern>
      </defs>
      <g
        v-for="f in fields"
        :key="f.id"
        class="cursor-pointer"
        role="button"
        tabindex="0"
        :aria-label="`${f.name}: ${counts(f.CD)} counts, ${share(f.CD)}`"
        @click="emit('pick', f.id)"
        @keydown.enter="emit('pick', f.id)"
        @keydown.space.prevent="emit('pick', f.id)"
      >
        <title>{{ f.name }}: {{ counts(f.CD) }} counts, {{ share(f.CD) }}</title>
        <rect
          :x="f.x"
          :y="f.y"
          :width="f.w"
          :height="f.h"
          rx="3"
          :style="{
            fill: seriesStyle(f.allowance ? f.place + 5 : f.place).colour,
            stroke: f.id === selected ? 'var(--ink)' : 'none',
          }"
          :fill-opacity="f.allowance ? 0.4 : 0.62"
          stroke-width="2"
        />
        <rect
          v-if="f.allowance"
          :x="f.x"
          :y="f.y"
          :width="f.w"
          :height="f.h"
          rx="3"
          fill="url(#drag-hatch)"
          opacity="0.5"
        />
      </g>
      <!-- Words over the fields are apart from them: the fields' names say it all. -->
      <g v-for="f in fields" :key="`${f.id} words`" class="pointer-events-none" aria-hidden="true">
        <template v-if="f.w > 54 && f.h > 22">
          <text :x="f.x + 8" :y="f.y + 17" font-size="13" font-weight="600" style="fill: var(--ink)">
            {{ f.name.slice(0, Math.floor(f.w / 8)) }}
          </text>
          <text v-if="f.h > 38" :x="f.x + 8" :y="f.y + 33" font-size="12" style="fill: var(--ink)">
            {{ amount(f.CD, f.w) }}
          </text>
        </template>
      </g>
    </svg>
  </div>
</template>
