<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { designPoint } from '@veldtwind/core/candidate';
import { UNIT_SETS, formatNumber, type Dimension } from '@veldtwind/core/units';
import type { Band } from '@veldtwind/core/project';
import AreaPage from '@/components/shell/AreaPage.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { BriefPart } from '@/lib/types';
import BandChart from './BandChart.vue';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const brief = computed(() => project.brief);

const put = (more: Partial<BriefPart>): BriefPart => ({ ...brief.value, ...more });
const show = (more: Partial<BriefPart>) => project.show([project.putBrief(put(more))]);
const save = (label: string, more: Partial<BriefPart>) => project.edit(label, [project.putBrief(put(more))]);

type BandKey = keyof BriefPart['bands'];
const BANDS: { key: BandKey; name: string; dimension: Dimension; digits: number; step: number; hint: string }[] = [
  {
    key: 'trimAngleDeg',
    name: 'Trim angle',
    dimension: 'angle',
    digits: 1,
    step: 0.1,
    hint: 'Angle of attack at which the pitching moment is zero',
  },
  {
    key: 'staticMargin',
    name: 'Static margin',
    dimension: 'ratio',
    digits: 1,
    step: 0.005,
    hint: 'Distance of the neutral point behind the centre of gravity, over the mean chord',
  },
  {
    key: 'pitchSlopePerDeg',
    name: 'Pitch slope',
    dimension: 'plain',
    digits: 4,
    step: 0.001,
    hint: 'dCm/dα per degree; negative is stable',
  },
];
const saveBand = (key: BandKey, name: string, side: 'min' | 'max', value: number | null) =>
  save(`${name} ${side === 'min' ? 'from' : 'to'}`, {
    bands: { ...brief.value.bands, [key]: { ...brief.value.bands[key], [side]: value } },
  });

const note = ref(brief.value.note);
watch(
  () => brief.value.note,
  (n) => (note.value = n),
);
const saveNote = () => note.value !== brief.value.note && save('Note on the brief', { note: note.value });

const DEG = 180 / Math.PI;
interface Row {
  id: string;
  letter: string;
  name: string;
  cl: number | null;
  root: number | null;
  mean: number | null;
  tip: number | null;
  trim: number | null;
  margin: number | null;
  slope: number | null;
}
const designOf = (c: Parameters<typeof designPoint>[1]) => {
  try {
    return designPoint(brief.value, c);
  } catch {
    return null;
  }
};
const rows = computed<Row[]>(() =>
  project.candidates.map((c) => {
    const e = workbench.of(c.id);
    const d = designOf(c);
    return {
      id: c.id,
      letter: c.letter,
      name: c.name,
      cl: d?.CL ?? null,
      root: d?.reynolds?.root ?? null,
      mean: d?.reynolds?.mean ?? null,
      tip: d?.reynolds?.tip ?? null,
      trim: e?.balance?.trims[0] ? e.balance.trims[0].alpha * DEG : null,
      margin: e?.balance ? e.balance.staticMargin * 100 : null,
      slope: e?.balance ? e.balance.pitchSlope / DEG : null,
    };
  }),
);
const number = (v: number | null, digits: number) => (v === null ? '—' : formatNumber(v, digits));
const big = (v: number | null) =>
  v === null
    ? '—'
    : Math.round(v / 1000)
        .toLocaleString('en')
        .replace(/,/g, ' ') + ' 000';
const columns: LedgerColumn<Row>[] = [
  { id: 'letter', title: 'Candidate', value: (r) => r.letter, text: (r) => `${r.letter} ${r.name}`, words: true },
  { id: 'cl', title: 'CL needed', value: (r) => r.cl, text: (r) => number(r.cl, 3) },
  { id: 'root', title: 'Re root', value: (r) => r.root, text: (r) => big(r.root) },
  { id: 'mean', title: 'Re mean', value: (r) => r.mean, text: (r) => big(r.mean) },
  { id: 'tip', title: 'Re tip', value: (r) => r.tip, text: (r) => big(r.tip) },
  { id: 'trim', title: 'trim', unit: '°', value: (r) => r.trim, text: (r) => number(r.trim, 2) },
  { id: 'margin', title: 'static margin', unit: '%', value: (r) => r.margin, text: (r) => number(r.margin, 1) },
  { id: 'slope', title: 'pitch slope', unit: 'per °', value: (r) => r.slope, text: (r) => number(r.slope, 4) },
];
const design = computed(() => designOf(workbench.active));
const bandRows = computed(() =>
  BANDS.map((b) => ({
    ...b,
    band: brief.value.bands[b.key] as Band,
    values: project.candidates
      .filter((c) => workbench.visible.some((v) => v.id === c.id))
      .flatMap((c) => {
        const e = workbench.of(c.id)?.balance;
        const v = !e
          ? null
          : b.key === 'trimAngleDeg'
            ? e.trims[0]
              ? e.trims[0].alpha * DEG
              : null
            : b.key === 'staticMargin'
              ? e.staticMargin
              : e.pitchSlope / DEG;
        return v === null ? [] : [{ candidate: c, value: v }];
      }),
  })),
);
</script>

