<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import type { SampleRow } from '@veldtwind/contract';
import { call } from '@/api/client';
import { useHelp } from '@/store/help';
import AircraftPicture from './AircraftPicture.vue';

/** Sample aircraft: each opens as a project of one's own, with the page that walks through it. */
const router = useRouter();
const help = useHelp();
const samples = ref<SampleRow[]>([]);
onMounted(() =>
  call('listSamples').then(
    (reply) => (samples.value = reply.samples),
    // The list of projects says what is wrong with the server.
    () => undefined,
  ),
);
async function open(sample: SampleRow): Promise<void> {
  try {
    const made = await call('createProject', { body: { name: sample.name, from: 'sample', sample: sample.id } });
    await router.push(`/p/${made.id}/brief`);
    help.show({ page: `samples/${sample.id}` });
  } catch (error) {
    toast.error((error as Error).message);
  }
}
</script>

<template>
  <section v-if="samples.length" class="mt-8" aria-label="Sample aircraft">
    <h2 class="mb-2 text-[15.5px] font-semibold">Sample aircraft</h2>
    <div class="grid grid-cols-3 gap-3">
      <button
        v-for="s in samples"
        :key="s.id"
        class="rounded-md border border-rule bg-leaf px-3.5 py-3 text-left hover:border-ochre"
        :data-test="`sample-${s.id}`"
        @click="open(s)"
      >
        <AircraftPicture class="mb-1.5 h-16 w-full" :lines="s.picture" />
        <span class="serif text-[15.5px] font-semibold">{{ s.name }}</span>
        <span class="block text-[12.5px] text-soft">{{ s.says }}</span>
      </button>
    </div>
  </section>
</template>
