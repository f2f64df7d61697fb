<script setup lang="ts">
import { computed, ref } from 'vue';
import type { HingePoint } from '@veldtwind/core/candidate';
import { BRIEF_LIMITS } from '@veldtwind/core/project';
import { displayUnit, formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import ControlViews from './ControlViews.vue';
import TorqueSheet from './TorqueSheet.vue';
import { useTorque, type TorqueRow } from './use-torque';

/** The torque of the air about each control's hinge over its travel and over speed, beside what its servo holds. */
const project = useProject();
const preferences = usePreferences();
const torque = useTorque();
const { rows, now, all, over, others, speed } = torque;
const selected = ref<string | null>(null);
const chosen = computed(() => rows.value.find((r) => r.id === selected.value) ?? rows.value[0] ?? null);
const unit = computed(() => displayUnit('moment', preferences.units));
const speedUnit = computed(() => displayUnit('speed', preferences.units));
const styleOf = (id: string) => seriesStyle(rows.value.findIndex((r) => r.id === id));
const needed = (row: TorqueRow, p: HingePoint) => row.torque!.panels * p.torque;

/** Over the travel: what each servo has to hold, and what the chosen one's holds. */
const overTravel = computed<ChartSeries[]>(() => {
  const scale = unit.value.scale;
  const air = rows.value.flatMap((r): ChartSeries[] =>
    r.torque
      ? [
          {
            id: r.id,
            label: r.control.name,
            style: { ...styleOf(r.id), width: r.id === chosen.value?.id ? 2.6 : 1.4 },
            points: r.torque.points.map((p) => ({
              x: p.deflectionDeg,
              y: needed(r, p) * scale,
              tag: p.deflectionDeg,
              status: p.status === 'solved' ? ('solved' as const) : ('doubtful' as const),
            })),
          },
        ]
      : [],
  );
  const own = chosen.value?.torque?.points.filter((p) => p.servo !== null) ?? [];
  const holds = (sign: 1 | -1): ChartSeries => ({
    id: `servo${sign}`,
    label: sign > 0 ? `servo of ${chosen.value!.control.name}` : '',
    style: { colour: 'var(--clay)', dash: '6 4', marker: 'bar' },
    markers: false,
    reference: true,
    points: own.map((p) => ({ x: p.deflectionDeg, y: sign * p.servo! * scale })),
  });
  return own.length > 1 ? [holds(1), holds(-1), ...air] : air;
});
const marks = computed<ChartMark[]>(() => {
  const r = chosen.value;
  if (!r?.torque) return [];
  const p = r.torque.points[r.torque.worst];
  const text =
    p.servoReason !== undefined
      ? 'not reached'
      : p.reserve === null
        ? 'greatest'
        : p.reserve < 0
          ? `servo stalls, ${formatNumber(-100 * p.reserve, 0)} % short`
          : `${formatNumber(100 * p.reserve, 0)} % left`;
  const colour = p.servoReason !== undefined || (p.reserve ?? 0) < 0 ? 'var(--clay)' : 'var(--ink)';
  return [{ x: p.deflectionDeg, y: needed(r, p) * unit.value.scale, text, colour, falling: needed(r, p) < 0 }];
});
const overSpeed = computed<ChartSeries[]>(() =>
  rows.value.map((r) => ({
    id: r.id,
    label: r.control.name,
    style: { ...styleOf(r.id), width: r.id === chosen.value?.id ? 2.6 : 1.4 },
    points: all.value.flatMap((t) => {
      const c = t.controls.find((k) => k.id === r.id);
      if (!c) return [];
      const most = Math.max(...c.points.map((p) => Math.abs(p.torque)));
      const at = c.points.find((p) => Math.abs(p.torque) === most)!;
      return [
        {
          x: t.speed * speedUnit.value.scale,
          y: c.panels * most * unit.value.scale,
          tag: t.speed,
          status: at.status === 'solved' ? ('solved' as const) : ('doubtful' as const),
        },
      ];
    }),
  })),
);
const failures = computed(() => all.value.flatMap((t) => (t.failure ? [t.failure] : [])));

const worst = (r: TorqueRow) => (r.torque ? r.torque.points[r.torque.worst] : null);
const number = (
  id: string,
  title: string,
  digits: number,
  of: (r: TorqueRow) => number | null | undefined,
  shown?: string,
): LedgerColumn<TorqueRow> => ({
  id,
  title,
  unit: shown,
  value: (r) => of(r) ?? null,
  text: (r) => {
    const v = of(r);
    return v === null || v === undefined ? '—' : formatNumber(v, digits);
  },
});
const columns = computed<LedgerColumn<TorqueRow>[]>(() => [
  { id: 'name', title: 'control', value: (r) => r.control.name, words: true },
  { id: 'surface', title: 'surface', value: (r) => r.surface.name, words: true },
  number('deflection', 'worst at', 1, (r) => worst(r)?.deflectionDeg, '°'),
  number('coefficient', 'hinge coefficient', 4, (r) => worst(r)?.hingeCoefficient),
  number('torque', 'torque', 3, (r) => worst(r) && needed(r, worst(r)!) * unit.value.scale, unit.value.symbol),
  number('servo', 'servo', 3, (r) => worst(r)?.servo && worst(r)!.servo! * unit.value.scale, unit.value.symbol),
  number(
    'reserve',
    'reserve',
    0,
    (r) => {
      const left = worst(r)?.reserve;
      return left === null || left === undefined ? null : 100 * left;
    },
    '%',
  ),
  {
    id: 'verdict',
    title: 'verdict',
    value: (r) => {
      const p = worst(r);
      if (!p) return now.waiting.value ? '…' : '';
      if (p.servoReason !== undefined) return p.servoReason;
      if (p.reserve === null) return 'no servo';
      return p.reserve < 0 ? 'the servo stalls' : p.reserve < 0.3 ? 'little reserve' : 'held';
    },
    words: true,
  },
  { id: 'status', title: 'status', value: (r) => worst(r)?.status ?? '', words: true },
]);
const why = computed(() => chosen.value && worst(chosen.value)?.reason);
</script>

<template>
  <AreaPage area="control" title="Control" question="What does it take to move the controls?">
    <template #figure>
      <div class="flex h-full min-h-[430px] flex-col gap-1.5 px-5 py-2.5">
        <div class="flex items-center gap-4">
          <ControlViews on="torque" />
          <span v-if="now.waiting.value || others.waiting.value" class="text-[12.5px] text-soft" role="status">
            sections are being solved
            {{ formatNumber(100 * ((now.waiting.value ? now : others).progress.value ?? 0), 0) }} %
          </span>
          <button
            class="chip ml-auto"
            :class="{ on: over }"
            :aria-pressed="over"
            data-test="over-speed"
            @click="over = !over"
          >
            Over speed
          </button>
        </div>
        <EmptyState
          v-if="!torque.ready.value"
          title="No controls to move yet"
          text="The torque of a control follows from its size, its sections and the level flight: it needs an airframe with controls and mass."
        >
          <RouterLink class="btn btn-main" :to="{ name: 'airframe', params: { project: project.id! } }"
            >Give it controls</RouterLink
          >
          <OpenDemo />
        </EmptyState>
        <p v-else-if="now.failure.value" class="text-clay" role="alert">
          {{ now.failure.value.message }} {{ now.failure.value.hint }}
        </p>
        <div v-else class="grid min-h-0 flex-1 gap-4" :class="over ? 'grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]' : ''">
          <LineChart
            chart-id="control-torque"
            title="Torque about the hinge over deflection"
            :subtitle="`level flight at ${formatNumber(speed * speedUnit.scale, 1)} ${speedUnit.symbol}; positive drives the control to positive deflections`"
            :series="overTravel"
            :marks="marks"
            :x="{ name: 'deflection', unit: '°', zero: true }"
            :y="{ name: 'torque', unit: unit.symbol, zero: true }"
            :digits="[1, 3]"
            @pick="(id) => (selected = id)"
          />
          <LineChart
            v-if="over"
            chart-id="control-torque-speed"
            title="Greatest torque over speed"
            :subtitle="others.failure.value?.message ?? failures[0] ?? ''"
            :series="overSpeed"
            :x="{ name: 'speed', unit: speedUnit.symbol }"
            :y="{ name: 'torque', unit: unit.symbol, zero: true }"
            :digits="[1, 3]"
            @pick="(id) => (selected = id)"
          />
        </div>
      </div>
    </template>
    <template #ledger>
      <LedgerTable
        :rows="rows"
        :columns="columns"
        label="Controls at their least servo reserve"
        file-name="veldtwind-hinge-torque"
        made="viscous flow of the sections at the angles of the vortex lattice"
        :selected="chosen?.id ?? null"
        @select="(id) => (selected = id)"
      />
    </template>
    <template #sheet>
      <SheetGroup title="Flight">
        <LimitField
          :limit="BRIEF_LIMITS.speed"
          label="Speed"
          hint="of the level flight in which controls are moved"
          :model-value="speed"
          @commit="(v) => v !== null && (speed = v)"
        />
      </SheetGroup>
      <TorqueSheet v-if="chosen" :key="chosen.id" :torque="torque" :row="chosen" />
      <p v-if="why" class="text-[12.5px] text-soft" data-test="torque-why">{{ why }}</p>
      <p class="pt-2 text-[12px] text-soft">
        viscous flow of the sections with the control turned, at the angles of the vortex lattice
      </p>
    </template>
  </AreaPage>
</template>
