<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core';
import { ref } from 'vue';
import type { PictureLine } from '@veldtwind/core/layouts';
import { call } from '@/api/client';
import AircraftPicture from './AircraftPicture.vue';

/** The aircraft of a project, asked for when its row is seen. */
const props = defineProps<{ project: string }>();
const box = ref<HTMLElement | null>(null);
const lines = ref<readonly PictureLine[]>([]);
const { stop } = useIntersectionObserver(box, ([entry]) => {
  if (!entry?.isIntersecting) return;
  stop();
  // A list without a picture is a list all the same.
  void call('projectPicture', { params: { id: props.project } }).then(
    (reply) => (lines.value = reply.lines),
    () => undefined,
  );
});
</script>

<template>
  <span ref="box" class="block h-10 w-20 shrink-0" :data-test="lines.length ? 'project-picture' : undefined"
    ><AircraftPicture class="h-10 w-20" :lines="lines"
  /></span>
</template>
