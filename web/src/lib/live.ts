import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue';
import type { AnalysisKind, InputOf, OutputOf, Progress } from '@veldtwind/core/analysis';
import { GivenUp, type Lane } from '@/worker/lane';
import { isDragging } from './dragging';
import { sameInput } from './same-input';

/** Why there is no answer. */
export interface Failure {
  message: string;
  hint?: string;
  path?: string;
}

/** An answer that follows its input: the newest that came, whether a newer one is on its way, and why there is none. */
export interface LiveAnswer<K extends AnalysisKind> {
  value: ShallowRef<OutputOf<K> | null>;
  /** True while what is shown was made from another input than there is now. */
  stale: ComputedRef<boolean>;
  waiting: Ref<boolean>;
  failure: ShallowRef<Failure | null>;
  /** Of work of seconds: the share that is done; null while nothing is under way. */
  progress: Ref<number | null>;
  /** Milliseconds that the last answer took in its worker. */
  ms: Ref<number>;
}

/**
 * Runs the newest request only: while one is under way, later ones replace each other and the last is run when it ends.
 * @param work computes an answer. @param done takes an answer; called only for requests that were run.
 */
export function latestOnly<A extends unknown[], R>(
  work: (...args: A) => Promise<R>,
  done: (result: R, ...args: A) => void,
  failed: (error: unknown, ...args: A) => void = () => undefined,
) {
  let running = false;
  let waiting: A | null = null;
  const run = async (args: A): Promise<void> => {
    running = true;
    try {
      done(await work(...args), ...args);
    } catch (error) {
      failed(error, ...args);
    }
    running = false;
    if (waiting) {
      const next = waiting;
      waiting = null;
      void run(next);
    }
  };
  return (...args: A): void => {
    if (running) waiting = args;
    else void run(args);
  };
}

/** What was thrown, as it is shown. */
export function failureOf(error: unknown): Failure {
  const { message, hint, path } = error as Failure;
  return { message, hint, path };
}

/** An answer that is shown for so long is worth keeping, ms. */
const RESTS = 1000;

/**
 * Asks a worker whenever an input changes, keeps the newest answer, and drops those that came too late.
 * @param input the analysis' input; null while there is nothing to ask, or nobody looks. What throws is shown as the failure.
 */
export function useLive<K extends AnalysisKind>(
  lane: Lane,
  kind: K,
  input: () => InputOf<K> | null,
  /** Ends what is under way when a newer input comes: for work of seconds. */ supersedes = false,
): LiveAnswer<K> {
  const value = shallowRef<OutputOf<K> | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const waiting = ref(false);
  const ms = ref(0);
  const made = ref(0);
  const progress = ref<number | null>(null);
  // Equal inputs have one number: nothing is made a text of on the interface's thread.
  let last: { input: InputOf<K>; key: number } | null = null;
  const asked = computed<{ input: InputOf<K>; key: number } | null>(() => {
    try {
      const given = input();
      if (!given) return null;
      if (!last || !sameInput(last.input, given)) last = { input: given, key: (last?.key ?? 0) + 1 };
      return last;
    } catch (error) {
      failure.value = failureOf(error);
      return null;
    }
  });
  let running = 0;
  let cancel: () => void = () => undefined;
  let settling: ReturnType<typeof setTimeout> | undefined;
  const ask = latestOnly(
    (given: InputOf<K>, _key: number) => {
      const told = supersedes ? ({ done, of }: Progress) => (progress.value = of > 0 ? done / of : null) : undefined;
      const run = lane.run(kind, given, told, !isDragging());
      running = run.id;
      cancel = run.cancel;
      return run;
    },
    (output, _given, key) => {
      // What is shown and has come to rest is there when the project is opened again.
      const id = running;
      clearTimeout(settling);
      settling = setTimeout(() => asked.value?.key === key && !isDragging() && lane.keep(id), RESTS);
      progress.value = null;
      waiting.value = asked.value !== null && asked.value.key !== key;
      value.value = output;
      failure.value = null;
      made.value = key;
      ms.value = lane.lastMs;
    },
    (error, _given, key) => {
      progress.value = null;
      waiting.value = asked.value !== null && asked.value.key !== key;
      if (error instanceof GivenUp) return;
      value.value = null;
      failure.value = failureOf(error);
      made.value = key;
    },
  );
  watch(
    () => asked.value?.key,
    (key) => {
      if (key === undefined || key === made.value) return;
      if (supersedes && waiting.value) cancel();
      waiting.value = true;
      ask(asked.value!.input, key);
    },
    { immediate: true },
  );
  return {
    value: value as LiveAnswer<K>['value'],
    failure,
    waiting,
    progress,
    ms,
    stale: computed(() => asked.value !== null && asked.value.key !== made.value),
  };
}
