import { randomUUID } from 'node:crypto';
import { Queue, QueueEvents } from 'bullmq';
import { Redis } from 'ioredis';
import type { TaskStep } from '@veldtwind/store/runs';
import type { Backend, BackendListener, RunningTask, TaskEnd } from '../backend';
import type { SweepJob } from '../task';
import { within } from '../within';
import { endOf, pack, QUEUE, stepOf, stopKey, threadsOf, type QueuedSweep } from './wire';

/** How often the workers are counted, and tasks that are gone looked for, ms. */
const LOOK = 2000;
/** A task that is seen to be gone so often is gone: its end may still be on its way before. */
const GONE_AFTER = 3;
/** Messages that the stream keeps for a server that is busy. */
const MOST_EVENTS = 50_000;
/** Tasks handed out for each thread of a worker, so that none waits for the next. */
const AHEAD = 2;
const STOP_KEPT = 3600;
/** Longest that closing waits for Redis, ms. */
const CLOSE = 2000;

/** Whether an error says that Redis cannot be reached; another one is its answer. */
const isAway = (error: Error): boolean =>
  /ECONN|ENOTFOUND|EAI_AGAIN|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|ENOENT|connection is closed|connection lost|max retries/i.test(
    `${(error as NodeJS.ErrnoException).code ?? ''} ${error.message}`,
  );

interface Under {
  next: number;
  onStep: (step: TaskStep) => void;
  resolve: (end: TaskEnd) => void;
  gone: number;
  queued: boolean;
}

/** Solves tasks by workers on any number of machines, through a queue on Redis. */
export class QueueBackend implements Backend {
  private readonly redis: Redis;
  private readonly queue: Queue<QueuedSweep, TaskEnd>;
  private events?: QueueEvents;
  private readonly under = new Map<string, Under>();
  private readonly looking: NodeJS.Timeout;
  private readonly ready: Promise<void>;
  private listener: BackendListener = {};
  private threads = 0;
  private workers = 0;
  private away: string | null = null;
  /** What Redis answered to a command that it would not do: its memory is full, it only reads. */ private refused:
    string | null = null;
  private closed = false;

  /** @param url address of Redis. @param owner tells this server's tasks from those of others on the same Redis, over restarts. */
  constructor(
    url: string,
    private readonly owner: string,
  ) {
    this.redis = new Redis(url, { maxRetriesPerRequest: null, retryStrategy: (n) => Math.min(2000, 100 * n) });
    this.queue = new Queue(QUEUE, { connection: this.redis, streams: { events: { maxLen: MOST_EVENTS } } });
    this.redis.on('error', (error) => this.lost(error));
    this.queue.on('error', (error) => this.lost(error));
    this.redis.on('ready', () => this.found());
    this.looking = setInterval(() => void this.look(), LOOK).unref();
    this.ready = this.begin();
  }

  watch(listener: BackendListener): void {
    this.listener = listener;
  }

  get capacity(): number {
    // What would come back at once is not given out.
    if (this.away !== null || this.refused !== null) return 0;
    return AHEAD * Math.max(1, this.threads);
  }

  get notice(): string | null {
    if (this.away !== null) return `Redis is not reachable (${this.away}). Runs go on when it is back.`;
    if (this.refused !== null) return `Redis refuses (${this.refused}). Runs go on when it takes commands again.`;
    return this.workers === 0 ? 'No worker is connected: start one with npm run worker.' : null;
  }

  /** Workers that are connected. */
  get connected(): number {
    return this.workers;
  }

  private async begin(): Promise<void> {
    // From now on, by the clock of Redis: what comes before the first reading is not missed.
    const [seconds, micro] = await this.redis.time();
    const now = Number(seconds) * 1000 + Math.floor(Number(micro) / 1000);
    const events = new QueueEvents(QUEUE, { connection: this.redis, lastEventId: `${now}-0` });
    events.on('error', (error) => this.lost(error));
    events.on('progress', ({ jobId, data }) => this.step(jobId, data));
    events.on('completed', ({ jobId, returnvalue }) => this.completed(jobId, returnvalue));
    events.on('failed', ({ jobId, failedReason }) => this.end(jobId, { how: 'lost', message: failedReason }));
    this.events = events;
    await events.waitUntilReady();
    // What this server gave out before it ended is given out anew, with what it has kept.
    const old = await this.queue.getJobs(['waiting', 'prioritized', 'delayed', 'active']);
    for (const job of old) if (job?.data.owner === this.owner && !this.under.has(job.id!)) await this.withdraw(job.id!);
    await this.look();
  }

