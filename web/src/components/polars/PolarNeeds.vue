<script setup lang="ts">
import { Play } from 'lucide-vue-next';
import { computed } from 'vue';
import { POLAR_ANGLES } from '@veldtwind/core/lift';
import { ASSUMPTION_LIMITS } from '@veldtwind/core/project';
import { formatNumber } from '@veldtwind/core/units';
import BoundField from '@/components/field/BoundField.vue';
import { reynoldsText } from '@/lib/reynolds-text';
import { useRuns } from '@/store/runs';
import type { NeededPolar } from '@/store/needed-polars';

/** The polars that the strips need: which are there, which are not, and one click for those. */
const props = defineProps<{
  needs: NeededPolar[];
  missing: NeededPolar[];
  seconds: number;
}>();
const emit = defineEmits<{ compute: [] }>();
const runs = useRuns();
const nameOf = ({ name, need }: NeededPolar) =>
  need.flap ? `${name}, flap ${formatNumber(need.flap.angleDeg, 0)}°` : name;
const bySection = computed(() => {
  const out = new Map<string, NeededPolar[]>();
  for (const n of props.needs) out.set(nameOf(n), [...(out.get(nameOf(n)) ?? []), n]);
  return [...out];
});
const under = computed(() => runs.going.length > 0);
const done = computed(() =>
  props.needs.reduce((s, n) => s + Math.min(n.between.length ? Infinity : n.points, POLAR_ANGLES.length), 0),
);
const all = computed(() => props.needs.length * POLAR_ANGLES.length);
const isMissing = (n: NeededPolar) => props.missing.includes(n);
const saying = (n: NeededPolar) => {
  const re = `Re ${formatNumber(n.need.reynolds, 0)}`;
  if (n.between.length === 0) return `${re}: ${n.points} of ${POLAR_ANGLES.length} points`;
  const own = runs.curves
    .filter((c) => n.between.includes(c.id))
    .map((c) => formatNumber(c.input.conditions.reynolds, 0));
  return `${re}: read from the project’s own polar${own.length > 1 ? 's' : ''} at ${own.join(' and ')}`;
};
const about = computed(() =>
  props.seconds < 90 ? `about ${Math.ceil(props.seconds)} s` : `about ${Math.ceil(props.seconds / 60)} min`,
);
</script>

<template>
  <div data-test="polar-needs">
    <p v-if="needs.length === 0" class="text-[12.5px] text-soft">No section is used yet.</p>
    <template v-else>
      <p v-if="missing.length" class="text-[12.5px]" role="status">
        <b>{{ missing.length }}</b> of {{ needs.length }} polars are missing, {{ about }} on this machine.
      </p>
      <p v-else class="text-[12.5px] text-soft" role="status">All {{ needs.length }} polars are there.</p>
      <button
        v-if="missing.length && !under"
        class="btn btn-main mt-2 flex items-center gap-1.5"
        data-test="compute-polars"
        @click="emit('compute')"
      >
        <Play :size="13" />Compute {{ missing.length === 1 ? 'it' : `these ${missing.length}` }}
      </button>
      <div v-else-if="missing.length" class="mt-2" role="status">
        <p class="text-[12.5px] text-soft">{{ done }} of {{ all }} points</p>
        <div class="mt-1 h-1 bg-rule-light">
          <div class="h-full bg-ochre" :style="{ width: `${(100 * done) / all}%` }" />
        </div>
      </div>
      <table class="mt-2 w-full text-[12px]">
        <caption class="sr-only">
          Polars by section and Reynolds number
        </caption>
        <tbody>
          <tr v-for="[name, list] in bySection" :key="name" class="border-t border-rule-light align-top">
            <th class="max-w-24 truncate py-1 pr-2 text-left font-normal text-soft" :title="name">{{ name }}</th>
            <td class="py-1 text-right">
              <span
                v-for="n in list"
                :key="n.need.reynolds"
                class="ml-1.5 inline-block"
                :class="isMissing(n) ? 'text-clay' : ''"
                :title="saying(n)"
                ><span v-if="n.between.length" class="text-soft">≈ </span>{{ reynoldsText(n.need.reynolds) }}</span
              >
            </td>
          </tr>
        </tbody>
      </table>
      <BoundField
        :path="['brief', 'assumptions', 'criticalAmplification']"
        :limit="ASSUMPTION_LIMITS.criticalAmplification"
        step="Critical amplification"
        :digits="1"
      />
      <p v-if="needs.some((n) => n.between.length)" class="mt-1.5 text-[12px] text-soft">
        ≈ is read from other polars of the project.
      </p>
    </template>
  </div>
</template>
