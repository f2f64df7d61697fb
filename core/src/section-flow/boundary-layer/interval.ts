import type { DualSpace } from '../../numerics';
import { amplificationRate } from './closures';
import type { StationState } from './station';

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
 * @param x1, x2 arc length from the stagnation point, chords.
 */
export function intervalResiduals(
  s: DualSpace,
  a: StationState,
  b: StationState,
  x1: number,
  x2: number,
  laminar: boolean,
): IntervalResiduals {
  const jump = s.sub(s.log(s.affine(b.kinematic, -1, 1)), s.log(s.affine(a.kinematic, -1, 1)));
  const w = s.affine(s.exp(s.scale(s.square(jump), -1)), 1, -0.5);
  const logX = Math.log(x2 / x1);
  const logU = s.sub(s.log(b.speed), s.log(a.speed));
  const shape = blend(s, a.shape, b.shape, w);
  const mach = blend(s, a.machSquared, b.machSquared, w);
  const halfFriction = (v: StationState, x: number) => s.scale(s.div(v.friction, v.theta), 0.5 * x);
  const loss = (v: StationState, x: number) => s.scale(s.div(v.dissipation, v.theta), x);
  const cf = blend(s, halfFriction(a, x1), halfFriction(b, x2), w);
  const cd = blend(s, loss(a, x1), loss(b, x2), w);
  const momentum = s.sub(
    s.add(s.sub(s.log(b.theta), s.log(a.theta)), s.mul(s.affine(s.sub(shape, mach), 2, 1), logU)),
    s.scale(cf, logX),
  );
  const pressure = s.sub(s.affine(blend(s, s.div(a.density, a.energy), s.div(b.density, b.energy), w), 1, 2), shape);
  const energy = s.sub(
    s.add(s.sub(s.log(b.energy), s.log(a.energy)), s.mul(pressure, logU)),
    s.scale(s.sub(cd, cf), logX),
  );
  const dx = x2 - x1;
  let first: number;
  if (laminar) {
    const rate = s.add(
      amplificationRate(s, a.kinematic, a.reTheta, a.theta),
      amplificationRate(s, b.kinematic, b.reTheta, b.theta),
    );
    first = s.sub(s.sub(b.c, a.c), s.scale(rate, 0.5 * dx));
  } else {
    const thickness = blend(s, a.thickness, b.thickness, w);
    const lag = s.sub(blend(s, a.equilibrium, b.equilibrium, w), blend(s, a.c, b.c, w));
    first = s.sub(s.scale(s.mul(thickness, s.sub(s.log(b.c), s.log(a.c))), 2), s.scale(lag, LAG * dx));
  }
  return { first, momentum, energy };
}

/**
 * Residuals at the first station, where the flow is similar with u ~ ξᵐ: the same equations with d ln u∕d ln ξ = m, θ ~ ξ^((1−m)∕2) and a constant
 * shape. No disturbance has grown.
 */
export function similarityResiduals(s: DualSpace, a: StationState, x: number, m: number): IntervalResiduals {
  const cf = s.scale(s.div(a.friction, a.theta), 0.5 * x);
  const cd = s.scale(s.div(a.dissipation, a.theta), x);
  const momentum = s.sub(s.affine(s.scale(s.affine(s.sub(a.shape, a.machSquared), 2, 1), m), 0.5 * (1 - m), 1), cf);
  const pressure = s.sub(s.affine(s.div(a.density, a.energy), 1, 2), a.shape);
  return { first: a.c, momentum, energy: s.sub(s.scale(pressure, m), s.sub(cd, cf)) };
}
