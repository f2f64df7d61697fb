import { DEG, RAD } from '../../numerics';
import { doubt, isSolved, type SolvedPoint, type UnsolvedPoint, type ViscousPoint } from './point';

/** Drag coefficient of a long flat plate across the stream. */
const PLATE_DRAG = 2;
/** How far beyond the last solved angle the estimate is given, rad. */
export const ESTIMATE_ENDS = 12 * RAD;

/** Nearer to zero lift there is nothing of a plate about the flow; the angle in rad. */
export const LEAST_LIFT = 0.2;
export const LEAST_ANGLE = 0.03;

/** Whether the flow of a point has left the surface for good, so that what lies beyond is a fully separated flow. */
const hasStalled = (p: SolvedPoint): boolean =>
  p.doubts.some((d) => d === 'past-maximum-lift' || d === 'nose-bubble-bursts' || d === 'large-separation');

/**
 * A point beyond the last solved one, of a section that has stalled: lift and drag go over to those of a plate with separated flow, from the values
 * at the last solved angle α_s on:
 *
 *   cl = ½ cd₉₀ sin 2α + A cos²α / sin α,   A = (cl_s − cd₉₀ sin α_s cos α_s) sin α_s / cos² α_s
 *   cd = cd₉₀ sin²α + B cos α,              B = (cd_s − cd₉₀ sin² α_s) / cos α_s
 *
 * The normal force acts where it did at α_s, moving to the middle of the chord at 90°.
 * @source NASA CP-2230, 1982, 69–83, for lift and drag; cited from memory. The moment is an interpolation of our own.
 */
export function pastStallPoint(last: SolvedPoint, point: UnsolvedPoint & { alpha: number }): SolvedPoint {
  const sign = Math.sign(last.alpha) || 1;
  const [from, at] = [Math.abs(last.alpha), Math.abs(point.alpha)];
  const [s, c] = [Math.sin(from), Math.cos(from)];
  const liftShare = ((sign * last.cl - PLATE_DRAG * s * c) * s) / (c * c);
  const dragShare = (last.cd - PLATE_DRAG * s * s) / c;
  const [sa, ca] = [Math.sin(at), Math.cos(at)];
  const cl = sign * (0.5 * PLATE_DRAG * Math.sin(2 * at) + (liftShare * ca * ca) / sa);
  const cd = PLATE_DRAG * sa * sa + dragShare * ca;
  const normal = (lift: number, drag: number, alpha: number) => lift * Math.cos(alpha) + drag * Math.sin(alpha);
  const before = normal(last.cl, last.cd, last.alpha);
  const centre = Math.min(0.6, Math.max(0.15, 0.25 - last.cm / before));
  const share = (at - from) / (Math.PI / 2 - from);
  const cm = -normal(cl, cd, point.alpha) * (centre + (0.5 - centre) * share - 0.25);
  const { hinge: _, approach: __, ...rest } = last;
  const made: SolvedPoint = {
    ...rest,
    alpha: point.alpha,
    cl,
    cd,
    cdPressure: cd - last.cdFriction,
    cm,
    doubts: [],
    iterations: point.iterations,
    residual: 0,
  };
  doubt(made, 'estimated');
  if (last.doubts.includes('nose-bubble-bursts')) doubt(made, 'nose-bubble-bursts');
  doubt(made, 'past-maximum-lift');
  return made;
}

/**
 * Puts estimates where a section that has stalled could not be solved further out, up to a stated end; what lies beyond says that the method ends.
 * Gaps with solved points beyond them stay as they are.
 * @param points of one curve at one Reynolds number; those estimated are replaced.
 */
export function continuePastStall(points: ViscousPoint[]): void {
  const order = points.map((_, i) => i).filter((i) => points[i].alpha !== null);
  order.sort((a, b) => points[a].alpha! - points[b].alpha!);
  for (const run of [order, order.slice().reverse()]) {
    const outer = run.findLastIndex((i) => isSolved(points[i]));
    if (outer < 0) continue;
    const last = points[run[outer]] as SolvedPoint;
    const away = run === order ? 1 : -1;
    // Lift that falls at the last step has passed its greatest, though by less than the doubt about it asks.
    const before = run.slice(0, outer).findLast((i) => isSolved(points[i]));
    const falls = before !== undefined && away * (last.cl - (points[before] as SolvedPoint).cl) < 0;
    if (!(hasStalled(last) || falls) || away * last.cl < LEAST_LIFT || away * last.alpha < LEAST_ANGLE) continue;
    for (const i of run.slice(outer + 1)) {
      const point = points[i] as UnsolvedPoint;
      if (point.alpha === null || point.reynolds !== last.reynolds) continue;
      if (Math.abs(point.alpha - last.alpha) <= ESTIMATE_ENDS + 1e-9)
        points[i] = pastStallPoint(last, { ...point, alpha: point.alpha });
      else
        points[i] = {
          ...point,
          reason: `The method ends here: no flow was found beyond ${(last.alpha * DEG).toFixed(1)}°, where the section has stalled, and the estimate reaches ${(ESTIMATE_ENDS * DEG).toFixed(0)}° further.`,
        };
    }
  }
}
