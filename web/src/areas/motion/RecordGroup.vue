<script setup lang="ts">
import { computed } from 'vue';
import { BRIEF_LIMITS, CLIMB_LIMIT } from '@veldtwind/core/project';
import type { FieldLimit } from '@veldtwind/core/limits';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import FileDrop from '@/components/field/FileDrop.vue';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { CandidatePart } from '@/lib/types';
import type { FlightRecord } from './use-record';
import { titleOf } from './words';

/** A record of a flight, the steady flight that it begins from, and which derivatives are estimated from it. */
const props = defineProps<{ of: FlightRecord; candidate: CandidatePart }>();
const { record, found } = props.of;
const end = computed(() => record.value?.t[record.value.t.length - 1] ?? 0);
const loadings = computed(() => [
  { id: '', name: 'all items' },
  ...Object.keys(props.candidate.loadings ?? {}).map((id) => ({ id, name: id })),
]);
const MOTIONS = [
  { id: 'longitudinal', name: 'longitudinal' },
  { id: 'lateral', name: 'lateral' },
] as const;
const motions = computed(() => MOTIONS.filter((m) => found.value?.motions.includes(m.id)));
const names = computed(() => (found.value?.names ?? []).map((id) => ({ id, name: titleOf(id) })));
const estimated = computed(() => found.value?.derivatives.map((d) => d.name) ?? []);
const seconds = (label: string): FieldLimit => ({ label, dimension: 'plain', min: 0, max: end.value, step: 0.5 });
function toggle(name: string): void {
  const on = estimated.value;
  const next = on.includes(name) ? on.filter((n) => n !== name) : [...on, name];
  if (next.length === 0) return;
  // Those of the other motion stay as they were chosen.
  const others = (record.value?.estimated ?? []).filter((n) => !names.value.some((k) => k.id === n));
  props.of.edit('Derivatives to estimate', (r) => (r.estimated = [...others, ...next]));
}
</script>

<template>
  <SheetGroup title="Flight record">
    <template v-if="record" #aside>
      <button class="link" data-test="remove-record" @click="of.remove">Remove</button>
    </template>
    <FileDrop label="Read a flight record" test="read-record" :read="of.read">
      {{ record ? 'Another CSV' : 'CSV of responses and deflections' }}
    </FileDrop>
    <template v-if="record">
      <SelectRow
        v-if="of.list.value.length > 1"
        label="Record"
        :model-value="record.id"
        :options="of.list.value.map((r) => ({ id: r.id, name: r.name }))"
        test="record"
        @update:model-value="of.choose"
      />
      <p class="py-1 text-[12.5px] text-soft" data-test="record-told">
        {{ record.name }}: {{ record.t.length }} rows in {{ formatNumber(end, 1) }} s
      </p>
      <p v-for="n in record.notes" :key="n" class="text-[12.5px] text-clay">{{ n }}</p>
      <LimitField
        :limit="BRIEF_LIMITS.speed"
        :model-value="record.speed"
        :digits="2"
        hint="Of the steady flight before the first deflection"
        @commit="(v) => v !== null && of.edit('Speed of the record', (r) => (r.speed = v))"
      />
      <LimitField
        :limit="BRIEF_LIMITS.altitude"
        :model-value="record.altitude"
        @commit="(v) => v !== null && of.edit('Altitude of the record', (r) => (r.altitude = v))"
      />
      <LimitField
        :limit="CLIMB_LIMIT"
        :model-value="record.climbDeg"
        :digits="1"
        @commit="(v) => v !== null && of.edit('Climb angle of the record', (r) => (r.climbDeg = v))"
      />
      <SelectRow
        v-if="loadings.length > 1"
        label="Loading"
        :model-value="record.loading ?? ''"
        :options="loadings"
        test="record-loading"
        @update:model-value="
          (v) => of.edit('Loading of the record', (r) => (v === '' ? delete r.loading : (r.loading = v)))
        "
      />
      <LimitField
        :limit="seconds('From, s')"
        :model-value="record.from ?? 0"
        :digits="2"
        @commit="(v) => v !== null && of.edit('Beginning of the record', (r) => (r.from = v))"
      />
      <LimitField
        :limit="seconds('To, s')"
        :model-value="record.to ?? end"
        :digits="2"
        @commit="(v) => v !== null && of.edit('End of the record', (r) => (r.to = v))"
      />
      <template v-if="motions.length > 1">
        <p class="pt-1 pb-1 text-[12.5px] text-soft">Motion:</p>
        <ChipRow
          label="Motion"
          test="record-motion"
          :options="motions"
          :on="[found!.motion]"
          @pick="(id) => of.edit('Motion of the record', (r) => (r.motion = id))"
        />
      </template>
      <template v-if="names.length">
        <p class="pt-2 pb-1 text-[12.5px] text-soft">Estimated:</p>
        <ChipRow label="Estimated derivatives" test="estimated" :options="names" :on="estimated" @pick="toggle" />
      </template>
    </template>
    <p v-else class="pt-1 text-[12px] text-soft">
      Time, responses such as “alpha (deg)” and “q (deg/s)”, and each deflection under the name of its control.
    </p>
  </SheetGroup>
</template>
