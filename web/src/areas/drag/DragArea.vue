<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import {
  ALLOWANCE_KINDS,
  BODY_FORMS,
  DRAG_LIMITS,
  dragSchema,
  FRICTION_LAWS,
  JOINTS,
  SURFACE_FORMS,
  type AllowanceKind,
  type DragAllowance,
  type DragPart,
  type DragSettings,
} from '@veldtwind/core/drag';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { BRIEF_LIMITS } from '@veldtwind/core/project';
import { DRAG_QUANTITIES, inUnit, textOf } from '@veldtwind/core/quantities';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import DragMap from './DragMap.vue';
import { useDrag } from './use-drag';
import { OVER, TOLD_AS, useDragCurves } from './use-drag-curves';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const active = computed(() => workbench.active);
/** Another speed and altitude than the brief's, for this page. */
const other = ref<{ speed: number | null; altitude: number | null }>({ speed: null, altitude: null });
const speed = computed(() => other.value.speed ?? project.brief.speed);
const altitude = computed(() => other.value.altitude ?? project.brief.altitude);
const { all, over, polars, needed } = useDrag(
  () => speed.value,
  () => altitude.value,
  () => speeds.value,
);
const here = computed(() => all.value.find((d) => d.candidate.id === active.value?.id));
const built = computed(() => here.value?.built ?? null);
const settings = computed<DragSettings>(() => dragSchema.parse(active.value?.drag ?? {}));
const SURFACES = [
  { id: 'build-up', name: 'this build-up' },
  { id: 'polars', name: 'their polars' },
] as const;
const needs = computed(() => (active.value && settings.value.surfaces === 'polars' ? needed(active.value) : []));
const missing = computed(() => needs.value.filter((n) => !polars.isThere(n)));
/** What state the drag is of. */
const state = computed(() => (rows.value.some((r) => r.part?.byPolars) ? 'in level flight' : 'without lift'));
const selected = ref<string | null>(null);

const unitOfSpeed = computed(() => displayUnit('speed', preferences.units));
const speeds = computed(() => Array.from({ length: 25 }, (_, i) => speed.value * (0.4 + (1.2 * i) / 24)));
const { toldAs, unit, along, unitAlong, stacked, series } = useDragCurves({ speed, altitude, speeds, all, here, over });
const FACTS = DRAG_QUANTITIES.filter((q) => q.id !== 'drag.zeroLiftCounts');
const chartUnit = computed(() => unit.value || undefined);

type Row = {
  id: string;
  name: string;
  CD: number;
  dragArea: number;
  part: DragPart | null;
  allowance: DragAllowance | null;
};
const rows = computed<Row[]>(() => {
  const b = built.value;
  if (!b) return [];
  return [
    ...b.parts.map((p) => ({ id: p.id, name: p.name, CD: p.CD, dragArea: p.dragArea, part: p, allowance: null })),
    ...b.allowances.map((a, i) => ({
      id: `allowance-${i}`,
      name: a.name,
      CD: a.CD,
      dragArea: a.dragArea,
      part: null,
      allowance: a,
    })),
    { id: 'total', name: 'Total', CD: b.CD, dragArea: b.dragArea, part: null, allowance: null },
  ];
});
const ofPart = (
  id: string,
  title: string,
  name: string,
  pick: (p: DragPart) => number,
  digits: number,
  unit?: string,
): LedgerColumn<Row> => ({
  id,
  title,
  name,
  unit,
  value: (r) => (r.part ? pick(r.part) : null),
  text: (r) => (r.part ? formatNumber(pick(r.part), digits) : ''),
});
/** A column in the units chosen. @param digits in metric units. */
const measured = (
  id: string,
  title: string,
  dimension: 'area' | 'force',
  digits: number,
  pick: (r: Row) => number | null,
): LedgerColumn<Row> => {
  const shown = { dimension, digits };
  return {
    id,
    title,
    unit: displayUnit(dimension, preferences.units).symbol,
    value: (r) => {
      const v = pick(r);
      return v === null ? null : inUnit(shown, v, preferences.units);
    },
    text: (r) => (pick(r) === null ? '' : textOf(shown, pick(r), preferences.units)),
  };
};
const columns = computed<LedgerColumn<Row>[]>(() => {
  const total = built.value?.CD ?? 1;
  const q = built.value ? built.value.drag / built.value.dragArea : 0;
  return [
    { id: 'name', title: 'Part', value: (r) => r.name, words: true },
    { id: 'counts', title: 'counts', value: (r) => 1e4 * r.CD, text: (r) => formatNumber(1e4 * r.CD, 1) },
    {
      id: 'share',
      title: 'share',
      unit: '%',
      value: (r) => (100 * r.CD) / total,
      text: (r) => formatNumber((100 * r.CD) / total, 1),
    },
    measured('area', 'drag area', 'area', 5, (r) => r.dragArea),
    measured('force', 'drag', 'force', 2, (r) => r.dragArea * q),
    measured('wetted', 'wetted area', 'area', 3, (r) => r.part?.wettedArea ?? null),
    ofPart('reynolds', 'Reynolds number', 'Reynolds number', (p) => p.reynolds, 0),
    {
      id: 'by',
      title: 'source',
      name: 'source of the drag',
      value: (r) => (r.part ? (r.part.byPolars ? 'polars' : 'build-up') : ''),
      words: true,
    },
    ofPart('laminar', 'laminar', 'laminar share of the wetted area', (p) => 100 * p.laminarShare, 0, '%'),
    ofPart('cf', 'cf', 'skin-friction coefficient of the flat plate', (p) => p.cf, 5),
    ofPart('form', 'form', 'form factor', (p) => p.formFactor, 3),
    ofPart('joint', 'interference', 'interference factor', (p) => p.interference, 2),
  ];
});

