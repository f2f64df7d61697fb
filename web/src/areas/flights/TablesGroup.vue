<script setup lang="ts">
import { Download, Upload } from 'lucide-vue-next';
import { computed } from 'vue';
import { toast } from 'vue-sonner';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { readStandardTables, writeStandardTables } from '@veldtwind/core/simulation';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { saveText } from '@/lib/save';
import type { useFlights } from './use-flights';

/** Where the aerodynamics of a flight come from: the airframe, or tables of a file; and both go out as such a file. */
const props = defineProps<{ flights: ReturnType<typeof useFlights> }>();
const f = props.flights;
const read = computed(() => f.part.value?.tables);
function write(): void {
  const t = f.flownTables.value;
  const c = f.active.value;
  if (!t || !c) return;
  const name = read.value?.name ?? `${c.letter} ${c.name}`;
  const day = new Date().toISOString().slice(0, 10);
  saveText(
    writeStandardTables(t, name, day),
    `${name.replace(/[^\w-]+/g, '-').toLowerCase()}-tables.xml`,
    'application/xml',
  );
}
async function load(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  try {
    if (file.size > 8e6) throw new Error('The file is larger than 8 MB: no tables are.');
    const { name, tables, checked } = readStandardTables(await file.text());
    f.edit(
      `Tables read from ${file.name}`,
      (p) => (p.tables = { name: (name || file.name).slice(0, 200), checked, tables }),
    );
  } catch (error) {
    toast.error('The tables were not read', {
      description: error instanceof VeldtwindError ? `${error.message} ${error.hint ?? ''}` : (error as Error).message,
      duration: 8000,
    });
  }
}
</script>

<template>
  <SheetGroup title="Aerodynamics">
    <template #aside>
      <span class="flex items-center gap-1">
        <button
          class="icon-btn"
          title="Write the tables as an S-119 file"
          aria-label="Write the tables as an S-119 file"
          :disabled="!f.flownTables.value"
          data-test="write-tables"
          @click="write"
        >
          <Download :size="13" />
        </button>
        <label class="icon-btn cursor-pointer" title="Read tables from an S-119 file">
          <Upload :size="13" />
          <input
            class="sr-only"
            type="file"
            accept=".xml,.dml,application/xml,text/xml"
            aria-label="Read tables from an S-119 file"
            data-test="read-tables"
            @change="load"
          />
        </label>
      </span>
    </template>
    <p class="text-[12.5px] text-soft" data-test="tables-words">
      <template v-if="read">
        Read: <b class="text-ink">{{ read.name }}</b>{{
          read.checked ? `, ${read.checked} of its own checks met` : ', without checks of its own'
        }}.
        <button class="link" @click="f.edit('Tables of the airframe', (p) => delete p.tables)">
          Fly the airframe’s own
        </button>
      </template>
      <template v-else>Of the airframe as it is drawn.</template>
    </p>
  </SheetGroup>
</template>
