<script setup lang="ts">
import { useRafFn } from '@vueuse/core';
import { Pause, Play } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { freeResponse, type Mode } from '@veldtwind/core/motion';
import { PATH_CHANGES, PATH_DERIVATIVES } from '@veldtwind/core/candidate';
import { BRIEF_LIMITS } from '@veldtwind/core/project';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import LineChart from '@/components/chart/LineChart.vue';
import HandlingFields from '@/components/assumptions/HandlingFields.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import PolarNeeds from '@/components/polars/PolarNeeds.vue';
import { DEG } from '@veldtwind/core/numerics';
import AreaPage from '@/components/shell/AreaPage.vue';
import FlightPath, { type PathLine } from '@/components/view3d/FlightPath.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { originOf } from '@/lib/origin';
import { seriesStyle } from '@/lib/series-style';
import { provideOrigin } from '@/store/number-sheet';
import { usePreferences } from '@/store/preferences';
import { awaitsPolars } from '@veldtwind/core/project';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import BalanceGroups from './BalanceGroups.vue';
import MethodGroup from './MethodGroup.vue';
import ModeTable from './ModeTable.vue';
import DerivativeTable from './DerivativeTable.vue';
import RollDampingView from './RollDampingView.vue';
import TrimRows from './TrimRows.vue';
import EnvelopeView from './EnvelopeView.vue';
import EffectList from './EffectList.vue';
import { flownResponse } from './flown-response';
import PoleMap, { type Poles } from './PoleMap.vue';
import ShapeWheel from './ShapeWheel.vue';
import RecordGroup from './RecordGroup.vue';
import RecordView from './RecordView.vue';
import { useMotion } from './use-motion';
import { useRecord } from './use-record';
import { modeSentence, SHOWN_STATES, shownState } from './words';

const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const active = computed(() => workbench.active);
const other = ref<number | null>(null);
const speed = computed(() => other.value ?? project.brief.speed);
const loading = ref<string>('');
const setting = ref<string>('');
const FOLLOWS = [{ id: 'speed', name: 'speed' }, ...PATH_CHANGES, ...PATH_DERIVATIVES];
const follow = computed(() => preferences.get<string>('motion-follow', 'speed'));
const motion = useMotion(
  () => speed.value,
  (id) => {
    const own = project.document.candidates[id]?.loadings ?? {};
    return loading.value && Object.hasOwn(own, loading.value) ? loading.value : undefined;
  },
  () => follow.value,
  (id) => {
    const own = project.document.candidates[id]?.settings ?? [];
    return own.some((s) => s.name === setting.value) ? setting.value : undefined;
  },
);
const own = computed(() => (active.value ? motion.of(active.value.id) : null));
const failure = computed(() => (active.value ? motion.failureOf(active.value.id) : null));
const poles = computed<Poles[]>(() =>
  workbench.visible.flatMap((c) => {
    const m = motion.of(c.id);
    return m
      ? [{ id: c.id, letter: c.letter, style: seriesStyle(c.style), modes: m.modes, main: c.id === active.value?.id }]
      : [];
  }),
);
const path = computed(() =>
  follow.value === 'speed'
    ? (motion.path.value.value ?? []).map((p) => ({ label: `${p.speed}`, modes: p.modes }))
    : (motion.changePath.value.value ?? []),
);
const effects = computed(() => motion.effects.value.value ?? []);
const chosen = ref<string | null>(null);
const mode = computed<Mode | null>(
  () => own.value?.modes.find((m) => m.name === chosen.value) ?? own.value?.modes[0] ?? null,
);

