import { matrixExponential } from '../motion';
import { zeros, type StateSpace } from './state-space';

/**
 * A system as it goes from one instant of computing to the next while its inputs are held: x(k+1) = A x(k) + B u(k), y = C x + D u.
 * @param step s. @source exact for held inputs, by the exponential of the system with its inputs as states that stay.
 */
export function sampled(s: StateSpace, step: number): StateSpace {
  const n = s.A.length;
  const inputs = s.D[0]?.length ?? 0;
  if (n === 0) return s;
  const big = zeros(n + inputs, n + inputs);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) big[i][j] = s.A[i][j];
    for (let j = 0; j < inputs; j++) big[i][n + j] = s.B[i][j];
  }
  const e = matrixExponential(big, step);
  return {
    A: e.slice(0, n).map((row) => row.slice(0, n)),
    B: e.slice(0, n).map((row) => row.slice(n)),
    C: s.C,
    D: s.D,
  };
}

/** A sampled system of one input and one output, stepped by values. */
export class SampledFilter {
  private readonly of: StateSpace;
  private x: number[];
  private started = false;

  /** @param of a continuous system. @param step s. */
  constructor(of: StateSpace, step: number) {
    this.of = sampled(of, step);
    this.x = new Array<number>(of.A.length).fill(0);
  }

  /** What comes out of a value that is then held over a step; the first one finds the filter at rest. */
  next(u: number): number {
    const { A, B, C, D } = this.of;
    const n = A.length;
    if (!this.started) {
      this.started = true;
      this.x = this.rest(u);
    }
    let y = D[0][0] * u;
    for (let j = 0; j < n; j++) y += C[0][j] * this.x[j];
    this.x = A.map((row, i) => row.reduce((sum, a, j) => sum + a * this.x[j], B[i][0] * u));
    return y;
  }

  /** The state that a held value leads to, by running it there: filters here forget within some hundred steps. */
  private rest(u: number): number[] {
    const { A, B } = this.of;
    // (1 − A) x = B u, by doubling: x ← x + A^(2^k) x.
    let sum = B.map(([b]) => b * u);
    let power = A;
    for (let k = 0; k < 40; k++) {
      const more = power.map((row) => row.reduce((v, a, j) => v + a * sum[j], 0));
      sum = sum.map((v, i) => v + more[i]);
      if (Math.max(...more.map(Math.abs)) <= 1e-15 * Math.max(1e-300, ...sum.map(Math.abs))) break;
      power = power.map((row) => power[0].map((_, j) => row.reduce((v, a, i) => v + a * power[i][j], 0)));
    }
    return sum;
  }
}
