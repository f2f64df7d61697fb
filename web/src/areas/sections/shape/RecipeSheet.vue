<script setup lang="ts">
import { RAD } from '@veldtwind/core/numerics';
import { Menu, MenuButton, MenuItem, MenuItems, Switch } from '@headlessui/vue';
import {
  ChevronDown,
  ChevronRight,
  ClipboardCopy,
  ClipboardPaste,
  MoveDown,
  MoveUp,
  Plus,
  Trash2,
} from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import { readRecipeFile, type SectionPart } from '@veldtwind/core/project';
import {
  savedStep,
  withMovedStep,
  withoutStep,
  withStep,
  type ClassShapeFit,
  type SavedSource,
  type SavedStep,
  type StepKind,
  type StepName,
} from '@veldtwind/core/shaping';
import { formatNumber } from '@veldtwind/core/units';
import NumberField from '@/components/field/NumberField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import { sourceWords } from '@/store/library';
import { useProject } from '@/store/project';
import { newId } from '@/lib/ids';
import { lanes } from '@/worker/lane';
import type { RecipeState } from './recipe';
import SpeedTarget from './SpeedTarget.vue';
import StepFields from './StepFields.vue';
import { freshStep, STEP_NAMES } from './step-words';
import WholeSpeed from './WholeSpeed.vue';

/** The recipe of a section: its source, and the shaping steps that are done on it in order. */
const props = defineProps<{ recipe: RecipeState; section: SectionPart; alphaDeg: number }>();
const opened = defineModel<number | null>('opened', { default: null });
const project = useProject();
const steps = computed(() => props.recipe.live.value.steps);
const facts = computed(() => props.recipe.shaped.value?.view.facts);
const source = computed(() => props.recipe.live.value.source);

/** What the section is now, also where a step is added before the first view of it is there. */
async function factsNow() {
  if (facts.value) return facts.value;
  const { view } = await lanes.shape.run('section-shape', { source: props.recipe.resolve(props.section) });
  return view.facts;
}
async function add(kind: StepKind): Promise<void> {
  const { id } = props.section;
  const other = project.sections.find((s) => s.id !== id);
  if (kind === 'mix' && !other) {
    toast('There is no other section to mix with yet.');
    return;
  }
  try {
    const step = freshStep(kind, await factsNow(), other?.id ?? '', props.alphaDeg);
    if (props.section.id === id) await addNow(await withSpeed(step));
  } catch (error) {
    toast.error(`The step was not added: ${(error as Error).message}`);
  }
}
async function addNow(step: SavedStep): Promise<void> {
  const taken = await props.recipe.changeSteps(STEP_NAMES[step.kind], (steps) => [...steps, step]);
  const at = props.section.steps.findIndex((s) => s.id === step.id);
  opened.value = taken && at >= 0 ? at : null;
}
/** A speed to be shaped to starts as the speed that is there. */
async function withSpeed(step: SavedStep): Promise<SavedStep> {
  if (step.kind !== 'target-speed' && step.kind !== 'whole-speed') return step;
  const speeds = await lanes.shape.run('section-speeds', {
    source: props.recipe.resolve(props.section),
    alpha: step.angleDeg * RAD,
  });
  if (step.kind === 'whole-speed') return { ...step, ...speeds };
  const { from, to, surface } = step;
  const inside = speeds[surface].filter(([x]) => x >= from - 0.03 && x <= to + 0.03);
  const every = Math.max(1, Math.round(inside.length / 9));
  return { ...step, target: inside.filter((_, i) => i % every === 0 || i === inside.length - 1) };
}
/** Names a step, so that it is found again when the change is made. */
const named = (index: number): StepName => ({ id: steps.value[index]?.id, index });
/** Takes the fields of a step that were changed here; what else changed meanwhile stays. */
const commitStep = (index: number, step: SavedStep) => {
  const shown = props.section.steps[index] as unknown as Record<string, unknown> | undefined;
  const changed = Object.fromEntries(
    Object.entries(step).filter(([k, v]) => JSON.stringify(shown?.[k]) !== JSON.stringify(v)),
  );
  const name = named(index);
  void props.recipe.changeSteps(STEP_NAMES[step.kind], (list) =>
    withStep(list, name, (s) => ({ ...s, ...changed }) as SavedStep),
  );
};
const previewStep = (index: number, step: SavedStep) => {
  const name = named(index);
  props.recipe.preview((shape) => ({ ...shape, steps: withStep(shape.steps, name, () => step) }));
};
const toggle = (index: number, on: boolean) => toggleNamed(named(index), on);
const toggleNamed = (name: StepName, on: boolean) =>
  void props.recipe.changeSteps(on ? 'Step on' : 'Step off', (list) =>
    withStep(list, name, (s) => ({ ...s, off: !on })),
  );
