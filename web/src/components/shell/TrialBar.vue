<script setup lang="ts">
import { useTrial } from '@/store/trial';
import { useProject } from '@/store/project';

/** A try that stands in every figure: it is applied, made a candidate, or dropped. */
const trial = useTrial();
const project = useProject();
const letter = (id: string) => project.document.candidates[id]?.letter ?? '';
</script>

<template>
  <div
    v-if="trial.current"
    class="flex items-center gap-3 border-b border-rule bg-select px-5 py-1.5 text-[13px]"
    role="status"
    aria-label="Trial"
    data-test="trial"
  >
    <b class="whitespace-nowrap font-semibold">Trial of {{ letter(trial.current.candidate) }}</b>
    <span class="min-w-0 flex-1 truncate" :title="trial.current.says">{{ trial.current.says }}</span>
    <button class="btn btn-main" data-test="trial-apply" @click="trial.apply()">Apply</button>
    <button class="btn" data-test="trial-adopt" @click="trial.adopt()">Create candidate</button>
    <button class="btn" data-test="trial-drop" @click="trial.drop()">Discard</button>
  </div>
</template>
