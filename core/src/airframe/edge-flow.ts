import { RAD } from '../numerics';
import type { EdgeFlow, LiftingSurface, Station } from './types';

/** Reach of an end that nothing is asked of, and of a flow that does not say its own. */
const STRAIGHT_REACH = 1 / 3;
export const USUAL_REACH = 0.35;

/** What is known at a station along the span: plan places of the two edges, rise of the pivot line, twist. */
export interface StationLine {
  leading: number;
  trailing: number;
  rise: number;
  /** rad */ twist: number;
}
export type LineName = keyof StationLine;

/** One line over one bay: its ends, the slopes that it leaves and arrives with, and how long it holds them (shares of the span). */
interface Curve {
  from: number;
  to: number;
  span: number;
  slopes: [number, number];
  reaches: [number, number];
  straight: boolean;
}

/** Values of the four lines within a bay, with the slope of the rise. */
export type BayCurve = (share: number) => StationLine & { riseSlope: number };

/** The parameter at which a cubic with inner points at p and q is at a share of its way: monotone, so that halving never fails; Newton where it helps. */
function parameterAt(p: number, q: number, share: number): number {
  let [low, high, t] = [0, 1, share];
  for (let k = 0; k < 60; k++) {
    const u = 1 - t;
    const miss = 3 * u * u * t * p + 3 * u * t * t * q + t * t * t - share;
    if (Math.abs(miss) < 2e-15) break;
    if (miss > 0) high = t;
    else low = t;
    const v = 3 * u * u * p + 6 * u * t * (q - p) + 3 * t * t * (1 - q);
    const next = v > 0 ? t - miss / v : NaN;
    if (next === t) break;
    t = next > low && next < high ? next : 0.5 * (low + high);
  }
  return t;
}

/**
 * A line over a bay as a cubic in Bézier's form, whose inner points lie in the directions that it leaves and arrives with, as far out as it reaches.
 * It goes along the span without turning back, whatever the reaches.
 * @param share of the bay's span, 0 to 1. @param t the parameter there.
 */
function along(c: Curve, share: number, t: number): { value: number; slope: number } {
  if (c.straight) return { value: c.from + share * (c.to - c.from), slope: (c.to - c.from) / c.span };
  const [p, q] = [c.reaches[0], 1 - c.reaches[1]];
  const u = 1 - t;
  const a = c.from + c.slopes[0] * c.reaches[0] * c.span;
  const b = c.to - c.slopes[1] * c.reaches[1] * c.span;
  const value = u * u * u * c.from + 3 * u * u * t * a + 3 * u * t * t * b + t * t * t * c.to;
  const rate = 3 * u * u * (a - c.from) + 6 * u * t * (b - a) + 3 * t * t * (c.to - b);
  const speed = 3 * u * u * p + 6 * u * t * (q - p) + 3 * t * t * (1 - q);
  return { value, slope: rate / (Math.max(1e-12, speed) * c.span) };
}

/** The flow of a line at a station: dihedral and twist blend with the leading edge where it is in line with a neighbour. */
function flowOf(station: Station, line: LineName): EdgeFlow | undefined {
  const { edges } = station;
  if (!edges) return undefined;
  if (line === 'leading' || line === 'trailing') return edges[line];
  if (line === 'rise' && edges.rise) return edges.rise;
  const { leading } = edges;
  return leading && (leading.run === 'inboard' || leading.run === 'outboard') ? leading : undefined;
}

/**
 * The lines of every bay of a surface.
 * @param lines values at its stations. @returns a curve for a bay where an edge flows, null where all run straight.
 */
export function bayCurves(surface: LiftingSurface, lines: readonly StationLine[]): (BayCurve | null)[] {
  const { stations, bays, mirrored } = surface;
  const slope = (line: LineName, bay: number) => (lines[bay + 1][line] - lines[bay][line]) / bays[bay].span;
  /** Slope with which a line runs through station `i` on the side of a bay; undefined where it runs as the bay does. */
  const held = (line: LineName, i: number, bay: number): { slope: number; reach: number } | undefined => {
    const flow = flowOf(stations[i], line);
    if (!flow || flow.run === 'straight') return undefined;
    const reach = (bay === i ? flow.reachOutboard : undefined) ?? flow.reach ?? USUAL_REACH;
    if (flow.run === 'held') return { slope: Math.tan((flow.angleDeg ?? 0) * RAD), reach };
    const neighbour = flow.run === 'inboard' ? i - 1 : i;
    if (neighbour === bay) return undefined;
    if (neighbour < 0) return mirrored ? { slope: 0, reach } : undefined;
    return neighbour < bays.length ? { slope: slope(line, neighbour), reach } : undefined;
  };
  return bays.map((bay, b) => {
    const curve = (line: LineName): Curve => {
      const [start, end] = [held(line, b, b), held(line, b + 1, b)];
      const own = slope(line, b);
      return {
        from: lines[b][line],
        to: lines[b + 1][line],
        span: bay.span,
        slopes: [start?.slope ?? own, end?.slope ?? own],
        reaches: [start?.reach ?? STRAIGHT_REACH, end?.reach ?? STRAIGHT_REACH],
        straight: !start && !end,
      };
    };
    const curves = {
      leading: curve('leading'),
      trailing: curve('trailing'),
      rise: curve('rise'),
      twist: curve('twist'),
    };
    if (Object.values(curves).every((c) => c.straight)) return null;
    return (share) => {
      // Lines that reach equally far have the same parameter.
      let [p, q, t] = [NaN, NaN, 0];
      const at = (c: Curve) => {
        if (c.straight) return along(c, share, 0);
        if (c.reaches[0] !== p || c.reaches[1] !== q) {
          [p, q] = c.reaches;
          t = parameterAt(p, 1 - q, share);
        }
        return along(c, share, t);
      };
      const rise = at(curves.rise);
      return {
        leading: at(curves.leading).value,
        trailing: at(curves.trailing).value,
        rise: rise.value,
        riseSlope: rise.slope,
        twist: at(curves.twist).value,
      };
    };
  });
}
