import { PRIMARY, QUANTITY } from './station';

/**
 * Residuals of an interval, three of them (shear lag, momentum, energy shape), each as a value and its derivatives:
 * [value, ∂∕∂(C, θ, δ*, U) of the first station, the same of the second, ∂∕∂x₁, ∂∕∂x₂, ∂∕∂(place of transition)].
 */
export const RESIDUAL = 12;
export const INTERVAL_RECORD = 3 * RESIDUAL;

const LAG = 4.2;

/** Adds ∂R∕∂q · ∂q∕∂(C, θ, δ*, U) for a quantity of a station to a residual's derivatives. */
function chain(out: Float64Array, at: number, by: number, record: Float64Array, quantity: number): void {
  out[at] += by * record[quantity + 1];
  out[at + 1] += by * record[quantity + 2];
  out[at + 2] += by * record[quantity + 3];
  out[at + 3] += by * record[quantity + 4];
}

/**
 * Residuals between two stations of one kind.
 *
 * Momentum and energy are integrated over ln ξ, in which similar flows are constant, so they come out exactly:
 *   Δ ln θ + (H + 2 − M²) Δ ln u = ½ (ξ∕θ) Cf · Δ ln ξ
 *   Δ ln H* + (2H**∕H* + 1 − H) Δ ln u = (ξ∕θ)(2CD∕H* − ½ Cf) · Δ ln ξ
 * Means are central where the shape changes slowly and lean on the second station where it jumps. The shape in both equations counts still air
 * behind a blunt edge too. A laminar layer has no equation of lag; its first residual is left zero.
 * @param ra, rb records of the stations, at `a` and `b`. @param x1, x2 arc length from the stagnation point, chords.
 */
export function intervalResiduals(
  out: Float64Array,
  ra: Float64Array,
  a: number,
  rb: Float64Array,
  b: number,
  x1: number,
  x2: number,
  laminar: boolean,
): void {
  out.fill(0, 0, INTERVAL_RECORD);
  const ka = ra[a + QUANTITY.kinematic] - 1;
  const kb = rb[b + QUANTITY.kinematic] - 1;
  const jump = Math.log(kb / ka);
  const spread = Math.exp(-jump * jump);
  const w = 1 - 0.5 * spread;
  const v = 1 - w;
  const wByJump = spread * jump;
  const logX = Math.log(x2 / x1);
  const thetaA = ra[a + PRIMARY.theta];
  const thetaB = rb[b + PRIMARY.theta];
  const uA = ra[a + PRIMARY.speed];
  const uB = rb[b + PRIMARY.speed];
  const logU = Math.log(uB / uA);
  const hA = ra[a + QUANTITY.total];
  const hB = rb[b + QUANTITY.total];
  const mA = ra[a + QUANTITY.machSquared];
  const mB = rb[b + QUANTITY.machSquared];
  const shape = v * hA + w * hB;
  const mach = v * mA + w * mB;
  const kfA = (0.5 * x1) / thetaA;
  const kfB = (0.5 * x2) / thetaB;
  const cfA = kfA * ra[a + QUANTITY.friction];
  const cfB = kfB * rb[b + QUANTITY.friction];
  const cf = v * cfA + w * cfB;
  const cdA = 2 * kfA * ra[a + QUANTITY.dissipation];
  const cdB = 2 * kfB * rb[b + QUANTITY.dissipation];
  const cd = v * cdA + w * cdB;
  const rhoA = ra[a + QUANTITY.density];
  const rhoB = rb[b + QUANTITY.density];
  const pressure = 1 + 2 * (v * rhoA + w * rhoB) - shape;

  // Momentum.
  let at = RESIDUAL;
  const factor = 2 + shape - mach;
  out[at] = Math.log(thetaB / thetaA) + factor * logU - cf * logX;
  let da = at + 1;
  let db = at + 5;
  chain(out, da, v * logU, ra, a + QUANTITY.total);
  chain(out, db, w * logU, rb, b + QUANTITY.total);
  chain(out, da, -v * logU, ra, a + QUANTITY.machSquared);
  chain(out, db, -w * logU, rb, b + QUANTITY.machSquared);
  chain(out, da, -v * logX * kfA, ra, a + QUANTITY.friction);
  chain(out, db, -w * logX * kfB, rb, b + QUANTITY.friction);
  out[da + 1] += -1 / thetaA + (v * logX * cfA) / thetaA;
  out[db + 1] += 1 / thetaB + (w * logX * cfB) / thetaB;
  out[da + 3] -= factor / uA;
  out[db + 3] += factor / uB;
  out[at + 9] = (-v * cfA * logX + cf) / x1;
  out[at + 10] = (-w * cfB * logX - cf) / x2;
  const byW = (hB - hA - mB + mA) * logU - (cfB - cfA) * logX;
  chain(out, da, (-byW * wByJump) / ka, ra, a + QUANTITY.kinematic);
  chain(out, db, (byW * wByJump) / kb, rb, b + QUANTITY.kinematic);

  // Energy.
  at = 2 * RESIDUAL;
  da = at + 1;
  db = at + 5;
  const eA = ra[a + QUANTITY.energy];
  const eB = rb[b + QUANTITY.energy];
  out[at] = Math.log(eB / eA) + pressure * logU - (cd - cf) * logX;
  chain(out, da, -1 / eA, ra, a + QUANTITY.energy);
  chain(out, db, 1 / eB, rb, b + QUANTITY.energy);
  chain(out, da, 2 * v * logU, ra, a + QUANTITY.density);
  chain(out, db, 2 * w * logU, rb, b + QUANTITY.density);
  chain(out, da, -v * logU, ra, a + QUANTITY.total);
  chain(out, db, -w * logU, rb, b + QUANTITY.total);
  chain(out, da, -2 * v * logX * kfA, ra, a + QUANTITY.dissipation);
  chain(out, db, -2 * w * logX * kfB, rb, b + QUANTITY.dissipation);
  chain(out, da, v * logX * kfA, ra, a + QUANTITY.friction);
  chain(out, db, w * logX * kfB, rb, b + QUANTITY.friction);
  out[da + 1] += (v * logX * (cdA - cfA)) / thetaA;
  out[db + 1] += (w * logX * (cdB - cfB)) / thetaB;
  out[da + 3] -= pressure / uA;
  out[db + 3] += pressure / uB;
  out[at + 9] = (-v * (cdA - cfA) * logX + (cd - cf)) / x1;
  out[at + 10] = (-w * (cdB - cfB) * logX - (cd - cf)) / x2;
  const energyByW = (2 * (rhoB - rhoA) - hB + hA) * logU - (cdB - cdA - cfB + cfA) * logX;
  chain(out, da, (-energyByW * wByJump) / ka, ra, a + QUANTITY.kinematic);
  chain(out, db, (energyByW * wByJump) / kb, rb, b + QUANTITY.kinematic);
  if (laminar) return;

  // Lag of the shear stress.
  const dx = x2 - x1;
  const cA = ra[a + PRIMARY.c];
  const cB = rb[b + PRIMARY.c];
  const tA = ra[a + QUANTITY.thickness];
  const tB = rb[b + QUANTITY.thickness];
  const qA = ra[a + QUANTITY.equilibrium];
  const qB = rb[b + QUANTITY.equilibrium];
  const logC = Math.log(cB / cA);
  const thick = v * tA + w * tB;
  const lag = v * (qA - cA) + w * (qB - cB);
  out[0] = 2 * thick * logC - LAG * lag * dx;
  chain(out, 1, 2 * v * logC, ra, a + QUANTITY.thickness);
  chain(out, 5, 2 * w * logC, rb, b + QUANTITY.thickness);
  chain(out, 1, -LAG * dx * v, ra, a + QUANTITY.equilibrium);
  chain(out, 5, -LAG * dx * w, rb, b + QUANTITY.equilibrium);
  out[1] += (-2 * thick) / cA + LAG * dx * v;
  out[5] += (2 * thick) / cB + LAG * dx * w;
  out[9] = LAG * lag;
  out[10] = -LAG * lag;
  const lagByW = 2 * (tB - tA) * logC - LAG * dx * (qB - cB - qA + cA);
  chain(out, 1, (-lagByW * wByJump) / ka, ra, a + QUANTITY.kinematic);
  chain(out, 5, (lagByW * wByJump) / kb, rb, b + QUANTITY.kinematic);
}

