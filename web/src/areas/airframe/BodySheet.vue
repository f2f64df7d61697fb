<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import {
  addBodyStation,
  BODY_LIMITS,
  bodyFacts,
  letGo,
  MOST_BODIES,
  MOST_BODY_STATIONS,
  newBody,
  standing,
  SURFACE_LIMITS,
  type Body,
} from '@veldtwind/core/airframe';
import type { CandidatePart } from '@veldtwind/core/project';
import BoundField from '@/components/field/BoundField.vue';
import DerivedRow from '@/components/field/DerivedRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import type { DocumentPath } from '@/lib/document-path';

/** The bodies of a candidate: fuselage, pods, booms, nacelles by their cross-sections. */
const props = defineProps<{
  candidate: CandidatePart;
  change: (label: string, edit: (c: CandidatePart) => void) => void;
}>();
const chosen = defineModel<string | null>('chosen', { required: true });
const body = computed<Body | undefined>(() => props.candidate.bodies.find((b) => b.id === chosen.value));
const changeBody = (label: string, edit: (b: Body) => void) => {
  const id = body.value?.id;
  props.change(label, (c) => {
    const found = c.bodies.find((b) => b.id === id);
    if (found) edit(found);
  });
};
function add(): void {
  let id: string | null = null;
  props.change('New body', (c) => {
    const made = newBody(c.bodies, standing(c.surfaces, c.bodies));
    c.bodies.push(made);
    id = made.id;
  });
  if (id) chosen.value = id;
}
const at = (...rest: (string | number)[]): DocumentPath => [
  'candidates',
  props.candidate.id,
  'bodies',
  { id: body.value?.id ?? '' },
  ...rest,
];
const facts = computed(() => {
  try {
    return body.value ? bodyFacts(body.value) : null;
  } catch {
    return null;
  }
});
/** A station stays between its neighbours. */
const GAP = 0.001;
const from = (i: number) => (i > 0 ? body.value!.stations[i - 1].x + GAP : undefined);
const to = (i: number) => (i < body.value!.stations.length - 1 ? body.value!.stations[i + 1].x - GAP : undefined);
const LOFTS = [
  { id: 'smooth', name: 'smooth' },
  { id: 'straight', name: 'straight' },
] as const;
const SHAPES = [
  { id: 'ellipse', name: 'ellipse' },
  { id: 'box', name: 'rounded box' },
] as const;
const { x, y, z } = SURFACE_LIMITS.position;
const place = { x: { ...x, hint: 'of x = 0 on the body' }, y: { ...y, hint: '' }, z: { ...z, hint: '' } };
</script>

<template>
  <SheetGroup title="Bodies">
    <template #aside>
      <button
        class="link flex items-center gap-0.5 text-[13px]"
        data-test="add-body"
        :disabled="candidate.bodies.length >= MOST_BODIES"
        @click="add"
      >
        <Plus :size="12" />body
      </button>
    </template>
    <p v-if="candidate.bodies.length === 0" class="text-[12.5px] text-soft">
      A fuselage, pods, booms or nacelles, by their cross-sections.
    </p>
    <div v-else class="mb-1 flex flex-wrap gap-1.5" role="tablist" aria-label="Bodies">
      <button
        v-for="b in candidate.bodies"
        :key="b.id"
        role="tab"
        :aria-selected="b.id === body?.id"
        class="rounded-md border px-2.5 py-0.5"
        :class="b.id === body?.id ? 'border-ochre bg-select font-semibold' : 'border-rule hover:border-ochre'"
        :data-test="`body-${b.id}`"
        @click="chosen = b.id"
      >
        {{ b.name }}
      </button>
    </div>
    <template v-if="body">
      <TextRow
        label="Name"
        needed
        :most="60"
        :model-value="body.name"
        @update:model-value="(v) => changeBody('Name of a body', (b) => (b.name = v))"
      />
      <SwitchRow
        label="Mirrored"
        :model-value="body.mirrored"
        @update:model-value="(v) => changeBody('Both sides of a body', (b) => (b.mirrored = v))"
      />
      <SelectRow
        label="Loft"
        :model-value="body.loft"
        :options="LOFTS"
        @update:model-value="(v) => changeBody('Loft of a body', (b) => (b.loft = v))"
      />
      <BoundField
        v-for="k in ['x', 'y', 'z'] as const"
        :key="k"
        :path="at('position', k)"
        :limit="place[k]"
        step="Place of a body"
      />
      <template v-if="facts">
        <DerivedRow label="Wetted area" :value="facts.areaWetted" dimension="area" />
        <DerivedRow label="Volume" :value="1000 * facts.volume" dimension="plain" :digits="1" unit="l" />
        <DerivedRow label="Frontal area" :value="facts.frontalArea" dimension="area" />
      </template>
      <div v-for="(s, i) in body.stations" :key="i" class="mt-2 border-l-2 border-rule pl-2.5" data-test="body-station">
        <div class="flex items-center justify-between">
          <span class="font-semibold">{{
            i === 0 ? 'Nose' : i === body.stations.length - 1 ? 'End' : `Station ${i + 1}`
          }}</span>
          <span class="flex">
            <button
              class="icon-btn"
              :aria-label="`Add a station behind ${i + 1}`"
              title="Add a station behind it"
              :disabled="body.stations.length >= MOST_BODY_STATIONS"
              @click="changeBody('Station of a body', (b) => addBodyStation(b, i))"
            >
              <Plus :size="13" />
            </button>
            <button
              v-if="body.stations.length > 2"
              class="icon-btn"
              :aria-label="`Remove station ${i + 1}`"
              title="Remove"
              @click="changeBody('Remove a station of a body', (b) => b.stations.splice(i, 1))"
            >
              <Trash2 :size="13" />
            </button>
          </span>
        </div>
        <BoundField
          :path="at('stations', i, 'x')"
          :limit="BODY_LIMITS.x"
          :min="from(i)"
          :max="to(i)"
          step="Station of a body"
        />
        <BoundField :path="at('stations', i, 'width')" :limit="BODY_LIMITS.width" step="Width of a body" />
        <BoundField :path="at('stations', i, 'height')" :limit="BODY_LIMITS.height" step="Height of a body" />
        <BoundField :path="at('stations', i, 'z')" :limit="BODY_LIMITS.z" step="Height of a body's station" />
        <SelectRow
          label="Shape"
          :model-value="s.shape"
          :options="SHAPES"
          @update:model-value="(v) => changeBody('Shape of a body', (b) => (b.stations[i].shape = v))"
        />
        <BoundField
          v-if="s.shape === 'box'"
          :path="at('stations', i, 'corner')"
          :limit="BODY_LIMITS.corner"
          step="Corner of a body"
        />
      </div>
      <button
        class="link mt-2 text-[12.5px] text-clay"
        data-test="remove-body"
        @click="
          change(
            `Remove ${body.name}`,
            (c) => (letGo(c, body!.id), (c.bodies = c.bodies.filter((b) => b.id !== body!.id))),
          )
        "
      >
        Remove {{ body.name }}
      </button>
    </template>
  </SheetGroup>
</template>
