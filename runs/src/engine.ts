import type { RunPlan } from '@veldtwind/core/polar';
import type { RunRow, RunState, RunStore, RunTask, TaskStep } from '@veldtwind/store/runs';
import type { Backend, RunningTask, TaskEnd } from './backend';
import { within } from './within';

/** How often tasks that nobody solves are looked for, and what waits is given out again, ms. */
const LOOK = 5000;
/** Least time between two words about how far a run has come, ms. */
const TELL = 200;
/** Longest that closing waits for what is being solved, ms. */
const CLOSE = 4000;
/** Attempts at a task whose thread or worker is lost, before it is given up. */
const MOST_ATTEMPTS = 3;

/** What the engine tells. */
export interface EngineListener {
  /** A run changed: its state, or how far it has come. */
  changed?: (run: RunRow) => void;
  /** Points of a task were kept. */
  kept?: (task: RunTask, steps: readonly TaskStep[]) => void;
  /** The notice may have changed. */
  notice?: () => void;
  /** Something that an operator should know. */
  trouble?: (message: string, error?: unknown) => void;
}

/**
 * Hands the tasks of all runs to whoever solves them, keeps what comes of them point by point, and goes on where it was broken off.
 * The store alone knows what is to be done; the engine can be ended at any moment.
 */
export class RunEngine {
  private readonly under = new Map<number, { task: RunTask; running: RunningTask }>();
  private readonly telling = new Map<string, NodeJS.Timeout>();
  private looking?: NodeJS.Timeout;
  private closed = false;

  constructor(
    private readonly store: RunStore,
    private readonly backend: Backend,
    private readonly listener: EngineListener = {},
    /** ms; for tests. */ private readonly every = LOOK,
  ) {
    backend.watch?.({
      ready: () => {
        this.pump();
        this.listener.notice?.();
      },
      trouble: (message) => this.listener.trouble?.(message),
    });
  }

  /** Why nothing goes on at the moment; null when all is well. */
  get notice(): string | null {
    return this.backend.notice ?? null;
  }

  /** Takes up what was left when the process before ended. */
  start(): void {
    this.quietly(() => this.store.recover());
    this.pump();
    this.looking ??= setInterval(() => this.look(), this.every).unref();
  }

  /** Takes back tasks that the store has as running and that nobody solves: it could not be told while its disk was full. */
  private look(): void {
    let back = 0;
    this.quietly(() => (back = this.store.takeBack([...this.under.keys()])));
    if (back > 0)
      this.listener.trouble?.(
        `${back} ${back === 1 ? 'task that nobody solved goes' : 'tasks that nobody solved go'} back.`,
      );
    this.pump();
  }

  /** Plans a run and begins it. */
  submit(projectId: string | null, name: string, plan: RunPlan, priority = 0): RunRow {
    const run = this.store.create(projectId, name, plan, priority);
    this.pump();
    return run;
  }

  /** The same for plans of any size: in slices, so that the loop goes on meanwhile. */
  async submitInSlices(projectId: string | null, name: string, plan: RunPlan, priority = 0): Promise<RunRow> {
    const run = await this.store.createInSlices(projectId, name, plan, priority);
    this.pump();
    return this.store.run(run.id) ?? run;
  }

  /** Begins a run over the unsolved stretches of curves. @returns nothing where there is nothing to try. */
  closeIn(projectId: string | null, only?: readonly number[]): RunRow | undefined {
    const run = this.store.closeIn(projectId, only);
    this.pump();
    return run;
  }

  /** Lets a run go on, rest, or end. What is being solved is stopped, and taken up again where it was. */
  setState(id: string, state: Exclude<RunState, 'finished'>): void {
    this.store.setState(id, state);
    if (state !== 'running') this.stopTasks(id);
    this.tell(id);
    this.pump();
  }

  setPriority(id: string, priority: number): void {
    this.store.setPriority(id, priority);
    this.tell(id);
  }

