import type { StripLoad } from './loads';

/** The elliptic load that gives the same lift: cl·c over the mean chord at a share of the half span. */
export function ellipticLoad(CL: number, share: number): number {
  return ((4 * CL) / Math.PI) * Math.sqrt(Math.max(0, 1 - share * share));
}

/** The load of one side of a surface, and the ellipse that carries the same. */
export interface EllipseFit {
  /** Lift coefficient of the surface by itself, on the mean chord that loads are told on. */ CL: number;
  /** Root mean square of the difference over the greatest of the ellipse, the measure that the twist is solved by; null where the surface does not lift. */
  deviation: number | null;
  /** Load less that of the ellipse, in the order of the strips. */ differences: number[];
}

/** Lift below which a surface has no shape of load. */
const NO_LIFT = 1e-4;

/**
 * The ellipse that belongs to the strips of one surface.
 * @param strips of one side of one surface. @param meanChord that loads are told on, m.
 */
export function ellipseOf(strips: readonly StripLoad[], meanChord: number): EllipseFit {
  const load = (s: StripLoad) => (s.cl * s.chord) / meanChord;
  const span = strips.reduce((sum, s) => sum + s.width, 0);
  if (!(span > 0)) return { CL: 0, deviation: null, differences: [] };
  const CL = strips.reduce((sum, s) => sum + load(s) * s.width, 0) / span;
  const differences = strips.map((s) => load(s) - ellipticLoad(CL, Math.abs(s.station)));
  const square = strips.reduce((sum, s, i) => sum + differences[i] ** 2 * s.width, 0) / span;
  const greatest = Math.abs(ellipticLoad(CL, 0));
  return { CL, deviation: Math.abs(CL) < NO_LIFT ? null : Math.sqrt(square) / greatest, differences };
}
