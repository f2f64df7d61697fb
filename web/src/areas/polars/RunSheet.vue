<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core';
import { Pause, Play, Square, Trash2 } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { CONDITION_LIMITS, type RunPlan } from '@veldtwind/core/polar';
import { resolvedSource } from '@veldtwind/core/project';
import { DEFAULT_SPREAD } from '@veldtwind/core/section-flow';
import type { RunReply } from '@veldtwind/core/contract';
import { call } from '@/api/client';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { useWorkbench } from '@/store/workbench';
import { shortReynolds } from './curve-series';
import { asFlown, duration, PLAN_DEFAULTS, planAngles, readReynolds, type PlanForm } from './plan-form';

/** The run plan: what is to be computed, how many points and how long; and the runs with how far they have come. */
const project = useProject();
const preferences = usePreferences();
const workbench = useWorkbench();
const runs = useRuns();

const form = computed<PlanForm>(() => ({ ...PLAN_DEFAULTS, ...preferences.get('polar-plan', {}) }));
const set = (change: Partial<PlanForm>) => preferences.set('polar-plan', { ...form.value, ...change });
const sections = computed(() => [...project.sections].sort((a, b) => a.name.localeCompare(b.name)));
const chosen = computed(() => form.value.sections.filter((id) => project.document.sections[id]));
const toggle = (id: string) =>
  set({ sections: chosen.value.includes(id) ? chosen.value.filter((s) => s !== id) : [...chosen.value, id] });
const used = computed(() =>
  [...new Set((workbench.active?.surfaces ?? []).flatMap((s) => s.stations.map((t) => t.section)))].filter(
    (id) => project.document.sections[id],
  ),
);

const reynolds = computed(() => readReynolds(form.value.reynolds));
const angles = computed(() => planAngles(form.value));
const flown = computed(() => asFlown(project.brief, workbench.active));
const problem = computed(() => {
  if (chosen.value.length === 0) return 'Choose at least one section.';
  if (typeof reynolds.value === 'string') return reynolds.value;
  return typeof angles.value === 'string' ? angles.value : null;
});
const plan = computed<RunPlan | null>(() => {
  if (problem.value) return null;
  const f = form.value;
  return {
    sections: chosen.value.map((id) => ({
      id,
      name: project.document.sections[id].name,
      source: resolvedSource(project.document.sections, id),
      flap: null,
    })),
    reynolds: reynolds.value as number[],
    mach: [f.mach],
    sweep: f.kind,
    alphas: angles.value as number[],
    conditions: {
      criticalAmplification: f.criticalAmplification,
      ...(f.tripTop === null ? {} : { tripTop: f.tripTop }),
      ...(f.tripBottom === null ? {} : { tripBottom: f.tripBottom }),
      ...(f.grain === null ? {} : { grain: f.grain }),
    },
    spread: DEFAULT_SPREAD,
  };
});

const estimate = ref<{ points: number; known: number; sweeps: number; seconds: number } | null>(null);
/** Why no estimate came. */
const unanswered = ref<string | null>(null);
const ask = useDebounceFn(async () => {
  const of = plan.value;
  if (!of || !project.id) return;
  try {
    const answer = await call('estimateRun', { params: { id: project.id }, body: { plan: of } });
    if (plan.value === of) estimate.value = answer;
    unanswered.value = null;
  } catch (error) {
    estimate.value = null;
    unanswered.value = (error as Error).message;
  }
}, 250);
watch(
  [plan, () => runs.runs],
  () => {
    estimate.value = null;
    void ask();
  },
  { immediate: true },
);
const words = computed(() => {
  const e = estimate.value;
  if (!e) return '';
  const fresh = e.points - e.known;
  if (fresh === 0) return `${e.points} points, all known`;
  return `${e.points} points${e.known ? `, ${e.known} known` : ''}; about ${duration(e.seconds)}`;
});
const starting = ref(false);
async function start(): Promise<void> {
  if (!plan.value) return;
  starting.value = true;
  const names = plan.value.sections.map((s) => s.name);
  const name = `${names.length > 2 ? `${names.length} sections` : names.join(', ')} × ${plan.value.reynolds.length} Re`;
  await runs.start(name.slice(0, 80), plan.value);
  starting.value = false;
}

const done = (r: RunReply) => r.known + r.solved + r.doubtful + r.unsolved;
/** Where each run was when it was first seen, and when: time left follows from the rate since then. */
const seen = new Map<string, { done: number; at: number }>();
const left = (r: RunReply) => {
  if (r.state !== 'running') return '';
  const first = seen.get(r.id) ?? { done: done(r), at: Date.now() };
  seen.set(r.id, first);
  const fresh = done(r) - first.done;
  if (fresh < 3) return '';
  return `${duration((((Date.now() - first.at) / fresh) * (r.points - done(r))) / 1000)} left`;
};
const STATE = { running: 'running', paused: 'resting', cancelled: 'ended', finished: 'finished' };
const KINDS = [
  { id: 'fixed-re', name: 'Reynolds no.' },
  { id: 'fixed-lift', name: 'lift force' },
] as const;
const L = CONDITION_LIMITS;
const angle = { ...L.alphaDeg, step: 1 };
</script>

