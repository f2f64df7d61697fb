import { DEG } from '../numerics';
import { hasFlow, isSolved, type SolvedPoint, type ViscousPoint } from '../section-flow';

/** The low-drag range is where drag is at most this many times the least. */
export const LOW_DRAG = 1.2;
/** Angles above zero lift over which the slope of lift is fitted, deg. */
const SLOPE_REACH = 6;
/** The angle past that of greatest lift at which it is read how much lift is left, deg. */
export const STALL_REACH = 3;

/** What a curve says, each a number or null where the curve does not reach it. Defined in docs/methods/polar-facts.md. */
export interface PolarFacts {
  /** Greatest lift before the stall. */
  clMax: number | null;
  alphaClMaxDeg: number | null;
  /** Whether the lift falls behind it, so that it is a maximum and not the end of the sweep. */
  clMaxReached: boolean;
  /** Lift 3° past the angle of greatest lift, over that lift: near 1 is a gentle stall. */
  liftKept: number | null;
  cdMin: number | null;
  clAtCdMin: number | null;
  /** Lift coefficients between which drag is at most 1.2 times the least. */
  lowDragRange: [number, number] | null;
  /** Whether the curve goes on beyond each edge, so that it is one and not the end of the sweep. */
  lowDragEdges: [boolean, boolean];
  bestLiftToDrag: number | null;
  clAtBestLiftToDrag: number | null;
  /** Greatest cl^1.5 / cd. */
  bestClimb: number | null;
  clAtBestClimb: number | null;
  alphaZeroLiftDeg: number | null;
  liftSlopePerDeg: number | null;
  cmZeroLift: number | null;
  /** Moment of greatest size before the stall, with its sign. */
  cmGreatest: number | null;
  /** Greatest moment before the stall, nose-up positive: negative where the section never pitches nose-up. */
  cmGreatestNoseUp: number | null;
}

const NONE: PolarFacts = {
  clMax: null,
  alphaClMaxDeg: null,
  clMaxReached: false,
  liftKept: null,
  cdMin: null,
  clAtCdMin: null,
  lowDragRange: null,
  lowDragEdges: [false, false],
  bestLiftToDrag: null,
  clAtBestLiftToDrag: null,
  bestClimb: null,
  clAtBestClimb: null,
  alphaZeroLiftDeg: null,
  liftSlopePerDeg: null,
  cmZeroLift: null,
  cmGreatest: null,
  cmGreatestNoseUp: null,
};

/** Whether a point lies beyond the stall of either side. */
export const pastStall = (p: SolvedPoint): boolean =>
  p.doubts.includes('past-maximum-lift') || p.doubts.includes('nose-bubble-bursts');

/** Value at a place on the straight line between two points. */
const between = (x: number, xa: number, ya: number, xb: number, yb: number) => ya + ((x - xa) / (xb - xa)) * (yb - ya);

/** Vertex of the parabola through three points whose middle one is the highest. */
function vertex(p: readonly [number, number][]): [number, number] {
  const [[xa, ya], [xb, yb], [xc, yc]] = p;
  const [da, dc] = [(yb - ya) / (xb - xa), (yc - yb) / (xc - xb)];
  const bend = (dc - da) / (xc - xa);
  if (!(bend < 0)) return [xb, yb];
  const x = 0.5 * (xa + xb) - da / (2 * bend);
  return [x, ya + da * (x - xa) + bend * (x - xa) * (x - xb)];
}

/**
 * The facts of a sweep over angles at one Reynolds number (or one lift force). Doubtful points before the stall count, unsolved ones do not.
 * @param points in any order; a sweep over Reynolds numbers has no such facts.
 */
export function polarFacts(points: readonly ViscousPoint[]): PolarFacts {
  // What was estimated says nothing of its own.
  const all = points.filter(hasFlow).sort((a, b) => a.alpha - b.alpha);
  const before = all.filter((p) => !pastStall(p));
  if (before.length === 0) return NONE;
  return { ...NONE, ...greatestLift(all, before), ...leastDrag(before), ...ratios(before), ...line(before) };
}

function greatestLift(all: SolvedPoint[], before: SolvedPoint[]): Partial<PolarFacts> {
  const best = before.reduce((a, b) => (b.cl > a.cl ? b : a));
  const k = all.indexOf(best);
  const next = all[k + 1];
  const reached = next !== undefined && (next.cl < best.cl || pastStall(next));
  let [alpha, cl] = [best.alpha, best.cl];
  // A burst bubble ends the curve before its own crest; only a crest of the curve itself is refined.
  if (k > 0 && next && next.cl < best.cl && all[k - 1].cl < best.cl)
    [alpha, cl] = vertex([all[k - 1], best, next].map((p) => [p.alpha, p.cl]));
  const later = alpha + STALL_REACH / DEG;
  const j = all.findIndex((p) => p.alpha >= later - 1e-9);
  const kept =
    reached && cl > 0 && j > 0 && all[j].alpha - all[j - 1].alpha < 2.5 / DEG
      ? between(later, all[j - 1].alpha, all[j - 1].cl, all[j].alpha, all[j].cl) / cl
      : null;
  return { clMax: cl, alphaClMaxDeg: alpha * DEG, clMaxReached: reached, liftKept: kept };
}

