<script setup lang="ts">
import { ref } from 'vue';

/** The words of a note that is being placed. */
defineProps<{ place: { left: number; top: number } }>();
const emit = defineEmits<{ place: [text: string]; close: [] }>();
const text = ref('');
</script>

<template>
  <form
    class="menu absolute flex gap-1 p-2"
    :style="{ left: `${place.left}px`, top: `${place.top}px` }"
    @submit.prevent="text.trim() ? emit('place', text.trim()) : emit('close')"
    @keydown.esc="emit('close')"
  >
    <input
      v-model="text"
      autofocus
      maxlength="80"
      class="w-40 rounded border border-rule bg-field px-2"
      placeholder="Note"
      aria-label="Note"
    />
    <button class="btn">Place</button>
  </form>
</template>
