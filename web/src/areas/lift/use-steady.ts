import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { InputOf, OutputOf } from '@veldtwind/core/analysis';
import { inputsOfSteady, inputsOfThick } from '@veldtwind/core/candidate';
import type { SteadySweep } from '@veldtwind/core/flight';
import { useLiveEach } from '@/lib/live-each';
import type { CandidatePart } from '@/lib/types';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { sameInput } from '@/lib/same-input';
import { GivenUp, lanes } from '@/worker/lane';
import { useNeededPolars, type NeededPolar } from '@/store/needed-polars';

export type SteadyAnswer = OutputOf<'steady'>;

/**
 * Steady states of the candidates that are looked at, with the polars that are there.
 * @param sweepOf what is swept for a candidate; null where nobody looks. @param speedsOf speeds that its polars are for.
 */
export function useSteady(
  /** What is looked at, whether the document has it or it is only laid beside. */
  looked: () => readonly CandidatePart[],
  sweepOf: (candidate: CandidatePart) => SteadySweep | null,
  speedsOf: (candidate: CandidatePart) => number[],
  /** Further deflections of controls that polars are for, rad by id. */
  alsoOf: (candidate: CandidatePart) => Record<string, number>[] = () => [],
  /** Whether its bodies lift. */
  bodiesLift: (candidateId: string) => boolean = () => true,
  /** Further speeds that stall and glide in trim read polars of. */
  trimmedSpeedsOf: (candidate: CandidatePart) => number[] = () => [],
) {
  const project = useProject();
  const polars = useNeededPolars();
  const needsAt = (speeds: (c: CandidatePart) => number[]) =>
    new Map(looked().map((c) => [c.id, polars.needed(c, speeds(c), alsoOf(c))] as [string, NeededPolar[]]));
  const sweepNeeds = computed(() => needsAt(speedsOf));
  const needs = computed(() => needsAt((c) => [...speedsOf(c), ...trimmedSpeedsOf(c)]));
  // Polars of some strips and the lattice of others would be two methods in one number.
  const answerable = (list: readonly NeededPolar[]) => list.length > 0 && list.every(polars.isThere);
  const inputOf = (id: string) => {
    const candidate = looked().find((c) => c.id === id);
    const list = sweepNeeds.value.get(id) ?? [];
    const sweep = candidate ? sweepOf(candidate) : null;
    if (!candidate || !sweep || !answerable(list)) return null;
    const document = { ...project.document, candidates: { [id]: candidate } };
    return inputsOfSteady(document, id, sweep, polars.ready(list), bodiesLift(id));
  };
  const answers = useLiveEach(() => looked().map((c) => c.id), lanes.aircraft, 'steady', inputOf);
  const of = (id: string): SteadyAnswer | null =>
    answerable(sweepNeeds.value.get(id) ?? []) ? (answers.of(id)?.value.value ?? null) : null;
  const failureOf = (id: string) => answers.of(id)?.failure.value ?? null;
  const waiting = computed(() => answers.all().some((a) => a.waiting.value));
  const missing = (id: string) => (needs.value.get(id) ?? []).filter((n) => !polars.isThere(n));
  return { of, failureOf, waiting, needs, missing, polars };
}

/** Wait until values have come to rest before work of seconds begins, ms. */
const REST = 500;

/** The flow about the closed surfaces of the candidate that is worked on, over a few angles; computed while somebody looks, and given up when its input changes. */
export function useThick(angles: () => number[], wanted: () => boolean) {
  const project = useProject();
  const workbench = useWorkbench();
  const value = shallowRef<OutputOf<'thick'> | null>(null);
  const failure = ref<string | null>(null);
  const progress = ref<number | null>(null);
  const made = ref(0);
  const input = computed<InputOf<'thick'> | null>(() => {
    const active = workbench.active;
    if (!wanted() || !active || active.surfaces.length === 0) return null;
    try {
      return inputsOfThick(project.document, active.id, angles());
    } catch {
      return null;
    }
  });
  let last: { input: InputOf<'thick'>; key: number } | null = null;
  const key = computed(() => {
    const given = input.value;
    if (!given) return null;
    if (!last || !sameInput(last.input, given)) last = { input: given, key: (last?.key ?? 0) + 1 };
    return last.key;
  });
  let running = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  async function compute(given: InputOf<'thick'>, of: number): Promise<void> {
    if (running) lanes.skins.restart('thick');
    running = true;
    progress.value = 0;
    failure.value = null;
    try {
      const output = await lanes.skins.run('thick', given, ({ done, of: all }) => (progress.value = done / all));
      value.value = output;
      made.value = of;
    } catch (error) {
      if (error instanceof GivenUp) return;
      value.value = null;
      made.value = of;
      failure.value = (error as Error).message;
    }
    running = false;
    progress.value = null;
  }
  watch(
    key,
    (of) => {
      clearTimeout(timer);
      if (of === null || of === made.value) return;
      timer = setTimeout(() => void compute(input.value!, of), value.value ? REST : 0);
    },
    { immediate: true },
  );
  function cancel(): void {
    clearTimeout(timer);
    if (running) lanes.skins.restart('thick');
    running = false;
    progress.value = null;
  }
  onScopeDispose(cancel);
  const stale = computed(() => value.value !== null && key.value !== made.value);
  return { value, failure, progress, stale, cancel };
}
