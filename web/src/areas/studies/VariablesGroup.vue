<script setup lang="ts">
import { Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import type { Variable } from '@veldtwind/core/studies';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { Spread } from './use-spread';
import { MOST_VARIABLES, type Study } from './use-study';

/** The variables of a study with their bounds, or with how uncertain they are. */
const props = defineProps<{ study: Study; spread?: Spread }>();
const free = computed(() =>
  props.study.there.value.filter((v) => !props.study.chosen.value.some((c) => c.path === v.path)),
);
const bound = (v: Variable, label: string): FieldLimit => ({ ...v.limit, label });
/** A deviation is a difference: of the variable's kind, above zero. */
const deviation = (v: Variable): FieldLimit => ({
  label: 'standard deviation',
  dimension: v.limit.dimension,
  min: 0,
  max: v.limit.max - v.limit.min,
  above: { nearest: v.step / 1000 },
  step: v.step,
});
const rows = computed(() =>
  props.study.chosen.value.flatMap((c) => {
    const variable = props.study.variableOf(c.path);
    return variable ? [{ ...c, variable }] : [];
  }),
);
</script>

<template>
  <SheetGroup title="Variables">
    <div
      v-for="r in rows"
      :key="r.path"
      class="mb-1.5 border-b border-rule-light pb-1"
      data-test="study-variable"
      :data-path="r.path"
    >
      <div class="flex items-center justify-between gap-2">
        <span class="leading-tight">{{ r.variable.label }}</span>
        <button class="icon-btn" :aria-label="`Remove ${r.variable.label}`" @click="study.remove(r.path)">
          <Trash2 :size="13" />
        </button>
      </div>
      <LimitField
        v-if="spread"
        :limit="deviation(r.variable)"
        :model-value="spread.deviationOf(r.path)"
        @commit="(v) => v !== null && spread!.setDeviation(r.path, v)"
      />
      <template v-else>
        <LimitField
          :limit="bound(r.variable, 'from')"
          :model-value="r.from"
          :max="r.to"
          @commit="(v) => v !== null && study.change(r.path, { from: v })"
        />
        <LimitField
          :limit="bound(r.variable, 'to')"
          :model-value="r.to"
          :min="r.from"
          @commit="(v) => v !== null && study.change(r.path, { to: v })"
        />
      </template>
    </div>
    <select
      v-if="study.chosen.value.length < MOST_VARIABLES"
      class="w-full rounded border border-rule bg-transparent px-2 py-1 text-[13px]"
      aria-label="Add a variable"
      data-test="add-variable"
      :value="''"
      @change="
        (e) => {
          study.add((e.target as HTMLSelectElement).value);
          (e.target as HTMLSelectElement).value = '';
        }
      "
    >
      <option value="">Add a variable</option>
      <option v-for="v in free" :key="v.path" :value="v.path">{{ v.label }}</option>
    </select>
  </SheetGroup>
</template>
