<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { CircleHelp } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { findingWords, quantityOf, type Finding } from '@veldtwind/core/findings';
import { fixFrom, tailIncidence } from '@veldtwind/core/solve';
import { formatNumber } from '@veldtwind/core/units';
import { markEvidence } from '@/lib/evidence';
import { useHelp } from '@/store/help';
import { useMotionFindings } from '@/store/motion-findings';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';
import NextStep from './NextStep.vue';

const workbench = useWorkbench();
const project = useProject();
const reports = useReports();
const help = useHelp();
const preferences = usePreferences();
const route = useRoute();
const router = useRouter();
const solving = ref(false);
const found = useMotionFindings();
const MARKS = { inside: '✓', outside: '▲', missing: '○', fact: '·' } as const;
const COLOURS = { inside: 'text-grass-text', outside: 'text-clay', missing: 'text-clay', fact: 'text-soft' } as const;
/** The findings in words, in the units chosen. */
const findings = computed(() => found.value.map((f) => ({ ...f, ...findingWords(f, preferences.units) })));
type Worded = (typeof findings.value)[number];

/** Leads to the evidence, and marks it there. */
async function open(f: Finding): Promise<void> {
  await router.push({ name: f.evidence.area, params: { project: project.id! }, query: route.query });
  if (f.evidence.mark) await markEvidence(f.evidence.mark);
}
/** The findings of the candidate, which follow the project. */
function putIntoReport(): void {
  const c = workbench.active;
  if (!c) return;
  reports.put({ kind: 'table', of: 'findings', subject: c.id, title: '', caption: '' });
  toast.success(`The findings on ${c.letter} are in the report`);
}
const actionOf = (f: Worded) => (f.fix ? 'Solve for tail incidence' : f.action);

async function mend(f: Finding): Promise<void> {
  const id = workbench.active?.id;
  if (id === undefined) return;
  if (!f.fix) return void open(f);
  solving.value = true;
  try {
    const { fix } = f;
    const input = tailIncidence.inputsOf!(project.edited, id, fix.surfaceId, fix.targetDeg, workbench.polarsOf(id));
    const solution = await lanes.candidate.run('tail-incidence', input);
    const { label, edit } = fixFrom(id, fix, solution);
    project.edit(label, edit);
    toast.success(
      `Tail incidence ${formatNumber(solution.fromDeg, 2)}° → ${formatNumber(solution.toDeg, 2)}°: trims at ${formatNumber(solution.trimDeg, 1)}°`,
    );
  } catch (error) {
    toast.error((error as Error).message, { description: (error as { hint?: string }).hint });
  } finally {
    solving.value = false;
  }
}
</script>

<template>
  <div class="flex min-w-0 items-center gap-4 text-[13px]" role="status" aria-label="Findings" data-test="findings">
    <button
      v-for="f in findings.slice(0, 3)"
      :key="f.id"
      class="truncate hover:underline"
      :class="COLOURS[f.state]"
      :title="f.headline + f.detail"
      :data-finding="f.id"
      :data-state="f.state"
      @click="open(f)"
    >
      <span aria-hidden="true">{{ MARKS[f.state] }}</span>{{ ' ' }}<b class="font-semibold">{{ f.headline }}</b
      ><span class="max-[1500px]:hidden">{{ f.detail }}</span>
    </button>
    <Popover v-if="findings.length > 0" class="relative">
      <PopoverButton class="link whitespace-nowrap" data-test="all-findings">all {{ findings.length }}</PopoverButton>
      <PopoverPanel v-slot="{ close }" class="menu absolute right-0 mt-2 w-[27rem] p-2">
        <h2 class="px-2 pt-1 pb-2 text-[15px] font-semibold">
          All findings on {{ workbench.active?.letter }} {{ workbench.active?.name }}
        </h2>
        <ul>
          <li v-for="f in findings" :key="f.id" class="flex items-baseline gap-2 rounded px-2 py-1.5 hover:bg-select">
            <span :class="COLOURS[f.state]" aria-hidden="true">{{ MARKS[f.state] }}</span>
            <button class="flex-1 text-left" @click="(close(), open(f))">
              <b class="font-semibold" :class="COLOURS[f.state]">{{ f.headline }}</b><span class="serif italic">{{
                f.detail
              }}</span>
            </button>
            <button
              class="help-mark self-center"
              :aria-label="`Help on ${f.headline}`"
              title="Help"
              @click="(close(), help.show({ page: `help/${f.evidence.area}` }))"
            >
              <CircleHelp :size="13" />
            </button>
            <RouterLink
              v-if="quantityOf(f)"
              class="link whitespace-nowrap"
              :data-test="`moves-${f.id}`"
              :to="{ name: 'studies', params: { project: project.id! }, query: { ...route.query, of: quantityOf(f) } }"
              @click="close()"
              >Sensitivities</RouterLink
            >
            <RouterLink
              v-if="f.state === 'outside' && !f.fix && quantityOf(f)"
              class="link whitespace-nowrap"
              title="Least change of the study’s variables that meets every requirement"
              :data-test="`meet-${f.id}`"
              :to="{
                name: 'studies',
                params: { project: project.id! },
                query: { ...route.query, of: quantityOf(f), solve: '1' },
              }"
              @click="close()"
              >Solve ›</RouterLink
            >
            <button
              v-if="actionOf(f)"
              class="link whitespace-nowrap"
              :disabled="solving"
              :data-test="`fix-${f.id}`"
              @click="(close(), mend(f))"
            >
              {{ actionOf(f) }} ›
            </button>
          </li>
        </ul>
        <button class="link px-2 pt-2 pb-1" data-test="findings-report" @click="(close(), putIntoReport())">
          Put into the report
        </button>
      </PopoverPanel>
    </Popover>
    <!-- Below the areas, where a line that comes and goes moves nothing. -->
    <Teleport to="#below-areas"><NextStep :findings="found" :busy="solving" @solve="mend" @see="open" /></Teleport>
  </div>
</template>
