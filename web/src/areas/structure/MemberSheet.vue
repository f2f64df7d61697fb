<script setup lang="ts">
import { Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { SPAR_KINDS, STRUCTURE_LIMITS as L, type Spar, type SurfaceStructure } from '@veldtwind/core/structure';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import MaterialField from './MaterialField.vue';
import { firstSpar, firstStructure, type Structure } from './use-structure';

/** What a surface is made of: skin, spars, ribs, core. */
const props = defineProps<{ of: Structure; structure: SurfaceStructure }>();
const { change, surface } = props.of;
const KIND_NAMES: Record<Spar['kind'], string> = { solid: 'solid', tube: 'tube', i: 'I-section', box: 'box' };
const KINDS = SPAR_KINDS.map((id) => ({ id, name: KIND_NAMES[id] }));
/** Fields by the kind of a spar; those behind may be left out. */
const FIELDS: Record<Spar['kind'], readonly (keyof typeof L.spar)[]> = {
  solid: ['at', 'tipAt', 'from', 'to', 'width', 'tipWidth', 'height'],
  tube: ['at', 'tipAt', 'from', 'to', 'width', 'tipWidth', 'wall'],
  i: ['at', 'tipAt', 'from', 'to', 'width', 'tipWidth', 'height', 'cap', 'tipCap', 'web'],
  box: ['at', 'tipAt', 'from', 'to', 'width', 'tipWidth', 'height', 'cap', 'tipCap', 'web'],
};
const EMPTY: Partial<Record<keyof typeof L.spar, string>> = {
  tipAt: 'same',
  tipWidth: 'same',
  tipCap: 'same',
  height: 'full',
};
const chord = computed(() => Math.max(...(surface.value?.stations ?? []).map((s) => s.chord), 1e-3));
const first = () => firstStructure(surface.value!);

function setSpar(spar: Spar, key: keyof Spar, label: string, value: unknown): void {
  change(`${label} of ${spar.name}`, (s) => {
    const own = s.spars.find((v) => v.id === spar.id) as Record<string, unknown> | undefined;
    if (!own) return;
    if (value === null || value === undefined) delete own[key];
    else own[key] = value;
  });
}
/** What a kind needs and the spar does not have yet. */
function setKind(spar: Spar, kind: Spar['kind']): void {
  const like = firstSpar([], chord.value);
  change(`Kind of ${spar.name}`, (s) => {
    const own = s.spars.find((v) => v.id === spar.id);
    if (!own) return;
    own.kind = kind;
    if (kind === 'i' || kind === 'box') {
      own.cap ??= like.cap;
      own.web ??= Math.min(like.web!, 0.3 * own.width);
    }
    if (kind === 'tube') own.wall ??= Math.min(1e-3, 0.5 * own.width);
  });
}
const without = <T extends object, K extends keyof T>(value: T, key: K, next: T[K] | null): void => {
  if (next === null) delete value[key];
  else value[key] = next;
};
</script>

<template>
  <SheetGroup title="Skin">
    <SwitchRow
      label="Stressed skin"
      :model-value="Boolean(structure.skin)"
      test="skin-on"
      @update:model-value="(on) => change('Skin', (s) => without(s, 'skin', on ? first().skin : null))"
    />
    <template v-if="structure.skin">
      <MaterialField
        label="Material"
        :model-value="structure.skin.material"
        test="skin-material"
        @update:model-value="(m) => change('Material of the skin', (s) => s.skin && (s.skin.material = m))"
      />
      <LimitField
        :limit="L.skin.thickness"
        :model-value="structure.skin.thickness"
        @commit="(v) => v !== null && change('Thickness of the skin', (s) => s.skin && (s.skin.thickness = v))"
      />
      <LimitField
        :limit="L.skin.to"
        :model-value="structure.skin.to ?? null"
        placeholder="all"
        @commit="(v) => change('Extent of the skin', (s) => s.skin && without(s.skin, 'to', v))"
      />
      <LimitField
        :limit="L.weighed"
        :model-value="structure.skin.weighed ?? null"
        placeholder="computed"
        @commit="(v) => change('Weighed mass of the skin', (s) => s.skin && without(s.skin, 'weighed', v))"
      />
    </template>
  </SheetGroup>
  <SheetGroup v-for="spar in structure.spars" :key="spar.id" :title="spar.name" help="Spar">
    <template #aside>
      <button
        class="icon-btn"
        :aria-label="`Remove ${spar.name}`"
        title="Remove"
        @click="change(`Remove ${spar.name}`, (s) => (s.spars = s.spars.filter((v) => v.id !== spar.id)))"
      >
        <Trash2 :size="13" />
      </button>
    </template>
    <TextRow
      label="Name"
      needed
      :most="60"
      :model-value="spar.name"
      @update:model-value="(v) => setSpar(spar, 'name', 'Name', v)"
    />
    <SelectRow
      label="Cross-section"
      :model-value="spar.kind"
      :options="KINDS"
      :test="`kind-${spar.id}`"
      @update:model-value="(k) => setKind(spar, k)"
    />
    <MaterialField
      :label="spar.kind === 'i' || spar.kind === 'box' ? 'Caps' : 'Material'"
      :model-value="spar.material"
      :test="`material-${spar.id}`"
      @update:model-value="(m) => setSpar(spar, 'material', 'Material', m)"
    />
    <MaterialField
      v-if="spar.kind === 'i' || spar.kind === 'box'"
      label="Web"
      :model-value="spar.webMaterial ?? spar.material"
      @update:model-value="(m) => setSpar(spar, 'webMaterial', 'Web material', m)"
    />
    <LimitField
      v-for="k in FIELDS[spar.kind]"
      :key="k"
      :limit="L.spar[k]"
      :label="spar.kind === 'tube' && k === 'width' ? 'Diameter' : undefined"
      :model-value="spar[k] ?? null"
      :placeholder="EMPTY[k]"
      @commit="(v) => setSpar(spar, k, L.spar[k].label, v)"
    />
    <LimitField
      :limit="L.weighed"
      :model-value="spar.weighed ?? null"
      placeholder="computed"
      @commit="(v) => setSpar(spar, 'weighed', 'Weighed mass', v)"
    />
  </SheetGroup>
  <button
    class="btn my-2 w-full"
    data-test="add-spar"
    @click="change('New spar', (s) => s.spars.push(firstSpar(s.spars, chord)))"
  >
    Add a spar
  </button>
  <SheetGroup title="Ribs">
    <SwitchRow
      label="Ribs fitted"
      :model-value="Boolean(structure.ribs)"
      test="ribs-on"
      @update:model-value="(on) => change('Ribs', (s) => without(s, 'ribs', on ? first().ribs : null))"
    />
    <template v-if="structure.ribs">
      <MaterialField
        label="Material"
        :model-value="structure.ribs.material"
        @update:model-value="(m) => change('Material of the ribs', (s) => s.ribs && (s.ribs.material = m))"
      />
      <LimitField
        v-for="k in ['thickness', 'spacing', 'holes'] as const"
        :key="k"
        :limit="L.ribs[k]"
        :model-value="structure.ribs[k] ?? null"
        :placeholder="k === 'holes' ? 'none' : undefined"
        @commit="(v) => change(L.ribs[k].label, (s) => s.ribs && without(s.ribs, k, v as never))"
      />
      <LimitField
        :limit="L.weighed"
        :model-value="structure.ribs.weighed ?? null"
        placeholder="computed"
        @commit="(v) => change('Weighed mass of the ribs', (s) => s.ribs && without(s.ribs, 'weighed', v))"
      />
    </template>
  </SheetGroup>
  <SheetGroup title="Core">
    <SwitchRow
      label="Solid core"
      :model-value="Boolean(structure.core)"
      test="core-on"
      @update:model-value="(on) => change('Core', (s) => without(s, 'core', on ? { material: 'foam-hard' } : null))"
    />
    <template v-if="structure.core">
      <MaterialField
        label="Material"
        :model-value="structure.core.material"
        @update:model-value="(m) => change('Material of the core', (s) => s.core && (s.core.material = m))"
      />
      <LimitField
        :limit="L.weighed"
        :model-value="structure.core.weighed ?? null"
        placeholder="computed"
        @commit="(v) => change('Weighed mass of the core', (s) => s.core && without(s.core, 'weighed', v))"
      />
    </template>
  </SheetGroup>
</template>
