<script setup lang="ts">
import { Play, Plus, Trash2, X } from 'lucide-vue-next';
import { computed } from 'vue';
import {
  choose as judge,
  CONDITION_LIMITS,
  FAMILY_NUMBERS,
  limitOfNumber,
  MOST_VALUES,
  recipeNumbers,
  shortName,
  type Criterion,
  type FamilyNumber,
} from '@veldtwind/core/polar';
import type { StudyPart } from '@veldtwind/core/project';
import { CURVE_QUANTITIES } from '@veldtwind/core/quantities';
import { sectionFacts } from '@veldtwind/core/section';
import { sourceOutline, type SectionSource } from '@veldtwind/core/shaping';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import { newId } from '@/lib/ids';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import ChooseSheet from '../ChooseSheet.vue';
import { shortReynolds } from '../curve-series';
import { readList, readReynolds } from '../plan-form';
import RunList from '../RunList.vue';
import type { FamilyMember } from './use-family';

/** What a study varies, at what it is solved, what is asked of it, and its search. */
const props = defineProps<{
  studies: StudyPart[];
  study: StudyPart | undefined;
  base: SectionSource | null;
  problem: string | null;
  members: FamilyMember[];
  missing: number;
  /** Members picked, one or two. */
  chosen: FamilyMember[];
}>();
const emit = defineEmits<{
  choose: [id: string];
  run: [];
  between: [];
  keep: [];
  criteria: [criteria: Criterion[]];
}>();
const project = useProject();
const runs = useRuns();
const sections = computed(() => [...project.sections].sort((a, b) => a.name.localeCompare(b.name)));
const options = computed(() => sections.value.map((s) => ({ id: s.id, name: s.name })));

/** Values about the base's own: a first grid that can be run as it is. */
function startOf(id: FamilyNumber, source: SectionSource | null): number[] {
  const facts = (() => {
    try {
      return source && sectionFacts(sourceOutline(source, 161));
    } catch {
      return null;
    }
  })();
  const round = (v: number) => Number(v.toFixed(3));
  const t = facts?.thickness ?? { max: 0.12, at: 0.3 };
  const f = facts?.camber ?? { max: 0.02, at: 0.4 };
  switch (id) {
    case 'thickness':
      return [0.8, 1, 1.2].map((k) => round(k * t.max));
    case 'thickness-crest':
      return [-0.06, 0, 0.06].map((d) => round(Math.min(0.8, Math.max(0.1, t.at + d))));
    case 'camber':
      return [-0.01, 0, 0.01].map((d) => round(f.max + d));
    case 'camber-crest':
      return [-0.1, 0, 0.1].map((d) => round(Math.min(0.9, Math.max(0.1, f.at + d))));
    case 'nose-radius':
      return [0.008, 0.012, 0.018];
  }
}
function make(): void {
  const base = sections.value[0];
  if (!base) return;
  const id = newId().slice(0, 8);
  const study: StudyPart = {
    id,
    name: `Family of ${base.name}`.slice(0, 80),
    note: '',
    base: base.id,
    numbers: [
      { id: 'thickness', values: startOf('thickness', null) },
      { id: 'camber', values: [0.02, 0.03, 0.04] },
    ],
    tries: [],
    reynolds: [500_000],
    mach: 0,
    alpha: { fromDeg: -4, toDeg: 14, stepDeg: 1 },
    conditions: { criticalAmplification: 9 },
    criteria: [],
    searching: null,
  };
  project.edit(`Begin ${study.name}`, (draft) => void (draft.studies[id] = study));
  emit('choose', id);
}
const change = (label: string, edit: (s: StudyPart) => void) => {
  const id = props.study?.id;
  if (id) project.edit(label, (draft) => draft.studies[id] && edit(draft.studies[id]));
};
const remove = () => {
  const s = props.study;
  if (s) project.edit(`Remove ${s.name}`, (draft) => delete draft.studies[s.id]);
};

