// LU with partial pivoting in single numbers, as ./lu.ts in tiles of four rows by eight columns, for solutions that are refined with the matrix in double ones.
// a: n rows of lda numbers (lda a multiple of 4, ≥ n); pivot: n 32-bit integers.

const BLOCK: i32 = 32;
const STRIP: i32 = 4;

// @ts-ignore: decorator
@inline
function row(a: usize, lda: i32, i: i32): usize {
  return a + ((<usize>i * <usize>lda) << 2);
}

/** y[j0..j1) −= l · x[j0..j1) */
function subtractScaled(y: usize, x: usize, l: f32, j0: i32, j1: i32): void {
  let j = j0;
  const s = f32x4.splat(l);
  for (; j + 3 < j1; j += 4) {
    const at = <usize>j << 2;
    v128.store(y + at, f32x4.sub(v128.load(y + at), f32x4.mul(s, v128.load(x + at))));
  }
  for (; j < j1; j++) {
    const at = <usize>j << 2;
    store<f32>(y + at, load<f32>(y + at) - l * load<f32>(x + at));
  }
}

/** Copies a matrix of doubles (lda64 a row) into a and factorises it. @returns 0, or 1 + the equation at which a pivot vanished. */
export function factoriseSingle(from: usize, lda64: i32, a: usize, n: i32, lda: i32, pivot: usize): i32 {
  for (let i = 0; i < n; i++) {
    const source = from + ((<usize>i * <usize>lda64) << 3);
    const target = row(a, lda, i);
    let j = 0;
    for (; j + 3 < n; j += 4) {
      const low = f32x4.demote_f64x2_zero(v128.load(source + (<usize>j << 3)));
      const high = f32x4.demote_f64x2_zero(v128.load(source + (<usize>j << 3), 16));
      v128.store(target + (<usize>j << 2), i8x16.shuffle(low, high, 0, 1, 2, 3, 4, 5, 6, 7, 16, 17, 18, 19, 20, 21, 22, 23));
    }
    for (; j < n; j++) store<f32>(target + (<usize>j << 2), <f32>load<f64>(source + (<usize>j << 3)));
  }
  for (let k0 = 0; k0 < n; k0 += BLOCK) {
    const k1 = min(k0 + BLOCK, n);
    for (let s0 = k0; s0 < k1; s0 += STRIP) {
      const s1 = min(s0 + STRIP, k1);
      const failed = factoriseStrip(a, n, lda, pivot, s0, s1);
      if (failed) return failed;
      eliminate(a, lda, s0, s1, s1, k1);
      update(a, lda, s1, n, s1, k1, s0, s1);
    }
    for (let s0 = k0; s0 < k1; s0 += STRIP) {
      const s1 = min(s0 + STRIP, k1);
      eliminate(a, lda, s0, s1, k1, n);
      update(a, lda, s1, k1, k1, n, s0, s1);
    }
    update(a, lda, k1, n, k1, n, k0, k1);
  }
  return 0;
}

function factoriseStrip(a: usize, n: i32, lda: i32, pivot: usize, s0: i32, s1: i32): i32 {
  for (let k = s0; k < s1; k++) {
    let p = k;
    let best: f32 = abs(load<f32>(row(a, lda, k) + (<usize>k << 2)));
    for (let i = k + 1; i < n; i++) {
      const size: f32 = abs(load<f32>(row(a, lda, i) + (<usize>k << 2)));
      if (size > best) {
        best = size;
        p = i;
      }
    }
    if (!(best > 0) || best == Infinity) return k + 1;
    store<i32>(pivot + (<usize>k << 2), p);
    const rowK = row(a, lda, k);
    if (p != k) {
      const rp = row(a, lda, p);
      for (let j = 0; j < lda; j += 4) {
        const at = <usize>j << 2;
        const t = v128.load(rowK + at);
        v128.store(rowK + at, v128.load(rp + at));
        v128.store(rp + at, t);
      }
    }
    const inverse: f32 = <f32>1.0 / load<f32>(rowK + (<usize>k << 2));
    for (let i = k + 1; i < n; i++) {
      const rowI = row(a, lda, i);
      const l = load<f32>(rowI + (<usize>k << 2)) * inverse;
      store<f32>(rowI + (<usize>k << 2), l);
      for (let j = k + 1; j < s1; j++) {
        const at = <usize>j << 2;
        store<f32>(rowI + at, load<f32>(rowI + at) - l * load<f32>(rowK + at));
      }
    }
  }
  return 0;
}

