import { hasFlow } from '../section-flow';
import type { CurveInput, CurvePoint } from './curve';

/** Steps are not made smaller than this: millionths of a degree, of a lift coefficient, or a Reynolds number. */
const LEAST_STEP = { alpha: 20_000, cl: 2000, re: 500 };

/**
 * Places at which a curve's unsolved stretches are tried again: the unsolved places themselves, and between them and their neighbours smaller steps,
 * the smallest beside what is solved, from where the solver goes on.
 * @param points of the curve, in order. @returns places in order; none where nothing is unsolved, or nothing solved.
 */
export function closeIn(input: Pick<CurveInput, 'swept'>, points: readonly CurvePoint[]): number[] {
  const wanted = new Set<number>();
  // Estimates stand where nothing was solved.
  const solved = points.map((p) => hasFlow(p.point));
  if (!solved.includes(true)) return [];
  const least = LEAST_STEP[input.swept];
  points.forEach((p, i) => {
    if (!solved[i]) wanted.add(p.place);
    const next = points[i + 1];
    if (next === undefined || (solved[i] && solved[i + 1])) return;
    const gap = next.place - p.place;
    const shares = solved[i] || solved[i + 1] ? [0.25, 0.5, 0.75] : [0.5];
    // Where both sides are unsolved and no solved point follows, a smaller step leads nowhere.
    const leads = solved[i] || solved[i + 1] || (solved.indexOf(true) < i && solved.lastIndexOf(true) > i);
    if (!leads || gap * shares[0] < least) return;
    for (const share of shares) wanted.add(Math.round(p.place + share * gap));
  });
  points.forEach((p, i) => solved[i] && wanted.delete(p.place));
  return [...wanted].sort((a, b) => a - b);
}
