<script setup lang="ts">
import type { SessionRow } from '@veldtwind/contract';
import { when } from '@/lib/when';

/** Sessions of a person, each of which can be ended. */
defineProps<{ sessions: readonly SessionRow[]; /** The session of this page. */ own: string | null }>();
defineEmits<{ end: [id: string] }>();
const shortAgent = (agent: string) =>
  /(Firefox|Edg|Chrome|Safari)\/[\d.]+/.exec(agent)?.[0].split('.')[0].replace('/', ' ') ??
  (agent.slice(0, 40) || 'a program');
</script>

<template>
  <ul class="mt-1">
    <li v-for="s in sessions" :key="s.id" class="flex items-center gap-3 py-0.5 text-[13px]" data-test="session">
      <span class="w-32">{{ shortAgent(s.agent) }}</span>
      <span class="w-36 text-soft">{{ s.address }}</span>
      <span class="flex-1 text-soft">last used {{ when(s.usedAt) }}</span>
      <span v-if="s.id === own" class="text-soft">this session</span>
      <button v-else class="link" @click="$emit('end', s.id)">End session</button>
    </li>
    <li v-if="sessions.length === 0" class="text-[13px] text-soft">None: a token or a proxy signs you in.</li>
  </ul>
</template>