function eliminate(a: usize, lda: i32, s0: i32, s1: i32, j0: i32, j1: i32): void {
  if (j0 >= j1) return;
  for (let k = s0; k < s1; k++) {
    const rowK = row(a, lda, k);
    for (let i = k + 1; i < s1; i++) {
      const rowI = row(a, lda, i);
      subtractScaled(rowI, rowK, load<f32>(rowI + (<usize>k << 2)), j0, j1);
    }
  }
}

/** a[i0…i1)[j0…j1) −= a[i0…i1)[k0…k1) · a[k0…k1)[j0…j1) */
function update(a: usize, lda: i32, i0: i32, i1: i32, j0: i32, j1: i32, k0: i32, k1: i32): void {
  const stride = <usize>lda << 2;
  const lastWide = j0 + ((j1 - j0) & ~7);
  const lastColumn = j0 + ((j1 - j0) & ~3);
  let i = i0;
  for (; i + 3 < i1; i += 4) {
    const r0 = row(a, lda, i);
    const r1 = r0 + stride;
    const r2 = r1 + stride;
    const r3 = r2 + stride;
    let j = j0;
    for (; j < lastWide; j += 8) {
      const at = <usize>j << 2;
      let c00 = v128.load(r0 + at);
      let c01 = v128.load(r0 + at, 16);
      let c10 = v128.load(r1 + at);
      let c11 = v128.load(r1 + at, 16);
      let c20 = v128.load(r2 + at);
      let c21 = v128.load(r2 + at, 16);
      let c30 = v128.load(r3 + at);
      let c31 = v128.load(r3 + at, 16);
      let u = row(a, lda, k0) + at;
      let l = <usize>k0 << 2;
      for (let k = k0; k < k1; k++) {
        const u0 = v128.load(u);
        const u1 = v128.load(u, 16);
        const l0 = v128.load32_splat(r0 + l);
        c00 = f32x4.sub(c00, f32x4.mul(l0, u0));
        c01 = f32x4.sub(c01, f32x4.mul(l0, u1));
        const l1 = v128.load32_splat(r1 + l);
        c10 = f32x4.sub(c10, f32x4.mul(l1, u0));
        c11 = f32x4.sub(c11, f32x4.mul(l1, u1));
        const l2 = v128.load32_splat(r2 + l);
        c20 = f32x4.sub(c20, f32x4.mul(l2, u0));
        c21 = f32x4.sub(c21, f32x4.mul(l2, u1));
        const l3 = v128.load32_splat(r3 + l);
        c30 = f32x4.sub(c30, f32x4.mul(l3, u0));
        c31 = f32x4.sub(c31, f32x4.mul(l3, u1));
        u += stride;
        l += 4;
      }
      v128.store(r0 + at, c00);
      v128.store(r0 + at, c01, 16);
      v128.store(r1 + at, c10);
      v128.store(r1 + at, c11, 16);
      v128.store(r2 + at, c20);
      v128.store(r2 + at, c21, 16);
      v128.store(r3 + at, c30);
      v128.store(r3 + at, c31, 16);
    }
    for (; j < lastColumn; j += 4) {
      const at = <usize>j << 2;
      let c0 = v128.load(r0 + at);
      let c1 = v128.load(r1 + at);
      let c2 = v128.load(r2 + at);
      let c3 = v128.load(r3 + at);
      let u = row(a, lda, k0) + at;
      let l = <usize>k0 << 2;
      for (let k = k0; k < k1; k++) {
        const u0 = v128.load(u);
        c0 = f32x4.sub(c0, f32x4.mul(v128.load32_splat(r0 + l), u0));
        c1 = f32x4.sub(c1, f32x4.mul(v128.load32_splat(r1 + l), u0));
        c2 = f32x4.sub(c2, f32x4.mul(v128.load32_splat(r2 + l), u0));
        c3 = f32x4.sub(c3, f32x4.mul(v128.load32_splat(r3 + l), u0));
        u += stride;
        l += 4;
      }
      v128.store(r0 + at, c0);
      v128.store(r1 + at, c1);
      v128.store(r2 + at, c2);
      v128.store(r3 + at, c3);
    }
    if (lastColumn < j1) {
      for (let m = 0; m < 4; m++) {
        const r = row(a, lda, i + m);
        for (let k = k0; k < k1; k++) subtractScaled(r, row(a, lda, k), load<f32>(r + (<usize>k << 2)), lastColumn, j1);
      }
    }
  }
  for (; i < i1; i++) {
    const r = row(a, lda, i);
    for (let k = k0; k < k1; k++) subtractScaled(r, row(a, lda, k), load<f32>(r + (<usize>k << 2)), j0, j1);
  }
}

