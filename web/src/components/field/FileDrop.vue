<script setup lang="ts">
import { Upload } from 'lucide-vue-next';
import { ref } from 'vue';

/** A place for one text file: chosen, or dropped on it. The slot says what it takes. */
const props = defineProps<{ label: string; test: string; read: (file: File) => Promise<void> }>();
const over = ref(false);
async function take(files: FileList | null | undefined): Promise<void> {
  over.value = false;
  if (files?.[0]) await props.read(files[0]);
}
function chosen(e: Event): void {
  const input = e.target as HTMLInputElement;
  // Emptied, so that the same file can be chosen again.
  void take(input.files).then(() => (input.value = ''));
}
</script>

<template>
  <label
    class="flex cursor-pointer items-center justify-center gap-2 rounded border border-dashed border-rule px-2 py-2 text-[13px] text-soft"
    :class="{ 'bg-select': over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="(e) => take(e.dataTransfer?.files)"
  >
    <Upload :size="13" />
    <slot />
    <input
      class="sr-only"
      type="file"
      accept=".csv,.txt,.tsv,text/csv,text/plain"
      :aria-label="label"
      :data-test="test"
      @change="chosen"
    />
  </label>
</template>
