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
import type { MadeReport, ReportOutcome, ReportTask } from './report-worker';
import { Turns } from './turns';
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
  private readonly turns: Turns;
  /** Files are large: all threads but one write at most, so that small computations go on beside them. */
  private readonly files: Turns;

  /** @param threads beside each other. */
  constructor(private readonly threads = Math.max(1, availableParallelism())) {
    this.turns = new Turns(threads);
    this.files = new Turns(Math.max(1, threads - 1));
  }

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
   * @param input its JSON. @param signal ends it: first by its flag, then with its thread. @param who asks: people take turns.
   * @returns the result as JSON.
   * @throws InvalidInput or FailedComputation from the analysis; HttpError 503 while too many wait.
   */
  async run(kind: AnalysisKind, input: string, signal?: AbortSignal, who?: string): Promise<string> {
    const flag = new SharedArrayBuffer(4);
    this.checkRoom(this.turns, MOST_WAITING, 'computations are waiting');
    const outcome = await this.inTurn<Outcome>(
      who,
      signal,
      () => Atomics.store(new Int32Array(flag), 0, 1),
      (kill) => this.threadsOf().run({ kind, input, flag } satisfies Task, { signal: kill }),
    );
    if (outcome.ok) return outcome.output;
    throw thrown(outcome);
  }

  /**
   * Writes an airframe in a thread.
   * @param candidate and @param sections their JSON. @param signal ends it with its thread. @param who asks: people take turns.
   * @throws InvalidInput or FailedComputation from the writing; HttpError 503 while too many wait.
   */
  async exportAirframe(
    candidate: string,
    sections: string,
    ask: ExportTask['ask'],
    signal?: AbortSignal,
    who?: string,
  ): Promise<ExportedAirframe> {
    this.checkRoom(this.files, MOST_FILES, 'files are waiting to be written');
    const done = await this.files.take(who, signal);
    try {
      const task: ExportTask = { candidate, sections, ask };
      const outcome = await this.inTurn<ExportOutcome>(
        who,
        signal,
        () => undefined,
        (kill) => this.threadsOf().run(task, { filename: workerFile('export-worker'), signal: kill }),
      );
      if (outcome.ok) return outcome.file;
      throw thrown(outcome);
    } finally {
      done();
    }
  }

  /** Composes a report in a thread, and writes it where a file is wanted; results of several candidates are made beside each other. @throws as {@link exportAirframe}. */
  async report(task: ReportTask, signal?: AbortSignal, who?: string): Promise<MadeReport> {
    this.checkRoom(this.files, MOST_FILES, 'reports are waiting to be written');
    // What is wanted soon waits for no file and for nothing that takes long.
    const done = task.soon ? () => undefined : await this.files.take(who, signal);
    const ask = async (own: ReportTask): Promise<MadeReport> => {
      const outcome = await this.inTurn<ReportOutcome>(
        who,
        signal,
        () => undefined,
        (kill) => this.threadsOf().run(own, { filename: workerFile('report-worker'), signal: kill }),
      );
      if (outcome.ok) return outcome.made;
      throw thrown(outcome);
    };
    try {
      const first = await ask({ ...task, only: 'missing' });
      if (first.missing.length === 0) return first;
      await Promise.all(first.missing.map((candidate) => ask({ ...task, only: { candidate } })));
      return await ask(task);
    } finally {
      done();
    }
  }

  /** @throws HttpError 503 where too many wait. */
  private checkRoom(turns: Turns, most: number, what: string): void {
    if (turns.length >= most) throw new HttpError(503, 'busy', `Too many ${what}.`, 'Ask again in a moment.');
  }

  /** Runs a computation when its turn comes. @throws Cancelled */
  private async inTurn<T>(
    who: string | undefined,
    signal: AbortSignal | undefined,
    tell: () => void,
    run: (kill: AbortSignal) => Promise<unknown>,
  ): Promise<T> {
    const done = await this.turns.take(who, signal);
    try {
      return await this.ended<T>(signal, tell, run);
    } finally {
      done();
    }
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
export function workerFile(name = 'worker'): string {
  if (typeof __dirname === 'string') return join(process.env.VELDTWIND_MADE!, `${name}.mjs`);
  const made = fileURLToPath(new URL(`./${name}.mjs`, import.meta.url));
  return existsSync(made) ? made : fileURLToPath(new URL(`./${name}.ts`, import.meta.url));
}

/** What a thread said was wrong, as the error that it was. */
function thrown({ name, code, message, hint, path }: Extract<Outcome, { ok: false }>): Error {
  const Kind = name === 'FailedComputation' ? FailedComputation : InvalidInput;
  return new Kind(code, message, hint, path);
}
