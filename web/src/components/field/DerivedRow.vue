<script setup lang="ts">
import { computed } from 'vue';
import { displayUnit, formatQuantity, type Dimension } from '@veldtwind/core/units';
import NumberValue from './NumberValue.vue';
import { usePreferences } from '@/store/preferences';

/** A quantity that follows from others: shown without a frame. */
const props = defineProps<{
  label: string;
  value: number | null | undefined;
  dimension: Dimension;
  digits?: number;
  unit?: string;
  note?: string;
}>();
const preferences = usePreferences();
const text = computed(() =>
  props.value === null || props.value === undefined
    ? '—'
    : formatQuantity(props.value, props.dimension, preferences.units, props.digits),
);
const symbol = computed(() => props.unit ?? displayUnit(props.dimension, preferences.units).symbol);
</script>

<template>
  <div class="grid grid-cols-[1fr_88px_32px] items-baseline gap-x-2 py-[4.5px]" :title="note">
    <span class="leading-tight text-soft">{{ label }}</span>
    <span class="pr-2 text-right font-medium"
      ><NumberValue :title="label" :value="text" :unit="symbol" :says="note"
    /></span>
    <span class="text-[12px] text-soft">{{ symbol }}</span>
  </div>
</template>
