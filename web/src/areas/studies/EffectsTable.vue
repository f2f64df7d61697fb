<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { OutputOf } from '@veldtwind/core/analysis';
import { bandWords, inBand } from '@veldtwind/core/findings';
import { inUnit, unitOf } from '@veldtwind/core/quantities';
import { answerKey, type Variable } from '@veldtwind/core/studies';
import { formatNumber } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
import { answerFor, valueIn, type Asked, type Study } from './use-study';

/** Change of every quantity for one step of every variable: towards its band or away from it, and how strong beside the others. */
const props = defineProps<{
  study: Study;
  result: OutputOf<'study'>;
  made: string;
  stale: boolean;
  /** Share of what is being computed; null where nothing is. */ progress: number | null;
  stepText: (v: Variable) => string;
}>();
const preferences = usePreferences();
const sorted = ref<string | null>(null);
// Whoever came for a quantity sees what moves it most first.
watch(
  () => props.study.focus.value,
  (of) => (sorted.value = props.study.asked.value.find((a) => a.quantity === of)?.key ?? sorted.value),
  { immediate: true },
);
const valueOf = (a: Asked) => valueIn(props.result, props.result.tries[0]?.answers ?? [], a);
const effect = (path: string, a: Asked) =>
  props.result.effects?.find((e) => e.variable === path && e.answer === answerKey(answerFor(a))) ?? null;
/** The strongest change of each quantity, which its bars are measured by. */
const strongest = computed(
  () =>
    new Map(
      props.study.asked.value.map((a) => [
        a.key,
        Math.max(1e-300, ...props.study.chosen.value.map((c) => Math.abs(effect(c.path, a)?.perStep ?? 0))),
      ]),
    ),
);
const rows = computed(() => {
  const by = props.study.asked.value.find((a) => a.key === sorted.value);
  const list = props.study.chosen.value.flatMap((c) => {
    const variable = props.study.variableOf(c.path);
    return variable ? [{ ...c, variable }] : [];
  });
  if (!by) return list;
  const size = (path: string) => Math.abs(effect(path, by)?.perStep ?? -1);
  return list.sort((a, b) => size(b.path) - size(a.path));
});
interface Cell {
  text: string;
  share: number;
  way: 'towards' | 'away' | 'none';
  doubtful: boolean;
}
function cell(path: string, a: Asked): Cell {
  const e = effect(path, a);
  if (!e || e.perStep === null) return { text: '—', share: 0, way: 'none', doubtful: false };
  const shown = inUnit(a.response, e.perStep, preferences.units);
  const share = e.perStep / strongest.value.get(a.key)!;
  const value = valueOf(a);
  const outside = value !== null && (a.min !== null || a.max !== null) && !inBand(value, a);
  const up = value !== null && a.min !== null && value < a.min;
  const way = !outside || Math.abs(share) < 0.01 ? 'none' : e.perStep > 0 === up ? 'towards' : 'away';
  const digits = Math.min(6, Math.max(0, 1 - Math.floor(Math.log10(Math.max(1e-12, Math.abs(shown))))));
  const small = Math.abs(share) < 1e-4 || Math.abs(shown) < 0.5 * 10 ** -digits;
  return {
    text: small ? '0' : `${shown < 0 ? '−' : '+'}${formatNumber(Math.abs(shown), digits)}`,
    share,
    way,
    doubtful: !e.reliable && !small,
  };
}
const stateOf = (a: Asked): string => {
  const value = valueOf(a);
  if (value === null || (a.min === null && a.max === null)) return 'text-soft';
  return inBand(value, a) ? 'text-grass-text' : 'text-clay';
};
const band = (a: Asked) =>
  bandWords(a, a.response.dimension, preferences.units, a.response.digits, a.response.per) ?? '';
const step = (path: string, v: Variable, sign: 1 | -1) =>
  props.study.apply(
    `${v.label} ${sign > 0 ? '+' : '−'}${props.stepText(v)}`,
    new Map([[path, v.value + sign * v.step]]),
  );
</script>

<template>
  <table class="w-full text-[13px]" data-test="effects-table" :class="stale ? 'opacity-70' : ''">
    <caption class="pb-1 text-left">
      <span class="serif text-[15px] font-semibold">Sensitivities</span>
      <span class="ml-2 text-[12.5px] text-soft"
        >change per step, {{ made
        }}{{ progress === null ? (stale ? '; computing…' : '') : `; computing… ${Math.round(100 * progress)} %` }}</span
      >
    </caption>
    <thead>
      <tr class="border-b border-rule align-bottom text-soft">
        <th class="py-1 text-left font-normal">Variable</th>
        <th class="px-2 text-right font-normal">Step</th>
        <th
          v-for="a in study.asked.value"
          :key="a.key"
          class="px-1.5 text-right font-normal"
          :aria-sort="sorted === a.key ? 'descending' : 'none'"
        >
          <button
            class="text-right leading-tight hover:underline"
            :class="[stateOf(a), sorted === a.key ? 'font-semibold' : '']"
            :title="[a.response.says, band(a), 'sort'].filter(Boolean).join('; ')"
            @click="sorted = sorted === a.key ? null : a.key"
          >
            {{ a.response.name
            }}<template v-if="unitOf(a.response, preferences.units)"
              >, {{ unitOf(a.response, preferences.units) }}</template
            >
          </button>
        </th>
        <th class="w-[52px]"><span class="sr-only">Apply</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.path" class="border-b border-rule-light" :data-variable="r.path">
        <th scope="row" class="py-1 text-left font-normal">{{ r.variable.label }}</th>
        <td class="px-2 text-right whitespace-nowrap text-soft tabular-nums">{{ stepText(r.variable) }}</td>
        <td v-for="a in study.asked.value" :key="a.key" class="relative px-1.5 text-right tabular-nums">
          <span
            class="absolute inset-y-[3px] rounded-sm"
            :style="{
              right: '4px',
              width: `calc(${(100 * Math.abs(cell(r.path, a).share)).toFixed(0)}% - 8px)`,
              background: 'var(--select)',
              opacity: 0.75,
            }"
            aria-hidden="true"
          />
          <span
            class="relative"
            :class="{
              'text-grass-text': cell(r.path, a).way === 'towards',
              'text-clay': cell(r.path, a).way === 'away',
              'text-faint': cell(r.path, a).text === '0' || cell(r.path, a).text === '—',
            }"
            :title="cell(r.path, a).doubtful ? 'Unreliable: half the step gives another slope' : undefined"
            >{{ cell(r.path, a).text }}<template v-if="cell(r.path, a).doubtful">?</template></span
          >
        </td>
        <td class="text-right whitespace-nowrap">
          <button
            class="icon-btn"
            :aria-label="`Decrease ${r.variable.label} by one step`"
            :disabled="r.variable.value - r.variable.step < r.variable.limit.min"
            @click="step(r.path, r.variable, -1)"
          >
            −
          </button>
          <button
            class="icon-btn"
            :aria-label="`Increase ${r.variable.label} by one step`"
            :disabled="r.variable.value + r.variable.step > r.variable.limit.max"
            @click="step(r.path, r.variable, 1)"
          >
            +
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>
