<script setup lang="ts">
import { Upload } from 'lucide-vue-next';
import { ref } from 'vue';
import { readCoordinates, type ReadSection } from '@veldtwind/core/formats';
import { designationSection, type SectionPart } from '@veldtwind/core/project';
import { readDesignation } from '@veldtwind/core/section';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import { freeId } from '@/lib/ids';
import { useProject } from '@/store/project';

/** Makes a section from a designation, or reads coordinate files and says what was found and changed. */
const emit = defineEmits<{ made: [id: string] }>();
const project = useProject();
const designation = ref('');
const sharp = ref(false);
const failures = ref<{ message: string; hint?: string }[]>([]);
const reports = ref<{ name: string; read: ReadSection }[]>([]);
const file = ref<HTMLInputElement | null>(null);
const over = ref(false);
const taken = (id: string) => Boolean(project.document.sections[id]);

function make(): void {
  failures.value = [];
  reports.value = [];
  try {
    const digits = designation.value.trim().replace(/^naca[:\s]*/i, '');
    const formula = readDesignation(digits);
    const name = `Section ${formula.designation}${sharp.value ? ' sharp' : ''}`;
    const id = freeId(name, taken);
    project.edit(`New section ${formula.designation}`, [
      project.putSection(
        designationSection(
          id,
          id === freeId(name, () => false) ? name : `${name} (${id.split('-').pop()})`,
          formula.designation,
          sharp.value ? 'sharp' : 'published',
        ),
      ),
    ]);
    designation.value = '';
    emit('made', id);
  } catch (error) {
    const e = error as { message: string; hint?: string };
    failures.value = [{ message: e.message, hint: e.hint }];
  }
}

async function readFiles(files: Iterable<File>): Promise<void> {
  failures.value = [];
  reports.value = [];
  const made: SectionPart[] = [];
  for (const f of files) {
    try {
      if (f.size > 2_000_000)
        throw Object.assign(new Error(`The file has ${Math.round(f.size / 1e6)} MB; a section has a few kilobytes.`), {
          hint: 'Is this the right file?',
        });
      const bytes = new Uint8Array(await f.arrayBuffer());
      const utf8 = new TextDecoder('utf-8').decode(bytes);
      const text = utf8.includes('\uFFFD') ? new TextDecoder('latin1').decode(bytes) : utf8;
      const read = readCoordinates(text, f.name.replace(/\.[^.]*$/, ''));
      const id = freeId(read.name, (i) => taken(i) || made.some((m) => m.id === i));
      made.push({
        id,
        name: read.name,
        source: { kind: 'coordinates', points: read.points },
        note: '',
        original: { fileName: f.name, text },
      });
      reports.value.push({ name: f.name, read });
    } catch (error) {
      const e = error as { message: string; hint?: string };
      failures.value.push({ message: `${f.name}: ${e.message}`, hint: e.hint });
    }
  }
  if (made.length > 0) {
    project.edit(
      made.length === 1 ? `Read ${made[0].name}` : `Read ${made.length} sections`,
      made.map(project.putSection),
    );
    emit('made', made[made.length - 1].id);
  }
}
const drop = (e: DragEvent) => {
  over.value = false;
  if (e.dataTransfer?.files.length) void readFiles(e.dataTransfer.files);
};
const pick = (e: Event) => {
  const input = e.target as HTMLInputElement;
  if (input.files?.length) void readFiles(Array.from(input.files));
  input.value = '';
};
</script>

<template>
  <div>
    <form class="flex items-center gap-2" @submit.prevent="make">
      <input
        v-model="designation"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-[3px]"
        placeholder="4 or 5 digits: 4415"
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
      class="mt-2 rounded-md border border-dashed px-3 py-2 text-center text-[12.5px] text-soft"
      :class="over ? 'border-ochre bg-select' : 'border-rule'"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="drop"
    >
      <button class="link inline-flex items-center gap-1" @click="file?.click()">
        <Upload :size="13" />Read a coordinate file</button
      >, or drop files here
      <input
        ref="file"
        type="file"
        multiple
        class="sr-only"
        aria-label="Coordinate files"
        data-test="section-file"
        tabindex="-1"
        @change="pick"
      />
    </div>
    <ErrorNotice v-for="f in failures" :key="f.message" class="mt-2" :message="f.message" :hint="f.hint" />
    <div
      v-for="r in reports"
      :key="r.name"
      class="mt-2 rounded-md border border-grass/40 px-3 py-2 text-[12.5px]"
      role="status"
      data-test="read-report"
    >
      <b class="font-semibold"
        >{{ r.name }}: {{ r.read.points.length }} points read{{ r.read.repaired ? ', put right' : ', unchanged' }}</b
      >
      <span v-for="d in r.read.diagnosis" :key="d.code" class="block text-soft"
        >{{ d.message }}<template v-if="d.lines"> Line {{ d.lines.join(', ') }}.</template></span
      >
    </div>
  </div>
</template>
