<script setup lang="ts">
import { computed } from 'vue';
import type { MemberStrength } from '@veldtwind/core/candidate';
import { PERFORMANCE_LIMITS } from '@veldtwind/core/performance';
import { SURFACE_STRENGTH_QUANTITIES } from '@veldtwind/core/quantities';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import ExportMenu from '@/components/export/ExportMenu.vue';
import BoundField from '@/components/field/BoundField.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import MemberSheet from './MemberSheet.vue';
import SectionCut from './SectionCut.vue';
import { SPAN_FIGURES, spanFigure, type SpanFigure } from './structure-figures';
import SurfacePlan from './SurfacePlan.vue';
import { structureOf, useStructure } from './use-structure';

/** What the surfaces are made of, and whether that holds what flight asks of it. */
const project = useProject();
const preferences = usePreferences();
const of = useStructure();
const { active, surface, surfaces, strength, own, shape, sized, sizing } = of;
const structure = computed(() => structureOf(surface.value));
const figure = computed(() => preferences.get<SpanFigure>('structure-figure', 'bending'));
const place = computed(() => preferences.get<number>('structure-place', 0));
const cut = computed(() => shape.value?.at(place.value) ?? null);
const axis = computed(() => {
  const list = own.value?.places ?? [];
  const along = place.value * (shape.value?.total ?? 0);
  return list.reduce<(typeof list)[number] | null>(
    (best, p) => (best === null || Math.abs(p.y - along) < Math.abs(best.y - along) ? p : best),
    null,
  );
});
const drawn = computed(() =>
  strength.now && own.value ? spanFigure(figure.value, strength.now, own.value, preferences.units) : null,
);
const length = computed(() => displayUnit('length', preferences.units));
const stress = computed(() => displayUnit('stress', preferences.units));
const mass = computed(() => displayUnit('mass', preferences.units));

type Row = MemberStrength & { surface: string; surfaceId: string };
const rows = computed<Row[]>(() =>
  (strength.now?.surfaces ?? []).flatMap((s) => s.members.map((m) => ({ ...m, surface: s.name, surfaceId: s.id }))),
);
const told = (v: number | null | undefined, digits: number) =>
  v === null || v === undefined ? '—' : formatNumber(v, digits);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'member', value: (r) => r.name, words: true },
  { id: 'surface', title: 'surface', value: (r) => r.surface, words: true },
  {
    id: 'mass',
    title: 'mass',
    unit: mass.value.symbol,
    value: (r) => r.mass * mass.value.scale,
    text: (r) => `${formatQuantity(r.mass, 'mass', preferences.units, 3)}${r.weighed ? ' weighed' : ''}`,
  },
  {
    id: 'reserve',
    title: 'reserve',
    unit: '%',
    value: (r) => (r.worst ? 100 * r.worst.reserve : null),
    text: (r) => (r.worst ? told(100 * r.worst.reserve, 0) : '—'),
  },
  {
    id: 'mode',
    title: 'fails by',
    value: (r) => (r.worst ? `${r.worst.part === 'skin' ? '' : `${r.worst.part}, `}${r.worst.mode}` : ''),
    words: true,
  },
  {
    id: 'stress',
    title: 'stress',
    unit: stress.value.symbol,
    value: (r) => (r.worst ? r.worst.stress * stress.value.scale : null),
    text: (r) => (r.worst ? told(r.worst.stress * stress.value.scale, 1) : '—'),
  },
  {
    id: 'allowable',
    title: 'allowable',
    unit: stress.value.symbol,
    value: (r) => (r.worst ? r.worst.allowable * stress.value.scale : null),
    text: (r) => (r.worst ? told(r.worst.allowable * stress.value.scale, 1) : '—'),
  },
  {
    id: 'place',
    title: 'at y',
    unit: length.value.symbol,
    value: (r) => (r.worst ? r.worst.place * length.value.scale : null),
    text: (r) => (r.worst ? told(r.worst.place * length.value.scale, 3) : '—'),
  },
  { id: 'case', title: 'case', value: (r) => r.worst?.case ?? '', words: true },
  {
    id: 'price',
    title: 'price',
    value: (r) => r.price,
    text: (r) => told(r.price, 2),
  },
]);
const selected = computed(() => rows.value.find((r) => r.surfaceId === surface.value?.id)?.id ?? null);
/** What would hold, once for all members of the surface. */
const thicker = computed(() => own.value?.members.find((m) => m.worst?.thicker !== undefined)?.worst?.thicker);
const millimetres = (v: number) =>
  `${formatQuantity(v, 'thickness', preferences.units)} ${displayUnit('thickness', preferences.units).symbol}`;
