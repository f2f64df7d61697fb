<script setup lang="ts">
import { computed, onMounted, watch } from 'vue';
import { bandWords } from '@veldtwind/core/findings';
import { textOf, unitOf } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
import IntervalBar from './IntervalBar.vue';
import RunBar from './RunBar.vue';
import type { StudyRuns } from './use-runs';
import type { Spread } from './use-spread';
import type { Study } from './use-study';

/** What uncertain numbers make of every quantity: where 90 in a hundred lie, the chance that each requirement holds, and what causes the spread. */
const props = defineProps<{ study: Study; runs: StudyRuns; spread: Spread }>();
const preferences = usePreferences();
onMounted(() => props.runs.lookAtNewest());
watch(
  () => props.runs.list.value.length,
  () => props.runs.lookAtNewest(),
);
/** Causes below this share are left out. */
const LEAST_CAUSE = 0.02;
const MOST_CAUSES = 3;
const shown = computed(() => props.runs.shown.value);
const rows = computed(() =>
  (shown.value?.result?.spread ?? []).flatMap((s) => {
    const a = props.runs.answers.value.find((o) => o.key === s.answer);
    if (!a) return [];
    const text = (v: number) => textOf(a.response, v, preferences.units);
    const chance = shown.value!.result!.chances?.[s.answer];
    const causes = [...s.causes]
      .sort((p, q) => q.total.value - p.total.value)
      .filter((c) => c.total.value > LEAST_CAUSE)
      .slice(0, MOST_CAUSES)
      .map((c) => {
        const label = props.study.variableOf(c.variable.split(',')[0])?.label ?? c.variable;
        return `${label} ${formatNumber(100 * Math.min(1, c.total.value), 0)} ± ${formatNumber(100 * c.total.error, 0)} %`;
      });
    return [
      {
        ...s,
        key: s.answer,
        answer: a,
        name: a.response.name.replace(/^[a-z]/, (c) => c.toUpperCase()),
        unit: unitOf(a.response, preferences.units),
        low: text(s.p5),
        mid: text(s.p50),
        high: text(s.p95),
        band: a.band
          ? (bandWords(a.band, a.response.dimension, preferences.units, a.response.digits, a.response.per) ?? '')
          : '',
        chance: chance === undefined || !a.band ? null : chance,
        causes: causes.length > 0 ? causes.join('; ') : 'no variable',
      },
    ];
  }),
);
const tone = (chance: number) => (chance >= 0.95 ? 'text-grass-text' : chance < 0.5 ? 'text-clay' : 'text-ochre-text');
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col gap-2">
    <div class="flex flex-wrap items-center gap-3 text-[13px]">
      <p class="flex-1 text-[12.5px] text-soft">
        The variables are normally distributed about their values, with the standard deviations at the right.
      </p>
      <button
        class="btn btn-main"
        data-test="start-spread"
        :disabled="study.chosen.value.length === 0"
        @click="spread.start(runs.studies.start)"
      >
        Sample
      </button>
    </div>
    <RunBar :runs="runs" />
    <table v-if="rows.length" class="w-full text-[13px]" data-test="spread-table">
      <thead>
        <tr class="border-b border-rule text-soft">
          <th class="py-1 text-left font-normal">Quantity</th>
          <th class="px-2 text-right font-normal">5 %</th>
          <th class="px-2 text-right font-normal">Median</th>
          <th class="px-2 text-right font-normal">95 %</th>
          <th class="w-40 px-2 text-left font-normal">Distribution</th>
          <th class="px-2 text-left font-normal">Requirement</th>
          <th class="px-2 text-right font-normal">Probability</th>
          <th class="px-2 text-left font-normal">Share of the variance</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.key" class="border-b border-rule-light align-baseline" :data-answer="r.key">
          <th scope="row" class="py-1.5 text-left font-normal">{{ r.name }}{{ r.unit ? `, ${r.unit}` : '' }}</th>
          <td class="px-2 text-right tabular-nums">{{ r.low }}</td>
          <td class="px-2 text-right font-semibold tabular-nums">{{ r.mid }}</td>
          <td class="px-2 text-right tabular-nums">{{ r.high }}</td>
          <td class="px-2">
            <IntervalBar :p5="r.p5" :p50="r.p50" :p95="r.p95" :band="r.answer.band" />
          </td>
          <td class="px-2 text-soft">{{ r.band }}</td>
          <td
            class="px-2 text-right font-semibold tabular-nums"
            :class="r.chance === null ? '' : tone(r.chance)"
            data-test="chance"
          >
            {{ r.chance === null ? '' : `${formatNumber(100 * r.chance, 0)} %` }}
          </td>
          <td class="px-2 text-[12.5px] text-soft">{{ r.causes }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="shown" class="text-soft" role="status">
      {{ shown.study.state === 'running' ? 'Sampling…' : '' }}
    </p>
  </div>
</template>
