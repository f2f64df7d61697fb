<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core';
import { Play } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { CONDITION_LIMITS, MANY_POINTS, type RunPlan } from '@veldtwind/core/polar';
import { resolvedSource } from '@veldtwind/core/project';
import { flowState } from '@veldtwind/core/atmosphere';
import { call } from '@/api/client';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { useWorkbench } from '@/store/workbench';
import { shortReynolds } from './curve-series';
import RunList from './RunList.vue';
import { asFlown, duration, PLAN_DEFAULTS, planOf, readReynolds, spacedReynolds, type PlanForm } from './plan-form';

/** The run plan: what is to be computed, how many points and how long; and the runs with how far they have come. */
const project = useProject();
const preferences = usePreferences();
const workbench = useWorkbench();
const runs = useRuns();

const planned = computed(() => preferences.get<Partial<PlanForm>>('polar-plan', {}));
const form = computed<PlanForm>(() => {
  // What nobody has chosen here is as the project assumes it.
  const { criticalAmplification } = project.brief.assumptions;
  const kept = { ...PLAN_DEFAULTS, criticalAmplification, ...planned.value };
  // It was a number once.
  return { ...kept, mach: String(kept.mach) };
});
const set = (change: Partial<PlanForm>) => preferences.set('polar-plan', { ...planned.value, ...change });
const sections = computed(() => [...project.sections].sort((a, b) => a.name.localeCompare(b.name)));
const chosen = computed(() => form.value.sections.filter((id) => project.document.sections[id]));
const toggle = (id: string) =>
  set({ sections: chosen.value.includes(id) ? chosen.value.filter((s) => s !== id) : [...chosen.value, id] });
const used = computed(() =>
  [...new Set((workbench.active?.surfaces ?? []).flatMap((s) => s.stations.map((t) => t.section)))].filter(
    (id) => project.document.sections[id],
  ),
);

const flown = computed(() => asFlown(project.brief, workbench.active));
const asked = computed(() =>
  planOf(
    form.value,
    chosen.value.map((id) => ({
      id,
      name: project.document.sections[id].name,
      source: resolvedSource(project.document.sections, id),
    })),
  ),
);
const problem = computed(() => (typeof asked.value === 'string' ? asked.value : null));
const plan = computed<RunPlan | null>(() => (typeof asked.value === 'string' ? null : asked.value));

// Reynolds numbers by equal steps or ratios, or from a chord and a speed.
const filling = ref(false);
const fill = ref({ from: 1e5, to: 1e6, count: 5, ratios: true, chord: 0.3, speed: project.brief.speed });
const filled = computed(() => spacedReynolds(fill.value.from, fill.value.to, fill.value.count, fill.value.ratios));
const ofChord = computed(() => flowState(fill.value.speed, project.brief.altitude).reynoldsPerMetre * fill.value.chord);
const take = (list: number[]) => set({ reynolds: list.map(shortReynolds).join(', ') });
const addTo = (re: number) => {
  const there = readReynolds(form.value.reynolds);
  take([...new Set([...(typeof there === 'string' ? [] : there), re])].sort((a, b) => a - b));
};

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
/** Very many points are asked about first. */
const many = computed(() => (estimate.value?.points ?? 0) - (estimate.value?.known ?? 0) > MANY_POINTS);
const meant = ref(false);
watch(plan, () => (meant.value = false));
const starting = ref(false);
async function start(): Promise<void> {
  if (!plan.value) return;
  starting.value = true;
  const names = plan.value.sections.map((s) => s.name);
  const name = `${names.length > 2 ? `${names.length} sections` : names.join(', ')} × ${plan.value.reynolds.length} Re`;
  await runs.start(name.slice(0, 80), plan.value, meant.value);
  meant.value = false;
  starting.value = false;
}

