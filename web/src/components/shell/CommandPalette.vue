<script setup lang="ts">
import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
  DialogTitle,
} from '@headlessui/vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { UNIT_SETS } from '@veldtwind/core/units';
import { AREAS } from '@/areas';
import { keyOfPlace, type Command } from '@/lib/area';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ shortcuts: [] }>();
const router = useRouter();
const route = useRoute();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const query = ref('');
watch(open, () => (query.value = ''));

const commands = computed<Command[]>(() => [
  ...AREAS.map((a, i) => ({
    id: `area-${a.id}`,
    name: `Go to ${a.name}`,
    keys: keyOfPlace(i),
    run: () => void router.push({ name: a.id, params: { project: project.id! }, query: route.query }),
  })),
  ...(project.undoLabel
    ? [{ id: 'undo', name: `Undo: ${project.undoLabel}`, keys: 'Ctrl Z', run: () => void project.step('undo') }]
    : []),
  ...(project.redoLabel
    ? [
        {
          id: 'redo',
          name: `Do again: ${project.redoLabel}`,
          keys: 'Ctrl Shift Z',
          run: () => void project.step('redo'),
        },
      ]
    : []),
  ...project.candidates.map((c) => ({
    id: `work-${c.id}`,
    name: `Work on ${c.letter} ${c.name}`,
    run: () => workbench.setActive(c.id),
  })),
  ...project.candidates
    .filter((c) => c.id !== workbench.active?.id)
    .map((c) => ({
      id: `over-${c.id}`,
      name: `${workbench.visible.some((v) => v.id === c.id) ? 'Hide' : 'Lay over'} ${c.letter} ${c.name}`,
      run: () => workbench.toggle(c.id),
    })),
  ...AREAS.flatMap((a) => a.commands?.() ?? []),
  ...UNIT_SETS.map((u) => ({ id: `units-${u.id}`, name: `Units: ${u.name}`, run: () => preferences.setUnits(u.id) })),
  {
    id: 'theme',
    name: preferences.theme === 'dusk' ? 'Paper theme' : 'Dusk theme',
    run: () => preferences.setTheme(preferences.theme === 'dusk' ? 'paper' : 'dusk'),
  },
  {
    id: 'next-step',
    name: preferences.get('next-step', true) ? 'Hide the next step' : 'Show the next step',
    run: () => preferences.set('next-step', !preferences.get('next-step', true)),
  },
  { id: 'shortcuts', name: 'Shortcuts', keys: '?', run: () => emit('shortcuts') },
  { id: 'projects', name: 'All projects', run: () => void router.push('/') },
]);
const found = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean);
  return commands.value.filter((c) => words.every((w) => c.name.toLowerCase().includes(w))).slice(0, 12);
});
function run(c: Command | null): void {
  open.value = false;
  c?.run();
}
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="open = false">
    <div class="fixed inset-0 bg-ink/15" aria-hidden="true" />
    <div class="fixed inset-0 flex justify-center pt-24">
      <DialogPanel class="menu h-fit w-[34rem] p-0">
        <DialogTitle class="sr-only">Find a command</DialogTitle>
        <Combobox :model-value="null" @update:model-value="run">
          <ComboboxInput
            class="w-full rounded-t-md border-b border-rule bg-field px-4 py-2.5 text-[15px] outline-none"
            placeholder="Find a command, an area, a section…"
            aria-label="Find a command"
            data-test="palette-input"
            @change="query = $event.target.value"
          />
          <ComboboxOptions static class="max-h-80 overflow-y-auto p-1.5">
            <ComboboxOption v-for="c in found" :key="c.id" v-slot="{ active }" :value="c">
              <div class="menu-item justify-between" :data-on="active">
                <span>{{ c.name }}</span><span class="text-[12px] text-soft">{{ c.keys }}</span>
              </div>
            </ComboboxOption>
            <p v-if="found.length === 0" class="px-3 py-2 text-soft">No command has these words.</p>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
