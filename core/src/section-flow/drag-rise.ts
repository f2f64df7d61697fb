import { rootBetween } from '../numerics';
import { criticalPressure } from './inviscid';

const LOWEST_MACH = 0.02;
const HIGHEST_MACH = 0.99;

/** Pressure coefficient at a Mach number from that of incompressible flow. @source NACA TN-1006, 1946 (Kármán–Tsien). */
export function compressiblePressure(cp: number, mach: number): number {
  const beta = Math.sqrt(1 - mach * mach);
  return cp / (beta + ((mach * mach) / (1 + beta)) * 0.5 * cp);
}

/**
 * Critical Mach number: that of the stream at which the speed of sound is first reached on the section.
 * @param cpMin least pressure coefficient in incompressible flow, negative. @returns 1 where nothing is faster than the stream.
 */
export function criticalMach(cpMin: number): number {
  if (!(cpMin < 0)) return 1;
  // Where the rule's denominator vanishes the flow is far beyond sonic.
  const above = (mach: number) => {
    const beta = Math.sqrt(1 - mach * mach);
    const denominator = beta + ((mach * mach) / (1 + beta)) * 0.5 * cpMin;
    return denominator <= 0 ? 1 : criticalPressure(mach) - cpMin / denominator;
  };
  if (above(LOWEST_MACH) > 0) return LOWEST_MACH;
  return above(HIGHEST_MACH) < 0 ? 1 : rootBetween(above, LOWEST_MACH, HIGHEST_MACH, 1e-9);
}

/**
 * Wave drag a little past the critical Mach number: 20 (M − M_crit)⁴.
 * @source Journal of Aircraft 32(2), 1995, 431–438 (not at hand; the law itself is of 1945). An estimate, not a part of the solution.
 */
export function waveDrag(mach: number, critical: number): number {
  return mach > critical ? 20 * (mach - critical) ** 4 : 0;
}
