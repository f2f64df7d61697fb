<script setup lang="ts">
import { Eye, EyeOff, X } from 'lucide-vue-next';
import { computed, ref, shallowRef, watch } from 'vue';
import { interpolate } from '@veldtwind/core/numerics';
import { resolvedSource } from '@veldtwind/core/project';
import LineChart from '@/components/chart/LineChart.vue';
import StyleMenu from '@/components/field/StyleMenu.vue';
import MarkerShape from '@/components/chart/MarkerShape.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { pairs, spanOf, useDrawing } from '@/lib/drawing-frame';
import { useLibrary } from '@/store/library';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import type { SectionView } from '@veldtwind/core/shaping';

/** Sections over each other, to scale on one chord line; below, how far each lies from the first. */
const library = useLibrary();
const project = useProject();
const views = shallowRef(new Map<string, SectionView>());
watch(
  () => library.compared.map((id) => [id, project.document.sections[id]] as const),
  async (list) => {
    const next = new Map<string, SectionView>();
    for (const [id] of list) {
      try {
        next.set(
          id,
          await lanes.section.run('section-view', { source: resolvedSource(project.document.sections, id) }),
        );
      } catch {
        // One that cannot be made is missing from the figure; its card says why.
      }
    }
    views.value = next;
  },
  { immediate: true },
);
const shown = computed(() => library.compared.filter((id) => views.value.has(id) && !library.hidden.includes(id)));
const reference = ref('');
const first = computed(() => (shown.value.includes(reference.value) ? reference.value : shown.value[0]));
const name = (id: string) => project.document.sections[id]?.name ?? id;

const { width, height, frame } = useDrawing(
  () => ({
    x: [0, 1],
    y: spanOf(
      shown.value.flatMap((id) => Array.from(views.value.get(id)!.y)),
      -0.02,
      0.02,
    ),
  }),
  () => ({ left: 20, right: 150, top: 13, bottom: 13 }),
  { least: 50, size: { width: 700, height: 200 } },
);
const path = (v: SectionView) => frame.value.path(pairs(v.x, v.y), v.facts.trailingEdge.gap > 1e-6);

/** A few places of the outline that carry its marker, others for every section. */
function marked(v: SectionView, k: number): [number, number][] {
  const n = v.x.length;
  return [0.16, 0.3, 0.7, 0.84].map((share): [number, number] => {
    const i = Math.round((share + 0.018 * (k % 6)) * (n - 1));
    return [v.x[i], v.y[i]];
  });
}

/** Height of one surface at x, by straight lines between the points. */
function surface(v: SectionView, upper: boolean): (x: number) => number {
  let nose = 0;
  v.x.forEach((x, i) => (nose = x < v.x[nose] ? i : nose));
  const order = upper
    ? Array.from({ length: nose + 1 }, (_, i) => nose - i)
    : Array.from({ length: v.x.length - nose }, (_, i) => nose + i);
  const [xs, ys] = [order.map((i) => v.x[i]), order.map((i) => v.y[i])];
  return (x) => interpolate(xs, ys, x);
}
const stations = Array.from({ length: 121 }, (_, i) => 0.002 + 0.996 * 0.5 * (1 - Math.cos((Math.PI * i) / 120)));
const side = ref<'upper' | 'lower'>('upper');
const deviation = computed<ChartSeries[]>(() => {
  const base = views.value.get(first.value ?? '');
  if (!base) return [];
  return shown.value
    .filter((id) => id !== first.value)
    .map((id) => {
      const v = views.value.get(id)!;
      const [a, b] = [surface(base, side.value === 'upper'), surface(v, side.value === 'upper')];
      return {
        id,
        label: name(id),
        style: library.styleOf(id),
        markers: false,
        points: stations.map((x) => ({ x, y: 100 * (b(x) - a(x)), tag: x })),
      };
    });
});
const cursor = ref<number | null>(null);
const editing = ref('');
</script>

