<script setup lang="ts">
import { ref } from 'vue';
import { withShownMark } from '@veldtwind/core/units';
import type { Limits } from '@/lib/chart-model';

/** Limits and step of an axis, typed. */
const props = defineProps<{ name: string; limits: Limits; place: { left: number; top: number } }>();
const emit = defineEmits<{ set: [limits: Limits]; fit: []; close: [] }>();
const short = (v: number) => withShownMark(String(Number(v.toPrecision(4))));
const low = ref(short(props.limits.min));
const high = ref(short(props.limits.max));
const step = ref(props.limits.step ? short(props.limits.step) : '');
const problem = ref('');

function apply(): void {
  const number = (t: string) => Number(t.replace('−', '-').replace(',', '.'));
  const [min, max] = [number(low.value), number(high.value)];
  const every = step.value.trim() === '' ? null : number(step.value);
  if (![min, max].every(Number.isFinite) || (every !== null && !Number.isFinite(every)))
    problem.value = 'Give numbers.';
  else if (min >= max) problem.value = 'From must be below to.';
  else if (every !== null && every <= 0) problem.value = 'The step must be above zero.';
  else {
    emit('set', { min, max, step: every });
    emit('close');
  }
}
</script>

<template>
  <form
    class="menu absolute w-56 px-3 py-2.5"
    :style="{ left: `${place.left}px`, top: `${place.top}px` }"
    :aria-label="`Axis ${name}`"
    @submit.prevent="apply"
    @keydown.esc="emit('close')"
  >
    <p class="mb-1.5 font-semibold">Axis {{ name }}</p>
    <label
      v-for="[label, model] in [
        ['from', 'low'],
        ['to', 'high'],
        ['step', 'step'],
      ] as const"
      :key="label"
      class="mb-1 grid grid-cols-[50px_1fr] items-center text-soft"
    >
      {{ label }}
      <input
        v-if="model === 'low'"
        v-model="low"
        autofocus
        class="rounded border border-rule bg-field px-2 py-0.5 text-right text-ink"
      />
      <input
        v-else-if="model === 'high'"
        v-model="high"
        class="rounded border border-rule bg-field px-2 py-0.5 text-right text-ink"
      />
      <input
        v-else
        v-model="step"
        placeholder="by itself"
        class="rounded border border-rule bg-field px-2 py-0.5 text-right text-ink"
      />
    </label>
    <p v-if="problem" class="text-[12px] text-clay" role="alert">{{ problem }}</p>
    <div class="mt-2 flex gap-2">
      <button class="btn btn-main" type="submit">Set</button>
      <button class="btn" type="button" @click="(emit('fit'), emit('close'))">Fit</button>
      <button class="btn" type="button" @click="emit('close')">Close</button>
    </div>
  </form>
</template>