const DISTURBANCES = [
  { id: 'alpha', name: 'gust from below, 3°', longitudinal: true },
  { id: 'speed', name: 'head wind, 10 %', longitudinal: true },
  { id: 'beta', name: 'gust from the side, 5°', longitudinal: false },
  { id: 'bank', name: 'bank of 10°', longitudinal: false },
] as const;
type Disturbance = (typeof DISTURBANCES)[number]['id'];
const disturbance = computed<Disturbance>(() => preferences.get<Disturbance>('motion-disturbance', 'alpha'));
const start = computed(() => {
  const V = speed.value;
  const longitudinal = DISTURBANCES.find((d) => d.id === disturbance.value)!.longitudinal;
  const state = {
    alpha: [0, (3 / DEG) * V, 0, 0],
    speed: [0.1 * V, 0, 0, 0],
    beta: [(5 / DEG) * V, 0, 0, 0],
    bank: [0, 0, 0, 10 / DEG],
  }[disturbance.value];
  return { longitudinal, state };
});
const seconds = computed(() => preferences.get<number>('motion-seconds', 10));
const SECONDS = { label: 'Seconds', dimension: 'plain', min: 0.5, max: 600, step: 1 } as const;
const COLOURS = ['sky', 'ochre', 'plum', 'grass'];
const views = [
  { id: 'poles', name: 'Poles' },
  { id: 'envelope', name: 'Over speed' },
  { id: 'mode', name: 'Mode', title: 'The chosen mode, flown' },
  { id: 'response', name: 'Response', title: 'The response to the disturbance, flown' },
  { id: 'roll', name: 'Roll damping' },
  { id: 'record', name: 'Record', title: 'Derivatives of a flight record' },
] as const;
type View = (typeof views)[number]['id'];
const TITLES = computed<Record<View, string>>(() => ({
  poles: 'Modes in the plane',
  envelope: `The ${mode.value?.name ?? 'mode'} over speed`,
  mode: `The ${mode.value?.name ?? 'mode'}, flown`,
  response: 'The response, flown',
  roll: 'Roll through the stall',
  record: 'Flight record',
}));
const view = computed(() => preferences.get<View>('motion-view', 'poles'));
const ledger = computed(() => preferences.get<'modes' | 'derivatives'>('motion-ledger', 'modes'));
const record = useRecord(
  () => own.value,
  () => speed.value,
  () => view.value === 'record' || ledger.value === 'derivatives',
);
const COUNT = 301;
/** The motion after the disturbance, or a mode alone. */
const moved = computed(() => {
  const m = own.value;
  if (!m) return null;
  const { longitudinal, state } = start.value;
  const system = longitudinal ? m.matrices.longitudinal : m.matrices.lateral;
  return { longitudinal, system, states: freeResponse(system, state, seconds.value, COUNT) };
});
/** As long as a mode is worth looking at: three swings, or until little is left. */
const span = computed(() => {
  const m = mode.value;
  if (view.value !== 'mode' || !m) return seconds.value;
  const swings = m.im > 1e-6 ? (3 * 2 * Math.PI) / m.im : 0;
  const fading = 4 / Math.max(1e-3, Math.abs(m.re));
  return Math.max(1, Math.min(120, swings > 0 ? Math.min(swings, 2 * fading) : fading));
});
/** The chosen mode by itself: its eigenvector turning, 5° at the greatest of its angles. */
const modeMoved = computed(() => {
  const m = mode.value;
  const of = own.value;
  if (!m || !of) return null;
  const { longitudinal, lateral } = of.matrices;
  const isLong = m.shape.every((v) => longitudinal.states.includes(v.state));
  const system = isLong ? longitudinal : lateral;
  const angle = Math.max(
    1e-9,
    ...m.shape.map((v) =>
      ['u', 'w', 'v'].includes(v.state) ? v.size / speed.value : ['theta', 'phi'].includes(v.state) ? v.size : 0,
    ),
  );
  const k = 5 / DEG / angle;
  const states = Array.from({ length: COUNT }, (_, i) => {
    const t = (span.value * i) / (COUNT - 1);
    // What grows is shown from where it is small.
    const grown = Math.exp(Math.min(4, m.re * t));
    return system.states.map((name) => {
      const v = m.shape.find((q) => q.state === name);
      return v ? k * v.size * grown * Math.cos(v.phase + m.im * t) : 0;
    });
  });
  return { longitudinal: isLong, states };
});
const AMPLITUDES = [1, 3, 10].map((id) => ({ id, name: `scale ${id} ×` }));
const amplitude = computed(() => preferences.get<number>('motion-amplitude', 3));
const paths = computed<PathLine[]>(() => {
  const m = view.value === 'mode' ? modeMoved.value : moved.value;
  if (!m || !own.value || !active.value) return [];
  const line = flownResponse(
    m.states,
    m.longitudinal,
    span.value / (COUNT - 1),
    speed.value,
    own.value.trim.alpha,
    amplitude.value,
  );
  return [{ id: 'now', ...seriesStyle(active.value.style), ...line }];
});
const clock = ref(0);
const playing = ref(true);
const flying = computed(() => (view.value === 'mode' || view.value === 'response') && playing.value);
const frames = useRafFn(({ delta }) => (clock.value = (clock.value + delta / 1000) % span.value), { immediate: false });
watch(flying, (on) => (on ? frames.resume() : frames.pause()), { immediate: true });
const response = computed<ChartSeries[]>(() => {
  if (!moved.value) return [];
  const { system, states } = moved.value;
  return system.states.flatMap((name, i): ChartSeries[] => {
    // Rates would be a scale of their own.
    if (name === 'q' || name === 'p' || name === 'r') return [];
    const shown = SHOWN_STATES[name];
    return [
      {
        id: name,
        label: `${shown.symbol}, ${shown.unit}`,
        style: { colour: `var(--${COLOURS[i]})`, dash: ['', '7 4', '2 3', '10 3 2 3'][i], marker: 'disc' },
        markers: false,
        points: states.map((s, k) => ({
          x: (seconds.value * k) / (COUNT - 1),
          y: shownState(name, s[i], speed.value),
        })),
      },
    ];
  });
});

