<script setup lang="ts">
import { computed } from 'vue';
import { bandWords, inBand } from '@veldtwind/core/findings';
import { inUnit, textOf, unitOf } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
import { valueText } from './tried-text';
import type { ShownAnswer, StudyRuns } from './use-runs';

/** One try number by number: what it changes, what it answers beside the candidate as it stands, and its reserve in each band. */
const props = defineProps<{ runs: StudyRuns; start: number[] }>();
const preferences = usePreferences();
const chosen = computed(() => props.runs.chosen.value);
const isBest = computed(() => {
  const own = props.runs.shown.value;
  const best = own?.result?.best ?? own?.study.best;
  return best?.index === chosen.value?.index;
});
/** The try at the values of the study's start. */
const first = computed(() => props.runs.shown.value?.tries[0] ?? null);
const rows = computed(() =>
  chosen.value
    ? props.runs.changes(chosen.value).flatMap(([variable, value], i) => {
        const before = props.start[i] ?? variable.value;
        if (Math.abs(value - before) < 1e-3 * variable.step) return [];
        return {
          path: variable.path,
          label: variable.label,
          before: valueText(variable, before, preferences.units),
          after: valueText(variable, value, preferences.units),
        };
      })
    : [],
);
function reserve(a: ShownAnswer, value: number): string {
  if (!a.band) return '';
  const { min, max } = a.band;
  const band = bandWords(a.band, a.response.dimension, preferences.units, a.response.digits, a.response.per) ?? '';
  const left = Math.min(min === null ? Infinity : value - min, max === null ? Infinity : max - value);
  const by = formatNumber(Math.abs(inUnit(a.response, left, preferences.units)), a.response.digits ?? 2);
  return inBand(value, a.band) ? `${band}, ${by} to spare` : `${band}, misses by ${by}`;
}
const answers = computed(() =>
  props.runs.answers.value.map((a) => {
    const value = chosen.value ? props.runs.valueOf(chosen.value, a.key) : null;
    const from = first.value ? props.runs.valueOf(first.value, a.key) : null;
    return {
      key: a.key,
      name: a.response.name.replace(/^[a-z]/, (c) => c.toUpperCase()),
      before: textOf(a.response, from, preferences.units),
      value: `${textOf(a.response, value, preferences.units)} ${unitOf(a.response, preferences.units)}`.trim(),
      says: value === null ? (chosen.value?.reasons?.[a.key] ?? '') : reserve(a, value),
      held: value !== null && a.band ? inBand(value, a.band) : null,
    };
  }),
);
</script>

<template>
  <section v-if="chosen" aria-label="Trial" class="text-[13px]" data-test="study-try">
    <h2 class="serif text-[15px] font-semibold">
      {{ isBest ? 'Best trial' : 'Trial' }} <span class="font-normal text-soft">{{ chosen.index + 1 }}</span>
    </h2>
    <p v-if="rows.length === 0" class="mb-1 text-soft">No change.</p>
    <div v-else class="mt-1 mb-2 flex gap-1.5 whitespace-nowrap">
      <button class="btn" data-test="show-try" @click="runs.trial.show(runs.trialOf(chosen))">Preview</button>
      <button class="btn" data-test="apply-try" @click="runs.trial.apply(runs.trialOf(chosen))">Apply</button>
      <button class="btn" data-test="adopt-try" @click="runs.trial.adopt(runs.trialOf(chosen))">
        Create candidate
      </button>
    </div>
    <table class="w-full">
      <tbody>
        <tr v-for="r in rows" :key="r.path" class="border-b border-rule-light">
          <th scope="row" class="py-[3px] text-left font-normal">{{ r.label }}</th>
          <td class="text-right whitespace-nowrap text-soft tabular-nums">{{ r.before }}</td>
          <td class="pl-2 text-right font-semibold whitespace-nowrap tabular-nums">→ {{ r.after }}</td>
        </tr>
      </tbody>
    </table>
    <table class="mt-3 w-full">
      <tbody>
        <tr v-for="a in answers" :key="a.key" class="border-b border-rule-light align-baseline">
          <th scope="row" class="py-[3px] text-left font-normal">
            {{ a.name }}<span v-if="a.says" class="block text-[12px] text-soft">{{ a.says }}</span>
          </th>
          <td class="text-right whitespace-nowrap text-soft tabular-nums">{{ a.before }}</td>
          <td
            class="pl-2 text-right font-semibold whitespace-nowrap tabular-nums"
            :class="a.held === null ? '' : a.held ? 'text-grass-text' : 'text-clay'"
          >
            → {{ a.value }}
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