const KINDS = [
  { id: 'fixed-re', name: 'Reynolds no.' },
  { id: 'fixed-lift', name: 'lift force' },
  { id: 'over-re', name: 'angle, over Re' },
] as const;
const SWEPT = [
  { id: 'alpha', name: 'angle' },
  { id: 'cl', name: 'lift coefficient' },
] as const;
const L = CONDITION_LIMITS;
const angle = { ...L.alphaDeg, step: 1 };
const lift = { ...L.cl, step: 0.1 };
const HINGE_X = { label: 'Hinge, x / c', dimension: 'plain', min: 0.1, max: 0.98, step: 0.01 } as const;
const HINGE_Y = { label: 'Hinge height, of thickness', dimension: 'plain', min: 0, max: 1, step: 0.05 } as const;
</script>

<template>
  <SheetGroup title="Run plan">
    <template #aside>
      <button v-if="used.length" class="link text-[12.5px]" @click="set({ sections: used })">
        Sections of the wing
      </button>
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
    <div v-if="flown.length" class="mb-1 flex flex-wrap items-center gap-x-2 text-[12.5px] text-soft">
      As flown at
      <button
        v-for="f in flown"
        :key="f.at"
        class="link min-h-6 min-w-6"
        :title="`Tip, mean and root chord at the speed of the brief: ${f.reynolds.map(shortReynolds).join(', ')}`"
        :data-test="`flown-${f.at}`"
        @click="take(f.reynolds)"
      >
        {{ f.at }}
      </button>
      <button
        v-if="flown.length > 1"
        class="link min-h-6 min-w-6"
        title="Those of every speed of the brief"
        @click="take([...new Set(flown.flatMap((f) => f.reynolds))].sort((a, b) => a - b))"
      >
        all
      </button>
    </div>
    <button
      class="link mb-1 block text-[12.5px]"
      :aria-expanded="filling"
      data-test="fill-reynolds"
      @click="filling = !filling"
    >
      {{ filling ? 'Done with spacing' : 'Space them evenly, or from a chord' }}
    </button>
    <div v-if="filling" class="mb-2 border-l-2 border-rule pl-2">
      <LimitField
        :limit="{ ...L.reynolds, label: 'From' }"
        :model-value="fill.from"
        @commit="(v) => (fill.from = v!)"
      />
      <LimitField :limit="{ ...L.reynolds, label: 'To' }" :model-value="fill.to" @commit="(v) => (fill.to = v!)" />
      <LimitField
        :limit="{ label: 'How many', dimension: 'count', min: 2, max: 100, step: 1 }"
        :model-value="fill.count"
        @commit="(v) => (fill.count = v!)"
      />
      <SwitchRow label="Geometric spacing" :model-value="fill.ratios" @update:model-value="(v) => (fill.ratios = v)" />
      <button class="link block text-[12.5px]" :disabled="fill.to <= fill.from" @click="take(filled)">
        Add {{ filled.slice(0, 3).map(shortReynolds).join(', ')
        }}{{ filled.length > 3 ? ` … ${shortReynolds(filled[filled.length - 1])}` : '' }}
      </button>
      <LimitField
        class="mt-1"
        :limit="{ label: 'Chord', dimension: 'length', min: 0.001, max: 100, step: 0.01 }"
        :model-value="fill.chord"
        @commit="(v) => (fill.chord = v!)"
      />
      <LimitField
        :limit="{ label: 'Speed', dimension: 'speed', min: 0.1, max: 400, step: 0.5 }"
        :model-value="fill.speed"
        @commit="(v) => (fill.speed = v!)"
      />
      <button
        class="link block text-[12.5px]"
        title="At the altitude of the brief"
        @click="addTo(Number(ofChord.toPrecision(3)))"
      >
        Add {{ shortReynolds(ofChord) }}
      </button>
    </div>
    <SelectRow
      label="Sweep variable"
      :model-value="form.swept"
      :options="SWEPT"
      test="plan-swept"
      @update:model-value="(swept) => set({ swept })"
    />
    <template v-if="form.list.trim() !== ''" />
    <template v-else-if="form.swept === 'alpha'">
      <LimitField :limit="angle" label="From" :model-value="form.fromDeg" @commit="(v) => set({ fromDeg: v! })" />
      <LimitField :limit="angle" label="To" :model-value="form.toDeg" @commit="(v) => set({ toDeg: v! })" />
      <LimitField
        :limit="{ ...angle, label: 'Step', min: 0.01, max: 10, step: 0.25 }"
        :model-value="form.stepDeg"
        @commit="(v) => set({ stepDeg: v! })"
      />
    </template>
    <template v-else>
      <LimitField :limit="lift" label="From cl" :model-value="form.fromLift" @commit="(v) => set({ fromLift: v! })" />
      <LimitField :limit="lift" label="To cl" :model-value="form.toLift" @commit="(v) => set({ toLift: v! })" />
      <LimitField
        :limit="{ ...lift, label: 'Step', min: 0.001, max: 1, step: 0.05 }"
        :model-value="form.stepLift"
        @commit="(v) => set({ stepLift: v! })"
      />
    </template>
    <TextRow
      :label="form.swept === 'alpha' ? 'Angle list, °' : 'Lift list, cl'"
      :model-value="form.list"
      :most="400"
      placeholder="-2, 0, 4.5, 8:12:0.5"
      test="plan-list"
      @update:model-value="(list) => set({ list })"
    />
    <SelectRow
      label="Held constant"
      :model-value="form.kind"
      :options="KINDS"
      test="plan-kind"
      @update:model-value="(kind) => set({ kind })"
    />
    <TextRow
      label="Mach numbers"
      :model-value="form.mach"
      :most="200"
      test="plan-mach"
      @update:model-value="(mach) => set({ mach })"
    />
    <LimitField
      :limit="{ ...L.criticalAmplification, label: 'Critical n' }"
      :model-value="form.criticalAmplification"
      :digits="1"
      hint="9 in a quiet tunnel, 11 to 14 in calm air, 4 in a rough stream"
      @commit="(v) => set({ criticalAmplification: v! })"
    />
    <LimitField
      :limit="{ ...L.turbulence, label: 'or turbulence, %' }"
      placeholder="by n"
      :digits="2"
      :model-value="form.turbulence"
      hint="of the stream; takes the place of the critical n"
      @commit="(v) => set({ turbulence: v })"
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
    <TextRow
      label="Flap angles, °"
      placeholder="none"
      :model-value="form.flaps"
      :most="200"
      test="plan-flaps"
      @update:model-value="(flaps) => set({ flaps })"
    />
    <template v-if="form.flaps.trim()">
      <LimitField :limit="HINGE_X" :digits="2" :model-value="form.hingeX" @commit="(v) => set({ hingeX: v! })" />
      <LimitField :limit="HINGE_Y" :digits="2" :model-value="form.hingeY" @commit="(v) => set({ hingeY: v! })" />
    </template>
    <p
      class="mt-2 min-h-5 text-[12.5px]"
      :class="(problem ?? unanswered) ? 'text-clay' : 'text-soft'"
      role="status"
      data-test="plan-words"
    >
      {{ problem ?? unanswered ?? words }}
    </p>
    <label v-if="many && !problem" class="flex items-center gap-2 text-[12.5px]">
      <input v-model="meant" type="checkbox" class="accent-[var(--ochre)]" data-test="many-meant" /> So many points are
      meant
    </label>
    <button
      class="btn btn-main mt-1 flex w-full items-center justify-center gap-1.5"
      :disabled="!plan || starting || estimate?.known === estimate?.points || (many && !meant)"
      data-test="run-plan"
      @click="start"
    >
      <Play :size="14" /> Run
    </button>
    <p v-if="runs.failure" class="mt-2 text-[12.5px] text-clay" role="alert">{{ runs.failure }}</p>
  </SheetGroup>
  <RunList />
</template>
