<script setup lang="ts">
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import { usePeople } from '@/store/people';
import { usePreferences } from '@/store/preferences';

/** A page before the application: one form that lets somebody in, and why it did not. */
const props = defineProps<{
  /** What the form asks for. @returns the address to go on to. @throws ApiError, Unreachable. */ enter: () => Promise<string>;
}>();
const router = useRouter();
const people = usePeople();
const preferences = usePreferences();
const failure = ref<{ message: string; hint?: string } | null>(null);
const busy = ref(false);

async function submit(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    const to = await props.enter();
    await people.load();
    void preferences.load();
    await router.replace(to);
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
    <slot name="words" />
    <form class="mt-6 flex gap-2" @submit.prevent="submit"><slot :busy="busy" /></form>
    <slot name="after" />
    <ErrorNotice v-if="failure" class="mt-4" :message="failure.message" :hint="failure.hint" />
  </main>
</template>
