<script setup lang="ts">
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import {
  bodyFromOutline,
  riseFromLine,
  standingIn,
  surfaceFromOutline,
  type DrawingView,
} from '@veldtwind/core/airframe';
import { freeId } from '@veldtwind/core/limits';
import { InvalidInput } from '@veldtwind/core/numerics';
import { LARGEST_PICTURE, sectionForRole, type CandidatePart, type PicturePart } from '@veldtwind/core/project';
import LimitField from '@/components/field/LimitField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { readPicture } from '@/lib/read-picture';
import { useSketch, type SketchTarget } from './use-sketch';

/** What the sketch becomes, its picture, and its end. */
const props = defineProps<{ part: string | null }>();
const emit = defineEmits<{ made: [id: string] }>();
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const sketch = useSketch();
const TARGETS = [
  { id: 'wing', name: 'a wing' },
  { id: 'tailplane', name: 'a tailplane' },
  { id: 'foreplane', name: 'a foreplane' },
  { id: 'fin', name: 'a fin' },
  { id: 'body', name: 'a body' },
  { id: 'rise', name: 'the rise of a wing' },
] as const;
const VIEWS = [
  { id: 'plan', name: 'from above' },
  { id: 'side', name: 'from the left' },
  { id: 'front', name: 'from ahead' },
] as const;
function show(view: DrawingView): void {
  const views = preferences.get<string[]>('airframe-views', ['space', 'plan']);
  if (!views.includes(view)) preferences.set('airframe-views', [...views, view]);
  sketch.keep({ view });
}
function become(target: SketchTarget): void {
  sketch.keep({ target });
  if (target === 'rise') show('front');
  else if (target === 'fin') show('side');
  else if (target !== 'body' || sketch.view.value === 'front') show('plan');
}
/** A rise is drawn from ahead, all else from above or from the side. */
const views = computed(() => VIEWS.filter((v) => (v.id === 'front') === (sketch.target.value === 'rise')));
const least = computed(() => (sketch.target.value === 'rise' ? 2 : 3));
const points = computed(() => sketch.points.value.length);
function make(): void {
  const c = workbench.active;
  if (!c) return;
  const { view, target, points: outline } = sketch;
  const ids = [...c.surfaces, ...c.bodies].map((p) => p.id);
  const taken = (id: string) => ids.includes(id);
  try {
    let made = '';
    project.edit(`Sketched ${target.value} (${c.letter})`, (draft) => {
      const d = draft.candidates[c.id] as CandidatePart | undefined;
      if (!d) return;
      if (target.value === 'body') {
        const body = bodyFromOutline(outline.value, view.value, taken);
        d.bodies.push(body);
        made = body.id;
        return;
      }
      if (target.value === 'rise') {
        const s = d.surfaces.find((k) => k.id === props.part) ?? d.surfaces[0];
        if (!s) throw new InvalidInput('sketch', 'There is no wing yet.', 'Sketch one from above first.');
        const root = standingIn(c).surfaces.find((k) => k.id === s.id)?.position ?? s.position;
        riseFromLine(s, outline.value, root);
        made = s.id;
        return;
      }
      const section = sectionForRole(draft, c.id, target.value);
      const surface = surfaceFromOutline({
        role: target.value,
        view: view.value,
        outline: outline.value,
        section,
        taken,
      });
      d.surfaces.push(surface);
      made = surface.id;
    });
    sketch.clear();
    sketch.on.value = false;
    if (made) emit('made', made);
  } catch (error) {
    toast.error('This outline is no shape', { description: (error as Error).message, duration: 8000 });
  }
}
const input = ref<HTMLInputElement | null>(null);
async function read(files: FileList | null): Promise<void> {
  const file = files?.[0];
  if (!file) return;
  try {
    const { data, aspect } = await readPicture(file, LARGEST_PICTURE);
    const view = sketch.view.value;
    project.edit(`Picture ${file.name} under the drawing`, (draft) => {
      for (const [id, p] of Object.entries(draft.pictures)) if (p.view === view) delete draft.pictures[id];
      const id = freeId('picture', (k) => Object.hasOwn(draft.pictures, k));
      const width = project.brief.spanLimit ?? 4;
      draft.pictures[id] = {
        id,
        name: file.name.slice(0, 255),
        view,
        data,
        left: -width / 2,
        top: view === 'plan' ? -0.2 : 0.5,
        width,
        aspect,
        opacity: 0.5,
      };
    });
  } catch (error) {
    toast.error(`${file.name} was not taken`, { description: (error as Error).message, duration: 9000 });
  } finally {
    if (input.value) input.value.value = '';
  }
}
const picture = computed(() => sketch.picture.value);
const change = (label: string, edit: (p: PicturePart) => void) => {
  const id = picture.value?.id;
  project.edit(label, (draft) => {
    const p = id ? draft.pictures[id] : undefined;
    if (p) edit(p);
  });
};
const preview = (edit: (p: PicturePart) => void) => {
  const id = picture.value?.id;
  project.show((draft) => {
    const p = id ? draft.pictures[id] : undefined;
    if (p) edit(p);
  });
};
const PLACES = [
  { id: 'left', limit: { label: 'Left corner', dimension: 'length', min: -1000, max: 1000, step: 0.01 } },
  { id: 'top', limit: { label: 'Upper corner', dimension: 'length', min: -1000, max: 1000, step: 0.01 } },
  { id: 'width', limit: { label: 'Width', dimension: 'length', min: 0.001, max: 1000, step: 0.01 } },
  { id: 'opacity', limit: { label: 'Strength', dimension: 'plain', min: 0.05, max: 1, step: 0.05 } },
] as const;
const DISTANCE = { label: 'Actual length', dimension: 'length', min: 0.001, max: 1000, step: 0.01 } as const;
/** The picture is drawn larger or smaller about the first of two points, so that they are so far apart. */
function scale(true_: number | null): void {
  const [a, b] = sketch.measured.value;
  if (!a || !b || !true_) return;
  const now = Math.hypot(a[0] - b[0], a[1] - b[1]);
  if (now === 0) return;
  const k = true_ / now;
  change('Scale of the picture', (p) => {
    p.left = a[0] + k * (p.left - a[0]);
    p.top = a[1] + k * (p.top - a[1]);
    p.width *= k;
  });
  sketch.measured.value = [];
  sketch.tool.value = 'draw';
}
function leave(): void {
  sketch.on.value = false;
  sketch.tool.value = 'draw';
}
</script>

