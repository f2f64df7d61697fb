<script setup lang="ts">
import { History, Trash2 } from 'lucide-vue-next';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { ref, shallowRef } from 'vue';
import { toast } from 'vue-sonner';
import type { KeptVersionReply, ReplyOf } from '@veldtwind/contract';
import { ApiError, call } from '@/api/client';
import { when } from '@/lib/when';
import { useProject } from '@/store/project';

/** States of the project that are kept by name: to keep one, go back to one, or forget it. Going back is an edit, and can be undone. */
const project = useProject();
const versions = ref<KeptVersionReply[]>([]);
const edits = shallowRef<ReplyOf<'history'>['edits']>([]);
const name = ref('');
const busy = ref(false);
/** One after the other: what is asked while the list is read is done after it, and not lost. */
let last = Promise.resolve();
const work = (what: string, job?: () => Promise<void>): Promise<void> => (last = last.then(() => now(what, job)));
async function now(what: string, job?: () => Promise<void>): Promise<void> {
  if (!project.id) return;
  // Reading the list takes no press away.
  busy.value = job !== undefined;
  try {
    await job?.();
    versions.value = (await call('listVersions', { params: { id: project.id } })).versions;
    edits.value = (await call('history', { params: { id: project.id }, query: { most: 100 } })).edits;
  } catch (error) {
    toast.error(what, { description: error instanceof ApiError ? error.message : 'The server does not answer.' });
  } finally {
    busy.value = false;
  }
}
const load = () => work('The versions cannot be read');
const keep = () =>
  work('This version was not kept', async () => {
    // What is on its way belongs to it.
    await project.flushed();
    const given = name.value.trim();
    if (given === '') return;
    await call('keepVersion', { params: { id: project.id! }, body: { name: given } });
    name.value = '';
  });
const back = (v: KeptVersionReply) => work(`Not back to “${v.name}”`, () => project.restore(v.id, v.name));
const forget = (v: KeptVersionReply) =>
  work(`“${v.name}” was not forgotten`, async () => {
    await call('forgetVersion', { params: { id: project.id!, kept: v.id } });
  });
const STATES = { done: '', undone: 'taken back', dropped: 'taken back' };
</script>

<template>
  <Popover class="relative">
    <PopoverButton
      class="icon-btn"
      aria-label="Kept versions and history"
      title="Kept versions and history"
      data-test="versions"
      @click="load"
    >
      <History :size="15" />
    </PopoverButton>
    <PopoverPanel class="menu absolute right-0 mt-2 w-80 text-[13px] whitespace-normal">
      <div class="p-2">
        <h2 class="text-[15px] font-semibold">Kept versions</h2>
        <form class="mt-1 flex gap-2" @submit.prevent="keep">
          <input
            v-model="name"
            class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-0.5"
            maxlength="100"
            placeholder="Keep it as it stands, as…"
            aria-label="Name of the version"
            data-test="version-name"
          />
          <button class="btn" :disabled="!name.trim()" data-test="keep-version">Keep</button>
        </form>
        <p v-if="versions.length === 0" class="pt-2 text-soft">
          None yet. A version is the whole project under a name; you can go back to it at any time.
        </p>
        <ul class="mt-1 max-h-56 overflow-y-auto">
          <li
            v-for="v in versions"
            :key="v.id"
            class="flex items-center gap-2 border-t border-rule-light py-1.5 first:border-t-0"
            data-test="version"
          >
            <span class="min-w-0 flex-1">
              <span class="block truncate font-medium">{{ v.name }}</span>
              <span class="text-[12px] text-soft">{{ v.by ? `${v.by}, ` : '' }}{{ when(v.createdAt) }}</span>
            </span>
            <button class="link" :disabled="busy" data-test="restore-version" @click="back(v)">Go back to it</button>
            <button
              class="icon-btn"
              :aria-label="`Forget ${v.name}`"
              title="Forget"
              :disabled="busy"
              @click="forget(v)"
            >
              <Trash2 :size="13" />
            </button>
          </li>
        </ul>
        <h2 class="mt-2 border-t border-rule pt-2 text-[15px] font-semibold">History</h2>
        <p v-if="edits.length === 0" class="text-soft">No edit yet.</p>
        <ol class="mt-1 max-h-56 overflow-y-auto" data-test="history">
          <li
            v-for="e in edits"
            :key="e.id"
            class="flex gap-2 border-t border-rule-light py-1 first:border-t-0"
            :class="{ 'text-soft line-through': e.state !== 'done' }"
            :title="STATES[e.state]"
          >
            <span class="min-w-0 flex-1 truncate">{{ e.label }}</span>
            <span class="text-[12px] whitespace-nowrap text-soft"
              >{{ e.by ? `${e.by}, ` : '' }}{{ when(e.createdAt) }}</span
            >
          </li>
        </ol>
      </div>
    </PopoverPanel>
  </Popover>
</template>
