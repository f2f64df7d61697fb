import { rootBetween } from '../numerics';

/** Margins of an open loop: of those that cross, the nearest to the critical point; null where nothing crosses. */
export interface Margins {
  gainMarginDb: number | null;
  phaseMarginDeg: number | null;
  /** rad/s, where the loop's gain is 1. */ gainCrossover: number | null;
  /** rad/s, where its phase is −180°. */ phaseCrossover: number | null;
}

type Complex = [number, number];
const POINTS = 4000;

/** A root of f between two places, found over the logarithm of the frequency. */
const root = (f: (w: number) => number, a: number, b: number): number =>
  Math.exp(rootBetween((v) => f(Math.exp(v)), Math.log(a), Math.log(b), 1e-14));

/**
 * Gain and phase margins of an open loop, a delay counted exactly.
 * @param at response at a frequency, rad/s. @param corners frequencies of its poles, rad/s, about which it is looked closer.
 * @param points that crossings are looked for at first, evenly in the logarithm. @param most the highest frequency that is looked at, rad/s.
 */
export function marginsOf(
  at: (w: number) => Complex,
  corners: readonly number[],
  points = POINTS,
  most = Infinity,
): Margins {
  // Both poles of a pair have one corner.
  const known = [...new Set(corners.map((c) => Number(c.toPrecision(9))))].filter((c) => c > 1e-9 && c < most);
  const [low, high] = [1e-4 * Math.min(1, ...known), Math.min(most, 1e4 * Math.max(1, ...known))];
  const grid = Array.from({ length: points }, (_, i) => low * (high / low) ** (i / (points - 1)));
  // A lightly damped pole turns the loop within a narrow band.
  const near = points < POINTS ? 8 : 40;
  for (const c of known) for (let k = -near; k <= near; k++) grid.push(Math.min(high, c * (1 + k / (10 * near))));
  grid.sort((a, b) => a - b);
  const values = grid.map(at);
  const size = (v: Complex) => Math.hypot(v[0], v[1]);
  const gains: number[] = [];
  const phases: number[] = [];
  for (let i = 0; i + 1 < grid.length; i++) {
    const [a, b] = [values[i], values[i + 1]];
    if (!Number.isFinite(a[0]) || !Number.isFinite(b[0]) || grid[i] === grid[i + 1]) continue;
    if (Math.log(size(a)) * Math.log(size(b)) < 0) gains.push(root((w) => Math.log(size(at(w))), grid[i], grid[i + 1]));
    // The negative real axis is crossed; the positive one says nothing.
    if (a[1] * b[1] < 0 && (a[0] < 0 || b[0] < 0)) {
      const w = root((v) => at(v)[1], grid[i], grid[i + 1]);
      if (at(w)[0] < 0) phases.push(w);
    }
  }
  const nearest = (list: number[], of: (w: number) => number) =>
    list.reduce<number | null>((best, w) => (best === null || Math.abs(of(w)) < Math.abs(of(best)) ? w : best), null);
  const gainAt = (w: number) => -20 * Math.log10(size(at(w)));
  const phaseAt = (w: number) => {
    const [re, im] = at(w);
    const deg = 180 + (Math.atan2(im, re) * 180) / Math.PI;
    return deg > 180 ? deg - 360 : deg;
  };
  const phaseCrossover = nearest(phases, gainAt);
  const gainCrossover = nearest(gains, phaseAt);
  return {
    gainMarginDb: phaseCrossover === null ? null : gainAt(phaseCrossover),
    phaseMarginDeg: gainCrossover === null ? null : phaseAt(gainCrossover),
    gainCrossover,
    phaseCrossover,
  };
}

/** Whether a pole dies out, or is so slow that what is outside holds it. */
export const isHeld = ([re, im]: [number, number]): boolean => re < -1e-9 || (Math.hypot(re, im) < 0.1 && re < 0.04);