function leastDrag(before: SolvedPoint[]): Partial<PolarFacts> {
  const least = before.reduce((a, b) => (b.cd < a.cd ? b : a));
  const limit = LOW_DRAG * least.cd;
  const from = before.indexOf(least);
  const edge = (step: 1 | -1): [number, boolean] => {
    let i = from;
    while (before[i + step] && before[i + step].cd <= limit) i += step;
    const [inside, outside] = [before[i], before[i + step]];
    if (!outside) return [inside.cl, false];
    return [between(limit, inside.cd, inside.cl, outside.cd, outside.cl), true];
  };
  const [down, up] = [edge(-1), edge(1)];
  return {
    cdMin: least.cd,
    clAtCdMin: least.cl,
    lowDragRange: [down[0], up[0]],
    lowDragEdges: [down[1], up[1]],
  };
}

function ratios(before: SolvedPoint[]): Partial<PolarFacts> {
  const lifting = before.filter((p) => p.cl > 0 && p.cd > 1e-6);
  if (lifting.length === 0) return {};
  const glide = (p: SolvedPoint) => p.cl / p.cd;
  const climb = (p: SolvedPoint) => p.cl ** 1.5 / p.cd;
  const best = (of: typeof glide) => lifting.reduce((a, b) => (of(b) > of(a) ? b : a));
  const [g, c] = [best(glide), best(climb)];
  return { bestLiftToDrag: glide(g), clAtBestLiftToDrag: g.cl, bestClimb: climb(c), clAtBestClimb: c.cl };
}

function line(before: SolvedPoint[]): Partial<PolarFacts> {
  const moments = {
    cmGreatest: before.reduce((a, b) => (Math.abs(b.cm) > Math.abs(a.cm) ? b : a)).cm,
    cmGreatestNoseUp: Math.max(...before.map((p) => p.cm)),
  };
  // The crossing nearest to α = 0, where there are several.
  const crossings = before.flatMap((b, i) => {
    const a = before[i - 1];
    if (!a || !(a.cl < 0 && b.cl >= 0)) return [];
    return [between(0, a.cl, a.alpha, b.cl, b.alpha)];
  });
  if (before[0].cl === 0) crossings.push(before[0].alpha);
  if (crossings.length === 0) return moments;
  const zero = crossings.reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a));
  const i = Math.max(
    1,
    before.findIndex((p) => p.alpha >= zero - 1e-12),
  );
  const [a, b] = [before[i - 1], before[i] ?? before[i - 1]];
  const cm = a === b ? a.cm : between(zero, a.alpha, a.cm, b.alpha, b.cm);
  const fitted = before.filter((p) => p.alpha >= zero - 1e-9 && p.alpha <= zero + SLOPE_REACH / DEG);
  return {
    ...moments,
    alphaZeroLiftDeg: zero * DEG,
    cmZeroLift: cm,
    liftSlopePerDeg: fitted.length < 2 ? null : slopeOf(fitted) / DEG,
  };
}

/** Slope of the straight line of least squares, per rad. */
function slopeOf(points: SolvedPoint[]): number {
  const mean = (of: (p: SolvedPoint) => number) => points.reduce((s, p) => s + of(p), 0) / points.length;
  const [ma, ml] = [mean((p) => p.alpha), mean((p) => p.cl)];
  let top = 0;
  let below = 0;
  for (const p of points) {
    top += (p.alpha - ma) * (p.cl - ml);
    below += (p.alpha - ma) ** 2;
  }
  return top / below;
}

/** What a curve has at a lift coefficient that a design flies at. */
export interface AtLift {
  cd: number;
  cm: number;
  alphaDeg: number;
  /** How far the lift may rise and fall before an edge of the low-drag range; negative outside. */
  toEdge: number;
}

/** Reads a curve at a lift coefficient, before the stall. @returns null where the curve does not pass it. */
export function polarAtLift(points: readonly ViscousPoint[], cl: number): AtLift | null {
  const before = points
    .filter(isSolved)
    .filter((p) => !pastStall(p))
    .sort((a, b) => a.alpha - b.alpha);
  const i = before.findIndex((b, k) => k > 0 && before[k - 1].cl <= cl && b.cl >= cl);
  if (i < 0) return null;
  const [a, b] = [before[i - 1], before[i]];
  const at = (of: (p: SolvedPoint) => number) => (b.cl === a.cl ? of(a) : between(cl, a.cl, of(a), b.cl, of(b)));
  const range = leastDrag(before).lowDragRange!;
  return {
    cd: at((p) => p.cd),
    cm: at((p) => p.cm),
    alphaDeg: at((p) => p.alpha) * DEG,
    toEdge: Math.min(range[1] - cl, cl - range[0]),
  };
}
