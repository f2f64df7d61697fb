<script setup lang="ts">
import { Copy, PencilRuler, Plus, Trash2 } from 'lucide-vue-next';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { copiedSurface, letGo, type LiftingSurface } from '@veldtwind/core/airframe';
import { addSurface } from '@veldtwind/core/project';
import AreaPage from '@/components/shell/AreaPage.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import EmptyState from '@/components/notice/EmptyState.vue';
import OpenDemo from '@/components/notice/OpenDemo.vue';
import type { DocumentPath } from '@/lib/document-path';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import AirframeFigure from './AirframeFigure.vue';
import BodySheet from './BodySheet.vue';
import ControlsGroup from './ControlsGroup.vue';
import DimensionGroup from './DimensionGroup.vue';
import ExportMenu from '@/components/export/ExportMenu.vue';
import FactsLedger from './FactsLedger.vue';
import PlacingGroup from './PlacingGroup.vue';
import SizingGroup from './SizingGroup.vue';
import SketchSheet from './SketchSheet.vue';
import StationsGroup from './StationsGroup.vue';
import StreamGroup from './StreamGroup.vue';
import { useCandidateEdit } from '@/store/candidate-edit';
import { useSketch } from './use-sketch';

const project = useProject();
const workbench = useWorkbench();
const route = useRoute();
const router = useRouter();
const sketch = useSketch();
const { change, changeSurface } = useCandidateEdit();

const active = computed(() => workbench.active);
const select = (id: string) =>
  router.replace({ name: 'airframe', params: { project: project.id!, surface: id }, query: route.query });
/** The part that is chosen: a surface or a body; the first surface where none is. */
const part = computed({
  get: (): string | null => {
    const c = active.value;
    const id = String(route.params.surface ?? '');
    if (!c) return null;
    if ([...c.surfaces, ...c.bodies].some((p) => p.id === id)) return id;
    return c.surfaces[0]?.id ?? c.bodies[0]?.id ?? null;
  },
  set: (id) => void (id && id !== part.value && select(id)),
});
const surface = computed<LiftingSurface | undefined>(() => active.value?.surfaces.find((s) => s.id === part.value));
const body = computed(() => active.value?.bodies.find((b) => b.id === part.value));
const station = ref(0);
watch(part, () => (station.value = 0));
watch(
  () => surface.value?.stations.length,
  (n) => n !== undefined && station.value >= n && (station.value = n - 1),
);

function add(role: LiftingSurface['role']): void {
  const id = active.value?.id;
  if (id === undefined) return;
  let made: string | undefined;
  project.edit(`New ${role} (${active.value!.letter})`, (draft) => {
    made = addSurface(draft, id, role)?.id;
  });
  if (made) void select(made);
}
const remove = (s: LiftingSurface) =>
  change(`Remove ${s.name}`, (c) => {
    letGo(c, s.id);
    c.surfaces = c.surfaces.filter((k) => k.id !== s.id);
  });
function copy(s: LiftingSurface): void {
  let made = '';
  change(`Copy ${s.name}`, (c) => {
    const from = c.surfaces.find((k) => k.id === s.id);
    if (!from) return;
    const twin = copiedSurface(from, c.surfaces);
    made = twin.id;
    c.surfaces.push(twin);
  });
  if (made) void select(made);
}
const at = (...rest: (string | number)[]): DocumentPath => [
  'candidates',
  active.value?.id ?? '',
  'surfaces',
  { id: surface.value?.id ?? '' },
  ...rest,
];
const tail = computed(() => surface.value && surface.value.role !== 'wing' && (active.value?.surfaces.length ?? 0) > 1);
const ROLES = ['wing', 'tailplane', 'foreplane', 'fin'] as const;
const empty = computed(() => !active.value || (active.value.surfaces.length === 0 && active.value.bodies.length === 0));
</script>

