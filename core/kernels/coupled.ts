// Inner loops of the coupled boundary-layer system: everything of size n² or n·k. Rows are of n or n + a few doubles; addresses in bytes.

// @ts-ignore: decorator
@inline
function at(base: usize, i: i32): usize {
  return base + (<usize>i << 3);
}

/** (r0, r1, r2)[low..high) ← T · (r0, r1, r2), T 3 × 3 by rows. */
function extend(r0: usize, r1: usize, r2: usize, low: i32, high: i32, t: usize): void {
  const t0 = v128.load64_splat(t);
  const t1 = v128.load64_splat(t, 8);
  const t2 = v128.load64_splat(t, 16);
  const t3 = v128.load64_splat(t, 24);
  const t4 = v128.load64_splat(t, 32);
  const t5 = v128.load64_splat(t, 40);
  const t6 = v128.load64_splat(t, 48);
  const t7 = v128.load64_splat(t, 56);
  const t8 = v128.load64_splat(t, 64);
  // An odd count takes one element more; rows leave room for it, and the columns beyond hold zeros or are carried anyway.
  for (let j = low; j < high; j += 2) {
    const p = v128.load(at(r0, j));
    const q = v128.load(at(r1, j));
    const r = v128.load(at(r2, j));
    const a = f64x2.add(f64x2.mul(t0, p), f64x2.add(f64x2.mul(t1, q), f64x2.mul(t2, r)));
    const b = f64x2.add(f64x2.mul(t3, p), f64x2.add(f64x2.mul(t4, q), f64x2.mul(t5, r)));
    const c = f64x2.add(f64x2.mul(t6, p), f64x2.add(f64x2.mul(t7, q), f64x2.mul(t8, r)));
    if (j + 1 < high) {
      v128.store(at(r0, j), a);
      v128.store(at(r1, j), b);
      v128.store(at(r2, j), c);
    } else {
      store<f64>(at(r0, j), f64x2.extract_lane(a, 0));
      store<f64>(at(r1, j), f64x2.extract_lane(b, 0));
      store<f64>(at(r2, j), f64x2.extract_lane(c, 0));
    }
  }
}

// @ts-ignore: decorator
@inline
function addTo(row: usize, j: i32, v: f64): void {
  store<f64>(at(row, j), load<f64>(at(row, j)) + v);
}

/** row[low..high) += p · r1 + q · r2 */
function addRows(row: usize, r1: usize, r2: usize, p: f64, q: f64, low: i32, high: i32): void {
  for (let j = low; j < high; j++) addTo(row, j, p * load<f64>(at(r1, j)) + q * load<f64>(at(r2, j)));
}

/** Doubles kept for a station; columns behind those of the mass defects. */
const KEPT: i32 = 24;
const EXTRA: i32 = 4;

/**
 * Carries the responses of (C, θ, u) to the mass defects, and to four columns more (residuals, stagnation point, both places of transition), along the
 * stations `from … to` of a stretch, and keeps that of u: the dense part as a row of `response`, the others in `right` (three of n) and `stagnation`.
 * @param kept 24 doubles by node: T, columns of m before, m here, residual, stagnation, transition. @param before station ahead of the first, or −1.
 * @param lowest, highest bounds of the columns that the stretch can answer to; on a surface they grow with it: `kind` 0 upper (downward), 1 lower
 * (upward), 2 wake (all). @param growth row of n + 4 doubles that takes weight₁·θ + weight₂·u of each station, weights and own by station.
 */
export function respond(
  order: usize,
  before: i32,
  from: i32,
  to: i32,
  kind: i32,
  kept: usize,
  r0: usize,
  r1: usize,
  r2: usize,
  total: i32,
  response: usize,
  right: usize,
  stagnation: usize,
  weights: usize,
  growth: usize,
  weighted: i32,
): void {
  const place = total + (kind == 0 ? 2 : 3);
  const start = load<i32>(order + (<usize>from << 2));
  for (let p = from; p < to; p++) {
    const node = load<i32>(order + (<usize>p << 2));
    const previous = p > from ? load<i32>(order + (<usize>(p - 1) << 2)) : before;
    const low = kind == 0 ? node : kind == 1 ? start : 0;
    const high = kind == 0 ? start + 1 : kind == 1 ? node + 1 : total;
    const k = at(kept, node * KEPT);
    if (previous >= 0) {
      extend(r0, r1, r2, low, high, k);
      extend(r0, r1, r2, total, total + EXTRA, k);
      addTo(r0, previous, load<f64>(k, 72));
      addTo(r1, previous, load<f64>(k, 80));
      addTo(r2, previous, load<f64>(k, 88));
    }
    addTo(r0, node, load<f64>(k, 96));
    addTo(r1, node, load<f64>(k, 104));
    addTo(r2, node, load<f64>(k, 112));
    addTo(r0, total, load<f64>(k, 120));
    addTo(r1, total, load<f64>(k, 128));
    addTo(r2, total, load<f64>(k, 136));
    addTo(r0, total + 1, load<f64>(k, 144));
    addTo(r1, total + 1, load<f64>(k, 152));
    addTo(r2, total + 1, load<f64>(k, 160));
    addTo(r0, place, load<f64>(k, 168));
    addTo(r1, place, load<f64>(k, 176));
    addTo(r2, place, load<f64>(k, 184));
    memory.copy(at(response, node * total + low), at(r2, low), <usize>(high - low) << 3);
    addTo(right, node, load<f64>(at(r2, total)));
    addTo(right, total + node, load<f64>(at(r2, total + 2)));
    addTo(right, 2 * total + node, load<f64>(at(r2, total + 3)));
    store<f64>(at(stagnation, node), load<f64>(at(r2, total + 1)));
    if (p >= weighted) continue;
    const w = at(weights, 3 * p);
    const byTheta = load<f64>(w);
    const bySpeed = load<f64>(w, 8);
    if (byTheta != 0 || bySpeed != 0) {
      addRows(growth, r1, r2, byTheta, bySpeed, low, high);
      addRows(growth, r1, r2, byTheta, bySpeed, total, total + EXTRA);
    }
    addTo(growth, node, load<f64>(w, 16));
  }
}

