<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { THRUST, type Chain, type LoopFacts, type LoopLine } from '@veldtwind/core/control';
import { DEG, RAD } from '@veldtwind/core/numerics';
import { LOOP_QUANTITIES } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import NewMenu from '@/components/field/NewMenu.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import PlotHandle from '@/components/plot/PlotHandle.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import LedgerTable, { type LedgerColumn } from '@/components/table/LedgerTable.vue';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { quantityColumns } from '@/lib/quantity-columns';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import ChainPicture from './ChainPicture.vue';
import ChainSheet from './ChainSheet.vue';
import ControlViews from './ControlViews.vue';
import ModelGroup from './ModelGroup.vue';
import ReachFigures from './ReachFigures.vue';
import RootPath from './RootPath.vue';
import { useControl, type ChainKind } from './use-control';
import { MEASURES } from '@veldtwind/core/control';

const project = useProject();
const preferences = usePreferences();
const control = useControl();
const { active, chain, loop, law, study, survey, robust, dashed, motion } = control;
const now = computed(() => study.value.value);
const failure = computed(() => motion.failure.value ?? (chain.value ? study.failure.value : null));
const sheet = ref<HTMLElement | null>(null);
const NEW: { id: ChainKind; name: string }[] = [
  { id: 'pitch', name: 'Pitch' },
  { id: 'roll', name: 'Roll' },
  { id: 'yaw', name: 'Yaw damper' },
  { id: 'speed', name: 'Speed' },
];
const AFTER = { colour: 'var(--ochre)', dash: '', marker: 'disc' } as const;
const BEFORE = { colour: 'var(--ink)', dash: '5 4', marker: 'disc' } as const;
const curve = (id: string, label: string, x: number[], y: number[], before: boolean): ChartSeries => ({
  id,
  label,
  style: before ? BEFORE : AFTER,
  markers: false,
  reference: before,
  points: x.map((v, i) => ({ x: v, y: y[i] })),
});
const pair = (make: (s: NonNullable<typeof now.value>) => { x: number[]; y: number[] }): ChartSeries[] =>
  [
    ...(dashed.value ? [{ ...make(dashed.value), before: true }] : []),
    ...(now.value ? [{ ...make(now.value), before: false }] : []),
  ].map(({ x, y, before }) => curve(before ? 'before' : 'now', before ? 'before' : 'now', x, y, before));

