<script setup lang="ts">
import { FIT_PARAMETERS, type FitParameter, type FittedNumber } from '@veldtwind/core/candidate';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import FileDrop from '@/components/field/FileDrop.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { Observed } from './use-observed';

/** A flight that was observed: read from a table, and the throw that lies nearest to it. */
const props = defineProps<{ of: Observed }>();
const { observed, fit, live } = props.of;
const CHIPS = (Object.keys(FIT_PARAMETERS) as FitParameter[]).map((id) => ({ id, name: FIT_PARAMETERS[id].name }));
const DIGITS: Record<FitParameter, number> = { speed: 2, elevation: 1, wind: 2, drag: 2, trim: 4 };
const value = (p: FittedNumber) => `${formatNumber(p.value, DIGITS[p.id])}${p.unit === '°' ? '' : ' '}${p.unit}`;
const bound = (p: FittedNumber) => formatNumber(Math.min(9999, 0.5 * (p.high - p.low)), DIGITS[p.id]);
</script>

<template>
  <SheetGroup title="Observed flight">
    <template v-if="observed" #aside>
      <button class="link" data-test="remove-observed" @click="of.remove">Remove</button>
    </template>
    <FileDrop label="Read an observed flight" test="read-observed" :read="of.read">
      {{ observed ? observed.name : 'CSV with t, x, height' }}
    </FileDrop>
    <template v-if="observed">
      <p class="py-1 text-[12.5px] text-soft">
        {{ observed.t.length }} places in {{ formatNumber(observed.t[observed.t.length - 1], 2) }} s
      </p>
      <p v-for="n in observed.notes" :key="n" class="text-[12.5px] text-clay">{{ n }}</p>
      <p class="pt-1 pb-1 text-[12.5px] text-soft">Fitted to it:</p>
      <ChipRow label="Fitted parameters" test="fit" :options="CHIPS" :on="fit" @pick="of.toggle" />
      <p v-if="live.waiting.value" class="pt-1 text-[12.5px] text-soft" role="status">The throw is being fitted</p>
      <p v-if="live.failure.value" class="pt-1 text-[12.5px] text-clay" role="alert">
        {{ live.failure.value.message }} {{ live.failure.value.hint }}
      </p>
      <template v-if="live.value.value && !live.failure.value">
        <dl class="pt-1.5 text-[13px]" data-test="fitted">
          <div
            v-for="p in live.value.value.parameters"
            :key="p.id"
            class="flex justify-between gap-2 py-[2px]"
            :class="{ 'text-soft': !p.decided }"
          >
            <dt>{{ p.name }}</dt>
            <dd class="font-medium" :title="`95 % within ${bound(p)}`">
              {{ value(p) }} <span class="font-normal text-soft">± {{ bound(p) }}</span>
            </dd>
          </div>
          <div class="flex justify-between gap-2 py-[2px] text-soft">
            <dt>distance from the path</dt>
            <dd>{{ formatNumber(live.value.value.rms, 3) }} m</dd>
          </div>
        </dl>
        <p v-for="d in live.value.value.doubts" :key="d" class="pt-0.5 text-[12.5px] text-clay">{{ d }}</p>
        <button class="btn mt-1.5 w-full" data-test="take-fitted" @click="of.take">
          Launch the scenario like this
        </button>
      </template>
    </template>
    <p v-else class="pt-1 text-[12px] text-soft">
      Time, distance along the throw and height, units in the headings, such as “height (ft)”.
    </p>
  </SheetGroup>
</template>
