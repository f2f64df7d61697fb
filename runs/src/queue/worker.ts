import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { Worker, type Job } from 'bullmq';
import { Redis } from 'ioredis';
import type { TaskEnd } from '../backend';
import type { SweepJob } from '../task';
import { ThreadBackend } from '../threads';
import { within } from '../within';
import { QUEUE, pack, stopKey, unpack, workerName, type QueuedSweep } from './wire';

/** A worker that has not been heard of for so long is taken for dead, ms. */
const DEAD_AFTER = 15_000;
const LOOK_FOR_DEAD = 5000;
/** How often a worker asks whether its task is still wanted, ms. */
const ASK = 300;

/** Longest that closing waits for each part, ms. */
const CLOSE = 4000;

export interface QueueWorker {
  /** Gives back what it is solving, and ends. */
  close(): Promise<void>;
}

/**
 * Takes tasks from the queue and solves them in threads of this process, each step told as it is ready.
 * @param url address of Redis. @param say told what an operator should know.
 */
export function startWorker(url: string, threads: number, say: (message: string) => void): QueueWorker {
  const redis = new Redis(url, { maxRetriesPerRequest: null });
  const pool = new ThreadBackend(threads);
  const under = new Set<() => void>();
  let away = false;

  async function solve(job: Job<QueuedSweep, TaskEnd>): Promise<TaskEnd> {
    const task = unpack<SweepJob>(job.data.text);
    let told: Promise<unknown> = Promise.resolve();
    const running = pool.run(task, (step) => {
      told = told.then(() => job.updateProgress({ seq: step.seq, text: pack(step) }));
      // Whoever cannot be told needs no more.
      told.catch(() => running.stop());
    });
    const stop = () => running.stop();
    under.add(stop);
    const asking = setInterval(() => {
      redis.exists(stopKey(job.id!)).then(
        (there) => there && running.stop(),
        () => undefined,
      );
    }, ASK);
    try {
      const end = await running.ended;
      await told;
      return end;
    } finally {
      clearInterval(asking);
      under.delete(stop);
    }
  }

  const worker = new Worker<QueuedSweep, TaskEnd>(QUEUE, solve, {
    connection: redis,
    concurrency: threads,
    name: workerName(threads, `${hostname().replace(/\W/g, '_')}-${randomUUID().slice(0, 8)}`),
    lockDuration: DEAD_AFTER,
    stalledInterval: LOOK_FOR_DEAD,
    // A dead worker's task goes back to the server, which knows what of it is solved.
    maxStalledCount: 0,
  });
  const lost = (error: Error) => {
    if (
      away ||
      !/connect|closed|ECONN|ENOTFOUND|EAI_AGAIN/i.test(`${error.message} ${(error as NodeJS.ErrnoException).code}`)
    )
      return;
    away = true;
    say(
      `Redis is not reachable (${(error as NodeJS.ErrnoException).code ?? error.message}); this worker goes on when it is back.`,
    );
  };
  redis.on('error', lost);
  worker.on('error', lost);
  redis.on('ready', () => {
    if (away) say('Redis is reachable again.');
    away = false;
  });
  worker.on('active', (job) => say(`takes ${job.id}`));
  return {
    close: async () => {
      for (const stop of under) stop();
      // Redis may have died, and a thread may not hear: each has some seconds.
      await within(CLOSE, worker.close(away));
      await within(CLOSE, pool.close());
      redis.disconnect();
    },
  };
}
