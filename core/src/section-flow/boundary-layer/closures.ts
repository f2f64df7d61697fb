/**
 * Closure relations of the two-equation integral boundary layer, each with its exact partial derivatives, written by hand.
 *
 * Names: shape factor H = δ*∕θ, kinematic shape factor Hk (H of the velocity profile alone), energy shape factor H* = θ*∕θ, density shape factor
 * H** = δ**∕θ, Reθ the momentum-thickness Reynolds number, Cf friction, CD dissipation, Cτ the largest shear stress coefficient.
 * Every function returns its value and leaves its slopes in `slope`: [by Hk, by Reθ, by M² of the edge, by H, by θ].
 * The inner loop has a compiled twin of these and of `station.ts` and `interval.ts` in core/kernels, which a test holds against them.
 * Range: 1 < Hk < about 15; Reθ above about 20 (laminar) and 100 (turbulent).
 * @source AIAA J. 25(10), 1987, 1347–1355.
 */
export const slope = new Float64Array(5);

/** H stays away from its poles; a Newton iterate may stray there, a solution does not. */
export const LEAST_SHAPE = 1.004;
export const LEAST_WAKE_SHAPE = 1.000001;

/** Leaves the slopes of a closure. */
export function slopes(byHk: number, byRe = 0, byMach = 0, byShape = 0, byTheta = 0): void {
  slope[0] = byHk;
  slope[1] = byRe;
  slope[2] = byMach;
  slope[3] = byShape;
  slope[4] = byTheta;
}

/** Kinematic shape factor from H and the edge Mach number squared; slopes by M² and H. */
export function kinematicShape(h: number, machSquared: number): number {
  const d = 1 + 0.113 * machSquared;
  const hk = (h - 0.29 * machSquared) / d;
  slopes(0, 0, (-0.29 - 0.113 * hk) / d, 1 / d);
  return hk;
}

/** Density shape factor H**. */
export function densityShape(hk: number, machSquared: number): number {
  const inverse = 1 / (hk - 0.8);
  const base = 0.064 * inverse + 0.251;
  slopes(-0.064 * inverse * inverse * machSquared, 0, base);
  return base * machSquared;
}

/** Laminar H*(Hk). */
export function laminarEnergyShape(hk: number): number {
  const factor = hk < 4 ? 0.076 : 0.04;
  const d = hk - 4;
  slopes((factor * d * (2 - d / hk)) / hk);
  return 1.515 + (factor * d * d) / hk;
}

/** Laminar friction coefficient. */
export function laminarFriction(hk: number, reTheta: number): number {
  let half: number;
  let byHk: number;
  if (hk < 7.4) {
    const d = 7.4 - hk;
    half = -0.067 + (0.01977 * d * d) / (hk - 1);
    byHk = -0.01977 * d * (2 / (hk - 1) + d / (hk - 1) ** 2);
  } else {
    const inverse = 1 / (hk - 6);
    const f = 1 - 1.4 * inverse;
    half = -0.067 + 0.022 * f * f;
    byHk = 0.044 * f * 1.4 * inverse * inverse;
  }
  const cf = (2 * half) / reTheta;
  slopes((2 * byHk) / reTheta, -cf / reTheta);
  return cf;
}

/** Laminar dissipation 2·CD∕H*. */
export function laminarDissipation(hk: number, reTheta: number): number {
  let top: number;
  let byHk: number;
  if (hk < 4) {
    const d = 4 - hk;
    const power = d ** 4.5;
    top = 0.207 + 0.00205 * power * d;
    byHk = -0.00205 * 5.5 * power;
  } else {
    const d = hk - 4;
    const below = 1 + 0.02 * d * d;
    top = 0.207 - (0.003 * d * d) / below;
    byHk = (-0.006 * d) / (below * below);
  }
  const value = top / reTheta;
  slopes(byHk / reTheta, -value / reTheta);
  return value;
}

