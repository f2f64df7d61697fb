// Inner loops of the coupled boundary-layer system: everything of size n² or n·k. Rows are of n or n + a few doubles; addresses in bytes.

// @ts-ignore: decorator
@inline
function at(base: usize, i: i32): usize {
  return base + (<usize>i << 3);
}

/** (r0, r1, r2)[low..high) ← T · (r0, r1, r2), T 3 × 3 by rows. */
export function extend(r0: usize, r1: usize, r2: usize, low: i32, high: i32, t: usize): void {
  const t0 = v128.load64_splat(t);
  const t1 = v128.load64_splat(t, 8);
  const t2 = v128.load64_splat(t, 16);
  const t3 = v128.load64_splat(t, 24);
  const t4 = v128.load64_splat(t, 32);
  const t5 = v128.load64_splat(t, 40);
  const t6 = v128.load64_splat(t, 48);
  const t7 = v128.load64_splat(t, 56);
  const t8 = v128.load64_splat(t, 64);
  // An odd count takes one element more; callers leave room for it, and the columns beyond hold zeros or are carried anyway.
  for (let j = low; j < high; j += 2) {
    const p = v128.load(at(r0, j));
    const q = v128.load(at(r1, j));
    const r = v128.load(at(r2, j));
    let a = f64x2.add(f64x2.mul(t0, p), f64x2.add(f64x2.mul(t1, q), f64x2.mul(t2, r)));
    let b = f64x2.add(f64x2.mul(t3, p), f64x2.add(f64x2.mul(t4, q), f64x2.mul(t5, r)));
    let c = f64x2.add(f64x2.mul(t6, p), f64x2.add(f64x2.mul(t7, q), f64x2.mul(t8, r)));
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
