import type { DualSpace } from '../../numerics';

/**
 * Closure relations of the two-equation integral boundary layer, each as a slot of a dual space with its exact derivatives.
 *
 * Names: shape factor H = δ*∕θ, kinematic shape factor Hk (H of the velocity profile alone), energy shape factor H* = θ*∕θ, density shape factor
 * H** = δ**∕θ, Reθ the momentum-thickness Reynolds number, Cf friction, CD dissipation, Cτ the largest shear stress coefficient.
 * Range: 1 < Hk < about 15; Reθ above about 20 (laminar) and 100 (turbulent).
 * @source AIAA J. 25(10), 1987, 1347–1355.
 */

/** H stays away from its poles; a Newton iterate may stray there, a solution does not. */
export const LEAST_SHAPE = 1.02;
export const LEAST_WAKE_SHAPE = 1.00005;

/** Kinematic shape factor from H and the edge Mach number squared. */
export function kinematicShape(s: DualSpace, h: number, machSquared: number): number {
  return s.div(s.sub(h, s.scale(machSquared, 0.29)), s.affine(machSquared, 1, 0.113));
}

/** Density shape factor H**. */
export function densityShape(s: DualSpace, hk: number, machSquared: number): number {
  const base = s.affine(s.pow(s.affine(hk, -0.8, 1), -1), 0.251, 0.064);
  return s.mul(base, machSquared);
}

/** Laminar H*(Hk). */
export function laminarEnergyShape(s: DualSpace, hk: number): number {
  const factor = s.value(hk) < 4 ? 0.076 : 0.04;
  return s.affine(s.div(s.square(s.affine(hk, -4, 1)), hk), 1.515, factor);
}

/** Laminar friction coefficient. */
export function laminarFriction(s: DualSpace, hk: number, reTheta: number): number {
  const half =
    s.value(hk) < 7.4
      ? s.affine(s.div(s.square(s.affine(hk, 7.4, -1)), s.affine(hk, -1, 1)), -0.067, 0.01977)
      : s.affine(s.square(s.affine(s.pow(s.affine(hk, -6, 1), -1), 1, -1.4)), -0.067, 0.022);
  return s.scale(s.div(half, reTheta), 2);
}

/** Laminar dissipation 2·CD∕H*. */
export function laminarDissipation(s: DualSpace, hk: number, reTheta: number): number {
  let top: number;
  if (s.value(hk) < 4) top = s.affine(s.pow(s.affine(hk, 4, -1), 5.5), 0.207, 0.00205);
  else {
    const d = s.square(s.affine(hk, -4, 1));
    top = s.affine(s.div(d, s.affine(d, 1, 0.02)), 0.207, -0.003);
  }
  return s.div(top, reTheta);
}

/** Turbulent H*(Hk, Reθ). */
export function turbulentEnergyShape(s: DualSpace, hk: number, reTheta: number): number {
  const re = s.value(reTheta) > 200 ? reTheta : s.constant(200);
  const limit = s.value(reTheta) > 400 ? s.affine(s.pow(reTheta, -1), 3, 400) : s.constant(4);
  const base = s.affine(s.pow(re, -1), 1.505, 4);
  const beyond = s.sub(hk, limit);
  if (s.value(beyond) < 0) {
    const factor = s.affine(s.pow(re, -0.5), 0.165, -1.6);
    return s.add(base, s.div(s.mul(factor, s.pow(s.scale(beyond, -1), 1.6)), hk));
  }
  const log = s.log(re);
  const bracket = s.add(
    s.scale(s.pow(hk, -1), 0.04),
    s.scale(s.div(log, s.square(s.add(beyond, s.scale(s.pow(log, -1), 4)))), 0.007),
  );
  return s.add(base, s.mul(s.square(beyond), bracket));
}

/** Turbulent friction coefficient. */
export function turbulentFriction(s: DualSpace, hk: number, reTheta: number, machSquared: number): number {
  const fc = s.sqrt(s.affine(machSquared, 1, 0.2));
  const ratio = s.div(reTheta, fc);
  const log10 = s.scale(s.log(s.value(ratio) > 20 ? ratio : s.constant(20)), 1 / Math.LN10);
  const exponent = s.affine(hk, -1.74, -0.31);
  const power = s.exp(s.mul(exponent, s.log(log10)));
  const main = s.scale(s.mul(s.exp(s.scale(hk, -1.33)), power), 0.3);
  const correction = s.affine(s.tanh(s.affine(hk, 4, -1 / 0.875)), -0.00011, 0.00011);
  return s.div(s.add(main, correction), fc);
}

/** Velocity at which the outer layer slips over the inner one, over the edge velocity. */
export function slipVelocity(s: DualSpace, hk: number, h: number, energyShape: number): number {
  const slip = s.mul(s.scale(energyShape, 0.5), s.affine(s.div(s.affine(hk, -1, 1), h), 1, -4 / 3));
  return s.value(slip) > 0.95 ? s.constant(0.95) : slip;
}

/** Shear stress coefficient in equilibrium. */
export function equilibriumShear(s: DualSpace, hk: number, h: number, energyShape: number, slip: number): number {
  const shape = s.div(s.pow(s.affine(hk, -1, 1), 3), s.mul(s.square(hk), h));
  return s.scale(s.div(s.mul(energyShape, shape), s.affine(slip, 1, -1)), 0.015);
}

/** Thickness of the layer δ, from θ and δ*. */
export function layerThickness(s: DualSpace, hk: number, theta: number, displacement: number): number {
  const thickness = s.add(s.mul(theta, s.affine(s.pow(s.affine(hk, -1, 1), -1), 3.15, 1.72)), displacement);
  const most = s.scale(theta, 12);
  return s.value(thickness) > s.value(most) ? most : thickness;
}

/**
 * Growth of the logarithm of the largest disturbance amplitude, dn∕dξ, by the envelope of the eⁿ method; zero below the critical Reθ, with a
 * short smooth ramp so that a Newton iteration can pass it.
 */
export function amplificationRate(s: DualSpace, hk: number, reTheta: number, theta: number): number {
  const inverse = s.pow(s.affine(hk, -1, 1), -1);
  const critical = s.add(
    s.mul(s.affine(inverse, -0.489, 1.415), s.tanh(s.affine(inverse, -12.9, 20))),
    s.affine(inverse, 0.44, 3.295),
  );
  const log10 = s.scale(s.log(reTheta), 1 / Math.LN10);
  const RAMP = 0.08;
  const over = s.affine(s.sub(log10, critical), 0.5, 1 / (2 * RAMP));
  if (s.value(over) <= 0) return s.constant(0);
  const ramp = s.value(over) >= 1 ? s.constant(1) : s.mul(s.square(over), s.affine(over, 3, -2));
  const slope = s.scale(
    s.sqrt(s.affine(s.square(s.add(s.affine(hk, -3.7, 2.4), s.scale(s.tanh(s.affine(hk, -4.65, 1.5)), 2.5))), 0.25, 1)),
    0.01,
  );
  const length = s.div(s.affine(hk, -14.07, 6.54), s.square(hk));
  // (m + 1)∕2 · l, with m·l the pressure-gradient parameter of the similar profile.
  const gradient = s.affine(s.div(s.square(s.affine(hk, -4, 1)), s.affine(hk, -1, 1)), -0.068, 0.058);
  const factor = s.scale(s.add(gradient, length), 0.5);
  return s.mul(ramp, s.div(s.mul(slope, factor), theta));
}
