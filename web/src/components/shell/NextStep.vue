<script setup lang="ts">
import { X } from 'lucide-vue-next';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { nextStep, nextStepWords, type Finding } from '@veldtwind/core/findings';
import { addSurface } from '@veldtwind/core/project';
import { markEvidence } from '@/lib/evidence';
import { useAutomaticPolars } from '@/store/automatic-polars';
import { usePeople } from '@/store/people';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

/** What is sensible next, in one quiet line that does it; it can be hidden, and is silent when all is well. */
const props = defineProps<{ findings: readonly Finding[]; busy: boolean }>();
const emit = defineEmits<{ solve: [finding: Finding]; see: [finding: Finding] }>();
const project = useProject();
const workbench = useWorkbench();
const polars = useAutomaticPolars();
const preferences = usePreferences();
const people = usePeople();
const route = useRoute();
const router = useRouter();
const shown = computed(() => preferences.get('next-step', true) && people.may('edit'));

const step = computed(() => {
  const c = workbench.active;
  // What is being computed anew is not judged.
  if (!shown.value || project.id === null || (c && workbench.stale(c.id))) return null;
  return nextStep({
    sections: project.sections.length,
    brief: project.edited.brief,
    candidate: c && project.edited.candidates[c.id],
    evaluation: workbench.current,
    findings: props.findings,
    paused: polars.paused.length,
  });
});
const words = computed(() => step.value && nextStepWords(step.value, preferences.units));
const go = (name: string, more: { params?: object; query?: object } = {}) =>
  router.push({ name, params: { project: project.id!, ...more.params }, query: { ...route.query, ...more.query } });

async function take(): Promise<void> {
  const s = step.value;
  const c = workbench.active;
  if (!s) return;
  switch (s.code) {
    case 'sections':
      return void go('sections');
    case 'wing': {
      let made: string | undefined;
      if (c) project.edit(`New wing (${c.letter})`, (draft) => (made = addSurface(draft, c.id, 'wing')?.id));
      return void go('airframe', { params: { surface: made ?? '' } });
    }
    case 'masses':
      await go('balance');
      return void markEvidence('estimate');
    case 'payload':
      project.edit(`Place the payload (${c!.letter})`, (draft) => draft.candidates[c!.id]?.massItems.push(s.item));
      toast.success(`${s.item.name} is among the mass items`);
      await go('balance');
      return void markEvidence('mass-items');
    case 'move-mass':
      project.edit(`Move ${s.item.name} (${c!.letter})`, (draft) => {
        const item = draft.candidates[c!.id]?.massItems.find((m) => m.id === s.item.id);
        if (item) item.position.x = s.x;
      });
      await go('balance');
      return void markEvidence('mass-items');
    case 'solve':
      return emit('solve', s.finding);
    case 'see':
      return emit('see', s.finding);
    case 'improve':
      return void go('studies', { query: { of: s.quantity } });
    case 'resume-polars':
      return void polars.resume();
  }
}
function hide(): void {
  preferences.set('next-step', false);
  toast('The next step is hidden', { description: 'Ctrl K, “Show the next step” brings it back.' });
}
</script>

<template>
  <section
    v-if="step && words"
    class="absolute bottom-0 left-0 w-[111px] border-t border-rule bg-paper px-3.5 py-2.5 text-[12px] leading-snug"
    aria-label="Next step"
    data-test="next-step"
    :data-step="step.code"
  >
    <p class="flex items-center justify-between text-[10.5px] font-semibold tracking-[0.12em] text-soft uppercase">
      Next
      <button class="icon-btn -mr-2" aria-label="Hide the next step" title="Hide" data-test="next-hide" @click="hide">
        <X :size="11" />
      </button>
    </p>
    <p class="text-soft">{{ words.why }}.</p>
    <button class="link mt-0.5 text-left" :disabled="busy" data-test="next-do" @click="take">{{ words.does }} ›</button>
  </section>
</template>
