<script setup lang="ts">
import { Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { VARIANT_LIMITS, type Variant } from '@veldtwind/core/project';
import LimitField from '@/components/field/LimitField.vue';
import NewMenu from '@/components/field/NewMenu.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useWorkbench } from '@/store/workbench';
import { MOST_VARIANTS, useVariants } from '@/store/variants';

/** What is laid beside the candidate in every figure: settings of its controls, loadings, a surface turned, its centre moved. */
const props = defineProps<{ /** Kinds that say nothing here. */ without?: readonly Variant['kind'][] }>();
const variants = useVariants();
const workbench = useWorkbench();
const active = computed(() => workbench.active!);
const nameOf = (surface: string) => active.value.surfaces.find((s) => s.id === surface)?.name ?? surface;
const options = computed(() => {
  const c = active.value;
  const choice = (name: string, v: Variant) => ({ id: JSON.stringify(v), name });
  return [
    ...(c.settings ?? []).map((s) => choice(`setting: ${s.name}`, { kind: 'setting', id: s.id })),
    ...Object.keys(c.loadings ?? {}).map((name) => choice(`loading: ${name}`, { kind: 'loading', name })),
    ...c.surfaces
      .filter((s) => s.plane === 'horizontal')
      .map((s) => choice(`${s.name} turned`, { kind: 'turn', surface: s.id, byDeg: 2 })),
    ...(c.massItems.length ? [choice('centre of gravity moved', { kind: 'centre', by: 0.02 })] : []),
    ...(c.bodies.length ? [choice('bodies without lift', { kind: 'bodies' })] : []),
  ].filter((o) => !props.without?.includes((JSON.parse(o.id) as Variant).kind));
});
</script>

<template>
  <SheetGroup title="Variants">
    <template #aside>
      <NewMenu
        v-if="variants.list.length < MOST_VARIANTS"
        label="Add a variant"
        :options="options"
        @pick="(id) => variants.add(JSON.parse(id))"
      />
    </template>
    <p v-if="variants.list.length === 0" class="text-[12px] text-soft">
      Its settings, its loadings, a surface turned, its centre moved or its bodies without lift, drawn in every figure
      beside it.
    </p>
    <div
      v-for="({ variant, candidate, why }, i) in variants.made"
      v-show="!without?.includes(variant.kind)"
      :key="i"
      data-test="variant"
    >
      <div class="grid grid-cols-[1fr_20px] items-center">
        <LimitField
          v-if="variant.kind === 'turn'"
          :limit="{
            ...VARIANT_LIMITS.turn,
            label: `${nameOf(variant.surface)} by`,
          }"
          :model-value="variant.byDeg"
          @commit="(v) => v !== null && variants.change(i, { ...variant, byDeg: v })"
        />
        <LimitField
          v-else-if="variant.kind === 'centre'"
          :limit="{ ...VARIANT_LIMITS.centre, label: 'Centre aft by' }"
          :model-value="variant.by"
          @commit="(v) => v !== null && variants.change(i, { ...variant, by: v })"
        />
        <span v-else class="py-[3px]">{{ variants.words(active, variant) }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove ${candidate?.letter ?? 'the variant'}`"
          @click="variants.remove(i)"
        >
          <Trash2 :size="13" />
        </button>
      </div>
      <p v-if="why" class="text-[12px] text-clay" role="alert">{{ why }}</p>
    </div>
  </SheetGroup>
</template>
