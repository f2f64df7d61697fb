<script setup lang="ts">
import { RadioGroup, RadioGroupLabel, RadioGroupOption } from '@headlessui/vue';
import { CircleHelp } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import {
  addLayoutCandidate,
  LAYOUTS,
  layoutDocument,
  layoutOf,
  layoutPicture,
  MOST_PUSH,
  type LayoutNumbers,
} from '@veldtwind/core/layouts';
import type { FieldLimit } from '@veldtwind/core/limits';
import { BRIEF_LIMITS } from '@veldtwind/core/project';
import { call } from '@/api/client';
import LimitField from '@/components/field/LimitField.vue';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import HelpBeside from '@/components/shell/HelpBeside.vue';
import { useHelp } from '@/store/help';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import AircraftPicture from './AircraftPicture.vue';

/** A starting layout and the few numbers that it is sized by: as a new project, or as one more candidate of the project that is open. */
const router = useRouter();
const project = useProject();
/** Whether it becomes a candidate of the project that is open. */
const inside = useRoute().name === 'layout-candidate';
const help = useHelp();
const pictures = Object.fromEntries(LAYOUTS.map((l) => [l.id, layoutPicture(l)]));
const chosen = ref(LAYOUTS[0].id);
const plan = computed(() => layoutOf(chosen.value));
const name = ref('');
const usual = (): LayoutNumbers => {
  const { mass, speed, span, push } = plan.value.usual;
  if (!inside || !project.id) return { mass, speed, altitude: 300, spanLimit: span, push };
  // What the brief asks for, with the power or thrust that this layout has per mass.
  const { brief } = project;
  return {
    mass: brief.mass,
    speed: brief.speed,
    altitude: brief.altitude,
    spanLimit: brief.spanLimit,
    push: Number(((push * brief.mass) / mass).toPrecision(2)),
  };
};
const numbers = ref(usual());
const failure = ref<{ message: string; hint?: string } | null>(null);
watch([chosen, () => inside && project.id], () => {
  numbers.value = usual();
  failure.value = null;
});
const push = computed<FieldLimit | null>(() => {
  const { pushedBy } = plan.value;
  if (pushedBy === 'none') return null;
  const label = pushedBy === 'thrust' ? 'Static thrust, N' : 'Shaft power, W';
  return { label, dimension: 'plain', min: 0, max: MOST_PUSH, above: { nearest: 1 }, step: 10 };
});
const FIELDS = ['mass', 'speed', 'altitude', 'spanLimit'] as const;
const set = (more: Partial<LayoutNumbers>) => {
  numbers.value = { ...numbers.value, ...more };
  failure.value = null;
};
const busy = ref(false);
async function make(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    const made = await lanes.candidate.run('starting-layout', { layout: plan.value.id, numbers: numbers.value });
    if (inside) {
      let added = '';
      project.edit(`Candidate: ${plan.value.name.toLowerCase()}`, (draft) => {
        added = addLayoutCandidate(draft, plan.value, made);
      });
      // The address says which candidate is worked on.
      await router.push({ name: 'airframe', params: { project: project.id! }, query: { c: added } });
      return;
    }
    const { id } = await call('createProject', {
      body: {
        name: name.value.trim() || plan.value.name,
        document: { ...layoutDocument(plan.value, numbers.value, made) },
      },
    });
    await router.push(`/p/${id}/airframe`);
  } catch (error) {
    const { message, hint } = error as Error & { hint?: string };
    failure.value = { message, ...(hint && { hint }) };
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <component
    :is="inside ? 'div' : HelpBeside"
    v-bind="inside ? { class: 'h-full min-h-0' } : { page: 'help/projects', section: 'layouts' }"
  >
    <main class="mx-auto h-full max-w-6xl overflow-y-auto px-6 pt-8 pb-6">
      <h1 class="flex items-baseline text-2xl font-semibold">
        Starting layouts<span class="flex-1" />
        <button
          class="icon-btn mr-2 self-center"
          aria-label="Help"
          title="Help (F1)"
          data-test="help-open"
          @click="help.show({ page: 'help/projects', section: 'layouts' })"
        >
          <CircleHelp :size="16" />
        </button>
        <RouterLink
          v-if="inside"
          :to="{ name: 'airframe', params: { project: project.id! } }"
          class="text-[13px] font-normal text-soft hover:text-ochre-text"
          >Back to Airframe</RouterLink
        >
        <RouterLink v-else to="/" class="text-[13px] font-normal text-soft hover:text-ochre-text"
          >All projects</RouterLink
        >
      </h1>
      <p class="serif mt-1 text-[15px] text-soft italic">
        {{
          inside
            ? 'A layout becomes one more candidate of this project, in trim and stable, for the numbers of the brief.'
            : 'A layout and a few numbers become an aircraft that is in trim, stable, and yours to change.'
        }}
      </p>
      <div class="mt-4 flex items-start gap-6">
        <RadioGroup v-model="chosen" class="grid flex-1 grid-cols-3 gap-2" data-test="layouts">
          <RadioGroupLabel class="sr-only">Layout</RadioGroupLabel>
          <RadioGroupOption v-for="l in LAYOUTS" :key="l.id" v-slot="{ checked }" :value="l.id" class="cursor-pointer">
            <div
              class="h-full rounded-md border px-3 pt-1 pb-2"
              :class="checked ? 'border-ochre bg-select' : 'border-rule hover:border-soft'"
              :data-test="`layout-${l.id}`"
            >
              <AircraftPicture class="h-20 w-full" :lines="pictures[l.id]" />
              <span class="serif block text-[15px] font-semibold">{{ l.name }}</span>
              <span class="block text-[12px] leading-snug text-soft">{{ l.says }}</span>
            </div>
          </RadioGroupOption>
        </RadioGroup>
        <aside class="sticky top-0 w-72 shrink-0 rounded-md border border-rule bg-leaf px-4 py-3">
          <h2 class="serif text-[16px] font-semibold">{{ plan.name }}</h2>
          <label v-if="!inside" class="mt-2 block text-soft" for="layout-project">Project name</label>
          <input
            v-if="!inside"
            id="layout-project"
            v-model="name"
            class="mb-2 w-full rounded border border-rule bg-field px-2 py-1"
            maxlength="80"
            :placeholder="plan.name"
            data-test="layout-name"
          />
          <LimitField
            v-for="k in FIELDS"
            :key="k"
            :limit="BRIEF_LIMITS[k]"
            :label="k === 'speed' ? 'Design speed' : undefined"
            :model-value="numbers[k]"
            @commit="(v) => (k === 'spanLimit' || v !== null) && set({ [k]: v })"
          />
          <LimitField
            v-if="push"
            :limit="push"
            :model-value="numbers.push"
            :digits="0"
            @commit="(v) => v !== null && set({ push: v })"
          />
          <button class="btn btn-main mt-3 w-full" :disabled="busy" data-test="make-layout" @click="make">
            {{ busy ? 'Sizing and balancing…' : inside ? 'Add the candidate' : 'Make the aircraft' }}
          </button>
          <ErrorNotice v-if="failure" class="mt-3" :message="failure.message" :hint="failure.hint" />
          <p class="mt-3 text-[12px] text-soft">
            The wing follows from a lift coefficient, tails from volume coefficients, the structure from a share of the
            mass. Payload and trim are solved for. All of it is told in the note
            {{ inside ? 'of the candidate' : 'of the brief' }}.
          </p>
        </aside>
      </div>
    </main>
  </component>
</template>
