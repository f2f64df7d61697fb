import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { TaskStep } from '@veldtwind/store/runs';
import type { Backend, RunningTask, TaskEnd } from './backend';
import type { ThreadJob } from './sweep-worker';
import type { SweepJob } from './task';

/** Solves tasks in threads of this process. They start with the first task, and end when there is nothing to do. */
export class ThreadBackend implements Backend {
  private pool?: Piscina;

  /** @param capacity threads beside each other. */
  constructor(readonly capacity = Math.max(1, availableParallelism())) {}

  private threads(): Piscina {
    const filename = workerFile();
    this.pool ??= new Piscina({
      filename,
      minThreads: 1,
      maxThreads: this.capacity,
      idleTimeout: 30_000,
      // Threads read the same TypeScript as this process, where it is not made into one file.
      execArgv: filename.endsWith('.ts') ? ['--import', 'tsx'] : [],
    });
    return this.pool;
  }

  run(job: SweepJob, onStep: (step: TaskStep) => void): RunningTask {
    const flag = new SharedArrayBuffer(4);
    const { port1, port2 } = new MessageChannel();
    const told = new Promise<TaskEnd>((resolve) => {
      port1.on('message', (message: { step?: TaskStep; end?: TaskEnd }) => {
        if (message.step) onStep(message.step);
        if (message.end) resolve(message.end);
      });
    });
    const given: ThreadJob = { job, port: port2, flag };
    const ended = this.threads()
      .run(given, { transferList: [port2] as never })
      .then(() => told)
      .catch((error: Error): TaskEnd => ({ how: 'lost', message: error.message }))
      .finally(() => port1.close());
    return { ended, stop: () => void Atomics.store(new Int32Array(flag), 0, 1) };
  }

  async close(): Promise<void> {
    await this.pool?.destroy();
    this.pool = undefined;
  }
}

/** Where the thread's code lies: beside this one, made into one file or as it is; tests load modules in the older form, which has no address, and say where. */
function workerFile(): string {
  if (typeof __dirname === 'string') return join(process.env.VELDTWIND_MADE!, 'sweep-worker.mjs');
  const made = fileURLToPath(new URL('./sweep-worker.mjs', import.meta.url));
  return existsSync(made) ? made : fileURLToPath(new URL('./sweep-worker.ts', import.meta.url));
}
