<script setup lang="ts">
import { RadioGroup, RadioGroupLabel, RadioGroupOption, Switch, SwitchGroup, SwitchLabel } from '@headlessui/vue';
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG } from '@veldtwind/core/numerics';
import { CONDITION_LIMITS } from '@veldtwind/core/polar';
import { formatNumber } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import type { FlowConditions, SectionFlowState } from './section-flow';

/** Conditions of the flow about the open section, and what came out. */
const props = defineProps<{ flow: SectionFlowState }>();
const kept = computed(() => props.flow.kept.value);
const viscous = computed(() => kept.value.viscous);
const solved = computed(() => {
  const p = props.flow.viscous.value?.point;
  return p && p.status !== 'unsolved' ? p : null;
});
const bare = computed(() => props.flow.inviscid.value?.point ?? null);
const point = computed(() => props.flow.viscous.value?.point ?? null);
const set = <K extends keyof FlowConditions>(key: K, value: FlowConditions[K] | null, nullable = false) => {
  if (value === null && !nullable) return;
  props.flow.commit({ [key]: value } as Partial<FlowConditions>);
};
const show = <K extends keyof FlowConditions>(key: K, value: FlowConditions[K]) =>
  props.flow.preview({ [key]: value } as Partial<FlowConditions>);
const flap = (change: Partial<NonNullable<FlowConditions['flap']>>, done: boolean) => {
  const next = { flap: { ...(props.flow.live.value.flap ?? { x: 0.75, y: 0.5, angleDeg: 10 }), ...change } };
  if (done) props.flow.commit(next);
  else props.flow.preview(next);
};
const critical = { ...CONDITION_LIMITS.criticalAmplification, optional: true } satisfies FieldLimit;
const bySurface = computed(() => {
  const both = formatNumber(kept.value.criticalAmplification, 1);
  return [
    { key: 'criticalTop', limit: { ...critical, label: 'Critical n above' }, without: both },
    { key: 'criticalBottom', limit: { ...critical, label: 'Critical n below' }, without: both },
    { key: 'grain', limit: CONDITION_LIMITS.grain, without: 'smooth' },
  ] as const;
});
const holds = [
  { id: 'alpha', name: 'angle' },
  { id: 'cl', name: 'lift' },
] as const;
</script>

