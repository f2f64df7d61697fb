<script setup lang="ts" generic="T extends string | number">
/** A few words of which one or several are on. */
defineProps<{
  label: string;
  options: readonly { id: T; name: string; title?: string }[];
  on: readonly T[];
  /** What tests find a chip by: with its id behind. */
  test?: string;
}>();
defineEmits<{ pick: [id: T] }>();
</script>

<template>
  <div class="flex flex-wrap gap-1" role="group" :aria-label="label">
    <button
      v-for="o in options"
      :key="o.id"
      class="chip"
      :class="{ on: on.includes(o.id) }"
      :aria-pressed="on.includes(o.id)"
      :title="o.title"
      :data-test="test && `${test}-${o.id}`"
      @click="$emit('pick', o.id)"
    >
      {{ o.name }}
    </button>
  </div>
</template>
