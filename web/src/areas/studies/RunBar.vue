<script setup lang="ts">
import { Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { METHOD_NAMES } from '@/store/assumptions';
import type { StudyRuns } from './use-runs';

/** Which study is looked at, how far it is, and what can be done with it. */
const props = defineProps<{ runs: StudyRuns }>();
const row = computed(() => props.runs.shown.value?.study ?? null);
const tried = computed(() => props.runs.shown.value?.tries.length ?? 0);
const clock = (at: string) => new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
</script>

<template>
  <div v-if="runs.list.value.length" class="flex flex-wrap items-center gap-3 text-[12.5px]" data-test="study-run">
    <select
      class="max-w-64 rounded border border-rule bg-field px-1.5 py-[3px]"
      aria-label="Study"
      :value="row?.id ?? ''"
      @change="(e) => runs.studies.look((e.target as HTMLSelectElement).value)"
    >
      <option v-if="!row" value="">Choose a study</option>
      <option v-for="s in runs.list.value" :key="s.id" :value="s.id">{{ s.name }}, {{ clock(s.createdAt) }}</option>
    </select>
    <template v-if="row">
      <progress
        v-if="row.state === 'running'"
        class="w-32"
        :value="row.planned ? row.done : undefined"
        :max="row.planned || 1"
        aria-label="Progress of the study"
      />
      <span role="status" data-test="study-state" :data-state="row.state"
        >{{ row.state === 'running' && tried === 0 ? 'waiting' : row.state }}, {{ tried }}
        {{ tried === 1 ? 'trial' : 'trials' }}; {{ METHOD_NAMES[runs.shown.value!.method] }}</span
      >
      <span v-if="row.why" class="text-clay" role="alert">{{ row.why }}</span>
      <button
        v-if="row.state === 'running'"
        class="link"
        data-test="study-pause"
        @click="runs.studies.change(row.id, 'paused')"
      >
        Pause
      </button>
      <button
        v-else-if="row.state !== 'finished'"
        class="link"
        data-test="study-resume"
        @click="runs.studies.change(row.id, 'running')"
      >
        Resume
      </button>
      <button class="icon-btn" :aria-label="`Remove ${row.name}`" @click="runs.studies.remove(row.id)">
        <Trash2 :size="13" />
      </button>
    </template>
  </div>
  <p v-if="runs.studies.failure" class="text-[12.5px] text-clay" role="alert">{{ runs.studies.failure }}</p>
</template>
