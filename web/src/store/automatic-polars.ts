import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { speedsOfPolars } from '@veldtwind/core/candidate';
import { methodMeant } from '@veldtwind/core/project';
import type { RunReply } from '@veldtwind/contract';
import { useAssumptions } from './assumptions';
import { useNeededPolars, type NeededPolar } from './needed-polars';
import { usePeople } from './people';
import { useProject } from './project';
import { useRuns } from './runs';
import { useWorkbench } from './workbench';

/** Runs that nobody asked for come behind all others. */
export const AUTOMATIC_PRIORITY = -50;
export const isAutomatic = (run: Pick<RunReply, 'priority'>) => run.priority < 0;
/** Values must have come to rest for so long, ms. */
const REST = 2500;

/**
 * Polars that the candidates need for the project's method, computed by themselves when an edit has come to rest. What was begun for a shape that is no longer
 * there is ended; what a person paused stays paused.
 */
export const useAutomaticPolars = defineStore('automatic-polars', () => {
  const project = useProject();
  const people = usePeople();
  const runs = useRuns();
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  const { assumed } = useAssumptions();

  const wanted = computed(
    () =>
      project.id !== null &&
      runs.loaded &&
      runs.automatic &&
      assumed.value.computePolars &&
      methodMeant(assumed.value.method) === 'polars' &&
      people.may('edit') &&
      project.connection !== 'away',
  );
  /** Of the document as it was edited last: what is only being dragged needs nothing yet. */
  const missing = computed<{ letter: string; list: NeededPolar[] }[]>(() => {
    if (!wanted.value) return [];
    const { candidates, brief } = project.edited;
    const order = [...workbench.visible].sort(
      (a, b) => Number(b.id === workbench.active?.id) - Number(a.id === workbench.active?.id),
    );
    const seen = new Set<string>();
    // Those of the design speed come first: the figures of all candidates stand on them.
    return ([false, true] as const).flatMap((stall) =>
      order.flatMap(({ id }) => {
        const c = candidates[id];
        if (!c || c.surfaces.length === 0 || c.massItems.length === 0) return [];
        const speeds = speedsOfPolars(brief, c);
        const list = polars
          .needed(c, stall ? speeds.stall : [speeds.design])
          .filter((n) => !polars.isThere(n) && !seen.has(n.sweep.key) && seen.add(n.sweep.key));
        return list.length ? [{ letter: c.letter, list }] : [];
      }),
    );
  });
  const keys = computed(() => missing.value.flatMap((m) => m.list.map((n) => n.sweep.key)));
  const own = computed(() => runs.runs.filter((r) => isAutomatic(r) && r.state !== 'cancelled'));
  const going = computed(() => own.value.filter((r) => r.state === 'running'));
  const paused = computed(() => own.value.filter((r) => r.state === 'paused'));

  // A polar that came out with too few points is not begun for ever.
  const tried = new Set<string>();
  /** Runs that this page began: those of others are waited for, they may be the same. */
  const mine = ref<ReadonlySet<string>>(new Set());
  const others = computed(() => going.value.filter((r) => !mine.value.has(r.id)));
  let busy = false;
  /** Ends what goes on; what it has not solved may be begun again. */
  async function end(): Promise<void> {
    const list = going.value.filter((r) => mine.value.has(r.id));
    if (list.length > 0) tried.clear();
    for (const r of list) await runs.change(r.id, 'cancelled');
  }
  async function begin(): Promise<void> {
    if (busy || !wanted.value || paused.value.length > 0 || others.value.length > 0) return;
    const fresh = missing.value
      .map((m) => ({ ...m, list: m.list.filter((n) => !tried.has(n.sweep.key)) }))
      .filter((m) => m.list.length > 0);
    if (fresh.length === 0) return;
    busy = true;
    // What goes on was begun for another state; what it has solved stays, and what is still needed is asked for again.
    try {
      await end();
      const before = new Set(runs.runs.map((r) => r.id));
      for (const { letter, list } of missing.value) {
        for (const n of list) tried.add(n.sweep.key);
        await polars.compute(list, `Polars that ${letter} needs`, AUTOMATIC_PRIORITY);
        const begun = runs.runs.filter((r) => isAutomatic(r) && !before.has(r.id)).map((r) => r.id);
        mine.value = new Set([...mine.value, ...begun]);
      }
    } finally {
      busy = false;
    }
  }
  watch(
    () => assumed.value.computePolars && methodMeant(assumed.value.method) === 'polars',
    (on) => {
      if (!on) void end();
    },
  );
  let timer: ReturnType<typeof setTimeout> | undefined;
  watch(
    () => [wanted.value, paused.value.length, others.value.length, ...keys.value].join(),
    () => {
      clearTimeout(timer);
      if (keys.value.length > 0) timer = setTimeout(() => void begin(), REST);
    },
    { immediate: true },
  );
  watch(
    () => project.id,
    () => tried.clear(),
  );

  /** How far they have come; null while none is computed. */
  const progress = computed(() => {
    const list = going.value;
    if (list.length === 0) return null;
    const of = list.reduce((n, r) => n + r.points, 0);
    const done = list.reduce((n, r) => n + r.known + r.solved + r.doubtful + r.unsolved, 0);
    return { done, of };
  });
  const pause = async () => {
    for (const r of going.value) await runs.change(r.id, 'paused');
  };
  const resume = async () => {
    for (const r of paused.value) await runs.change(r.id, 'running');
  };
  return { missing, progress, paused, pause, resume };
});
