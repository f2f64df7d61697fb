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

/** The glide in equilibrium at a lift and a drag coefficient. @param loading weight over area, N/m². */
function glide(CL: number, CD: number, loading: number, density: number) {
  const size = Math.hypot(CL, CD);
  const speed = Math.sqrt((2 * loading) / (density * size));
  return { speed, sink: (speed * CD) / size };
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
