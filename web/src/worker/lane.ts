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
  lane: Lane;
  kind: AnalysisKind;
  ask: () => void;
  giveUp: () => void;
}

/** Whose results are kept and looked for: the open project, none between two. */
let home: string | null = null;
const all = new Set<Seat>();
/** Tells all workers which project's results they may take and keep. */
export function setHome(project: string | null): void {
  home = project;
  for (const seat of all) seat.tellHome();
}

/** One worker, begun when it is first asked, and what it was asked for. Lanes may share it: code that is common to them is then made ready once. */
class Seat {
  private worker?: Worker;
  private remote?: Remote<WorkerApi>;
  private next = 0;
  private readonly pending = new Map<number, Pending>();

  get api(): Remote<WorkerApi> {
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

  /** Runs an analysis for a lane; see {@link Lane.run}. */
  run<K extends AnalysisKind>(
    lane: Lane,
    kind: K,
    input: InputOf<K>,
    report: ((progress: Progress) => void) | undefined,
    look: boolean,
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
                lane.lastMs = a.ms;
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
        lane,
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

  keep(id: number): void {
    if (this.remote) void this.remote.keep(id);
  }

  /** Ends the worker in the middle of what it does, gives up what is meant, and asks the rest of a new one. */
  restart(meant: (p: Pending) => boolean): void {
    this.worker?.terminate();
    this.worker = this.remote = undefined;
    const before = [...this.pending.values()];
    for (const p of before) if (meant(p)) p.giveUp();
    for (const p of before) if (!meant(p)) p.ask();
  }
}

/** What is asked in one place. It may share its worker with other lanes. */
export class Lane {
  /** How long the last answer took, ms. */
  lastMs = 0;

  /** @param seat the worker; one of its own without. */
  constructor(private readonly seat: Seat = new Seat()) {}

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
    return this.seat.run(this, kind, input, report, look);
  }

  /** Has an answer kept for whoever opens the project again: one that is shown and has come to rest. */
  keep(id: number): void {
    this.seat.keep(id);
  }

  /** Ends the worker in the middle of what it does and gives up what this lane asked of a kind, or all; the rest is asked of a new one. */
  restart(kind?: AnalysisKind): void {
    this.seat.restart((p) => p.lane === this && (kind === undefined || p.kind === kind));
  }
}

/**
 * Lanes in groups: what answers the hand; the aircraft's lift; its motion and control; its performance; surface panels and strength;
 * studies and files. With many processors each group has a worker; with few, the last three share one. A worker costs a third of a second of
 * processor time to begin and one to become fast, so that more of them than processors make a page slower, not faster.
 */
const GROUPS = [
  ['candidate', 'section', 'shape'],
  ['polars', 'aircraft', 'flown'],
  ['motion', 'survey', 'control', 'flight'],
  ['performance', 'limits', 'map'],
  ['skins', 'structure', 'fit'],
  ['study', 'library'],
] as const;
const MANY_PROCESSORS = 6;
const FEW = [0, 1, 1, 2, 2, 2];

export type LaneName = (typeof GROUPS)[number][number];
/** @param processors of the machine. @returns every lane, with the worker that it shares. */
export function makeLanes(processors: number): Record<LaneName, Lane> {
  const seats = GROUPS.map(() => new Seat());
  const seatOf = (group: number) => seats[processors >= MANY_PROCESSORS ? group : FEW[group]];
  return Object.fromEntries(
    GROUPS.flatMap((names, group) => names.map((name) => [name, new Lane(seatOf(group))])),
  ) as Record<LaneName, Lane>;
}

export const lanes = makeLanes(globalThis.navigator?.hardwareConcurrency ?? 4);