/** a[i][j] = (signs[i] signs[j] mass[i][j] − response[i][j] − g[i] line[j]) scale[j]; a has lda doubles a row, mass and response n. */
export function assembleCoupled(
  a: usize,
  lda: i32,
  mass: usize,
  response: usize,
  g: usize,
  line: usize,
  signs: usize,
  scale: usize,
  n: i32,
): void {
  for (let i = 0; i < n; i++) {
    const row = at(a, i * lda);
    const m = at(mass, i * n);
    const b = at(response, i * n);
    const s = v128.load64_splat(at(signs, i));
    const k = v128.load64_splat(at(g, i));
    let j = 0;
    for (; j + 1 < n; j += 2) {
      const value = f64x2.sub(
        f64x2.mul(f64x2.mul(s, v128.load(at(signs, j))), v128.load(at(m, j))),
        f64x2.add(v128.load(at(b, j)), f64x2.mul(k, v128.load(at(line, j)))),
      );
      v128.store(at(row, j), f64x2.mul(value, v128.load(at(scale, j))));
    }
    if (j < n) {
      store<f64>(
        at(row, j),
        (load<f64>(at(signs, i)) * load<f64>(at(signs, j)) * load<f64>(at(m, j)) -
          load<f64>(at(b, j)) -
          load<f64>(at(g, i)) * load<f64>(at(line, j))) *
          load<f64>(at(scale, j)),
      );
    }
  }
}

/** y = A x, A n × n. */
export function multiply(a: usize, x: usize, y: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const row = at(a, i * n);
    let s = f64x2.splat(0);
    let u = f64x2.splat(0);
    let j = 0;
    for (; j + 3 < n; j += 4) {
      s = f64x2.add(s, f64x2.mul(v128.load(at(row, j)), v128.load(at(x, j))));
      u = f64x2.add(u, f64x2.mul(v128.load(at(row, j + 2)), v128.load(at(x, j + 2))));
    }
    s = f64x2.add(s, u);
    let sum = f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1);
    for (; j < n; j++) sum += load<f64>(at(row, j)) * load<f64>(at(x, j));
    store<f64>(at(y, i), sum);
  }
}

// @ts-ignore: decorator
@inline
function dotFrom(row: usize, x: usize, from: i32, to: i32): f64 {
  let s = f64x2.splat(0);
  let j = from;
  for (; j + 1 < to; j += 2) s = f64x2.add(s, f64x2.mul(v128.load(at(row, j)), v128.load(at(x, j))));
  let sum = f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1);
  if (j < to) sum += load<f64>(at(row, j)) * load<f64>(at(x, j));
  return sum;
}

/** Solves with a factorised matrix for `count` right-hand sides of n doubles each, one after the other from b, in place. */
export function solveFactorised(a: usize, n: i32, lda: i32, pivot: usize, b: usize, count: i32): void {
  for (let c = 0; c < count; c++) {
    const x = at(b, c * n);
    for (let k = 0; k < n; k++) {
      const p = load<i32>(pivot + (<usize>k << 2));
      if (p != k) {
        const t = load<f64>(at(x, k));
        store<f64>(at(x, k), load<f64>(at(x, p)));
        store<f64>(at(x, p), t);
      }
    }
  }
  for (let i = 1; i < n; i++) {
    const row = at(a, i * lda);
    for (let c = 0; c < count; c++) {
      const x = at(b, c * n);
      store<f64>(at(x, i), load<f64>(at(x, i)) - dotFrom(row, x, 0, i));
    }
  }
  for (let i = n - 1; i >= 0; i--) {
    const row = at(a, i * lda);
    const inverse = 1.0 / load<f64>(at(row, i));
    for (let c = 0; c < count; c++) {
      const x = at(b, c * n);
      store<f64>(at(x, i), (load<f64>(at(x, i)) - dotFrom(row, x, i + 1, n)) * inverse);
    }
  }
}
