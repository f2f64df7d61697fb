<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { CONTROL_LIMITS, isLongitudinal, MEASURED, THRUST, type Law } from '@veldtwind/core/control';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG, RAD } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import LawExtras from './LawExtras.vue';
import type { useControl } from './use-control';
import { MEASURES } from '@veldtwind/core/control';

/** What the chosen chain is made of: its law, its control, its computing, and the aircraft that it moves. */
const props = defineProps<{ control: ReturnType<typeof useControl> }>();
const c = props.control;
const chain = computed(() => c.chain.value);
const law = computed(() => c.law.value);
const gains: { key: 'kp' | 'ki' | 'kd'; limit: FieldLimit }[] = [
  { key: 'kp', limit: { label: 'Proportional, kp', dimension: 'plain', min: 0, max: 1e4, step: 0.05 } },
  { key: 'ki', limit: { label: 'Integral, ki', dimension: 'plain', min: 0, max: 1e4, step: 0.05 } },
  { key: 'kd', limit: { label: 'Derivative, kd', dimension: 'plain', min: 0, max: 1e4, step: 0.01 } },
];
const FILTER: FieldLimit = { label: 'Its filter, rad/s', dimension: 'plain', min: 0.1, max: 1e4, step: 5 };
const LIMIT: FieldLimit = { label: 'Limit, ±', dimension: 'plain', min: 1e-4, max: 1e5, step: 1 };
const CROSS: FieldLimit = { label: 'Gain crossover, rad/s', dimension: 'plain', min: 0.005, max: 200, step: 0.2 };
const MARGIN: FieldLimit = { label: 'Phase margin', dimension: 'angle', min: 5, max: 120, step: 5 };
const LAG: FieldLimit = { label: 'Lag, s', dimension: 'plain', min: 0.001, max: 5, step: 0.01 };
const NATURAL: FieldLimit = { label: 'Natural frequency, rad/s', dimension: 'plain', min: 0.1, max: 2000, step: 1 };
const RATIO: FieldLimit = { label: 'Damping ratio', dimension: 'plain', min: 0.01, max: 5, step: 0.05 };
const RATE: FieldLimit = { label: 'Rate limit, °/s', dimension: 'plain', min: 1, max: 5000, step: 10 };
const TIMES: FieldLimit = { label: '', dimension: 'plain', min: -5, max: 10, step: 0.1 };
const set = (key: 'kp' | 'ki' | 'kd', v: number) => (l: Law) => {
  l[key] = v;
  if (key === 'kd' && v !== 0) l.filter ??= 50;
};
/** What the outer loop puts out is the reference of the next: in its unit. */
const limitTimes = computed(() =>
  c.loop.value > 0
    ? MEASURES[chain.value!.laws[c.loop.value - 1].from]
    : chain.value?.to === THRUST
      ? { unit: 'N', times: 1 }
      : { unit: '°', times: DEG },
);
const measures = computed(() =>
  MEASURED.filter((m) => !chain.value || isLongitudinal(m) === isLongitudinal(chain.value.laws[0].from)).map((id) => ({
    id,
    name: MEASURES[id].name,
  })),
);
const moverKind = computed(() => {
  const m = chain.value?.mover;
  return !m ? 'none' : 'timeConstant' in m ? 'lag' : 'second';
});
const MOVERS = [
  { id: 'none', name: 'ideal' },
  { id: 'lag', name: 'first order' },
  { id: 'second', name: 'second order' },
] as const;
function setMover(kind: string): void {
  c.changeChain('What moves the control', (v) => {
    if (kind === 'none') delete v.mover;
    else
      v.mover =
        kind === 'lag'
          ? { timeConstant: 0.05, rateDeg: 300 }
          : { naturalFrequency: 40, dampingRatio: 0.7, rateDeg: 300 };
  });
}
const cross = ref<number | null>(null);
const margin = ref<number | null>(null);
watch(
  () => c.own.value,
  (s) => {
    cross.value = s?.gainCrossover ? Number(s.gainCrossover.toPrecision(3)) : s ? cross.value : null;
    margin.value = s?.phaseMarginDeg ? Number(s.phaseMarginDeg.toFixed(0)) : s ? margin.value : null;
  },
  { immediate: true },
);
function cutAt(): void {
  if (cross.value && margin.value) void c.solve({ frequency: cross.value, phaseMargin: margin.value * RAD });
}
const derivatives = computed(
  () =>
    Object.entries(c.of.value?.derivatives ?? {}).filter(
      ([k, v]) =>
        typeof v === 'number' &&
        v !== 0 &&
        chain.value &&
        /^C[LDm]_/.test(k) === isLongitudinal(chain.value.laws[0].from),
    ) as [string, number][],
);
const controlOptions = computed(() =>
  Object.entries(c.controls.value)
    .filter(([id]) => id === chain.value?.to || !c.settings.value.chains.some((v) => v.to === id))
    .map(([id, name]) => ({ id, name }))
    .concat(
      chain.value?.to === THRUST || !c.settings.value.chains.some((v) => v.to === THRUST)
        ? [{ id: THRUST, name: 'thrust' }]
        : [],
    ),
);
function addOuter(): void {
  const side = isLongitudinal(chain.value!.laws[0].from);
  const free = MEASURED.find((m) => isLongitudinal(m) === side && m === (side ? 'height' : 'course'))!;
  c.changeChain('Outer loop', (v) => v.laws.push({ from: free, kp: side ? 0.02 : 0.5, ki: 0, kd: 0, sign: 1 }));
  c.chosenLoop.value = chain.value!.laws.length - 1;
}
</script>