<template>
  <AreaPage area="brief" title="Brief" question="What must it do?">
    <template #figure>
      <div class="grid h-full min-h-0 grid-rows-[auto_1fr] px-6 py-4">
        <BandChart :rows="bandRows" />
        <label class="mt-3 flex min-h-24 flex-col">
          <span class="serif text-[15px] font-semibold">In words</span>
          <textarea
            v-model="note"
            class="serif mt-1 flex-1 resize-none rounded border border-transparent bg-transparent p-1 text-[15px] leading-relaxed outline-offset-2 hover:border-rule focus:border-rule"
            maxlength="8000"
            placeholder="What the aircraft is for, and what would make it a good one."
            data-test="brief-note"
            @blur="saveNote"
          />
        </label>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        label="Candidates at the design point"
        file-name="veldtwind-brief"
        :selected="workbench.active?.id"
        @select="workbench.setActive"
      />
    </template>
    <template #sheet>
      <SheetGroup title="Design point">
        <NumberField
          label="Speed"
          dimension="speed"
          :model-value="brief.speed"
          :min="1"
          :max="400"
          :step="0.5"
          @preview="(v) => show({ speed: v })"
          @commit="(v) => save('Design speed', { speed: v! })"
        />
        <NumberField
          label="Altitude"
          dimension="altitude"
          :model-value="brief.altitude"
          :min="-1000"
          :max="50000"
          :step="50"
          @preview="(v) => show({ altitude: v })"
          @commit="(v) => save('Design altitude', { altitude: v! })"
        />
        <NumberField
          label="Mass"
          dimension="mass"
          :model-value="brief.mass"
          :min="0.01"
          :max="1000000"
          :step="0.1"
          @preview="(v) => show({ mass: v })"
          @commit="(v) => save('Design mass', { mass: v! })"
        />
        <NumberField
          label="Span, at most"
          dimension="length"
          :model-value="brief.spanLimit"
          :min="0.01"
          :max="1000"
          :step="0.05"
          nullable
          placeholder="no limit"
          @preview="(v) => show({ spanLimit: v })"
          @commit="(v) => save('Span limit', { spanLimit: v })"
        />
      </SheetGroup>
      <SheetGroup title="Follows">
        <template v-if="design">
          <DerivedRow label="Air density" :value="design.flow.density" dimension="plain" :digits="4" unit="kg/m³" />
          <DerivedRow label="Dynamic pressure" :value="design.flow.dynamicPressure" dimension="pressure" :digits="1" />
          <DerivedRow label="Mach number" :value="design.flow.mach" dimension="plain" :digits="4" unit="" />
          <DerivedRow label="Weight" :value="design.weight" dimension="force" />
          <DerivedRow
            label="CL needed"
            :value="design.CL"
            dimension="plain"
            unit=""
            note="Weight over dynamic pressure and wing area"
          />
          <DerivedRow
            label="Re, mean chord"
            :value="design.reynolds ? design.reynolds.mean / 1000 : null"
            dimension="plain"
            :digits="0"
            unit="× 10³"
          />
        </template>
      </SheetGroup>
      <SheetGroup title="Bands to hold">
        <div v-for="b in BANDS" :key="b.key" class="mb-1.5">
          <NumberField
            :label="`${b.name}, from`"
            :dimension="b.dimension"
            :digits="b.digits"
            :step="b.step"
            :model-value="brief.bands[b.key].min"
            :max="brief.bands[b.key].max ?? undefined"
            nullable
            placeholder="open"
            :hint="b.hint"
            @commit="(v) => saveBand(b.key, b.name, 'min', v)"
          />
          <NumberField
            :label="`${b.name}, to`"
            :dimension="b.dimension"
            :digits="b.digits"
            :step="b.step"
            :model-value="brief.bands[b.key].max"
            :min="brief.bands[b.key].min ?? undefined"
            nullable
            placeholder="open"
            :hint="b.hint"
            @commit="(v) => saveBand(b.key, b.name, 'max', v)"
          />
        </div>
      </SheetGroup>
      <SheetGroup title="Units">
        <label class="flex items-center justify-between text-soft">
          Shown in
          <select
            class="rounded border border-rule bg-field px-2 py-1 text-ink"
            :value="preferences.units"
            data-test="units"
            @change="preferences.setUnits(($event.target as HTMLSelectElement).value as typeof preferences.units)"
          >
            <option v-for="u in UNIT_SETS" :key="u.id" :value="u.id">{{ u.name }}</option>
          </select>
        </label>
      </SheetGroup>
    </template>
  </AreaPage>
</template>