/** Turbulent H*(Hk, Reθ). */
export function turbulentEnergyShape(hk: number, reTheta: number): number {
  const moves = reTheta > 200 ? 1 : 0;
  const re = moves ? reTheta : 200;
  const limit = reTheta > 400 ? 3 + 400 / reTheta : 4;
  const limitByRe = reTheta > 400 ? -400 / (reTheta * reTheta) : 0;
  const base = 1.505 + 4 / re;
  const baseByRe = (-4 / (re * re)) * moves;
  const beyond = hk - limit;
  if (beyond < 0) {
    const root = 1 / Math.sqrt(re);
    const factor = 0.165 - 1.6 * root;
    const factorByRe = ((0.8 * root) / re) * moves;
    const p = (-beyond) ** 0.6;
    const power = -beyond * p;
    slopes(
      (factor * (-1.6 * p - power / hk)) / hk,
      baseByRe + (factorByRe * power + factor * 1.6 * p * limitByRe) / hk,
    );
    return base + (factor * power) / hk;
  }
  const log = Math.log(re);
  const logByRe = moves / re;
  const sum = beyond + 4 / log;
  const bracket = 0.04 / hk + (0.007 * log) / (sum * sum);
  const bySum = (-0.014 * log) / (sum * sum * sum);
  const bracketByLog = 0.007 / (sum * sum) - (bySum * 4) / (log * log);
  const square = beyond * beyond;
  slopes(
    2 * beyond * bracket + square * (-0.04 / (hk * hk) + bySum),
    baseByRe - 2 * beyond * limitByRe * bracket + square * (-bySum * limitByRe + bracketByLog * logByRe),
  );
  return base + square * bracket;
}

/** Turbulent friction coefficient. */
export function turbulentFriction(hk: number, reTheta: number, machSquared: number): number {
  const fc = Math.sqrt(1 + 0.2 * machSquared);
  const fcByMach = 0.1 / fc;
  const ratio = reTheta / fc;
  const moves = ratio > 20 ? 1 : 0;
  const log10 = Math.log(moves ? ratio : 20) / Math.LN10;
  const exponent = -1.74 - 0.31 * hk;
  const logarithm = Math.log(log10);
  const main = 0.3 * Math.exp(-1.33 * hk + exponent * logarithm);
  const bend = Math.tanh(4 - hk / 0.875);
  const cf = (main + 0.00011 * (bend - 1)) / fc;
  const byLog = (main * exponent) / log10 / fc / Math.LN10;
  slopes(
    (main * (-1.33 - 0.31 * logarithm) - (0.00011 / 0.875) * (1 - bend * bend)) / fc,
    (byLog / reTheta) * moves,
    (-cf / fc) * fcByMach - (byLog / fc) * fcByMach * moves,
  );
  return cf;
}

/** Growth of the logarithm of the largest disturbance amplitude, dn∕dξ, by the envelope of the eⁿ method; zero below the critical Reθ, with a
 * short smooth ramp so that a Newton iteration can pass it.
 */
export function amplificationRate(hk: number, reTheta: number, theta: number): number {
  const inverse = 1 / (hk - 1);
  const inverseByHk = -inverse * inverse;
  const t = Math.tanh(20 * inverse - 12.9);
  const critical = (1.415 * inverse - 0.489) * t + 3.295 * inverse + 0.44;
  const log10 = Math.log(reTheta) / Math.LN10;
  const RAMP = 0.08;
  const over = (log10 - critical) / (2 * RAMP) + 0.5;
  if (over <= 0) {
    slopes(0);
    return 0;
  }
  const full = over >= 1;
  const ramp = full ? 1 : over * over * (3 - 2 * over);
  const rampBy = full ? 0 : (6 * over * (1 - over)) / (2 * RAMP);
  const criticalByHk = (1.415 * t + (1.415 * inverse - 0.489) * 20 * (1 - t * t) + 3.295) * inverseByHk;
  const bend = Math.tanh(1.5 * hk - 4.65);
  const inner = 2.4 * hk - 3.7 + 2.5 * bend;
  const root = Math.sqrt(inner * inner + 0.25);
  const steep = 0.01 * root;
  const steepByHk = ((0.01 * inner) / root) * (2.4 + 3.75 * (1 - bend * bend));
  const length = (6.54 * hk - 14.07) / (hk * hk);
  const lengthByHk = (6.54 - 2 * length * hk) / (hk * hk);
  // (m + 1)∕2 · l, with m·l the pressure-gradient parameter of the similar profile.
  const d = hk - 4;
  const gradient = 0.058 * d * d * inverse - 0.068;
  const gradientByHk = 0.058 * d * (2 * inverse - d * inverse * inverse);
  const factor = 0.5 * (gradient + length);
  const rate = (steep * factor) / theta;
  slopes(
    (ramp * (steepByHk * factor + steep * 0.5 * (gradientByHk + lengthByHk))) / theta - rate * rampBy * criticalByHk,
    (rate * rampBy) / (reTheta * Math.LN10),
    0,
    0,
    (-ramp * rate) / theta,
  );
  return ramp * rate;
}
