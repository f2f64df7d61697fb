<script setup lang="ts">
import { Download, Plus, Trash2, Upload } from 'lucide-vue-next';
import { computed } from 'vue';
import { toast } from 'vue-sonner';
import { withOwnEngine } from '@veldtwind/core/candidate';
import { THRUST, type Measured } from '@veldtwind/core/control';
import { parseJson, type FieldLimit } from '@veldtwind/core/limits';
import { RAD, VeldtwindError } from '@veldtwind/core/numerics';
import { engineOf, scenarioSchema, type FlightInput, type Scenario } from '@veldtwind/core/simulation';
import ChipRow from '@/components/field/ChipRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import AirGroup from './AirGroup.vue';
import { angle, HEIGHT, plain, SPEED, useScenario } from './sheet-fields';
import ThrustGroup from './ThrustGroup.vue';
import type { useFlights } from './use-flights';
import WayPointsGroup from './WayPointsGroup.vue';

/** All of a scenario: how it begins, what acts on it, and who flies. */
const props = defineProps<{ flights: ReturnType<typeof useFlights> }>();
const f = props.flights;
const part = computed(() => f.part.value!);
const { s, change, show } = useScenario(f);
const GROUND: FieldLimit = { label: 'Ground altitude', dimension: 'length', min: -500, max: 9000, step: 10 };
const LENGTH: FieldLimit = { label: 'Rail length', dimension: 'length', min: 0.1, max: 500, step: 0.5 };
const KINDS = [
  { id: 'flight', name: 'in trim' },
  { id: 'hand', name: 'by hand' },
  { id: 'rail', name: 'rail' },
] as const;
type Launch = Scenario['launch'];
/** A field of the launch, whatever its kind. */
const inLaunch = (key: string, v: number) => (sc: Scenario) => {
  (sc.launch as unknown as Record<string, number>)[key] = v;
};
type Field = { key: string; limit: FieldLimit };
const LAUNCH: Record<Launch['kind'], Field[]> = {
  flight: [
    { key: 'speed', limit: { ...SPEED, min: 0.5 } },
    { key: 'height', limit: HEIGHT },
    { key: 'climbDeg', limit: angle('Climb', -60, 60, 0.5) },
    { key: 'headingDeg', limit: angle('Heading', -360, 360, 10) },
  ],
  hand: [
    { key: 'speed', limit: SPEED },
    { key: 'height', limit: HEIGHT },
    { key: 'elevationDeg', limit: angle('Elevation', -90, 90) },
    { key: 'headingDeg', limit: angle('Heading', -360, 360, 10) },
    { key: 'bankDeg', limit: angle('Bank', -180, 180, 5) },
    { key: 'alphaDeg', limit: angle('Angle of attack', -90, 90) },
  ],
  rail: [
    { key: 'length', limit: LENGTH },
    { key: 'elevationDeg', limit: angle('Elevation', -5, 90) },
    { key: 'headingDeg', limit: angle('Heading', -360, 360, 10) },
    { key: 'height', limit: HEIGHT },
    { key: 'friction', limit: plain('Friction', 0, 1, 0.05) },
  ],
};
const launchFields = computed(() => LAUNCH[s.value.launch.kind]);
const valueOf = (key: string) => (s.value.launch as unknown as Record<string, number>)[key] ?? 0;
function setKind(kind: Launch['kind']): void {
  change('Kind of launch', (sc) => {
    const { headingDeg } = sc.launch;
    const speed = Math.max(1, 'speed' in sc.launch ? sc.launch.speed : 0) || f.speed.value;
    const next = {
      flight: { kind: 'flight', speed, height: Math.max(50, sc.launch.height), headingDeg },
      hand: { kind: 'hand', speed, height: Math.max(1.5, Math.min(3, sc.launch.height)), headingDeg, elevationDeg: 5 },
      rail: { kind: 'rail', length: 5, elevationDeg: 12, height: 0.5, headingDeg },
    }[kind];
    sc.launch = scenarioSchema.shape.launch.parse(next);
  });
}
const controls = computed(() => {
  const names = f.tables.value.value?.controls.map((c) => c.name) ?? [];
  return [...new Set([...names, ...s.value.inputs.map((i) => i.control)])].map((id) => ({ id, name: id }));
});
const INPUT_KINDS = [
  { id: 'step', name: 'step' },
  { id: 'doublet', name: 'doublet' },
  { id: 'sweep', name: 'sweep of frequencies' },
] as const;
function inputKind(i: number, kind: string): void {
  change('Kind of an input', (sc) => {
    const { control } = sc.inputs[i];
    const at = 'at' in sc.inputs[i] ? (sc.inputs[i] as { at: number }).at : 1;
    const amountDeg = 'amountDeg' in sc.inputs[i] ? (sc.inputs[i] as { amountDeg: number }).amountDeg : 2;
    sc.inputs[i] = (
      kind === 'step'
        ? { kind, control, at, amountDeg }
        : kind === 'doublet'
          ? { kind, control, at, amountDeg, duration: 1 }
          : { kind, control, at, amountDeg, duration: 10, fromHz: 0.1, toHz: 3 }
    ) as FlightInput;
  });
}
const inputFields = (input: FlightInput): { key: string; limit: FieldLimit }[] =>
  input.kind === 'points'
    ? []
    : [
        { key: 'at', limit: plain('At, s', 0, 1e5, 0.5) },
        { key: 'amountDeg', limit: angle('By', -90, 90, 0.5) },
        ...(input.kind === 'step' ? [] : [{ key: 'duration', limit: plain('For, s', 0.01, 1e4, 0.5) }]),
        ...(input.kind === 'sweep'
          ? [
              { key: 'fromHz', limit: plain('From, Hz', 0.001, 100, 0.1) },
              { key: 'toHz', limit: plain('To, Hz', 0.001, 100, 0.5) },
            ]
          : []),
      ];
