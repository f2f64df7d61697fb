<script setup lang="ts">
import { ref } from 'vue';
import { toast } from 'vue-sonner';
import { starterLibrary } from '@veldtwind/core/starter';
import { freeId } from '@/lib/ids';
import { useProject } from '@/store/project';

/** Takes sections of the starter library into the project: all of them, or one kind. */
defineProps<{ main?: boolean }>();
const emit = defineEmits<{ made: [id: string] }>();
const project = useProject();
const all = starterLibrary();
const kinds = [...new Set(all.map((s) => s.tags[0]))];
const kind = ref('');
function take(): void {
  const taken = new Set(Object.keys(project.document.sections));
  const names = new Set(project.sections.map((s) => s.name));
  const list = all
    .filter((s) => (kind.value === '' || s.tags[0] === kind.value) && !names.has(s.name))
    .map((s) => {
      const id = freeId(s.id, (i) => taken.has(i));
      taken.add(id);
      return { ...s, id };
    });
  if (list.length === 0) {
    toast('They are all here already.');
    return;
  }
  project.edit(`Take ${list.length} sections from the starter library`, (draft) => {
    for (const s of list) draft.sections[s.id] = s;
  });
  toast(`${list.length} sections taken in`, { action: { label: 'Undo', onClick: () => void project.step('undo') } });
  if (project.sections.length === list.length) emit('made', list[0].id);
}
</script>

<template>
  <button v-if="main" class="btn btn-main" data-test="starter-all" @click="take">
    Take the starter library ({{ all.length }} sections)
  </button>
  <div v-else>
    <div class="flex items-center gap-2">
      <select
        v-model="kind"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-1.5 py-[3px]"
        aria-label="Kind of starter sections"
      >
        <option value="">all {{ all.length }}</option>
        <option v-for="k in kinds" :key="k" :value="k">
          {{ k }} ({{ all.filter((s) => s.tags[0] === k).length }})
        </option>
      </select>
      <button class="btn" data-test="starter-take" @click="take">Take in</button>
    </div>
    <p class="mt-1 text-[12.5px] text-soft">
      Made by formula, and by us with the shaping steps; each with a note on what it suits.
    </p>
  </div>
</template>
