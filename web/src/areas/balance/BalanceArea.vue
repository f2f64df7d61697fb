<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue';
import { ChevronRight, Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import AreaPage from '@/components/shell/AreaPage.vue';
import LineChart from '@/components/chart/LineChart.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import { useCandidateEdit } from '@/lib/edit-candidate';
import { freeId } from '@/lib/ids';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { pointSeries, type Shown } from '@/areas/lift/quantities';
import BalanceBeam from './BalanceBeam.vue';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const route = useRoute();
const { show, save, surfaceIn } = useCandidateEdit();
const DEG = 180 / Math.PI;

const active = computed(() => workbench.active);
const e = computed(() => workbench.current);
const trim = computed(() => e.value?.balance?.trims[0]);
const tail = computed(() => active.value?.surfaces.find((s) => s.role === 'tailplane'));
const shown = computed<Shown[]>(() =>
  workbench.visible.flatMap((candidate) => {
    const lift = workbench.of(candidate.id)?.lift;
    return lift ? [{ candidate, lift }] : [];
  }),
);
const series = computed(() => pointSeries(shown.value, 'alpha', 'Cm'));
const bands = computed(() => {
  const b = project.brief.bands.trimAngleDeg;
  return b.min !== null || b.max !== null ? [{ axis: 'x' as const, from: b.min, to: b.max, label: 'trim' }] : [];
});
const marks = computed(() =>
  workbench.visible.flatMap((c) => {
    const t = workbench.of(c.id)?.balance?.trims[0];
    if (!t) return [];
    const here = c.id === active.value?.id;
    return [
      {
        x: t.alpha * DEG,
        y: 0,
        text: here
          ? `trims at ${formatNumber(t.alpha * DEG, 1)}°${t.speed ? `, ${formatQuantity(t.speed, 'speed', preferences.units)} ${displayUnit('speed', preferences.units).symbol}` : ''}`
          : '',
        colour: seriesStyle(c.style).colour,
      },
    ];
  }),
);
interface Row {
  id: string;
  name: string;
  mass: number;
  x: number;
  y: number;
  z: number;
}
const rows = computed<Row[]>(() =>
  (active.value?.massItems ?? []).map((m) => ({ id: m.id, name: m.name, mass: m.mass, ...m.position })),
);
const at = (v: number) => formatQuantity(v, 'length', preferences.units);
const columns = computed<LedgerColumn<Row>[]>(() => {
  const length = displayUnit('length', preferences.units);
  const place = (key: 'x' | 'y' | 'z'): LedgerColumn<Row> => ({
    id: key,
    title: key,
    unit: length.symbol,
    value: (r) => r[key] * length.scale,
    text: (r) => at(r[key]),
  });
  return [
    { id: 'name', title: 'Item', value: (r) => r.name, words: true },
    {
      id: 'mass',
      title: 'mass',
      unit: displayUnit('mass', preferences.units).symbol,
      value: (r) => r.mass * displayUnit('mass', preferences.units).scale,
      text: (r) => formatQuantity(r.mass, 'mass', preferences.units),
    },
    place('x'),
    place('y'),
    place('z'),
    {
      id: 'share',
      title: 'share',
      unit: '%',
      value: (r) => (e.value?.mass ? (100 * r.mass) / e.value.mass.mass : null),
      text: (r) => (e.value?.mass ? formatNumber((100 * r.mass) / e.value.mass.mass, 1) : '—'),
    },
  ];
});
function add(): void {
  const items = active.value?.massItems ?? [];
  const id = freeId('item', (i) => items.some((m) => m.id === i));
  const last = items[items.length - 1];
  save('New mass item', (c) =>
    c.massItems.push({
      id,
      name: `Item ${items.length + 1}`,
      mass: 1,
      position: last
        ? { ...last.position, x: Number((last.position.x + 0.05).toFixed(3)) }
        : { x: Number((workbench.current?.lift?.momentReference.x ?? 0).toFixed(3)), y: 0, z: 0 },
    }),
  );
}
const item = (c: NonNullable<typeof active.value>, id: string) => c.massItems.find((m) => m.id === id)!;
</script>

<template>
  <AreaPage area="balance" title="Balance" question="Where is the mass, does it trim, is it stable?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0"
        title="Nothing to balance yet"
        text="Balance needs an airframe and the masses in it."
      >
        <RouterLink
          class="btn btn-main"
          :to="{ name: 'airframe', params: { project: project.id! }, query: route.query }"
          >Draw a wing</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <div v-else class="grid h-full min-h-[400px] grid-rows-[1.15fr_1fr] px-4 py-3">
        <LineChart
          v-if="e?.lift"
          chart-id="balance-cm"
          title="Pitching moment"
          :subtitle="
            e.mass
              ? `about the centre of gravity at x = ${at(e.mass.centre.x)} ${displayUnit('length', preferences.units).symbol}; where it crosses zero the aircraft trims`
              : 'about the quarter chord, since no centre of gravity is set: give a mass item'
          "
          :series="series"
          :x="{ name: 'α', unit: '°' }"
          :y="{ name: 'Cm', zero: true }"
          :bands="bands"
          :marks="marks"
          :tag="workbench.cursor.alphaDeg"
          caption="inviscid: no stall in this model"
          @cursor="(a) => (workbench.cursor.alphaDeg = a)"
        />
        <div v-else class="grid place-items-center text-soft" role="status">
          {{ e?.problems[0]?.message ?? 'Computing…' }}
        </div>
        <div class="flex min-h-0 flex-col">
          <h3 class="pl-1 text-[15px] font-semibold">Where it balances</h3>
          <p class="pl-1 text-[12.5px] text-soft">
            from the left; discs are mass items, the bar is the mean chord{{
              e?.balance
                ? `, the neutral point lies ${formatNumber(100 * e.balance.staticMargin, 1)} % of it behind the centre of gravity`
                : ''
            }}
          </p>
          <BalanceBeam class="flex-1" :candidate="active" :evaluation="e" :band="project.brief.bands.staticMargin" />
        </div>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        :label="`Mass items of ${active?.letter ?? ''} ${active?.name ?? ''}`"
        file-name="veldtwind-masses"
      >
        <template #tools
          ><button class="link flex items-center gap-1" data-test="add-mass" @click="add">
            <Plus :size="13" /> Add a mass item
          </button></template
        >
      </LedgerTable>
    </template>
    <template #sheet>
      <template v-if="active">
        <SheetGroup title="Static stability">
          <DerivedRow label="Static margin" :value="e?.balance?.staticMargin" dimension="ratio" />
          <DerivedRow
            label="Pitch slope"
            :value="e?.balance ? e.balance.pitchSlope / DEG : null"
            dimension="plain"
            :digits="4"
            unit="/°"
            note="dCm/dα about the centre of gravity"
          />
          <DerivedRow label="Pitch slope" :value="e?.balance?.pitchSlope" dimension="plain" :digits="3" unit="/rad" />
          <DerivedRow label="Trim angle" :value="trim ? trim.alpha * DEG : null" dimension="angle" />
          <DerivedRow label="Trim CL" :value="trim?.CL" dimension="plain" unit="" />
          <DerivedRow label="Trim speed" :value="trim?.speed" dimension="speed" />
          <DerivedRow label="Neutral point" :value="e?.lift?.neutralPoint" dimension="length" />
          <DerivedRow label="Centre of gravity" :value="e?.mass?.centre.x" dimension="length" />
          <DerivedRow label="Mass" :value="e?.mass?.mass" dimension="mass" />
        </SheetGroup>
        <SheetGroup v-if="tail" title="Tail">
          <NumberField
            label="Tail incidence"
            dimension="angle"
            :model-value="tail.incidenceDeg"
            :min="-20"
            :max="20"
            :step="0.1"
            @preview="(v) => show((c) => (surfaceIn(c, tail!.id).incidenceDeg = v))"
            @commit="(v) => v !== null && save('Tail incidence', (c) => (surfaceIn(c, tail!.id).incidenceDeg = v))"
          />
        </SheetGroup>
        <SheetGroup title="Mass items">
          <template #aside><button class="link" data-test="add-mass-sheet" @click="add">Add ›</button></template>
          <p v-if="active.massItems.length === 0" class="serif py-1 text-soft italic">
            No mass yet, so the centre of gravity is not known. It is never taken to be at the origin.
          </p>
          <Disclosure
            v-for="m in active.massItems"
            :key="m.id"
            v-slot="{ open }"
            as="div"
            class="border-b border-rule-light py-0.5 last:border-0"
            :default-open="active.massItems.length < 3"
          >
            <div class="flex items-center">
              <DisclosureButton class="flex min-w-0 flex-1 items-center gap-1.5 rounded py-1 text-left hover:bg-select">
                <ChevronRight :size="13" class="text-soft transition-transform" :class="open ? 'rotate-90' : ''" />
                <span class="flex-1 truncate font-semibold">{{ m.name }}</span>
                <span class="pr-1 text-soft"
                  >{{ formatQuantity(m.mass, 'mass', preferences.units) }}
                  {{ displayUnit('mass', preferences.units).symbol }}</span
                >
              </DisclosureButton>
              <button
                class="icon-btn"
                :aria-label="`Remove ${m.name}`"
                title="Remove"
                @click="save('Remove a mass item', (c) => (c.massItems = c.massItems.filter((k) => k.id !== m.id)))"
              >
                <Trash2 :size="13" />
              </button>
            </div>
            <DisclosurePanel class="pb-1 pl-4">
              <label class="grid grid-cols-[1fr_128px] items-center py-[3px] text-soft"
                >Name
                <input
                  class="rounded border border-rule bg-field px-2 py-[3px] text-ink"
                  :value="m.name"
                  maxlength="80"
                  @change="
                    (ev) =>
                      save('Name of a mass item', (c) => (item(c, m.id).name = (ev.target as HTMLInputElement).value))
                  "
              /></label>
              <NumberField
                label="Mass"
                dimension="mass"
                :model-value="m.mass"
                :min="0"
                :max="1000000"
                :step="0.1"
                @preview="(v) => show((c) => (item(c, m.id).mass = v))"
                @commit="(v) => v !== null && save(`Mass of ${m.name}`, (c) => (item(c, m.id).mass = v))"
              />
              <NumberField
                v-for="k in ['x', 'y', 'z'] as const"
                :key="k"
                :label="`${k}, ${{ x: 'aft', y: 'right', z: 'up' }[k]}`"
                dimension="length"
                :model-value="m.position[k]"
                :min="-1000"
                :max="1000"
                :step="0.01"
                @preview="(v) => show((c) => (item(c, m.id).position[k] = v))"
                @commit="(v) => v !== null && save(`Place of ${m.name}`, (c) => (item(c, m.id).position[k] = v))"
              />
            </DisclosurePanel>
          </Disclosure>
        </SheetGroup>
      </template>
    </template>
  </AreaPage>
</template>
