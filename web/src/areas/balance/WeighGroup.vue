<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import {
  massForCentre,
  MOST_SCALES,
  MASS_ITEM_LIMITS,
  swungInertia,
  weighedOn,
  type MassItem,
  type MassProperties,
  type Weighing,
} from '@veldtwind/core/balance';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

/** What scales under the built aircraft read: its mass and centre beside the model's, and the mass that brings the centre where it is wanted. */
const props = defineProps<{ candidate: CandidatePart; model: MassProperties | null }>();
const emit = defineEmits<{
  add: [item: Omit<MassItem, 'id'>];
  change: [label: string, edit: (c: CandidatePart) => void];
}>();
const project = useProject();
const preferences = usePreferences();
const NOTHING: Weighing = { scales: [], wanted: null, arm: null, length: null, period: null };
/** Earlier versions kept it with the browser. */
const earlier = computed(() =>
  preferences.get<Weighing>(`weigh-${(project.id ?? '').slice(0, 8)}-${props.candidate.letter}`, NOTHING),
);
const weighing = computed(() => props.candidate.weighing ?? earlier.value);
const set = (more: Partial<Weighing>) => {
  const next = { ...weighing.value, ...more };
  emit('change', 'Weigh-in', (c) => (c.weighing = next));
};
const setScale = (i: number, more: Partial<Weighing['scales'][number]>) =>
  set({ scales: weighing.value.scales.map((s, k) => (k === i ? { ...s, ...more } : s)) });
/** Under the centre, ahead of it and behind. */
function addScale(): void {
  const x = props.model?.centre.x ?? 0;
  const place = weighing.value.scales.length === 0 ? x - 0.2 : x + 0.2;
  set({ scales: [...weighing.value.scales, { x: Number(place.toFixed(3)), y: 0, reading: 0 }] });
}
const attempt = <T,>(make: () => T): { value: T | null; why: string } => {
  try {
    return { value: make(), why: '' };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    return { value: null, why: error.message };
  }
};
const found = computed(() => attempt(() => weighedOn(weighing.value.scales)));
const wanted = computed(() => weighing.value.wanted ?? props.model?.centre.x ?? 0);
const needed = computed(() => {
  const { arm } = weighing.value;
  const w = found.value.value;
  return w && arm !== null ? attempt(() => massForCentre(w.mass, w.x, wanted.value, arm)) : null;
});
const swung = computed(() => {
  const { length, period } = weighing.value;
  const mass = found.value.value?.mass ?? props.model?.mass;
  return length && period && mass ? attempt(() => swungInertia(mass, length, period)) : null;
});
const SWING = {
  length: { label: 'Pivot to centre', dimension: 'length', min: 0.001, max: 50, step: 0.01, optional: true },
  period: { label: 'Swing period, s', dimension: 'plain', min: 0.05, max: 60, step: 0.01, optional: true },
} as const;
const L = MASS_ITEM_LIMITS;
const kg = (v: number) =>
  `${formatQuantity(v, 'mass', preferences.units, 3)} ${displayUnit('mass', preferences.units).symbol}`;
</script>

<template>
  <SheetGroup title="Weigh-in">
    <template #aside>
      <button
        class="link flex items-center gap-1"
        data-test="add-scale"
        :disabled="weighing.scales.length >= MOST_SCALES"
        @click="addScale"
      >
        <Plus :size="12" />Scale
      </button>
    </template>
    <p v-if="weighing.scales.length === 0" class="text-[12.5px] text-soft">
      Stand the built aircraft level on two or three scales: mass and centre of gravity follow.
    </p>
    <div v-for="(s, i) in weighing.scales" :key="i" class="border-b border-rule-light py-1 last:border-0">
      <div class="flex items-center justify-between">
        <span class="text-[13px] font-semibold">Scale {{ i + 1 }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove scale ${i + 1}`"
          title="Remove"
          @click="set({ scales: weighing.scales.filter((_, k) => k !== i) })"
        >
          <Trash2 :size="13" />
        </button>
      </div>
      <LimitField
        :limit="L.mass"
        :label="`Scale ${i + 1} reading`"
        :model-value="s.reading"
        @commit="(v) => v !== null && setScale(i, { reading: v })"
      />
      <LimitField
        v-for="k in ['x', 'y'] as const"
        :key="k"
        :limit="L.position[k]"
        :label="`Scale ${i + 1}, ${k}`"
        :model-value="s[k]"
        @commit="(v) => v !== null && setScale(i, { [k]: v })"
      />
    </div>
    <template v-if="weighing.scales.length > 0">
      <template v-if="found.value">
        <div data-test="weighed">
          <DerivedRow label="Weighed mass" :value="found.value.mass" dimension="mass" :digits="3" />
          <DerivedRow label="Weighed centre, x" :value="found.value.x" dimension="length" />
          <DerivedRow
            v-if="weighing.scales.some((s) => s.y !== 0)"
            label="Weighed centre, y"
            :value="found.value.y"
            dimension="length"
          />
          <DerivedRow
            v-if="model"
            label="Mass difference"
            note="weighed less the model’s"
            :value="found.value.mass - model.mass"
            dimension="mass"
            :digits="3"
          />
          <DerivedRow
            v-if="model"
            label="Centre of gravity difference"
            note="weighed less the model’s, aft positive"
            :value="found.value.x - model.centre.x"
            dimension="length"
          />
        </div>
        <LimitField
          :limit="{ ...L.position.x, optional: true }"
          label="Target centre, x"
          placeholder="the model’s"
          :model-value="weighing.wanted"
          @commit="(v) => set({ wanted: v })"
        />
        <LimitField
          :limit="{ ...L.position.x, optional: true }"
          label="Trim mass position, x"
          placeholder="none"
          :model-value="weighing.arm"
          @commit="(v) => set({ arm: v })"
        />
        <template v-if="needed">
          <p v-if="needed.value === null" class="text-[12.5px] text-clay">{{ needed.why }}</p>
          <p v-else class="text-[12.5px]" data-test="trim-mass">
            {{
              needed.value >= 0
                ? `${kg(needed.value)} there bring the centre to the wanted place.`
                : `${kg(-needed.value)} have to go from there.`
            }}
          </p>
          <button
            v-if="needed.value !== null && needed.value > 0"
            class="btn mt-1 w-full"
            data-test="add-trim-mass"
            @click="
              emit('add', {
                name: 'Trim mass',
                mass: Number(needed.value!.toPrecision(4)),
                position: { x: weighing.arm!, y: 0, z: model?.centre.z ?? 0 },
              })
            "
          >
            Add it as a mass item
          </button>
        </template>
      </template>
      <p v-else class="text-[12.5px] text-soft" role="status">{{ found.why }}</p>
      <LimitField
        v-for="k in ['length', 'period'] as const"
        :key="k"
        :limit="SWING[k]"
        :hint="
          k === 'length' ? 'of a swing test: from the pivot to the centre of gravity' : 'of a whole swing, to and fro'
        "
        placeholder="none"
        :model-value="weighing[k]"
        @commit="(v) => set({ [k]: v })"
      />
      <DerivedRow
        v-if="swung?.value"
        label="Moment of inertia"
        :value="swung.value"
        dimension="inertia"
        note="about the centre and an axis along the pivot’s"
      />
      <p v-else-if="swung" class="text-[12.5px] text-clay">{{ swung.why }}</p>
    </template>
  </SheetGroup>
</template>
