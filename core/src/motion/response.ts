import { factorise, solveFactorised } from '../numerics';
import type { LinearSystem } from './matrices';

/**
 * e^(A t) of a small square matrix, row-major. Scaled until it is small, then by the diagonal Padé approximant of order 6, then squared.
 * @source SIAM Rev. 45(1), 2003, 3–49, method 3.
 */
export function matrixExponential(a: readonly (readonly number[])[], t: number): number[][] {
  const n = a.length;
  let norm = 0;
  for (const row of a)
    norm = Math.max(
      norm,
      row.reduce((s, v) => s + Math.abs(v * t), 0),
    );
  const squarings = Math.max(0, Math.ceil(Math.log2(Math.max(norm, 1e-300) / 0.25)));
  const x = a.map((row) => row.map((v) => (v * t) / 2 ** squarings));
  const one = identity(n);
  let power = one;
  let top = one;
  let bottom = one;
  let c = 1;
  const order = 6;
  for (let k = 1; k <= order; k++) {
    c *= (order - k + 1) / (k * (2 * order - k + 1));
    power = times(power, x);
    top = plus(top, power, c);
    bottom = plus(bottom, power, k % 2 === 0 ? c : -c);
  }
  const f = factorise(Float64Array.from(bottom.flat()), n);
  const columns = Array.from({ length: n }, (_, j) =>
    solveFactorised(
      f,
      Float64Array.from(top, (row) => row[j]),
    ),
  );
  let out = Array.from({ length: n }, (_, i) => columns.map((col) => col[i]));
  for (let k = 0; k < squarings; k++) out = times(out, out);
  return out;
}

const identity = (n: number): number[][] =>
  Array.from({ length: n }, (_, i) => Array.from({ length: n }, (__, j) => (i === j ? 1 : 0)));
const times = (a: readonly number[][], b: readonly number[][]): number[][] =>
  a.map((row) => b[0].map((_, j) => row.reduce((s, v, k) => s + v * b[k][j], 0)));
const plus = (a: readonly number[][], b: readonly number[][], k: number): number[][] =>
  a.map((row, i) => row.map((v, j) => v + k * b[i][j]));

/** The free motion of a linear system from a state, at even times from 0: one list a time. @param count of times, 2 or more. */
export function freeResponse(
  system: Pick<LinearSystem, 'A'>,
  start: readonly number[],
  end: number,
  count: number,
): number[][] {
  const step = matrixExponential(system.A, end / (count - 1));
  const out = [start.slice()];
  for (let k = 1; k < count; k++) {
    const last = out[k - 1];
    out.push(step.map((row) => row.reduce((s, v, j) => s + v * last[j], 0)));
  }
  return out;
}
