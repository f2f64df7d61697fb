<script setup lang="ts">
import { computed } from 'vue';
import { standing, SURFACE_LIMITS, type Attachment, type LiftingSurface } from '@veldtwind/core/airframe';
import type { CandidatePart } from '@veldtwind/core/project';
import BoundField from '@/components/field/BoundField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import type { DocumentPath } from '@/lib/document-path';
import { useCandidateEdit } from '@/store/candidate-edit';

/** Where a surface stands: what it is, its place or what it is attached to, and how it is turned. */
const props = defineProps<{
  candidate: CandidatePart;
  surface: LiftingSurface;
  at: (...rest: (string | number)[]) => DocumentPath;
}>();
const { changeSurface, change } = useCandidateEdit();
const ROLES = [
  { id: 'wing', name: 'wing' },
  { id: 'tailplane', name: 'tailplane' },
  { id: 'foreplane', name: 'foreplane' },
  { id: 'fin', name: 'fin' },
] as const;
const PLANES = [
  { id: 'horizontal', name: 'horizontal' },
  { id: 'vertical', name: 'vertical' },
] as const;
const STANDS = [
  { id: 'upright', name: 'upright' },
  { id: 'normal', name: 'normal to the span' },
] as const;
const targets = computed(() => [
  { id: '', name: 'nothing' },
  ...props.candidate.surfaces
    .filter((s) => s.id !== props.surface.id)
    .map((s) => ({ id: `surface:${s.id}`, name: s.name })),
  ...props.candidate.bodies.map((b) => ({ id: `body:${b.id}`, name: b.name })),
]);
const target = computed(() => {
  const a = props.surface.attachedTo;
  return !a ? '' : 'surface' in a ? `surface:${a.surface}` : `body:${a.body}`;
});
const set = (label: string, edit: (s: LiftingSurface) => void) =>
  changeSurface(`${props.surface.name}: ${label}`, props.surface.id, edit);
const placeOf = (surfaces: readonly LiftingSurface[], id: string) =>
  standing(surfaces, props.candidate.bodies).find((s) => s.id === id)!.position;
/** Attaching and letting go leave the surface where it is. */
function attach(to: string): void {
  const [kind, id] = to.split(':');
  const next: Attachment | undefined = !to
    ? undefined
    : kind === 'surface'
      ? { surface: id, share: 1, chord: 0 }
      : { body: id, share: 1 };
  change(`${props.surface.name}: attached`, (c) => {
    const s = c.surfaces.find((k) => k.id === props.surface.id);
    if (!s) return;
    const plain = JSON.parse(JSON.stringify(c.surfaces)) as LiftingSurface[];
    const before = placeOf(plain, s.id);
    const zero = plain.map((k) => (k.id === s.id ? { ...k, attachedTo: next, position: { x: 0, y: 0, z: 0 } } : k));
    const base = placeOf(zero, s.id);
    if (next) s.attachedTo = next;
    else delete s.attachedTo;
    const tidy = (v: number) => Number(v.toFixed(5));
    s.position = { x: tidy(before.x - base.x), y: tidy(before.y - base.y), z: tidy(before.z - base.z) };
  });
}
const attachedTo = computed(() => props.surface.attachedTo);
const place = (k: 'x' | 'y' | 'z') =>
  attachedTo.value
    ? { ...SURFACE_LIMITS.position[k], hint: 'From what it is attached to' }
    : SURFACE_LIMITS.position[k];
</script>

<template>
  <SheetGroup title="Place">
    <SelectRow
      label="Role"
      :model-value="surface.role"
      :options="ROLES"
      test="role"
      @update:model-value="(v) => set('role', (s) => (s.role = v))"
    />
    <SelectRow
      label="Plane"
      :model-value="surface.plane"
      :options="PLANES"
      test="plane"
      @update:model-value="(v) => set('plane', (s) => (s.plane = v))"
    />
    <SwitchRow
      label="Mirrored"
      :model-value="surface.mirrored"
      test="mirrored"
      @update:model-value="(v) => set('both sides', (s) => (s.mirrored = v))"
    />
    <SelectRow
      label="Attached to"
      :model-value="target"
      :options="targets"
      test="attached"
      @update:model-value="attach"
    />
    <template v-if="attachedTo">
      <BoundField
        :path="at('attachedTo', 'share')"
        :limit="SURFACE_LIMITS.attachedShare"
        label="Share of its span"
        :step="`${surface.name}: place`"
      />
      <BoundField
        v-if="'surface' in attachedTo"
        :path="at('attachedTo', 'chord')"
        :limit="SURFACE_LIMITS.attachedChord"
        :step="`${surface.name}: place`"
      />
    </template>
    <BoundField
      v-for="k in ['x', 'y', 'z'] as const"
      :key="k"
      :path="at('position', k)"
      :limit="place(k)"
      :label="attachedTo ? `Offset ${k}` : undefined"
      :step="`${surface.name}: place`"
      held
    />
    <BoundField
      :path="at('incidenceDeg')"
      :limit="SURFACE_LIMITS.incidenceDeg"
      :step="`${surface.name}: incidence`"
      held
    />
    <BoundField
      :path="at('rollDeg')"
      :limit="SURFACE_LIMITS.rollDeg"
      :rest="0"
      :step="`${surface.name}: turn`"
      :hint="surface.plane === 'vertical' ? 'Top to the left; 180° hangs it down' : 'Right tip up, as of a tail in V'"
    />
    <BoundField
      :path="at('yawDeg')"
      :limit="SURFACE_LIMITS.yawDeg"
      :rest="0"
      :step="`${surface.name}: turn`"
      hint="Nose to the right"
    />
    <SelectRow
      label="Section planes"
      :model-value="surface.sectionsStand ?? 'upright'"
      :options="STANDS"
      test="sections-stand"
      @update:model-value="(v) => set('sections', (s) => (s.sectionsStand = v))"
    />
  </SheetGroup>
</template>
