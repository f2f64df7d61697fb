<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { designPoint, type DesignCandidate, type Evaluation } from '@veldtwind/core/candidate';
import type { FieldLimit } from '@veldtwind/core/limits';
import { BRIEF_LIMITS, type Band, type CandidatePart } from '@veldtwind/core/project';
import { CANDIDATE_QUANTITIES, DESIGN_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { DEG } from '@veldtwind/core/numerics';
import { UNIT_SETS, type DecimalMark } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import AssumptionFields from '@/components/assumptions/AssumptionFields.vue';
import BoundField from '@/components/field/BoundField.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { quantityColumns } from '@/lib/quantity-columns';
import { DATE_STYLES, usualDates } from '@/lib/when';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { BriefPart } from '@/lib/types';
import BandChart from './BandChart.vue';
import RequirementFields from './RequirementFields.vue';
import RequirementTable from './RequirementTable.vue';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const brief = computed(() => project.brief);

type BandKey = keyof BriefPart['bands'];
/** The bands, each held against a quantity of the candidates. */
const BANDS: { key: BandKey; name: string; quantity?: string; digits: number; step: number; hint: string }[] = [
  {
    key: 'trimAngleDeg',
    name: 'Trim angle',
    quantity: 'trim-angle',
    digits: 1,
    step: 0.1,
    hint: 'Angle of attack at which the pitching moment is zero',
  },
  {
    key: 'staticMargin',
    name: 'Static margin',
    quantity: 'static-margin',
    digits: 1,
    step: 0.005,
    hint: 'Distance of the neutral point behind the centre of gravity, over the mean chord',
  },
  {
    key: 'pitchSlopePerDeg',
    name: 'Pitch slope',
    quantity: 'pitch-slope',
    digits: 4,
    step: 0.001,
    hint: 'dCm/dα; negative is stable',
  },
  {
    key: 'dampingRatio',
    name: 'Damping ratio',
    digits: 3,
    step: 0.01,
    hint: 'Of every oscillating mode, in Motion',
  },
];
/** What slopes over an angle are told by: one degree, or one radian. */
const perAngle = computed(() => preferences.get<'degree' | 'radian'>('slopes-per', 'degree'));
const PER_ANGLE = [
  { id: 'degree', name: 'degree' },
  { id: 'radian', name: 'radian' },
] as const;
const SLOPE = 'pitchSlopePerDeg';
/** How many times the kept number is shown. */
const timesOf = (b: (typeof BANDS)[number]) => (b.key === SLOPE && perAngle.value === 'radian' ? DEG : 1);
const digitsOf = (b: (typeof BANDS)[number]) => (timesOf(b) === 1 ? b.digits : 3);
const nameOf = (b: (typeof BANDS)[number]) => (b.key === SLOPE ? `${b.name} per ${perAngle.value}` : b.name);
const quantityOf = (b: (typeof BANDS)[number]) => (b.quantity ? quantityIn(CANDIDATE_QUANTITIES, b.quantity) : null);
/** A side of a band may be left open. */
const limitOf = (b: (typeof BANDS)[number], side: 'from' | 'to'): FieldLimit => ({
  // A field has less room than the figure.
  label: `${b.key === SLOPE ? `${b.name} ${perAngle.value === 'radian' ? '/rad' : '/°'}` : b.name}, ${side}`,
  dimension: quantityOf(b)?.dimension ?? 'plain',
  min: -Infinity,
  max: Infinity,
  step: b.step,
  hint: b.hint,
  optional: true,
});

const note = ref(brief.value.note);
watch(
  () => brief.value.note,
  (n) => (note.value = n),
);
const saveNote = () =>
  note.value !== brief.value.note && project.edit('Note on the brief', (draft) => void (draft.brief.note = note.value));

const designOf = (c?: DesignCandidate) => {
  try {
    return designPoint(brief.value, c);
  } catch {
    return null;
  }
};
interface Row {
  id: string;
  candidate: CandidatePart;
  /** What is known; its design point at least, where it can be. */
  evaluation: Evaluation;
}
const rows = computed<Row[]>(() =>
  project.candidates.map((candidate) => ({
    id: candidate.id,
    candidate,
    evaluation: workbench.of(candidate.id) ?? {
      method: 'lattice',
      design: designOf(candidate),
      lift: null,
      curve: null,
      mass: null,
      balance: null,
      problems: [],
    },
  })),
);
const COLUMNS = computed(() =>
  [
    ...['CL-needed', 're-root', 're-mean', 're-tip', 'trim-angle', 'static-margin'],
    perAngle.value === 'radian' ? 'pitch-slope-rad' : 'pitch-slope',
  ].map((id) => quantityIn(CANDIDATE_QUANTITIES, id)),
);
const columns = computed<LedgerColumn<Row>[]>(() => [
  {
    id: 'letter',
    title: 'Candidate',
    value: (r) => r.candidate.letter,
    text: (r) => `${r.candidate.letter} ${r.candidate.name}`,
    words: true,
  },
  ...quantityColumns<Row, Evaluation>(COLUMNS.value, (r) => r.evaluation, preferences.units),
]);
const design = computed(() => designOf(workbench.active));
const timed = ({ min, max }: Band, k: number): Band => ({
  min: min === null ? null : k * min,
  max: max === null ? null : k * max,
});
const bandRows = computed(() =>
  BANDS.filter((b) => b.quantity).map((b) => ({
    key: b.key,
    name: nameOf(b),
    dimension: quantityOf(b)!.dimension,
    digits: digitsOf(b),
    band: timed(brief.value.bands[b.key], timesOf(b)),
    values: workbench.visible.flatMap((candidate) => {
      const e = workbench.of(candidate.id);
      const value = e && quantityOf(b)!.of(e);
      return value === null ? [] : [{ candidate, value: value * timesOf(b) }];
    }),
  })),
);
const decimalMarks: { id: DecimalMark; name: string }[] = [
  { id: 'point', name: 'Point: 1,234.5' },
  { id: 'comma', name: 'Comma: 1.234,5' },
];
const units = UNIT_SETS.map(({ id, name }) => ({ id, name }));
</script>

<template>
  <AreaPage area="brief" title="Brief" question="What must it do?">
    <template #figure>
      <div class="grid min-h-full grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_1fr] px-6 py-4">
        <BandChart :rows="bandRows" />
        <div class="overflow-x-auto" role="region" aria-label="Requirements and candidates" tabindex="0">
          <RequirementTable />
        </div>
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
        <BoundField :path="['brief', 'speed']" :limit="BRIEF_LIMITS.speed" step="Design speed" />
        <BoundField :path="['brief', 'altitude']" :limit="BRIEF_LIMITS.altitude" step="Design altitude" />
        <BoundField :path="['brief', 'mass']" :limit="BRIEF_LIMITS.mass" step="Design mass" />
        <BoundField
          :path="['brief', 'spanLimit']"
          :limit="BRIEF_LIMITS.spanLimit"
          step="Span limit"
          placeholder="no limit"
        />
        <BoundField
          :path="['brief', 'climbSpeed']"
          :limit="BRIEF_LIMITS.climbSpeed"
          step="Climb speed"
          placeholder="not set"
        />
        <BoundField
          :path="['brief', 'stallSpeed']"
          :limit="BRIEF_LIMITS.stallSpeed"
          step="Stall speed"
          placeholder="not set"
        />
      </SheetGroup>
      <SheetGroup title="Derived">
        <QuantityRow v-for="q in DESIGN_QUANTITIES" :key="q.id" :quantity="q" :from="design" />
      </SheetGroup>
      <SheetGroup title="Bands to hold">
        <div v-for="b in BANDS" :key="b.key" class="mb-1.5">
          <BoundField
            :path="['brief', 'bands', b.key, 'min']"
            :limit="limitOf(b, 'from')"
            :max="brief.bands[b.key].max ?? undefined"
            :digits="digitsOf(b)"
            :times="timesOf(b)"
            :step="`${b.name} from`"
            placeholder="open"
          />
          <BoundField
            :path="['brief', 'bands', b.key, 'max']"
            :limit="limitOf(b, 'to')"
            :min="brief.bands[b.key].min ?? undefined"
            :digits="digitsOf(b)"
            :times="timesOf(b)"
            :step="`${b.name} to`"
            placeholder="open"
          />
        </div>
      </SheetGroup>
      <SheetGroup title="Requirements"><RequirementFields /></SheetGroup>
      <SheetGroup title="Assumptions"><AssumptionFields /></SheetGroup>
      <SheetGroup title="Units">
        <SelectRow
          label="Shown in"
          :model-value="preferences.units"
          :options="units"
          test="units"
          @update:model-value="preferences.setUnits"
        />
        <SelectRow
          label="Decimal mark"
          :model-value="preferences.decimalMark"
          :options="decimalMarks"
          test="decimal-mark"
          @update:model-value="preferences.setDecimalMark"
        />
        <SelectRow
          label="Dates"
          :model-value="preferences.get('dates', usualDates())"
          :options="DATE_STYLES"
          test="dates"
          @update:model-value="(v) => preferences.set('dates', v)"
        />
        <SelectRow
          label="Pitch slope per"
          :model-value="perAngle"
          :options="PER_ANGLE"
          test="slopes-per"
          @update:model-value="(v) => preferences.set('slopes-per', v)"
        />
      </SheetGroup>
    </template>
  </AreaPage>
</template>
