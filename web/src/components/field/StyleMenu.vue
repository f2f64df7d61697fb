<script setup lang="ts">
import { COLOURS, DASHES, MARKERS, type SeriesStyle } from '@/lib/series-style';

/** Colour, dash, marker and width of what is drawn. */
defineProps<{ modelValue: SeriesStyle }>();
const emit = defineEmits<{ change: [more: Partial<SeriesStyle>] }>();
</script>

<template>
  <div class="menu flex w-60 flex-col gap-2 p-3" data-test="style-menu">
    <div class="flex gap-1.5" role="group" aria-label="Colour">
      <button
        v-for="c in COLOURS"
        :key="c"
        class="h-5 w-5 rounded-full border border-rule"
        :style="{ background: `var(--${c})` }"
        :aria-label="c"
        :aria-pressed="modelValue.colour === `var(--${c})`"
        @click="emit('change', { colour: `var(--${c})` })"
      />
    </div>
    <label class="flex items-center justify-between text-soft"
      >dash
      <select
        class="rounded border border-rule bg-field px-1"
        :value="modelValue.dash"
        @change="(e) => emit('change', { dash: (e.target as HTMLSelectElement).value })"
      >
        <option v-for="(d, i) in DASHES" :key="d" :value="d">{{ i === 0 ? 'full' : `dash ${i}` }}</option>
      </select>
    </label>
    <label class="flex items-center justify-between text-soft"
      >marker
      <select
        class="rounded border border-rule bg-field px-1"
        :value="modelValue.marker"
        @change="(e) => emit('change', { marker: (e.target as HTMLSelectElement).value as 'disc' })"
      >
        <option v-for="m in MARKERS" :key="m" :value="m">{{ m }}</option>
      </select>
    </label>
    <label class="flex items-center justify-between text-soft"
      >width
      <input
        type="range"
        min="0.8"
        max="3.6"
        step="0.2"
        :value="modelValue.width ?? 1.6"
        @input="(e) => emit('change', { width: Number((e.target as HTMLInputElement).value) })"
      />
    </label>
  </div>
</template>
