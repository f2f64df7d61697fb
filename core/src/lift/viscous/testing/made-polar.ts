import type { LiftingSurface } from '../../../airframe';
import { RAD } from '../../../numerics';
import type { PolarCurve } from '../polar-curve';

/** A polar that is made up: straight, then rounded off to its crest, falling behind it; drag grows with the square of what is lost. */
export function madePolar(
  reynolds: number,
  { slope = 6, zero = -3, bends = 9, fall = 14, crest = 15 } = {},
): PolarCurve {
  const out: PolarCurve = { reynolds, alpha: [], cl: [], cd: [], cm: [] };
  for (let a = -14; a <= 24; a += 0.5) {
    const over = Math.max(0, a - bends) * RAD;
    const under = Math.max(0, -10 - a) * RAD;
    const past = Math.max(0, a - crest) * RAD;
    out.alpha.push(a * RAD);
    const straight = slope * (a - zero) * RAD;
    out.cl.push(straight - (slope / (2 * (crest - bends) * RAD)) * over ** 2 - fall * past ** 2 + 8 * under ** 2);
    out.cd.push(0.008 + 0.0004 * straight ** 2 + 1.4 * over ** 2 + 1.4 * under ** 2);
    out.cm.push(-0.07 + 0.02 * over);
  }
  return out;
}
/** A straight wing for tests, of the section `s`. */
export function madeWing(
  span: number,
  rootChord: number,
  tipChord: number,
  more: Partial<LiftingSurface> = {},
): LiftingSurface {
  return {
    id: 'wing',
    name: 'Wing',
    role: 'wing',
    plane: 'horizontal',
    mirrored: true,
    position: { x: 0, y: 0, z: 0 },
    incidenceDeg: 0,
    stations: [
      { chord: rootChord, twistDeg: 0, section: 's' },
      { chord: tipChord, twistDeg: 0, section: 's' },
    ],
    bays: [{ span: span / 2, sweepDeg: 0, dihedralDeg: 0 }],
    ...more,
  };
}
