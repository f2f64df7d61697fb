<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { ChevronDown, Pause, Play } from 'lucide-vue-next';
import { computed } from 'vue';
import { methodMeant } from '@veldtwind/core/project';
import { METHOD_CHOICES, METHOD_NAMES, useAssumptions } from '@/store/assumptions';
import { useAutomaticPolars } from '@/store/automatic-polars';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import SwitchRow from '@/components/field/SwitchRow.vue';

/** The method that the project means, what the numbers stand on now, and how far its polars have come. */
const project = useProject();
const workbench = useWorkbench();
const polars = useAutomaticPolars();
const { assumed, assume } = useAssumptions();
const SHORT = { lattice: 'Lattice', polars: 'Polars', panels: 'Panels' } as const;
const now = computed(() => (workbench.current?.balance ? workbench.current.method : null));
const provisional = computed(() => workbench.provisional(workbench.active?.id ?? ''));
const meant = computed(() => methodMeant(assumed.value.method));
const share = computed(() => (polars.progress ? Math.floor((100 * polars.progress.done) / polars.progress.of) : 0));
const missing = computed(() => polars.missing.reduce((n, m) => n + m.list.length, 0));
const says = computed(() => {
  if (now.value === null) return 'Nothing is computed yet.';
  const made = `The numbers of ${workbench.active?.letter ?? ''} are made by the ${METHOD_NAMES[now.value]}.`;
  return provisional.value
    ? `${made} They are provisional until ${meant.value === 'panels' ? 'the surface panels are computed' : 'the section polars are there'}.`
    : made;
});
</script>

<template>
  <Popover v-if="project.id" class="relative">
    <PopoverButton
      class="flex items-center gap-1 rounded px-1.5 py-0.5 text-[12.5px] hover:bg-select"
      :class="provisional ? 'text-soft italic' : ''"
      :title="says"
      data-test="method"
      :data-method="now ?? ''"
      :data-provisional="provisional"
    >
      {{ SHORT[now ?? meant] }}
      <span v-if="polars.progress" class="text-ochre-text not-italic" data-test="polar-progress">{{ share }} %</span>
      <span v-else-if="polars.paused.length" class="text-soft">paused</span>
      <ChevronDown :size="12" />
    </PopoverButton>
    <PopoverPanel class="menu absolute right-0 mt-2 w-80 p-3 text-[13px] whitespace-normal">
      <h2 class="text-[15px] font-semibold">Method</h2>
      <p class="mt-0.5 mb-2 text-[12.5px] text-soft" role="status">{{ says }}</p>
      <div role="radiogroup" aria-label="Method">
        <label
          v-for="m in METHOD_CHOICES"
          :key="m.id"
          class="flex cursor-pointer items-baseline gap-2 rounded px-1.5 py-1 hover:bg-select"
        >
          <input
            type="radio"
            name="method"
            class="accent-ochre"
            :checked="assumed.method === m.id"
            :data-test="`method-${m.id}`"
            @change="assume('Method', { method: m.id })"
          />
          <span
            ><b class="font-semibold">{{ m.name }}</b
            ><span class="block text-[12px] text-soft">{{ m.says }}</span></span
          >
        </label>
      </div>
      <div class="mt-2 border-t border-rule-light pt-2">
        <SwitchRow
          label="Compute polars automatically"
          :model-value="assumed.computePolars"
          test="strip-compute-automatically"
          @update:model-value="(v) => assume('Automatic polars', { computePolars: v })"
        />
        <div v-if="polars.progress" class="mt-1 flex items-center gap-2 text-[12.5px] text-soft">
          <span class="flex-1">{{ polars.progress.done }} of {{ polars.progress.of }} points</span>
          <button class="icon-btn" aria-label="Pause polars" title="Pause" @click="polars.pause">
            <Pause :size="14" />
          </button>
        </div>
        <div v-else-if="polars.paused.length" class="mt-1 flex items-center gap-2 text-[12.5px] text-soft">
          <span class="flex-1">Paused</span>
          <button class="icon-btn" aria-label="Resume polars" title="Resume" @click="polars.resume">
            <Play :size="14" />
          </button>
        </div>
        <p v-else-if="missing" class="mt-1 text-[12.5px] text-soft">
          {{ missing }} {{ missing === 1 ? 'polar is' : 'polars are' }} missing.
        </p>
      </div>
    </PopoverPanel>
  </Popover>
</template>
