<script setup lang="ts">
import { DEG } from '@veldtwind/core/numerics';
import { Switch, SwitchGroup, SwitchLabel } from '@headlessui/vue';
import { computed } from 'vue';
import { DEFAULT_SPREAD, type PanelSpread } from '@veldtwind/core/section-flow';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { PanelView } from '@veldtwind/core/shaping';

/** How panels are spread; it changes what is computed, never the shape. */
const props = defineProps<{ spread: PanelSpread; panels: PanelView | null }>();
const emit = defineEmits<{ change: [spread: PanelSpread, done: boolean] }>();
const set = (change: Partial<PanelSpread>, done: boolean) => emit('change', { ...props.spread, ...change }, done);
const stretch = computed(() => props.spread.stretch);
const setStretch = (change: Partial<NonNullable<PanelSpread['stretch']>>, done: boolean) => {
  const next = { from: 0.6, to: 0.8, density: 2, ...stretch.value, ...change };
  if (next.to - next.from < 0.02) return;
  set({ stretch: next }, done);
};
const most = (list: Float64Array | undefined) => (list ? list.reduce((m, v) => Math.max(m, v), 0) : null);
const worst = computed(() => {
  const p = props.panels;
  if (!p) return null;
  let at = 0;
  p.angle.forEach((v, i) => (at = v > p.angle[at] ? i : at));
  return { angle: p.angle[at] * DEG, x: p.x[at] };
});
</script>

<template>
  <SheetGroup title="Spread">
    <template #aside
      ><button class="link text-[12.5px]" @click="emit('change', DEFAULT_SPREAD, true)">Restore</button></template
    >
    <NumberField
      label="Panels"
      dimension="plain"
      :digits="0"
      :model-value="spread.panels"
      :min="40"
      :max="400"
      :step="10"
      @preview="(v) => set({ panels: Math.round(v) }, false)"
      @commit="(v) => v && set({ panels: Math.round(v) }, true)"
    />
    <NumberField
      label="Nose clustering"
      dimension="plain"
      :digits="2"
      hint="0 not at all, 1 as usual"
      :model-value="spread.nose"
      :min="0"
      :max="4"
      :step="0.1"
      @preview="(v) => set({ nose: v }, false)"
      @commit="(v) => v !== null && set({ nose: v }, true)"
    />
    <NumberField
      label="Trailing-edge clustering"
      dimension="plain"
      :digits="2"
      hint="0 not at all, 1 as usual"
      :model-value="spread.trailingEdge"
      :min="0"
      :max="6"
      :step="0.1"
      @preview="(v) => set({ trailingEdge: v }, false)"
      @commit="(v) => v !== null && set({ trailingEdge: v }, true)"
    />
    <SwitchGroup as="div" class="grid grid-cols-[1fr_auto] items-center py-[3px]">
      <SwitchLabel class="text-soft">Local refinement</SwitchLabel>
      <Switch
        :model-value="Boolean(stretch)"
        class="switch"
        data-test="panel-stretch"
        @update:model-value="(v: boolean) => set({ stretch: v ? { from: 0.6, to: 0.8, density: 2 } : undefined }, true)"
        ><span class="switch-knob"
      /></Switch>
    </SwitchGroup>
    <template v-if="stretch">
      <NumberField
        label="From x / c"
        dimension="plain"
        :model-value="stretch.from"
        :min="0"
        :max="Math.max(0, stretch.to - 0.02)"
        :step="0.01"
        @preview="(v) => setStretch({ from: v }, false)"
        @commit="(v) => v !== null && setStretch({ from: v }, true)"
      />
      <NumberField
        label="To x / c"
        dimension="plain"
        :model-value="stretch.to"
        :min="stretch.from + 0.02"
        :max="1"
        :step="0.01"
        @preview="(v) => setStretch({ to: v }, false)"
        @commit="(v) => v !== null && setStretch({ to: v }, true)"
      />
      <NumberField
        label="Density factor"
        dimension="plain"
        :digits="2"
        :model-value="stretch.density"
        :min="0.2"
        :max="8"
        :step="0.1"
        @preview="(v) => setStretch({ density: v }, false)"
        @commit="(v) => v !== null && setStretch({ density: v }, true)"
      />
    </template>
  </SheetGroup>
  <SheetGroup title="Result">
    <DerivedRow label="Largest angle" :value="worst?.angle" dimension="angle" :digits="2" />
    <DerivedRow label="Position" :value="worst?.x" dimension="plain" :digits="3" unit="c" />
    <DerivedRow label="Longest panel" :value="most(panels?.length)" dimension="ratio" :digits="2" />
    <DerivedRow
      label="Deviation from the outline"
      :value="(most(panels?.leaves) ?? 0) * 1e6"
      dimension="plain"
      :digits="1"
      unit="10⁻⁶ c"
    />
    <p class="mt-1 text-[12.5px] text-soft">
      Panels gather where the outline bends, so that each turns by a few degrees only, and toward the trailing edge,
      where the speed changes with the root of the distance. The flow of this section is solved on these panels; its
      shape stays as it is.
    </p>
  </SheetGroup>
</template>
