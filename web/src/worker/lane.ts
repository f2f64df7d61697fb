import { proxy, wrap, type Remote } from 'comlink';
import type { AnalysisKind, InputOf, OutputOf, Progress } from '@veldtwind/core/analysis';
import { TAB } from '@/api/client';
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

/** Plain data, without what the interface wraps around it. */
const plain = <T>(input: T): T => JSON.parse(JSON.stringify(input)) as T;

/** An analysis that is under way, with its number: by it the worker has its answer kept. */
export type Running<K extends AnalysisKind> = Promise<OutputOf<K>> & { id: number; cancel: () => void };

interface Pending {
  kind: AnalysisKind;
  ask: () => void;
  giveUp: () => void;
}

/** Whose results are kept and looked for: the open project, none between two. */
let home: string | null = null;
const all = new Set<Lane>();
/** Tells all lanes which project's results they may take and keep. */
export function setHome(project: string | null): void {
  home = project;
  for (const lane of all) lane.tellHome();
}

/** One worker. What is asked of it waits for what it does; other lanes go on beside it. */
export class Lane {
  private worker?: Worker;
  private remote?: Remote<WorkerApi>;
  private next = 0;
  private readonly pending = new Map<number, Pending>();
  /** How long the last answer took, ms. */
  lastMs = 0;

  private get api(): Remote<WorkerApi> {
    if (!this.remote) {
      all.add(this);
      this.worker = new Worker(new URL('./analysis.worker.ts', import.meta.url), { type: 'module' });
      this.remote = wrap<WorkerApi>(this.worker);
      if (home !== null) this.tellHome();
    }
    return this.remote;
  }

  tellHome(): void {
    if (this.remote) void this.remote.home(home, globalThis.location?.origin ?? '', TAB);
  }

  /**
   * Runs an analysis. @param report told how far it is. @param look whether a result that was kept may answer: not while a value is dragged, where none can.
   * @throws AnalysisError, or GivenUp when the lane was started anew or the analysis cancelled.
   */
  run<K extends AnalysisKind>(
    kind: K,
    input: InputOf<K>,
    report?: (progress: Progress) => void,
    look = true,
  ): Running<K> {
    const id = this.next++;
    const promise = new Promise<OutputOf<K>>((done, failed) => {
      const ask = () => {
        const { api } = this;
        // An answer of a worker that was ended meanwhile never comes; one that comes late is not of this question.
        const of = this.worker;
        const sent = (given: InputOf<K>) =>
          api.run(id, kind, given, look, report && proxy(report)) as Promise<Awaited<ReturnType<WorkerApi['run']>>>;
        sent(input)
          // What the interface has wrapped cannot be sent as it is.
          .catch((error: Error) => {
            if (error.name !== 'DataCloneError' || kind === 'read-files') throw error;
            return sent(plain(input));
          })
          .then(
            (answer) => {
              if (of !== this.worker) return;
              const a = answer as Awaited<ReturnType<WorkerApi['run']>>;
              if (a.ok) {
                this.lastMs = a.ms;
                done(a.output as OutputOf<K>);
              } else if (a.cancelled) failed(new GivenUp('Given up.'));
              else failed(new AnalysisError(a.message, a.code, a.hint, a.path));
              this.pending.delete(id);
            },
            (error: Error) => {
              if (of !== this.worker) return;
              this.pending.delete(id);
              failed(new AnalysisError(error.message));
            },
          );
      };
      this.pending.set(id, {
        kind,
        ask,
        giveUp: () => {
          this.pending.delete(id);
          failed(new GivenUp('Given up.'));
        },
      });
      ask();
    });
    return Object.assign(promise, { id, cancel: () => void this.api.cancel(id) });
  }

  /** Has an answer kept for whoever opens the project again: one that is shown and has come to rest. */
  keep(id: number): void {
    if (this.remote) void this.remote.keep(id);
  }

  /** Ends the worker in the middle of what it does and gives up what is of a kind, or all; the rest is asked of a new one. */
  restart(kind?: AnalysisKind): void {
    this.worker?.terminate();
    this.worker = this.remote = undefined;
    const before = [...this.pending.values()];
    for (const p of before) if (kind === undefined || p.kind === kind) p.giveUp();
    for (const p of before) if (kind !== undefined && p.kind !== kind) p.ask();
  }
}

/** Workers beside each other, so that none waits for another: candidates; the same with polars; their lift with polars and as thick skins; their motion, their performance, its limits and its map, their studies, their loops and their flights; the open section's flow; its shape; the library and its files. */
export const lanes = {
  candidate: new Lane(),
  polars: new Lane(),
  aircraft: new Lane(),
  skins: new Lane(),
  motion: new Lane(),
  control: new Lane(),
  survey: new Lane(),
  performance: new Lane(),
  limits: new Lane(),
  map: new Lane(),
  study: new Lane(),
  flight: new Lane(),
  section: new Lane(),
  shape: new Lane(),
  flown: new Lane(),
  structure: new Lane(),
  fit: new Lane(),
  library: new Lane(),
};
