<script setup lang="ts">
import { ref, watch } from 'vue';

/** Words with their name: taken when the field is left, put back with Escape. An empty one is not taken where words are needed. */
const props = defineProps<{
  label: string;
  modelValue: string;
  most: number;
  needed?: boolean;
  rows?: number;
  placeholder?: string;
  test?: string;
}>();
const emit = defineEmits<{ 'update:modelValue': [text: string] }>();
const text = ref(props.modelValue);
watch(
  () => props.modelValue,
  (v) => (text.value = v),
);
function take(): void {
  const next = props.rows ? text.value : text.value.trim();
  if (next === props.modelValue) return;
  if (props.needed && next === '') text.value = props.modelValue;
  else emit('update:modelValue', next);
}
</script>

<template>
  <label class="grid items-center py-[3px] text-soft" :class="rows ? 'grid-cols-[70px_1fr]' : 'grid-cols-[1fr_128px]'"
    >{{ label }}
    <textarea
      v-if="rows"
      v-model="text"
      class="serif rounded border border-rule bg-field px-2 py-1 text-ink italic"
      :rows="rows"
      :maxlength="most"
      :placeholder="placeholder"
      :data-test="test"
      @change="take"
      @blur="take"
    />
    <input
      v-else
      v-model="text"
      class="min-w-0 rounded border border-rule bg-field px-2 py-[3px] text-ink"
      :maxlength="most"
      :placeholder="placeholder"
      :data-test="test"
      @change="take"
      @keydown.esc.stop="text = modelValue"
    />
  </label>
</template>