<template>
  <template v-if="chain && law">
    <SheetGroup title="Chain">
      <template #aside
        ><button
          class="icon-btn"
          title="Remove this chain"
          :aria-label="`Remove ${chain.name}`"
          @click="
            c.change(`Remove ${chain!.name}`, (a) => {
              a.chains = a.chains.filter((v) => v.id !== chain!.id);
            })
          "
        >
          <Trash2 :size="13" /></button
      ></template>
      <TextRow
        label="Name"
        needed
        :most="60"
        :model-value="chain.name"
        @update:model-value="(v) => c.changeChain('Name of a chain', (k) => (k.name = v))"
      />
      <SelectRow
        label="Control"
        :model-value="chain.to"
        :options="controlOptions"
        test="chain-to"
        @update:model-value="(v) => c.changeChain('Control of a chain', (k) => (k.to = v))"
      />
      <div class="flex gap-3 pt-1 text-[13px]">
        <button
          v-if="chain.laws.length < 4"
          class="link flex items-center gap-0.5"
          data-test="add-loop"
          @click="addOuter"
        >
          <Plus :size="12" />outer loop
        </button>
        <button
          v-if="chain.laws.length > 1"
          class="link"
          @click="
            c.changeChain(`Remove the loop on ${MEASURES[law!.from].name}`, (k) => {
              k.laws.splice(c.loop.value, 1);
            })
          "
        >
          remove {{ MEASURES[law.from].name }}
        </button>
      </div>
    </SheetGroup>
    <SheetGroup :title="`Law on ${MEASURES[law.from].name}`" help="Law">
      <SelectRow
        label="Measures"
        :model-value="law.from"
        :options="measures"
        test="law-from"
        @update:model-value="(v) => c.changeLaw('What a loop measures', (l) => (l.from = v))"
      />
      <LimitField
        v-for="g in gains"
        :key="g.key"
        :limit="g.limit"
        :model-value="law[g.key]"
        :digits="4"
        @preview="(v) => c.previewLaw(set(g.key, v))"
        @commit="(v) => v !== null && c.changeLaw(`Gain ${g.key}`, set(g.key, v))"
      />
      <LimitField
        v-if="law.kd !== 0"
        :limit="FILTER"
        :model-value="law.filter ?? 50"
        :digits="1"
        @commit="(v) => v !== null && c.changeLaw('Filter of the derivative', (l) => (l.filter = v))"
      />
      <LawExtras :control="c" />
      <SwitchRow
        label="Negative sign"
        :model-value="law.sign === -1"
        @update:model-value="(v) => c.changeLaw('Sign of a loop', (l) => (l.sign = v ? -1 : 1))"
      />
      <SwitchRow
        label="Limited"
        :model-value="Boolean(law.limits)"
        @update:model-value="
          (v) =>
            c.changeLaw('Limit of a loop', (l) => {
              if (v) l.limits = [-20 / limitTimes.times, 20 / limitTimes.times];
              else delete l.limits;
            })
        "
      />
      <LimitField
        v-if="law.limits"
        :limit="{ ...LIMIT, label: `Limit, ± ${limitTimes.unit}` }"
        :model-value="Number((law.limits[1] * limitTimes.times).toPrecision(6))"
        :digits="2"
        @commit="
          (v) =>
            v !== null &&
            c.changeLaw('Limit of a loop', (l) => (l.limits = [-v / limitTimes.times, v / limitTimes.times]))
        "
      />
      <p v-if="law.limits" class="pt-1 text-[12px] text-soft">
        Limits and rates act in Flights; the figures here are of small motions.
      </p>
    </SheetGroup>
    <SheetGroup title="Solve for">
      <LimitField :limit="CROSS" :model-value="cross" :digits="2" @commit="(v) => ((cross = v), cutAt())" />
      <LimitField :limit="MARGIN" :model-value="margin" :digits="0" @commit="(v) => ((margin = v), cutAt())" />
      <button class="btn mt-1.5 w-full" data-test="fastest" @click="c.solve(null)">
        Solve for the highest crossover
      </button>
      <p class="pt-1 text-[12px] text-soft">without ringing, and with the margins that are aimed at</p>
    </SheetGroup>
    <SheetGroup id="control-computing" title="Actuator and computer">
      <ChipRow label="Actuator" :options="MOVERS" :on="[moverKind]" test="mover" @pick="setMover" />
      <template v-if="chain.mover">
        <LimitField
          v-if="'timeConstant' in chain.mover"
          :limit="LAG"
          :model-value="chain.mover.timeConstant"
          :digits="3"
          @commit="
            (v) =>
              v !== null &&
              c.changeChain('Lag of a control', (k) => ((k.mover as { timeConstant: number }).timeConstant = v))
          "
        />
        <template v-else>
          <LimitField
            :limit="NATURAL"
            :model-value="chain.mover.naturalFrequency"
            :digits="1"
            @commit="
              (v) =>
                v !== null &&
                c.changeChain(
                  'Actuator of a control',
                  (k) => ((k.mover as { naturalFrequency: number }).naturalFrequency = v),
                )
            "
          />
          <LimitField
            :limit="RATIO"
            :model-value="chain.mover.dampingRatio"
            :digits="2"
            @commit="
              (v) =>
                v !== null &&
                c.changeChain('Actuator of a control', (k) => ((k.mover as { dampingRatio: number }).dampingRatio = v))
            "
          />
        </template>
        <LimitField
          :limit="RATE"
          :model-value="chain.mover.rateDeg ?? null"
          :digits="0"
          placeholder="none"
          @commit="
            (v) =>
              c.changeChain('Rate of a control', (k) => {
                if (v === null) delete k.mover!.rateDeg;
                else k.mover!.rateDeg = v;
              })
          "
        />
      </template>
      <LimitField
        :limit="CONTROL_LIMITS.step"
        :model-value="c.settings.value.step"
        :digits="3"
        @preview="(v) => c.preview((a) => (a.step = v))"
        @commit="(v) => v !== null && c.change('Sampling period', (a) => (a.step = v))"
      />
      <LimitField
        :limit="CONTROL_LIMITS.delay"
        :model-value="c.settings.value.delay"
        :digits="3"
        @preview="(v) => c.preview((a) => (a.delay = v))"
        @commit="(v) => v !== null && c.change('Delay', (a) => (a.delay = v))"
      />
      <LimitField
        :limit="CONTROL_LIMITS.sensorLag"
        :model-value="c.settings.value.sensorLag"
        :digits="3"
        @preview="(v) => c.preview((a) => (a.sensorLag = v))"
        @commit="(v) => v !== null && c.change('Lag of the sensors', (a) => (a.sensorLag = v))"
      />
      <LimitField
        :limit="CONTROL_LIMITS.gainMargin"
        :model-value="c.settings.value.aims.gainMarginDb"
        :digits="1"
        @commit="(v) => v !== null && c.change('Least gain margin', (a) => (a.aims.gainMarginDb = v))"
      />
      <LimitField
        :limit="CONTROL_LIMITS.phaseMargin"
        :model-value="c.settings.value.aims.phaseMarginDeg"
        :digits="0"
        @commit="(v) => v !== null && c.change('Least phase margin', (a) => (a.aims.phaseMarginDeg = v))"
      />
    </SheetGroup>
    <SheetGroup id="control-aircraft" title="The aircraft’s derivatives">
      <p class="pb-1 text-[12.5px] text-soft">
        Each times a factor; 0 switches it off. Dashed is the aircraft as it is.
      </p>
      <div
        v-for="[name, value] in derivatives"
        :key="name"
        class="flex items-center gap-1"
        :data-test="`derivative-${name}`"
      >
        <button
          class="chip"
          :class="{ on: (c.scale.value[name] ?? 1) !== 0 }"
          :aria-pressed="(c.scale.value[name] ?? 1) !== 0"
          :title="`${formatNumber(value, 4)} per rad`"
          @click="c.setScale(name, (c.scale.value[name] ?? 1) === 0 ? 1 : 0)"
        >
          {{ name.replace('_', ' ') }}
        </button>
        <LimitField
          class="min-w-0 flex-1"
          :limit="TIMES"
          :label="formatNumber(value, 3)"
          :model-value="c.scale.value[name] ?? 1"
          :digits="2"
          @commit="(v) => v !== null && c.setScale(name, v)"
        />
      </div>
    </SheetGroup>
  </template>
</template>
