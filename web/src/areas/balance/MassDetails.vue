<script setup lang="ts">
import { computed } from 'vue';
import { MASS_ITEM_LIMITS, MASS_SHAPES, type MassShape } from '@veldtwind/core/balance';
import type { CandidatePart } from '@veldtwind/core/project';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';

/** How far a mass item is spread, and whether it stands on both sides. */
type Item = CandidatePart['massItems'][number];
const props = defineProps<{ item: Item; parts: { id: string; name: string }[] }>();
const emit = defineEmits<{ change: [label: string, edit: (item: Item) => void] }>();
const NAMES: Record<MassShape, string> = {
  point: 'point',
  rod: 'rod',
  box: 'box',
  plate: 'plate',
  cylinder: 'cylinder along x',
  skin: 'over the skin of',
  volume: 'filling',
  area: 'over the planform of',
};
const shapes = computed(() =>
  MASS_SHAPES.filter((id) => props.parts.length > 0 || !['skin', 'volume', 'area'].includes(id)).map((id) => ({
    id,
    name: NAMES[id],
  })),
);
const shape = computed<MassShape>(() => props.item.shape ?? (props.item.part === undefined ? 'point' : 'skin'));
const spread = computed(() => ['skin', 'volume', 'area'].includes(shape.value));
const SIZES: Record<MassShape, { key: 'x' | 'y' | 'z'; label: string }[]> = {
  point: [],
  rod: [
    { key: 'x', label: 'Reaches over x' },
    { key: 'y', label: 'over y' },
    { key: 'z', label: 'over z' },
  ],
  box: [
    { key: 'x', label: 'Length, x' },
    { key: 'y', label: 'Width, y' },
    { key: 'z', label: 'Height, z' },
  ],
  plate: [
    { key: 'x', label: 'Length, x' },
    { key: 'y', label: 'Width, y' },
    { key: 'z', label: 'Height, z' },
  ],
  cylinder: [
    { key: 'x', label: 'Length, x' },
    { key: 'y', label: 'Diameter' },
  ],
  skin: [],
  volume: [],
  area: [],
};
const limit = (label: string) => ({
  ...MASS_ITEM_LIMITS.size,
  label,
  min: shape.value === 'rod' ? -MASS_ITEM_LIMITS.size.max : 0,
});
function setShape(to: MassShape): void {
  emit('change', `Shape of ${props.item.name}`, (m) => {
    const over = to === 'skin' || to === 'volume' || to === 'area';
    if (!over) delete m.part;
    if (to === 'point' || over) {
      delete m.shape;
      delete m.size;
      if (over) {
        m.shape = to;
        m.part ??= props.parts[0]?.id;
        delete m.mirrored;
      }
    } else {
      m.shape = to;
      m.size ??= { x: 0.1, y: 0.1, ...(to === 'box' || to === 'rod' ? { z: 0.1 } : {}) };
    }
    delete m.inertia;
  });
}
</script>

<template>
  <TextRow
    label="Group"
    :model-value="item.group ?? ''"
    :most="40"
    @update:model-value="
      (v) =>
        emit('change', 'Group of a mass item', (m) => {
          if (v) m.group = v;
          else delete m.group;
        })
    "
  />
  <p v-if="item.inertia" class="text-[12px] text-soft">
    Inertia of its own, from a file: {{ item.inertia.Ixx }}, {{ item.inertia.Iyy }}, {{ item.inertia.Izz }} kg m².
  </p>
  <SelectRow
    label="Shape"
    :model-value="shape"
    :options="shapes"
    :test="`shape-${item.id}`"
    @update:model-value="setShape"
  />
  <LimitField
    v-for="s in SIZES[shape]"
    :key="s.key"
    :limit="limit(s.label)"
    :model-value="item.size?.[s.key] ?? 0"
    @commit="(v) => v !== null && emit('change', `Size of ${item.name}`, (m) => (m.size = { ...m.size, [s.key]: v }))"
  />
  <SelectRow
    v-if="spread"
    label="Part"
    :model-value="item.part ?? ''"
    :options="parts"
    :test="`part-${item.id}`"
    @update:model-value="(v) => emit('change', `Part of ${item.name}`, (m) => (m.part = v))"
  />
  <SwitchRow
    v-else
    label="Mirrored"
    :model-value="item.mirrored ?? false"
    @update:model-value="
      (v: boolean) =>
        emit('change', v ? `${item.name} on both sides` : `${item.name} once`, (m) => {
          if (v) m.mirrored = true;
          else delete m.mirrored;
        })
    "
  />
</template>
