<script setup lang="ts">
import { Download } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import { downloadFile } from '@/api/client';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { saveBlob } from '@/lib/save';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';

/** The report, or the issue that is looked at, as a file. */
const props = defineProps<{ issue: string | null }>();
const project = useProject();
const preferences = usePreferences();
const reports = useReports();
const FORMATS = [
  { id: 'pdf', name: 'PDF' },
  { id: 'html', name: 'HTML page' },
  { id: 'docx', name: 'Word-processor file (DOCX)' },
  { id: 'zip', name: 'Numbers of all figures (ZIP)' },
] as const;
const PAPERS = [
  { id: 'a4', name: 'A4' },
  { id: 'letter', name: 'Letter' },
] as const;
const busy = ref('');
const paper = computed(() => preferences.get<'a4' | 'letter'>('report-paper', 'a4'));
async function write(format: (typeof FORMATS)[number]['id']): Promise<void> {
  const { part } = reports;
  if (!part || busy.value) return;
  busy.value = format;
  try {
    await project.flushed();
    const query: Record<string, string> = { as: format, units: preferences.units, paper: paper.value };
    if (props.issue) query.issue = props.issue;
    const { blob } = await downloadFile('reportFile', { params: { id: project.id!, report: part.id }, query });
    saveBlob(blob, `${project.name} ${part.name}`.trim().replace(/[^\p{L}\p{N}]+/gu, '-') + `.${format}`);
  } catch (error) {
    toast.error('The file was not written', { description: (error as Error).message, duration: 12_000 });
  } finally {
    busy.value = '';
  }
}
</script>

<template>
  <SheetGroup title="Export">
    <SelectRow
      label="Paper size"
      :model-value="paper"
      :options="PAPERS"
      test="report-paper"
      @update:model-value="(v) => preferences.set('report-paper', v)"
    />
    <ul class="mt-1 text-[13px]">
      <li v-for="f in FORMATS" :key="f.id">
        <button
          class="link flex items-center gap-1 py-[2px]"
          :data-test="`report-${f.id}`"
          :disabled="busy !== ''"
          @click="write(f.id)"
        >
          <Download :size="13" />{{ busy === f.id ? `Writing ${f.name}…` : f.name }}
        </button>
      </li>
    </ul>
  </SheetGroup>
</template>
