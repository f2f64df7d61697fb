<script setup lang="ts">
import { Plus, X } from 'lucide-vue-next';
import { computed } from 'vue';
import type { Criterion, Verdict } from '@veldtwind/core/polar';
import { CURVE_QUANTITIES, textOf, unitOf, type CurveFacts, type Quantity } from '@veldtwind/core/quantities';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

/** Criteria with limits and weights, what is left of the sections by them, and why each other one is not. */
const props = defineProps<{
  criteria: Criterion[];
  verdicts: Verdict[];
  /** The project's section of a name, where it is one: it can go on to the wing. */
  sectionOf?: (section: string) => string | null;
  /** What a section that was judged is called; its own word without. */
  nameOf?: (section: string) => string;
}>();
const emit = defineEmits<{ change: [criteria: Criterion[]] }>();
const called = (section: string) => props.nameOf?.(section) ?? section;
const preferences = usePreferences();
const quantity = (id: string): Quantity<CurveFacts> => CURVE_QUANTITIES.find((q) => q.id === id) ?? CURVE_QUANTITIES[0];
const change = (i: number, more: Partial<Criterion>) =>
  emit(
    'change',
    props.criteria.map((c, k) => (k === i ? { ...c, ...more } : c)),
  );
/** Facts of which less is better. */
const LESS = new Set(['cd-min', 'cd-design', 'cd-climb', 'cm-nose-up']);
const add = () => emit('change', [...props.criteria, { fact: 'cl-max', way: 'least', value: 1.2, weight: 1 }]);
const START: Record<string, number> = {
  'cl-max': 1.2,
  'cd-min': 0.01,
  'cd-design': 0.01,
  'cd-climb': 0.015,
  'edge-design': 0,
  'cm-design': -0.1,
  thickness: 0.1,
  'best-ratio': 60,
  'best-climb': 60,
  'cm-greatest': -0.1,
  'cm-nose-up': 0,
  'lift-kept': 0.9,
};
const take = (i: number, fact: string) =>
  change(i, { fact, way: LESS.has(fact) ? 'most' : 'least', value: START[fact] ?? 0 });
const reason = ({ rejections: [r] }: Verdict) => {
  const q = quantity(r.criterion.fact);
  const unit = unitOf(q, preferences.units);
  const said = (v: number) => `${textOf(q, v, preferences.units)}${unit ? ` ${unit}` : ''}`;
  const limit = `${r.criterion.way === 'least' ? 'at least' : 'at most'} ${said(r.criterion.value)}`;
  return r.value === null
    ? `${r.curve}: ${q.name} is not reached by the run`
    : `${r.curve}: ${q.symbol} ${said(r.value)}, wanted ${limit}`;
};
const project = useProject();
const workbench = useWorkbench();
const wing = computed(() => workbench.active?.surfaces[0]);
const PLACES = { all: 'all stations', root: 'the root', tip: 'the tip' } as const;
/** Puts a section on the wing of the candidate that is worked on. */
function put(section: string, name: string, at: string): void {
  const candidate = workbench.active;
  if (!candidate || !wing.value || !(at in PLACES)) return;
  const surface = wing.value.id;
  project.edit(`${name} on ${PLACES[at as keyof typeof PLACES]} of ${wing.value.name}`.slice(0, 120), (draft) => {
    const stations = draft.candidates[candidate.id].surfaces.find((s) => s.id === surface)?.stations ?? [];
    const which = at === 'all' ? stations : at === 'root' ? stations.slice(0, 1) : stations.slice(-1);
    for (const s of which) s.section = section;
  });
}
const kept = computed(() => props.verdicts.filter((v) => v.score !== null));
const rejected = computed(() => props.verdicts.filter((v) => v.score === null));
</script>

<template>
  <SheetGroup title="Choosing">
    <template #aside>
      <button class="link flex items-center gap-1 text-[12.5px]" data-test="add-criterion" @click="add">
        <Plus :size="13" /> Criterion
      </button>
    </template>
    <div v-for="(c, i) in criteria" :key="i" class="mb-2 border-b border-rule pb-1" data-test="criterion">
      <div class="flex items-center gap-1 py-[3px]">
        <select
          class="min-w-0 flex-1 rounded border border-rule bg-field px-1.5 py-[3px]"
          :value="c.fact"
          aria-label="Fact"
          @change="(e) => take(i, (e.target as HTMLSelectElement).value)"
        >
          <option v-for="q in CURVE_QUANTITIES" :key="q.id" :value="q.id">{{ q.name }}</option>
        </select>
        <button
          class="icon-btn"
          aria-label="Remove the criterion"
          title="Remove"
          @click="
            emit(
              'change',
              criteria.filter((_, k) => k !== i),
            )
          "
        >
          <X :size="14" />
        </button>
      </div>
      <NumberField
        :label="c.way === 'least' ? 'at least' : 'at most'"
        :dimension="quantity(c.fact).dimension"
        :digits="quantity(c.fact).digits"
        :model-value="c.value"
        @commit="(v) => v !== null && change(i, { value: v })"
      />
      <div class="flex justify-between text-[12.5px]">
        <button class="link" @click="change(i, { way: c.way === 'least' ? 'most' : 'least' })">
          {{ c.way === 'least' ? 'at most instead' : 'at least instead' }}
        </button>
        <label class="text-soft"
          >counts
          <select
            class="rounded border border-rule bg-field px-1 text-ink"
            :value="c.weight"
            @change="(e) => change(i, { weight: Number((e.target as HTMLSelectElement).value) })"
          >
            <option :value="0">not</option>
            <option :value="1">once</option>
            <option :value="2">twice</option>
            <option :value="4">four times</option>
          </select></label
        >
      </div>
    </div>
    <p v-if="criteria.length === 0" class="text-[12.5px] text-soft">
      Sections are kept and ranked by what is asked of them at every Reynolds number that was run.
    </p>
    <template v-else>
      <ol class="space-y-1" data-test="kept">
        <li v-for="(v, i) in kept" :key="v.section" class="flex justify-between gap-2">
          <span class="truncate font-semibold">{{ i + 1 }}. {{ called(v.section) }}</span>
          <span class="shrink-0 text-[12.5px] text-soft">
            {{ Math.round(100 * v.score!) }} of 100
            <select
              v-if="wing && sectionOf?.(v.section)"
              class="ml-1 rounded border border-rule bg-field px-1 text-ink"
              :aria-label="`Put ${called(v.section)} on the wing`"
              value=""
              data-test="put-on-wing"
              @change="
                (e) => {
                  const select = e.target as HTMLSelectElement;
                  put(sectionOf!(v.section)!, called(v.section), select.value);
                  select.value = '';
                }
              "
            >
              <option value="">to the wing …</option>
              <option v-for="(words, at) in PLACES" :key="at" :value="at">{{ words }}</option>
            </select>
          </span>
        </li>
      </ol>
      <p v-if="kept.length === 0" class="text-[12.5px] text-clay">Nothing is left: relax a limit.</p>
      <ul v-if="rejected.length" class="mt-2 space-y-1" data-test="rejected">
        <li v-for="v in rejected" :key="v.section" class="text-[12.5px]">
          <span class="text-soft line-through">{{ called(v.section) }}</span>
          <span class="block text-clay"
            >{{ reason(v)
            }}<template v-if="v.rejections.length > 1">, and {{ v.rejections.length - 1 }} more</template></span
          >
        </li>
      </ul>
    </template>
  </SheetGroup>
</template>