const shownMotions = computed(() =>
  workbench.visible.flatMap((candidate) => {
    const m = motion.of(candidate.id);
    return m ? [{ candidate, motion: m }] : [];
  }),
);
const loadings = computed(() => [
  { id: '', name: 'all items' },
  ...Object.keys(active.value?.loadings ?? {}).map((id) => ({ id, name: id })),
]);
const settings = computed(() => [
  { id: '', name: 'as drawn' },
  ...(active.value?.settings ?? []).map(({ name }) => ({ id: name, name })),
]);
const assumed = computed(() => project.brief.assumptions);
const unit = computed(() => displayUnit('speed', preferences.units));
const needs = computed(() => (active.value ? (motion.needs.value.get(active.value.id) ?? []) : []));
const missing = computed(() => (active.value ? motion.missing(active.value.id) : []));
provideOrigin(() => {
  const [c, m] = [active.value, own.value];
  if (!c || !m) return null;
  const of = { letter: c.letter, speed: speed.value, altitude: project.brief.altitude };
  const shown = {
    loading: loading.value,
    setting: settings.value.some((s) => s.id === setting.value) ? setting.value : '',
  };
  return originOf({ ...of, ...shown, method: m.method }, preferences.units, {
    provisional: awaitsPolars(m.method, assumed.value.method),
    doubts: m.doubts,
  });
});
const made = computed(() =>
  own.value?.method === 'polars' ? 'lattice with section polars' : 'vortex lattice, drag from the build-up',
);
</script>

