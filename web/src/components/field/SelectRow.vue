<script setup lang="ts" generic="T extends string">
/** A choice among a few, with its name. */
defineProps<{ label: string; modelValue: T; options: readonly { id: T; name: string }[]; test?: string }>();
const emit = defineEmits<{ 'update:modelValue': [id: T] }>();
</script>

<template>
  <label class="grid grid-cols-[1fr_156px] gap-x-2 items-center py-[3px] text-soft">
    {{ label }}
    <select
      class="min-w-0 rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
      :value="modelValue"
      :data-test="test"
      @change="(e) => emit('update:modelValue', (e.target as HTMLSelectElement).value as T)"
    >
      <option v-if="!options.some((o) => o.id === modelValue)" :value="modelValue">{{ modelValue }}</option>
      <option v-for="o in options" :key="o.id" :value="o.id">{{ o.name }}</option>
    </select>
  </label>
</template>