function move(index: number, by: number): void {
  const name = named(index);
  void props.recipe.changeSteps('Move a step', (list) => withMovedStep(list, name, by));
  if (opened.value === index) opened.value = index + by;
}
function remove(index: number): void {
  const name = named(index);
  void props.recipe.changeSteps('Remove a step', (list) => withoutStep(list, name));
  opened.value = null;
}
const value = (step: SavedStep): string => {
  const percent = (v: number) => `${formatNumber(100 * v, 2)} %`;
  switch (step.kind) {
    case 'set-thickness':
    case 'set-camber':
    case 'nose-radius':
    case 'edge-gap':
      return percent(step.to);
    case 'scale-thickness':
    case 'scale-camber':
    case 'scale':
      return `× ${formatNumber(step.by, 3)}`;
    case 'thickness-crest':
    case 'camber-crest':
      return `to ${formatNumber(step.to, 3)}`;
    case 'hinge':
      return `${formatNumber(step.angleDeg, 1)}° at ${formatNumber(step.x, 2)}`;
    case 'rotate':
      return `${formatNumber(step.angleDeg, 2)}°`;
    case 'mix':
      return `${percent(step.fraction)} ${project.document.sections[step.with]?.name ?? step.with}`;
    case 'bump':
      return `${percent(step.height)} at ${formatNumber(step.at, 2)}`;
    case 'smooth':
    case 'smooth-speed':
    case 'target-speed':
      return `${step.surface} ${formatNumber(step.from, 2)}–${formatNumber(step.to, 2)}`;
    default:
      return '';
  }
};

const plainRecipe = () => steps.value.map((s) => ({ ...s, id: undefined, found: undefined }));
async function copyRecipe(): Promise<void> {
  try {
    await navigator.clipboard.writeText(
      JSON.stringify({ format: 'veldtwind-recipe', version: 1, steps: plainRecipe() }, null, 2),
    );
    toast('Recipe copied');
  } catch {
    toast.error('The clipboard is not to be had here. Use “copy to” instead.');
  }
}
async function pasteRecipe(): Promise<void> {
  try {
    const text = await navigator.clipboard.readText();
    // A mix keeps the id it names; whether it is here is checked when the recipe is computed.
    readRecipeFile(text, () => ({ kind: 'designation', designation: '0012', trailingEdge: 'published' }));
    const raw = JSON.parse(text) as { steps?: unknown[] } | unknown[];
    const list = (Array.isArray(raw) ? raw : (raw.steps ?? [])).map((s) => savedStep.parse(s));
    const pasted = list.map((s) => ({ ...s, id: newId().slice(0, 8) }));
    await props.recipe.changeSteps('Paste a recipe', (now) => [...now, ...pasted]);
  } catch (error) {
    toast.error('That is no recipe.', { description: (error as Error).message.slice(0, 200) });
  }
}
/** Puts the recipe on another section, behind the steps that are there; refused whole where it cannot be done. */
async function copyTo(id: string): Promise<void> {
  const { name } = project.document.sections[id] ?? {};
  const copies = steps.value.map((s) => ({ ...s, id: newId().slice(0, 8) }));
  const taken = await props.recipe.commit(
    `Recipe to ${name}`,
    (shape) => ({ ...shape, steps: [...shape.steps, ...copies] }),
    id,
    (why) => toast.error(`${name} stays as it was: ${why.message}`, { description: why.hint }),
  );
  if (taken) toast(`Recipe copied to ${name}`, { action: { label: 'Undo', onClick: () => void project.step('undo') } });
}

const order = ref(6);
const fit = ref<ClassShapeFit | null>(null);
async function tryFit(): Promise<void> {
  try {
    fit.value = await lanes.shape.run('class-shape-fit', {
      source: props.recipe.resolve({ source: source.value, steps: [] }),
      order: order.value,
    });
  } catch (error) {
    toast.error((error as Error).message);
  }
}
async function takeFit(): Promise<void> {
  if (fit.value && (await props.recipe.setSource('Fit by class and shape functions', fit.value.source)))
    fit.value = null;
}
const classShape = computed(() => (source.value.kind === 'class-shape' ? source.value : null));
const withCoefficient =
  (surface: 'upper' | 'lower', index: number, v: number) =>
  (c: SavedSource): SavedSource =>
    c.kind === 'class-shape' ? { ...c, [surface]: c[surface].map((w, i) => (i === index ? v : w)) } : c;