/**
 * Residuals at the first station, where the flow is similar with u ~ ξᵐ: the same equations with d ln u∕d ln ξ = m, θ ~ ξ^((1−m)∕2) and a constant
 * shape. Derivatives stand in the second station's place; no disturbance has grown.
 */
export function similarityResiduals(out: Float64Array, record: Float64Array, a: number, x: number, m: number): void {
  out.fill(0, 0, INTERVAL_RECORD);
  const theta = record[a + PRIMARY.theta];
  const k = (0.5 * x) / theta;
  const cf = k * record[a + QUANTITY.friction];
  const cd = 2 * k * record[a + QUANTITY.dissipation];
  let at = RESIDUAL;
  out[at] = 0.5 * (1 - m) + m * (2 + record[a + QUANTITY.total] - record[a + QUANTITY.machSquared]) - cf;
  chain(out, at + 5, m, record, a + QUANTITY.total);
  chain(out, at + 5, -m, record, a + QUANTITY.machSquared);
  chain(out, at + 5, -k, record, a + QUANTITY.friction);
  out[at + 6] += cf / theta;
  out[at + 10] = -cf / x;
  at = 2 * RESIDUAL;
  out[at] = m * (1 + 2 * record[a + QUANTITY.density] - record[a + QUANTITY.total]) - (cd - cf);
  chain(out, at + 5, 2 * m, record, a + QUANTITY.density);
  chain(out, at + 5, -m, record, a + QUANTITY.total);
  chain(out, at + 5, -2 * k, record, a + QUANTITY.dissipation);
  chain(out, at + 5, k, record, a + QUANTITY.friction);
  out[at + 6] += (cd - cf) / theta;
  out[at + 10] = -(cd - cf) / x;
}
