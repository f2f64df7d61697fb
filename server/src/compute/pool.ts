import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { AnalysisKind } from '@veldtwind/core/analysis';
import { FailedComputation, InvalidInput } from '@veldtwind/core/numerics';
import { HttpError } from '../http/errors';
import type { ExportedAirframe, ExportOutcome, ExportTask } from './export-worker';
import type { Outcome, Task } from './worker';

/** Computations that may wait; beyond, the server says that it is busy. */
const MOST_WAITING = 64;

/** Threads that compute, so that the server's own loop never does. They start with the first computation. */
export class ComputePool {
  private pool?: Piscina;

  /** @param threads beside each other. */
  constructor(private readonly threads = Math.max(1, availableParallelism())) {}

  private threadsOf(): Piscina {
    const filename = workerFile();
    this.pool ??= new Piscina({
      filename,
      minThreads: 1,
      maxThreads: this.threads,
      maxQueue: MOST_WAITING,
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
    const end = () => Atomics.store(new Int32Array(flag), 0, 1);
    signal?.addEventListener('abort', end, { once: true });
    const pool = this.threadsOf();
    if (pool.queueSize >= MOST_WAITING)
      throw new HttpError(503, 'busy', 'Too many computations are waiting.', 'Ask again in a moment.');
    const task: Task = { kind, input, flag };
    try {
      const outcome = (await pool.run(task)) as Outcome;
      if (outcome.ok) return outcome.output;
      throw thrown(outcome);
    } finally {
      signal?.removeEventListener('abort', end);
    }
  }

  /**
   * Writes an airframe in a thread.
   * @param candidate and @param sections their JSON. @throws InvalidInput or FailedComputation from the writing; HttpError 503 while too many wait.
   */
  async exportAirframe(candidate: string, sections: string, ask: ExportTask['ask']): Promise<ExportedAirframe> {
    const pool = this.threadsOf();
    if (pool.queueSize >= MOST_WAITING)
      throw new HttpError(503, 'busy', 'Too many computations are waiting.', 'Ask again in a moment.');
    const task: ExportTask = { candidate, sections, ask };
    const outcome = (await pool.run(task, { filename: workerFile('export-worker') })) as ExportOutcome;
    if (outcome.ok) return outcome.file;
    throw thrown(outcome);
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
