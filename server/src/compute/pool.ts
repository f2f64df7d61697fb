import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { AnalysisKind } from '@veldtwind/core/analysis';
import { FailedComputation, InvalidInput } from '@veldtwind/core/numerics';
import { Cancelled } from '@veldtwind/core/results';
import { HttpError } from '../http/errors';
import type { ExportedAirframe, ExportOutcome, ExportTask } from './export-worker';
import type { Outcome, Task } from './worker';

/** Computations that may wait; beyond, the server says that it is busy. */
const MOST_WAITING = 64;

/** How long a computation that is cancelled may take to hear of it, before its thread is ended, ms. */
const HEARS = 600;
/** Memory of one thread, MB: a computation that wants more is ended, and no other with it. */
const MOST_MEMORY = 1024;
/** Files that may wait to be written. */
const MOST_FILES = 16;

/** Threads that compute, so that the server's own loop never does. They start with the first computation. */
export class ComputePool {
  private pool?: Piscina;
  private writing = 0;
  private readonly files: (() => void)[] = [];

  /** @param threads beside each other. */
  constructor(private readonly threads = Math.max(1, availableParallelism())) {}

  private threadsOf(): Piscina {
    const filename = workerFile();
    this.pool ??= new Piscina({
      filename,
      minThreads: 1,
      maxThreads: this.threads,
      maxQueue: MOST_WAITING,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY },
      // One stays: to start another takes seconds.
      idleTimeout: 300_000,
      // Threads read the same TypeScript as the server, where they are not made into one file.
      execArgv: filename.endsWith('.ts') ? ['--import', 'tsx'] : [],
    });
    return this.pool;
  }

  /**
   * Runs an analysis in a thread.
   * @param input its JSON. @param signal ends it: first by its flag, then with its thread.
   * @returns the result as JSON.
   * @throws InvalidInput or FailedComputation from the analysis; HttpError 503 while too many wait.
   */
  async run(kind: AnalysisKind, input: string, signal?: AbortSignal): Promise<string> {
    const flag = new SharedArrayBuffer(4);
    const pool = this.free();
    const outcome = await this.ended<Outcome>(
      signal,
      () => Atomics.store(new Int32Array(flag), 0, 1),
      (kill) => pool.run({ kind, input, flag } satisfies Task, { signal: kill }),
    );
    if (outcome.ok) return outcome.output;
    throw thrown(outcome);
  }

  /**
   * Writes an airframe in a thread. Files are large: all threads but one write at most, so that small computations go on beside them.
   * @param candidate and @param sections their JSON. @param signal ends it with its thread.
   * @throws InvalidInput or FailedComputation from the writing; HttpError 503 while too many wait.
   */
  async exportAirframe(
    candidate: string,
    sections: string,
    ask: ExportTask['ask'],
    signal?: AbortSignal,
  ): Promise<ExportedAirframe> {
    if (this.files.length >= MOST_FILES)
      throw new HttpError(503, 'busy', 'Too many files are waiting to be written.', 'Ask again in a moment.');
    await this.turn(signal);
    try {
      const pool = this.free();
      const task: ExportTask = { candidate, sections, ask };
      const outcome = await this.ended<ExportOutcome>(
        signal,
        () => undefined,
        (kill) => pool.run(task, { filename: workerFile('export-worker'), signal: kill }),
      );
      if (outcome.ok) return outcome.file;
      throw thrown(outcome);
    } finally {
      this.writing--;
      this.files.shift()?.();
    }
  }

  /** Waits for the turn of a file. @throws Cancelled when it is ended meanwhile. */
  private async turn(signal?: AbortSignal): Promise<void> {
    while (this.writing >= Math.max(1, this.threads - 1)) {
      await new Promise<void>((go) => {
        this.files.push(go);
        const leave = () => {
          const at = this.files.indexOf(go);
          if (at >= 0) this.files.splice(at, 1);
          go();
        };
        signal?.addEventListener('abort', leave, { once: true });
      });
      if (signal?.aborted) throw new Cancelled();
    }
    this.writing++;
  }

  /** The pool, where something may be given to it. @throws HttpError 503 */
  private free(): Piscina {
    const pool = this.threadsOf();
    if (pool.queueSize >= MOST_WAITING)
      throw new HttpError(503, 'busy', 'Too many computations are waiting.', 'Ask again in a moment.');
    return pool;
  }

  /** Waits for a computation; when it is cancelled it is told so, and its thread ended where it does not hear. */
  private async ended<T>(
    signal: AbortSignal | undefined,
    tell: () => void,
    run: (kill: AbortSignal) => Promise<unknown>,
  ): Promise<T> {
    const kill = new AbortController();
    let timer: NodeJS.Timeout | undefined;
    const end = () => {
      tell();
      timer = setTimeout(() => kill.abort(), HEARS);
    };
    if (signal?.aborted) throw new Cancelled();
    signal?.addEventListener('abort', end, { once: true });
    try {
      return (await run(kill.signal)) as T;
    } catch (error) {
      if (signal?.aborted) throw new Cancelled();
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new FailedComputation(
          'too-much-memory',
          `The computation wanted more than ${MOST_MEMORY} MB, and was ended.`,
          'Ask for less: fewer panels, points or parts.',
        );
      throw error;
    } finally {
      clearTimeout(timer);
      signal?.removeEventListener('abort', end);
    }
  }

  /** Starts a thread ahead of the first question, and reads its modules. */
  warm(): void {
    void this.threadsOf()
      .run({ kind: 'inviscid-flow', input: '{}', flag: new SharedArrayBuffer(4) } satisfies Task)
      .catch(() => undefined);
  }

  async close(): Promise<void> {
    await this.pool?.destroy();
    this.pool = undefined;
  }
}

/** Where the thread's code lies: beside this one, made into one file or as it is; tests load modules in the older form, which has no address, and say where. */
function workerFile(name = 'worker'): string {
  if (typeof __dirname === 'string') return join(process.env.VELDTWIND_MADE!, `${name}.mjs`);
  const made = fileURLToPath(new URL(`./${name}.mjs`, import.meta.url));
  return existsSync(made) ? made : fileURLToPath(new URL(`./${name}.ts`, import.meta.url));
}

/** What a thread said was wrong, as the error that it was. */
function thrown({ name, code, message, hint, path }: Extract<Outcome, { ok: false }>): Error {
  const Kind = name === 'FailedComputation' ? FailedComputation : InvalidInput;
  return new Kind(code, message, hint, path);
}
