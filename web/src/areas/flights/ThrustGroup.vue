<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { scenarioSchema } from '@veldtwind/core/simulation';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import { angle, plain, useScenario } from './sheet-fields';
import type { useFlights } from './use-flights';

/** Propeller and boosts of a scenario. */
const props = defineProps<{ flights: ReturnType<typeof useFlights> }>();
const { s, change } = useScenario(props.flights);
/** The candidate's own engine, where the scenario names none. */
const own = computed(() => props.flights.active.value?.engine);
const items = computed(() => [
  { id: '', name: 'nothing burns' },
  ...(props.flights.active.value?.massItems ?? []).map((m) => ({ id: m.id, name: m.name || m.id })),
]);
</script>

<template>
  <SheetGroup title="Thrust">
    <p v-if="!s.propeller && own" class="py-1 text-[12.5px] text-soft">
      {{
        s.engine?.kind === 'none'
          ? 'It glides: the candidate’s engine is off.'
          : 'The candidate’s own engine flies it; Balance shows it.'
      }}
    </p>
    <SwitchRow
      v-if="!s.propeller && own"
      label="Engine off"
      :model-value="s.engine?.kind === 'none'"
      @update:model-value="
        (v) =>
          change(v ? 'Engine off' : 'Engine on', (sc) => {
            if (v) sc.engine = { kind: 'none' };
            else delete sc.engine;
          })
      "
    />
    <SwitchRow
      label="Scenario propeller"
      :model-value="Boolean(s.propeller)"
      @update:model-value="
        (v) =>
          change(v ? 'A propeller' : 'No propeller', (sc) => {
            if (v)
              sc.propeller = scenarioSchema.shape.propeller.parse({
                power: 1500,
                diameter: 0.5,
                position: { x: 0, y: 0, z: 0 },
              });
            else delete sc.propeller;
          })
      "
    />
    <template v-if="s.propeller">
      <LimitField
        :limit="plain('Shaft power, W', 1, 1e7, 100)"
        :model-value="s.propeller.power"
        :digits="0"
        @commit="(v) => v !== null && change('Power', (sc) => (sc.propeller!.power = v))"
      />
      <LimitField
        :limit="{ label: 'Diameter', dimension: 'length', min: 0.02, max: 20, step: 0.05 }"
        :model-value="s.propeller.diameter"
        @commit="(v) => v !== null && change('Diameter', (sc) => (sc.propeller!.diameter = v))"
      />
      <LimitField
        :limit="plain('Efficiency against the ideal', 0.01, 1, 0.05)"
        :model-value="s.propeller.efficiency"
        :digits="2"
        @commit="(v) => v !== null && change('Efficiency', (sc) => (sc.propeller!.efficiency = v))"
      />
      <LimitField
        v-if="s.launch.kind !== 'flight'"
        :limit="plain('Throttle', 0, 1, 0.05)"
        :model-value="s.propeller.throttle"
        :digits="2"
        @commit="(v) => v !== null && change('Throttle', (sc) => (sc.propeller!.throttle = v))"
      />
      <LimitField
        v-for="axis in ['x', 'z'] as const"
        :key="axis"
        :limit="{ label: `Place, ${axis}`, dimension: 'length', min: -100, max: 100, step: 0.05 }"
        :model-value="s.propeller.position[axis]"
        @commit="(v) => v !== null && change('Place of the propeller', (sc) => (sc.propeller!.position[axis] = v))"
      />
      <LimitField
        :limit="angle('Tilt upward', -90, 90)"
        :model-value="s.propeller.pitchDeg"
        @commit="(v) => v !== null && change('Tilt of the propeller', (sc) => (sc.propeller!.pitchDeg = v))"
      />
    </template>
    <div v-for="(b, i) in s.boosts" :key="i" class="mt-2 border-l-2 border-rule pl-2.5">
      <div class="flex items-center justify-between">
        <span class="text-[12.5px] text-soft">{{ b.name }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove ${b.name}`"
          title="Remove"
          @click="change(`Remove ${b.name}`, (sc) => sc.boosts.splice(i, 1))"
        >
          <Trash2 :size="12" />
        </button>
      </div>
      <LimitField
        :limit="plain('Greatest thrust, N', 0.1, 1e6, 10)"
        :model-value="Math.max(...b.thrust.map((p) => p[1]))"
        :digits="1"
        @commit="
          (v) =>
            v !== null &&
            change('Thrust of a boost', (sc) => {
              const top = Math.max(...b.thrust.map((p) => p[1]));
              sc.boosts[i].thrust.forEach((p) => (p[1] = top > 0 ? (p[1] * v) / top : v));
            })
        "
      />
      <LimitField
        :limit="plain('Burn time, s', 0.01, 1000, 0.1)"
        :model-value="b.thrust[b.thrust.length - 1][0]"
        :digits="2"
        @commit="
          (v) =>
            v !== null &&
            change('Time of a boost', (sc) => {
              const last = b.thrust[b.thrust.length - 1][0];
              sc.boosts[i].thrust.forEach((p) => (p[0] = last > 0 ? (p[0] * v) / last : p[0]));
            })
        "
      />
      <LimitField
        :limit="plain('Ignition time, s', 0, 1e5, 0.5)"
        :model-value="b.start"
        :digits="2"
        @commit="(v) => v !== null && change('Start of a boost', (sc) => (sc.boosts[i].start = v))"
      />
      <SelectRow
        label="Propellant"
        :model-value="b.item ?? ''"
        :options="items"
        @update:model-value="
          (v) =>
            change('What a boost burns', (sc) => {
              delete sc.boosts[i].propellant;
              if (v) sc.boosts[i].item = v;
              else delete sc.boosts[i].item;
            })
        "
      />
    </div>
    <button
      class="link mt-1 flex items-center gap-0.5 text-[13px]"
      @click="
        change('New boost', (sc) =>
          sc.boosts.push({
            name: `boost ${sc.boosts.length + 1}`,
            start: 0,
            thrust: [
              [0, 100],
              [1, 100],
            ],
            position: { x: 0, y: 0, z: 0 },
            pitchDeg: 0,
            yawDeg: 0,
          }),
        )
      "
    >
      <Plus :size="12" />boost
    </button>
  </SheetGroup>
</template>
