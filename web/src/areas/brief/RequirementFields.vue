<script setup lang="ts">
import { Trash2 } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { BRIEF_LIMITS, MOST_REQUIREMENTS, requirementKey, type Requirement } from '@veldtwind/core/project';
import { responseOf, RESPONSE_SUBJECTS, RESPONSES, unitOf } from '@veldtwind/core/quantities';
import LimitField from '@/components/field/LimitField.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

/** Bands on any quantity of a candidate: chosen by name, with a least and a greatest value, as a must or a wish. */
const project = useProject();
const preferences = usePreferences();
const list = computed(() => project.brief.requirements);
const titled = (name: string) => name.replace(/^[a-z]/, (c) => c.toUpperCase());
const rows = computed(() =>
  list.value.map((r, index) => {
    const q = responseOf(r.quantity);
    const unit = q ? unitOf(q, preferences.units) : '';
    const limit = (side: string): FieldLimit => ({
      label: `${side}${q?.per ? `, ${q.per}` : ''}`,
      dimension: q?.dimension ?? 'plain',
      min: -Infinity,
      max: Infinity,
      optional: true,
    });
    return { r, index, name: q ? titled(q.name) : `${r.quantity} (not known here)`, unit, q, limit };
  }),
);
const free = computed(() => {
  // One of level flight may be asked for again, at another speed.
  const taken = new Set(list.value.map(requirementKey));
  const open = RESPONSES.filter((q) => !taken.has(q.id)).map((q) => ({
    id: q.id,
    subject: RESPONSE_SUBJECTS[q.by],
    name: [titled(q.name), unitOf(q, preferences.units)].filter(Boolean).join(', '),
  }));
  return [...new Set(Object.values(RESPONSE_SUBJECTS))].map((subject) => ({
    subject,
    quantities: open.filter((q) => q.subject === subject),
  }));
});
function add(id: string): void {
  const q = responseOf(id);
  if (q && list.value.length < MOST_REQUIREMENTS)
    project.edit(`Requirement: ${q.name}`, (draft) => {
      draft.brief.requirements.push({ quantity: id, min: null, max: null, weight: 'must' });
    });
}
const remove = (r: Requirement, name: string) =>
  project.edit(`Requirement removed: ${name}`, (draft) => {
    draft.brief.requirements = draft.brief.requirements.filter((o) => requirementKey(o) !== requirementKey(r));
  });
const set = (r: Requirement, name: string, more: Partial<Requirement>) =>
  project.edit(`Requirement: ${name}`, (draft) => {
    const own = draft.brief.requirements.find((o) => requirementKey(o) === requirementKey(r));
    if (own) Object.assign(own, more);
  });
/** The speed that a band is for; the design speed where it is taken away. Two bands at one speed would be one too many. */
const twice = ref('');
function setSpeed(r: Requirement, name: string, speed: number | null): void {
  const { speed: _, ...rest } = r;
  const next: Requirement = speed === null ? rest : { ...rest, speed };
  const key = requirementKey(next);
  if (key === requirementKey(r)) return;
  if (list.value.some((o) => requirementKey(o) === key)) {
    twice.value = requirementKey(r);
    return;
  }
  twice.value = '';
  project.edit(`Requirement: ${name}`, (draft) => {
    const i = draft.brief.requirements.findIndex((o) => requirementKey(o) === requirementKey(r));
    if (i >= 0) draft.brief.requirements[i] = next;
  });
}
const SPEED: FieldLimit = { ...BRIEF_LIMITS.speed, label: 'at speed', optional: true };
/** What will be added: chosen by mouse or by its first letters, and added by the button, so that letters on the way add nothing. */
const next = ref('');
function addChosen(): void {
  add(next.value);
  next.value = '';
}
</script>

<template>
  <div
    v-for="row in rows"
    :key="requirementKey(row.r)"
    class="mb-2 border-b border-rule-light pb-1"
    data-test="requirement"
  >
    <div class="flex items-center justify-between gap-2">
      <span class="leading-tight" :title="row.q?.says">{{ row.name }}</span>
      <span class="flex items-center gap-1">
        <button
          class="rounded border border-rule px-1.5 text-[12px] text-soft hover:bg-select"
          :aria-label="`Weight of ${row.name}: ${row.r.weight}`"
          data-test="requirement-weight"
          @click="set(row.r, row.name, { weight: row.r.weight === 'must' ? 'wish' : 'must' })"
        >
          {{ row.r.weight }}
        </button>
        <button class="icon-btn" :aria-label="`Remove ${row.name}`" @click="remove(row.r, row.name)">
          <Trash2 :size="13" />
        </button>
      </span>
    </div>
    <LimitField
      v-if="row.q?.at"
      :limit="SPEED"
      :model-value="row.r.speed ?? null"
      placeholder="design speed"
      @commit="(v) => setSpeed(row.r, row.name, v)"
    />
    <p v-if="twice === requirementKey(row.r)" class="text-[12px] text-clay" role="alert">
      There is a band at this speed already.
    </p>
    <LimitField
      :limit="row.limit('at least')"
      :model-value="row.r.min"
      :max="row.r.max ?? undefined"
      :digits="row.q?.digits"
      placeholder="no limit"
      @commit="(v) => set(row.r, row.name, { min: v })"
    />
    <LimitField
      :limit="row.limit('at most')"
      :model-value="row.r.max"
      :min="row.r.min ?? undefined"
      :digits="row.q?.digits"
      placeholder="no limit"
      @commit="(v) => set(row.r, row.name, { max: v })"
    />
  </div>
  <form class="flex gap-1.5" @submit.prevent="addChosen">
    <select
      v-model="next"
      class="min-w-0 flex-1 rounded border border-rule bg-transparent px-2 py-1 text-[13px]"
      aria-label="Quantity of a new requirement"
      data-test="add-requirement"
    >
      <option value="">Choose a quantity</option>
      <optgroup v-for="g in free" :key="g.subject" :label="g.subject">
        <option v-for="q in g.quantities" :key="q.id" :value="q.id">{{ q.name }}</option>
      </optgroup>
    </select>
    <button class="btn" :disabled="next === ''" data-test="add-requirement-now">Add</button>
  </form>
</template>
