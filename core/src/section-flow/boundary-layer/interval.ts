import type { DualSpace } from '../../numerics';
import type { StationState } from './station';

/** What an interval needs to know of a station: any station state, or one adopted from a record. */
export type IntervalState = Pick<
  StationState,
  | 'c'
  | 'theta'
  | 'speed'
  | 'total'
  | 'kinematic'
  | 'energy'
  | 'density'
  | 'friction'
  | 'dissipation'
  | 'machSquared'
  | 'equilibrium'
  | 'thickness'
  | 'growth'
>;

/** The three residuals of an interval, as slots: shear lag or amplification, momentum, energy shape. */
export interface IntervalResiduals {
  first: number;
  momentum: number;
  energy: number;
}

const LAG = 4.2;

/** Mean of two slots with weight w on the second. */
function blend(s: DualSpace, a: number, b: number, w: number): number {
  return s.add(s.mul(a, s.affine(w, 1, -1)), s.mul(b, w));
}

/**
 * Residuals between two stations of one kind.
 *
 * Momentum and energy are integrated over ln ξ, in which similar flows are constant, so they come out exactly:
 *   Δ ln θ + (H + 2 − M²) Δ ln u = ½ (ξ∕θ) Cf · Δ ln ξ
 *   Δ ln H* + (2H**∕H* + 1 − H) Δ ln u = (ξ∕θ)(2CD∕H* − ½ Cf) · Δ ln ξ
 * Means are central where the shape changes slowly and lean on the second station where it jumps.
 * The shape in the momentum and energy equations counts dead air behind a blunt edge too.
 * @param x1, x2 slots of the arc length from the stagnation point, chords.
 */
export function intervalResiduals(
  s: DualSpace,
  a: IntervalState,
  b: IntervalState,
  x1: number,
  x2: number,
  laminar: boolean,
): IntervalResiduals {
  const jump = s.sub(s.log(s.affine(b.kinematic, -1, 1)), s.log(s.affine(a.kinematic, -1, 1)));
  const w = s.affine(s.exp(s.scale(s.square(jump), -1)), 1, -0.5);
  const logX = s.log(s.div(x2, x1));
  const logU = s.sub(s.log(b.speed), s.log(a.speed));
  const shape = blend(s, a.total, b.total, w);
  const mach = blend(s, a.machSquared, b.machSquared, w);
  const halfFriction = (v: IntervalState, x: number) => s.scale(s.div(s.mul(v.friction, x), v.theta), 0.5);
  const loss = (v: IntervalState, x: number) => s.div(s.mul(v.dissipation, x), v.theta);
  const cf = blend(s, halfFriction(a, x1), halfFriction(b, x2), w);
  const cd = blend(s, loss(a, x1), loss(b, x2), w);
  const momentum = s.sub(
    s.add(s.sub(s.log(b.theta), s.log(a.theta)), s.mul(s.affine(s.sub(shape, mach), 2, 1), logU)),
    s.mul(cf, logX),
  );
  const pressure = s.sub(s.affine(blend(s, s.div(a.density, a.energy), s.div(b.density, b.energy), w), 1, 2), shape);
  const energy = s.sub(
    s.add(s.sub(s.log(b.energy), s.log(a.energy)), s.mul(pressure, logU)),
    s.mul(s.sub(cd, cf), logX),
  );
  const dx = s.sub(x2, x1);
  let first: number;
  if (laminar) {
    first = s.sub(s.sub(b.c, a.c), s.scale(s.mul(s.add(a.growth, b.growth), dx), 0.5));
  } else {
    const thickness = blend(s, a.thickness, b.thickness, w);
    const lag = s.sub(blend(s, a.equilibrium, b.equilibrium, w), blend(s, a.c, b.c, w));
    first = s.sub(s.scale(s.mul(thickness, s.sub(s.log(b.c), s.log(a.c))), 2), s.scale(s.mul(lag, dx), LAG));
  }
  return { first, momentum, energy };
}

/**
 * Residuals at the first station, where the flow is similar with u ~ ξᵐ: the same equations with d ln u∕d ln ξ = m, θ ~ ξ^((1−m)∕2) and a constant
 * shape. No disturbance has grown.
 */
export function similarityResiduals(s: DualSpace, a: IntervalState, x: number, m: number): IntervalResiduals {
  const cf = s.scale(s.div(s.mul(a.friction, x), a.theta), 0.5);
  const cd = s.div(s.mul(a.dissipation, x), a.theta);
  const momentum = s.sub(s.affine(s.scale(s.affine(s.sub(a.total, a.machSquared), 2, 1), m), 0.5 * (1 - m), 1), cf);
  const pressure = s.sub(s.affine(s.div(a.density, a.energy), 1, 2), a.total);
  return { first: a.c, momentum, energy: s.sub(s.scale(pressure, m), s.sub(cd, cf)) };
}