const partName = ({ path, label }: { path: string; label: string }) => {
  if (path.startsWith('structure.skin')) return label;
  const id = path.split('.')[2];
  return `${own.value?.members.find((m) => m.member === id)?.name ?? id}, ${label.toLowerCase()}`;
};
const path = (key: 'greatestLoad' | 'leastLoad' | 'diveRatio' | 'safetyFactor') =>
  ['brief', 'assumptions', 'performance', key] as const;
</script>

<template>
  <AreaPage area="structure" title="Structure" question="What is it made of, and does it hold?">
    <template #figure>
      <EmptyState
        v-if="!active || !surface"
        title="No surface to build yet"
        text="A structure follows the shape of wings and tails. Draw one first."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'airframe', params: { project: project.id! } }"
          >Draw a wing</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <div v-else class="flex h-full min-h-[430px] flex-col gap-1.5 px-5 py-2.5">
        <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
          <ChipRow
            label="Surface"
            test="structure-surface"
            :options="surfaces.map((s) => ({ id: s.id, name: s.name }))"
            :on="[surface.id]"
            @pick="(id) => (of.picked.value = id)"
          />
          <span v-if="strength.waiting" class="text-[12.5px] text-soft" role="status"
            >loads and stresses are being found</span
          >
        </div>
        <EmptyState
          v-if="!structure"
          :title="`${surface.name} has no structure yet`"
          text="Give it spars, a skin and ribs: their masses count at once, and loads, stress, deflection and flutter speeds follow."
        >
          <button class="btn btn-main" data-test="begin-structure" @click="of.begin">
            Build it with a spar, a nose skin and ribs
          </button>
          <p v-if="of.estimated.value.length" class="text-[12.5px] text-soft">
            They replace {{ of.estimated.value.length }} mass items of the estimate.
          </p>
        </EmptyState>
        <template v-else>
          <SurfacePlan
            v-if="shape"
            class="h-[25%] shrink-0"
            :shape="shape"
            :structure="structure"
            :strength="own"
            :place="place"
            @place="(v) => preferences.set('structure-place', v)"
          />
          <div v-if="cut" class="flex h-[17%] shrink-0 items-stretch gap-3 border-t border-rule-light pt-1">
            <SectionCut
              class="flex-1"
              :place="cut"
              :structure="structure"
              :name="surface.name"
              :axis="axis?.axis ?? null"
            />
            <div class="flex w-[190px] flex-col justify-center">
              <input
                class="w-full accent-(--ochre)"
                type="range"
                min="0"
                max="1"
                step="0.01"
                aria-label="Spanwise position of the section"
                :value="place"
                @input="(e) => preferences.set('structure-place', Number((e.target as HTMLInputElement).value))"
              />
              <dl class="grid content-center gap-x-2 text-[12.5px] text-soft" data-test="cut-words">
                <div class="flex justify-between">
                  <dt>cut at</dt>
                  <dd>{{ formatNumber(100 * place, 0) }} % half span</dd>
                </div>
                <div v-if="axis" class="flex justify-between">
                  <dt>elastic axis</dt>
                  <dd>{{ formatNumber(100 * axis.axis, 1) }} % chord</dd>
                </div>
                <div v-if="axis" class="flex justify-between">
                  <dt>EI</dt>
                  <dd>{{ formatNumber(axis.EI, 0) }} N m²</dd>
                </div>
                <div v-if="axis" class="flex justify-between">
                  <dt>GJ</dt>
                  <dd>{{ formatNumber(axis.GJ, 0) }} N m²</dd>
                </div>
              </dl>
            </div>
          </div>
          <p v-if="strength.failure" class="text-clay" role="alert">
            {{ strength.failure.message }} {{ strength.failure.hint }}
          </p>
          <template v-else-if="drawn">
            <ChipRow
              label="Figure"
              test="structure-figure"
              :options="SPAN_FIGURES"
              :on="[figure]"
              @pick="(id) => preferences.set('structure-figure', id)"
            />
            <LineChart
              :key="figure"
              class="min-h-0 flex-1"
              :chart-id="`structure-${figure}`"
              :title="drawn.title"
              :subtitle="`${surface.name} of ${active.letter}, ${drawn.subtitle}`"
              :series="drawn.series"
              :bands="drawn.bands"
              :marks="drawn.marks"
              :x="{ name: 'along the half span', unit: length.symbol, zero: true }"
              :y="drawn.y"
              :digits="drawn.digits"
            />
          </template>
        </template>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        label="Least reserve of each member"
        file-name="veldtwind-structure"
        made="beam theory over the load envelope of the vortex lattice"
        :selected="selected"
        @select="(id) => (of.picked.value = rows.find((r) => r.id === id)?.surfaceId ?? null)"
      />
    </template>
    <template #sheet>
      <template v-if="structure && surface">
        <SheetGroup :title="surface.name" help="Strength of the surface">
          <template #aside
            ><button class="link" data-test="remove-structure" @click="of.remove">
              Remove the structure
            </button></template
          >
          <template v-if="own">
            <QuantityRow
              v-for="q in SURFACE_STRENGTH_QUANTITIES"
              :key="q.id"
              :quantity="q"
              :from="own"
              :mark="q.id.replace('.surface.', '.')"
            />
            <p class="text-[12px] text-soft">Deflection and twist: {{ own.bentMost }}</p>
            <DerivedRow
              v-for="r in own.reversal"
              :key="r.control"
              :label="`Reversal of ${r.name}`"
              :value="r.speed"
              dimension="speed"
              :note="`equivalent speed where it no longer rolls; ${formatNumber(100 * r.leftAtDive, 0)} % of its roll is left at the dive speed`"
            />
            <p v-for="d in own.doubts" :key="d" class="text-[12.5px] text-clay">{{ d }}</p>
            <p v-if="own.bareFrom !== undefined" class="text-[12.5px] text-soft">
              No member carries load outboard of {{ formatQuantity(own.bareFrom, 'length', preferences.units) }}
              {{ length.symbol }}.
            </p>
          </template>
          <div v-if="thicker !== undefined" class="pt-1 text-[12.5px]" role="alert" data-test="thicker">
            <p v-if="thicker === null" class="text-clay">
              It does not hold with thicknesses that fit. Choose other materials, wider spars or thicker sections.
            </p>
            <template v-else>
              <p class="text-clay">It does not hold. It would with:</p>
              <p v-for="t in thicker" :key="t.path">
                {{ partName(t) }} {{ millimetres(t.to) }} instead of
                {{ millimetres(t.from) }}
              </p>
              <button class="btn mt-1 w-full" data-test="take-thicker" @click="of.take(thicker)">
                Apply these thicknesses
              </button>
            </template>
          </div>
          <button
            class="btn mt-1.5 w-full"
            :disabled="sizing === surface.id && sized.waiting.value"
            data-test="size"
            title="Sizes every member to zero reserve"
            @click="sizing = surface.id"
          >
            {{ sizing === surface.id && sized.waiting.value ? 'Sizing…' : 'Size to least mass' }}
          </button>
          <div
            v-if="sizing === surface.id && sized.value.value && !sized.stale.value"
            class="pt-1 text-[12.5px]"
            data-test="sized"
          >
            <p>
              {{ formatQuantity(sized.value.value.before, 'mass', preferences.units, 3) }} →
              {{ formatQuantity(sized.value.value.mass, 'mass', preferences.units, 3) }} {{ mass.symbol
              }}{{ sized.value.value.holds ? '' : '; it does not hold with thicknesses that fit' }}
            </p>
            <p v-for="t in sized.value.value.changes" :key="t.path" class="text-soft">
              {{ partName(t) }} {{ millimetres(t.from) }} → {{ millimetres(t.to) }}
            </p>
            <button
              v-if="sized.value.value.changes.length"
              class="btn mt-1 w-full"
              data-test="take-sized"
              @click="of.take(sized.value.value.changes)"
            >
              Apply these thicknesses
            </button>
          </div>
          <div class="pt-2"><ExportMenu v-if="active" :candidate="active" first="zip-parts" /></div>
          <p v-if="sizing === surface.id && sized.failure.value" class="text-[12.5px] text-clay">
            {{ sized.failure.value.message }}
          </p>
        </SheetGroup>
        <MemberSheet :key="surface.id" :of="of" :structure="structure" />
      </template>
      <SheetGroup title="Loads">
        <BoundField
          v-for="k in ['greatestLoad', 'leastLoad', 'diveRatio', 'safetyFactor'] as const"
          :key="k"
          :path="path(k)"
          :limit="PERFORMANCE_LIMITS[k]"
          :step="PERFORMANCE_LIMITS[k].label"
          :digits="2"
        />
        <p class="pt-1 text-[12px] text-soft">
          manoeuvres and gusts at the design speed of the brief, in every loading; the same limits as in Performance
        </p>
      </SheetGroup>
    </template>
  </AreaPage>
</template>
