<script setup lang="ts">
import { Upload, X } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import type { AirframeMotion, DerivativeEstimate } from '@veldtwind/core/candidate';
import {
  bodyDerivatives,
  CONTROL_COEFFICIENTS,
  controlName,
  controlOf,
  derivativeOf,
  dimensionalDerivatives,
  doubtsOf,
  isDerivative,
  motionCase,
  readDerivatives,
  type NamedDerivatives,
} from '@veldtwind/core/motion';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG, VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { DERIVATIVES, titleOf } from './words';

/** The derivatives of candidates, in three forms; those of the one that is worked on beside a measured set, and replaced by hand. */
const props = defineProps<{
  active: CandidatePart;
  own: AirframeMotion;
  shown: { candidate: CandidatePart; motion: AirframeMotion }[];
  /** Of the flight record. */ estimate?: DerivativeEstimate | null;
}>();
const project = useProject();
const preferences = usePreferences();
const FORMS = [
  { id: 'stability', name: 'Along the stream' },
  { id: 'body', name: 'Along the body' },
  { id: 'dimensional', name: 'With dimensions' },
] as const;
type Form = (typeof FORMS)[number]['id'];
const form = computed(() => preferences.get<Form>('derivative-form', 'stability'));
interface Row {
  id: string;
  name: string;
  says: string;
  unit: string;
  values: (number | null)[];
}
const named = (m: AirframeMotion, name: string) => derivativeOf(m.derivatives, name) ?? null;
const overridden = computed(() => new Set(props.own.overridden));
const measured = computed(() => props.active.derivatives?.measured);
const rows = computed<Row[]>(() => {
  if (form.value !== 'stability') {
    const lists = props.shown.map(({ motion: m }) =>
      form.value === 'body' ? bodyDerivatives(m.case, m.trim.alpha) : dimensionalDerivatives(m.case),
    );
    const own =
      form.value === 'body'
        ? bodyDerivatives(props.own.case, props.own.trim.alpha)
        : dimensionalDerivatives(props.own.case);
    return own.map(({ name, unit, says }) => ({
      id: name,
      name: name.replace('_', ' '),
      says,
      unit,
      values: lists.map((l) => l.find((d) => d.name === name)?.value ?? null),
    }));
  }
  const rowOf = (name: string, says: string): Row => ({
    id: name,
    name: `${titleOf(name)}${overridden.value.has(name) ? ' ✎' : ''}`,
    says: overridden.value.has(name) ? `${says}; set by hand` : says,
    unit: '',
    values: props.shown.map(({ motion: m }) => named(m, name)),
  });
  const ofControls = Object.entries(props.own.derivatives.controls).flatMap(([control, effects]) =>
    CONTROL_COEFFICIENTS.filter(
      (k) => Math.abs(effects[k]) > 1e-6 || overridden.value.has(controlName(control, k)),
    ).map((k) => rowOf(controlName(control, k), `per deflection of ${control}`)),
  );
  return [...DERIVATIVES.map(([name, says]) => rowOf(name, says)), ...ofControls];
});
const told = (v: number | null | undefined, digits: number) =>
  v === null || v === undefined ? '—' : formatNumber(v, digits);
const columns = computed<LedgerColumn<Row>[]>(() => {
  const plain = form.value === 'stability';
  const list: LedgerColumn<Row>[] = [{ id: 'name', title: 'derivative', value: (r) => r.name, words: true }];
  props.shown.forEach(({ candidate: c }, i) => {
    list.push({
      id: `rad-${c.id}`,
      title: c.letter,
      unit: form.value === 'dimensional' ? 'SI' : '/rad',
      value: (r) => r.values[i],
      text: (r) => told(r.values[i], 4),
    });
    if (plain)
      list.push({
        id: `deg-${c.id}`,
        title: c.letter,
        unit: '/°',
        value: (r) => (r.values[i] === null ? null : r.values[i]! / DEG),
        text: (r) => told(r.values[i] === null ? null : r.values[i]! / DEG, 6),
      });
  });
  if (form.value === 'dimensional') list.push({ id: 'unit', title: 'unit', value: (r) => r.unit, words: true });
  const { computed } = props.own;
  if (plain && computed)
    list.push({
      id: 'computed',
      title: 'computed',
      unit: '/rad',
      value: (r) => (overridden.value.has(r.id) ? (derivativeOf(computed, r.id) ?? null) : null),
      text: (r) => (overridden.value.has(r.id) ? told(derivativeOf(computed, r.id), 4) : '—'),
    });
  const m = measured.value?.values as NamedDerivatives | undefined;
  if (plain && m) {
    // Against what is computed, not against what was set by hand.
    const found = (r: Row) => derivativeOf(props.own.computed ?? props.own.derivatives, r.id) ?? NaN;
    const off = (r: Row) => (m[r.id] === undefined || Math.abs(m[r.id]) < 1e-9 ? null : 100 * (found(r) / m[r.id] - 1));
    list.push(
      { id: 'measured', title: 'measured', unit: '/rad', value: (r) => m[r.id] ?? null, text: (r) => told(m[r.id], 4) },
      { id: 'off', title: 'computed over it', unit: '%', value: off, text: (r) => told(off(r), 1) },
    );
  }
  const e = new Map((plain && props.estimate ? props.estimate.derivatives : []).map((d) => [d.name, d]));
  if (e.size > 0) {
    const half = (r: Row) => (e.has(r.id) ? 0.5 * (e.get(r.id)!.high - e.get(r.id)!.low) : null);
    list.push(
      {
        id: 'estimated',
        title: 'estimated',
        unit: '/rad',
        value: (r) => e.get(r.id)?.value ?? null,
        text: (r) => told(e.get(r.id)?.value, 4),
      },
      { id: 'bounds', title: '95 % bound ±', unit: '/rad', value: half, text: (r) => told(half(r), 4) },
    );
  }
  list.push({ id: 'says', title: 'meaning', value: (r) => r.says, words: true });
  return list;
});
const chosen = ref<string | null>(null);
const editable = computed(() =>
  form.value === 'stability' && chosen.value !== null && isDerivative(chosen.value) ? chosen.value : null,
);
const VALUE: FieldLimit = { label: '', dimension: 'plain', min: -1000, max: 1000, step: 0.01 };
type Kept = NonNullable<CandidatePart['derivatives']>;
const change = (label: string, edit: (k: Kept) => void) =>
  project.edit(label, ((draft: { candidates: Record<string, CandidatePart> }) => {
    const c = draft.candidates[props.active.id];
    if (!c) return;
    const next = JSON.parse(JSON.stringify(c.derivatives ?? { overrides: {} })) as Kept;
    edit(next);
    if (Object.keys(next.overrides).length === 0 && !next.measured) delete c.derivatives;
    else c.derivatives = next;
  }) as never);
