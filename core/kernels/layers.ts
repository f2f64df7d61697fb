// The equations of layers station by station: ../src/section-flow/{boundary-layer/interval,viscous/equations}.ts in one pass over memory.
import {
  DENSITY,
  DISSIPATION,
  ENERGY,
  EQUILIBRIUM,
  evaluateStation,
  FRICTION,
  KINEMATIC,
  LAMINAR,
  MACH_SQUARED,
  STATION_RECORD,
  THICKNESS,
  TOTAL,
  WAKE,
} from './station';

const RESIDUAL: usize = 12 * 8;
const KEPT: i32 = 24;
const LAG: f64 = 4.2;

// @ts-ignore: decorator
@inline
function at(base: usize, i: i32): usize {
  return base + (<usize>i << 3);
}

// @ts-ignore: decorator
@inline
function recordOf(record: usize, node: i32): usize {
  return record + ((<usize>(node * STATION_RECORD)) << 3);
}

// @ts-ignore: decorator
@inline
function nodeAt(order: usize, p: i32): i32 {
  return load<i32>(order + (<usize>p << 2));
}

/** Speed at the edge from that of the plane without compressibility, with its slope after it. */
// @ts-ignore: decorator
@inline
function edgeSpeed(u: f64, l: f64): f64 {
  return l == 0 ? u : (u * (1 - l)) / (1 - l * u * u);
}
// @ts-ignore: decorator
@inline
function edgeSlope(u: f64, l: f64): f64 {
  const d = 1 - l * u * u;
  return l == 0 ? 1 : ((1 - l) * (1 + l * u * u)) / (d * d);
}

/**
 * Records of the first `count` stations of `order`. By node: kind (i32; 0 laminar, 1 turbulent, 2 wake), sign of its side, C, θ, mass defect, speed of the
 * plane, still air. @param stream Reynolds number, Mach number, λ of Kármán and Tsien.
 */
export function recordStations(
  order: usize,
  count: i32,
  kind: usize,
  signs: usize,
  c: usize,
  theta: usize,
  mass: usize,
  velocity: usize,
  dead: usize,
  stream: usize,
  record: usize,
): void {
  const reynolds = load<f64>(stream);
  const mach = load<f64>(stream, 8);
  const l = load<f64>(stream, 16);
  for (let p = 0; p < count; p++) {
    const node = nodeAt(order, p);
    const sign = load<f64>(at(signs, node));
    const speed = edgeSpeed(sign * load<f64>(at(velocity, node)), l);
    evaluateStation(
      recordOf(record, node),
      load<i32>(kind + (<usize>node << 2)),
      load<f64>(at(c, node)),
      load<f64>(at(theta, node)),
      (sign * load<f64>(at(mass, node))) / speed,
      speed,
      reynolds,
      mach,
      load<f64>(at(dead, node)),
    );
  }
}

/** Adds ∂R∕∂q · ∂q∕∂(C, θ, δ*, U) of a quantity to a residual's derivatives. */
// @ts-ignore: decorator
@inline
function chain(out: usize, by: f64, quantity: usize): void {
  const k = f64x2.splat(by);
  v128.store(out, f64x2.add(v128.load(out), f64x2.mul(k, v128.load(quantity, 8))));
  v128.store(out, f64x2.add(v128.load(out, 16), f64x2.mul(k, v128.load(quantity, 24))), 16);
}

// @ts-ignore: decorator
@inline
function add(p: usize, v: f64): void {
  store<f64>(p, load<f64>(p) + v);
}

