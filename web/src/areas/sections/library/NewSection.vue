<script setup lang="ts">
import { ClipboardPaste, FolderOpen, PencilRuler, Upload } from 'lucide-vue-next';
import { ref } from 'vue';
import { designationSection } from '@veldtwind/core/project';
import { readDesignation } from '@veldtwind/core/section';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import { freeId } from '@/lib/ids';
import { useProject } from '@/store/project';
import { filesOfDrop, useReading } from './reading';
import ReadReport from './ReadReport.vue';

/** Makes a section from a designation or a drawn curve, or reads files, folders, archives and pasted text, and says what was found. */
const emit = defineEmits<{ made: [id: string] }>();
const project = useProject();
const designation = ref('');
const sharp = ref(false);
const failure = ref<{ message: string; hint?: string } | null>(null);
const files = ref<HTMLInputElement | null>(null);
const folder = ref<HTMLInputElement | null>(null);
const over = ref(false);
const pasting = ref(false);
const pasted = ref('');
const taken = (id: string) => Boolean(project.document.sections[id]);
const reading = useReading((id) => emit('made', id));

function make(): void {
  failure.value = null;
  try {
    const digits = designation.value.trim().replace(/^naca[:\s]*/i, '');
    const formula = readDesignation(digits);
    const name = `Section ${formula.designation}${sharp.value ? ' sharp' : ''}`;
    const id = freeId(name, taken);
    const made = designationSection(
      id,
      id === freeId(name, () => false) ? name : `${name} (${id.split('-').pop()})`,
      formula.designation,
      sharp.value ? 'sharp' : 'published',
    );
    project.edit(`New section ${formula.designation}`, (draft) => void (draft.sections[id] = made));
    designation.value = '';
    emit('made', id);
  } catch (error) {
    const e = error as { message: string; hint?: string };
    failure.value = { message: e.message, hint: e.hint };
  }
}

/** A curve to draw from: a plain section of few points, each of which can be dragged. */
function draw(): void {
  const upper = [
    [1, 0.001],
    [0.8, 0.032],
    [0.6, 0.058],
    [0.4, 0.074],
    [0.22, 0.071],
    [0.1, 0.053],
    [0.03, 0.03],
    [0.006, 0.0132],
  ];
  const lower = [
    [0.007, -0.0106],
    [0.035, -0.022],
    [0.12, -0.034],
    [0.3, -0.037],
    [0.55, -0.026],
    [0.8, -0.0105],
    [1, -0.001],
  ];
  const points = [...upper, [0, 0], ...lower] as [number, number][];
  const id = freeId('Drawn section', taken);
  project.edit('New drawn section', (draft) => {
    draft.sections[id] = {
      id,
      name: id === 'drawn-section' ? 'Drawn section' : `Drawn section ${id.split('-').pop()}`,
      source: { kind: 'drawn', points },
      steps: [],
      tags: [],
      note: '',
    };
  });
  emit('made', id);
}

const drop = async (e: DragEvent) => {
  over.value = false;
  if (e.dataTransfer) await reading.readFiles(await filesOfDrop(e.dataTransfer));
};
const pick = (e: Event) => {
  const input = e.target as HTMLInputElement;
  const list = Array.from(input.files ?? []);
  input.value = '';
  void reading.readFiles(list);
};
const takePasted = () => {
  if (!pasted.value.trim()) return;
  void reading.readText(pasted.value);
  pasted.value = '';
  pasting.value = false;
};
</script>

<template>
  <div>
    <form class="flex items-center gap-2" @submit.prevent="make">
      <input
        v-model="designation"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-[3px]"
        placeholder="4415, 0012-34, 16-309"
        aria-label="Designation"
        data-test="designation"
        maxlength="12"
      />
      <label
        class="flex items-center gap-1 text-[12px] text-soft"
        title="Closes the trailing edge; the published formula leaves a small gap"
        ><input v-model="sharp" type="checkbox" class="accent-(--ochre)" />sharp</label
      >
      <button class="btn" data-test="make-section">Make</button>
    </form>
    <div
      class="mt-2 flex flex-wrap justify-center gap-x-3 gap-y-1 rounded-md border border-dashed px-2 py-2 text-[12.5px] text-soft"
      :class="over ? 'border-ochre bg-select' : 'border-rule'"
      data-test="drop-zone"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="drop"
    >
      <span class="w-full text-center">Drop files, a folder or a zip here, or</span>
      <button class="link inline-flex items-center gap-1" @click="files?.click()"><Upload :size="13" />files</button>
      <button class="link inline-flex items-center gap-1" @click="folder?.click()">
        <FolderOpen :size="13" />folder
      </button>
      <button class="link inline-flex items-center gap-1" data-test="paste-text" @click="pasting = !pasting">
        <ClipboardPaste :size="13" />paste text
      </button>
      <button class="link inline-flex items-center gap-1" data-test="draw-section" @click="draw">
        <PencilRuler :size="13" />draw
      </button>
      <input
        ref="files"
        type="file"
        multiple
        class="sr-only"
        aria-label="Coordinate files"
        data-test="section-file"
        tabindex="-1"
        @change="pick"
      />
      <input
        ref="folder"
        type="file"
        webkitdirectory
        class="sr-only"
        aria-label="Folder of coordinate files"
        tabindex="-1"
        @change="pick"
      />
    </div>
    <div v-if="pasting" class="mt-2">
      <textarea
        v-model="pasted"
        rows="5"
        class="w-full rounded border border-rule bg-field px-2 py-1 font-mono text-[12px]"
        placeholder="x y, one point a line"
        aria-label="Coordinates as text"
        data-test="pasted"
      />
      <button class="btn" data-test="read-pasted" @click="takePasted">Read it</button>
    </div>
    <div v-if="reading.progress.value" class="mt-2 flex items-center gap-2 text-[12.5px]" role="status">
      <progress
        class="h-1.5 flex-1 accent-(--ochre)"
        :value="reading.progress.value.done"
        :max="reading.progress.value.of"
      />
      {{ reading.progress.value.done }} of {{ reading.progress.value.of }}
      <button class="link" @click="reading.cancel()">Stop</button>
    </div>
    <ErrorNotice v-if="failure" class="mt-2" :message="failure.message" :hint="failure.hint" />
    <ReadReport
      v-if="reading.reports.value.length"
      class="mt-2"
      :reports="reading.reports.value"
      @mirror="reading.mirror"
      @open="(id) => emit('made', id)"
      @close="reading.reports.value = []"
    />
  </div>
</template>
