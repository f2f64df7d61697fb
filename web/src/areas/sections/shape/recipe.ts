import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue';
import { resolveShape, resolvedSource, type SavedShape, type SectionPart } from '@veldtwind/core/project';
import type { Progress } from '@veldtwind/core/analysis';
import { RAD } from '@veldtwind/core/numerics';
import type { SectionFlow } from '@veldtwind/core/polar';
import type {
  SavedSource,
  SavedStep,
  SectionSource,
  SectionView,
  ShapedView,
  ShapingDetail,
  SpeedReport,
} from '@veldtwind/core/shaping';
import { inTurn } from '@/lib/in-turn';
import { latestOnly } from '@/lib/live';
import { useProject } from '@/store/project';
import { GivenUp, lanes } from '@/worker/lane';

/** Times that a change is made again because the section changed while it was computed. */
const MOST_TRIES = 5;

/** Why a recipe was refused, and at which step and field. */
export interface Refusal {
  message: string;
  hint?: string;
  index: number | null;
  field: string | null;
}

/** A change of a recipe, made on whatever the recipe is when its turn comes. */
export type ShapeChange = (shape: SavedShape) => SavedShape;

const shapeOf = (s: SectionPart): SavedShape => ({ source: s.source, steps: s.steps });
const same = (a: SavedShape, b: SavedShape) => JSON.stringify(a) === JSON.stringify(b);

