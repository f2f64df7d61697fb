<script setup lang="ts">
import { RAD } from '@veldtwind/core/numerics';
import { useElementSize } from '@vueuse/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { computed, ref, shallowRef, watch } from 'vue';
import { stretchTarget, type SavedStep, type SpeedPair, type SpeedReport } from '@veldtwind/core/shaping';
import { formatNumber } from '@veldtwind/core/units';
import { lanes } from '@/worker/lane';
import type { RecipeState } from './recipe';

type TargetStep = Extract<SavedStep, { kind: 'target-speed' }>;
/** The speed wanted over a stretch: the speed as it is, and points of the wanted one that are dragged up and down. */
const props = defineProps<{ step: TargetStep; index: number; recipe: RecipeState; report?: SpeedReport }>();
const emit = defineEmits<{ commit: [step: SavedStep] }>();
const box = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const { width } = useElementSize(box, { width: 250, height: 150 });
const HEIGHT = 150;
const POINTS = 8;
const now = shallowRef<SpeedPair[]>([]);
const after = shallowRef<SpeedPair[]>([]);
const target = ref<SpeedPair[]>([]);

watch(
  () => [props.recipe.live.value, props.index] as const,
  async ([shape, index]) => {
    try {
      const at = props.step.angleDeg * RAD;
      const speeds = (steps: number) =>
        lanes.shape.run('section-speeds', {
          source: props.recipe.resolve({ ...shape, steps: shape.steps.slice(0, steps) }),
          alpha: at,
        });
      const before = await speeds(index);
      now.value = before[props.step.surface];
      const done = await speeds(index + 1);
      after.value = done[props.step.surface];
    } catch {
      // The recipe itself says what is wrong.
    }
    if (props.step.target.length === 0 && now.value.length > 0) target.value = sampled();
  },
  { immediate: true },
);
watch(
  () => props.step.target,
  (t) => (target.value = t.length > 0 ? t.map(([x, v]) => [x, v] as SpeedPair) : sampled()),
  { immediate: true },
);
/** The present speed at a few places of the stretch: what is dragged from. */
function sampled(): SpeedPair[] {
  if (now.value.length < 3) return [];
  const of = stretchTarget(now.value);
  return Array.from({ length: POINTS }, (_, k): SpeedPair => {
    const x = props.step.from + ((props.step.to - props.step.from) * k) / (POINTS - 1);
    return [Number(x.toFixed(4)), Number(of(x, true, 0).toFixed(4))];
  });
}
const sx = computed(() =>
  scaleLinear([Math.max(0, props.step.from - 0.08), Math.min(1, props.step.to + 0.08)], [30, width.value - 8]),
);
const sy = computed(() => {
  const inside = [...now.value, ...target.value]
    .filter(([x]) => x >= sx.value.domain()[0] && x <= sx.value.domain()[1])
    .map((p) => p[1]);
  const [low, high] = [Math.min(...inside, 0.95), Math.max(...inside, 1.05)];
  const air = 0.15 * (high - low);
  return scaleLinear([low - air, high + air], [HEIGHT - 20, 8]);
});
const draw = (pairs: SpeedPair[]) =>
  line<SpeedPair>()
    .x((p) => sx.value(p[0]))
    .y((p) => sy.value(p[1]))(pairs.filter(([x]) => x >= sx.value.domain()[0] && x <= sx.value.domain()[1])) ?? '';
const wanted = computed(() => {
  if (target.value.length < 2) return '';
  const of = stretchTarget(target.value);
  const { from, to } = props.step;
  return draw(
    Array.from({ length: 41 }, (_, k): SpeedPair => [
      from + ((to - from) * k) / 40,
      of(from + ((to - from) * k) / 40, true, 0),
    ]),
  );
});
let held = -1;
function drag(e: PointerEvent): void {
  if (held < 0) return;
  const y = e.clientY - svg.value!.getBoundingClientRect().top;
  const v = Number(Math.max(-3, Math.min(5, sy.value.invert(y))).toFixed(4));
  target.value = target.value.map((p, i) => (i === held ? [p[0], v] : p));
}
function drop(): void {
  if (held >= 0) emit('commit', { ...props.step, target: target.value });
  held = -1;
}
function nudge(e: KeyboardEvent, i: number): void {
  const way = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
  if (!way) return;
  e.preventDefault();
  target.value = target.value.map((p, k) =>
    k === i ? [p[0], Number((p[1] + way * (e.shiftKey ? 0.02 : 0.002)).toFixed(4))] : p,
  );
  emit('commit', { ...props.step, target: target.value });
}
</script>

<template>
  <div ref="box" class="mt-1">
    <svg
      ref="svg"
      :width="width"
      :height="HEIGHT"
      class="touch-none"
      role="group"
      aria-label="Speed wanted over the stretch"
      data-test="speed-target"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
    >
      <g v-for="t in sy.ticks(4)" :key="t">
        <line :x1="30" :x2="width - 8" :y1="sy(t)" :y2="sy(t)" style="stroke: var(--rule-light)" />
        <text x="26" :y="sy(t) + 4" text-anchor="end" font-size="10.5" style="fill: var(--soft)">
          {{ formatNumber(t, 2) }}
        </text>
      </g>
      <text
        v-for="t in sx.ticks(4)"
        :key="`x${t}`"
        :x="sx(t)"
        :y="HEIGHT - 5"
        text-anchor="middle"
        font-size="10.5"
        style="fill: var(--soft)"
      >
        {{ formatNumber(t, 1) }}
      </text>
      <path :d="draw(now)" fill="none" style="stroke: var(--soft)" stroke-width="1.1" stroke-dasharray="4 3" />
      <path :d="draw(after)" fill="none" style="stroke: var(--ink)" stroke-width="1.4" />
      <path :d="wanted" fill="none" style="stroke: var(--ochre)" stroke-width="1.6" />
      <circle
        v-for="(p, i) in target.length <= 40 ? target : []"
        :key="i"
        :cx="sx(p[0])"
        :cy="sy(p[1])"
        r="4.5"
        tabindex="0"
        role="slider"
        :aria-label="`Speed at ${p[0]}`"
        :aria-valuenow="p[1]"
        class="cursor-ns-resize"
        style="fill: var(--paper); stroke: var(--ochre)"
        stroke-width="1.8"
        @pointerdown.prevent="(e) => ((held = i), (e.target as Element).setPointerCapture(e.pointerId))"
        @keydown="(e) => nudge(e, i)"
      />
    </svg>
    <p class="text-[11.5px] text-soft">speed over the stream’s: dashed as it was, ochre as wanted, dark as reached</p>
    <p v-if="report" class="text-[12px]" role="status">
      Left over {{ formatNumber(100 * report.after, 2) }} % of the stream’s speed (it was
      {{ formatNumber(100 * report.before, 2) }} %); the outline moved by up to
      {{ formatNumber(100 * report.displacement, 3) }} % c.
    </p>
    <button class="link text-[12px]" @click="emit('commit', { ...step, target: sampled() })">
      Start again from the speed as it is
    </button>
  </div>
</template>