  /** Takes an error in: Redis is away, or has answered that it does not do what it is asked; either way nothing is given out until it does. */
  private lost(error: Error): void {
    if (this.closed) return;
    if (isAway(error)) {
      if (this.away !== null) return;
      this.away = (error as NodeJS.ErrnoException).code ?? (error.message || 'no connection');
    } else {
      const answer = error.message.slice(0, 120);
      if (this.refused === answer) return;
      this.refused = answer;
    }
    this.listener.trouble?.(this.notice!);
    this.listener.ready?.();
  }

  private found(): void {
    if (this.away === null) return;
    this.away = null;
    this.listener.trouble?.('Redis is reachable again; runs go on.');
    void this.look();
  }

  /** Asks Redis whether it takes commands that write, where it did not. */
  private async probe(): Promise<void> {
    if (this.refused === null) return;
    await this.redis.set(stopKey('probe'), '1', 'EX', 5);
    this.refused = null;
    this.listener.trouble?.('Redis takes commands again; runs go on.');
    this.listener.ready?.();
  }

  /** Counts the workers, and looks for tasks that Redis has forgotten. */
  private async look(): Promise<void> {
    if (this.closed || this.away !== null) return;
    try {
      const before = this.notice;
      await this.probe();
      const names = (await this.queue.getWorkers()).map((w) => /:w:(.*)$/.exec(w.rawname ?? w.name ?? '')?.[1] ?? '');
      this.workers = names.length;
      this.threads = names.reduce((n, name) => n + threadsOf(name), 0);
      for (const [id, task] of this.under) {
        if (!task.queued) continue;
        task.gone = (await this.queue.getJob(id)) ? 0 : task.gone + 1;
        if (task.gone >= GONE_AFTER) {
          this.listener.trouble?.('Redis has lost a task; it is given out again.');
          this.end(id, { how: 'stopped' });
        }
      }
      if (before !== this.notice || this.under.size < this.capacity) this.listener.ready?.();
    } catch (error) {
      this.lost(error as Error);
    }
  }

  run(job: SweepJob, onStep: (step: TaskStep) => void): RunningTask {
    const id = `${this.owner}-${job.id}-${randomUUID().slice(0, 8)}`;
    const ended = new Promise<TaskEnd>((resolve) => {
      this.under.set(id, { next: job.past.length, onStep, resolve, gone: 0, queued: false });
    });
    void this.ready
      .then(async () => {
        if (!this.under.has(id)) return;
        await this.queue.add(
          'sweep',
          { owner: this.owner, text: pack(job) },
          { jobId: id, attempts: 1, removeOnComplete: true, removeOnFail: true },
        );
        const task = this.under.get(id);
        if (task) task.queued = true;
        else await this.withdraw(id);
      })
      .catch((error: Error) => {
        this.lost(error);
        this.end(id, { how: 'stopped' });
      });
    return { ended, stop: () => this.stop(id) };
  }

  private step(id: string, data: unknown): void {
    const task = this.under.get(id);
    if (!task) return;
    const told = stepOf(data);
    if (!told) return this.nonsense(id, 'a step');
    // A step that is missing would make the ones behind it mean something else: the task is given out again from where it stands.
    if (told.seq !== task.next) {
      void this.withdraw(id).catch(() => undefined);
      return this.end(id, { how: 'stopped' });
    }
    task.next++;
    task.onStep(told.step);
  }

  private completed(id: string, returned: unknown): void {
    if (!this.under.has(id)) return;
    const end = endOf(returned);
    if (end) this.end(id, end);
    else this.nonsense(id, 'an end');
  }

  /** A worker says what means nothing: the task is given out again, and given up with this reason in the end. */
  private nonsense(id: string, what: string): void {
    void this.withdraw(id).catch(() => undefined);
    this.end(id, { how: 'lost', message: `A worker sent ${what} that is none.` });
  }

  private end(id: string, end: TaskEnd): void {
    const task = this.under.get(id);
    this.under.delete(id);
    task?.resolve(end);
  }

  private stop(id: string): void {
    if (!this.under.has(id)) return;
    this.end(id, { how: 'stopped' });
    void this.withdraw(id).catch(() => undefined);
  }

  /** Takes a task back: out of the queue, or from the worker that has it. */
  private async withdraw(id: string): Promise<void> {
    if (this.away !== null) return;
    await this.redis.set(stopKey(id), '1', 'EX', STOP_KEPT);
    const job = await this.queue.getJob(id);
    // One that is being solved cannot be taken out; its worker sees that it is not wanted.
    await job?.remove().catch(() => undefined);
  }

  async close(): Promise<void> {
    clearInterval(this.looking);
    const mine = [...this.under.keys()];
    for (const id of mine) this.end(id, { how: 'stopped' });
    const settled = Promise.all(mine.map((id) => this.withdraw(id).catch(() => undefined)));
    await within(1000, settled);
    this.closed = true;
    // Redis may have died: neither says goodbye then.
    await within(CLOSE, Promise.allSettled([this.events?.close(), this.queue.close()]));
    this.redis.disconnect();
  }
}
