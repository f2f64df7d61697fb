import type { EdgeFlow, LiftingSurface, Station } from './types';

const RAD = Math.PI / 180;
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

/**
 * A line over a bay as a cubic in Bézier's form, whose inner points lie in the directions that it leaves and arrives with, as far out as it reaches.
 * It goes along the span without turning back, whatever the reaches.
 * @param share of the bay's span, 0 to 1.
 */
function along(c: Curve, share: number): { value: number; slope: number } {
  if (c.straight) return { value: c.from + share * (c.to - c.from), slope: (c.to - c.from) / c.span };
  const [p, q] = [c.reaches[0], 1 - c.reaches[1]];
  const place = (t: number) => 3 * (1 - t) * (1 - t) * t * p + 3 * (1 - t) * t * t * q + t * t * t;
  const speed = (t: number) => 3 * (1 - t) * (1 - t) * p + 6 * (1 - t) * t * (q - p) + 3 * t * t * (1 - q);
  // Monotone, so that halving the interval never fails; Newton where it helps.
  let [low, high, t] = [0, 1, share];
  for (let k = 0; k < 60; k++) {
    const miss = place(t) - share;
    if (Math.abs(miss) < 1e-15) break;
    if (miss > 0) high = t;
    else low = t;
    const v = speed(t);
    const next = v > 0 ? t - miss / v : NaN;
    t = next > low && next < high ? next : 0.5 * (low + high);
  }
  const inner = [c.from + c.slopes[0] * c.reaches[0] * c.span, c.to - c.slopes[1] * c.reaches[1] * c.span];
  const u = 1 - t;
  const value = u * u * u * c.from + 3 * u * u * t * inner[0] + 3 * u * t * t * inner[1] + t * t * t * c.to;
  const rate = 3 * u * u * (inner[0] - c.from) + 6 * u * t * (inner[1] - inner[0]) + 3 * t * t * (c.to - inner[1]);
  return { value, slope: rate / (Math.max(1e-12, speed(t)) * c.span) };
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
    const reach = flow.reach ?? USUAL_REACH;
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
      const rise = along(curves.rise, share);
      return {
        leading: along(curves.leading, share).value,
        trailing: along(curves.trailing, share).value,
        rise: rise.value,
        riseSlope: rise.slope,
        twist: along(curves.twist, share).value,
      };
    };
  });
}
