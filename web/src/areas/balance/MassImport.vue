<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { AXES, meanings, readMassTable, type AxesId, type Meaning } from '@veldtwind/core/balance';
import type { CandidatePart } from '@veldtwind/core/project';
import { formatNumber } from '@veldtwind/core/units';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { newId } from '@/lib/ids';

/** Mass properties from another program: how the numbers are meant is asked, and what would come out is shown. */
type Item = CandidatePart['massItems'][number];
const props = defineProps<{ near?: { x: number; y: number; z: number } | null; span: number }>();
const emit = defineEmits<{ add: [item: Item, alone: boolean] }>();
const open = ref(false);
const text = ref('');
const given = computed(() => {
  if (text.value.trim() === '') return null;
  try {
    return { mass: readMassTable(text.value), why: '' };
  } catch (error) {
    return { mass: null, why: (error as Error).message };
  }
});
const all = computed(() => (given.value?.mass ? meanings(given.value.mass, props.span, props.near ?? undefined) : []));
const meaning = ref<Meaning>({ axes: 'aft-right-up', about: 'centre', products: 'negative' });
watch(all, (list) => list[0] && (meaning.value = { ...list[0].meaning }));
const NAMES: Record<AxesId, string> = {
  'aft-right-up': 'aft, right, up',
  'forward-right-down': 'forward, right, down',
  'forward-left-up': 'forward, left, up',
  'aft-left-down': 'aft, left, down',
};
const axes = (Object.keys(AXES) as AxesId[]).map((id) => ({ id, name: NAMES[id] }));
const POINTS = [
  { id: 'centre', name: 'its own centre' },
  { id: 'origin', name: 'the origin' },
] as const;
const SIGNS = [
  { id: 'positive', name: '∫xy dm' },
  { id: 'negative', name: '−∫xy dm (tensor)' },
] as const;
const chosen = computed(
  () =>
    all.value.find(
      (m) =>
        m.meaning.axes === meaning.value.axes &&
        m.meaning.about === meaning.value.about &&
        m.meaning.products === meaning.value.products,
    ) ?? null,
);
const likely = computed(() => all.value.filter((m) => !m.impossible && !m.unlikely).length);
function use(alone: boolean): void {
  const m = chosen.value;
  if (!m || m.impossible) return;
  const { inertia: t } = m;
  emit(
    'add',
    {
      id: newId(),
      name: 'Mass read',
      mass: m.mass,
      position: m.centre,
      inertia: { Ixx: t.xx, Iyy: t.yy, Izz: t.zz, Ixy: -t.xy, Ixz: -t.xz, Iyz: -t.yz },
    },
    alone,
  );
  text.value = '';
  open.value = false;
}
const f = (v: number) => formatNumber(v, 4);
</script>

<template>
  <SheetGroup title="Mass from another program">
    <template #aside
      ><button class="link text-[13px]" data-test="mass-import" :aria-expanded="open" @click="open = !open">
        {{ open ? 'close' : 'paste' }}
      </button></template
    >
    <div v-if="open">
      <textarea
        v-model="text"
        class="w-full rounded border border-rule bg-field px-2 py-1 text-[12.5px] text-ink"
        rows="5"
        maxlength="100000"
        aria-label="Mass properties"
        placeholder="mass, x, y, z, Ixx, Iyy, Izz, Ixy, Ixz, Iyz by name or in this order; kg, m, kg m²"
        data-test="mass-table"
      />
      <p v-if="given?.why" class="text-[12.5px] text-clay" role="alert">{{ given.why }}</p>
      <template v-if="chosen">
        <SelectRow v-model="meaning.axes" label="Axes x, y, z" :options="axes" test="mass-axes" />
        <SelectRow v-model="meaning.about" label="Moments about" :options="POINTS" test="mass-about" />
        <SelectRow v-model="meaning.products" label="Products are" :options="SIGNS" test="mass-products" />
        <p class="pt-1 text-[12.5px]" data-test="mass-meant">
          {{ f(chosen.mass) }} kg at {{ f(chosen.centre.x) }}, {{ f(chosen.centre.y) }}, {{ f(chosen.centre.z) }} m; Ixx
          {{ f(chosen.inertia.xx) }}, Iyy {{ f(chosen.inertia.yy) }}, Izz {{ f(chosen.inertia.zz) }}, ∫xz dm
          {{ f(-chosen.inertia.xz) }} kg m² about its centre.
        </p>
        <p v-if="chosen.impossible" class="text-[12.5px] text-clay">{{ chosen.impossible }}</p>
        <p v-else-if="chosen.unlikely" class="text-[12.5px] text-clay">Unlikely: {{ chosen.unlikely }}.</p>
        <p v-else class="text-[12.5px] text-grass">Plausible, as {{ likely }} of 16 readings are.</p>
        <div class="flex gap-2 pt-1.5">
          <button class="btn" :disabled="Boolean(chosen.impossible)" data-test="mass-add" @click="use(false)">
            Add as an item
          </button>
          <button class="btn" :disabled="Boolean(chosen.impossible)" @click="use(true)">In place of all</button>
        </div>
      </template>
    </div>
  </SheetGroup>
</template>
