// Dense LU in single precision for steps that are refined afterwards: as lu.ts, with four lanes and 4 × 8 tiles.
// a: n rows of lda floats (lda a multiple of 8); pivot: n 32-bit integers. Returns 0, or 1 + the equation at which a pivot vanished.

const BLOCK: i32 = 16;

// @ts-ignore: decorator
@inline
function row(a: usize, lda: i32, i: i32): usize {
  return a + ((<usize>i * <usize>lda) << 2);
}

/** y[j0..j1) −= l · x[j0..j1) */
function subtractScaled(y: usize, x: usize, l: f32, j0: i32, j1: i32): void {
  const s = f32x4.splat(l);
  let j = j0;
  for (; j + 3 < j1; j += 4) {
    const at = <usize>j << 2;
    v128.store(y + at, f32x4.sub(v128.load(y + at), f32x4.mul(s, v128.load(x + at))));
  }
  for (; j < j1; j++) {
    const at = <usize>j << 2;
    store<f32>(y + at, load<f32>(y + at) - l * load<f32>(x + at));
  }
}

/** Copies n rows of `from` doubles a row into floats; columns beyond n become zero. */
export function toSingle(a: usize, lda: i32, source: usize, stride: i32, n: i32): void {
  for (let i = 0; i < n; i++) {
    const to = row(a, lda, i);
    const from = source + ((<usize>i * <usize>stride) << 3);
    for (let j = 0; j < n; j++) store<f32>(to + (<usize>j << 2), <f32>load<f64>(from + (<usize>j << 3)));
    for (let j = n; j < lda; j++) store<f32>(to + (<usize>j << 2), 0);
  }
}

export function factoriseSingle(a: usize, n: i32, lda: i32, pivot: usize): i32 {
  for (let k0 = 0; k0 < n; k0 += BLOCK) {
    const k1 = min(k0 + BLOCK, n);
    for (let k = k0; k < k1; k++) {
      let p = k;
      let best: f32 = abs(load<f32>(row(a, lda, k) + (<usize>k << 2)));
      for (let i = k + 1; i < n; i++) {
        const size: f32 = abs(load<f32>(row(a, lda, i) + (<usize>k << 2)));
        if (size > best) {
          best = size;
          p = i;
        }
      }
      if (!(best > 0) || best == f32.MAX_VALUE * 2) return k + 1;
      store<i32>(pivot + (<usize>k << 2), p);
      if (p != k) {
        const rp = row(a, lda, p);
        const rk = row(a, lda, k);
        for (let j = 0; j < lda; j += 4) {
          const at = <usize>j << 2;
          const t = v128.load(rk + at);
          v128.store(rk + at, v128.load(rp + at));
          v128.store(rp + at, t);
        }
      }
      const rowK = row(a, lda, k);
      const inverse: f32 = 1.0 / load<f32>(rowK + (<usize>k << 2));
      for (let i = k + 1; i < n; i++) {
        const rowI = row(a, lda, i);
        const l: f32 = load<f32>(rowI + (<usize>k << 2)) * inverse;
        store<f32>(rowI + (<usize>k << 2), l);
        subtractScaled(rowI, rowK, l, k + 1, k1);
      }
    }
    for (let k = k0; k < k1; k++) {
      const rowK = row(a, lda, k);
      for (let i = k + 1; i < k1; i++) {
        const rowI = row(a, lda, i);
        subtractScaled(rowI, rowK, load<f32>(rowI + (<usize>k << 2)), k1, lda);
      }
    }
    updateTrailing(a, n, lda, k0, k1);
  }
  return 0;
}