<template>
  <SheetGroup title="Flow">
    <SwitchGroup as="div" class="grid grid-cols-[1fr_auto] items-center py-[3px]">
      <SwitchLabel class="text-soft">With viscosity</SwitchLabel>
      <Switch
        :model-value="viscous"
        class="switch"
        data-test="with-viscosity"
        @update:model-value="(v: boolean) => set('viscous', v)"
        ><span class="switch-knob"
      /></Switch>
    </SwitchGroup>
    <RadioGroup
      v-if="viscous"
      :model-value="kept.hold"
      class="grid grid-cols-[1fr_auto] items-center py-[3px]"
      @update:model-value="(v: 'alpha' | 'cl') => set('hold', v)"
    >
      <RadioGroupLabel class="text-soft">Held</RadioGroupLabel>
      <div class="flex overflow-hidden rounded border border-rule">
        <RadioGroupOption v-for="h in holds" :key="h.id" v-slot="{ checked }" :value="h.id">
          <span
            class="block cursor-pointer px-3 py-[3px]"
            :class="checked ? 'bg-select font-semibold text-ink' : 'text-soft'"
            >{{ h.name }}</span
          >
        </RadioGroupOption>
      </div>
    </RadioGroup>
    <NumberField
      v-if="!viscous || kept.hold === 'alpha'"
      label="Angle of attack"
      dimension="angle"
      :model-value="kept.alphaDeg"
      :min="viscous ? -30 : -45"
      :max="viscous ? 30 : 45"
      :step="0.25"
      @preview="(v) => show('alphaDeg', v)"
      @commit="(v) => set('alphaDeg', v)"
    />
    <NumberField
      v-else
      label="Lift coefficient"
      dimension="plain"
      :model-value="kept.cl"
      :min="-3"
      :max="5"
      :step="0.05"
      @preview="(v) => show('cl', v)"
      @commit="(v) => set('cl', v)"
    />
    <template v-if="viscous">
      <NumberField
        label="Reynolds number"
        dimension="plain"
        :digits="0"
        :model-value="kept.reynolds"
        :min="10000"
        :max="100000000"
        :step="20000"
        @preview="(v) => show('reynolds', v)"
        @commit="(v) => set('reynolds', v)"
      />
      <NumberField
        label="Critical n"
        dimension="plain"
        :digits="1"
        :model-value="kept.criticalAmplification"
        :min="0.1"
        :max="20"
        :step="0.5"
        hint="9 in a quiet tunnel, 11 to 14 in calm air, 4 in a rough stream"
        @preview="(v) => show('criticalAmplification', v)"
        @commit="(v) => set('criticalAmplification', v)"
      />
      <LimitField
        v-for="f in bySurface"
        :key="f.key"
        :limit="f.limit"
        :placeholder="f.without"
        :model-value="kept[f.key]"
        @preview="(v) => show(f.key, v)"
        @commit="(v) => set(f.key, v, true)"
      />
      <NumberField
        label="Trip above, x / c"
        dimension="plain"
        :digits="3"
        nullable
        placeholder="none"
        :model-value="kept.tripTop"
        :min="0"
        :max="1"
        :step="0.01"
        @preview="(v) => show('tripTop', v)"
        @commit="(v) => set('tripTop', v, true)"
      />
      <NumberField
        label="Trip below, x / c"
        dimension="plain"
        :digits="3"
        nullable
        placeholder="none"
        :model-value="kept.tripBottom"
        :min="0"
        :max="1"
        :step="0.01"
        @preview="(v) => show('tripBottom', v)"
        @commit="(v) => set('tripBottom', v, true)"
      />
    </template>
    <SwitchGroup as="div" class="grid grid-cols-[1fr_auto] items-center py-[3px]">
      <SwitchLabel class="text-soft">Flap</SwitchLabel>
      <Switch
        :model-value="kept.flap !== null"
        class="switch"
        data-test="flap"
        @update:model-value="(v: boolean) => flow.commit({ flap: v ? { x: 0.75, y: 0.5, angleDeg: 10 } : null })"
        ><span class="switch-knob"
      /></Switch>
    </SwitchGroup>
    <template v-if="kept.flap">
      <NumberField
        label="Hinge, x / c"
        dimension="plain"
        :model-value="kept.flap.x"
        :min="0.1"
        :max="0.98"
        :step="0.01"
        @preview="(v) => flap({ x: v }, false)"
        @commit="(v) => v !== null && flap({ x: v }, true)"
      />
      <NumberField
        label="Hinge height"
        hint="share of the local thickness, from the lower surface"
        dimension="ratio"
        :model-value="kept.flap.y"
        :min="0"
        :max="1"
        :step="0.05"
        @preview="(v) => flap({ y: v }, false)"
        @commit="(v) => v !== null && flap({ y: v }, true)"
      />
      <NumberField
        label="Deflection, down"
        dimension="angle"
        :model-value="kept.flap.angleDeg"
        :min="-60"
        :max="60"
        :step="0.5"
        @preview="(v) => flap({ angleDeg: v }, false)"
        @commit="(v) => v !== null && flap({ angleDeg: v }, true)"
      />
    </template>
  </SheetGroup>
  <SheetGroup :title="viscous ? 'Result with viscosity' : 'Result without viscosity'" help="Result of the flow">
    <p
      v-if="viscous && point"
      class="mb-1 text-[12.5px]"
      :class="point.status === 'solved' ? 'text-soft' : 'font-semibold text-clay'"
      role="status"
      data-test="viscous-status"
    >
      {{ point.status
      }}<template v-if="point.status === 'solved'">
        in {{ point.iterations }} steps<template v-if="point.approach === 'other-panels'">, with other panels</template
        ><template v-else-if="point.approach === 'over-reynolds'">, by way of other Reynolds numbers</template>
      </template>
    </p>
    <p v-if="viscous && point?.reason" class="mb-1 text-[12px] text-clay">{{ point.reason }}</p>
    <template v-if="viscous">
      <DerivedRow
        v-if="kept.hold === 'cl'"
        label="Angle of attack"
        :value="solved && solved.alpha * DEG"
        dimension="angle"
        :digits="2"
      />
      <DerivedRow label="Lift coefficient" :value="solved?.cl" dimension="plain" :digits="4" unit="" />
      <DerivedRow label="Drag coefficient" :value="solved?.cd" dimension="plain" :digits="5" unit="" />
      <DerivedRow label="of it friction" :value="solved?.cdFriction" dimension="plain" :digits="5" unit="" />
      <DerivedRow label="of it pressure" :value="solved?.cdPressure" dimension="plain" :digits="5" unit="" />
      <DerivedRow
        label="Lift over drag"
        :value="solved && solved.cl / solved.cd"
        dimension="plain"
        :digits="1"
        unit=""
      />
      <DerivedRow label="Moment, ¼ chord" :value="solved?.cm" dimension="plain" :digits="4" unit="" />
      <DerivedRow label="Least Cp" :value="solved?.cpMin" dimension="plain" unit="" />
      <DerivedRow
        label="Critical Mach no."
        :value="solved?.machCritical"
        dimension="plain"
        :digits="3"
        unit=""
        note="of the stream at which sound's speed is first reached on the section, at this angle"
      />
      <DerivedRow label="Transition, upper" :value="solved?.transitionTop" dimension="plain" :digits="3" unit="c" />
      <DerivedRow label="Transition, lower" :value="solved?.transitionBottom" dimension="plain" :digits="3" unit="c" />
      <DerivedRow
        v-if="solved?.separationTop !== undefined"
        label="Separation, upper"
        :value="solved.separationTop"
        dimension="plain"
        :digits="3"
        unit="c"
      />
      <DerivedRow
        v-if="solved?.separationBottom !== undefined"
        label="Separation, lower"
        :value="solved.separationBottom"
        dimension="plain"
        :digits="3"
        unit="c"
      />
      <DerivedRow
        v-if="solved?.hinge"
        label="Hinge moment, flap chord"
        :value="solved.hinge.momentOnFlapChord"
        dimension="plain"
        :digits="4"
        unit=""
        note="over stream pressure and the square of the chord behind the hinge; positive when it drives the edge down"
      />
    </template>
    <template v-else>
      <DerivedRow label="Lift coefficient" :value="bare?.cl" dimension="plain" :digits="4" unit="" />
      <DerivedRow label="Moment, ¼ chord" :value="bare?.cm" dimension="plain" :digits="4" unit="" />
      <DerivedRow label="Least Cp" :value="bare?.cpMin" dimension="plain" unit="" />
      <p v-if="bare?.reason" class="text-[12px] text-clay" role="alert">{{ bare.reason }}</p>
    </template>
    <ErrorNotice v-if="flow.failure.value" :message="flow.failure.value.message" :hint="flow.failure.value.hint" />
  </SheetGroup>
</template>
