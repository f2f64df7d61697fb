import { proxy } from 'comlink';
import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue';
import { resolveShape, resolvedSource, type SavedShape, type SectionPart } from '@veldtwind/core/project';
import type { SavedSource, SavedStep, SectionSource, SpeedReport } from '@veldtwind/core/shaping';
import { latestOnly } from '@/lib/latest-only';
import { useProject } from '@/store/project';
import { shapeWorker } from '@/worker/compute';
import type { SectionFlow, SectionView, ShapedView } from '@/worker/compute.worker';

const RAD = Math.PI / 180;
const plain = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;

/** Why a recipe was refused, and at which step and field. */
export interface Refusal {
  message: string;
  hint?: string;
  index: number | null;
  field: string | null;
}

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

  const live = computed<SavedShape>(
    () => moving.value ?? section.value ?? { source: { kind: 'drawn', points: [] }, steps: [] },
  );
  const resolve = (shape: SavedShape): SectionSource =>
    plain(resolveShape(shape, (id) => resolvedSource(project.document.sections, id, [section.value?.id ?? ''])));

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
  const watchSolving = () =>
    proxy((index: number, iteration: number, left: number) => void (solving.value = { index, iteration, left }));
  const note = (view: ShapedView, steps: readonly SavedStep[]) => {
    for (const f of view.found) {
      const id = steps[f.index]?.id;
      if (id && f.report) reports.value = { ...reports.value, [id]: f.report };
    }
  };

  const ask = latestOnly(
    async (shape: SavedShape, alpha: number, mach: number) => {
      const source = resolve(shape);
      const view = await shapeWorker.api.shaped(source, watchSolving());
      const own = resolve({ source: shape.source, steps: [] });
      const first = await shapeWorker.api.section(own);
      const flows = {
        before: await shapeWorker.api.flow(own, null, alpha, mach),
        after: await shapeWorker.api.flow(source, null, alpha, mach),
      };
      return { view, first, flows };
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
      notMade.value = refused(error);
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

  const preview = (change: Partial<SavedShape>): void => {
    notTaken.value = null;
    if (section.value) moving.value = { ...shapeOf(section.value), ...change };
  };
  const shapeOf = (s: SectionPart): SavedShape => ({ source: s.source, steps: s.steps });

  /** Takes a change when the section can be made with it; else says why and leaves the recipe as it was. */
  async function commit(label: string, change: Partial<SavedShape>): Promise<boolean> {
    const s = section.value;
    if (!s) return false;
    const next = { ...shapeOf(s), ...change };
    try {
      const view = await shapeWorker.api.shaped(resolve(next), watchSolving());
      solving.value = null;
      const steps = next.steps.map((step, index): SavedStep => {
        const found = view.found.find((f) => f.index === index);
        return found ? ({ ...step, found: found.displacement } as SavedStep) : step;
      });
      note(view, steps);
      moving.value = null;
      notTaken.value = null;
      if (section.value?.id !== s.id) return false;
      project.edit(label, [project.putSection({ ...section.value, source: next.source, steps })]);
      return true;
    } catch (error) {
      solving.value = null;
      moving.value = null;
      notTaken.value = refused(error);
      return false;
    }
  }
  const setSteps = (label: string, steps: SavedStep[]) => commit(label, { steps });
  const setSource = (label: string, source: SavedSource) => commit(label, { source });
  /** Gives up a design that takes long: its worker is started anew. */
  function cancel(): void {
    shapeWorker.restart();
    solving.value = null;
    moving.value = null;
  }
  return {
    live,
    moving,
    refusal,
    before,
    kept,
    shaped,
    pressure,
    reports,
    solving,
    preview,
    commit,
    setSteps,
    setSource,
    cancel,
    resolve,
  };
}

export type RecipeState = ReturnType<typeof useRecipe>;