function intervalResiduals(out: usize, ra: usize, rb: usize, x1: f64, x2: f64, laminar: bool): void {
  memory.fill(out, 0, 3 * RESIDUAL);
  const ka = load<f64>(ra + KINEMATIC) - 1;
  const kb = load<f64>(rb + KINEMATIC) - 1;
  const jump = Math.log(kb / ka);
  const spread = Math.exp(-jump * jump);
  const w = 1 - 0.5 * spread;
  const v = 1 - w;
  const wByJump = spread * jump;
  const logX = Math.log(x2 / x1);
  const thetaA = load<f64>(ra, 8);
  const thetaB = load<f64>(rb, 8);
  const uA = load<f64>(ra, 16);
  const uB = load<f64>(rb, 16);
  const logU = Math.log(uB / uA);
  const hA = load<f64>(ra + TOTAL);
  const hB = load<f64>(rb + TOTAL);
  const mA = load<f64>(ra + MACH_SQUARED);
  const mB = load<f64>(rb + MACH_SQUARED);
  const shape = v * hA + w * hB;
  const mach = v * mA + w * mB;
  const kfA = (0.5 * x1) / thetaA;
  const kfB = (0.5 * x2) / thetaB;
  const cfA = kfA * load<f64>(ra + FRICTION);
  const cfB = kfB * load<f64>(rb + FRICTION);
  const cf = v * cfA + w * cfB;
  const cdA = 2 * kfA * load<f64>(ra + DISSIPATION);
  const cdB = 2 * kfB * load<f64>(rb + DISSIPATION);
  const cd = v * cdA + w * cdB;
  const rhoA = load<f64>(ra + DENSITY);
  const rhoB = load<f64>(rb + DENSITY);
  const pressure = 1 + 2 * (v * rhoA + w * rhoB) - shape;

  // Momentum.
  let row = out + RESIDUAL;
  let da = row + 8;
  let db = row + 40;
  const factor = 2 + shape - mach;
  store<f64>(row, Math.log(thetaB / thetaA) + factor * logU - cf * logX);
  chain(da, v * logU, ra + TOTAL);
  chain(db, w * logU, rb + TOTAL);
  chain(da, -v * logU, ra + MACH_SQUARED);
  chain(db, -w * logU, rb + MACH_SQUARED);
  chain(da, -v * logX * kfA, ra + FRICTION);
  chain(db, -w * logX * kfB, rb + FRICTION);
  add(da + 8, -1 / thetaA + (v * logX * cfA) / thetaA);
  add(db + 8, 1 / thetaB + (w * logX * cfB) / thetaB);
  add(da + 24, -factor / uA);
  add(db + 24, factor / uB);
  store<f64>(row, (-v * cfA * logX + cf) / x1, 72);
  store<f64>(row, (-w * cfB * logX - cf) / x2, 80);
  const byW = (hB - hA - mB + mA) * logU - (cfB - cfA) * logX;
  chain(da, (-byW * wByJump) / ka, ra + KINEMATIC);
  chain(db, (byW * wByJump) / kb, rb + KINEMATIC);

  // Energy.
  row = out + 2 * RESIDUAL;
  da = row + 8;
  db = row + 40;
  const eA = load<f64>(ra + ENERGY);
  const eB = load<f64>(rb + ENERGY);
  store<f64>(row, Math.log(eB / eA) + pressure * logU - (cd - cf) * logX);
  chain(da, -1 / eA, ra + ENERGY);
  chain(db, 1 / eB, rb + ENERGY);
  chain(da, 2 * v * logU, ra + DENSITY);
  chain(db, 2 * w * logU, rb + DENSITY);
  chain(da, -v * logU, ra + TOTAL);
  chain(db, -w * logU, rb + TOTAL);
  chain(da, -2 * v * logX * kfA, ra + DISSIPATION);
  chain(db, -2 * w * logX * kfB, rb + DISSIPATION);
  chain(da, v * logX * kfA, ra + FRICTION);
  chain(db, w * logX * kfB, rb + FRICTION);
  add(da + 8, (v * logX * (cdA - cfA)) / thetaA);
  add(db + 8, (w * logX * (cdB - cfB)) / thetaB);
  add(da + 24, -pressure / uA);
  add(db + 24, pressure / uB);
  store<f64>(row, (-v * (cdA - cfA) * logX + (cd - cf)) / x1, 72);
  store<f64>(row, (-w * (cdB - cfB) * logX - (cd - cf)) / x2, 80);
  const energyByW = (2 * (rhoB - rhoA) - hB + hA) * logU - (cdB - cdA - cfB + cfA) * logX;
  chain(da, (-energyByW * wByJump) / ka, ra + KINEMATIC);
  chain(db, (energyByW * wByJump) / kb, rb + KINEMATIC);
  if (laminar) return;

  // Lag of the shear stress.
  const dx = x2 - x1;
  const cA = load<f64>(ra);
  const cB = load<f64>(rb);
  const tA = load<f64>(ra + THICKNESS);
  const tB = load<f64>(rb + THICKNESS);
  const qA = load<f64>(ra + EQUILIBRIUM);
  const qB = load<f64>(rb + EQUILIBRIUM);
  const logC = Math.log(cB / cA);
  const thick = v * tA + w * tB;
  const lag = v * (qA - cA) + w * (qB - cB);
  da = out + 8;
  db = out + 40;
  store<f64>(out, 2 * thick * logC - LAG * lag * dx);
  chain(da, 2 * v * logC, ra + THICKNESS);
  chain(db, 2 * w * logC, rb + THICKNESS);
  chain(da, -LAG * dx * v, ra + EQUILIBRIUM);
  chain(db, -LAG * dx * w, rb + EQUILIBRIUM);
  add(da, (-2 * thick) / cA + LAG * dx * v);
  add(db, (2 * thick) / cB + LAG * dx * w);
  store<f64>(out, LAG * lag, 72);
  store<f64>(out, -LAG * lag, 80);
  const lagByW = 2 * (tB - tA) * logC - LAG * dx * (qB - cB - qA + cA);
  chain(da, (-lagByW * wByJump) / ka, ra + KINEMATIC);
  chain(db, (lagByW * wByJump) / kb, rb + KINEMATIC);
}

