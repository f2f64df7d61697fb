import type { MessagePort } from 'node:worker_threads';
import { Cancelled } from '@veldtwind/core/analysis';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { TaskEnd } from './backend';
import { stepBack } from './step-back';
import { solveTask, type SweepJob } from './task';

/** A task for a thread, the port that its steps go through, and a flag that is raised to end it. */
export interface ThreadJob {
  job: SweepJob;
  port: MessagePort;
  flag: SharedArrayBuffer;
}

stepBack();

/** Solves a task in a thread. The end comes through the port as well, behind the last step. */
export default function run({ job, port, flag }: ThreadJob): void {
  const stopped = new Int32Array(flag);
  let end: TaskEnd = { how: 'done' };
  try {
    solveTask(
      job,
      (step) => port.postMessage({ step }),
      () => Atomics.load(stopped, 0) !== 0,
    );
  } catch (error) {
    if (error instanceof Cancelled) end = { how: 'stopped' };
    else if (error instanceof VeldtwindError) end = { how: 'failed', message: error.message };
    else throw error;
  }
  port.postMessage({ end });
  port.close();
}