  /** Removes a run with what only it asked for. */
  async remove(id: string): Promise<void> {
    if (this.store.run(id)?.state === 'running') this.store.setState(id, 'cancelled');
    const mine = [...this.under.values()].filter(({ task }) => task.runId === id);
    this.stopTasks(id);
    await Promise.all(mine.map(({ running }) => running.ended));
    this.store.remove(id);
  }

  /** Whether anything is being solved. */
  get busy(): boolean {
    return this.under.size > 0;
  }

  private stopTasks(runId: string): void {
    for (const { task, running } of this.under.values()) if (task.runId === runId) running.stop();
  }

  private tell(id: string): void {
    const run = this.store.run(id);
    if (run) this.listener.changed?.(run);
  }

  /** The same soon: how far a run has come is a sum over all of its tasks. */
  private tellSoon(id: string): void {
    if (this.telling.has(id)) return;
    const timer = setTimeout(() => {
      this.telling.delete(id);
      if (!this.closed) this.quietly(() => this.tell(id));
    }, TELL).unref();
    this.telling.set(id, timer);
  }

  private pump(): void {
    while (!this.closed && this.under.size < this.backend.capacity) {
      let task: RunTask | undefined;
      this.quietly(() => (task = this.store.take()));
      if (!task) return;
      this.begin(task);
    }
  }

  private begin(task: RunTask): void {
    let lost: TaskEnd | undefined;
    const running = this.backend.run(task, (step) => {
      if (lost || this.closed) return;
      try {
        this.store.keep(task, [step]);
        this.listener.kept?.(task, [step]);
        this.tellSoon(task.runId);
      } catch (error) {
        // What cannot be kept is not worth solving: the run rests until someone has made room.
        lost = { how: 'stopped' };
        this.listener.trouble?.(`Points cannot be kept: ${(error as Error).message}. The run rests.`, error);
        running.stop();
        this.quietly(() => this.store.setState(task.runId, 'paused'));
      }
    });
    this.under.set(task.id, { task, running });
    void running.ended.then((end) => {
      this.under.delete(task.id);
      if (this.closed) return this.quietly(() => this.store.release(task.id));
      this.quietly(() => this.conclude(task, lost ?? end));
      this.quietly(() => this.tell(task.runId));
      this.pump();
    });
  }

  private quietly(work: () => void): void {
    try {
      work();
    } catch (error) {
      this.listener.trouble?.(`The store of runs fails: ${(error as Error).message}.`, error);
    }
  }

  private conclude(task: RunTask, end: TaskEnd): void {
    if (end.how === 'done') this.store.finish(task.id);
    else if (end.how === 'failed') this.store.finish(task.id, end.message);
    else if (end.how === 'lost' && task.attempts >= MOST_ATTEMPTS)
      this.store.finish(task.id, `Given up after ${task.attempts} attempts: ${end.message}`);
    else {
      if (end.how === 'lost') this.listener.trouble?.(`A worker was lost (${end.message}); its task goes back.`);
      this.store.release(task.id, end.how === 'lost');
    }
  }

  /** Resolves when nothing is left to do. */
  async idle(): Promise<void> {
    for (;;) {
      if (this.under.size > 0) await Promise.race([...this.under.values()].map(({ running }) => running.ended));
      // What nobody takes at the moment is left to do all the same.
      else if (!this.closed && this.backend.capacity === 0 && this.store.waits())
        await new Promise((done) => setTimeout(done, TELL));
      else return;
    }
  }

  /** Ends within some seconds; tasks under way are taken up again by the next engine. */
  async close(): Promise<void> {
    this.closed = true;
    clearInterval(this.looking);
    for (const timer of this.telling.values()) clearTimeout(timer);
    for (const { running } of this.under.values()) running.stop();
    await within(CLOSE, Promise.all([...this.under.values()].map(({ running }) => running.ended)));
    await within(CLOSE, this.backend.close());
  }
}
