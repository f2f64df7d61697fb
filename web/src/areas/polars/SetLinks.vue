<script setup lang="ts">
import { Download, FileInput } from 'lucide-vue-next';
import { ref } from 'vue';
import { toast } from 'vue-sonner';
import { addressOf, ApiError, upload } from '@/api/client';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';

/** The curves as one open file for a colleague, and such a file back. */
const project = useProject();
const runs = useRuns();
const input = ref<HTMLInputElement | null>(null);
const reading = ref(false);
async function read(files: FileList | null): Promise<void> {
  const file = files?.[0];
  if (!file || !project.id) return;
  reading.value = true;
  try {
    const made = await upload('importCurves', file, { id: project.id });
    await runs.refresh();
    const words = `${made.curves} curves with ${made.points} points${made.known ? `, ${made.known} of them known` : ''}`;
    if (made.left.length) toast.warning(words, { description: made.left.join(' '), duration: 12_000 });
    else toast.success(words);
  } catch (error) {
    const { message } = error as Error;
    toast.error(`${file.name} was not read`, {
      description: error instanceof ApiError && error.hint ? `${message} ${error.hint}` : message,
      duration: 12_000,
    });
  } finally {
    reading.value = false;
    if (input.value) input.value.value = '';
  }
}
</script>

<template>
  <span class="flex">
    <a
      v-if="runs.curves.length && project.id"
      class="icon-btn"
      :href="addressOf('exportCurves', { id: project.id })"
      download
      aria-label="All curves as one file"
      title="All curves with every point and distribution as one file"
      data-test="curves-export"
      ><Download :size="15"
    /></a>
    <button
      class="icon-btn"
      aria-label="Read curves from a file"
      title="Read curves from such a file"
      :disabled="reading"
      data-test="curves-import"
      @click="input?.click()"
    >
      <FileInput :size="15" />
    </button>
    <input
      ref="input"
      type="file"
      accept=".zip"
      class="hidden"
      aria-label="A set of curves"
      data-test="curves-file"
      @change="(e) => read((e.target as HTMLInputElement).files)"
    />
  </span>
</template>
