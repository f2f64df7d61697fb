<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue';
import { computed } from 'vue';
import { useProject } from '@/store/project';

const project = useProject();
/** A part in words. */
function nameOf(key: string): string {
  const [kind, rest = ''] = key.split(':');
  const { document } = project;
  if (kind === 'brief') return 'the brief';
  if (kind === 'section') return `the section ${document.sections[rest]?.name ?? rest}`;
  if (kind === 'note') return 'a note';
  const [owner, id] = rest.split('.');
  const c = document.candidates[owner];
  const candidate = c ? `candidate ${c.letter} ${c.name}` : `candidate ${owner}`;
  if (kind === 'surface') return `${c?.surfaces.find((s) => s.id === id)?.name ?? id} of ${candidate}`;
  if (kind === 'mass-item') return `${c?.massItems.find((m) => m.id === id)?.name ?? id} of ${candidate}`;
  return candidate;
}
const what = computed(() => (project.conflict?.parts ?? []).map((p) => nameOf(p.part)));
</script>

<template>
  <Dialog :open="project.conflict !== null" class="relative z-50" @close="() => undefined">
    <div class="fixed inset-0 bg-ink/15" aria-hidden="true" />
    <div class="fixed inset-0 flex justify-center pt-28">
      <DialogPanel class="menu h-fit w-[30rem] px-6 py-5" data-test="conflict">
        <DialogTitle class="serif text-lg font-semibold">Changed in another tab as well</DialogTitle>
        <p class="mt-2 text-soft">
          Your edit “{{ project.conflict?.edit.label }}” and an edit made elsewhere both changed
          {{ what.join(' and ') }}. Whichever you keep, the other can be had back with undo.
        </p>
        <div class="mt-4 flex gap-2">
          <button class="btn btn-main" data-test="keep-mine" @click="project.resolveConflict('mine')">Keep mine</button>
          <button class="btn" data-test="keep-theirs" @click="project.resolveConflict('theirs')">Keep the other</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