const setMix = (change: Partial<Extract<SavedSource, { kind: 'mix' }>>, done: boolean) => {
  if (source.value.kind !== 'mix') return;
  const next = { ...source.value, ...change };
  if (done) void props.recipe.setSource('Mix', (now) => (now.kind === 'mix' ? { ...now, ...change } : now));
  else props.recipe.preview((shape) => ({ ...shape, source: next }));
};
const previewSource = (change: (s: SavedSource) => SavedSource) =>
  props.recipe.preview((shape) => ({ ...shape, source: change(shape.source) }));
const others = computed(() => project.sections.filter((s) => s.id !== props.section.id));
</script>

<template>
  <SheetGroup title="Source">
    <p class="flex items-baseline justify-between gap-2">
      <span class="truncate">{{ sourceWords({ ...section, steps: [] }) }}</span>
    </p>
    <template v-if="source.kind === 'mix'">
      <SelectRow
        v-for="end in ['a', 'b'] as const"
        :key="end"
        :label="end === 'a' ? 'Between' : 'and'"
        :model-value="source[end]"
        :options="others"
        @update:model-value="(id) => setMix({ [end]: id }, true)"
      />
      <NumberField
        label="Fraction of second section"
        dimension="ratio"
        :model-value="source.fraction"
        :min="0"
        :max="1"
        :step="0.02"
        @preview="(v) => setMix({ fraction: v }, false)"
        @commit="(v) => v !== null && setMix({ fraction: v }, true)"
      />
    </template>
    <p v-else-if="source.kind === 'drawn'" class="text-[12.5px] text-soft">
      Drag the points on the outline{{ steps.some((s) => !s.off) ? ' (switch the steps off to see them)' : '' }}.
    </p>
    <template v-else-if="classShape">
      <template v-for="surface in ['upper', 'lower'] as const" :key="surface">
        <div
          v-for="(c, i) in classShape[surface]"
          :key="i"
          class="grid grid-cols-[64px_1fr_58px] items-center gap-2 py-px"
        >
          <span class="text-[12px] text-soft">{{ surface }} {{ i }}</span>
          <input
            type="range"
            class="min-w-0 accent-(--ochre)"
            min="-0.6"
            max="0.6"
            step="0.002"
            :value="c"
            :aria-label="`${surface} coefficient ${i}`"
            @input="(e) => previewSource(withCoefficient(surface, i, Number((e.target as HTMLInputElement).value)))"
            @change="
              (e) =>
                recipe.setSource(
                  'Coefficient',
                  withCoefficient(surface, i, Number((e.target as HTMLInputElement).value)),
                )
            "
          />
          <span class="text-right text-[12px]">{{ formatNumber(c, 4) }}</span>
        </div>
      </template>
    </template>
    <details v-if="source.kind !== 'class-shape'" class="mt-1">
      <summary class="cursor-pointer text-[12.5px] text-soft hover:text-ink">Fit by class and shape functions</summary>
      <NumberField
        label="Order"
        dimension="plain"
        :digits="0"
        :model-value="order"
        :min="2"
        :max="12"
        :step="1"
        @commit="(v) => v && ((order = Math.round(v)), tryFit())"
      />
      <p v-if="fit" class="text-[12.5px]" role="status" data-test="fit-error">
        {{ 2 * (order + 1) }} coefficients; off by at most {{ formatNumber(100 * fit.error.max, 4) }} % c (at
        {{ formatNumber(fit.error.at, 3) }}), {{ formatNumber(100 * fit.error.rms, 4) }} % c on the mean
      </p>
      <span class="flex gap-2 pt-1">
        <button class="btn" data-test="try-fit" @click="tryFit">Fit</button>
        <button v-if="fit" class="btn btn-main" data-test="take-fit" @click="takeFit">Use as the source</button>
      </span>
    </details>
  </SheetGroup>
  <SheetGroup title="Shaping steps">
    <template #aside>
      <span class="flex items-center">
        <Menu v-if="steps.length && others.length" as="div" class="relative">
          <MenuButton class="link text-[12.5px]" data-test="copy-recipe-to">copy to …</MenuButton>
          <MenuItems class="menu absolute right-0 mt-1 max-h-64 w-52 overflow-y-auto">
            <MenuItem v-for="s in others.slice(0, 200)" :key="s.id" v-slot="{ active }">
              <button class="menu-item" :data-on="active" @click="copyTo(s.id)">{{ s.name }}</button>
            </MenuItem>
          </MenuItems>
        </Menu>
        <button
          class="icon-btn"
          aria-label="Copy the recipe"
          title="Copy the recipe"
          :disabled="!steps.length"
          @click="copyRecipe"
        >
          <ClipboardCopy :size="13" />
        </button>
        <button class="icon-btn" aria-label="Paste a recipe" title="Paste a recipe" @click="pasteRecipe">
          <ClipboardPaste :size="13" />
        </button>
      </span>
    </template>
    <p v-if="steps.length === 0" class="text-[12.5px] text-soft">
      None yet. Each step works on what the one before it made; any can be changed, moved, switched off or removed
      later.
    </p>
    <ol>
      <li
        v-for="(step, i) in steps"
        :key="step.id ?? i"
        class="border-t border-rule-light py-1 first:border-t-0"
        data-test="step"
      >
        <div class="flex items-center gap-1">
          <button
            class="flex min-w-0 flex-1 items-center gap-1 text-left"
            :class="step.off ? 'text-soft line-through' : ''"
            :aria-expanded="opened === i"
            @click="opened = opened === i ? null : i"
          >
            <ChevronDown v-if="opened === i" :size="13" class="shrink-0" /><ChevronRight
              v-else
              :size="13"
              class="shrink-0"
            />
            <span class="shrink-0 font-medium">{{ STEP_NAMES[step.kind] }}</span>
            <span class="min-w-0 truncate text-[12px] text-soft">{{ value(step) }}</span>
          </button>
          <Switch
            :model-value="!step.off"
            class="switch shrink-0 scale-75"
            :aria-label="`${STEP_NAMES[step.kind]} on`"
            @update:model-value="(v: boolean) => toggle(i, v)"
            ><span class="switch-knob"
          /></Switch>
        </div>
        <div v-if="opened === i" class="pl-4">
          <div class="flex items-center justify-end gap-1 text-[12px] text-soft">
            <button class="icon-btn" aria-label="Move up" :disabled="i === 0" @click="move(i, -1)">
              <MoveUp :size="12" />
            </button>
            <button class="icon-btn" aria-label="Move down" :disabled="i === steps.length - 1" @click="move(i, 1)">
              <MoveDown :size="12" />
            </button>
            <button class="icon-btn" aria-label="Remove the step" data-test="remove-step" @click="remove(i)">
              <Trash2 :size="12" />
            </button>
          </div>
          <StepFields
            :step="step"
            :own="section.id"
            :refusal="recipe.refusal.value?.index === i ? recipe.refusal.value : null"
            @preview="(s) => previewStep(i, s)"
            @commit="(s) => commitStep(i, s)"
          />
          <SpeedTarget
            v-if="step.kind === 'target-speed'"
            :step="step"
            :index="i"
            :recipe="recipe"
            :report="recipe.reports.value[step.id ?? '']"
            @commit="(s) => commitStep(i, s)"
          />
          <WholeSpeed
            v-if="step.kind === 'whole-speed'"
            :step="step"
            :own="section.id"
            :recipe="recipe"
            :report="recipe.reports.value[step.id ?? '']"
            @commit="(s) => commitStep(i, s)"
          />
          <p
            v-if="step.kind === 'smooth-speed' && recipe.reports.value[step.id ?? '']"
            class="text-[12px]"
            role="status"
          >
            The outline moved by up to {{ formatNumber(100 * recipe.reports.value[step.id ?? ''].displacement, 3) }} %
            c.
          </p>
        </div>
        <p
          v-else-if="recipe.refusal.value?.index === i"
          class="text-[12px] text-clay"
          role="alert"
          data-test="step-refusal"
        >
          {{ recipe.refusal.value.message }} {{ recipe.refusal.value.hint }}
        </p>
      </li>
    </ol>
    <div v-if="recipe.solving.value" class="flex items-center gap-2 py-1 text-[12.5px]" role="status">
      Shaping to the speed: turn {{ recipe.solving.value.iteration }},
      {{ formatNumber(100 * recipe.solving.value.left, 2) }} % left
      <button class="link" @click="recipe.cancel()">Stop</button>
    </div>
    <ErrorNotice
      v-if="recipe.refusal.value && (recipe.refusal.value.index === null || recipe.refusal.value.index >= steps.length)"
      :message="recipe.refusal.value.message"
      :hint="recipe.refusal.value.hint"
    />
    <Menu as="div" class="relative mt-1.5">
      <MenuButton class="btn inline-flex items-center gap-1" data-test="add-step"
        ><Plus :size="13" />Add a step</MenuButton
      >
      <MenuItems class="menu absolute left-0 mt-1 w-60">
        <MenuItem v-for="(words, kind) in STEP_NAMES" :key="kind" v-slot="{ active }">
          <button class="menu-item" :data-on="active" :data-test="`add-${kind}`" @click="add(kind)">{{ words }}</button>
        </MenuItem>
      </MenuItems>
    </Menu>
  </SheetGroup>
</template>
