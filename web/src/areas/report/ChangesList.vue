<script setup lang="ts">
import { computed } from 'vue';
import { reportChanges, type ComposedReport } from '@veldtwind/core/report';

/** What changed from one state of the report to another. */
const props = defineProps<{ before: ComposedReport; after: ComposedReport; from: string; to: string }>();
const emit = defineEmits<{ close: [] }>();
const changes = computed(() => reportChanges(props.before, props.after));
</script>

<template>
  <section
    class="mb-4 rounded border border-rule bg-leaf px-4 py-3"
    :aria-label="`Changes from ${from} to ${to}`"
    data-test="report-changes"
  >
    <div class="flex items-baseline justify-between">
      <h2 class="text-[16px] font-semibold">From {{ from }} to {{ to }}</h2>
      <button class="link text-[13px]" @click="emit('close')">Close</button>
    </div>
    <p v-if="!changes.length" class="text-[13px] text-soft">Nothing changed.</p>
    <div v-else class="max-h-72 overflow-auto">
      <table class="w-full text-[12.5px]">
        <thead class="text-left text-soft">
          <tr>
            <th class="pr-3 font-normal">Where</th>
            <th class="pr-3 font-normal">{{ from }}</th>
            <th class="font-normal">{{ to }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, i) in changes" :key="i" class="border-t border-rule-light align-top">
            <td class="py-[3px] pr-3">{{ c.title }}{{ c.where ? `: ${c.where}` : '' }}</td>
            <td class="py-[3px] pr-3 whitespace-pre-line text-soft">{{ c.before.slice(0, 300) }}</td>
            <td class="py-[3px] whitespace-pre-line">{{ c.after.slice(0, 300) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