// Sums of three right-hand sides, left by `sums`.
let sum0: f64 = 0;
let sum1: f64 = 0;
let sum2: f64 = 0;

/** Σ row[j] x_c[j] over from ≤ j < to for three vectors of doubles, n apart. */
// @ts-ignore: decorator
@inline
function sums(r: usize, x: usize, n: i32, from: i32, to: i32): void {
  const step = <usize>n << 3;
  let s0 = f64x2.splat(0);
  let s1 = f64x2.splat(0);
  let s2 = f64x2.splat(0);
  let j = from;
  for (; j + 1 < to; j += 2) {
    const m = f64x2.promote_low_f32x4(v128.load64_zero(r + (<usize>j << 2)));
    const at = x + (<usize>j << 3);
    s0 = f64x2.add(s0, f64x2.mul(m, v128.load(at)));
    s1 = f64x2.add(s1, f64x2.mul(m, v128.load(at + step)));
    s2 = f64x2.add(s2, f64x2.mul(m, v128.load(at + 2 * step)));
  }
  sum0 = f64x2.extract_lane(s0, 0) + f64x2.extract_lane(s0, 1);
  sum1 = f64x2.extract_lane(s1, 0) + f64x2.extract_lane(s1, 1);
  sum2 = f64x2.extract_lane(s2, 0) + f64x2.extract_lane(s2, 1);
  if (j < to) {
    const m: f64 = <f64>load<f32>(r + (<usize>j << 2));
    const at = x + (<usize>j << 3);
    sum0 += m * load<f64>(at);
    sum1 += m * load<f64>(at + step);
    sum2 += m * load<f64>(at + 2 * step);
  }
}

/** Solves with a matrix of {@link factoriseSingle} for three right-hand sides of n doubles, one after the other, in place. */
export function solveSingle(a: usize, n: i32, lda: i32, pivot: usize, x: usize): void {
  const step = <usize>n << 3;
  for (let k = 0; k < n; k++) {
    const p = load<i32>(pivot + (<usize>k << 2));
    if (p == k) continue;
    for (let c = 0; c < 3; c++) {
      const at = x + <usize>c * step;
      const t = load<f64>(at + (<usize>k << 3));
      store<f64>(at + (<usize>k << 3), load<f64>(at + (<usize>p << 3)));
      store<f64>(at + (<usize>p << 3), t);
    }
  }
  for (let i = 1; i < n; i++) {
    sums(row(a, lda, i), x, n, 0, i);
    const at = x + (<usize>i << 3);
    store<f64>(at, load<f64>(at) - sum0);
    store<f64>(at + step, load<f64>(at + step) - sum1);
    store<f64>(at + 2 * step, load<f64>(at + 2 * step) - sum2);
  }
  for (let i = n - 1; i >= 0; i--) {
    const r = row(a, lda, i);
    const inverse: f64 = 1.0 / <f64>load<f32>(r + (<usize>i << 2));
    sums(r, x, n, i + 1, n);
    const at = x + (<usize>i << 3);
    store<f64>(at, (load<f64>(at) - sum0) * inverse);
    store<f64>(at + step, (load<f64>(at + step) - sum1) * inverse);
    store<f64>(at + 2 * step, (load<f64>(at + 2 * step) - sum2) * inverse);
  }
}

