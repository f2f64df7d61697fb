<script setup lang="ts">
import { computed } from 'vue';
import type { CurveReply } from '@veldtwind/contract';
import { axisTitle, CURVE_QUANTITIES, inUnit, quantityIn, unitOf, type CurveFacts } from '@veldtwind/core/quantities';
import ChipRow from '@/components/field/ChipRow.vue';
import LineChart from '@/components/chart/LineChart.vue';
import ParallelChart from '@/components/chart/ParallelChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { within, type ParallelLine, type Ranges } from '@/lib/parallel';
import { seriesStyle, type SeriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';

/** Facts of the curves over each other, and all of them at once. */
const props = defineProps<{
  curves: CurveReply[];
  styles: ReadonlyMap<number, SeriesStyle>;
  name: (c: CurveReply) => string;
  facts: (c: CurveReply) => CurveFacts | null;
  ranges: Ranges;
  selected: string | null;
}>();
const emit = defineEmits<{ ranges: [ranges: Ranges]; pick: [curve: number] }>();
const preferences = usePreferences();
const START = ['cd-min', 'cl-max', 'best-ratio', 'lift-kept', 'cm-zero', 'low-drag-to'];
const chosen = computed(() => preferences.get<string[]>('polar-parallel', START));
const axes = computed(() => {
  const list = CURVE_QUANTITIES.filter((q) => chosen.value.includes(q.id));
  return list.map((q) => ({ id: q.id, name: q.symbol, digits: q.digits ?? 3 }));
});
const FACT_CHIPS = CURVE_QUANTITIES.map((q) => ({ id: q.id, name: q.symbol, title: q.name }));
const toggle = (id: string) => {
  const next = chosen.value.includes(id) ? chosen.value.filter((c) => c !== id) : [...chosen.value, id];
  if (next.length >= 2) preferences.set('polar-parallel', next);
};
const known = computed(
  () =>
    new Map(
      props.curves.flatMap((c) => {
        const facts = c.points > 0 ? props.facts(c) : null;
        return facts ? [[c, facts] as const] : [];
      }),
    ),
);
const withFacts = computed(() => [...known.value.keys()]);
const lines = computed<ParallelLine[]>(() =>
  withFacts.value.map((c) => ({
    id: String(c.id),
    label: props.name(c),
    style: props.styles.get(c.id)!,
    values: Object.fromEntries(CURVE_QUANTITIES.map((q) => [q.id, q.of(known.value.get(c)!)])),
  })),
);

const over = computed(() => preferences.get('polar-scatter', { x: 'cd-min', y: 'cl-max' }));
const set = (key: 'x' | 'y', id: string) => preferences.set('polar-scatter', { ...over.value, [key]: id });
const options = computed(() => CURVE_QUANTITIES.map((q) => ({ id: q.id, name: axisTitle(q, preferences.units) })));
const axis = (id: string) => {
  const q = quantityIn(CURVE_QUANTITIES, id);
  return { name: q.symbol, unit: unitOf(q, preferences.units) || undefined, options: options.value, value: id };
};
const title = computed(() => {
  const [x, y] = [quantityIn(CURVE_QUANTITIES, over.value.x), quantityIn(CURVE_QUANTITIES, over.value.y)];
  return `${y.name.charAt(0).toUpperCase()}${y.name.slice(1)} over ${x.name}`;
});
/** A section's curves are joined in the order of their Reynolds numbers. */
const series = computed<ChartSeries[]>(() => {
  const [qx, qy] = [quantityIn(CURVE_QUANTITIES, over.value.x), quantityIn(CURVE_QUANTITIES, over.value.y)];
  const names = [...new Set(withFacts.value.map((c) => c.name))];
  const kept = new Set(lines.value.filter((l) => within(l, props.ranges)).map((l) => l.id));
  return names.map((name, i) => ({
    id: name,
    label: name,
    style: seriesStyle(i),
    points: withFacts.value
      .filter((c) => c.name === name && kept.has(String(c.id)))
      .sort((a, b) => a.input.conditions.reynolds - b.input.conditions.reynolds)
      .flatMap((c) => {
        const [x, y] = [qx.of(known.value.get(c)!), qy.of(known.value.get(c)!)];
        return x === null || y === null
          ? []
          : [{ x: inUnit(qx, x, preferences.units), y: inUnit(qy, y, preferences.units), tag: c.id }];
      }),
  }));
});
const tag = computed(() => (props.selected === null ? null : Number(props.selected)));
const digits = (id: string) => Math.min(4, quantityIn(CURVE_QUANTITIES, id).digits ?? 3);
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col gap-2">
    <LineChart
      class="min-h-0 basis-[46%]"
      chart-id="polar-facts"
      :title="title"
      subtitle="a point is a curve; a section's curves are joined by rising Reynolds number"
      :series="series"
      :x="axis(over.x)"
      :y="axis(over.y)"
      :tag="tag"
      :digits="[digits(over.x), digits(over.y)]"
      @cursor="(id) => id !== null && emit('pick', id)"
      @update:x-quantity="(q) => set('x', q)"
      @update:y-quantity="(q) => set('y', q)"
    />
    <ParallelChart
      class="flex-1"
      title="All facts of each curve"
      :lines="lines"
      :axes="axes"
      :ranges="ranges"
      :selected="selected"
      @ranges="(r) => emit('ranges', r)"
      @pick="(id) => emit('pick', Number(id))"
    />
    <ChipRow label="Facts with an axis" :options="FACT_CHIPS" :on="chosen" @pick="toggle" />
  </div>
</template>
