import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { FailedComputation } from '../numerics';

/** x' = A x + B u, y = C x + D u; matrices as rows. Without states A is empty. */
export interface StateSpace {
  A: number[][];
  B: number[][];
  C: number[][];
  D: number[][];
}

export const zeros = (rows: number, columns: number): number[][] =>
  Array.from({ length: rows }, () => new Array<number>(columns).fill(0));

/** A gain without states. */
export const gain = (k: number): StateSpace => ({ A: [], B: [], C: [[]], D: [[k]] });

/** Two systems of one input and one output each, one behind the other. */
export function series(first: StateSpace, second: StateSpace): StateSpace {
  const [n, m] = [first.A.length, second.A.length];
  const A = zeros(n + m, n + m);
  const B = zeros(n + m, 1);
  const C = zeros(1, n + m);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) A[i][j] = first.A[i][j];
    B[i][0] = first.B[i][0];
    C[0][i] = second.D[0][0] * first.C[0][i];
  }
  for (let i = 0; i < m; i++) {
    for (let j = 0; j < m; j++) A[n + i][n + j] = second.A[i][j];
    for (let j = 0; j < n; j++) A[n + i][j] = second.B[i][0] * first.C[0][j];
    B[n + i][0] = second.B[i][0] * first.D[0][0];
    C[0][n + i] = second.C[0][i];
  }
  return { A, B, C, D: [[second.D[0][0] * first.D[0][0]]] };
}

/** A transfer function as a system, in the form of a chain of integrators. @param top, bottom coefficients from the highest power of s down; proper. */
export function fromTransfer(top: readonly number[], bottom: readonly number[]): StateSpace {
  const n = bottom.length - 1;
  const a = bottom.map((v) => v / bottom[0]);
  const b = [...new Array<number>(n + 1 - top.length).fill(0), ...top].map((v) => v / bottom[0]);
  const d = b[0];
  if (n === 0) return gain(d);
  const A = zeros(n, n);
  for (let i = 0; i + 1 < n; i++) A[i][i + 1] = 1;
  for (let j = 0; j < n; j++) A[n - 1][j] = -a[n - j];
  const B = zeros(n, 1);
  B[n - 1][0] = 1;
  return { A, B, C: [Array.from({ length: n }, (_, j) => b[n - j] - d * a[n - j])], D: [[d]] };
}

/** Order of the approximant that stands for a delay where poles and steps are looked at. */
const PADE = 4;

/** A delay as an all-pass of order 4. @param time s. @source Padé's approximant of e^(−s T). */
export function delayed(time: number): StateSpace {
  if (time === 0) return gain(1);
  const c = [1];
  for (let k = 1; k <= PADE; k++) c.push((c[k - 1] * (PADE - k + 1)) / (k * (2 * PADE - k + 1)));
  const bottom = c.map((v, k) => v * time ** k).reverse();
  const top = c.map((v, k) => v * (-time) ** k).reverse();
  return fromTransfer(top, bottom);
}

/** Response at a frequency, from one input to one output: [real, imaginary]. @param w rad/s. */
export function responseAt(s: StateSpace, output: number, input: number, w: number): [number, number] {
  const n = s.A.length;
  const d = s.D[output][input];
  if (n === 0) return [d, 0];
  // (jw − A) x = b, in complex numbers, with pivoting.
  const re = s.A.map((row) => Float64Array.from(row, (v) => -v));
  const im = s.A.map((_, i) => {
    const row = new Float64Array(n);
    row[i] = w;
    return row;
  });
  const x = Float64Array.from(s.B, (row) => row[input]);
  const y = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    let p = k;
    for (let i = k + 1; i < n; i++) if (Math.hypot(re[i][k], im[i][k]) > Math.hypot(re[p][k], im[p][k])) p = i;
    [re[k], re[p]] = [re[p], re[k]];
    [im[k], im[p]] = [im[p], im[k]];
    [x[k], x[p]] = [x[p], x[k]];
    [y[k], y[p]] = [y[p], y[k]];
    const size = re[k][k] ** 2 + im[k][k] ** 2;
    if (size === 0) return [Infinity, 0];
    for (let i = k + 1; i < n; i++) {
      const [a, b] = [re[i][k], im[i][k]];
      if (a === 0 && b === 0) continue;
      const f = (a * re[k][k] + b * im[k][k]) / size;
      const g = (b * re[k][k] - a * im[k][k]) / size;
      for (let j = k; j < n; j++) {
        const [u, v] = [re[k][j], im[k][j]];
        re[i][j] -= f * u - g * v;
        im[i][j] -= f * v + g * u;
      }
      const [u, v] = [x[k], y[k]];
      x[i] -= f * u - g * v;
      y[i] -= f * v + g * u;
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    let [u, v] = [x[k], y[k]];
    for (let j = k + 1; j < n; j++) {
      u -= re[k][j] * x[j] - im[k][j] * y[j];
      v -= re[k][j] * y[j] + im[k][j] * x[j];
    }
    const size = re[k][k] ** 2 + im[k][k] ** 2;
    x[k] = (u * re[k][k] + v * im[k][k]) / size;
    y[k] = (v * re[k][k] - u * im[k][k]) / size;
  }
  let [a, b] = [d, 0];
  for (let j = 0; j < n; j++) {
    a += s.C[output][j] * x[j];
    b += s.C[output][j] * y[j];
  }
  return [a, b];
}

/** Eigenvalues, those of pairs both, by rising real part. @throws FailedComputation `poles` for a matrix without finite numbers. */
export function polesOf(A: readonly (readonly number[])[]): [number, number][] {
  if (A.length === 0) return [];
  if (!A.flat().every(Number.isFinite))
    throw new FailedComputation('poles', 'The closed loop holds numbers that are not finite.', 'Lower the gains.');
  const e = new EigenvalueDecomposition(new Matrix(A.map((row) => [...row])));
  return e.realEigenvalues
    .map((re, k): [number, number] => [re, e.imaginaryEigenvalues[k]])
    .sort((a, b) => a[0] - b[0] || a[1] - b[1]);
}
