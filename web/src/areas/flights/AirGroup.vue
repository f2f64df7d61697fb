<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import ChipRow from '@/components/field/ChipRow.vue';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import { angle, plain, SPEED, useScenario } from './sheet-fields';
import type { useFlights } from './use-flights';

/** Wind, turbulence and gusts of a scenario. */
const props = defineProps<{ flights: ReturnType<typeof useFlights> }>();
const { s, change, show } = useScenario(props.flights);
</script>

<template>
  <SheetGroup title="Air">
    <SwitchRow
      label="Ground effect"
      test="ground-effect"
      :model-value="s.groundEffect ?? false"
      @update:model-value="
        (on) =>
          change('Ground effect', (sc) => {
            if (on) sc.groundEffect = true;
            else delete sc.groundEffect;
          })
      "
    />
    <LimitField
      :limit="{ ...SPEED, label: 'Wind', max: 100 }"
      :model-value="s.wind?.speed ?? 0"
      @commit="
        (v) =>
          v !== null &&
          change(
            'Wind',
            (sc) =>
              (sc.wind = {
                fromDeg: sc.wind?.fromDeg ?? 0,
                up: sc.wind?.up ?? 0,
                ...(sc.wind?.shear ? { shear: sc.wind.shear } : {}),
                speed: v,
              }),
          )
      "
    />
    <LimitField
      v-if="s.wind"
      :limit="angle('Wind from', -360, 360, 10)"
      :model-value="s.wind.fromDeg"
      @commit="(v) => v !== null && change('Direction of the wind', (sc) => (sc.wind!.fromDeg = v))"
    />
    <LimitField
      :limit="{ ...SPEED, label: 'Turbulence, wind at 6 m', max: 60 }"
      :model-value="s.turbulence?.windAt6m ?? 0"
      @commit="
        (v) =>
          change('Turbulence', (sc) => {
            if (v) sc.turbulence = { windAt6m: v, seed: sc.turbulence?.seed ?? 1 };
            else delete sc.turbulence;
          })
      "
    />
    <LimitField
      v-if="s.turbulence"
      :limit="plain('Turbulence seed', 0, 2147483647, 1)"
      :model-value="s.turbulence.seed"
      :digits="0"
      @commit="(v) => v !== null && change('Seed of the turbulence', (sc) => (sc.turbulence!.seed = Math.round(v)))"
    />
    <div v-for="(g, i) in s.gusts" :key="i" class="mt-2 border-l-2 border-rule pl-2.5">
      <div class="flex items-center justify-between">
        <ChipRow
          label="Gust"
          :options="[
            { id: 'up', name: 'up' },
            { id: 'across', name: 'across' },
            { id: 'along', name: 'along' },
          ]"
          :on="[g.axis]"
          @pick="(a) => change('Direction of a gust', (sc) => (sc.gusts[i].axis = a as 'up'))"
        />
        <button
          class="icon-btn"
          aria-label="Remove this gust"
          title="Remove"
          @click="change('Remove a gust', (sc) => sc.gusts.splice(i, 1))"
        >
          <Trash2 :size="12" />
        </button>
      </div>
      <LimitField
        :limit="{ label: 'Gust', dimension: 'speed', min: -100, max: 100, step: 0.5 }"
        :model-value="g.amplitude"
        @preview="(v) => show((sc) => (sc.gusts[i].amplitude = v))"
        @commit="(v) => v !== null && change('Gust', (sc) => (sc.gusts[i].amplitude = v))"
      />
      <LimitField
        :limit="plain('At, s', 0, 1e5, 0.5)"
        :model-value="g.start"
        @commit="(v) => v !== null && change('Start of a gust', (sc) => (sc.gusts[i].start = v))"
      />
      <LimitField
        :limit="plain('For, s', 0.01, 1e4, 0.1)"
        :model-value="g.duration"
        @commit="(v) => v !== null && change('Length of a gust', (sc) => (sc.gusts[i].duration = v))"
      />
    </div>
    <button
      class="link mt-1 flex items-center gap-0.5 text-[13px]"
      @click="change('New gust', (sc) => sc.gusts.push({ axis: 'up', amplitude: 3, start: 2, duration: 0.6 }))"
    >
      <Plus :size="12" />gust
    </button>
  </SheetGroup>
</template>
