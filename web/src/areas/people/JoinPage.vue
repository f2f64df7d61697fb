<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '@/api/client';
import { usePeople } from '@/store/people';
import EntryPage from './EntryPage.vue';

/** Takes up an invitation. Its code stands behind the # of the address, which no server's log sees. */
const route = useRoute();
const people = usePeople();
const name = ref('');
const code = computed(() => {
  const text = route.hash.replace(/^#/, '');
  try {
    return decodeURIComponent(text);
  } catch {
    // A damaged link: the server says that it knows no such code.
    return text;
  }
});
onMounted(() => people.load());

async function join(): Promise<string> {
  const own = people.person ? {} : { name: name.value.trim() };
  const { project } = await call('join', { body: { code: code.value, ...own } });
  return project ? `/p/${project}/brief` : '/';
}
</script>

<template>
  <EntryPage :enter="join">
    <template #words>
      <p class="mt-1 text-soft">
        {{
          code
            ? 'You are invited to work here. The invitation works once.'
            : 'This address holds no invitation. Open the whole link, with everything after the #.'
        }}
      </p>
    </template>
    <template v-if="code" #default="{ busy }">
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
    </template>
  </EntryPage>
</template>
