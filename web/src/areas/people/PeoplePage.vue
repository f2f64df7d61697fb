<script setup lang="ts">
import { Download, Trash2 } from 'lucide-vue-next';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import type { ReplyOf, SessionRow } from '@veldtwind/contract';
import { addressOf, call } from '@/api/client';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import OneTimeSecret from '@/components/notice/OneTimeSecret.vue';
import { when } from '@/lib/when';
import { usePeople } from '@/store/people';
import SessionList from './SessionList.vue';

/** Oneself: name, token, sessions. For the server's owner also everybody else, and what was done. */
const router = useRouter();
const people = usePeople();
const name = ref('');
const token = ref<string | null>(null);
const link = ref<string | null>(null);
const note = ref('');
const sessions = shallowRef<SessionRow[]>([]);
const all = shallowRef<ReplyOf<'listPeople'> | null>(null);
const audit = shallowRef<ReplyOf<'audit'>['entries']>([]);
const failure = ref('');
const keeper = computed(() => people.person?.keeper === true);
const current = computed(() => all.value?.people.filter((p) => !p.endedAt) ?? []);
const open = computed(
  () => all.value?.invitations.filter((i) => !i.usedAt && i.expiresAt > new Date().toISOString()) ?? [],
);
const doomed = ref<string | null>(null);

async function load(): Promise<void> {
  try {
    await people.load();
    if (!people.person) return void (await router.replace(people.me?.named ? '/sign-in' : '/'));
    name.value = people.person.name;
    sessions.value = (await call('sessions')).sessions;
    if (!keeper.value) return;
    all.value = await call('listPeople');
    audit.value = (await call('audit', { query: { most: 100 } })).entries;
  } catch (error) {
    failure.value = (error as Error).message;
  }
}
/** Does something, and shows what came of it. */
async function act(job: () => Promise<unknown>): Promise<void> {
  try {
    await job();
    await load();
  } catch (error) {
    const { message, hint } = error as Error & { hint?: string };
    toast.error(message, { description: hint });
  }
}
const makeToken = () => act(async () => (token.value = (await call('makeToken', { body: {} })).token));
const invite = () =>
  act(async () => {
    link.value = location.origin + (await call('inviteToServer', { body: { note: note.value.trim() } })).link;
    note.value = '';
  });
async function end(id: string): Promise<void> {
  if (doomed.value !== id) return void (doomed.value = id);
  doomed.value = null;
  await act(() => call('endPerson', { params: { person: id } }));
}
const signOut = async () => {
  await call('signOut', { body: {} });
  location.assign('/sign-in');
};
onMounted(load);
</script>