const decibel = (re: number, im: number) => 20 * Math.log10(Math.max(1e-12, Math.hypot(re, im)));
/** Phase without jumps, degrees. */
function phases(re: number[], im: number[]): number[] {
  let turn = 0;
  let last = NaN;
  return re.map((r, i) => {
    let p = Math.atan2(im[i], r) * DEG;
    if (Number.isFinite(last)) {
      while (p + turn - last > 180) turn -= 360;
      while (p + turn - last < -180) turn += 360;
    } else if (p > 0) turn = -360;
    p += turn;
    last = p;
    return p;
  });
}
const VIEWS = [
  { id: 'frequency', name: 'Frequency response' },
  { id: 'plane', name: 'Gain–phase plot' },
  { id: 'polar', name: 'Polar plot' },
  { id: 'speed', name: 'Over speed' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const view = computed(() => preferences.get<View>('control-view', 'frequency'));
watch(view, (v) => (control.reaching.value = v === 'speed'), { immediate: true });
const gain = computed(() =>
  pair((s) => ({ x: s.frequency.w, y: s.frequency.re.map((r, i) => decibel(r, s.frequency.im[i])) })),
);
/** Phase of the open loop where its gain is 1, by the margin that is left there; null where there is none. */
const crossingPhase = (s: NonNullable<typeof now.value>): number | null =>
  s.phaseMarginDeg === null ? null : -180 + (s.phaseWay === 'lead' && s.stable ? -1 : 1) * s.phaseMarginDeg;
/** Phase of a study, counted so that it is −180° and its margin where the gain is 1. */
function phaseOf(s: NonNullable<typeof now.value>): number[] {
  const list = phases(s.frequency.re, s.frequency.im);
  const { gainCrossover, phaseMarginDeg } = s;
  if (gainCrossover === null || phaseMarginDeg === null) return list;
  const at = s.frequency.w.findIndex((w) => w >= gainCrossover);
  if (at < 0) return list;
  const turns = Math.round((list[at] - crossingPhase(s)!) / 360);
  return list.map((p) => p - 360 * turns);
}
const phase = computed(() => pair((s) => ({ x: s.frequency.w, y: phaseOf(s) })));
const nichols = computed(() =>
  pair((s) => ({
    x: phaseOf(s),
    y: s.frequency.re.map((r, i) => decibel(r, s.frequency.im[i])),
  })),
);
const REACH = 4;
const polarPlane = computed(() =>
  pair((s) => {
    const near = s.frequency.re
      .map((_, i) => i)
      .filter((i) => Math.hypot(s.frequency.re[i], s.frequency.im[i]) < REACH);
    return { x: near.map((i) => s.frequency.re[i]), y: near.map((i) => s.frequency.im[i]) };
  }),
);
const gainMarks = computed<ChartMark[]>(() => {
  const s = now.value;
  if (!s) return [];
  const marks: ChartMark[] = [];
  if (s.phaseCrossover !== null && s.gainMarginDb !== null)
    marks.push({
      x: s.phaseCrossover,
      y: -s.gainMarginDb,
      text: `${formatNumber(Math.abs(s.gainMarginDb), 1)} dB ${s.gainMarginDb >= 0 ? 'left' : 'down to'}`,
      colour: 'var(--grass)',
      falling: true,
    });
  return marks;
});
const phaseMarks = computed<ChartMark[]>(() => {
  const s = now.value;
  if (!s || s.gainCrossover === null || s.phaseMarginDeg === null) return [];
  return [
    {
      x: s.gainCrossover,
      y: crossingPhase(s)!,
      text: `${formatNumber(s.phaseMarginDeg, 0)}°${s.phaseWay === 'lead' ? ' of lead' : ''} left`,
      falling: true,
      colour: s.phaseMarginDeg >= control.settings.value.aims.phaseMarginDeg ? 'var(--grass)' : 'var(--clay)',
    },
  ];
});
/** What can be dragged on the figures: where the loop crosses, and the phase that is left there. */
const crossing = computed(() => {
  const s = control.own.value;
  return s && s.gainCrossover !== null && s.phaseMarginDeg !== null
    ? { frequency: s.gainCrossover, phaseMargin: (crossingPhase(s)! + 180) * RAD }
    : null;
});
const crossingAt = (at: { x: number; y: number }) => ({
  frequency: at.x,
  phaseMargin: Math.min(Math.PI, Math.max(0.02, (at.y + 180) * RAD)),
});
const measure = computed(() => (law.value ? MEASURES[law.value.from] : MEASURES.q));
const STEP = computed(() => (measure.value.times === 1 ? 1 : 1 / measure.value.times));
const step = computed<ChartSeries[]>(() => [
  ...pair((s) => ({ x: s.step.t, y: s.step.y.map((v) => v * STEP.value * measure.value.times) })),
  ...(now.value?.sampled
    ? [
        {
          ...curve(
            'steps',
            'sampled',
            now.value.sampled.step.t,
            now.value.sampled.step.y.map((v) => v * STEP.value * measure.value.times),
            false,
          ),
          style: { colour: 'var(--ochre)', dash: '1 3', marker: 'disc' as const },
        },
      ]
    : []),
  ...(now.value
    ? [
        {
          ...curve(
            'outside',
            `disturbance 1${moved.value.unit === '°' ? '°' : ` ${moved.value.unit}`}`,
            now.value.step.t,
            now.value.step.disturbance.map((v) => (v * measure.value.times) / moved.value.times),
            false,
          ),
          style: { colour: 'var(--sky)', dash: '2 3', marker: 'square' as const },
        },
      ]
    : []),
]);
const effort = computed(() =>
  pair((s) => ({ x: s.step.t, y: s.step.effort.map((v) => v * STEP.value * moved.value.times) })),
);
/** What the chain moves, and in what that is told. */
const moved = computed(() =>
  chain.value?.to === THRUST
    ? { name: 'thrust', quantity: 'change of thrust', unit: 'N', times: 1 }
    : {
        name: chain.value ? (control.controls.value[chain.value.to] ?? 'no control') : '',
        quantity: 'deflection',
        unit: '°',
        times: DEG,
      },
);

interface Row {
  id: string;
  name: string;
  line: LoopLine | null;
}
const rows = computed<Row[]>(() =>
  control.settings.value.chains.flatMap((c: Chain) =>
    c.laws.map((l, i) => ({
      id: `${c.id}|${i}`,
      name: `${c.name}: ${MEASURES[l.from].name}`,
      line: survey.value.value?.find((s) => s.chain === c.id && s.loop === i) ?? null,
    })),
  ),
);
type Told = Exclude<LoopLine, { failure: string }>;
const told = (r: Row) => (r.line && !('failure' in r.line) ? (r.line as Told) : null);
const columns = computed<LedgerColumn<Row>[]>(() => [
  { id: 'name', title: 'loop', value: (r) => r.name, words: true },
  {
    id: 'keeps',
    title: 'verdict',
    value: (r) => {
      if (!r.line) return '…';
      if ('failure' in r.line) return r.line.failure;
      const t = r.line as Told;
      if (!t.holds) return 'grows: not stable';
      // What grows slowly, was there before and cannot be moved by the loop is said with its time to double.
      const rest = t.slowRoots.map(([re]) => re).sort((a, b) => b - a)[0];
      const drift =
        rest === undefined
          ? ''
          : rest > 1e-6
            ? `; a slow root doubles in ${formatNumber(Math.LN2 / rest, 0)} s`
            : '; a slow root stays';
      if (t.gainMarginDb === null && t.phaseMarginDeg === null)
        return `${t.reasons.phaseMarginDeg ?? t.reasons.gainMarginDb}`;
      return `${t.keeps ? 'margins held' : 'margins below the aim'}${drift}`;
    },
    words: true,
  },
  ...quantityColumns<Row, LoopFacts>(LOOP_QUANTITIES, told, preferences.units),
]);
/** The same loop as it is computed, in steps. */
const sampledWords = computed(() => {
  const s = now.value?.sampled;
  if (!s) return '';
  const ms = formatNumber(1000 * control.settings.value.step, 0);
  if (!s.holds) return `it is not stable: steps of ${ms} ms are too long.`;
  const parts = [
    s.gainMarginDb !== null && `${formatNumber(Math.abs(s.gainMarginDb), 1)} dB`,
    s.phaseMarginDeg !== null && `${formatNumber(Math.abs(s.phaseMarginDeg), 0)}°`,
  ].filter(Boolean);
  return parts.length ? `${parts.join(' and ')} are left.` : 'it crosses nowhere.';
});
const worst = computed(() => robust.value.value?.[0] ?? null);
const worstWords = computed(() => {
  const w = worst.value;
  const still = robust.value.value?.find((r) => r.name === '');
  if (!w || !still) return '';
  if (!w.name) return 'No derivative that is 20 % off costs any margin.';
  const change = `${w.name.replace('_', ' ')} ${w.by > 0 ? '+' : '−'}${Math.abs(100 * w.by)} %`;
  if (!w.stable) return `With ${change} it is not stable any more.`;
  return `${change} costs most: ${w.phaseMarginDeg === null ? 'no crossing is left' : `${formatNumber(w.phaseMarginDeg, 0)}° of phase margin are left`}${still.phaseMarginDeg === null ? '' : ` of ${formatNumber(still.phaseMarginDeg, 0)}°`}.`;
});
function times(k: number, commit: boolean): void {
  const scaled = (l: { kp: number; ki: number; kd: number }) => {
    for (const key of ['kp', 'ki', 'kd'] as const) l[key] = Number((l[key] * k).toPrecision(4));
  };
  if (commit) control.changeLaw('Gains along the path', scaled);
  else control.previewLaw(scaled);
}
/** Brings what a block is made of into sight, and puts the keyboard there. */
function open(part: string): void {
  const group = sheet.value?.querySelector(part === 'aircraft' ? '#control-aircraft' : '#control-computing');
  group?.scrollIntoView({ block: 'start', behavior: 'smooth' });
  group?.querySelector<HTMLElement>('button, input')?.focus({ preventScroll: true });
}
</script>

<template>
  <AreaPage area="control" title="Control" question="What loop makes it behave?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0 || active.massItems.length === 0"
        title="Nothing to control yet"
        text="Loops are closed about the aircraft’s own motion: it needs an airframe with mass and controls."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'airframe', params: { project: project.id! } }"
          >Give it controls</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <EmptyState
        v-else-if="!chain"
        title="No loops yet"
        text="A chain of loops moves one control: a rate loop within an attitude loop. Gains are found as fast as they can be without ringing."
      >
        <button
          v-for="k in NEW"
          :key="k.id"
          class="btn btn-main"
          :disabled="!control.of.value"
          :data-test="`new-${k.id}`"
          @click="control.addChain(k.id)"
        >
          {{ k.name }}
        </button>
        <ControlViews on="loops" />
      </EmptyState>
      <div v-else class="flex h-full min-h-[510px] flex-col gap-1.5 px-5 py-2.5">
        <div class="flex items-center gap-4">
          <ControlViews class="shrink-0" on="loops" />
          <ChipRow
            class="ml-auto"
            label="Open-loop plot"
            :options="VIEWS"
            :on="[view]"
            test="control-view"
            @pick="(id) => preferences.set('control-view', id)"
          />
        </div>
        <div class="flex items-center gap-4">
          <ChipRow
            label="Chains"
            :options="control.settings.value.chains.map((c) => ({ id: c.id, name: c.name }))"
            :on="[chain.id]"
            test="chain"
            @pick="(id) => ((control.chosenChain.value = id), (control.chosenLoop.value = 0))"
          />
          <NewMenu label="New chain" :options="NEW" @pick="(id) => control.addChain(id)" />
        </div>
        <p v-if="control.stale.value" class="text-[12.5px] text-clay" data-test="retune">
          The aircraft has changed since these gains were found.
          <button class="link" @click="control.solve(null)">Tune again</button> or
          <button
            class="link"
            @click="control.changeChain('Gains kept for this model', (c) => (c.tunedFor = control.print.value))"
          >
            keep them
          </button>
        </p>
        <ChainPicture
          :chain="chain"
          :control="moved.name"
          :loop="loop"
          :step="control.settings.value.step"
          :delay="control.settings.value.delay"
          :off="Object.keys(control.scale.value).length"
          @loop="(i) => (control.chosenLoop.value = i)"
          @open="open"
        />
        <p v-if="failure" class="text-clay" role="alert">{{ failure.message }} {{ failure.hint }}</p>
        <div
          v-if="now"
          class="grid min-h-0 flex-1 grid-cols-[minmax(0,1.05fr)_minmax(0,1fr)_minmax(0,1fr)] grid-rows-[minmax(0,1fr)_minmax(0,1fr)] gap-x-5 gap-y-1"
        >
          <section class="row-span-2 flex min-h-0 flex-col">
            <h2 class="text-[16px] font-semibold">Root locus</h2>
            <p class="text-[12px] text-soft">as the gains on {{ measure.name }} grow; drag a pole</p>
            <RootPath
              :path="now.path"
              :open="now.openPoles"
              :closed="now.closedPoles"
              :before="dashed?.closedPoles ?? null"
              :beside="control.beside.value?.poles ?? null"
              @preview="(k) => times(k, false)"
              @commit="(k) => times(k, true)"
            />
          </section>
          <template v-if="view === 'frequency'">
            <LineChart
              chart-id="control-gain"
              title="Open loop, gain"
              :series="gain"
              :marks="gainMarks"
              :x="{ name: 'frequency', unit: 'rad/s', scale: 'log' }"
              :y="{ name: 'gain', unit: 'dB' }"
              :caption="control.unreachable.value"
            >
              <template #handles>
                <PlotHandle
                  v-if="crossing"
                  :x="crossing.frequency"
                  :y="0"
                  along="x"
                  label="Where the loop crosses: drag it, or use the arrow keys"
                  :steps="{ x: 0.05, y: 0 }"
                  :text="(at) => `crosses at ${formatNumber(at.x, 2)} rad/s`"
                  @preview="(at) => control.follow({ ...crossing!, frequency: at.x }, false)"
                  @commit="(at) => control.follow({ ...crossing!, frequency: at.x }, true)"
                />
              </template>
            </LineChart>
          </template>
          <LineChart
            v-else-if="view === 'plane'"
            class="row-span-2"
            chart-id="control-nichols"
            title="Open loop, gain over phase"
            :series="nichols"
            :marks="[{ x: -180, y: 0, text: 'critical point', colour: 'var(--clay)' }]"
            :x="{ name: 'phase', unit: '°' }"
            :y="{ name: 'gain', unit: 'dB' }"
          />
          <ReachFigures v-else-if="view === 'speed'" :control="control" />
          <LineChart
            v-else
            class="row-span-2"
            chart-id="control-polar"
            title="Open loop in the plane"
            equal
            :series="polarPlane"
            :marks="[{ x: -1, y: 0, text: 'critical point', colour: 'var(--clay)' }]"
            :x="{ name: 'real part', zero: true }"
            :y="{ name: 'imaginary part', zero: true }"
          />
          <LineChart
            chart-id="control-step"
            :title="`A step of ${measure.name}`"
            :subtitle="`by 1 ${measure.unit}`"
            :series="step"
            :x="{ name: 'time', unit: 's', zero: true }"
            :y="{ name: measure.name, unit: measure.unit, zero: true }"
          />
          <LineChart
            v-if="view === 'frequency'"
            chart-id="control-phase"
            title="Open loop, phase"
            :subtitle="crossing ? `crosses at ${formatNumber(crossing.frequency, 2)} rad/s` : ''"
            :series="phase"
            :marks="phaseMarks"
            :x="{ name: 'frequency', unit: 'rad/s', scale: 'log' }"
            :y="{ name: 'phase', unit: '°' }"
          >
            <template #handles>
              <PlotHandle
                v-if="crossing"
                :x="crossing.frequency"
                :y="crossing.phaseMargin * DEG - 180"
                along="both"
                label="Crossing and phase margin: drag it, or use the arrow keys"
                :steps="{ x: 0.05, y: 5 }"
                :text="(at) => `${formatNumber(at.y + 180, 0)}° left at ${formatNumber(at.x, 2)} rad/s`"
                @preview="(at) => control.follow(crossingAt(at), false)"
                @commit="(at) => control.follow(crossingAt(at), true)"
              />
            </template>
          </LineChart>
          <LineChart
            chart-id="control-effort"
            title="Control effort"
            :subtitle="`of ${moved.name}`"
            :series="effort"
            :x="{ name: 'time', unit: 's', zero: true }"
            :y="{ name: moved.quantity, unit: moved.unit, zero: true }"
          />
        </div>
      </div>
    </template>
    <template #ledger>
      <div class="flex h-full flex-col">
        <p v-if="worstWords" class="px-4 pt-1.5 text-[12.5px]">
          <span v-if="sampledWords" data-test="sampled"
            ><b>Sampled every {{ formatNumber(1000 * control.settings.value.step, 0) }} ms:</b> {{ sampledWords
            }}{{ ' ' }}</span
          >
          <span data-test="worst"><b>Every derivative 20 % off:</b> {{ worstWords }}</span>
        </p>
        <LedgerTable
          class="min-h-0 flex-1"
          :rows="rows"
          :columns="columns"
          label="Loops, each with those within it closed"
          file-name="veldtwind-loops"
          :selected="chain ? `${chain.id}|${loop}` : null"
          @select="
            (id) => {
              const [c, l] = id.split('|');
              control.chosenChain.value = c;
              control.chosenLoop.value = Number(l);
            }
          "
        />
      </div>
    </template>
    <template #sheet>
      <div ref="sheet">
        <ChainSheet v-if="chain" :key="`${chain.id}|${loop}`" :control="control" />
        <ModelGroup v-if="chain" :control="control" />
        <SheetGroup v-if="control.needs.value.length" title="Polars of the strips">
          <PolarNeeds
            :needs="control.needs.value"
            :missing="control.missing.value"
            :seconds="control.polars.secondsFor(control.missing.value)"
            @compute="control.polars.compute(control.missing.value, `Polars for Control, ${active?.letter ?? ''}`)"
          />
        </SheetGroup>
        <p class="pt-2 text-[12px] text-soft" role="status" data-test="control-made">
          {{ control.withPolars.value ? 'motion by the lattice with section polars' : 'motion by the vortex lattice' }},
          {{ formatNumber(study.ms.value, 0) }} ms
        </p>
      </div>
    </template>
  </AreaPage>
</template>