<template>
  <EmptyState
    v-if="library.compared.length === 0"
    title="Nothing to compare yet"
    text="Tick compare on any cards or rows; the sections are drawn over each other, to scale on one chord line."
  />
  <div v-else class="grid h-full min-h-[400px] grid-rows-[auto_minmax(130px,0.8fr)_1fr] px-5 py-2">
    <ul class="flex flex-wrap gap-x-3 gap-y-1" aria-label="Compared sections">
      <li
        v-for="id in library.compared"
        :key="id"
        class="relative flex items-center gap-1"
        :class="library.hidden.includes(id) ? 'opacity-50' : ''"
      >
        <button
          :title="`Style of ${name(id)}`"
          :aria-label="`Style of ${name(id)}`"
          class="rounded px-1 hover:bg-select"
          @click="editing = editing === id ? '' : id"
        >
          <svg width="26" height="10" aria-hidden="true">
            <line
              x1="1"
              x2="25"
              y1="5"
              y2="5"
              :style="{ stroke: library.styleOf(id).colour }"
              :stroke-width="library.styleOf(id).width"
              :stroke-dasharray="library.styleOf(id).dash"
            />
          </svg>
        </button>
        <button
          class="hover:underline"
          :class="id === first ? 'font-semibold' : ''"
          title="Deviation is measured from this one"
          @click="reference = id"
        >
          {{ name(id) }}
        </button>
        <button
          class="icon-btn"
          :aria-label="`${library.hidden.includes(id) ? 'Show' : 'Hide'} ${name(id)}`"
          @click="library.toggleHidden(id)"
        >
          <EyeOff v-if="library.hidden.includes(id)" :size="13" /><Eye v-else :size="13" />
        </button>
        <button
          class="icon-btn"
          :aria-label="`Remove ${name(id)} from the comparison`"
          @click="library.compare(id, false)"
        >
          <X :size="13" />
        </button>
        <StyleMenu
          v-if="editing === id"
          class="absolute top-6 left-0"
          :model-value="library.styleOf(id)"
          @change="(more) => library.restyle(id, more)"
        />
      </li>
    </ul>
    <div ref="box" class="relative min-h-0">
      <svg
        class="absolute inset-0"
        :width="width"
        :height="height"
        role="img"
        :aria-label="`${shown.map(name).join(', ')} drawn over each other`"
        data-test="overlay"
      >
        <line :x1="frame.x(0)" :x2="frame.x(1)" :y1="frame.y(0)" :y2="frame.y(0)" style="stroke: var(--rule)" />
        <line
          v-for="k in 11"
          :key="k"
          :x1="frame.x((k - 1) / 10)"
          :x2="frame.x((k - 1) / 10)"
          y1="4"
          :y2="height - 4"
          style="stroke: var(--rule-light)"
        />
        <line
          v-if="cursor !== null"
          :x1="frame.x(cursor)"
          :x2="frame.x(cursor)"
          y1="4"
          :y2="height - 4"
          style="stroke: var(--soft)"
          stroke-dasharray="2 2"
        />
        <path
          v-for="id in shown"
          :key="id"
          :d="path(views.get(id)!)"
          fill="none"
          :style="{ stroke: library.styleOf(id).colour }"
          :stroke-width="library.styleOf(id).width"
          :stroke-dasharray="library.styleOf(id).dash"
          stroke-linejoin="round"
        />
        <g v-for="(id, k) in shown" :key="`m-${id}`">
          <MarkerShape
            v-for="(p, i) in marked(views.get(id)!, k)"
            :key="i"
            :x="frame.x(p[0])"
            :y="frame.y(p[1])"
            :marker="library.styleOf(id).marker"
            :colour="library.styleOf(id).colour"
          />
        </g>
      </svg>
    </div>
    <LineChart
      chart-id="section-deviation"
      :title="`Deviation from ${first ? name(first) : ''}`"
      :subtitle="`${side} surface, in % of the chord`"
      :series="deviation"
      :x="{ name: 'x / c', zero: true }"
      :y="{
        name: 'Δy, % c',
        zero: true,
        options: [
          { id: 'upper', name: 'upper surface' },
          { id: 'lower', name: 'lower surface' },
        ],
        value: side,
      }"
      :tag="cursor"
      :digits="[3, 3]"
      @cursor="(x) => (cursor = x)"
      @update:y-quantity="(id) => (side = id as 'upper')"
    />
  </div>
</template>
