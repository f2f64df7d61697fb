<script setup lang="ts">
import { ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '@/api/client';
import EntryPage from './EntryPage.vue';

/** Begins a session with a token: the server's, or one's own. */
const route = useRoute();
const token = ref('');

async function signIn(): Promise<string> {
  await call('signIn', { body: { token: token.value.trim() } });
  const to = typeof route.query.to === 'string' ? route.query.to : '/';
  // Only an address on this server.
  return /^\/(?![/\\])/.test(to) ? to : '/';
}
</script>

<template>
  <EntryPage :enter="signIn">
    <template #words>
      <p class="mt-1 text-soft">This server asks who you are: sign in with an access token.</p>
    </template>
    <template #default="{ busy }">
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
    </template>
    <template #after>
      <p class="mt-3 text-[13px] text-soft">
        No token yet? Ask the owner of a project for an invitation: a link that works once.
      </p>
    </template>
  </EntryPage>
</template>
