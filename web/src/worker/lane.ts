import { proxy, wrap, type Remote } from 'comlink';
import type { AnalysisKind, InputOf, OutputOf, Progress } from '@veldtwind/core/analysis';
import type { WorkerApi } from './analysis.worker';

/** An analysis that could not be made: what happened, why, what to do, and at which field. */
export class AnalysisError extends Error {
  constructor(
    message: string,
    readonly code?: string,
    readonly hint?: string,
    readonly path?: string,
  ) {
    super(message);
  }
}
/** An analysis that was given up. */
export class GivenUp extends Error {}

/** Bytes go to a worker as they are; all else as plain data, without what the interface wraps around it. */
const plain = <T>(kind: AnalysisKind, input: T): T =>
  kind === 'read-files' ? input : (JSON.parse(JSON.stringify(input)) as T);

/** One worker. What is asked of it waits for what it does; other lanes go on beside it. */
export class Lane {
  private worker?: Worker;
  private remote?: Remote<WorkerApi>;
  private next = 0;
  private readonly giveUp = new Set<() => void>();
  /** How long the last answer took, ms. */
  lastMs = 0;

  private get api(): Remote<WorkerApi> {
    if (!this.remote) {
      this.worker = new Worker(new URL('./analysis.worker.ts', import.meta.url), { type: 'module' });
      this.remote = wrap<WorkerApi>(this.worker);
    }
    return this.remote;
  }

  /**
   * Runs an analysis. @param report told how far it is.
   * @throws AnalysisError, or GivenUp when the lane was started anew or the analysis cancelled.
   */
  run<K extends AnalysisKind>(
    kind: K,
    input: InputOf<K>,
    report?: (progress: Progress) => void,
  ): Promise<OutputOf<K>> & { cancel: () => void } {
    const id = this.next++;
    const { api } = this;
    const promise = new Promise<OutputOf<K>>((done, failed) => {
      const end = () => failed(new GivenUp('Given up.'));
      this.giveUp.add(end);
      api
        .run(id, kind, plain(kind, input), report && proxy(report))
        .then(
          (answer) => {
            const a = answer as Awaited<ReturnType<WorkerApi['run']>>;
            if (a.ok) {
              this.lastMs = a.ms;
              done(a.output as OutputOf<K>);
            } else if (a.cancelled) end();
            else failed(new AnalysisError(a.message, a.code, a.hint, a.path));
          },
          (error: Error) => failed(new AnalysisError(error.message)),
        )
        .finally(() => this.giveUp.delete(end));
    });
    return Object.assign(promise, { cancel: () => void api.cancel(id) });
  }

  /** Gives up all that runs: the worker is ended and started anew. */
  restart(): void {
    this.worker?.terminate();
    this.worker = this.remote = undefined;
    for (const end of [...this.giveUp]) end();
  }
}

/** Workers beside each other, so that none waits for another: candidates; the same with polars; their lift with polars and as thick skins; their motion, their loops and their flights; the open section's flow; its shape; the library and its files. */
export const lanes = {
  candidate: new Lane(),
  polars: new Lane(),
  aircraft: new Lane(),
  own: new Lane(),
  skins: new Lane(),
  motion: new Lane(),
  control: new Lane(),
  survey: new Lane(),
  flight: new Lane(),
  section: new Lane(),
  shape: new Lane(),
  library: new Lane(),
};
