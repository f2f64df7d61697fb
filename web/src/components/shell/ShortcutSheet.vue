<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue';

import { AREAS } from '@/areas';
import { keyOfPlace } from '@/lib/area';

const open = defineModel<boolean>({ required: true });
const rows: [string, string][] = [
  ['Ctrl K', 'search: commands, parts, numbers, sections, help, projects'],
  [`${keyOfPlace(0)} … ${keyOfPlace(AREAS.length - 1)}`, 'go to an area'],
  ['[  ]', 'work on the previous or next candidate'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo: also what was done in earlier sessions'],
  ['↑ ↓ in a number', 'nudge; with Shift ten steps, with Alt a tenth'],
  ['drag a number’s name', 'change it while the figure follows'],
  ['← → on a figure', 'move the cursor along the curve'],
  ['↑ ↓ on a figure', 'go to the next or previous curve'],
  ['drag on a figure', 'zoom; double-click to fit'],
  ['n on a figure', 'place a note at the cursor'],
  ['F1', 'help on the area, or on the group that has the focus'],
  ['?', 'this sheet'],
];
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="open = false">
    <div class="fixed inset-0 bg-ink/15" aria-hidden="true" />
    <div class="fixed inset-0 flex justify-center pt-24">
      <DialogPanel class="menu h-fit w-[30rem] px-6 py-5">
        <DialogTitle class="serif mb-3 text-lg font-semibold">Shortcuts</DialogTitle>
        <dl class="grid grid-cols-[11rem_1fr] gap-y-1.5">
          <template v-for="[keys, what] in rows" :key="keys"
            ><dt class="font-semibold">{{ keys }}</dt>
            <dd class="text-soft">{{ what }}</dd></template
          >
        </dl>
        <button class="btn mt-4" @click="open = false">Close</button>
      </DialogPanel>
    </div>
  </Dialog>
</template>