/** An edit of the drag settings; what the schema refuses is said, and nothing changes. */
const refusal = ref('');
function change(label: string, edit: (d: DragSettings) => void): void {
  const id = active.value?.id;
  if (!id) return;
  const next = JSON.parse(JSON.stringify(settings.value)) as DragSettings;
  edit(next);
  const parsed = dragSchema.safeParse(next);
  if (!parsed.success) {
    refusal.value = parsed.error.issues[0].message;
    return;
  }
  refusal.value = '';
  try {
    project.edit(`${label} (${active.value!.letter})`, (draft) => {
      const c = draft.candidates[id];
      if (c) c.drag = parsed.data;
    });
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    refusal.value = error.message;
  }
}
const options = <K extends string>(table: Record<K, { name: string }>) =>
  (Object.entries(table) as [K, { name: string }][]).map(([id, { name }]) => ({ id, name }));
const KIND_NAMES: Record<AllowanceKind, string> = {
  counts: 'counts',
  coefficient: 'coefficient',
  share: 'share of the shape',
  reserve: 'reserve on the total',
  area: 'drag area',
};
const kinds = ALLOWANCE_KINDS.map((id) => ({ id, name: KIND_NAMES[id] }));
const FIRST: Record<AllowanceKind, number> = { counts: 10, coefficient: 0.001, share: 0.05, reserve: 0.1, area: 0.001 };
const PART_FIELDS = ['laminarShare', 'roughness', 'formFactor', 'interference'] as const;
const chosen = computed(() => built.value?.parts.find((p) => p.id === selected.value) ?? built.value?.parts[0] ?? null);
const own = computed(() => (chosen.value ? (settings.value.parts[chosen.value.id] ?? {}) : {}));
function setPart(field: (typeof PART_FIELDS)[number], value: number | null): void {
  const id = chosen.value?.id;
  if (!id) return;
  change(`${chosen.value!.name}: ${DRAG_LIMITS[field].label.toLowerCase()}`, (d) => {
    const next = { ...d.parts[id] };
    if (value === null) delete next[field];
    else next[field] = value;
    d.parts[id] = next;
  });
}
const uses = (field: (typeof PART_FIELDS)[number]) => {
  const p = chosen.value!;
  return field === 'roughness' ? 'smooth' : field === 'laminarShare' ? 'none' : formatNumber(p[field], 3);
};
const worst = computed(() =>
  rows.value.filter((r) => r.id !== 'total').reduce<Row | null>((a, r) => (a && a.CD >= r.CD ? a : r), null),
);
const pick = (id: string) => (selected.value = id);
</script>

