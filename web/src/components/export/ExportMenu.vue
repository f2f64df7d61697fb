<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue';
import { Download } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import { writeCandidateFile } from '@veldtwind/core/candidate';
import { EXPORT_FORMAT_IDS, EXPORT_FORMATS, type ExportFormat, type ExportSubject } from '@veldtwind/core/formats';
import type { CandidatePart } from '@veldtwind/core/project';
import { resolvedSource } from '@veldtwind/core/project';
import { ApiError, downloadFile } from '@/api/client';
import SelectRow from '@/components/field/SelectRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import { saveBlob, saveText } from '@/lib/save';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

/** The airframe as a file: for other programs, for building, or for a colleague. */
const props = defineProps<{
  candidate: CandidatePart;
  /** What is written before another is chosen. */ first?: string;
}>();
const project = useProject();
const preferences = usePreferences();
const open = ref(false);
const busy = ref(false);
interface Format extends ExportSubject {
  file: ExportFormat | 'json';
  /** Subject; nothing for the whole airframe. */ what: string;
}
/** Every format of every subject, and the file that a colleague reads. */
const FORMATS: Format[] = [
  ...EXPORT_FORMAT_IDS.flatMap((file) =>
    EXPORT_FORMATS[file].subjects.map((s) => ({ ...s, id: s.id ? `${file}-${s.id}` : file, file, what: s.id })),
  ),
  { id: 'candidate', name: 'Candidate file, JSON', file: 'json', what: '' },
];
const picked = ref<string | null>(null);
const format = computed({
  get: () => picked.value ?? props.first ?? preferences.get<string>('export-format', 'step'),
  set: (id) => {
    picked.value = id;
    if (!props.first) preferences.set('export-format', id);
  },
});
const chosen = computed(() => FORMATS.find((f) => f.id === format.value) ?? FORMATS[0]);
const ribs = computed(() => chosen.value.asks === 'ribs');
const meshes = computed(() => chosen.value.asks === 'unit');
const UNITS = [
  { id: 'm', name: 'metres' },
  { id: 'mm', name: 'millimetres' },
  { id: 'in', name: 'inches' },
] as const;
const unit = ref<'m' | 'mm' | 'in'>('mm');
const parts = computed(() => chosen.value.asks === 'parts');
const cut = ref({ sheet: '600x300', kerf: '0.1', printer: '' });
const PART_FIELDS = [
  { id: 'sheet', name: 'Sheet, mm' },
  { id: 'kerf', name: 'Kerf, mm' },
  { id: 'printer', name: 'Printer, mm' },
] as const;
const rib = ref({ skin: '1', spacing: '150', holes: '0.3:6x15', ring: '12', sheet: '900x600' });
const FIELDS = [
  { id: 'skin', name: 'Skin, mm' },
  { id: 'spacing', name: 'Ribs at most apart, mm' },
  { id: 'holes', name: 'Spars and rods' },
  { id: 'ring', name: 'Frames’ width, mm' },
  { id: 'sheet', name: 'Sheet, mm' },
] as const;
async function write(): Promise<void> {
  const c = props.candidate;
  const f = chosen.value;
  const name = `${project.name} ${c.letter} ${f.what}`.trim().replace(/[^\p{L}\p{N}]+/gu, '-');
  if (f.id === 'candidate') {
    const text = writeCandidateFile(c, (key) =>
      project.document.sections[key] ? resolvedSource(project.document.sections, key) : undefined,
    );
    saveText(text, `${name}.json`, 'application/json');
    open.value = false;
    return;
  }
  busy.value = true;
  try {
    // Edits that are on their way are part of what is written.
    await project.flushed();
    const query: Record<string, string> = { as: f.file };
    if (f.what) query.what = f.what;
    if (meshes.value) query.unit = unit.value;
    if (parts.value) for (const [k, v] of Object.entries(cut.value)) if (v.trim()) query[k] = v.trim();
    if (ribs.value) for (const [k, v] of Object.entries(rib.value)) if (v.trim()) query[k] = v.trim();
    const { blob, notes } = await downloadFile('exportAirframe', {
      params: { id: project.id!, candidate: c.id },
      query,
    });
    saveBlob(blob, `${name}.${f.file}`);
    if (notes.length)
      toast.message(`${f.name} written`, { description: notes.slice(0, 6).join('; '), duration: 12_000 });
    else toast.success(`${f.name} written`);
    open.value = false;
  } catch (error) {
    const { message } = error as Error;
    toast.error('This file was not written', {
      description: error instanceof ApiError && error.hint ? `${message} ${error.hint}` : message,
      duration: 12_000,
    });
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <button class="link flex items-center gap-1 text-[13px]" data-test="export-airframe" @click="open = true">
    <Download :size="13" />{{ first === 'zip-parts' ? 'Make the parts…' : 'Write a file…' }}
  </button>
  <Dialog :open="open" class="relative z-50" @close="open = false">
    <div class="fixed inset-0 bg-ink/25" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel class="w-full max-w-[440px] rounded-lg border border-rule bg-leaf p-5">
        <DialogTitle class="text-[17px] font-semibold"
          >{{ candidate.letter }} {{ candidate.name }} as a file</DialogTitle
        >
        <form class="mt-3" @submit.prevent="write">
          <SelectRow v-model="format" label="Format" :options="FORMATS" test="export-format" />
          <SelectRow v-if="meshes" v-model="unit" label="Unit" :options="UNITS" test="export-unit" />
          <template v-if="ribs">
            <TextRow
              v-for="f in FIELDS"
              :key="f.id"
              :label="f.name"
              :most="200"
              :model-value="rib[f.id]"
              @update:model-value="(v) => (rib[f.id] = v)"
            />
            <p class="text-[12px] text-soft">
              Spars as chord fraction:width×height in mm, rods as fraction:diameter, with commas: 0.3:6x15, 0.6:5. Drawn
              at true scale; of mirrored parts one side.
            </p>
          </template>
          <template v-if="parts">
            <TextRow
              v-for="f in PART_FIELDS"
              :key="f.id"
              :label="f.name"
              :most="40"
              :placeholder="f.id === 'printer' ? 'none, or 200x200x180' : undefined"
              :model-value="cut[f.id]"
              @update:model-value="(v) => (cut[f.id] = v)"
            />
            <p class="text-[12px] text-soft">
              Ribs, webs and skins on sheets as DXF and SVG, wire paths of cores, solids for the printer, and a list
              with masses and prices; both sides of mirrored surfaces.
            </p>
          </template>
          <p v-if="chosen.note" class="text-[12px] text-soft">{{ chosen.note }}</p>
          <div class="mt-4 flex justify-end gap-3">
            <button type="button" class="btn" @click="open = false">Cancel</button>
            <button class="btn btn-main" :disabled="busy" data-test="export-write">
              {{ busy ? 'Writing…' : 'Write' }}
            </button>
          </div>
        </form>
      </DialogPanel>
    </div>
  </Dialog>
</template>
