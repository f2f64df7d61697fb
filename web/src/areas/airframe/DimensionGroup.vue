<script setup lang="ts">
import { Pin } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import {
  alsoHeld,
  DIMENSION_LIMITS,
  DIMENSION_NAMES,
  dimensionsOf,
  heldOf,
  setDimension,
  type DimensionName,
  type LiftingSurface,
} from '@veldtwind/core/airframe';
import DerivedRow from '@/components/field/DerivedRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import { useCandidateEdit } from '@/store/candidate-edit';

/** The dimensions of a surface, or of one bay: four are held and can be set, the others follow; a pin moves what is held. */
const props = defineProps<{ surface: LiftingSurface; bay?: number }>();
const { changeSurface, tryChangeSurface, previewSurface } = useCandidateEdit();
const values = computed(() => {
  try {
    return dimensionsOf(props.surface, props.bay);
  } catch {
    return null;
  }
});
const held = computed(() => heldOf(props.surface, props.bay));
/** What a pin would let go. */
const gives = computed(() => {
  const out = new Map<DimensionName, string>();
  for (const n of DIMENSION_NAMES) {
    if (held.value.includes(n)) continue;
    const next = alsoHeld(props.surface, n, props.bay);
    const gone = held.value.filter((h) => !next.includes(h));
    out.set(n, gone.map((g) => DIMENSION_LIMITS[g].label.toLowerCase()).join(', '));
  }
  return out;
});
const refusal = ref<{ name: DimensionName; why: string } | null>(null);
watch(
  () => [props.surface.id, props.bay],
  () => (refusal.value = null),
);
const into = (name: DimensionName, value: number) => (s: LiftingSurface) => {
  const made = setDimension(JSON.parse(JSON.stringify(s)) as LiftingSurface, name, value, props.bay);
  s.stations = made.stations;
  s.bays = made.bays;
};
const label = (name: DimensionName) =>
  props.bay === undefined && name === 'span' && !props.surface.mirrored && props.surface.plane === 'vertical'
    ? 'Height'
    : DIMENSION_LIMITS[name].label;
const said = (name: DimensionName, why: string) => (refusal.value = why ? { name, why } : null);
function commit(name: DimensionName, value: number | null): void {
  if (value === null) return;
  const what = `${props.surface.name}: ${label(name).toLowerCase()}${props.bay === undefined ? '' : ` of bay ${props.bay + 1}`}`;
  said(name, tryChangeSurface(what, props.surface.id, into(name, value)));
}
const preview = (name: DimensionName, value: number) => said(name, previewSurface(props.surface.id, into(name, value)));
function hold(name: DimensionName): void {
  const next = alsoHeld(props.surface, name, props.bay);
  changeSurface(`${props.surface.name}: hold ${label(name).toLowerCase()}`, props.surface.id, (s) => {
    const kept = s.held ?? { surface: [] };
    if (props.bay === undefined) s.held = { ...kept, surface: next };
    else {
      const bays = Array.from({ length: s.bays.length }, (_, i) => kept.bays?.[i] ?? []);
      bays[props.bay] = next;
      s.held = { ...kept, bays };
    }
  });
}
</script>

<template>
  <template v-if="values">
    <template v-for="name in DIMENSION_NAMES" :key="name">
      <LimitField
        v-if="held.includes(name)"
        :limit="DIMENSION_LIMITS[name]"
        :label="label(name)"
        :model-value="values[name]"
        held
        :data-test="`dimension-${name}`"
        @preview="(v) => preview(name, v)"
        @commit="(v) => commit(name, v)"
      />
      <div v-else class="group relative">
        <DerivedRow :label="label(name)" :value="values[name]" :dimension="DIMENSION_LIMITS[name].dimension" />
        <button
          v-if="gives.get(name)"
          class="icon-btn absolute top-0.5 right-0 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
          :aria-label="`Hold ${label(name).toLowerCase()} instead of ${gives.get(name)}`"
          :title="`Hold it instead of ${gives.get(name)}`"
          :data-test="`hold-${name}`"
          @click="hold(name)"
        >
          <Pin :size="12" />
        </button>
      </div>
      <p v-if="refusal?.name === name" class="pb-1 text-[12px] text-clay" role="alert" data-test="dimension-refusal">
        {{ refusal.why }}
      </p>
    </template>
  </template>
</template>