<template>
  <AreaPage area="motion" title="Motion" question="How does it move after a disturbance?">
    <template #figure>
      <EmptyState
        v-if="!active || active.surfaces.length === 0 || active.massItems.length === 0"
        title="Nothing that moves yet"
        text="Motion needs an airframe with a mass: where the mass lies, and how far it is spread."
      >
        <RouterLink class="btn btn-main" :to="{ name: 'balance', params: { project: project.id! } }"
          >Give it mass</RouterLink
        >
        <OpenDemo />
      </EmptyState>
      <p v-else-if="failure" class="px-6 pt-6 text-clay" role="alert">{{ failure.message }} {{ failure.hint }}</p>
      <RecordView v-else-if="view === 'record'" :of="record" :candidate="active">
        <ChipRow
          label="Figure"
          :options="views"
          :on="[view]"
          test="motion-view"
          @pick="(id) => preferences.set('motion-view', id)"
        />
      </RecordView>
      <!-- Beside the help there is room for one column. -->
      <div
        v-else
        class="grid h-full min-h-[510px] grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] gap-x-5 px-5 py-3 @max-[600px]:h-auto @max-[600px]:grid-cols-[minmax(0,1fr)]"
      >
        <div
          class="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[1.25fr_1fr] gap-2 @max-[600px]:mb-4 @max-[600px]:h-[560px]"
        >
          <section class="flex min-h-0 flex-col">
            <div class="flex flex-wrap items-baseline justify-between gap-x-3">
              <h2 class="text-[17px] font-semibold">
                {{ TITLES[view] }}
              </h2>
              <ChipRow
                label="Figure"
                :options="views"
                :on="[view]"
                test="motion-view"
                @pick="(id) => preferences.set('motion-view', id)"
              />
            </div>
            <template v-if="view === 'poles'">
              <p class="text-[12.5px] text-soft">
                left dies out, right grows; the lines follow {{ active.letter }} over
                <select
                  class="rounded border border-rule bg-field px-1 text-ink"
                  aria-label="Parameter of the root locus"
                  data-test="follow"
                  :value="follow"
                  @change="(v) => preferences.set('motion-follow', (v.target as HTMLSelectElement).value)"
                >
                  <option v-for="o in FOLLOWS" :key="o.id" :value="o.id">{{ o.name }}</option>
                </select>
                <template v-if="follow === 'speed'">
                  from {{ formatQuantity(0.7 * speed, 'speed', preferences.units) }} to
                  {{ formatQuantity(1.4 * speed, 'speed', preferences.units) }} {{ unit.symbol }}</template
                ><template v-else-if="follow === 'altitude'"> up to 5 000 m higher</template
                ><template v-else> by five steps of the list at the right, both ways</template>
              </p>
              <PoleMap
                :poles="poles"
                :wanted="project.brief.bands.dampingRatio.min"
                :path="path"
                :selected="mode?.name ?? null"
                :effects="effects"
                @pick="(m) => (chosen = m)"
              />
            </template>
            <EnvelopeView
              v-else-if="view === 'envelope'"
              :active="active"
              :motion="motion"
              :mode="mode?.name ?? null"
              :speed="speed"
              :loading="loading || undefined"
            />
            <RollDampingView v-else-if="view === 'roll'" :active="active" :input="() => motion.input(active!.id)" />
            <template v-else>
              <div class="flex items-center gap-2 text-[12.5px] text-soft">
                <button class="icon-btn" :aria-label="playing ? 'Stop' : 'Fly'" @click="playing = !playing">
                  <Pause v-if="playing" :size="14" /><Play v-else :size="14" />
                </button>
                {{ formatNumber(clock, 1) }} s
                <ChipRow
                  label="Amplitude"
                  :options="AMPLITUDES"
                  :on="[amplitude]"
                  @pick="(v) => preferences.set('motion-amplitude', v)"
                />
              </div>
              <FlightPath
                :lines="paths"
                :at="Math.round((clock / span) * (COUNT - 1))"
                :surfaces="active.surfaces"
                :centre="own ? own.mass.centre : { x: 0, z: 0 }"
                :way-points="[]"
              />
            </template>
          </section>
          <LineChart
            chart-id="motion-response"
            title="After the disturbance"
            subtitle="sum of the modes, controls held"
            :series="response"
            :x="{ name: 'time', unit: 's', zero: true }"
            :y="{ name: 'change', zero: true }"
          />
        </div>
        <section class="min-h-0 overflow-y-auto">
          <h2 class="text-[17px] font-semibold">What each mode does</h2>
          <p v-if="!own" class="mt-1 text-[13px] text-soft" role="status">Computing…</p>
          <ul class="mt-1 text-[13px]" data-test="mode-words">
            <li v-for="m in own?.modes ?? []" :key="m.name">
              <button
                class="min-h-6 w-full rounded px-1.5 py-[3px] text-left hover:bg-select"
                :class="m.name === mode?.name ? 'bg-select' : ''"
                @click="chosen = m.name"
              >
                <b>{{ m.name.charAt(0).toUpperCase() + m.name.slice(1) }}</b>{{ ' '
                }}<span :class="m.re > 0 ? 'text-clay' : ''">{{ modeSentence(m) }}</span>
              </button>
            </li>
          </ul>
          <ShapeWheel v-if="mode" class="mt-1" :mode="mode" :speed="speed" />
          <EffectList v-if="mode && effects.length" :effects="effects" :mode="mode" />
          <h3 class="mt-2 mb-1 text-[13px] font-semibold">Disturbance</h3>
          <ChipRow
            label="Disturbance"
            :options="DISTURBANCES"
            :on="[disturbance]"
            test="disturbance"
            @pick="(id) => preferences.set('motion-disturbance', id)"
          />
        </section>
      </div>
    </template>
    <template #ledger>
      <div class="flex h-full flex-col">
        <ChipRow
          v-if="ledger === 'modes' || !own"
          class="px-4 pt-1.5"
          label="Rows"
          :options="[
            { id: 'modes', name: 'Modes' },
            { id: 'derivatives', name: 'Derivatives' },
          ]"
          :on="[ledger]"
          test="motion-ledger"
          @pick="(id) => preferences.set('motion-ledger', id)"
        />
        <ModeTable
          v-if="ledger === 'modes'"
          class="min-h-0 flex-1"
          :active="active"
          :shown="shownMotions"
          :made="made"
          :selected="mode?.name ?? null"
          @select="(id) => (chosen = id)"
        />
        <DerivativeTable
          v-else-if="own && active"
          class="min-h-0 flex-1"
          :active="active"
          :own="own"
          :shown="shownMotions"
          :estimate="record.found.value"
        >
          <ChipRow
            label="Rows"
            :options="[
              { id: 'modes', name: 'Modes' },
              { id: 'derivatives', name: 'Derivatives' },
            ]"
            :on="[ledger]"
            test="motion-ledger"
            @pick="(id) => preferences.set('motion-ledger', id)"
          />
        </DerivativeTable>
      </div>
    </template>
    <template #sheet>
      <template v-if="active && own">
        <SheetGroup title="Level flight">
          <LimitField
            :limit="BRIEF_LIMITS.speed"
            :model-value="speed"
            @preview="(v) => (other = v)"
            @commit="(v) => (other = v)"
          />
          <button v-if="other !== null" class="link text-[12.5px]" @click="other = null">Back to the brief’s</button>
          <SelectRow
            v-if="loadings.length > 1"
            label="Loading"
            :model-value="loading"
            :options="loadings"
            test="loading"
            @update:model-value="(v) => (loading = v)"
          />
          <SelectRow
            v-if="settings.length > 1"
            label="Control setting"
            :model-value="setting"
            :options="settings"
            test="setting"
            @update:model-value="(v) => (setting = v)"
          />
          <TrimRows :motion="own" :candidate="active" />
        </SheetGroup>
        <BalanceGroups :motion="own" :candidate="active" />
        <SheetGroup title="Response">
          <LimitField
            :limit="SECONDS"
            :model-value="seconds"
            :digits="1"
            @commit="(v) => v !== null && preferences.set('motion-seconds', v)"
          />
        </SheetGroup>
        <SheetGroup title="Levels of handling">
          <HandlingFields />
          <p class="text-[12px] text-soft">MIL-F-8785C, 1980; without a pilot on board they are a guide.</p>
        </SheetGroup>
        <SheetGroup title="Polars of the strips">
          <PolarNeeds
            :needs="needs"
            :missing="missing"
            :seconds="motion.polars.secondsFor(missing)"
            @compute="motion.polars.compute(missing, `Polars for Motion, ${active.letter}`)"
          />
        </SheetGroup>
        <RecordGroup :of="record" :candidate="active" />
        <MethodGroup :pairs="motion.pairs.value" />
        <p v-for="d in own.doubts" :key="d" class="pt-2 text-[12.5px] text-clay">{{ d }}</p>
        <p class="pt-2 text-[12px] text-soft" role="status" data-test="motion-made">
          {{ made }}, {{ formatNumber(motion.msOf(active.id), 0) }} ms
        </p>
      </template>
    </template>
  </AreaPage>
</template>
