import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { CurveReply, PointsReply, RunReply } from '@veldtwind/contract';
import type { RunPlan } from '@veldtwind/core/polar';
import type { ViscousPoint } from '@veldtwind/core/section-flow';
import { ApiError, call } from '@/api/client';
import { useProject } from './project';

/** A point of a curve and its place on it. */
export interface PlacedPoint {
  place: number;
  point: ViscousPoint;
}

/** Curves whose points are asked for at once. */
const AT_ONCE = 60;
/** Least time between two questions while points stream in, ms. */
const EVERY = 400;
/** Curves that are asked for by themselves; of more, all are listed anew. */
const MOST_SOME = 400;

/** Runs of the open project, the curves that they solve, and those curves' points; they follow what the server tells. */
export const useRuns = defineStore('runs', () => {
  const project = useProject();
  const runs = shallowRef<RunReply[]>([]);
  const curves = shallowRef<CurveReply[]>([]);
  const points = shallowRef<ReadonlyMap<number, PlacedPoint[]>>(new Map());
  const loaded = ref(false);
  const failure = ref<string | null>(null);
  const notice = ref<string | null>(null);
  /** Whether the server computes polars that nobody asked for. */ const automatic = ref(false);
  const stale = new Set<number>();
  let wanted = false;
  let asking = false;
  let again: ReturnType<typeof setTimeout> | undefined;

  const id = () => project.id!;
  async function tried(work: () => Promise<void>): Promise<boolean> {
    try {
      await work();
      failure.value = null;
      return true;
    } catch (error) {
      failure.value =
        error instanceof ApiError ? [error.message, error.hint].filter(Boolean).join(' ') : (error as Error).message;
      return false;
    }
  }

  /** Whether all must be listed anew, and not only the curves that points came for. */
  let whole = true;
  async function listed(of: string, taken: ReadonlySet<number>): Promise<CurveReply[]> {
    const ask = async (only?: number[]) =>
      (
        (await call('listCurves', {
          params: { id: of },
          query: only ? { curves: only.join() } : {},
        })) as unknown as { curves: CurveReply[] }
      ).curves;
    const known = new Set(curves.value.map((c) => c.id));
    const some = [...taken];
    if (whole || some.length > MOST_SOME || some.some((c) => !known.has(c))) {
      whole = false;
      return ask();
    }
    if (some.length === 0) return curves.value;
    const fresh = new Map((await ask(some)).map((c) => [c.id, c]));
    return curves.value.map((c) => fresh.get(c.id) ?? c);
  }

  /** Reads what is there; called when the area is opened, when the stream opens, and while runs go on. */
  async function refresh(all = true): Promise<void> {
    whole ||= all;
    if (!project.id || asking) {
      wanted = wanted || asking;
      return;
    }
    asking = true;
    const of = id();
    // What is told from now on is for the next time.
    const taken = new Set(stale);
    stale.clear();
    const failed = !(await tried(async () => {
      const [r, list] = await Promise.all([call('listRuns', { params: { id: of } }), listed(of, taken)]);
      if (project.id !== of) return;
      runs.value = r.runs;
      notice.value = r.notice;
      automatic.value = r.automatic;
      const there = new Set(list.map((c) => c.id));
      const missing = list
        .filter((n) => taken.has(n.id) || points.value.get(n.id)?.length !== n.points)
        .map((n) => n.id);
      let next = new Map([...points.value].filter(([k]) => there.has(k)));
      curves.value = list;
      // The lists are shown before the points: of very many curves those come little by little.
      if (missing.length > AT_ONCE) {
        points.value = next;
        loaded.value = true;
      }
      for (let k = 0; k < missing.length; k += AT_ONCE) {
        const reply = (await call('curvePoints', {
          params: { id: of },
          query: { curves: missing.slice(k, k + AT_ONCE).join() },
        })) as PointsReply;
        if (project.id !== of) return;
        for (const curve of reply.curves) next.set(curve.id, curve.points);
        points.value = next;
        next = new Map(next);
      }
      points.value = next;
      loaded.value = true;
    }));
    if (failed) {
      whole = true;
      taken.forEach((c) => stale.add(c));
    }
    asking = false;
    if (wanted) later();
  }
  /** Once more in a moment: many messages, one question. */
  function later(): void {
    wanted = false;
    again ??= setTimeout(() => {
      again = undefined;
      void refresh(false);
    }, EVERY);
  }

  watch(
    () => project.id,
    () => {
      runs.value = [];
      curves.value = [];
      points.value = new Map();
      loaded.value = false;
      whole = true;
      stale.clear();
    },
  );
  watch(
    () => project.ran,
    (event) => {
      if (!event || event.project !== project.id || !loaded.value) return;
      event.curves.forEach((c) => stale.add(c));
      const known = runs.value.some((r) => r.id === event.run.id);
      if (!known || event.curves.length === 0) whole = true;
      runs.value = known ? runs.value.map((r) => (r.id === event.run.id ? event.run : r)) : [event.run, ...runs.value];
      later();
    },
  );
  watch(
    () => project.opened,
    () => {
      whole = true;
      if (loaded.value) later();
      else void glance();
    },
    { immediate: true },
  );
  /** Which curves there are, before anybody looks at them. */
  async function glance(): Promise<void> {
    const of = project.id;
    if (!of) return;
    await tried(async () => {
      const reply = (await call('listCurves', { params: { id: of } })) as { curves: CurveReply[] };
      if (project.id !== of || loaded.value) return;
      curves.value = reply.curves;
      // The candidates read their points at once; of very many they come when somebody looks.
      if (reply.curves.length <= MOST_SOME) void refresh();
    });
  }

  const start = (name: string, plan: RunPlan, many = false, priority?: number) =>
    tried(async () => {
      await call('startRun', { params: { id: id() }, body: { name, plan, many, priority } });
      await refresh();
    });
  const change = (run: string, state: 'running' | 'paused' | 'cancelled') =>
    tried(async () => {
      const row = await call('changeRun', { params: { id: id(), run }, body: { state } });
      runs.value = runs.value.map((r) => (r.id === run ? row : r));
      later();
    });
  const setPriority = (run: string, priority: number) =>
    tried(async () => {
      const row = await call('changeRun', { params: { id: id(), run }, body: { priority } });
      runs.value = runs.value.map((r) => (r.id === run ? row : r));
    });
  /** Tries unsolved stretches again in smaller steps: of these curves, or of all. */
  const closeIn = (curves?: number[]) =>
    tried(async () => {
      await call('closeIn', { params: { id: id() }, body: curves ? { curves } : {} });
      await refresh();
    });
  const remove = (run: string) =>
    tried(async () => {
      await call('removeRun', { params: { id: id(), run } });
      await refresh();
    });
  const going = computed(() => runs.value.filter((r) => r.state === 'running'));
  return {
    runs,
    curves,
    points,
    loaded,
    failure,
    notice,
    automatic,
    going,
    refresh,
    start,
    change,
    setPriority,
    closeIn,
    remove,
  };
});
