import { placesOf, solveCurve, type CurvePoint } from '@veldtwind/core/polar';
import type { Outcome } from '@veldtwind/core/section-flow';
import type { RunTask, TaskStep } from '@veldtwind/store/runs';

/** A task as it goes to whoever solves it: plain data. */
export type SweepJob = Pick<RunTask, 'id' | 'curve' | 'input' | 'values' | 'known' | 'past'>;

/**
 * Solves a task: its curve's places that are not known, from where an earlier attempt was broken off.
 * @param onStep takes each step: what a try came to together with the point that came of it, so that both are kept or neither.
 * @throws what the sections throw that cannot be solved at all; Cancelled.
 */
export function solveTask(job: SweepJob, onStep: (step: TaskStep) => void, cancelled: () => boolean): void {
  const places = new Map(placesOf(job).map((place, i) => [place, i]));
  let seq = job.past.length;
  let replayed = 0;
  let tried: Outcome | undefined;
  const flush = (point?: CurvePoint) => {
    if (tried || point) onStep({ seq: seq++, ...(tried ? { outcome: tried } : {}), ...(point ? { point } : {}) });
    tried = undefined;
  };
  solveCurve(job.input, job.values, {
    known: new Map(job.known.flatMap((k) => (places.has(k.place) ? [[places.get(k.place)!, k] as const] : []))),
    journal: {
      next: () => job.past[replayed++],
      add: (outcome) => {
        flush();
        tried = outcome;
      },
    },
    onPoint: (point) => {
      // The last word on a point that stays unsolved comes long after it was tried.
      if (tried && places.get(point.place) !== tried.index) flush();
      flush(point);
    },
    cancelled,
  });
  flush();
}