/** rest = b − A x for three vectors of n doubles each, one after the other. @returns the largest rest over the largest of b, of the worst of the three. */
export function restOf(a: usize, n: i32, lda: i32, x: usize, b: usize, rest: usize): f64 {
  const step = <usize>n << 3;
  let most0: f64 = 0;
  let most1: f64 = 0;
  let most2: f64 = 0;
  let size0: f64 = 0;
  let size1: f64 = 0;
  let size2: f64 = 0;
  for (let i = 0; i < n; i++) {
    const r = a + ((<usize>i * <usize>lda) << 3);
    let s0 = f64x2.splat(0);
    let s1 = f64x2.splat(0);
    let s2 = f64x2.splat(0);
    let j = 0;
    for (; j + 1 < n; j += 2) {
      const m = v128.load(r + (<usize>j << 3));
      const at = x + (<usize>j << 3);
      s0 = f64x2.add(s0, f64x2.mul(m, v128.load(at)));
      s1 = f64x2.add(s1, f64x2.mul(m, v128.load(at + step)));
      s2 = f64x2.add(s2, f64x2.mul(m, v128.load(at + 2 * step)));
    }
    let t0 = f64x2.extract_lane(s0, 0) + f64x2.extract_lane(s0, 1);
    let t1 = f64x2.extract_lane(s1, 0) + f64x2.extract_lane(s1, 1);
    let t2 = f64x2.extract_lane(s2, 0) + f64x2.extract_lane(s2, 1);
    if (j < n) {
      const m = load<f64>(r + (<usize>j << 3));
      const at = x + (<usize>j << 3);
      t0 += m * load<f64>(at);
      t1 += m * load<f64>(at + step);
      t2 += m * load<f64>(at + 2 * step);
    }
    const at = <usize>i << 3;
    const b0 = load<f64>(b + at);
    const b1 = load<f64>(b + at + step);
    const b2 = load<f64>(b + at + 2 * step);
    t0 = b0 - t0;
    t1 = b1 - t1;
    t2 = b2 - t2;
    store<f64>(rest + at, t0);
    store<f64>(rest + at + step, t1);
    store<f64>(rest + at + 2 * step, t2);
    most0 = max(most0, abs(t0));
    most1 = max(most1, abs(t1));
    most2 = max(most2, abs(t2));
    size0 = max(size0, abs(b0));
    size1 = max(size1, abs(b1));
    size2 = max(size2, abs(b2));
  }
  let worst: f64 = 0;
  if (size0 > 0) worst = max(worst, most0 / size0);
  if (size1 > 0) worst = max(worst, most1 / size1);
  if (size2 > 0) worst = max(worst, most2 / size2);
  return worst;
}

/** x += d, count doubles. */
export function addAll(x: usize, d: usize, count: i32): void {
  let j = 0;
  for (; j + 1 < count; j += 2) {
    const at = <usize>j << 3;
    v128.store(x + at, f64x2.add(v128.load(x + at), v128.load(d + at)));
  }
  if (j < count) {
    const at = <usize>j << 3;
    store<f64>(x + at, load<f64>(x + at) + load<f64>(d + at));
  }
}
