<script setup lang="ts">
import { computed } from 'vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { MapAxis, StudyMap } from './use-map';
import type { Study } from './use-study';

/** What a map shows, and over what. */
const props = defineProps<{ study: Study; map: StudyMap }>();
const quantities = computed(() => props.study.everything.value.map((a) => ({ id: a.key, name: a.response.name })));
const all = computed(() => props.study.there.value.map((v) => ({ id: v.path, name: v.label })));
const others = computed(() => [
  { id: '', name: 'none (curve)' },
  ...all.value.filter((v) => v.id !== props.map.x.value?.variable.path),
]);
const axes = computed(() => [props.map.x.value, props.map.y.value].filter((a): a is MapAxis => a !== null));
</script>

<template>
  <SheetGroup title="Map">
    <SelectRow
      label="Quantity"
      test="map-quantity"
      :model-value="map.quantity.value?.key ?? ''"
      :options="quantities"
      @update:model-value="(quantity) => map.change({ quantity })"
    />
    <SelectRow
      label="Horizontal axis"
      test="map-x"
      :model-value="map.x.value?.variable.path ?? ''"
      :options="all"
      @update:model-value="(x) => map.change({ x, y: map.y.value?.variable.path ?? '' })"
    />
    <SelectRow
      label="Vertical axis"
      test="map-y"
      :model-value="map.y.value?.variable.path ?? ''"
      :options="others"
      @update:model-value="(y) => map.change({ x: map.x.value?.variable.path, y })"
    />
    <div v-for="a in axes" :key="a.variable.path" class="mt-2 border-t border-rule-light pt-1">
      <p class="leading-tight">{{ a.variable.label }}</p>
      <LimitField
        :limit="{ ...a.variable.limit, label: 'from' }"
        :model-value="a.from"
        :max="a.to"
        @commit="(v) => v !== null && map.setRange(a.variable.path, { from: v, to: a.to })"
      />
      <LimitField
        :limit="{ ...a.variable.limit, label: 'to' }"
        :model-value="a.to"
        :min="a.from"
        @commit="(v) => v !== null && map.setRange(a.variable.path, { from: a.from, to: v })"
      />
    </div>
  </SheetGroup>
</template>