<template>
  <SheetGroup title="Run plan">
    <template #aside>
      <button v-if="used.length" class="link text-[12.5px]" @click="set({ sections: used })">Those of the wing</button>
    </template>
    <div class="mb-2 flex max-h-36 flex-wrap gap-1 overflow-y-auto" role="group" aria-label="Sections of the plan">
      <button
        v-for="s in sections"
        :key="s.id"
        class="rounded border px-2 py-[2px] text-[12.5px]"
        :class="chosen.includes(s.id) ? 'border-ochre bg-select font-semibold text-ink' : 'border-rule text-soft'"
        :aria-pressed="chosen.includes(s.id)"
        :data-test="`plan-section-${s.id}`"
        @click="toggle(s.id)"
      >
        {{ s.name }}
      </button>
    </div>
    <TextRow
      label="Reynolds numbers"
      :model-value="form.reynolds"
      :most="2000"
      test="plan-reynolds"
      @update:model-value="(reynolds) => set({ reynolds })"
    />
    <button
      v-if="flown.length"
      class="link mb-1 block text-[12.5px]"
      title="Tip, mean and root chord at the speed of the brief"
      @click="set({ reynolds: flown.map(shortReynolds).join(', ') })"
    >
      As flown: {{ flown.map(shortReynolds).join(', ') }}
    </button>
    <LimitField :limit="angle" label="From" :model-value="form.fromDeg" @commit="(v) => set({ fromDeg: v! })" />
    <LimitField :limit="angle" label="To" :model-value="form.toDeg" @commit="(v) => set({ toDeg: v! })" />
    <LimitField
      :limit="{ ...angle, label: 'Step', min: 0.01, max: 10, step: 0.25 }"
      :model-value="form.stepDeg"
      @commit="(v) => set({ stepDeg: v! })"
    />
    <SelectRow
      label="Holds the"
      :model-value="form.kind"
      :options="KINDS"
      @update:model-value="(kind) => set({ kind })"
    />
    <LimitField :limit="L.mach" :model-value="form.mach" @commit="(v) => set({ mach: v! })" />
    <LimitField
      :limit="{ ...L.criticalAmplification, label: 'Critical n' }"
      :model-value="form.criticalAmplification"
      :digits="1"
      hint="9 in a quiet tunnel, 11 to 14 in calm air, 4 in a rough stream"
      @commit="(v) => set({ criticalAmplification: v! })"
    />
    <LimitField
      :limit="{ ...L.trip, label: 'Trip above, x / c' }"
      placeholder="none"
      :model-value="form.tripTop"
      @commit="(v) => set({ tripTop: v })"
    />
    <LimitField
      :limit="{ ...L.trip, label: 'Trip below, x / c' }"
      placeholder="none"
      :model-value="form.tripBottom"
      @commit="(v) => set({ tripBottom: v })"
    />
    <LimitField
      :limit="L.grain"
      placeholder="smooth"
      :digits="5"
      :model-value="form.grain"
      @commit="(v) => set({ grain: v })"
    />
    <p
      class="mt-2 min-h-5 text-[12.5px]"
      :class="(problem ?? unanswered) ? 'text-clay' : 'text-soft'"
      role="status"
      data-test="plan-words"
    >
      {{ problem ?? unanswered ?? words }}
    </p>
    <button
      class="btn btn-main mt-1 flex w-full items-center justify-center gap-1.5"
      :disabled="!plan || starting || estimate?.known === estimate?.points"
      data-test="run-plan"
      @click="start"
    >
      <Play :size="14" /> Run
    </button>
    <p v-if="runs.failure" class="mt-2 text-[12.5px] text-clay" role="alert">{{ runs.failure }}</p>
  </SheetGroup>
  <SheetGroup v-if="runs.runs.length" title="Runs">
    <p v-if="runs.notice" class="mb-2 text-[12.5px] text-clay" role="status" data-test="runs-notice">
      {{ runs.notice }}
    </p>
    <ul class="space-y-3">
      <li v-for="r in runs.runs" :key="r.id" data-test="run">
        <div class="flex items-center gap-1">
          <span class="min-w-0 flex-1 truncate" :title="r.name">{{ r.name }}</span>
          <button
            v-if="r.state === 'running'"
            class="icon-btn"
            aria-label="Let it rest"
            title="Let it rest"
            @click="runs.change(r.id, 'paused')"
          >
            <Pause :size="14" />
          </button>
          <button
            v-else-if="r.state !== 'finished' || r.failed > 0"
            class="icon-btn"
            aria-label="Go on"
            title="Go on"
            @click="runs.change(r.id, 'running')"
          >
            <Play :size="14" />
          </button>
          <button
            v-if="r.state === 'running' || r.state === 'paused'"
            class="icon-btn"
            aria-label="End it"
            title="End it; what is solved stays"
            @click="runs.change(r.id, 'cancelled')"
          >
            <Square :size="13" />
          </button>
          <button
            v-else
            class="icon-btn"
            aria-label="Remove the run"
            title="Remove it, with the curves that only it asked for"
            @click="runs.remove(r.id)"
          >
            <Trash2 :size="14" />
          </button>
        </div>
        <div
          class="h-[5px] overflow-hidden rounded bg-rule"
          role="progressbar"
          :aria-valuenow="done(r)"
          aria-valuemin="0"
          :aria-valuemax="r.points"
          :aria-label="`Points of ${r.name}`"
        >
          <div class="h-full bg-ochre" :style="{ width: `${(100 * done(r)) / r.points}%` }" />
        </div>
        <p class="mt-[2px] text-[12px] text-soft">
          {{ STATE[r.state] }}, {{ done(r) }} of {{ r.points
          }}<template v-if="r.unsolved">, {{ r.unsolved }} unsolved</template
          ><template v-if="left(r)">, {{ left(r) }}</template>
        </p>
        <p v-if="r.error" class="text-[12px] text-clay">{{ r.error }}</p>
      </li>
    </ul>
  </SheetGroup>
</template>