<template>
  <AreaPage area="drag" title="Drag" question="Where does the drag come from?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0"
        title="Nothing that could drag yet"
        text="Drag is built up from the true wetted area of every part: draw a wing first."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'airframe', params: { project: project.id } }"
          >Draw a wing</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <div v-else class="grid h-full min-h-[420px] grid-rows-[1fr_1fr] gap-3 px-5 py-3">
        <section class="flex min-h-0 flex-col">
          <h2 class="text-[17px] font-semibold">Drag by part</h2>
          <p class="text-[12.5px] text-soft">
            {{ active.letter }} {{ active.name }}, {{ state }}, at
            {{ formatQuantity(speed, 'speed', preferences.units) }} {{ unitOfSpeed.symbol
            }}<template v-if="worst && built"
              >; largest part: {{ worst.name }}, {{ formatNumber((100 * worst.CD) / built.CD, 0) }} %</template
            >
          </p>
          <p v-if="here && !built" class="pt-4 text-clay" role="alert">{{ here.why }}</p>
          <DragMap
            v-if="built"
            class="mt-2 flex-1"
            :built="built"
            :selected="selected"
            :label="`Drag of ${active.letter} by part`"
            @pick="pick"
          />
        </section>
        <LineChart
          chart-id="drag-speed"
          :title="`Over ${along}${stacked ? ', stacked' : ''}`"
          :subtitle="
            along === 'altitude' && state === 'in level flight'
              ? 'only of surfaces by the build-up: polars are for one altitude'
              : `${state}, allowances included`
          "
          :series="series"
          :x="{ name: along, unit: unitAlong.symbol, options: [...OVER], value: along }"
          :y="{
            name: toldAs.quantity.symbol,
            unit: chartUnit,
            zero: true,
            options: TOLD_AS.map((q) => ({ id: q.id, name: q.name })),
            value: toldAs.id,
          }"
          caption="without the drag that lift induces"
          @update:x-quantity="(q) => preferences.set('drag-over', q)"
          @update:y-quantity="(q) => preferences.set('drag-quantity', q)"
        />
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        :label="`Drag of ${active?.letter ?? ''} ${active?.name ?? ''}`"
        file-name="veldtwind-drag"
        :selected="selected"
        @select="pick"
      />
    </template>
    <template #sheet>
      <template v-if="active">
        <SheetGroup :title="`Over ${along}`" help="Drag over speed or altitude">
          <SwitchRow
            label="Stacked"
            :model-value="stacked"
            test="drag-stacked"
            @update:model-value="(v) => preferences.set('drag-stacked', v)"
          />
        </SheetGroup>
        <SheetGroup title="Operating point">
          <LimitField
            :limit="BRIEF_LIMITS.speed"
            :model-value="speed"
            @preview="(v) => (other.speed = v)"
            @commit="(v) => (other.speed = v)"
          />
          <LimitField
            :limit="BRIEF_LIMITS.altitude"
            :model-value="altitude"
            @preview="(v) => (other.altitude = v)"
            @commit="(v) => (other.altitude = v)"
          />
          <button
            v-if="other.speed !== null || other.altitude !== null"
            class="link text-[12.5px]"
            @click="other = { speed: null, altitude: null }"
          >
            Back to the brief’s
          </button>
          <template v-if="built">
            <QuantityRow v-for="q in FACTS" :key="q.id" :quantity="q" :from="built" />
            <p class="text-[12px] text-soft">
              On {{ formatQuantity(built.reference.area, 'area', preferences.units) }}
              {{ displayUnit('area', preferences.units).symbol }},
              {{ active.reference ? 'as typed' : 'the projected area of the wing' }}.
            </p>
          </template>
        </SheetGroup>
        <SheetGroup title="Surfaces">
          <SelectRow
            label="Profile drag from"
            :model-value="settings.surfaces ?? 'build-up'"
            :options="SURFACES"
            test="drag-surfaces"
            @update:model-value="
              (v) => change('Drag of surfaces', (d) => (d.surfaces = v === 'polars' ? v : undefined))
            "
          />
          <p v-if="here?.waits" class="text-[12px] text-clay" role="status" data-test="drag-waits">{{ here.waits }}</p>
          <PolarNeeds
            v-if="needs.length"
            :needs="needs"
            :missing="missing"
            :seconds="polars.secondsFor(missing)"
            @compute="polars.compute(missing, `Polars for Drag, ${active.letter}`)"
          />
        </SheetGroup>
        <SheetGroup title="Laws">
          <SelectRow
            label="Friction"
            :model-value="settings.law"
            :options="options(FRICTION_LAWS)"
            test="law"
            @update:model-value="(v) => change('Friction law', (d) => (d.law = v))"
          />
          <p class="text-[12px] text-soft">{{ FRICTION_LAWS[settings.law].source }}</p>
          <SelectRow
            label="Surfaces’ form"
            :model-value="settings.surfaceForm"
            :options="options(SURFACE_FORMS)"
            @update:model-value="(v) => change('Form of surfaces', (d) => (d.surfaceForm = v))"
          />
          <p class="text-[12px] text-soft">{{ SURFACE_FORMS[settings.surfaceForm].source }}</p>
          <SelectRow
            label="Bodies’ form"
            :model-value="settings.bodyForm"
            :options="options(BODY_FORMS)"
            @update:model-value="(v) => change('Form of bodies', (d) => (d.bodyForm = v))"
          />
          <p class="text-[12px] text-soft">{{ BODY_FORMS[settings.bodyForm].source }}</p>
          <SelectRow
            label="Interference"
            :model-value="settings.joints"
            :options="options(JOINTS)"
            @update:model-value="(v) => change('Interference', (d) => (d.joints = v))"
          />
          <p class="text-[12px] text-soft">{{ JOINTS[settings.joints].source }}</p>
        </SheetGroup>
        <SheetGroup title="Allowances">
          <template #aside>
            <button
              class="link flex items-center gap-0.5 text-[13px]"
              data-test="add-allowance"
              @click="
                change('New allowance', (d) =>
                  d.allowances.push({
                    name: `Allowance ${d.allowances.length + 1}`,
                    kind: 'counts',
                    amount: FIRST.counts,
                  }),
                )
              "
            >
              <Plus :size="12" />allowance
            </button>
          </template>
          <p v-if="settings.allowances.length === 0" class="text-[12.5px] text-soft">
            Drag that is added for what is not modelled: gaps, antennas, cooling, a reserve. The total is solved, so
            their order does not matter.
          </p>
          <p v-if="refusal" class="text-[12.5px] text-clay" role="alert" data-test="drag-refusal">{{ refusal }}</p>
          <div
            v-for="(a, i) in settings.allowances"
            :key="i"
            class="mb-2 border-l-2 border-rule pl-2.5"
            data-test="allowance"
          >
            <div class="flex items-center justify-between">
              <span class="text-[12.5px] font-semibold">{{ a.name }}</span>
              <button
                class="icon-btn"
                :aria-label="`Remove ${a.name}`"
                title="Remove"
                @click="change(`Remove ${a.name}`, (d) => d.allowances.splice(i, 1))"
              >
                <Trash2 :size="12" />
              </button>
            </div>
            <TextRow
              label="Name"
              needed
              :most="80"
              :model-value="a.name"
              @update:model-value="(v) => change('Name of an allowance', (d) => (d.allowances[i].name = v))"
            />
            <SelectRow
              label="As"
              :model-value="a.kind"
              :options="kinds"
              @update:model-value="
                (v) => change(`${a.name}: kind`, (d) => Object.assign(d.allowances[i], { kind: v, amount: FIRST[v] }))
              "
            />
            <LimitField
              :limit="DRAG_LIMITS[a.kind]"
              label="Amount"
              :model-value="a.amount"
              @commit="(v) => v !== null && change(`${a.name}: amount`, (d) => (d.allowances[i].amount = v))"
            />
            <TextRow
              label="Why"
              :most="500"
              :model-value="a.reason ?? ''"
              @update:model-value="(v) => change(`${a.name}: reason`, (d) => (d.allowances[i].reason = v))"
            />
          </div>
        </SheetGroup>
        <SheetGroup v-if="chosen" :title="chosen.name" help="Part">
          <p class="text-[12px] text-soft">Numbers of your own replace those of the laws; empty fields follow them.</p>
          <LimitField
            v-for="f in PART_FIELDS"
            :key="`${chosen.id}-${f}`"
            :limit="DRAG_LIMITS[f]"
            :model-value="own[f] ?? null"
            :placeholder="uses(f)"
            @commit="(v) => setPart(f, v)"
          />
        </SheetGroup>
      </template>
    </template>
  </AreaPage>
</template>
