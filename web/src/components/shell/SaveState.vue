<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { computed } from 'vue';
import { copyable } from '@/store/copies';
import { useProject } from '@/store/project';
import type { WaitingEdit } from '@/store/waiting-edits';

/** Whether everything is saved; what is not, why, and what can be done about it. */
const project = useProject();
const count = computed(() => project.waiting.length);
const words = computed(() => {
  if (project.refused.length > 0) return `${project.refused.length} not taken`;
  if (project.connection === 'away')
    return count.value > 0
      ? `Server away: not saved yet (${count.value}), ${project.atRisk ? 'NOT kept here' : 'kept here'}`
      : 'Server away';
  if (!project.looked) return 'Opening…';
  if (project.atRisk) return 'Saving… (not kept in this browser)';
  return count.value > 0 || project.goingBack ? 'Saving…' : 'Saved';
});
const alarming = computed(
  () => project.refused.length > 0 || project.connection === 'away' || project.unread.length > 0 || project.atRisk,
);
const canCopy = (e: WaitingEdit) => {
  const { sections, candidates } = copyable(e);
  return sections.length + candidates.length > 0;
};
</script>

<template>
  <Popover class="relative">
    <PopoverButton
      class="rounded px-1 text-[12px] hover:bg-select"
      :class="alarming ? 'font-semibold text-clay' : 'text-soft'"
      data-test="saving"
      >{{ words }}{{ project.unread.length ? ` · ${project.unread.length} unread` : '' }}</PopoverButton
    >
    <span class="sr-only" role="status">{{ words }}</span>
    <PopoverPanel class="menu absolute right-0 mt-2 w-96 p-3 text-[13px] whitespace-normal">
      <h2 class="text-[15px] font-semibold">
        {{ count === 0 ? 'Every edit is saved' : `${count} ${count === 1 ? 'edit is' : 'edits are'} not saved yet` }}
      </h2>
      <p v-if="project.trouble" class="mt-1 text-clay" role="alert">{{ project.trouble }}</p>
      <p v-if="project.atRisk" class="mt-0.5 text-clay" role="alert" data-test="not-kept">
        This browser cannot keep them: its storage for this site is full or blocked. They are sent as soon as the server
        takes them; do not close this page before. Allow site data, or make room, and they are kept as well.
      </p>
      <p v-else-if="count > 0" class="mt-0.5 text-soft">
        They are kept in this browser, and sent as soon as the server takes them.
      </p>
      <ul class="mt-1 max-h-80 overflow-y-auto">
        <li
          v-for="e in project.waiting"
          :key="e.editId"
          class="border-t border-rule-light py-1.5 first:border-t-0"
          data-test="waiting-edit"
        >
          <p class="font-medium">{{ e.label }}</p>
          <template v-if="e.refused">
            <p class="text-clay" role="alert">{{ e.refused.message }}</p>
            <p v-if="e.refused.hint" class="text-soft">{{ e.refused.hint }}</p>
            <p class="text-[12px] text-soft">
              It would change
              {{
                e.changes
                  .map((c) => c.part)
                  .slice(0, 4)
                  .join(', ')
              }}.
            </p>
            <span class="flex gap-2 pt-1">
              <button class="btn" data-test="try-again" @click="project.tryAgain(e.editId)">Try again</button>
              <button v-if="canCopy(e)" class="btn" data-test="keep-copy" @click="project.keepAsCopy(e.editId)">
                Keep as a copy
              </button>
              <button class="btn" data-test="discard" @click="project.discard(e.editId)">Discard</button>
            </span>
          </template>
        </li>
      </ul>
      <template v-if="project.unread.length">
        <h3 class="mt-2 font-semibold">Kept, but not shown</h3>
        <p v-for="u in project.unread" :key="u.key" class="text-soft">{{ u.message }}</p>
      </template>
    </PopoverPanel>
  </Popover>
</template>