<template>
  <SheetGroup title="Sketch">
    <template #aside><button class="link text-[13px]" data-test="sketch-leave" @click="leave">Cancel</button></template>
    <p class="text-[12.5px] text-soft">
      Click the corners of an outline; for a rise, the points of a line from the root outward, of the wing that was
      chosen. Of a wing one half is enough, drawn from the middle outward. Type a length and press Enter to put a point
      by it; Backspace takes the last one back.
    </p>
    <SelectRow
      label="Part to create"
      :model-value="sketch.target.value"
      :options="TARGETS"
      test="sketch-target"
      @update:model-value="become"
    />
    <SelectRow
      label="Drawing plane"
      :model-value="sketch.view.value"
      :options="views"
      test="sketch-view"
      @update:model-value="show"
    />
    <SwitchRow label="Snap" :model-value="sketch.snap.value" @update:model-value="(v) => sketch.keep({ snap: v })" />
    <div class="mt-1 flex items-center gap-3">
      <button class="btn btn-main" :disabled="points < least" data-test="sketch-make" @click="make">Create</button>
      <button class="link text-[12.5px]" :disabled="points === 0" @click="sketch.back()">Remove last point</button>
      <button class="link text-[12.5px]" :disabled="points === 0" data-test="sketch-clear" @click="sketch.clear()">
        Clear
      </button>
      <span class="text-[12px] text-soft">{{ points }} points</span>
    </div>
  </SheetGroup>
  <SheetGroup title="Picture under it">
    <template #aside>
      <button class="link text-[13px]" @click="input?.click()">{{ picture ? 'Another…' : 'Take a picture…' }}</button>
    </template>
    <input
      ref="input"
      type="file"
      accept="image/png,image/jpeg,image/webp"
      class="hidden"
      aria-label="A picture"
      data-test="picture-file"
      @change="(e) => read((e.target as HTMLInputElement).files)"
    />
    <p v-if="!picture" class="text-[12.5px] text-soft">
      A drawing or photograph to draw over, scaled by a length that you know.
    </p>
    <template v-else>
      <LimitField
        v-for="f in PLACES"
        :key="f.id"
        :limit="f.limit"
        :model-value="picture[f.id]"
        @preview="(v) => preview((p) => (p[f.id] = v))"
        @commit="(v) => v !== null && change('Place of the picture', (p) => (p[f.id] = v))"
      />
      <div class="mt-1 flex items-center gap-3 text-[12.5px]">
        <button
          class="chip"
          :class="{ on: sketch.tool.value === 'scale' }"
          data-test="picture-scale"
          @click="sketch.tool.value = sketch.tool.value === 'scale' ? 'draw' : 'scale'"
        >
          Scale by a known length
        </button>
        <button
          class="link text-clay"
          @click="
            project.edit('Remove the picture', (draft) => {
              if (picture) delete draft.pictures[picture.id];
            })
          "
        >
          Remove
        </button>
      </div>
      <p v-if="sketch.tool.value === 'scale'" class="text-[12.5px] text-soft">
        {{
          sketch.measured.value.length < 2 ? 'Click the two ends of a length that you know.' : 'How far apart are they?'
        }}
      </p>
      <LimitField
        v-if="sketch.measured.value.length === 2"
        :limit="DISTANCE"
        :model-value="null"
        placeholder="length"
        data-test="picture-length"
        @commit="scale"
      />
    </template>
  </SheetGroup>
</template>
