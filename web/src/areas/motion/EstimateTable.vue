<script setup lang="ts">
import { computed } from 'vue';
import type { DerivativeEstimate } from '@veldtwind/core/candidate';
import { formatNumber } from '@veldtwind/core/units';
import { OUTPUTS, titleOf } from './words';

/** Derivatives of a record beside the predicted ones, with the bounds that hold them in 95 of 100 cases. */
const props = defineProps<{ found: DerivativeEstimate; stale: boolean }>();
const emit = defineEmits<{ use: [] }>();
/** The axis of the bounds: the share of the predicted value. */
const MOST = 2;
const at = (v: number) => (100 * Math.min(MOST, Math.max(0, v))) / MOST;
const digits = (v: number) => (Math.abs(v) >= 10 ? 2 : Math.abs(v) >= 1 ? 3 : 4);
const rows = computed(() =>
  props.found.derivatives.map((d) => {
    const half = 0.5 * (d.high - d.low);
    const shares = [d.value, d.value - half, d.value + half].map((v) => v / d.predicted);
    const [least, most] = [Math.min(...shares), Math.max(...shares)];
    const told = digits(Math.max(Math.abs(d.value), Math.abs(d.predicted)));
    return {
      ...d,
      title: titleOf(d.name),
      predicted: formatNumber(d.predicted, told),
      estimated: formatNumber(d.value, told),
      half: formatNumber(Math.min(half, 9999), told),
      out: Math.abs(d.predicted) < 1e-6 || most < 0 || least > MOST,
      left: at(least),
      width: at(most) - at(least),
      dot: shares[0] < 0 || shares[0] > MOST ? null : at(shares[0]),
      // The prediction lies outside of the bounds.
      apart: least > 1 || most < 1,
    };
  }),
);
const share = (v: number) => `${formatNumber(100 * Math.max(0, v), v > 0.995 ? 2 : 1)} %`;
const explained = computed(() =>
  props.found.outputs.map((o) => {
    const p = props.found.predicted.find((k) => k.name === o.name);
    return { name: OUTPUTS[o.name].name, predicted: p ? share(p.explained) : null, estimated: share(o.explained) };
  }),
);
const decided = computed(() => rows.value.filter((r) => r.decided).length);
</script>

<template>
  <div data-test="estimates" :class="{ 'opacity-60': stale }">
    <div class="flex items-baseline justify-between gap-2">
      <h2 class="text-[17px] font-semibold">Estimated derivatives</h2>
      <button
        v-if="decided > 0"
        class="link text-[13px]"
        :title="`Sets the ${decided} decided ones by hand`"
        data-test="use-estimates"
        @click="emit('use')"
      >
        Use in Motion and Control
      </button>
    </div>
    <p class="text-[12.5px] text-soft">
      {{ found.motion }} motion, per rad, by output error; bounds of 95 %; predicted by the
      {{ found.method === 'polars' ? 'lattice with section polars' : 'vortex lattice' }}
    </p>
    <table class="mt-1 w-full text-[13px]">
      <thead>
        <tr class="text-[12px] text-soft">
          <th class="py-1 text-left font-normal"><span class="sr-only">derivative</span></th>
          <th class="py-1 text-right font-normal">predicted</th>
          <th class="py-1 pl-2 text-right font-normal">estimated</th>
          <th class="w-[30%] py-1 pl-3 font-normal">
            <span class="flex justify-between"><span>0</span><span>predicted</span><span>2 ×</span></span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="r in rows"
          :key="r.name"
          class="border-t border-rule-light"
          :class="{ 'text-soft': !r.decided }"
          :data-test="`estimate-${r.name}`"
        >
          <th class="py-[3px] pr-2 text-left font-normal" :class="{ 'text-clay': r.decided && r.apart }">
            {{ r.title }}
          </th>
          <td class="text-right whitespace-nowrap">{{ r.predicted }}</td>
          <td
            class="pl-2 text-right whitespace-nowrap"
            :title="r.decided ? undefined : 'The record does not decide it'"
          >
            <span :class="{ 'font-medium': r.decided }">{{ r.estimated }}</span>
            <span class="text-soft"> ± {{ r.half }}</span>
          </td>
          <td class="pl-3">
            <span class="relative block h-4">
              <span class="absolute top-1/2 h-px w-full bg-rule" />
              <span class="absolute left-1/2 h-full w-px bg-ink/60" />
              <template v-if="!r.out">
                <span
                  class="absolute top-[6px] h-1 rounded-sm"
                  :class="r.decided ? 'bg-sky' : 'bg-rule'"
                  :style="{ left: `${r.left}%`, width: `${r.width}%` }"
                />
                <span
                  v-if="r.dot !== null"
                  class="absolute top-1 h-2 w-2 -translate-x-1/2 rounded-full"
                  :class="r.decided ? 'bg-sky' : 'bg-rule'"
                  :style="{ left: `${r.dot}%` }"
                />
              </template>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="decided < rows.length" class="mt-1 text-[12.5px] text-soft">
      {{ rows.length - decided }} of {{ rows.length }} are not decided: bounds wider than half of the value.
    </p>
    <p v-for="[a, b, r] in found.alike" :key="a + b" class="mt-1 text-[12.5px] text-clay">
      {{ titleOf(a) }} and {{ titleOf(b) }} are hardly told apart: correlation {{ formatNumber(r, 3) }}.
    </p>
    <p v-for="d in found.doubts" :key="d" class="mt-1 text-[12.5px] text-clay" data-test="estimate-doubt">{{ d }}</p>
    <h3 class="mt-3 text-[13px] font-semibold">Explained variance</h3>
    <table class="w-full text-[13px]" data-test="explained">
      <tbody>
        <tr v-for="o in explained" :key="o.name" class="border-t border-rule-light">
          <th class="py-[3px] text-left font-normal">{{ o.name }}</th>
          <td class="text-right text-soft">{{ o.predicted === null ? '—' : `predicted ${o.predicted}` }}</td>
          <td class="w-24 text-right font-medium">{{ o.estimated }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