<template>
  <AreaPage area="airframe" title="Airframe" question="What does the vehicle look like?">
    <template #figure>
      <EmptyState
        v-if="empty && !sketch.on.value"
        title="Nothing drawn yet"
        text="A wing comes first: sketch its outline with the mouse, or begin with two stations and set their numbers. Tails follow, sized to it."
      >
        <button class="btn btn-main" data-test="first-wing" @click="add('wing')">Draw a wing</button>
        <button class="btn" data-test="first-sketch" @click="sketch.on.value = true">Sketch an outline</button>
        <OpenDemo />
      </EmptyState>
      <AirframeFigure v-else v-model:part="part" v-model:station="station" />
    </template>
    <template #ledger><FactsLedger v-model:part="part" /></template>
    <template #sheet>
      <SketchSheet v-if="active && sketch.on.value" :part="part" @made="(id) => (part = id)" />
      <template v-else-if="active">
        <SheetGroup :title="`${active.letter} ${active.name}`" help="Candidate">
          <template #aside>
            <button
              class="link flex items-center gap-1 text-[13px]"
              data-test="sketch-on"
              @click="sketch.on.value = true"
            >
              <PencilRuler :size="13" />Sketch
            </button>
            <ExportMenu :candidate="active" />
          </template>
          <TextRow
            label="Name"
            :model-value="active.name"
            :most="60"
            needed
            @update:model-value="(v) => change('Name of the candidate', (c) => (c.name = v))"
          />
          <TextRow
            label="Why"
            :rows="2"
            :model-value="active.note"
            :most="4000"
            placeholder="why this candidate exists"
            @update:model-value="(v) => change('Note on the candidate', (c) => (c.note = v))"
          />
          <div class="mt-2 flex flex-wrap gap-1.5" role="tablist" aria-label="Surfaces">
            <button
              v-for="s in active.surfaces"
              :key="s.id"
              role="tab"
              :aria-selected="s.id === part"
              class="rounded-md border px-2.5 py-0.5"
              :class="s.id === part ? 'border-ochre bg-select font-semibold' : 'border-rule hover:border-ochre'"
              :data-test="`surface-${s.id}`"
              @click="part = s.id"
            >
              {{ s.name }}
            </button>
          </div>
          <div class="mt-2 flex flex-wrap gap-3 text-[13px]">
            <button
              v-for="r in ROLES"
              :key="r"
              class="link flex items-center gap-0.5"
              :data-test="`add-${r}`"
              @click="add(r)"
            >
              <Plus :size="12" />{{ r }}
            </button>
          </div>
        </SheetGroup>
        <BodySheet v-if="body" v-model:chosen="part" :candidate="active" :change="change" />
        <template v-if="surface">
          <SheetGroup :title="surface.name" help="Surface">
            <template #aside>
              <span class="flex">
                <button class="icon-btn" :aria-label="`Copy ${surface.name}`" title="Copy" @click="copy(surface)">
                  <Copy :size="13" />
                </button>
                <button
                  class="icon-btn"
                  :aria-label="`Remove ${surface.name}`"
                  title="Remove"
                  data-test="remove-surface"
                  @click="remove(surface)"
                >
                  <Trash2 :size="13" />
                </button>
              </span>
            </template>
            <TextRow
              label="Name"
              :model-value="surface.name"
              :most="60"
              needed
              @update:model-value="(v) => changeSurface('Name of a surface', surface!.id, (s) => (s.name = v))"
            />
            <DimensionGroup :surface="surface" />
          </SheetGroup>
          <StationsGroup v-model:station="station" :surface="surface" :at="at" />
          <PlacingGroup :candidate="active" :surface="surface" :at="at" />
          <ControlsGroup :candidate="active" :surface="surface" :at="at" />
          <StreamGroup :candidate="active" :surface="surface" />
          <SizingGroup v-if="tail" :candidate="active" :surface="surface" />
        </template>
        <BodySheet v-if="!body" v-model:chosen="part" :candidate="active" :change="change" />
      </template>
    </template>
  </AreaPage>
</template>
