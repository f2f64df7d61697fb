<script setup lang="ts">
import { computed } from 'vue';
import { bandWords } from '@veldtwind/core/findings';
import { inUnit, textOf, unitOf } from '@veldtwind/core/quantities';
import { answerKey } from '@veldtwind/core/studies';
import { formatNumber } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
import { valueText } from './tried-text';
import { answerFor, type Study } from './use-study';

/** The least change of the chosen variables that holds all bands of the brief, to be looked at and applied. */
const props = defineProps<{ study: Study }>();
const preferences = usePreferences();
const result = computed(() => props.study.solution.value);
const found = computed(() => result.value?.solution ?? null);
/** Changes that are more than rounding. */
const changes = computed(() =>
  (result.value?.variables ?? []).flatMap((v, i) => {
    const variable = props.study.variableOf(v.paths[0]);
    const change = found.value!.change[i];
    if (!variable || Math.abs(change) < 1e-3 * variable.step) return [];
    const text = (x: number) => valueText(variable, x, preferences.units);
    return [
      {
        path: v.paths[0],
        label: variable.label,
        before: text(variable.value),
        after: text(found.value!.values[i]),
        value: found.value!.values[i],
      },
    ];
  }),
);
const bands = computed(() =>
  (result.value?.bands ?? []).flatMap((b) => {
    const a = props.study.asked.value.find((o) => answerKey(answerFor(o)) === b.id);
    if (!a) return [];
    const band = bandWords(a, a.response.dimension, preferences.units, a.response.digits, a.response.per) ?? '';
    const by = `${formatNumber(Math.abs(inUnit(a.response, b.missedBy, preferences.units)), a.response.digits ?? 2)} ${unitOf(a.response, preferences.units)}`;
    return [
      {
        id: b.id,
        name: a.response.name.replace(/^[a-z]/, (c) => c.toUpperCase()),
        value: `${textOf(a.response, b.value, preferences.units)} ${unitOf(a.response, preferences.units)}`.trim(),
        says: b.value === null ? (b.reason ?? '') : b.missedBy > 0 ? `misses ${band} by ${by.trim()}` : band,
        held: !(b.missedBy > 1e-3 * Math.abs(b.value ?? 1)),
      },
    ];
  }),
);
/** What one more variable would bring. */
const more = computed(() =>
  (result.value?.oneMore ?? []).map((v) => {
    const variable = props.study.variableOf(v.path);
    return { ...v, says: variable ? valueText(variable, v.to, preferences.units) : '' };
  }),
);
const apply = () => props.study.apply('Requirements met', new Map(changes.value.map((c) => [c.path, c.value])));
</script>

<template>
  <section aria-label="Meet requirements" data-test="study-solution">
    <div class="flex flex-wrap items-center gap-3">
      <button
        class="btn btn-main"
        :disabled="study.solving.value !== null || study.chosen.value.length === 0"
        data-test="solve-bands"
        @click="study.solve()"
      >
        Meet requirements
      </button>
      <template v-if="study.solving.value !== null">
        <progress class="w-40" :value="study.solving.value" max="1" aria-label="Solving" />
        <button class="link text-[12.5px]" @click="study.stop()">Stop</button>
      </template>
      <p v-else-if="study.failure.value" class="text-[12.5px] text-clay" role="alert">{{ study.failure.value }}</p>
      <p v-else-if="!found" class="text-[12.5px] text-soft">
        Finds the least change of the variables that meets every requirement listed.
      </p>
      <template v-else>
        <p class="text-[13px]" role="status" data-test="solution-said">
          <b class="font-semibold" :class="found.met ? 'text-grass-text' : 'text-clay'">{{
            found.met
              ? changes.length
                ? 'All requirements met'
                : 'All requirements are already met'
              : 'Not all requirements can be met within these bounds'
          }}</b>
        </p>
        <button v-if="changes.length" class="btn" data-test="apply-solution" @click="apply">Apply</button>
      </template>
    </div>
    <ul v-if="more.length" class="mt-1 text-[12.5px] text-soft" aria-label="One more variable">
      <li v-for="v in more" :key="v.path">
        With <button class="link" :data-more="v.path" @click="study.add(v.path)">{{ v.label }}</button> at
        {{ v.says }}
        {{
          v.left < 0.005 ? 'all would be met' : `${formatNumber(100 * v.left, 0)} % of what is missed would be left`
        }}, linear estimate.
      </li>
    </ul>
    <div v-if="found" class="mt-2 grid grid-cols-2 gap-x-6 text-[13px]">
      <table class="self-start">
        <tbody>
          <tr
            v-for="c in changes.filter((o) => o.before !== o.after)"
            :key="c.path"
            class="border-b border-rule-light"
            :data-change="c.path"
          >
            <th scope="row" class="py-1 text-left font-normal">{{ c.label }}</th>
            <td class="text-right text-soft tabular-nums">{{ c.before }}</td>
            <td class="pl-2 text-right font-semibold whitespace-nowrap tabular-nums">→ {{ c.after }}</td>
          </tr>
        </tbody>
      </table>
      <table class="self-start">
        <tbody>
          <tr v-for="b in bands" :key="b.id" class="border-b border-rule-light">
            <th scope="row" class="py-1 text-left font-normal">{{ b.name }}</th>
            <td class="text-right font-semibold tabular-nums" :class="b.held ? 'text-grass-text' : 'text-clay'">
              {{ b.value }}
            </td>
            <td class="pl-2 text-soft">{{ b.says }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