const set = (name: string, v: number) =>
  change(`${titleOf(name)} set by hand`, (k) => ((k.overrides as NamedDerivatives)[name] = v));
const back = (name: string) =>
  change(`${titleOf(name)} as computed`, (k) => delete (k.overrides as NamedDerivatives)[name]);
const measuredValue = computed(() =>
  editable.value ? (measured.value?.values as NamedDerivatives | undefined)?.[editable.value] : undefined,
);
const estimatedValue = computed(() => props.estimate?.derivatives.find((d) => d.name === editable.value)?.value);
/** What looks wrong in the measured set: units, signs. */
const doubts = computed(() => {
  if (!measured.value) return [];
  const derivatives = Object.fromEntries(Object.entries(measured.value.values).filter(([n]) => !controlOf(n)));
  const parsed = motionCase.safeParse({ ...props.own.case, derivatives: { ...derivatives, controls: {} } });
  return parsed.success ? doubtsOf(parsed.data) : [];
});
async function load(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  try {
    const values = readDerivatives(await file.text());
    change(`Measured derivatives from ${file.name}`, (k) => (k.measured = { name: file.name.slice(0, 120), values }));
    preferences.set('derivative-form', 'stability');
  } catch (error) {
    toast.error('The derivatives were not read', {
      description: error instanceof VeldtwindError ? `${error.message} ${error.hint ?? ''}` : (error as Error).message,
      duration: 8000,
    });
  }
}
</script>

<template>
  <div class="flex h-full min-h-0 flex-col">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-1">
      <slot />
      <div v-if="editable" class="flex items-center gap-4 text-[13px]" data-test="override">
        <LimitField
          class="w-64"
          :limit="VALUE"
          :label="`${titleOf(editable)}, per rad`"
          :model-value="named(own, editable)"
          :digits="4"
          @commit="(v) => v !== null && set(editable!, v)"
        />
        <button
          v-if="measuredValue !== undefined"
          class="link"
          data-test="take-measured"
          @click="set(editable, measuredValue)"
        >
          take the measured {{ formatNumber(measuredValue, 4) }}
        </button>
        <button
          v-if="estimatedValue !== undefined"
          class="link"
          data-test="take-estimated"
          @click="set(editable, Number(estimatedValue.toPrecision(6)))"
        >
          take the estimated {{ formatNumber(estimatedValue, 4) }}
        </button>
        <button v-if="overridden.has(editable)" class="link" data-test="as-computed" @click="back(editable)">
          as computed
        </button>
        <span class="text-soft">for Motion and Control; flights have their tables</span>
        <button class="link" @click="chosen = null">done</button>
      </div>
      <ChipRow
        v-else
        label="Form"
        :options="FORMS"
        :on="[form]"
        test="derivative-form"
        @pick="(id) => preferences.set('derivative-form', id)"
      />
      <label v-if="!editable" class="link flex cursor-pointer items-center gap-1 text-[13px]">
        <Upload :size="12" />beside a measured set
        <input
          class="sr-only"
          type="file"
          accept=".json,.csv,.txt"
          aria-label="Read measured derivatives"
          data-test="read-derivatives"
          @change="load"
        />
      </label>
      <span
        v-if="measured && !editable"
        class="flex items-center gap-1 text-[12.5px] text-soft"
        data-test="measured-name"
      >
        {{ measured.name }}
        <button
          class="icon-btn"
          title="Remove"
          aria-label="Remove the measured set"
          @click="change('Measured set taken away', (k) => delete k.measured)"
        >
          <X :size="12" />
        </button>
      </span>
      <button
        v-if="own.overridden.length > 0 && !editable"
        class="link text-[13px]"
        data-test="all-computed"
        @click="change('All derivatives as computed', (k) => (k.overrides = {}))"
      >
        all {{ own.overridden.length }} as computed
      </button>
    </div>
    <p v-for="d in doubts" :key="d" class="px-4 text-[12.5px] text-clay" data-test="measured-doubt">
      Measured: {{ d }}
    </p>
    <LedgerTable
      class="min-h-0 flex-1"
      :rows="rows"
      :columns="columns"
      :label="`About the centre of gravity; b ${formatNumber(own.reference.span, 3)} m, c ${formatNumber(own.reference.chord, 4)} m, S ${formatNumber(own.reference.area, 3)} m²`"
      file-name="veldtwind-derivatives"
      :selected="chosen"
      @select="(id) => (chosen = chosen === id ? null : id)"
    />
  </div>
</template>
