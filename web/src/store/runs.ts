import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { CurveReply, PointsReply, RunReply } from '@veldtwind/core/contract';
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
const EVERY = 300;

/** Runs of the open project, the curves that they solve, and those curves' points; they follow what the server tells. */
export const useRuns = defineStore('runs', () => {
  const project = useProject();
  const runs = shallowRef<RunReply[]>([]);
  const curves = shallowRef<CurveReply[]>([]);
  const points = shallowRef<ReadonlyMap<number, PlacedPoint[]>>(new Map());
  const loaded = ref(false);
  const failure = ref<string | null>(null);
  const notice = ref<string | null>(null);
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

  /** Reads what is there; called when the area is opened, when the stream opens, and while runs go on. */
  async function refresh(): Promise<void> {
    if (!project.id || asking) {
      wanted = wanted || asking;
      return;
    }
    asking = true;
    const of = id();
    await tried(async () => {
      const [r, c] = await Promise.all([
        call('listRuns', { params: { id: of } }),
        call('listCurves', { params: { id: of } }) as Promise<unknown> as Promise<{ curves: CurveReply[] }>,
      ]);
      if (project.id !== of) return;
      const missing = c.curves
        .filter((n) => stale.has(n.id) || points.value.get(n.id)?.length !== n.points)
        .map((n) => n.id);
      const next = new Map([...points.value].filter(([k]) => c.curves.some((n) => n.id === k)));
      for (let k = 0; k < missing.length; k += AT_ONCE) {
        const reply = (await call('curvePoints', {
          params: { id: of },
          query: { curves: missing.slice(k, k + AT_ONCE).join() },
        })) as PointsReply;
        for (const curve of reply.curves) next.set(curve.id, curve.points);
      }
      if (project.id !== of) return;
      missing.forEach((n) => stale.delete(n));
      runs.value = r.runs;
      notice.value = r.notice;
      curves.value = c.curves;
      points.value = next;
      loaded.value = true;
    });
    asking = false;
    if (wanted) later();
  }
  /** Once more in a moment: many messages, one question. */
  function later(): void {
    wanted = false;
    again ??= setTimeout(() => {
      again = undefined;
      void refresh();
    }, EVERY);
  }

  watch(
    () => project.id,
    () => {
      runs.value = [];
      curves.value = [];
      points.value = new Map();
      loaded.value = false;
      stale.clear();
    },
  );
  watch(
    () => project.ran,
    (event) => {
      if (!event || event.project !== project.id || !loaded.value) return;
      event.curves.forEach((c) => stale.add(c));
      const known = runs.value.some((r) => r.id === event.run.id);
      runs.value = known ? runs.value.map((r) => (r.id === event.run.id ? event.run : r)) : [event.run, ...runs.value];
      later();
    },
  );
  watch(
    () => project.opened,
    () => (loaded.value ? later() : void glance()),
    { immediate: true },
  );
  /** Which curves there are, before anybody looks at them. */
  async function glance(): Promise<void> {
    const of = project.id;
    if (!of) return;
    await tried(async () => {
      const reply = (await call('listCurves', { params: { id: of } })) as { curves: CurveReply[] };
      if (project.id === of && !loaded.value) curves.value = reply.curves;
    });
  }

  const start = (name: string, plan: RunPlan, many = false) =>
    tried(async () => {
      await call('startRun', { params: { id: id() }, body: { name, plan, many } });
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
  return { runs, curves, points, loaded, failure, notice, going, refresh, start, change, setPriority, closeIn, remove };
});
