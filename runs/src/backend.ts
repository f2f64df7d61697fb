import type { TaskStep } from '@veldtwind/store/runs';
import type { SweepJob } from './task';

/** How a task ended: solved to its end, told to stop, wrong in itself, or lost with whoever solved it. */
export type TaskEnd =
  { how: 'done' } | { how: 'stopped' } | { how: 'failed'; message: string } | { how: 'lost'; message: string };

/** A task under way. */
export interface RunningTask {
  ended: Promise<TaskEnd>;
  stop(): void;
}

/** What whoever solves tasks has to tell. */
export interface BackendListener {
  /** It may take more than before, or its notice changed. */
  ready?(): void;
  /** Something that an operator should know. */
  trouble?(message: string): void;
}

/** Whoever solves tasks: threads of this process, or workers elsewhere. */
export interface Backend {
  /** Tasks that are taken beside each other. */
  readonly capacity: number;
  /** Why nothing goes on at the moment, in a sentence; null when all is well. */
  readonly notice?: string | null;
  watch?(listener: BackendListener): void;
  /**
   * Solves a task. @param onStep told every step, in order, before the task ends.
   */
  run(job: SweepJob, onStep: (step: TaskStep) => void): RunningTask;
  close(): Promise<void>;
}
