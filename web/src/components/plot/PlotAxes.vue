<script setup lang="ts">
import { computed } from 'vue';
import { formatNumber, withShownMark } from '@veldtwind/core/units';
import { axisTicks, tickDigits, type AxisSpec } from '@/lib/chart-model';
import { usePlot, type PlotScale } from './context';

/** Both axes: hairlines, ticks that never clump, names at the ends. Clicking an axis sets its limits, clicking its name its quantity. */
const props = defineProps<{
  xAxis: AxisSpec;
  yAxis: AxisSpec;
  xStep?: number | null;
  yStep?: number | null;
  /** Limits are not to be set by hand. */ fixed?: boolean;
}>();
const emit = defineEmits<{ limits: [axis: 'x' | 'y']; quantity: [axis: 'x' | 'y'] }>();
const { x, y, inner, margin } = usePlot();
const title = (a: AxisSpec) => (a.unit ? `${a.name}, ${a.unit}` : a.name);

/** Ticks of a scale with their text; a logarithmic one names its powers of ten and the twos and fives between them. */
function ticksOf(scale: PlotScale, axis: AxisSpec, pixels: number, spacing: number, step?: number | null) {
  const [a, b] = scale.domain();
  if (axis.scale === 'log') {
    const few = scale.ticks(Math.max(2, Math.floor(pixels / spacing)));
    const named = few.filter((t) => /^[125]/.test(t.toExponential(0)));
    const shown = named.length * spacing > pixels ? named.filter((t) => t.toExponential(0).startsWith('1')) : named;
    return shown.map((value) => ({
      value,
      text: withShownMark(Number(value.toPrecision(6)).toLocaleString('en').replace(/,/g, ' ')),
    }));
  }
  const list = axisTicks([a, b], pixels, spacing, step ?? null);
  const digits = tickDigits(list);
  return list.map((value) => ({ value, text: formatNumber(value, digits) }));
}
const ticksX = computed(() => ticksOf(x.value, props.xAxis, inner.value.w, 62, props.xStep));
const ticksY = computed(() => ticksOf(y.value, props.yAxis, inner.value.h, 36, props.yStep));
const crossesZero = computed(() => {
  const [a, b] = x.value.domain();
  return props.xAxis.scale !== 'log' && Math.min(a, b) < 0 && Math.max(a, b) > 0;
});
</script>

<template>
  <g>
    <g v-for="t in ticksY" :key="`y${t.value}`" :transform="`translate(0,${y(t.value)})`">
      <line x1="0" :x2="inner.w" :style="{ stroke: t.value === 0 ? 'var(--faint)' : 'var(--rule-light)' }" />
      <text x="-8" y="4" text-anchor="end" font-size="12" style="fill: var(--soft)">{{ t.text }}</text>
    </g>
    <line v-if="crossesZero" :x1="x(0)" :x2="x(0)" y1="0" :y2="inner.h" style="stroke: var(--rule)" />
    <line x1="0" :x2="inner.w" :y1="inner.h" :y2="inner.h" style="stroke: var(--faint)" />
    <g v-for="t in ticksX" :key="`x${t.value}`" :transform="`translate(${x(t.value)},${inner.h})`">
      <line y2="4" style="stroke: var(--faint)" />
      <text y="17" text-anchor="middle" font-size="12" style="fill: var(--soft)">{{ t.text }}</text>
    </g>
    <rect
      v-if="!fixed"
      data-screen-only
      :x="0"
      :y="inner.h"
      :width="inner.w"
      height="20"
      fill="transparent"
      class="cursor-pointer"
      role="button"
      :aria-label="`Limits of ${title(xAxis)}`"
      @pointerdown.stop
      @dblclick.stop
      @click.stop="emit('limits', 'x')"
    >
      <title>Set limits and step</title>
    </rect>
    <rect
      v-if="!fixed"
      data-screen-only
      :x="-margin.left"
      y="10"
      :width="margin.left - 4"
      :height="inner.h - 10"
      fill="transparent"
      class="cursor-pointer"
      role="button"
      :aria-label="`Limits of ${title(yAxis)}`"
      @pointerdown.stop
      @dblclick.stop
      @click.stop="emit('limits', 'y')"
    >
      <title>Set limits and step</title>
    </rect>
    <g
      v-for="[axis, spec] in [
        ['y', yAxis],
        ['x', xAxis],
      ] as const"
      :key="axis"
      :role="spec.options ? 'button' : undefined"
      :aria-label="
        spec.options ? `Quantity on the ${axis === 'x' ? 'horizontal' : 'vertical'} axis: ${title(spec)}` : undefined
      "
      :class="spec.options ? 'cursor-pointer' : ''"
      @pointerdown.stop
      @dblclick.stop
      @click.stop="spec.options && emit('quantity', axis)"
    >
      <text
        :x="axis === 'x' ? inner.w : -margin.left + 6"
        :y="axis === 'x' ? inner.h + 33 : -10"
        :text-anchor="axis === 'x' ? 'end' : 'start'"
        font-size="12.5"
        font-weight="600"
        style="fill: var(--ink)"
      >
        {{ title(spec) }}
        <tspan v-if="spec.options" data-screen-only dx="3" style="fill: var(--ochre-text)">▾</tspan>
      </text>
    </g>
  </g>
</template>
