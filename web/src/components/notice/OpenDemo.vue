<script setup lang="ts">
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { call } from '@/api/client';

/** Opens a fresh copy of the demo in the area that is on the screen. */
const route = useRoute();
const router = useRouter();
async function open(): Promise<void> {
  try {
    const made = await call('createProject', { body: { name: 'Seedsnipe', from: 'demo' } });
    await router.push({ name: route.name ?? 'brief', params: { project: made.id } });
  } catch (error) {
    toast.error((error as Error).message);
  }
}
</script>

<template>
  <button class="btn" data-test="open-demo" @click="open">Open the demo</button>
</template>