/** Numbers that are not varied yet. */
const free = computed(() => {
  const taken = new Set(props.study?.numbers.map((n) => n.id));
  const own = props.base
    ? recipeNumbers(props.base).map((n) => ({
        id: n.id,
        name: `step ${Number(n.id.split('.')[1]) + 1}, ${n.step} ${n.field}`,
      }))
    : [];
  return [
    ...(Object.keys(FAMILY_NUMBERS) as FamilyNumber[]).map((id) => ({
      id: id as string,
      name: FAMILY_NUMBERS[id].name as string,
    })),
    ...own,
  ].filter((n) => !taken.has(n.id));
});
const nameOf = (id: string) => {
  if (id in FAMILY_NUMBERS) return `${FAMILY_NUMBERS[id as FamilyNumber].name}, %`;
  const n = props.base && recipeNumbers(props.base).find((r) => r.id === id);
  return n ? `${n.step} ${n.field}` : shortName(id);
};
const factor = (id: string) => (id in FAMILY_NUMBERS ? 100 : 1);
function add(id: string): void {
  const own = props.base ? recipeNumbers(props.base).find((n) => n.id === id) : undefined;
  const values = own
    ? [0.8, 1, 1.2].map((k) => Number((k * own.value).toPrecision(4)))
    : startOf(id as FamilyNumber, props.base);
  // Tries are of the numbers they were made for.
  change('Vary another number', (s) => {
    s.numbers.push({ id, values: [...new Set(values)] });
    s.tries = [];
  });
}
const wrong = computed(() => {
  const bad: Record<string, string> = {};
  for (const { id, values } of props.study?.numbers ?? []) {
    const l = props.base && limitOfNumber(props.base, id);
    const out = l && values.find((v) => v < l.min || v > l.max);
    if (out !== undefined && out !== null && l)
      bad[id] = `${out * factor(id)} lies outside ${l.min * factor(id)} to ${l.max * factor(id)}.`;
  }
  return bad;
});
const refused = computed(() => Object.values(wrong.value)[0] ?? null);
function setValues(id: string, text: string): void {
  const values = readList(text, 'number', -1000, 1000);
  if (typeof values === 'string' || values.length === 0) return;
  const made = values.slice(0, MOST_VALUES).map((v) => Number((v / factor(id)).toPrecision(8)));
  change('Values of a family', (s) => {
    const n = s.numbers.find((k) => k.id === id);
    if (n) n.values = made;
  });
}
function setReynolds(text: string): void {
  const list = readReynolds(text);
  if (typeof list !== 'string') change('Reynolds numbers of a family', (s) => void (s.reynolds = list.slice(0, 20)));
}

const verdicts = computed(() =>
  judge(
    props.members.flatMap((m) =>
      m.facts.flatMap((f, i) =>
        f
          ? [
              {
                section: m.name,
                curve: shortReynolds([...props.study!.reynolds].sort((a, b) => a - b)[i]),
                facts: Object.fromEntries(
                  CURVE_QUANTITIES.filter((q) => props.study!.criteria.some((c) => c.fact === q.id)).map((q) => [
                    q.id,
                    q.of(f),
                  ]),
                ),
              },
            ]
          : [],
      ),
    ),
    props.study?.criteria ?? [],
  ).slice(0, 8),
);
const searchable = computed(
  () =>
    props.study &&
    props.study.criteria.length > 0 &&
    props.study.numbers.some((n) => new Set(n.values).size > 1) &&
    !props.problem &&
    !refused.value,
);
const SEARCH = 24;
const best = computed(() => {
  const known = props.members.filter((m) => m.cost !== null);
  return known.length ? known.reduce((a, b) => (a.cost! <= b.cost! ? a : b)) : null;
});
const L = CONDITION_LIMITS;
</script>

