<script setup lang="ts" generic="From">
import { computed } from 'vue';
import { textOf, unitOf, type Quantity } from '@veldtwind/core/quantities';
import NumberValue from './NumberValue.vue';
import { usePreferences } from '@/store/preferences';

/** A quantity that follows from others, in the units chosen: shown without a frame. */
const props = defineProps<{ quantity: Quantity<From>; from: From | null | undefined; label?: string; mark?: string }>();
const preferences = usePreferences();
const value = computed(() => (props.from == null ? null : props.quantity.of(props.from)));
/** Symbols keep their letters. */
const title = computed(() => props.quantity.name.replace(/^[a-z]/, (c) => c.toUpperCase()));
</script>

<template>
  <div
    class="grid grid-cols-[1fr_88px_32px] items-baseline gap-x-2 py-[4.5px]"
    :title="quantity.says ?? title"
    :data-evidence="mark ?? quantity.id"
  >
    <span class="leading-tight text-soft">{{ label ?? title }}</span>
    <span class="pr-2 text-right font-medium"
      ><NumberValue
        :title="label ?? title"
        :value="textOf(quantity, value, preferences.units)"
        :unit="unitOf(quantity, preferences.units)"
        :says="quantity.says"
        :formula="quantity.formula"
        :quantity="quantity.id"
    /></span>
    <span class="text-[12px] text-soft">{{ unitOf(quantity, preferences.units) }}</span>
  </div>
</template>
