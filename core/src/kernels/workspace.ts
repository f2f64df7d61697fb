import { factorise, FailedComputation } from '../numerics';
import { Arena, kernels } from './index';

/**
 * A dense system that is filled, factorised and solved again and again without allocation. The matrix lies in the kernels' memory, which any
 * other kernel call may overwrite: fill, factorise and solve without one in between.
 */
export class DenseWorkspace {
  /** Doubles from one row to the next. */
  readonly stride: number;
  private rows: Float64Array = new Float64Array(0);
  private pivot: Int32Array;
  private address = 0;
  private pivotAddress = 0;

  constructor(readonly n: number) {
    this.stride = kernels() ? n + (n & 1) : n;
    this.pivot = new Int32Array(n);
  }

  /** The matrix to be filled, row-major with `stride`; its contents are whatever was there. */
  matrix(): Float64Array {
    const k = kernels();
    if (!k) {
      if (this.rows.length === 0) this.rows = new Float64Array(this.n * this.n);
      return this.rows;
    }
    const arena = new Arena(k);
    this.address = arena.room(this.n * this.stride);
    this.pivotAddress = arena.room(Math.ceil(this.n / 2));
    if (this.rows.buffer !== k.memory.buffer) this.rows = arena.doubles(this.address, this.n * this.stride);
    return this.rows;
  }

  /** Factorises what was filled in. @throws FailedComputation `singular-matrix`. */
  factorise(): void {
    const k = kernels();
    if (!k) {
      this.pivot = factorise(this.rows, this.n).pivot;
      return;
    }
    const failed = k.factorise(this.address, this.n, this.stride, this.pivotAddress);
    if (failed)
      throw new FailedComputation(
        'singular-matrix',
        `The linear system is singular at equation ${failed} of ${this.n}.`,
      );
    if (this.pivot.buffer !== k.memory.buffer) this.pivot = new Int32Array(k.memory.buffer, this.pivotAddress, this.n);
  }

  /** Solves for three right-hand sides at once, in place. @param a, b, c n numbers each, overwritten by the solutions. */
  solveThree(a: Float64Array, b: Float64Array, c: Float64Array): void {
    const { n, rows, pivot, stride } = this;
    for (let k = 0; k < n; k++) {
      const p = pivot[k];
      if (p === k) continue;
      let t = a[k];
      a[k] = a[p];
      a[p] = t;
      t = b[k];
      b[k] = b[p];
      b[p] = t;
      t = c[k];
      c[k] = c[p];
      c[p] = t;
    }
    for (let i = 1; i < n; i++) {
      const r = i * stride;
      let [p, q, s] = [a[i], b[i], c[i]];
      for (let j = 0; j < i; j++) {
        const l = rows[r + j];
        p -= l * a[j];
        q -= l * b[j];
        s -= l * c[j];
      }
      a[i] = p;
      b[i] = q;
      c[i] = s;
    }
    for (let i = n - 1; i >= 0; i--) {
      const r = i * stride;
      let [p, q, s] = [a[i], b[i], c[i]];
      for (let j = i + 1; j < n; j++) {
        const u = rows[r + j];
        p -= u * a[j];
        q -= u * b[j];
        s -= u * c[j];
      }
      const k = 1 / rows[r + i];
      a[i] = p * k;
      b[i] = q * k;
      c[i] = s * k;
    }
  }
}
