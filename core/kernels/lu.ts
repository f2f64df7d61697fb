// Dense LU with partial pivoting, blocked twice; updates run in 4 × 4 tiles of two-lane vectors.
// a: n rows of lda numbers (lda even, ≥ n); pivot: n 32-bit integers. Returns 0, or 1 + the equation at which a pivot vanished.

/** Columns of a panel, whose products update the rest, and of the narrow strips that a panel is factorised in. */
const BLOCK: i32 = 32;
const STRIP: i32 = 4;

// @ts-ignore: decorator
@inline
function row(a: usize, lda: i32, i: i32): usize {
  return a + (<usize>i * <usize>lda) * 8;
}

/** y[j0..j1) −= l · x[j0..j1) */
function subtractScaled(y: usize, x: usize, l: f64, j0: i32, j1: i32): void {
  let j = j0;
  if (j & 1 && j < j1) {
    const at = <usize>j * 8;
    store<f64>(y + at, load<f64>(y + at) - l * load<f64>(x + at));
    j++;
  }
  const s = f64x2.splat(l);
  for (; j + 1 < j1; j += 2) {
    const at = <usize>j * 8;
    v128.store(y + at, f64x2.sub(v128.load(y + at), f64x2.mul(s, v128.load(x + at))));
  }
  if (j < j1) {
    const at = <usize>j * 8;
    store<f64>(y + at, load<f64>(y + at) - l * load<f64>(x + at));
  }
}

export function factorise(a: usize, n: i32, lda: i32, pivot: usize): i32 {
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

/** Columns s0 … s1 of all rows below, with their pivots; whole rows are exchanged. */
function factoriseStrip(a: usize, n: i32, lda: i32, pivot: usize, s0: i32, s1: i32): i32 {
  for (let k = s0; k < s1; k++) {
    let p = k;
    let best: f64 = abs(load<f64>(row(a, lda, k) + <usize>k * 8));
    for (let i = k + 1; i < n; i++) {
      const size: f64 = abs(load<f64>(row(a, lda, i) + <usize>k * 8));
      if (size > best) {
        best = size;
        p = i;
      }
    }
    if (!(best > 0) || best == Infinity) return k + 1;
    store<i32>(pivot + <usize>k * 4, p);
    if (p != k) {
      const rp = row(a, lda, p);
      const rk = row(a, lda, k);
      for (let j = 0; j < n; j++) {
        const at = <usize>j * 8;
        const t = load<f64>(rk + at);
        store<f64>(rk + at, load<f64>(rp + at));
        store<f64>(rp + at, t);
      }
    }
    const rowK = row(a, lda, k);
    const inverse: f64 = 1.0 / load<f64>(rowK + <usize>k * 8);
    for (let i = k + 1; i < n; i++) {
      const rowI = row(a, lda, i);
      const l = load<f64>(rowI + <usize>k * 8) * inverse;
      store<f64>(rowI + <usize>k * 8, l);
      if (l == 0) continue;
      for (let j = k + 1; j < s1; j++) {
        const at = <usize>j * 8;
        store<f64>(rowI + at, load<f64>(rowI + at) - l * load<f64>(rowK + at));
      }
    }
  }
  return 0;
}

/** Rows s0 … s1, columns j0 … j1: what the strip's own rows take off each other. */
function eliminate(a: usize, lda: i32, s0: i32, s1: i32, j0: i32, j1: i32): void {
  if (j0 >= j1) return;
  for (let k = s0; k < s1; k++) {
    const rowK = row(a, lda, k);
    for (let i = k + 1; i < s1; i++) {
      const rowI = row(a, lda, i);
      const l = load<f64>(rowI + <usize>k * 8);
      if (l != 0) subtractScaled(rowI, rowK, l, j0, j1);
    }
  }
}

/** a[i0…i1)[j0…j1) −= a[i0…i1)[k0…k1) · a[k0…k1)[j0…j1) */
function update(a: usize, lda: i32, i0: i32, i1: i32, j0: i32, j1: i32, k0: i32, k1: i32): void {
  const stride = <usize>lda * 8;
  // Columns in steps of four; the few left over one row at a time.
  const lastColumn = j0 + ((j1 - j0) & ~3);
  let i = i0;
  for (; i + 3 < i1; i += 4) {
    const r0 = row(a, lda, i);
    const r1 = r0 + stride;
    const r2 = r1 + stride;
    const r3 = r2 + stride;
    for (let j = j0; j < lastColumn; j += 4) {
      const at = <usize>j * 8;
      let c00 = v128.load(r0 + at);
      let c01 = v128.load(r0 + at, 16);
      let c10 = v128.load(r1 + at);
      let c11 = v128.load(r1 + at, 16);
      let c20 = v128.load(r2 + at);
      let c21 = v128.load(r2 + at, 16);
      let c30 = v128.load(r3 + at);
      let c31 = v128.load(r3 + at, 16);
      let u = row(a, lda, k0) + at;
      let l = <usize>k0 * 8;
      for (let k = k0; k < k1; k++) {
        const u0 = v128.load(u);
        const u1 = v128.load(u, 16);
        const l0 = v128.load64_splat(r0 + l);
        c00 = f64x2.sub(c00, f64x2.mul(l0, u0));
        c01 = f64x2.sub(c01, f64x2.mul(l0, u1));
        const l1 = v128.load64_splat(r1 + l);
        c10 = f64x2.sub(c10, f64x2.mul(l1, u0));
        c11 = f64x2.sub(c11, f64x2.mul(l1, u1));
        const l2 = v128.load64_splat(r2 + l);
        c20 = f64x2.sub(c20, f64x2.mul(l2, u0));
        c21 = f64x2.sub(c21, f64x2.mul(l2, u1));
        const l3 = v128.load64_splat(r3 + l);
        c30 = f64x2.sub(c30, f64x2.mul(l3, u0));
        c31 = f64x2.sub(c31, f64x2.mul(l3, u1));
        u += stride;
        l += 8;
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
    if (lastColumn < j1) {
      for (let m = 0; m < 4; m++) {
        const r = row(a, lda, i + m);
        for (let k = k0; k < k1; k++) subtractScaled(r, row(a, lda, k), load<f64>(r + <usize>k * 8), lastColumn, j1);
      }
    }
  }
  for (; i < i1; i++) {
    const r = row(a, lda, i);
    for (let k = k0; k < k1; k++) subtractScaled(r, row(a, lda, k), load<f64>(r + <usize>k * 8), j0, j1);
  }
}
