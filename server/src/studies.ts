import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { StudyRow, StudyStore } from '@veldtwind/store/studies';
import { workerFile } from './compute/pool';
import type { StudyMessage, StudyTask } from './compute/study-worker';
import type { EventHub } from './http/events';

/** Memory of a study's thread, MB. */
const MOST_MEMORY = 1024;
/** A study whose thread ends by itself so often without a try between is given up. */
const MOST_FALLS = 3;

/** Makes studies in threads of their own, all cores but one at a time, oldest first. Every try is written before it is told; what ends a study costs at most the tries of a fifth of a second. */
export class StudyRunner {
  private readonly working = new Map<string, Worker>();
  private readonly falls = new Map<string, number>();
  private closed = false;

  constructor(
    private readonly store: StudyStore,
    private readonly events: Pick<EventHub, 'send'>,
    private readonly log: Pick<Logger, 'error'>,
    private readonly places = Math.max(1, availableParallelism() - 1),
  ) {}

  /** Takes up what is to be made. */
  next(): void {
    if (this.closed) return;
    for (const id of this.store.running()) {
      if (this.working.size >= this.places) return;
      if (!this.working.has(id)) this.begin(id);
    }
  }

  private begin(id: string): void {
    const input = this.store.input(id);
    if (input === undefined) return;
    const filename = workerFile('study-worker');
    const worker = new Worker(filename, {
      workerData: { input, known: this.store.tries(id) } satisfies StudyTask,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY },
      execArgv: filename.endsWith('.ts') ? ['--import', 'tsx'] : [],
    });
    this.working.set(id, worker);
    let over = false;
    worker.on('message', (message: StudyMessage) => {
      if (this.working.get(id) !== worker || this.closed) return;
      try {
        over = this.take(id, message) || over;
      } catch (error) {
        // A full disk, perhaps: what cannot be written is not told, and the study rests until it is let go on.
        this.log.error({ err: error, study: id }, 'a study could not be written');
        over = true;
        this.halt(id);
        this.fail(id, 'The server could not write its tries. Make room, and let it go on.');
      }
    });
    worker.on('error', (error) => this.log.error({ err: error, study: id }, 'the thread of a study ended'));
    worker.on('exit', () => {
      if (this.working.get(id) === worker) this.working.delete(id);
      if (this.closed) return;
      const row = this.store.row(id);
      if (!over && row?.state === 'running') this.fell(id);
      this.next();
    });
  }

  /** @returns whether the study is over. */
  private take(id: string, message: StudyMessage): boolean {
    if (message.is === 'further') {
      if (message.tries.length > 0) this.falls.delete(id);
      this.store.further(id, message.tries, message);
    } else if (message.is === 'finished') this.store.finish(id, message.result);
    else this.store.setState(id, 'failed', message.why);
    this.tell(id);
    return message.is !== 'further';
  }

  /** A thread that ended without a word: again, unless it does so always. */
  private fell(id: string): void {
    const falls = (this.falls.get(id) ?? 0) + 1;
    this.falls.set(id, falls);
    if (falls < MOST_FALLS) return;
    this.falls.delete(id);
    this.fail(id, `Its thread ended ${MOST_FALLS} times: it may want more than ${MOST_MEMORY} MB.`);
  }
  private fail(id: string, why: string): void {
    try {
      this.store.setState(id, 'failed', why);
      this.tell(id);
    } catch (error) {
      this.log.error({ err: error, study: id }, 'a study could not be written');
    }
  }

  private tell(id: string): void {
    const row = this.store.row(id);
    if (row) this.events.send(row.projectId, 'studies', { study: row });
  }

  private halt(id: string): void {
    const worker = this.working.get(id);
    this.working.delete(id);
    void worker?.terminate();
  }

  /** Lets a study go on, or rest. */
  setState(id: string, state: 'running' | 'paused'): StudyRow {
    this.store.setState(id, state);
    if (state === 'paused') this.halt(id);
    this.tell(id);
    this.next();
    return this.store.row(id)!;
  }

  remove(id: string): void {
    this.halt(id);
    this.store.remove(id);
    this.next();
  }

  async close(): Promise<void> {
    this.closed = true;
    await Promise.all([...this.working.values()].map((w) => w.terminate()));
    this.working.clear();
  }
}
