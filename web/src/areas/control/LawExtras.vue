<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import LimitField from '@/components/field/LimitField.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import type { useControl } from './use-control';

/** What a law may have beside its three terms: a lead or a lag, a notch, a part of the reference fed forward, and gains that go with the speed. */
const props = defineProps<{ control: ReturnType<typeof useControl> }>();
const c = props.control;
const law = computed(() => c.law.value!);
const FREQUENCY = { dimension: 'plain', min: 0.01, max: 1e4, step: 1 } as const;
const ZERO: FieldLimit = { label: 'Lead zero, rad/s', ...FREQUENCY };
const POLE: FieldLimit = { label: 'Lead pole, rad/s', ...FREQUENCY };
const NOTCH: FieldLimit = { label: 'Notch frequency, rad/s', ...FREQUENCY };
const WIDTH: FieldLimit = { label: 'Width', dimension: 'plain', min: 0.01, max: 5, step: 0.05 };
const DEPTH: FieldLimit = { label: 'Notch depth', dimension: 'plain', min: 0, max: 1, step: 0.05 };
const WASHOUT: FieldLimit = {
  label: 'Washout frequency, rad/s',
  dimension: 'plain',
  min: 0.001,
  max: 1e3,
  step: 0.1,
};
const FORWARD: FieldLimit = { label: 'Feed-forward gain', dimension: 'plain', min: -1e4, max: 1e4, step: 0.05 };
const TIMES: FieldLimit = { label: 'Gains times', dimension: 'plain', min: -100, max: 100, step: 0.1 };
const AT: FieldLimit = { label: 'Airspeed', dimension: 'speed', min: 0, max: 400, step: 1 };
/** Crossing of the loop, about which a new filter does something. */
const about = () => Number((c.study.value.value?.gainCrossover ?? 10).toPrecision(2));
const speed = () => Number(c.speed.value.toPrecision(3));
const points = computed(() => law.value.schedule ?? []);
</script>

<template>
  <SwitchRow
    label="Lead or lag"
    test="law-lead"
    :model-value="Boolean(law.lead)"
    @update:model-value="
      (v) =>
        c.changeLaw('Lead or lag', (l) => {
          if (v) l.lead = { zero: about(), pole: 3 * about() };
          else delete l.lead;
        })
    "
  />
  <template v-if="law.lead">
    <LimitField
      :limit="ZERO"
      :model-value="law.lead.zero"
      :digits="2"
      @preview="(v) => c.previewLaw((l) => (l.lead!.zero = v))"
      @commit="(v) => v !== null && c.changeLaw('Zero of the lead', (l) => (l.lead!.zero = v))"
    />
    <LimitField
      :limit="POLE"
      :model-value="law.lead.pole"
      :digits="2"
      @preview="(v) => c.previewLaw((l) => (l.lead!.pole = v))"
      @commit="(v) => v !== null && c.changeLaw('Pole of the lead', (l) => (l.lead!.pole = v))"
    />
  </template>
  <SwitchRow
    label="Notch"
    test="law-notch"
    :model-value="Boolean(law.notch)"
    @update:model-value="
      (v) =>
        c.changeLaw('Notch', (l) => {
          if (v) l.notch = { frequency: 4 * about(), width: 0.5, depth: 0.1 };
          else delete l.notch;
        })
    "
  />
  <template v-if="law.notch">
    <LimitField
      :limit="NOTCH"
      :model-value="law.notch.frequency"
      :digits="2"
      @preview="(v) => c.previewLaw((l) => (l.notch!.frequency = v))"
      @commit="(v) => v !== null && c.changeLaw('Frequency of the notch', (l) => (l.notch!.frequency = v))"
    />
    <LimitField
      :limit="WIDTH"
      :model-value="law.notch.width"
      :digits="2"
      @commit="(v) => v !== null && c.changeLaw('Width of the notch', (l) => (l.notch!.width = v))"
    />
    <LimitField
      :limit="DEPTH"
      :model-value="law.notch.depth"
      :digits="2"
      @commit="(v) => v !== null && c.changeLaw('Depth of the notch', (l) => (l.notch!.depth = v))"
    />
  </template>
  <SwitchRow
    label="Washout filter"
    test="law-washout"
    :model-value="law.washout !== undefined"
    @update:model-value="
      (v) =>
        c.changeLaw('Washout', (l) => {
          // Well below the crossing, so that what swings comes through.
          if (v) l.washout = Number((0.1 * about()).toPrecision(2));
          else delete l.washout;
        })
    "
  />
  <LimitField
    v-if="law.washout !== undefined"
    :limit="WASHOUT"
    :model-value="law.washout"
    :digits="3"
    @preview="(v) => c.previewLaw((l) => (l.washout = v))"
    @commit="(v) => v !== null && c.changeLaw('Washout', (l) => (l.washout = v))"
  />
  <SwitchRow
    label="Feed-forward"
    test="law-forward"
    :model-value="law.forward !== undefined"
    @update:model-value="
      (v) =>
        c.changeLaw('Feed-forward', (l) => {
          if (v) l.forward = 0.1;
          else delete l.forward;
        })
    "
  />
  <LimitField
    v-if="law.forward !== undefined"
    :limit="FORWARD"
    :model-value="law.forward"
    :digits="3"
    @preview="(v) => c.previewLaw((l) => (l.forward = v))"
    @commit="(v) => v !== null && c.changeLaw('Feed-forward', (l) => (l.forward = v))"
  />
  <SwitchRow
    label="Gains over speed"
    test="law-schedule"
    :model-value="points.length > 0"
    @update:model-value="
      (v) =>
        c.changeLaw('Gains over speed', (l) => {
          // As the square of the speed falls, a control does less.
          if (v)
            l.schedule = [0.75, 1, 1.4].map((k) => [
              Number((k * speed()).toPrecision(3)),
              Number((1 / k ** 2).toPrecision(3)),
            ]);
          else delete l.schedule;
        })
    "
  />
  <div v-for="(p, i) in points" :key="i" class="mb-1 border-l-2 border-rule pl-2.5">
    <div class="flex items-center gap-1">
      <div class="min-w-0 flex-1">
        <LimitField
          :limit="AT"
          :model-value="p[0]"
          :min="i > 0 ? points[i - 1][0] + 0.1 : undefined"
          :max="i + 1 < points.length ? points[i + 1][0] - 0.1 : undefined"
          @commit="(v) => v !== null && c.changeLaw('Speed of a gain', (l) => (l.schedule![i][0] = v))"
        />
        <LimitField
          :limit="TIMES"
          :model-value="p[1]"
          :digits="3"
          @preview="(v) => c.previewLaw((l) => (l.schedule![i][1] = v))"
          @commit="(v) => v !== null && c.changeLaw('Gains over speed', (l) => (l.schedule![i][1] = v))"
        />
      </div>
      <button
        v-if="points.length > 1"
        class="icon-btn"
        title="Remove"
        :aria-label="`Remove the gains at point ${i + 1}`"
        @click="c.changeLaw('Remove a speed', (l) => l.schedule!.splice(i, 1))"
      >
        <Trash2 :size="12" />
      </button>
    </div>
  </div>
  <button
    v-if="points.length > 0 && points.length < 12"
    class="link flex items-center gap-0.5 text-[13px]"
    @click="
      c.changeLaw('A speed more', (l) => {
        const last = l.schedule![l.schedule!.length - 1];
        l.schedule!.push([Math.min(1000, last[0] + 5), last[1]]);
      })
    "
  >
    <Plus :size="12" />speed
  </button>
</template>