function updateTrailing(a: usize, n: i32, lda: i32, k0: i32, k1: i32): void {
  const stride = <usize>lda << 2;
  let i = k1;
  for (; i + 3 < n; i += 4) {
    const r0 = row(a, lda, i);
    const r1 = r0 + stride;
    const r2 = r1 + stride;
    const r3 = r2 + stride;
    // k1 and lda are multiples of 8, so the tiles end with the row.
    for (let j = k1; j < lda; j += 8) {
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
  }
  for (; i < n; i++) {
    const r = row(a, lda, i);
    for (let k = k0; k < k1; k++) subtractScaled(r, row(a, lda, k), load<f32>(r + (<usize>k << 2)), k1, lda);
  }
}

// @ts-ignore: decorator
@inline
function dot(line: usize, x: usize, from: i32, to: i32): f32 {
  let s = f32x4.splat(0);
  let j = from;
  for (; j + 3 < to; j += 4) s = f32x4.add(s, f32x4.mul(v128.load(line + (<usize>j << 2)), v128.load(x + (<usize>j << 2))));
  let sum: f32 = f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + (f32x4.extract_lane(s, 2) + f32x4.extract_lane(s, 3));
  for (; j < to; j++) sum += load<f32>(line + (<usize>j << 2)) * load<f32>(x + (<usize>j << 2));
  return sum;
}

/** One right-hand side x of n floats, in place. */
function solveSingle(a: usize, n: i32, lda: i32, pivot: usize, x: usize): void {
  for (let k = 0; k < n; k++) {
    const p = load<i32>(pivot + (<usize>k << 2));
    if (p != k) {
      const t = load<f32>(x + (<usize>k << 2));
      store<f32>(x + (<usize>k << 2), load<f32>(x + (<usize>p << 2)));
      store<f32>(x + (<usize>p << 2), t);
    }
  }
  for (let i = 1; i < n; i++) {
    const at = x + (<usize>i << 2);
    store<f32>(at, load<f32>(at) - dot(row(a, lda, i), x, 0, i));
  }
  for (let i = n - 1; i >= 0; i--) {
    const line = row(a, lda, i);
    const at = x + (<usize>i << 2);
    store<f32>(at, (load<f32>(at) - dot(line, x, i + 1, n)) / load<f32>(line + (<usize>i << 2)));
  }
}

/**
 * Solves for `count` right-hand sides with a single-precision factorisation, each refined with the double matrix: x ← x + A⁻¹(b − A x), twice.
 * @param b right-hand sides of n doubles, overwritten by the solutions. @param work n floats and 2 n doubles behind them (16-byte aligned).
 */
export function solveRefined(
  single: usize,
  n: i32,
  lda: i32,
  pivot: usize,
  matrix: usize,
  stride: i32,
  b: usize,
  count: i32,
  work: usize,
): void {
  const wanted = work + ((<usize>((n + 3) & ~3)) << 2);
  for (let c = 0; c < count; c++) {
    const x = b + ((<usize>c * <usize>n) << 3);
    for (let i = 0; i < n; i++) {
      const at = <usize>i << 3;
      store<f64>(wanted + at, load<f64>(x + at));
      store<f64>(x + at, 0);
    }
    for (let pass = 0; pass < 3; pass++) {
      // The residual is scaled to about one, so that it does not vanish in single precision.
      let size: f64 = 0;
      for (let i = 0; i < n; i++) {
        let r = load<f64>(wanted + (<usize>i << 3));
        if (pass > 0) {
          const line = matrix + ((<usize>i * <usize>stride) << 3);
          let s = f64x2.splat(0);
          let j = 0;
          for (; j + 1 < n; j += 2)
            s = f64x2.add(s, f64x2.mul(v128.load(line + (<usize>j << 3)), v128.load(x + (<usize>j << 3))));
          r -= f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1);
          if (j < n) r -= load<f64>(line + (<usize>j << 3)) * load<f64>(x + (<usize>j << 3));
        }
        size = max(size, abs(r));
        store<f64>(wanted + ((<usize>(n + i)) << 3), r);
      }
      if (!(size > 0)) break;
      const scale: f64 = 1.0 / size;
      for (let i = 0; i < n; i++)
        store<f32>(work + (<usize>i << 2), <f32>(load<f64>(wanted + ((<usize>(n + i)) << 3)) * scale));
      solveSingle(single, n, lda, pivot, work);
      for (let i = 0; i < n; i++) {
        const at = <usize>i << 3;
        store<f64>(x + at, load<f64>(x + at) + size * <f64>load<f32>(work + (<usize>i << 2)));
      }
    }
  }
}