/**
 * Intervals between the stations `from … to` of `order` but for the one that ends at `except`: three residuals a node, and the response of its own
 * (C, θ, u) to everything else. @param x by node, distance from the stagnation point. @param scratch 36 doubles. @param residual three a node.
 */
export function intervals(
  order: usize,
  from: i32,
  to: i32,
  except: i32,
  kind: usize,
  signs: usize,
  velocity: usize,
  x: usize,
  stream: usize,
  record: usize,
  kept: usize,
  residual: usize,
  scratch: usize,
): void {
  const l = load<f64>(stream, 16);
  for (let p = from + 1; p < to; p++) {
    if (p == except) continue;
    const a = nodeAt(order, p - 1);
    const b = nodeAt(order, p);
    const kindA = load<i32>(kind + (<usize>a << 2));
    const kindB = load<i32>(kind + (<usize>b << 2));
    const ra = recordOf(record, a);
    const rb = recordOf(record, b);
    const laminar = kindB == LAMINAR;
    intervalResiduals(scratch, ra, rb, load<f64>(at(x, a)), load<f64>(at(x, b)), laminar);
    store<f64>(at(residual, 3 * b), laminar ? 0 : (load<f64>(scratch) * 0.5) / load<f64>(rb + THICKNESS));
    store<f64>(at(residual, 3 * b), load<f64>(scratch + RESIDUAL), 8);
    store<f64>(at(residual, 3 * b), load<f64>(scratch + 2 * RESIDUAL), 16);
    // A laminar layer has no equation for C: n follows from the rest.
    if (laminar) store<f64>(scratch, 1, 40);
    const signA = load<f64>(at(signs, a));
    const signB = load<f64>(at(signs, b));
    const massA = 1 / load<f64>(ra, 16);
    const deltaA = -load<f64>(ra, 24) * massA;
    const speedA = edgeSlope(signA * load<f64>(at(velocity, a)), l);
    const massB = 1 / load<f64>(rb, 16);
    const deltaB = -load<f64>(rb, 24) * massB;
    const speedB = edgeSlope(signB * load<f64>(at(velocity, b)), l);
    const inWake = kindB == WAKE;
    const s0 = scratch;
    const s1 = scratch + RESIDUAL;
    const s2 = scratch + 2 * RESIDUAL;
    // The block of its own (C, θ, u) by rows, inverted.
    const m00 = load<f64>(s0, 40);
    const m10 = load<f64>(s1, 40);
    const m20 = load<f64>(s2, 40);
    const m01 = load<f64>(s0, 48);
    const m11 = load<f64>(s1, 48);
    const m21 = load<f64>(s2, 48);
    const m02 = (load<f64>(s0, 64) + load<f64>(s0, 56) * deltaB) * speedB;
    const m12 = (load<f64>(s1, 64) + load<f64>(s1, 56) * deltaB) * speedB;
    const m22 = (load<f64>(s2, 64) + load<f64>(s2, 56) * deltaB) * speedB;
    const c0 = m11 * m22 - m12 * m21;
    const c1 = m10 * m22 - m12 * m20;
    const c2 = m10 * m21 - m11 * m20;
    const det = m00 * c0 - m01 * c1 + m02 * c2;
    const k = isFinite(det) && abs(det) >= 1e-300 ? -1 / det : 0;
    const i00 = c0 * k;
    const i01 = (m02 * m21 - m01 * m22) * k;
    const i02 = (m01 * m12 - m02 * m11) * k;
    const i10 = -c1 * k;
    const i11 = (m00 * m22 - m02 * m20) * k;
    const i12 = (m02 * m10 - m00 * m12) * k;
    const i20 = c2 * k;
    const i21 = (m01 * m20 - m00 * m21) * k;
    const i22 = (m00 * m11 - m01 * m10) * k;
    const out = at(kept, b * KEPT);
    const held = kindA != LAMINAR;
    for (let column = 0; column < 8; column++) {
      let p0: f64 = 0;
      let p1: f64 = 0;
      let p2: f64 = 0;
      if (column == 0) {
        if (held) {
          p0 = load<f64>(s0, 8);
          p1 = load<f64>(s1, 8);
          p2 = load<f64>(s2, 8);
        }
      } else if (column == 1) {
        p0 = load<f64>(s0, 16);
        p1 = load<f64>(s1, 16);
        p2 = load<f64>(s2, 16);
      } else if (column == 2) {
        p0 = (load<f64>(s0, 32) + load<f64>(s0, 24) * deltaA) * speedA;
        p1 = (load<f64>(s1, 32) + load<f64>(s1, 24) * deltaA) * speedA;
        p2 = (load<f64>(s2, 32) + load<f64>(s2, 24) * deltaA) * speedA;
      } else if (column == 3) {
        p0 = load<f64>(s0, 24) * massA;
        p1 = load<f64>(s1, 24) * massA;
        p2 = load<f64>(s2, 24) * massA;
      } else if (column == 4) {
        p0 = load<f64>(s0, 56) * massB;
        p1 = load<f64>(s1, 56) * massB;
        p2 = load<f64>(s2, 56) * massB;
      } else if (column == 5) {
        p0 = load<f64>(s0);
        p1 = load<f64>(s1);
        p2 = load<f64>(s2);
      } else if (!inWake) {
        // All abscissae move with the stagnation point; the place of transition is none of these.
        if (column == 6) {
          p0 = -signB * (load<f64>(s0, 72) + load<f64>(s0, 80) + load<f64>(s0, 88));
          p1 = -signB * (load<f64>(s1, 72) + load<f64>(s1, 80) + load<f64>(s1, 88));
          p2 = -signB * (load<f64>(s2, 72) + load<f64>(s2, 80) + load<f64>(s2, 88));
        } else {
          p0 = signB * load<f64>(s0, 88);
          p1 = signB * load<f64>(s1, 88);
          p2 = signB * load<f64>(s2, 88);
        }
      }
      const v0 = i00 * p0 + i01 * p1 + i02 * p2;
      const v1 = i10 * p0 + i11 * p1 + i12 * p2;
      const v2 = i20 * p0 + i21 * p1 + i22 * p2;
      if (column < 3) {
        store<f64>(at(out, column), v0);
        store<f64>(at(out, 3 + column), v1);
        store<f64>(at(out, 6 + column), v2);
      } else {
        store<f64>(at(out, 3 * column), v0);
        store<f64>(at(out, 3 * column + 1), v1);
        store<f64>(at(out, 3 * column + 2), v2);
      }
    }
  }
}
