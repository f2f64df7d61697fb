<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  FIGURE_NAMES,
  REPORT_FIGURES,
  REPORT_TABLES,
  SPACE_VIEW,
  TABLE_NAMES,
  type ReportFigure,
  type ReportTable,
} from '@veldtwind/core/report';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';
import { attachAll } from './attach-all';

/** What can be put into the report, behind the block that has the focus or at the end. */
const props = defineProps<{ after: string | undefined }>();
const emit = defineEmits<{ added: [id: string, edit: boolean] }>();
const project = useProject();
const reports = useReports();
const drawn = computed(() =>
  project.candidates
    .filter((c) => c.surfaces.length + c.bodies.length > 0)
    .map((c) => ({ id: c.id, name: `${c.letter} ${c.name}` })),
);
const LISTS = computed(
  () =>
    [
      { id: 'figure', name: 'Figure', options: REPORT_FIGURES.map((id) => ({ id, name: FIGURE_NAMES[id] })) },
      { id: 'table', name: 'Table', options: REPORT_TABLES.map((id) => ({ id, name: TABLE_NAMES[id] })) },
      { id: 'three-view', name: 'Three-view', options: drawn.value },
      { id: 'space-view', name: 'Space view', options: drawn.value },
    ] as const,
);
function choose(list: 'figure' | 'table' | 'three-view' | 'space-view', e: Event): void {
  const select = e.target as HTMLSelectElement;
  const id = select.value;
  select.value = '';
  if (!id) return;
  const own = { title: '', caption: '' };
  const block =
    list === 'figure'
      ? { kind: list, of: id as ReportFigure, ...own }
      : list === 'table'
        ? { kind: list, of: id as ReportTable, ...own }
        : list === 'three-view'
          ? { kind: list, subject: id, ...own }
          : { kind: list, subject: id, ...SPACE_VIEW, ...own };
  emit('added', reports.insert(block, props.after), false);
}
const picker = ref<HTMLInputElement | null>(null);
async function attach(): Promise<void> {
  const files = [...(picker.value?.files ?? [])];
  if (picker.value) picker.value.value = '';
  await attachAll(files, props.after, (id) => emit('added', id, false));
}
const text = () => emit('added', reports.insert({ kind: 'text', markdown: '' }, props.after), true);
const heading = () => emit('added', reports.insert({ kind: 'heading', level: 2, text: 'Heading' }, props.after), true);
const decision = () =>
  emit('added', reports.insert({ kind: 'decision', chosen: '', why: '', givenUp: '' }, props.after), true);
</script>

<template>
  <SheetGroup title="Add">
    <div class="flex flex-wrap gap-1.5">
      <button class="btn" data-test="add-text" @click="text">Text</button>
      <button class="btn" data-test="add-heading" @click="heading">Heading</button>
      <button class="btn" @click="decision">Decision</button>
      <button class="btn" data-test="add-file" @click="picker?.click()">Picture or file</button>
      <input
        ref="picker"
        type="file"
        multiple
        class="hidden"
        tabindex="-1"
        aria-label="Pictures and files to add"
        data-test="report-files"
        @change="attach"
      />
    </div>
    <label v-for="l in LISTS" :key="l.id" class="mt-1.5 flex items-center justify-between gap-2 text-[13px] text-soft">
      {{ l.name }}
      <select
        class="w-44 rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
        :aria-label="`Add a ${l.name.toLowerCase()}`"
        :data-test="`add-${l.id}`"
        value=""
        @change="(e) => choose(l.id, e)"
      >
        <option value="">Choose…</option>
        <option v-for="o in l.options" :key="o.id" :value="o.id">{{ o.name }}</option>
      </select>
    </label>
  </SheetGroup>
</template>
