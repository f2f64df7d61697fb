import type { CurveInput, CurvePoint, PolarFacts } from '@veldtwind/core/polar';
import type { Outcome, ViscousPoint } from '@veldtwind/core/section-flow';

/** Whether a run goes on. */
export type RunState = 'running' | 'paused' | 'cancelled' | 'finished';

/** A run with how far it has come. */
export interface RunRow {
  id: string;
  projectId: string | null;
  name: string;
  state: RunState;
  priority: number;
  createdAt: string;
  endedAt: string | null;
  /** Who began it, by name. */ by: string | null;
  points: number;
  /** Points known before the run, and points solved in it. */
  known: number;
  solved: number;
  doubtful: number;
  unsolved: number;
  tasks: number;
  failed: number;
  /** What was wrong with the first task that failed. */
  error: string | null;
}

/** A task as it is handed out. */
export interface RunTask {
  id: number;
  runId: string;
  curve: number;
  input: CurveInput;
  values: number[];
  /** Points of the curve from before this task, which are not solved again. */
  known: CurvePoint[];
  /** What a broken off attempt came to, in its order. */
  past: Outcome[];
  attempts: number;
}

/** A curve of a project, as it is listed. */
export interface CurveRow {
  id: number;
  key: string;
  /** Version of the method that it was solved by. */
  version: number;
  name: string;
  section: string | null;
  /** When it was first asked for. */ at: string;
  input: CurveInput;
  points: number;
  solved: number;
  doubtful: number;
  unsolved: number;
  /** What the curve says; null over Reynolds numbers. */
  facts: PolarFacts | null;
}

/** A curve that comes from a file. */
export interface ImportedCurve {
  key: string;
  name: string;
  section: string | null;
  /** Version of the method that solved it. */
  version: number;
  input: CurveInput;
  points: { place: number; point: ViscousPoint; state: Buffer | null }[];
}

/** Places of one step of a task: what one try came to, and the point where it is the last word. */
export interface TaskStep {
  seq: number;
  outcome?: Outcome;
  point?: CurvePoint;
}
