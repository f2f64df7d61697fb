import { factorise, solveFactorised } from '../numerics';
import type { LinearSystem } from './matrices';

/**
 * e^(A t) of a small square matrix, row-major. Scaled until it is small, then by the diagonal Padé approximant of order 6, then squared.
 * @source SIAM Rev. 45(1), 2003, 3–49, method 3.
 */
export function matrixExponential(a: readonly (readonly number[])[], t: number): number[][] {
  const n = a.length;
  const x = Float64Array.from(a.flat());
  let norm = 0;
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (let j = 0; j < n; j++) sum += Math.abs(x[i * n + j] * t);
    norm = Math.max(norm, sum);
  }
  const squarings = Math.max(0, Math.ceil(Math.log2(Math.max(norm, 1e-300) / 0.25)));
  for (let i = 0; i < n * n; i++) x[i] *= t / 2 ** squarings;
  let power = new Float64Array(n * n);
  for (let i = 0; i < n; i++) power[i * n + i] = 1;
  let next = new Float64Array(n * n);
  const [top, bottom] = [power.slice(), power.slice()];
  let c = 1;
  const order = 6;
  for (let k = 1; k <= order; k++) {
    c *= (order - k + 1) / (k * (2 * order - k + 1));
    [power, next] = [product(power, x, n, next), power];
    for (let i = 0; i < n * n; i++) {
      top[i] += c * power[i];
      bottom[i] += (k % 2 === 0 ? c : -c) * power[i];
    }
  }
  const f = factorise(bottom, n);
  let out = new Float64Array(n * n);
  const column = new Float64Array(n);
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) column[i] = top[i * n + j];
    const solved = solveFactorised(f, column);
    for (let i = 0; i < n; i++) out[i * n + j] = solved[i];
  }
  for (let k = 0; k < squarings; k++) [out, next] = [product(out, out, n, next), out];
  return Array.from({ length: n }, (_, i) => Array.from(out.subarray(i * n, (i + 1) * n)));
}

/** a b of square matrices, row by row. @param into takes it; neither a nor b. */
function product(a: Float64Array, b: Float64Array, n: number, into: Float64Array<ArrayBuffer>) {
  into.fill(0);
  for (let i = 0; i < n; i++)
    for (let k = 0; k < n; k++) {
      const v = a[i * n + k];
      if (v !== 0) for (let j = 0; j < n; j++) into[i * n + j] += v * b[k * n + j];
    }
  return into;
}

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
