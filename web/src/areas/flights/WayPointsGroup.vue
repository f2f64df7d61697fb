<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import LimitField from '@/components/field/LimitField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { HEIGHT, useScenario } from './sheet-fields';
import type { useFlights } from './use-flights';

/** Places that a flight goes to. */
const props = defineProps<{ flights: ReturnType<typeof useFlights> }>();
const { s, change } = useScenario(props.flights);
</script>

<template>
  <SheetGroup title="Way-points">
    <div v-for="(w, i) in s.waypoints" :key="i" class="mb-2 border-l-2 border-rule pl-2.5">
      <div class="flex items-center justify-between">
        <span class="text-[12.5px] text-soft">{{ w.name ?? `way-point ${i + 1}` }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove way-point ${i + 1}`"
          title="Remove"
          @click="change('Remove a way-point', (sc) => sc.waypoints.splice(i, 1))"
        >
          <Trash2 :size="12" />
        </button>
      </div>
      <LimitField
        :limit="{ label: 'North', dimension: 'length', min: -1e6, max: 1e6, step: 10 }"
        :model-value="w.x"
        @commit="(v) => v !== null && change('Way-point', (sc) => (sc.waypoints[i].x = v))"
      />
      <LimitField
        :limit="{ label: 'East', dimension: 'length', min: -1e6, max: 1e6, step: 10 }"
        :model-value="w.y"
        @commit="(v) => v !== null && change('Way-point', (sc) => (sc.waypoints[i].y = v))"
      />
      <LimitField
        :limit="HEIGHT"
        :model-value="w.height"
        @commit="(v) => v !== null && change('Way-point', (sc) => (sc.waypoints[i].height = v))"
      />
    </div>
    <button
      class="link flex items-center gap-0.5 text-[13px]"
      @click="
        change('New way-point', (sc) => {
          const last = sc.waypoints[sc.waypoints.length - 1] ?? { x: 0, y: 0, height: sc.launch.height };
          sc.waypoints.push({ x: last.x + 300, y: last.y, height: last.height, radius: 30 });
        })
      "
    >
      <Plus :size="12" />way-point
    </button>
  </SheetGroup>
</template>
