<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { Layers } from 'lucide-vue-next';
import { computed, defineAsyncComponent } from 'vue';
import { toast } from 'vue-sonner';
import type { ViewDirection } from '@veldtwind/core/figures';
import { planformOf, referenceSurface, standingIn, type Point3 } from '@veldtwind/core/airframe';
import DrawingView from '@/components/view3d/DrawingView.vue';
import ChipRow from '@/components/field/ChipRow.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import type { PartStyle } from '@/components/view3d/parts-3d';
import { massPoints, withItemsInPlace } from '@/lib/mass-points';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';
import { useWorkbench } from '@/store/workbench';
import SketchLayer from './SketchLayer.vue';
import { useSketch } from './use-sketch';

// The space view comes when the page stands: its library is large.
const AirframeView = defineAsyncComponent(() => import('@/components/view3d/AirframeView.vue'));

/** Up to four views of the airframe at the same time: in space, from above, from ahead, from the left. What is picked in one is picked in all. */
const part = defineModel<string | null>('part', { required: true });
const station = defineModel<number>('station', { required: true });
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const sketch = useSketch();

const VIEWS = [
  { id: 'space', name: 'Space' },
  { id: 'plan', name: 'Plan' },
  { id: 'front', name: 'Front' },
  { id: 'side', name: 'Side' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const LAYERS = [
  { id: 'dimensions', name: 'dimensions' },
  { id: 'chord', name: 'mean chord' },
  { id: 'sections', name: 'sections' },
  { id: 'centre', name: 'centre of gravity' },
  { id: 'neutral', name: 'neutral point' },
  { id: 'panels', name: 'panels' },
  { id: 'masses', name: 'masses' },
] as const;
const SKINS = [
  { id: 'outlined', name: 'outlined' },
  { id: 'smooth', name: 'smooth' },
  { id: 'see-through', name: 'see-through' },
] as const;
const SPACE = [
  { id: 'parallel', name: 'parallel' },
  { id: 'parts', name: 'colour by part' },
] as const;
const shown = computed<View[]>(() => {
  const kept = preferences.get<View[]>('airframe-views', ['space', 'plan']);
  const known = VIEWS.map((v) => v.id).filter((v) => kept.includes(v));
  return known.length > 0 ? known : ['space'];
});
function toggle(v: View): void {
  const next = shown.value.includes(v) ? shown.value.filter((k) => k !== v) : [...shown.value, v];
  if (next.length > 0) preferences.set('airframe-views', next);
}
const layers = computed(() =>
  preferences.get<string[]>('airframe-layers', ['dimensions', 'chord', 'centre', 'sections']),
);
const flip = (id: string) =>
  preferences.set(
    'airframe-layers',
    layers.value.includes(id) ? layers.value.filter((k) => k !== id) : [...layers.value, id],
  );
const has = (id: string) => layers.value.includes(id);
const skin = computed(() => preferences.get<(typeof SKINS)[number]['id']>('airframe-skin', 'outlined'));
const more = computed(() => preferences.get<string[]>('airframe-space', []));
const flipSpace = (id: string) =>
  preferences.set('airframe-space', more.value.includes(id) ? more.value.filter((k) => k !== id) : [...more.value, id]);

const active = computed(() => workbench.active);
const PART_LOOKS = [{ id: '', name: 'as all' }, ...SKINS, { id: 'hidden', name: 'hidden' }] as const;
const drawnParts = computed(() =>
  [...(active.value?.surfaces ?? []), ...(active.value?.bodies ?? [])].map(({ id, name }) => ({
    id,
    name: name || id,
  })),
);
const everyLook = computed(() => preferences.get<Record<string, Record<string, PartStyle>>>('airframe-looks', {}));
/** How single parts of the candidate are drawn, where not as all are. */
const looks = computed(() => everyLook.value[active.value?.id ?? ''] ?? {});
function setLook(part: string, look: string): void {
  const id = active.value?.id;
  if (id === undefined) return;
  const { [part]: _, ...rest } = looks.value;
  preferences.set('airframe-looks', {
    ...everyLook.value,
    [id]: look ? { ...rest, [part]: look as PartStyle } : rest,
  });
}
const masses = computed(() => {
  const c = active.value;
  return c && has('masses')
    ? massPoints(withItemsInPlace(c, project.document.sections).massItems, preferences.units)
    : undefined;
});
const points = computed(() => {
  const out: (Point3 & { text: string; colour: string })[] = [];
  const e = workbench.current;
  if (e?.mass && has('centre')) out.push({ ...e.mass.centre, text: 'CG', colour: 'var(--ochre-text)' });
  if (e?.lift && has('neutral'))
    out.push({ ...e.lift.momentReference, x: e.lift.neutralPoint, text: 'NP', colour: 'var(--sky)' });
  return out;
});
/** The mean aerodynamic chord in space is a point at its quarter. */
const spacePoints = computed(() => {
  const c = active.value;
  if (!c || !has('chord') || c.surfaces.length === 0) return points.value;
  try {
    const wing = referenceSurface(standingIn(c).surfaces);
    const { mac } = planformOf(wing);
    const z = wing.position.z + mac.rise;
    const text = '¼ mean chord';
    return [
      ...points.value,
      { x: mac.leadingEdge + 0.25 * mac.chord, y: wing.position.y + mac.offset, z, text, colour: 'var(--sky)' },
    ];
  } catch {
    return points.value;
  }
});
const reports = useReports();
/** The candidate as it is looked at now; the view follows its shape. */
function putIntoReport(view: ViewDirection): void {
  const c = active.value!;
  reports.put({ kind: 'space-view', subject: c.id, ...view, title: '', caption: '' });
  toast.success(`The view of ${c.letter} is in the report`);
}
function pick(id: string, at: number | null): void {
  part.value = id;
  if (at !== null) station.value = at;
}
/** One or two below each other, three and four in two columns. */
const grid = computed(() =>
  shown.value.length <= 2
    ? { gridTemplateRows: shown.value.length === 2 ? '1.35fr 1fr' : '1fr' }
    : { gridTemplateColumns: '1fr 1fr', gridTemplateRows: '1fr 1fr' },
);
</script>

<template>
  <div class="flex h-full min-h-[420px] flex-col">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule-light px-3 py-1.5 text-[12.5px]">
      <ChipRow label="Views that are shown" :options="VIEWS" :on="shown" test="view" @pick="toggle" />
      <Popover class="relative">
        <PopoverButton class="link flex items-center gap-1" data-test="layers"
          ><Layers :size="13" />Layers and skin</PopoverButton
        >
        <PopoverPanel
          class="absolute top-full left-0 z-20 mt-1 w-[320px] rounded-md border border-rule bg-leaf p-3 shadow-sm"
        >
          <p class="pb-1 text-soft">Drawn on</p>
          <ChipRow label="Layers" :options="LAYERS" :on="layers as never[]" test="layer" @pick="flip" />
          <p class="pt-2 pb-1 text-soft">Skin, in space</p>
          <ChipRow
            label="Skin"
            :options="SKINS"
            :on="[skin]"
            test="skin"
            @pick="(id) => preferences.set('airframe-skin', id)"
          />
          <template v-if="drawnParts.length > 1">
            <p class="pt-2 pb-1 text-soft">Single parts</p>
            <div class="max-h-40 overflow-y-auto" data-test="part-looks">
              <SelectRow
                v-for="p in drawnParts"
                :key="p.id"
                :label="p.name"
                :model-value="looks[p.id] ?? ''"
                :options="PART_LOOKS"
                @update:model-value="(v) => setLook(p.id, v)"
              />
            </div>
          </template>
          <div class="pt-1">
            <ChipRow label="In space" :options="SPACE" :on="more as never[]" test="space" @pick="flipSpace" />
          </div>
        </PopoverPanel>
      </Popover>
    </div>
    <div v-if="active" class="grid min-h-0 flex-1" :style="grid">
      <template v-for="(v, i) in shown" :key="v">
        <div v-if="v === 'space'" class="flex min-h-0 flex-col" :class="shown.length === 3 ? 'col-span-2' : ''">
          <AirframeView
            class="flex-1"
            :candidates="workbench.visible"
            :active-id="active.id"
            :sections="project.document.sections"
            :points="spacePoints"
            :station="workbench.cursor.station"
            :mode="skin"
            :looks="looks"
            :masses="masses"
            :parallel="more.includes('parallel')"
            :by-part="more.includes('parts')"
            :dimensions="has('dimensions')"
            :ribs="has('sections')"
            reportable
            @report="putIntoReport"
            :panels="has('panels')"
            :selected="part"
            @pick="pick"
          />
        </div>
        <DrawingView
          v-else
          :view="v"
          :class="[i > 0 ? 'border-t border-rule-light' : '', shown.length > 2 && i % 2 === 1 ? 'border-l' : '']"
          :candidates="workbench.visible"
          :active-id="active.id"
          :sections="project.document.sections"
          :points="points"
          :station="workbench.cursor.station"
          :dimensions="has('dimensions')"
          :mean-chord="has('chord')"
          :section-lines="has('sections')"
          :selected="part"
          :selected-station="station"
          :looks="looks"
          :masses="masses"
          :editable="!sketch.on.value"
          :underlay="sketch.pictureIn(v)"
          :room="sketch.on.value ? (project.brief.spanLimit ?? 4) : undefined"
          @pick="pick"
        >
          <template #default="{ frame, width, height }">
            <SketchLayer
              v-if="sketch.on.value && sketch.view.value === v"
              :frame="frame"
              :width="width"
              :height="height"
              :view="v"
            />
          </template>
        </DrawingView>
      </template>
    </div>
  </div>
</template>