const field = (of: object, key: string) => (of as Record<string, number>)[key];
const put = (of: object, key: string, v: number) => ((of as Record<string, number>)[key] = v);
const chains = computed(() => f.active.value?.autopilot?.chains ?? []);
/** Whether the candidate's own loops move the thrust; without an engine in the scenario they cannot. */
const pushes = computed(() => chains.value.some((c) => c.to === THRUST));
/** Whether something pushes: an engine of the scenario, or the candidate's own. */
const powered = computed(() => engineOf(withOwnEngine(s.value, f.active.value ?? {})) !== null);
const outers = computed(() => [
  ...new Set([
    ...chains.value.filter((c) => c.to !== THRUST || powered.value).map((c) => c.laws[c.laws.length - 1].from),
    ...(part.value.loops.throttle && powered.value ? (['V'] as Measured[]) : []),
  ]),
]);
const WANTED: Record<Measured, FieldLimit> = {
  alpha: angle('Angle of attack', -30, 30),
  beta: angle('Sideslip', -30, 30),
  p: angle('Roll rate, per s', -400, 400, 5),
  q: angle('Pitch rate, per s', -400, 400, 5),
  r: angle('Yaw rate, per s', -400, 400, 5),
  rTurn: angle('Yaw-rate error, per s', -400, 400, 5),
  phi: angle('Bank', -80, 80, 5),
  theta: angle('Pitch', -80, 80),
  psi: angle('Heading', -360, 360, 10),
  climb: angle('Climb', -60, 60),
  course: angle('Course', -360, 360, 10),
  height: { label: 'Height', dimension: 'length', min: 0, max: 30000, step: 5 },
  V: { ...SPEED, min: 0.5 },
};
const stored = (m: Measured) => (WANTED[m].dimension === 'angle' ? RAD : 1);
function wantedValue(m: Measured): number | null {
  const v = part.value.loops.wanted[m];
  return typeof v === 'number' ? Number((v / stored(m)).toPrecision(8)) : null;
}
const follows = (m: Measured) => ['psi', 'course', 'height'].includes(m) && s.value.waypoints.length > 0;
function saveFile(): void {
  const url = URL.createObjectURL(
    new Blob([JSON.stringify(f.flown.value?.scenario ?? s.value, null, 2)], { type: 'application/json' }),
  );
  const a = document.createElement('a');
  a.href = url;
  a.download = `${part.value.name.replace(/[^\w-]+/g, '-').toLowerCase()}.json`;
  a.click();
  URL.revokeObjectURL(url);
}
async function readFile(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  try {
    if (file.size > 5e6) throw new Error('The file is larger than 5 MB: no scenario is.');
    const parsed = scenarioSchema.safeParse(parseJson(await file.text(), 'The scenario', 'See docs/flight.md.'));
    if (!parsed.success) {
      const { path, message } = parsed.error.issues[0];
      throw new Error(`${path.join('.') || 'The file'} ${message}.`);
    }
    f.edit(`Scenario read from ${file.name}`, (p) => {
      p.scenario = parsed.data;
      if (parsed.data.autopilot) p.loops.on = false;
    });
  } catch (error) {
    toast.error('The scenario was not read', {
      description: error instanceof VeldtwindError ? `${error.message} ${error.hint ?? ''}` : (error as Error).message,
      duration: 8000,
    });
  }
}
const loadings = computed(() => [
  { id: '', name: 'all items' },
  ...Object.keys(f.active.value?.loadings ?? {}).map((id) => ({ id, name: id })),
]);
</script>