/** The recipe of the open section: as it is kept, as it looks while a value moves, and what came of it. */
export function useRecipe(
  section: ComputedRef<SectionPart | undefined>,
  conditions: { alphaDeg: ComputedRef<number>; mach: ComputedRef<number> },
  active: ComputedRef<boolean>,
) {
  const project = useProject();
  const moving = shallowRef<SavedShape | null>(null);
  /** Why the last change was not taken, and why what is shown cannot be made: the first stands until the next change. */
  const notTaken = ref<Refusal | null>(null);
  const notMade = ref<Refusal | null>(null);
  const refusal = computed(() => notTaken.value ?? notMade.value);
  const before = shallowRef<SectionView | null>(null);
  const kept = shallowRef<SectionView | null>(null);
  const shaped = shallowRef<ShapedView | null>(null);
  const pressure = shallowRef<{ before: SectionFlow; after: SectionFlow } | null>(null);
  const reports = ref<Record<string, SpeedReport>>({});
  const solving = ref<{ index: number; iteration: number; left: number } | null>(null);
  /** Changes that wait for the worker. */
  const waiting = ref(0);

  const live = computed<SavedShape>(
    () => moving.value ?? section.value ?? { source: { kind: 'drawn', points: [] }, steps: [] },
  );
  const resolveFor = (id: string, shape: SavedShape): SectionSource =>
    resolveShape(shape, (other) => resolvedSource(project.edited.sections, other, [id]));
  const resolve = (shape: SavedShape): SectionSource => resolveFor(section.value?.id ?? '', shape);

  const refused = (error: unknown): Refusal => {
    const e = error as { message: string; hint?: string; path?: string };
    const match = /^steps\.(\d+)(?:\.(.+))?$/.exec(e.path ?? '');
    return {
      message: e.message.replace(/^Step \d+: /, ''),
      hint: e.hint,
      index: match ? Number(match[1]) : null,
      field: match?.[2] ?? null,
    };
  };
  const watchSolving = ({ done, detail }: Progress) => {
    const { index, left } = detail as ShapingDetail;
    solving.value = { index, iteration: done, left };
  };
  const note = (view: ShapedView, steps: readonly SavedStep[]) => {
    for (const f of view.found) {
      const id = steps[f.index]?.id;
      if (id && f.report) reports.value = { ...reports.value, [id]: f.report };
    }
  };

  const ask = latestOnly(
    async (shape: SavedShape, alpha: number, mach: number) => {
      const source = resolve(shape);
      const view = await lanes.shape.run('section-shape', { source }, watchSolving);
      const own = resolve({ source: shape.source, steps: [] });
      const first = await lanes.shape.run('section-view', { source: own });
      const flow = (s: SectionSource) =>
        lanes.shape.run('inviscid-flow', { source: s, flap: null, alpha, mach } as never);
      return { view, first, flows: { before: await flow(own), after: await flow(source) } };
    },
    ({ view, first, flows }, shape) => {
      solving.value = null;
      shaped.value = view;
      before.value = first;
      pressure.value = flows;
      if (shape !== moving.value) kept.value = view.view;
      notMade.value = null;
      note(view, shape.steps);
    },
    (error) => {
      solving.value = null;
      if (!(error instanceof GivenUp)) notMade.value = refused(error);
    },
  );
  watch(
    [() => section.value?.source, () => section.value?.steps, moving, conditions.alphaDeg, conditions.mach, active],
    () => {
      if (!section.value || !active.value) return;
      ask(live.value, Math.max(-0.7, Math.min(0.7, conditions.alphaDeg.value * RAD)), conditions.mach.value);
    },
    { immediate: true },
  );
  watch(
    () => section.value?.id,
    () => {
      moving.value = null;
      notTaken.value = notMade.value = null;
      reports.value = {};
      before.value = kept.value = shaped.value = pressure.value = null;
    },
  );

  const preview = (change: ShapeChange): void => {
    notTaken.value = null;
    if (section.value) moving.value = change(shapeOf(section.value));
  };

  /**
   * Takes a change when the section can be made with it; else says why and leaves the recipe as it was. Changes of one section wait for each other,
   * and each is made on the section as it is when its turn comes: none is computed from a state that another one has left behind.
   */
  function commit(
    label: string,
    change: ShapeChange,
    on = section.value?.id,
    told: (why: Refusal) => void = () => undefined,
  ): Promise<boolean> {
    if (on === undefined) return Promise.resolve(false);
    const shownThen = moving.value;
    waiting.value++;
    const settle = (why: Refusal | null) => {
      solving.value = null;
      // What moves by now may be another value already.
      if (moving.value === shownThen) moving.value = null;
      if (section.value?.id === on) notTaken.value = why;
      else if (why) told(why);
      return why === null;
    };
    return inTurn(`recipe ${on}`, async () => {
      try {
        for (let k = 0; k < MOST_TRIES; k++) {
          const now = project.edited.sections[on];
          if (!now) return settle(null) && false;
          const from = shapeOf(now);
          const next = change(from);
          const view = await lanes.shape.run('section-shape', { source: resolveFor(on, next) }, watchSolving);
          const newest = project.edited.sections[on];
          if (!newest || !same(shapeOf(newest), from)) continue;
          const steps = next.steps.map((step, index): SavedStep => {
            const found = view.found.find((f) => f.index === index);
            return found ? ({ ...step, found: found.displacement } as SavedStep) : step;
          });
          note(view, steps);
          project.edit(label, (draft) => {
            const s = draft.sections[on];
            s.source = next.source;
            s.steps = steps;
          });
          return settle(null);
        }
        return settle({
          message: 'The section kept changing while this was computed.',
          hint: 'Make the change again.',
          index: null,
          field: null,
        });
      } catch (error) {
        if (error instanceof GivenUp) return settle(null) && false;
        return settle(refused(error));
      } finally {
        waiting.value--;
      }
    });
  }
  const changeSteps = (label: string, change: (steps: readonly SavedStep[]) => SavedStep[]) =>
    commit(label, (shape) => ({ ...shape, steps: change(shape.steps) }));
  const setSource = (label: string, source: SavedSource | ((source: SavedSource) => SavedSource)) =>
    commit(label, (shape) => ({ ...shape, source: typeof source === 'function' ? source(shape.source) : source }));
  /** Gives up a design that takes long: its worker is started anew. */
  function cancel(): void {
    lanes.shape.restart('section-shape');
    solving.value = null;
    moving.value = null;
  }
  return {
    live,
    moving,
    waiting,
    refusal,
    before,
    kept,
    shaped,
    pressure,
    reports,
    solving,
    preview,
    commit,
    changeSteps,
    setSource,
    cancel,
    resolve,
  };
}

export type RecipeState = ReturnType<typeof useRecipe>;
