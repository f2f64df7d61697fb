<script setup lang="ts">
import { Eye, EyeOff, Trash2, Upload } from 'lucide-vue-next';
import { computed, ref, shallowRef } from 'vue';
import {
  chosenColumns,
  MEASURED_QUANTITIES,
  readMeasuredTable,
  type MeasuredQuantity,
  type MeasuredTable,
} from '@veldtwind/core/formats';
import { POLAR_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import { newId } from '@/lib/ids';
import { useProject } from '@/store/project';
import { shortReynolds } from './curve-series';

/** Measured polars of the project, and a table that is being read: its columns are matched by name, and by hand where that fails. */
const project = useProject();
const measured = computed(() => Object.values(project.document.measurements));
const input = ref<HTMLInputElement | null>(null);
const reading = shallowRef<MeasuredTable | null>(null);
const columns = ref<(MeasuredQuantity | null)[]>([]);
const name = ref('');
const note = ref('');
const reynolds = ref<number | null>(null);
const failure = ref<string | null>(null);
const MOST_BYTES = 4_000_000;

function take(text: string, from: string): void {
  try {
    const table = readMeasuredTable(text);
    reading.value = table;
    columns.value = table.guess.slice();
    name.value = from;
    failure.value = null;
  } catch (error) {
    const { message, hint } = error as { message: string; hint?: string };
    failure.value = [`${from}: ${message}`, hint].filter(Boolean).join(' ');
  }
}
async function read(files: FileList | null): Promise<void> {
  const file = files?.[0];
  if (!file) return;
  if (file.size > MOST_BYTES) failure.value = `${file.name} is larger than 4 MB, which no measured polar is.`;
  else take(await file.text(), file.name.replace(/\.[^.]*$/, '').slice(0, 120) || 'Measured');
  if (input.value) input.value.value = '';
}
/** What would come of the columns as they are chosen, or what is wrong with them. */
const chosen = computed(() => {
  if (!reading.value) return null;
  try {
    return chosenColumns(reading.value, columns.value);
  } catch (error) {
    return (error as Error).message;
  }
});
function keep(): void {
  const made = chosen.value;
  if (made === null || typeof made === 'string') return;
  const id = newId().slice(0, 8);
  const part = {
    id,
    name: name.value.trim() || 'Measured',
    note: note.value,
    reynolds: reynolds.value,
    ...made,
  };
  void project.edit(`Lay ${part.name} over the polars`, (draft) => void (draft.measurements[id] = part));
  reading.value = null;
  note.value = '';
}
const hide = (id: string, hidden: boolean) =>
  project.edit(hidden ? 'Hide a measured polar' : 'Show a measured polar', (draft) => {
    draft.measurements[id].hidden = hidden;
  });
const remove = (id: string) => project.edit('Remove a measured polar', (draft) => delete draft.measurements[id]);
const nameOf = (q: MeasuredQuantity) => quantityIn(POLAR_QUANTITIES, q).name;
const RE = { label: 'Reynolds number', dimension: 'count', min: 1, max: 1e10, step: 10_000, optional: true } as const;
</script>

<template>
  <SheetGroup title="Measured">
    <template #aside>
      <button class="link flex items-center gap-1 text-[12.5px]" data-test="measured-read" @click="input?.click()">
        <Upload :size="13" /> Table
      </button>
    </template>
    <input
      ref="input"
      type="file"
      class="hidden"
      accept=".csv,.txt,.dat,.tsv,text/*"
      aria-label="A table of measured values"
      data-test="measured-file"
      @change="(e) => read((e.target as HTMLInputElement).files)"
    />
    <p v-if="failure" class="text-[12.5px] text-clay" role="alert" data-test="measured-failure">{{ failure }}</p>
    <p v-if="!measured.length && !reading && !failure" class="text-[12.5px] text-soft">
      Lay a measured polar over the curves: a table with a column each of angle, lift, drag or moment.
    </p>
    <form v-if="reading" class="border-l-2 border-ochre pl-2" data-test="measured-form" @submit.prevent="keep">
      <TextRow label="Name" needed :most="120" :model-value="name" @update:model-value="(v) => (name = v)" />
      <LimitField :limit="RE" placeholder="not known" :model-value="reynolds" @commit="(v) => (reynolds = v)" />
      <TextRow
        label="From"
        placeholder="report, tunnel"
        :most="2000"
        :model-value="note"
        @update:model-value="(v) => (note = v)"
      />
      <label
        v-for="(heading, i) in reading.headings"
        :key="i"
        class="grid grid-cols-[1fr_128px] items-center py-[2px] text-soft"
      >
        <span class="truncate" :title="heading">{{ heading }}</span>
        <select v-model="columns[i]" class="min-w-0 rounded border border-rule bg-field px-1.5 py-[3px] text-ink">
          <option :value="null">nothing</option>
          <option v-for="q in MEASURED_QUANTITIES" :key="q" :value="q">{{ nameOf(q) }}</option>
        </select>
      </label>
      <p v-for="n in reading.notes" :key="n" class="text-[12px] text-soft">{{ n }}</p>
      <p class="text-[12.5px]" :class="typeof chosen === 'string' ? 'text-clay' : 'text-soft'" role="status">
        {{ typeof chosen === 'string' ? chosen : `${chosen?.rows.length} rows` }}
      </p>
      <div class="mt-1 flex gap-2">
        <button class="btn btn-main" type="submit" :disabled="typeof chosen === 'string'" data-test="measured-keep">
          Overlay
        </button>
        <button class="btn" type="button" @click="reading = null">Cancel</button>
      </div>
    </form>
    <ul class="mt-1">
      <li v-for="m in measured" :key="m.id" class="flex items-center gap-1" data-test="measured">
        <span class="min-w-0 flex-1 truncate" :title="m.note">
          {{ m.name }}
          <span class="text-[12px] text-soft"
            >{{ m.rows.length }} rows{{ m.reynolds ? `, ${shortReynolds(m.reynolds)}` : '' }}</span
          >
        </span>
        <button
          class="icon-btn"
          :aria-label="m.hidden ? `Show ${m.name}` : `Hide ${m.name}`"
          :title="m.hidden ? 'Show' : 'Hide'"
          @click="hide(m.id, !m.hidden)"
        >
          <EyeOff v-if="m.hidden" :size="14" /><Eye v-else :size="14" />
        </button>
        <button class="icon-btn" :aria-label="`Remove ${m.name}`" title="Remove" @click="remove(m.id)">
          <Trash2 :size="14" />
        </button>
      </li>
    </ul>
  </SheetGroup>
</template>
