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
import { useHelp } from '@/store/help';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { useFinds } from './use-finds';

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ shortcuts: [] }>();
const router = useRouter();
const route = useRoute();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const help = useHelp();
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
          name: `Redo: ${project.redoLabel}`,
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
  { id: 'help', name: 'Help', keys: 'F1', run: () => help.about(String(route.name ?? ''), '') },
  { id: 'shortcuts', name: 'Shortcuts', keys: '?', run: () => emit('shortcuts') },
  { id: 'projects', name: 'All projects', run: () => void router.push('/') },
]);
const MOST_COMMANDS = 12;
const MOST = 40;
const finds = useFinds(query, open);
const found = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean);
  const own = commands.value.filter((c) => words.every((w) => c.name.toLowerCase().includes(w)));
  return [...own.slice(0, MOST_COMMANDS), ...finds.value].slice(0, MOST);
});
function run(c: Command | null): void {
  // Nothing is chosen when the words are taken back, or the focus leaves.
  if (!c) return;
  open.value = false;
  c.run();
}
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="open = false">
    <div class="fixed inset-0 bg-ink/15" aria-hidden="true" />
    <div class="fixed inset-0 flex justify-center pt-24">
      <!-- One press closes it, whether the list is open or not. -->
      <DialogPanel class="menu h-fit w-[34rem] p-0" @keydown.esc.capture="open = false">
        <DialogTitle class="sr-only">Search everything</DialogTitle>
        <!-- Nullable: otherwise the list runs its first line when the focus leaves it, as on Escape or a click beside it. -->
        <Combobox nullable :model-value="null" @update:model-value="run">
          <ComboboxInput
            class="w-full rounded-t-md border-b border-rule bg-field px-4 py-2.5 text-[15px] outline-none"
            placeholder="Search: a command, a part, a number, a section, a setting, the help…"
            aria-label="Search everything"
            data-test="palette-input"
            @change="query = $event.target.value"
          />
          <ComboboxOptions static class="max-h-80 overflow-y-auto p-1.5">
            <ComboboxOption v-for="c in found" :key="c.id" v-slot="{ active }" :value="c">
              <div class="menu-item justify-between" :data-on="active">
                <span>{{ c.name }}</span><span class="text-[12px] text-soft">{{ c.keys }}</span>
              </div>
            </ComboboxOption>
            <p v-if="found.length === 0" class="px-3 py-2 text-soft">
              Nothing has all of these words. Try fewer of them.
            </p>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
