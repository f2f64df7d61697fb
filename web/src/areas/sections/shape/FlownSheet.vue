<script setup lang="ts">
import { Plus, X } from 'lucide-vue-next';
import { computed } from 'vue';
import { CONDITION_LIMITS, MOST_FLOWN } from '@veldtwind/core/polar';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import { useProject } from '@/store/project';
import type { SectionPart } from '@/lib/types';
import { STEP_NAMES } from './step-words';
import type { Baseline, FlownState, NamedCondition } from './use-flown';

/** The conditions that the section is watched at, and what its flow is laid over. */
const props = defineProps<{ flown: FlownState; section: SectionPart }>();
const project = useProject();
const at = computed(() => props.flown.named.value[props.flown.place.value]);
/** A change makes the list one's own: the brief no longer moves it. */
const change = (more: Partial<NamedCondition>) =>
  props.flown.setOwn(props.flown.named.value.map((c, i) => (i === props.flown.place.value ? { ...c, ...more } : c)));
function add(): void {
  const list = props.flown.named.value;
  const like = at.value ?? { cl: 0.5, reynolds: 500_000, mach: 0 };
  props.flown.setOwn([...list, { ...like, name: `Condition ${list.length + 1}` }]);
  props.flown.choose(list.length);
}
const remove = () => props.flown.setOwn(props.flown.named.value.filter((_, i) => i !== props.flown.place.value));
const baselines = computed<{ id: Baseline; name: string }[]>(() => [
  { id: 'opened', name: 'the section as opened' },
  ...props.section.steps.map((s, i) => ({
    id: `step:${i}` as Baseline,
    name: `before step ${i + 1}, ${STEP_NAMES[s.kind].toLowerCase()}`,
  })),
  ...project.sections
    .filter((s) => s.id !== props.section.id)
    .map((s) => ({ id: `section:${s.id}` as Baseline, name: s.name })),
]);
</script>

<template>
  <SheetGroup title="Flown conditions">
    <template #aside>
      <button
        class="link flex items-center gap-0.5 text-[13px]"
        data-test="add-flown"
        :disabled="flown.named.value.length >= MOST_FLOWN"
        @click="add"
      >
        <Plus :size="12" />condition
      </button>
    </template>
    <SelectRow
      label="Compared with"
      :model-value="flown.baseline.value"
      :options="baselines"
      test="flown-baseline"
      @update:model-value="flown.setBaseline"
    />
    <template v-if="at">
      <TextRow label="Name" :model-value="at.name" :most="40" needed @update:model-value="(name) => change({ name })" />
      <LimitField :limit="CONDITION_LIMITS.cl" :model-value="at.cl" @commit="(v) => v !== null && change({ cl: v })" />
      <LimitField
        :limit="CONDITION_LIMITS.reynolds"
        :model-value="at.reynolds"
        @commit="(v) => v !== null && change({ reynolds: v })"
      />
      <LimitField
        :limit="CONDITION_LIMITS.mach"
        :model-value="at.mach"
        @commit="(v) => v !== null && change({ mach: v })"
      />
      <div class="flex justify-between pt-1 text-[12.5px]">
        <button v-if="flown.own.value" class="link" data-test="flown-brief" @click="flown.setOwn(null)">
          as the brief flies it
        </button>
        <span v-else class="text-soft">as the brief flies it</span>
        <button class="link flex items-center gap-0.5" @click="remove"><X :size="12" />remove</button>
      </div>
    </template>
  </SheetGroup>
</template>
