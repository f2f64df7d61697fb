<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '@/api/client';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import { usePeople } from '@/store/people';
import { usePreferences } from '@/store/preferences';

/** Takes up an invitation. Its code stands behind the # of the address, which no server's log sees. */
const route = useRoute();
const router = useRouter();
const people = usePeople();
const preferences = usePreferences();
const name = ref('');
const failure = ref<{ message: string; hint?: string } | null>(null);
const busy = ref(false);
const code = computed(() => decodeURIComponent(route.hash.replace(/^#/, '')));
onMounted(() => people.load());

async function join(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    const signedIn = people.person !== null;
    const { project } = await call('join', {
      body: { code: code.value, ...(signedIn ? {} : { name: name.value.trim() }) },
    });
    await people.load();
    void preferences.load();
    await router.replace(project ? `/p/${project}/brief` : '/');
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
    <template v-if="code">
      <p class="mt-1 text-soft">You are invited to work here. The invitation works once.</p>
      <form class="mt-6 flex gap-2" @submit.prevent="join">
        <input
          v-if="!people.person"
          v-model="name"
          class="min-w-0 flex-1 rounded border border-rule bg-field px-3 py-1"
          maxlength="60"
          autocomplete="name"
          placeholder="Your name, as others will see it"
          aria-label="Your name"
          data-test="join-name"
          autofocus
        />
        <p v-else class="flex-1 self-center">as {{ people.person.name }}</p>
        <button class="btn btn-main" :disabled="busy || (!people.person && !name.trim())" data-test="join">Join</button>
      </form>
    </template>
    <p v-else class="mt-4 text-soft">
      This address holds no invitation. Open the link as it was sent to you, with all that stands behind the #.
    </p>
    <ErrorNotice v-if="failure" class="mt-4" :message="failure.message" :hint="failure.hint" />
  </main>
</template>
