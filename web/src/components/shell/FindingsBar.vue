<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { withIncidence } from '@veldtwind/core/candidate';
import type { Finding } from '@veldtwind/core/findings';
import { formatNumber } from '@veldtwind/core/units';
import { useProject } from '@/store/project';
import { sectionsUsed, useWorkbench } from '@/store/workbench';
import { candidateWorker } from '@/worker/compute';

const workbench = useWorkbench();
const project = useProject();
const route = useRoute();
const router = useRouter();
const solving = ref(false);
const MARKS = { inside: '✓', outside: '▲', missing: '○', fact: '·' } as const;
const COLOURS = { inside: 'text-grass-text', outside: 'text-clay', missing: 'text-clay', fact: 'text-soft' } as const;

const open = (f: Finding) =>
  router.push({ name: f.area, params: { project: project.id! }, query: route.query, hash: `#${f.id}` });

async function mend(f: Finding): Promise<void> {
  const c = workbench.active;
  if (!c || !f.fix) return;
  if (f.fix.kind === 'open') return void open(f);
  solving.value = true;
  try {
    const { surfaceId, targetDeg } = f.fix;
    const plain = JSON.parse(JSON.stringify([project.brief, c])) as [typeof project.brief, typeof c];
    const s = await candidateWorker.solveTail(
      plain[0],
      plain[1],
      sectionsUsed(project.document, c),
      surfaceId,
      targetDeg,
    );
    const to = Math.round(s.toDeg * 100) / 100;
    project.edit(`Tail incidence ${formatNumber(to, 2)}° for trim at ${formatNumber(targetDeg, 1)}°`, [
      project.putCandidate(withIncidence(c, surfaceId, to)),
    ]);
    toast.success(
      `Tail incidence ${formatNumber(s.fromDeg, 2)}° → ${formatNumber(to, 2)}°: trims at ${formatNumber(s.trimDeg, 1)}°`,
    );
  } catch (error) {
    toast.error((error as Error).message);
  } finally {
    solving.value = false;
  }
}
</script>

<template>
  <div class="flex min-w-0 items-center gap-4 text-[13px]" role="status" aria-label="Findings" data-test="findings">
    <button
      v-for="f in workbench.findings.slice(0, 3)"
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
    <Popover v-if="workbench.findings.length > 0" class="relative">
      <PopoverButton class="link whitespace-nowrap" data-test="all-findings"
        >all {{ workbench.findings.length }}</PopoverButton
      >
      <PopoverPanel v-slot="{ close }" class="menu absolute right-0 mt-2 w-[27rem] p-2">
        <h2 class="px-2 pt-1 pb-2 text-[15px] font-semibold">
          All findings on {{ workbench.active?.letter }} {{ workbench.active?.name }}
        </h2>
        <ul>
          <li
            v-for="f in workbench.findings"
            :key="f.id"
            class="flex items-baseline gap-2 rounded px-2 py-1.5 hover:bg-select"
          >
            <span :class="COLOURS[f.state]" aria-hidden="true">{{ MARKS[f.state] }}</span>
            <button class="flex-1 text-left" @click="(close(), open(f))">
              <b class="font-semibold" :class="COLOURS[f.state]">{{ f.headline }}</b><span class="serif italic">{{
                f.detail
              }}</span>
            </button>
            <button
              v-if="f.fix"
              class="link whitespace-nowrap"
              :disabled="solving"
              :data-test="`fix-${f.id}`"
              @click="(close(), mend(f))"
            >
              {{ f.fix.kind === 'open' ? f.fix.label : 'Solve for tail incidence' }} ›
            </button>
          </li>
        </ul>
      </PopoverPanel>
    </Popover>
  </div>
</template>