<template>
  <main class="mx-auto h-full max-w-3xl overflow-y-auto px-6 py-12">
    <RouterLink to="/" class="serif text-[15px] text-soft hover:text-ochre-text">Veldtwind: all projects</RouterLink>
    <h1 class="mt-1 text-2xl font-semibold">People</h1>
    <ErrorNotice v-if="failure" class="mt-4" :message="failure" />
    <section v-if="people.person" class="mt-6">
      <h2 class="text-[17px] font-semibold">You</h2>
      <form
        class="mt-2 flex items-center gap-2"
        @submit.prevent="act(() => call('renameMe', { body: { name: name.trim() } }))"
      >
        <input
          v-model="name"
          class="w-64 rounded border border-rule bg-field px-3 py-1"
          maxlength="60"
          aria-label="Your name"
          data-test="my-name"
        />
        <button class="btn" :disabled="!name.trim() || name.trim() === people.person.name" data-test="rename-me">
          Rename
        </button>
        <span class="flex-1" />
        <button class="btn" type="button" data-test="sign-out" @click="signOut">Sign out</button>
      </form>
      <p class="mt-3 flex items-center gap-2">
        <template v-if="keeper">You own this server: your token is the one that it was started with.</template>
        <template v-else>
          <span class="flex-1">{{
            people.person.tokenAt
              ? `Your token was created on ${when(people.person.tokenAt)}.`
              : 'A token of your own signs you in on other machines, and in scripts.'
          }}</span>
          <button class="btn" data-test="make-token" @click="makeToken">
            {{ people.person.tokenAt ? 'Replace' : 'Create a token' }}
          </button>
          <button v-if="people.person.tokenAt" class="btn" @click="act(() => call('withdrawToken'))">Withdraw</button>
        </template>
      </p>
      <OneTimeSecret v-if="token" class="mt-2" label="Your token" :value="token" />
      <h3 class="mt-4 font-semibold">Your sessions</h3>
      <SessionList
        :sessions="sessions"
        :own="people.me?.session ?? null"
        @end="(id) => act(() => call('endSession', { params: { session: id } }))"
      />
    </section>

    <template v-if="keeper && all">
      <section class="mt-8">
        <h2 class="text-[17px] font-semibold">On this server</h2>
        <ul class="mt-2 divide-y divide-rule border-t border-rule">
          <li v-for="p in current" :key="p.id" class="py-2" data-test="person">
            <div class="flex items-center gap-3">
              <span class="serif flex-1 text-[16px] font-semibold">{{ p.name }}</span>
              <span class="text-soft">{{
                p.keeper
                  ? 'owner of the server'
                  : `${Object.keys(p.roles).length} project${Object.keys(p.roles).length === 1 ? '' : 's'}`
              }}</span>
              <button
                v-if="p.tokenAt"
                class="link"
                @click="act(() => call('endTheirToken', { params: { person: p.id } }))"
              >
                Withdraw the token
              </button>
              <button
                v-if="!p.keeper"
                class="icon-btn"
                :class="doomed === p.id ? 'bg-select text-clay' : ''"
                :aria-label="`End the access of ${p.name}`"
                @click="end(p.id)"
              >
                <Trash2 :size="14" /><span v-if="doomed === p.id" class="ml-1 text-[12px]">end access?</span>
              </button>
            </div>
            <SessionList
              v-if="!p.keeper && p.sessions.length"
              :sessions="p.sessions"
              :own="null"
              @end="(id) => act(() => call('endTheirSession', { params: { person: p.id, session: id } }))"
            />
          </li>
        </ul>
        <form class="mt-3 flex gap-2" @submit.prevent="invite">
          <input
            v-model="note"
            class="w-64 rounded border border-rule bg-field px-3 py-1"
            maxlength="120"
            placeholder="Note, such as a name"
            aria-label="Note on the invitation"
            data-test="invite-note"
          />
          <button class="btn" data-test="invite-to-server">Invite to the server</button>
        </form>
        <OneTimeSecret v-if="link" class="mt-2" label="Link for one person, valid for 7 days" :value="link" />
        <ul class="mt-2">
          <li v-for="i in open" :key="i.id" class="flex items-center gap-3 py-0.5 text-[13px]">
            <span class="flex-1">Open invitation{{ i.note && ` (${i.note})` }}, until {{ when(i.expiresAt) }}</span>
            <button class="link" @click="act(() => call('withdrawServerInvitation', { params: { invitation: i.id } }))">
              Withdraw
            </button>
          </li>
        </ul>
      </section>
      <section class="mt-8">
        <h2 class="flex items-center gap-2 text-[17px] font-semibold">
          Audit log
          <a
            class="icon-btn"
            :href="addressOf('auditFile', {})"
            title="The whole log as CSV"
            aria-label="The whole log as CSV"
            download
            ><Download :size="14"
          /></a>
        </h2>
        <table class="mt-1 w-full text-[13px]" data-test="audit">
          <tbody>
            <tr v-for="e in audit" :key="e.id" class="border-t border-rule-light">
              <td class="py-1 pr-6 whitespace-nowrap text-soft">{{ when(e.at) }}</td>
              <td class="pr-6 whitespace-nowrap">{{ e.name }}</td>
              <td class="pr-6 whitespace-nowrap">{{ e.action }}</td>
              <td class="w-full text-soft">{{ e.detail }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
  </main>
</template>
