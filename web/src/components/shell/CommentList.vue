<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { MessageSquare, Trash2 } from 'lucide-vue-next';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { toast } from 'vue-sonner';
import { AREAS } from '@/areas';
import { call } from '@/api/client';
import { when } from '@/lib/when';
import { usePeople } from '@/store/people';
import { useProject } from '@/store/project';

/** What was said of the project: each comment leads to the view that it is about. */
const project = useProject();
const people = usePeople();
const route = useRoute();
const text = ref('');
const withDone = ref(false);
const all = computed(() => project.comments ?? []);
const open = computed(() => all.value.filter((c) => !c.doneAt));
const shown = computed(() => (withDone.value ? all.value : open.value));
const here = computed(() => route.fullPath.replace(/^\/p\/[^/]+\//, '').replace(/#.*$/, ''));
const areaOf = (place: string) => AREAS.find((a) => a.id === /^[a-z-]+/.exec(place)?.[0])?.name ?? place;

async function act(job: () => Promise<unknown>): Promise<boolean> {
  try {
    await job();
    return true;
  } catch (error) {
    const { message, hint } = error as Error & { hint?: string };
    toast.error(message, { description: hint });
    return false;
  }
}
const load = async () => {
  const id = project.id;
  if (!id) return;
  const { comments } = await call('comments', { params: { id } });
  if (project.id === id) project.comments = comments;
};
/** Read when the stream of events is open, at first and again. */
watch(
  () => [project.id, project.opened],
  () => void load().catch(() => undefined),
  { immediate: true },
);
const say = async () => {
  const said = text.value.trim();
  if (!said) return;
  const taken = await act(() =>
    call('addComment', { params: { id: project.id! }, body: { text: said, place: here.value } }).then(load),
  );
  if (taken) text.value = '';
};
const settle = (id: string, done: boolean) =>
  act(() => call('settleComment', { params: { id: project.id!, comment: id }, body: { done } }).then(load));
const remove = (id: string) =>
  act(() => call('removeComment', { params: { id: project.id!, comment: id } }).then(load));
onBeforeUnmount(() => (project.comments = null));
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="icon-btn" aria-label="Comments" title="Comments" data-test="comments">
      <MessageSquare :size="15" /><span v-if="open.length" class="ml-0.5 text-[11px] font-semibold">{{
        open.length
      }}</span>
    </PopoverButton>
    <PopoverPanel class="menu absolute right-0 mt-2 w-96 text-[13px] whitespace-normal">
      <div class="p-2">
        <h2 class="flex items-baseline text-[15px] font-semibold">
          Comments<span class="flex-1" />
          <label v-if="all.length > open.length" class="text-[12px] font-normal text-soft"
            ><input v-model="withDone" type="checkbox" class="mr-1 align-middle" />{{
              all.length - open.length
            }}
            done</label
          >
        </h2>
        <p v-if="all.length === 0" class="text-soft">None yet. A comment leads back to the view that it was made in.</p>
        <ul class="mt-1 max-h-80 overflow-y-auto">
          <li
            v-for="c in shown"
            :key="c.id"
            class="border-t border-rule-light py-1.5 first:border-t-0"
            :class="{ 'text-soft': c.doneAt }"
            data-test="comment"
          >
            <p class="whitespace-pre-line">{{ c.text }}</p>
            <p class="flex items-center gap-2 text-[12px] text-soft">
              <span class="min-w-0 flex-1 truncate"
                >{{ c.name && `${c.name}, ` }}{{ when(c.createdAt) }} ·
                <RouterLink class="link" :to="`/p/${project.id}/${c.place}`">{{ areaOf(c.place) }}</RouterLink></span
              >
              <template v-if="people.may('comment')">
                <button class="link" @click="settle(c.id, !c.doneAt)">{{ c.doneAt ? 'Open again' : 'Done' }}</button>
                <button
                  v-if="people.may('own') || c.person === people.person?.id"
                  class="icon-btn"
                  aria-label="Remove the comment"
                  title="Remove"
                  @click="remove(c.id)"
                >
                  <Trash2 :size="12" />
                </button>
              </template>
            </p>
          </li>
        </ul>
        <form v-if="people.may('comment')" class="mt-1 flex gap-2" @submit.prevent="say">
          <textarea
            v-model="text"
            rows="2"
            class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-0.5"
            maxlength="2000"
            :placeholder="`Comment on ${areaOf(here)}`"
            aria-label="Comment"
            data-test="comment-text"
            @keydown.ctrl.enter.prevent="say"
          />
          <button class="btn self-end" :disabled="!text.trim()" data-test="say">Comment</button>
        </form>
      </div></PopoverPanel
    >
  </Popover>
</template>
