<script setup lang="ts">
import { computed } from 'vue';
import type { PerformanceLimits } from '@veldtwind/core/candidate';
import { PERFORMANCE_LIMITS, type PerformanceSettings } from '@veldtwind/core/performance';
import { LIMIT_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import BoundField from '@/components/field/BoundField.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import QuantityRow from '@/components/field/QuantityRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useAssumptions } from '@/store/assumptions';

/** How performance is told: loads, and the ground. */
const props = defineProps<{ limits: PerformanceLimits | null }>();
const { assumed, assume } = useAssumptions();
const settings = computed<PerformanceSettings>(() => assumed.value.performance);
const path = (key: keyof PerformanceSettings) => ['brief', 'assumptions', 'performance', key] as const;
const LOADS = ['greatestLoad', 'leastLoad', 'diveRatio'] as const;
const LAUNCHES = [
  { id: 'wheels', name: 'wheels' },
  { id: 'rail', name: 'rail' },
  { id: 'throw', name: 'throw' },
] as const;
const FIELDS: Record<PerformanceSettings['launch'], readonly (keyof typeof PERFORMANCE_LIMITS)[]> = {
  wheels: ['rolling', 'braking', 'obstacle', 'groundAngleDeg', 'groundHeight'],
  rail: ['railLength', 'railForce'],
  throw: ['throwSpeed'],
};
const reason = computed(() => {
  const l = props.limits;
  if (!l || settings.value.launch !== 'wheels') return '';
  return [...new Set([l.takeOff, l.landing].flatMap((r) => (r.ok ? [] : [r.reason])))].join(' ');
});
const limit = (id: string) => quantityIn(LIMIT_QUANTITIES, id);
</script>

<template>
  <SheetGroup title="Load limits">
    <BoundField
      v-for="f in LOADS"
      :key="f"
      :path="path(f)"
      :limit="PERFORMANCE_LIMITS[f]"
      :step="PERFORMANCE_LIMITS[f].label"
      :digits="2"
    />
    <QuantityRow :quantity="limit('performance.greatestLoad')" :from="limits" />
  </SheetGroup>
  <SheetGroup title="Take-off and landing">
    <SelectRow
      label="Launch"
      test="launch"
      :model-value="settings.launch"
      :options="LAUNCHES"
      @update:model-value="
        (v) => assume('Launch', { performance: { ...settings, launch: v as PerformanceSettings['launch'] } })
      "
    />
    <BoundField
      v-for="f in FIELDS[settings.launch]"
      :key="f"
      :path="path(f)"
      :limit="PERFORMANCE_LIMITS[f]"
      :step="PERFORMANCE_LIMITS[f].label"
    />
    <template v-if="settings.launch === 'wheels'">
      <QuantityRow :quantity="limit('performance.takeOffRun')" :from="limits" />
      <DerivedRow
        label="Take-off distance"
        :value="limits?.takeOff.ok ? limits.takeOff.total : null"
        dimension="length"
        :digits="1"
        note="Run, and climb over the obstacle at 1.2 times the stall speed"
      />
      <QuantityRow :quantity="limit('performance.landingRun')" :from="limits" />
      <DerivedRow
        label="Landing distance"
        :value="limits?.landing.ok ? limits.landing.total : null"
        dimension="length"
        :digits="1"
        note="From the obstacle: glide at 1.3 times the stall speed, touch-down at 1.15, braked roll"
      />
    </template>
    <template v-else-if="settings.launch === 'rail'">
      <DerivedRow label="Rail exit speed" :value="limits?.rail.speed" dimension="speed" :digits="1" />
      <DerivedRow
        label="Launch speed / stall speed"
        :value="limits?.rail.overStall"
        dimension="plain"
        :digits="2"
        note="At least 1.1"
      />
      <DerivedRow
        label="Rail length needed"
        :value="limits?.rail.neededLength"
        dimension="length"
        :digits="2"
        note="To reach 1.1 times the stall speed"
      />
    </template>
    <DerivedRow
      v-else
      label="Launch speed / stall speed"
      :value="limits?.thrown"
      dimension="plain"
      :digits="2"
      note="At least 1.1"
    />
    <p v-if="reason" class="text-[12px] text-clay" role="status">{{ reason }}</p>
  </SheetGroup>
</template>
