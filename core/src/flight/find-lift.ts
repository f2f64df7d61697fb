import type { StripSolution } from '../lift';
import { DEG } from '../numerics';

/** Angles between which a lift is looked for, rad. */
const STEEPEST = 24 / DEG;

/** A state that was looked at. */
interface Seen<P> {
  point: P;
  solution: Pick<StripSolution, 'converged' | 'turns'>;
}

/**
 * The angle at which a lift coefficient is met, by the secant from a state near by.
 * @param at loads at an angle, rad, and the turns of the strips to go on from. @returns the nearest point found, and whether it meets the lift: it does not
 *   where there is no more to be had.
 */
export function findLift<P extends { alpha: number; CL: number }>(
  at: (alpha: number, turns?: Float64Array) => Seen<P>,
  CL: number,
  from: { alpha: number; turns?: Float64Array },
): { point: P; turns: Float64Array; met: boolean } {
  let turns = from.turns;
  const look = (alpha: number) => {
    const { point, solution } = at(alpha, turns);
    if (solution.converged) turns = solution.turns;
    return point;
  };
  let a = look(from.alpha);
  let slope = 0.08 * DEG;
  let best = a;
  for (let k = 0; k < 14; k++) {
    if (Math.abs(a.CL - CL) < Math.abs(best.CL - CL)) best = a;
    if (Math.abs(a.CL - CL) < 2e-6) break;
    const step = Math.max(-0.06, Math.min(0.06, (CL - a.CL) / slope));
    const alpha = Math.max(-STEEPEST, Math.min(STEEPEST, a.alpha + step));
    if (alpha === a.alpha) break;
    const b = look(alpha);
    const found = (b.CL - a.CL) / (b.alpha - a.alpha);
    // Beyond the crest there is nothing to be had.
    if (found > 0.3) slope = found;
    else if (CL > b.CL) {
      slope = Math.max(1, Math.abs(found));
      if (b.CL < best.CL) break;
    }
    a = b;
  }
  return {
    point: best,
    turns: turns ?? new Float64Array(0),
    met: Math.abs(best.CL - CL) < 1e-3 * Math.max(0.1, Math.abs(CL)),
  };
}
