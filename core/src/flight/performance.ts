import { CubicSpline } from '../numerics';
import type { SteadyPoint } from './aircraft';

/** The best glide. */
export interface BestGlide {
  CL: number;
  /** Lift over drag. */ ratio: number;
  /** m/s */ speed: number;
}
/** The slowest descent. */
export interface LeastSink {
  /** m/s */ speed: number;
  /** Downward, m/s. */ rate: number;
}
/** What follows from the drag polar of a weight in the air; null where the sweep does not reach it. */
export interface GlideFacts {
  /** m/s, at the greatest lift of the sweep. */ stallSpeed: number | null;
  bestGlide: BestGlide | null;
  leastSink: LeastSink | null;
}

/** A place of the glide polar. */
export interface GlidePoint {
  alpha: number;
  /** Along the path, m/s. */ speed: number;
  /** Downward, m/s. */ sink: number;
  ratio: number;
  CL: number;
  /** Speed of level flight there, m/s. */ level: number;
  /** Power that level flight needs at the same coefficients, W, and the thrust, N. */ power: number;
  thrust: number;
}

/** The glide in equilibrium at a lift and a drag coefficient. @param loading weight over area, N/m². */
function glide(CL: number, CD: number, loading: number, density: number) {
  const size = Math.hypot(CL, CD);
  const speed = Math.sqrt((2 * loading) / (density * size));
  return { speed, sink: (speed * CD) / size };
}

/**
 * The glide polar of a sweep over angles at which the lift is upward, in order of the angle.
 * @param weight N. @param area m². @param density kg/m³. @source any textbook: forces of a steady glide.
 */
export function glidePolar(
  points: readonly SteadyPoint[],
  weight: number,
  area: number,
  density: number,
): GlidePoint[] {
  return points
    .filter((p) => p.status !== 'unsolved' && p.CL > 0.02 && p.CD > 0)
    .sort((a, b) => a.alpha - b.alpha)
    .map((p) => {
      const { speed, sink } = glide(p.CL, p.CD, weight / area, density);
      const level = Math.sqrt((2 * weight) / (density * area * p.CL));
      const thrust = (weight * p.CD) / p.CL;
      return { alpha: p.alpha, speed, sink, ratio: p.CL / p.CD, CL: p.CL, level, power: thrust * level, thrust };
    });
}

/** Steps between two points of a sweep that a crest is looked for in. */
const FINE = 40;

/**
 * Stall speed, best glide and least sink, from the points of a sweep over angles; a crest is found between the points by cubic splines through lift and drag.
 * A crest at an end of the sweep is none.
 */
export function glideFacts(
  points: readonly SteadyPoint[],
  CLmax: number | null,
  weight: number,
  area: number,
  density: number,
): GlideFacts {
  const used = points
    .filter((p) => p.status !== 'unsolved' && p.CL > 0.02 && p.CD > 0)
    .sort((a, b) => a.alpha - b.alpha)
    .filter((p, i, all) => i === 0 || p.alpha > all[i - 1].alpha);
  const facts: GlideFacts = {
    stallSpeed: CLmax !== null && CLmax > 0 ? Math.sqrt((2 * weight) / (density * area * CLmax)) : null,
    bestGlide: null,
    leastSink: null,
  };
  if (used.length < 4) return facts;
  const alphas = used.map((p) => p.alpha);
  const lift = new CubicSpline(
    alphas,
    used.map((p) => p.CL),
  );
  const drag = new CubicSpline(
    alphas,
    used.map((p) => p.CD),
  );
  const fine: number[] = [];
  for (let i = 0; i + 1 < alphas.length; i++)
    for (let k = 0; k < FINE; k++) fine.push(alphas[i] + (k / FINE) * (alphas[i + 1] - alphas[i]));
  fine.push(alphas[alphas.length - 1]);
  const best = (of: (CL: number, CD: number) => number) => {
    let at = 0;
    fine.forEach((a, i) => {
      if (of(lift.at(a), drag.at(a)) > of(lift.at(fine[at]), drag.at(fine[at]))) at = i;
    });
    return at > 0 && at < fine.length - 1 ? fine[at] : null;
  };
  const glideAt = best((CL, CD) => CL / CD);
  if (glideAt !== null) {
    const [CL, CD] = [lift.at(glideAt), drag.at(glideAt)];
    facts.bestGlide = { CL, ratio: CL / CD, speed: glide(CL, CD, weight / area, density).speed };
  }
  const sinkAt = best((CL, CD) => -glide(CL, CD, weight / area, density).sink);
  if (sinkAt !== null) {
    const { speed, sink } = glide(lift.at(sinkAt), drag.at(sinkAt), weight / area, density);
    facts.leastSink = { speed, rate: sink };
  }
  return facts;
}

/** Speeds of level flight at which the power needed is no more than what there is: the slowest and the fastest; null where it never is. @param power W. */
export function levelRange(
  points: readonly Pick<GlidePoint, 'level' | 'power'>[],
  power: number,
): { from: number; to: number } | null {
  const level = points.map((p) => ({ speed: p.level, spare: power - p.power })).sort((a, b) => a.speed - b.speed);
  const first = level.findIndex((p) => p.spare >= 0);
  if (first < 0) return null;
  const last = level.findLastIndex((p) => p.spare >= 0);
  const cross = (a: (typeof level)[number], b: (typeof level)[number]) =>
    a.speed + (a.spare / (a.spare - b.spare)) * (b.speed - a.speed);
  return {
    from: first > 0 ? cross(level[first - 1], level[first]) : level[0].speed,
    to: last < level.length - 1 ? cross(level[last], level[last + 1]) : level[last].speed,
  };
}

/** The heaviest mass that level flight carries at a speed: that of the greatest lift, kg. */
export function heaviestMass(CLmax: number, area: number, dynamicPressure: number, gravity: number): number {
  return (CLmax * area * dynamicPressure) / gravity;
}