<template>
  <SheetGroup title="Scenario">
    <template #aside>
      <span class="flex items-center gap-1">
        <button class="icon-btn" title="Save as a file" aria-label="Save the scenario as a file" @click="saveFile">
          <Download :size="13" />
        </button>
        <label class="icon-btn cursor-pointer" title="Read from a file">
          <Upload :size="13" />
          <input
            class="sr-only"
            type="file"
            accept=".json,application/json"
            aria-label="Read a scenario"
            @change="readFile"
          />
        </label>
        <button class="icon-btn" title="Remove" :aria-label="`Remove ${part.name}`" @click="f.remove">
          <Trash2 :size="13" />
        </button>
      </span>
    </template>
    <TextRow
      label="Name"
      needed
      :most="80"
      :model-value="part.name"
      @update:model-value="(v) => f.edit('Name of a scenario', (p) => (p.name = v))"
    />
    <LimitField
      :limit="plain('Seconds', 0.1, 7200, 5)"
      :model-value="s.duration"
      :digits="1"
      @commit="(v) => v !== null && change('Duration', (sc) => (sc.duration = v))"
    />
    <LimitField
      :limit="GROUND"
      :model-value="s.ground"
      @commit="(v) => v !== null && change('Altitude of the ground', (sc) => (sc.ground = v))"
    />
    <SelectRow
      v-if="loadings.length > 1"
      label="Loading"
      :model-value="part.loading ?? ''"
      :options="loadings"
      @update:model-value="
        (v) =>
          f.edit('Loading of a flight', (p) => {
            if (v) p.loading = v;
            else delete p.loading;
          })
      "
    />
  </SheetGroup>
  <SheetGroup title="Launch">
    <ChipRow label="Launch" :options="KINDS" :on="[s.launch.kind]" test="launch" @pick="setKind" />
    <LimitField
      v-for="l in launchFields"
      :key="l.key"
      :limit="l.limit"
      :model-value="valueOf(l.key)"
      @preview="(v) => show(inLaunch(l.key, v))"
      @commit="(v) => v !== null && change(`${l.limit.label} of the launch`, inLaunch(l.key, v))"
    />
  </SheetGroup>
  <SheetGroup title="Pilot and autopilot">
    <SwitchRow
      :label="chains.length ? 'Autopilot' : 'No autopilot in Control yet'"
      :model-value="part.loops.on && chains.length > 0"
      test="loops-on"
      @update:model-value="(v) => f.edit('Loops in a flight', (p) => (p.loops.on = v))"
    />
    <template v-if="part.loops.on">
      <LimitField
        :limit="plain('From, s', 0, 1e5, 0.5)"
        :model-value="part.loops.from"
        @commit="(v) => v !== null && f.edit('Start of the loops', (p) => (p.loops.from = v))"
      />
      <p v-if="pushes && !powered" class="text-[12px] text-soft">The loop on the thrust rests: there is no engine.</p>
      <SwitchRow
        v-if="powered && !pushes"
        label="The throttle holds the speed"
        :model-value="part.loops.throttle"
        @update:model-value="(v) => f.edit('Throttle in a flight', (p) => (p.loops.throttle = v))"
      />
      <div v-for="m in outers" :key="m">
        <SwitchRow
          v-if="follows(m)"
          :label="`${WANTED[m].label}: to the way-points`"
          :model-value="part.loops.wanted[m] === 'waypoints'"
          @update:model-value="
            (v) =>
              f.edit('What a loop follows', (p) => {
                if (v) p.loops.wanted[m] = 'waypoints';
                else delete p.loops.wanted[m];
              })
          "
        />
        <LimitField
          v-if="part.loops.wanted[m] !== 'waypoints'"
          :limit="WANTED[m]"
          :model-value="wantedValue(m)"
          placeholder="as at the start"
          @commit="
            (v) =>
              f.edit(`${WANTED[m].label} wanted`, (p) => {
                if (v === null) delete p.loops.wanted[m];
                else p.loops.wanted[m] = v * stored(m);
              })
          "
        />
      </div>
    </template>
    <div v-for="(input, i) in s.inputs" :key="i" class="mt-2 border-l-2 border-rule pl-2.5" data-test="input-row">
      <div class="flex items-center justify-between">
        <span class="text-[12.5px] text-soft">Pilot’s input {{ i + 1 }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove input ${i + 1}`"
          title="Remove"
          @click="change('Remove an input', (sc) => sc.inputs.splice(i, 1))"
        >
          <Trash2 :size="12" />
        </button>
      </div>
      <SelectRow
        label="Control"
        :model-value="input.control"
        :options="controls"
        @update:model-value="(v) => change('Control of an input', (sc) => (sc.inputs[i].control = v))"
      />
      <SelectRow
        v-if="input.kind !== 'points'"
        label="Kind"
        :model-value="input.kind"
        :options="INPUT_KINDS"
        @update:model-value="(v) => inputKind(i, v)"
      />
      <p v-else class="text-[12.5px] text-soft">{{ input.points.length }} points over time, from the file</p>
      <LimitField
        v-for="k in inputFields(input)"
        :key="k.key"
        :limit="k.limit"
        :model-value="field(input, k.key)"
        @preview="(v) => show((sc) => put(sc.inputs[i], k.key, v))"
        @commit="(v) => v !== null && change(`${k.limit.label} of an input`, (sc) => put(sc.inputs[i], k.key, v))"
      />
    </div>
    <button
      v-if="controls.length"
      class="link mt-1 flex items-center gap-0.5 text-[13px]"
      data-test="add-input"
      @click="
        change('New input', (sc) =>
          sc.inputs.push({ kind: 'doublet', control: controls[0].id, at: 1, duration: 1, amountDeg: 2 }),
        )
      "
    >
      <Plus :size="12" />pilot’s input
    </button>
  </SheetGroup>
  <ThrustGroup :flights="flights" />
  <AirGroup :flights="flights" />
  <WayPointsGroup :flights="flights" />
</template>