<template>
  <SheetGroup title="Family study">
    <template #aside>
      <button
        class="link flex items-center gap-1 text-[12.5px]"
        data-test="new-study"
        :disabled="!sections.length"
        @click="make"
      >
        <Plus :size="13" /> New
      </button>
    </template>
    <p v-if="!study" class="text-[12.5px] text-soft">
      A family study varies a section’s thickness, camber, their crests, or numbers of its recipe, and solves every
      member.
    </p>
    <template v-else>
      <SelectRow
        v-if="studies.length > 1"
        label="Study"
        :model-value="study.id"
        :options="studies"
        @update:model-value="(id) => emit('choose', id)"
      />
      <TextRow
        label="Name"
        needed
        :most="80"
        :model-value="study.name"
        @update:model-value="(v) => change('Rename a study', (s) => void (s.name = v))"
      />
      <SelectRow
        label="Base section"
        :model-value="study.base"
        :options="options"
        test="study-base"
        @update:model-value="(id) => change('Base of a study', (s) => void (s.base = id))"
      />
      <div v-for="n in study.numbers" :key="n.id" data-test="varied">
        <div class="flex items-center gap-1">
          <TextRow
            class="min-w-0 flex-1"
            :label="nameOf(n.id)"
            :model-value="n.values.map((v) => Number((v * factor(n.id)).toPrecision(7))).join(', ')"
            :most="300"
            needed
            :test="`values-${n.id}`"
            @update:model-value="(v) => setValues(n.id, v)"
          />
          <button
            class="icon-btn"
            :aria-label="`Do not vary ${nameOf(n.id)}`"
            title="Do not vary it"
            @click="
              change(
                'Vary a number less',
                (s) => ((s.numbers = s.numbers.filter((k) => k.id !== n.id)), (s.tries = [])),
              )
            "
          >
            <X :size="13" />
          </button>
        </div>
        <p v-if="wrong[n.id]" class="text-[12px] text-clay">{{ wrong[n.id] }}</p>
      </div>
      <label
        v-if="free.length && study.numbers.length < 8"
        class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft"
      >
        Vary also
        <select
          class="min-w-0 rounded border border-rule bg-field px-1.5 py-[3px] text-ink"
          data-test="vary-also"
          :value="''"
          @change="
            (e) => (
              (e.target as HTMLSelectElement).value && add((e.target as HTMLSelectElement).value),
              ((e.target as HTMLSelectElement).value = '')
            )
          "
        >
          <option value="">choose …</option>
          <option v-for="n in free" :key="n.id" :value="n.id">{{ n.name }}</option>
        </select>
      </label>
      <TextRow
        label="Reynolds numbers"
        needed
        :model-value="study.reynolds.map(shortReynolds).join(', ')"
        :most="400"
        test="study-reynolds"
        @update:model-value="setReynolds"
      />
      <LimitField
        :limit="{ ...L.alphaDeg, step: 1 }"
        label="From"
        :model-value="study.alpha.fromDeg"
        @commit="(v) => change('Angles of a study', (s) => void (s.alpha.fromDeg = v!))"
      />
      <LimitField
        :limit="{ ...L.alphaDeg, step: 1 }"
        label="To"
        :model-value="study.alpha.toDeg"
        @commit="(v) => change('Angles of a study', (s) => void (s.alpha.toDeg = v!))"
      />
      <LimitField
        :limit="{ ...L.alphaDeg, label: 'Step', min: 0.05, max: 10, step: 0.25 }"
        :model-value="study.alpha.stepDeg"
        @commit="(v) => change('Angles of a study', (s) => void (s.alpha.stepDeg = v!))"
      />
      <p
        class="mt-1 text-[12.5px]"
        :class="problem || refused ? 'text-clay' : 'text-soft'"
        role="status"
        data-test="study-words"
      >
        {{ problem ?? refused ?? `${members.length} sections, ${missing === 0 ? 'all run' : `${missing} to run`}` }}
      </p>
      <div class="mt-1 flex gap-2">
        <button
          class="btn btn-main flex flex-1 items-center justify-center gap-1.5"
          :disabled="Boolean(problem) || Boolean(refused) || missing === 0 || runs.going.length > 0"
          data-test="run-study"
          @click="emit('run')"
        >
          <Play :size="14" /> Run
        </button>
        <button
          class="icon-btn"
          aria-label="Remove the study"
          title="Remove the study; its curves stay"
          @click="remove"
        >
          <Trash2 :size="15" />
        </button>
      </div>
      <p v-if="runs.failure" class="mt-2 text-[12.5px] text-clay" role="alert">{{ runs.failure }}</p>
    </template>
  </SheetGroup>
  <SheetGroup v-if="study && members.length" title="Picked">
    <p v-if="!chosen.length" class="text-[12.5px] text-soft">
      Click lines or rows: the last two that were picked stand here.
    </p>
    <ul>
      <li v-for="m in chosen" :key="m.key" class="truncate font-semibold" data-test="picked-member">{{ m.name }}</li>
    </ul>
    <div v-if="chosen.length" class="mt-1 flex flex-wrap gap-2">
      <button class="btn" data-test="keep-members" @click="emit('keep')">Keep in the library</button>
      <button v-if="chosen.length === 2" class="btn" data-test="between-members" @click="emit('between')">
        Half way between
      </button>
    </div>
  </SheetGroup>
  <template v-if="study">
    <ChooseSheet :criteria="study.criteria" :verdicts="verdicts" @change="(c) => emit('criteria', c)" />
    <SheetGroup title="Search">
      <p class="text-[12.5px] text-soft">
        {{
          study.criteria.length === 0
            ? 'Add criteria above: the search varies the numbers between their least and greatest values to meet them, and keeps every try.'
            : study.searching === null
              ? 'Varies the numbers between their least and greatest values to meet the criteria; every try is kept.'
              : `Searching: ${study.searching} more tries.`
        }}
      </p>
      <p v-if="best" class="mt-1" data-test="search-best">
        Nearest: <b>{{ best.name }}</b>{{ best.cost !== null && best.cost <= 0 ? ', meets them all' : '' }}
      </p>
      <div class="mt-1 flex gap-2">
        <button
          v-if="study.searching === null"
          class="btn"
          :disabled="!searchable"
          data-test="search-start"
          @click="change('Search a family', (s) => void (s.searching = SEARCH))"
        >
          {{ study.tries.length ? `Search on, ${SEARCH} tries` : `Search, ${SEARCH} tries` }}
        </button>
        <button
          v-else
          class="btn"
          data-test="search-stop"
          @click="change('End the search', (s) => void (s.searching = null))"
        >
          Stop
        </button>
      </div>
    </SheetGroup>
  </template>
  <RunList />
</template>
