<script setup lang="ts">
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '@/api/client';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import { usePeople } from '@/store/people';
import { usePreferences } from '@/store/preferences';

/** Begins a session with a token: the server's, or one's own. */
const route = useRoute();
const router = useRouter();
const people = usePeople();
const preferences = usePreferences();
const token = ref('');
const failure = ref<{ message: string; hint?: string } | null>(null);
const busy = ref(false);

async function signIn(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await call('signIn', { body: { token: token.value.trim() } });
    await people.load();
    void preferences.load();
    const to = typeof route.query.to === 'string' ? route.query.to : '/';
    // Only an address on this server.
    await router.replace(/^\/(?![/\\])/.test(to) ? to : '/');
  } catch (error) {
    failure.value = error as Error & { hint?: string };
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main class="mx-auto flex h-full max-w-md flex-col px-6 pt-24">
    <h1 class="text-3xl font-semibold">Veldtwind</h1>
    <p class="mt-1 text-soft">This server asks who you are: sign in with an access token.</p>
    <form class="mt-6 flex gap-2" @submit.prevent="signIn">
      <input
        v-model="token"
        type="password"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-3 py-1"
        maxlength="200"
        autocomplete="current-password"
        placeholder="Access token"
        aria-label="Access token"
        data-test="token"
        autofocus
      />
      <button class="btn btn-main" :disabled="!token.trim() || busy" data-test="sign-in">Sign in</button>
    </form>
    <p class="mt-3 text-[13px] text-soft">
      No token yet? Ask the owner of a project for an invitation: a link that works once.
    </p>
    <ErrorNotice v-if="failure" class="mt-4" :message="failure.message" :hint="failure.hint" />
  </main>
</template>
