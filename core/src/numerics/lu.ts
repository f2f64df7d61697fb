import { FailedComputation } from './errors';

/** A dense LU factorisation with partial pivoting: `rows` holds L (unit diagonal) below and U on and above the diagonal. */
export interface Factorisation {
  readonly n: number;
  /** n × n, row-major. */
  readonly rows: Float64Array;
  /** pivot[k]: the row exchanged with row k at step k. */
  readonly pivot: Int32Array;
}

const BLOCK = 48;

/**
 * Factorises a dense square matrix in place: P·A = L·U.
 *
 * Right-looking and blocked, so that the update of the trailing matrix runs over rows that stay in cache:
 *
 * ```
 *  ┌────┬──────────┐
 *  │ U11│   U12    │   1. panel [A11; A21] factorised with pivoting
 *  ├────┼──────────┤   2. U12 = L11⁻¹ A12
 *  │ L21│   A22    │   3. A22 ← A22 − L21·U12   (nearly all of the work)
 *  └────┴──────────┘
 * ```
 * @param a n × n matrix, row-major; overwritten.
 * @param n order.
 * @returns the factorisation, sharing memory with `a`.
 * @throws FailedComputation `singular-matrix` when a pivot vanishes or is not finite.
 * @source Golub and Van Loan, Matrix Computations, 4th ed., 2013, §3.2 and §3.4.
 */
export function factorise(a: Float64Array, n: number): Factorisation {
  const pivot = new Int32Array(n);
  for (let k0 = 0; k0 < n; k0 += BLOCK) {
    const k1 = Math.min(k0 + BLOCK, n);
    factorisePanel(a, n, k0, k1, pivot);
    for (let k = k0; k < k1; k++) {
      const rowK = k * n;
      for (let i = k + 1; i < k1; i++) {
        const l = a[i * n + k];
        if (l === 0) continue;
        const rowI = i * n;
        for (let j = k1; j < n; j++) a[rowI + j] -= l * a[rowK + j];
      }
    }
    updateTrailing(a, n, k0, k1);
  }
  return { n, rows: a, pivot };
}

function factorisePanel(a: Float64Array, n: number, k0: number, k1: number, pivot: Int32Array): void {
  for (let k = k0; k < k1; k++) {
    let p = k;
    let best = Math.abs(a[k * n + k]);
    for (let i = k + 1; i < n; i++) {
      const size = Math.abs(a[i * n + k]);
      if (size > best) {
        best = size;
        p = i;
      }
    }
    if (!(best > 0) || !Number.isFinite(best)) {
      throw new FailedComputation('singular-matrix', `The linear system is singular at equation ${k + 1} of ${n}.`);
    }
    pivot[k] = p;
    if (p !== k) {
      const rp = p * n;
      const rk = k * n;
      for (let j = 0; j < n; j++) {
        const t = a[rk + j];
        a[rk + j] = a[rp + j];
        a[rp + j] = t;
      }
    }
    const inverse = 1 / a[k * n + k];
    const rowK = k * n;
    for (let i = k + 1; i < n; i++) {
      const rowI = i * n;
      const l = (a[rowI + k] *= inverse);
      if (l !== 0) for (let j = k + 1; j < k1; j++) a[rowI + j] -= l * a[rowK + j];
    }
  }
}

function updateTrailing(a: Float64Array, n: number, k0: number, k1: number): void {
  let i = k1;
  for (; i + 1 < n; i += 2) {
    const r0 = i * n;
    const r1 = r0 + n;
    let k = k0;
    for (; k + 3 < k1; k += 4) {
      const a0 = a[r0 + k];
      const a1 = a[r0 + k + 1];
      const a2 = a[r0 + k + 2];
      const a3 = a[r0 + k + 3];
      const b0 = a[r1 + k];
      const b1 = a[r1 + k + 1];
      const b2 = a[r1 + k + 2];
      const b3 = a[r1 + k + 3];
      const u0 = k * n;
      const u1 = u0 + n;
      const u2 = u1 + n;
      const u3 = u2 + n;
      for (let j = k1; j < n; j++) {
        const v0 = a[u0 + j];
        const v1 = a[u1 + j];
        const v2 = a[u2 + j];
        const v3 = a[u3 + j];
        a[r0 + j] -= a0 * v0 + a1 * v1 + a2 * v2 + a3 * v3;
        a[r1 + j] -= b0 * v0 + b1 * v1 + b2 * v2 + b3 * v3;
      }
    }
    for (; k < k1; k++) {
      const l0 = a[r0 + k];
      const l1 = a[r1 + k];
      const u = k * n;
      for (let j = k1; j < n; j++) {
        a[r0 + j] -= l0 * a[u + j];
        a[r1 + j] -= l1 * a[u + j];
      }
    }
  }
  for (; i < n; i++) {
    const r = i * n;
    for (let k = k0; k < k1; k++) {
      const l = a[r + k];
      const u = k * n;
      for (let j = k1; j < n; j++) a[r + j] -= l * a[u + j];
    }
  }
}

/**
 * Solves A·x = b with a factorisation.
 * @param f the factorisation of A.
 * @param b right-hand side of length n; overwritten with x.
 * @returns b, now the solution.
 */
export function solveFactorised(f: Factorisation, b: Float64Array): Float64Array {
  const { n, rows, pivot } = f;
  for (let k = 0; k < n; k++) {
    const p = pivot[k];
    if (p !== k) {
      const t = b[k];
      b[k] = b[p];
      b[p] = t;
    }
  }
  for (let i = 1; i < n; i++) {
    let sum = b[i];
    const row = i * n;
    for (let j = 0; j < i; j++) sum -= rows[row + j] * b[j];
    b[i] = sum;
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = b[i];
    const row = i * n;
    for (let j = i + 1; j < n; j++) sum -= rows[row + j] * b[j];
    b[i] = sum / rows[row + i];
  }
  return b;
}
