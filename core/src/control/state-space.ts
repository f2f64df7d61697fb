import { eigenvalues, FailedComputation } from '../numerics';

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

/** Two systems of one output each, one behind the other; the second has one input, the first may have several. */
export function series(first: StateSpace, second: StateSpace): StateSpace {
  const [n, m, inputs] = [first.A.length, second.A.length, first.D[0].length];
  const A = zeros(n + m, n + m);
  const B = zeros(n + m, inputs);
  const C = zeros(1, n + m);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) A[i][j] = first.A[i][j];
    for (let k = 0; k < inputs; k++) B[i][k] = first.B[i][k];
    C[0][i] = second.D[0][0] * first.C[0][i];
  }
  for (let i = 0; i < m; i++) {
    for (let j = 0; j < m; j++) A[n + i][n + j] = second.A[i][j];
    for (let j = 0; j < n; j++) A[n + i][j] = second.B[i][0] * first.C[0][j];
    for (let k = 0; k < inputs; k++) B[n + i][k] = second.B[i][0] * first.D[0][k];
    C[0][n + i] = second.C[0][i];
  }
  return { A, B, C, D: [first.D[0].map((d) => second.D[0][0] * d)] };
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
  // Of one second first, then with time run faster: powers of a short delay would leave no digits.
  const { A, B, C, D } = fromTransfer(c.map((v, k) => v * (-1) ** k).reverse(), c.slice().reverse());
  const faster = (m: number[][]) => m.map((row) => row.map((v) => v / time));
  return { A: faster(A), B: faster(B), C, D };
}

/**
 * Response over frequency, from one input to one output: the system is brought to Hessenberg form once, so that every frequency costs n² instead of n³.
 * @returns [real, imaginary] at a frequency, rad/s; at any complex place where its real part is given as well. @source IEEE Trans. Autom. Control 26(2), 1981, 407–408.
 */
export function frequencyResponse(
  s: StateSpace,
  output: number,
  input: number,
): (w: number, real?: number) => [number, number] {
  const n = s.A.length;
  const d = s.D[output][input];
  if (n === 0) return () => [d, 0];
  const h = Float64Array.from(s.A.flat());
  const b = Float64Array.from(s.B, (row) => row[input]);
  const c = Float64Array.from(s.C[output]);
  toHessenberg(h, b, c, n);
  const [re, im] = [new Float64Array(n * n), new Float64Array(n * n)];
  const [x, y] = [new Float64Array(n), new Float64Array(n)];
  return (w, real = 0) => {
    // (s − H) x = b; one entry below the diagonal to take out of each column.
    for (let i = 0; i < n; i++) {
      const from = Math.max(0, i - 1);
      for (let j = i * n + from; j < (i + 1) * n; j++) {
        re[j] = -h[j];
        im[j] = 0;
      }
      re[i * n + i] += real;
      im[i * n + i] = w;
    }
    x.set(b);
    y.fill(0);
    for (let k = 0; k + 1 < n; k++) {
      const [p, q] = [k * n, (k + 1) * n];
      if (re[q + k] * re[q + k] + im[q + k] * im[q + k] > re[p + k] * re[p + k] + im[p + k] * im[p + k]) {
        for (let j = k; j < n; j++) {
          const [a, e] = [re[p + j], im[p + j]];
          re[p + j] = re[q + j];
          im[p + j] = im[q + j];
          re[q + j] = a;
          im[q + j] = e;
        }
        const [a, e] = [x[k], y[k]];
        x[k] = x[k + 1];
        y[k] = y[k + 1];
        x[k + 1] = a;
        y[k + 1] = e;
      }
      const size = re[p + k] * re[p + k] + im[p + k] * im[p + k];
      if (size === 0) return [Infinity, 0];
      const [u, v] = [re[q + k], im[q + k]];
      if (u === 0 && v === 0) continue;
      const f = (u * re[p + k] + v * im[p + k]) / size;
      const g = (v * re[p + k] - u * im[p + k]) / size;
      for (let j = k + 1; j < n; j++) {
        const [a, e] = [re[p + j], im[p + j]];
        re[q + j] -= f * a - g * e;
        im[q + j] -= f * e + g * a;
      }
      const [a, e] = [x[k], y[k]];
      x[k + 1] -= f * a - g * e;
      y[k + 1] -= f * e + g * a;
    }
    let [a, e] = [d, 0];
    for (let k = n - 1; k >= 0; k--) {
      const p = k * n;
      let [u, v] = [x[k], y[k]];
      for (let j = k + 1; j < n; j++) {
        u -= re[p + j] * x[j] - im[p + j] * y[j];
        v -= re[p + j] * y[j] + im[p + j] * x[j];
      }
      const size = re[p + k] * re[p + k] + im[p + k] * im[p + k];
      if (size === 0) return [Infinity, 0];
      x[k] = (u * re[p + k] + v * im[p + k]) / size;
      y[k] = (v * re[p + k] - u * im[p + k]) / size;
      a += c[k] * x[k];
      e += c[k] * y[k];
    }
    return [a, e];
  };
}

/** Householder reflections from both sides until nothing stands below the first subdiagonal; b and c go with them. */
function toHessenberg(h: Float64Array, b: Float64Array, c: Float64Array, n: number): void {
  const v = new Float64Array(n);
  for (let k = 0; k + 2 < n; k++) {
    let norm = 0;
    for (let i = k + 1; i < n; i++) norm = Math.hypot(norm, h[i * n + k]);
    if (norm === 0) continue;
    const first = h[(k + 1) * n + k];
    const alpha = first > 0 ? -norm : norm;
    v.fill(0);
    for (let i = k + 1; i < n; i++) v[i] = h[i * n + k];
    v[k + 1] -= alpha;
    let size = 0;
    for (let i = k + 1; i < n; i++) size += v[i] * v[i];
    if (size === 0) continue;
    const reflect = (get: (i: number) => number, set: (i: number, value: number) => void) => {
      let sum = 0;
      for (let i = k + 1; i < n; i++) sum += v[i] * get(i);
      const f = (2 * sum) / size;
      for (let i = k + 1; i < n; i++) set(i, get(i) - f * v[i]);
    };
    for (let j = 0; j < n; j++)
      reflect(
        (i) => h[i * n + j],
        (i, value) => (h[i * n + j] = value),
      );
    for (let j = 0; j < n; j++)
      reflect(
        (i) => h[j * n + i],
        (i, value) => (h[j * n + i] = value),
      );
    reflect(
      (i) => b[i],
      (i, value) => (b[i] = value),
    );
    reflect(
      (i) => c[i],
      (i, value) => (c[i] = value),
    );
  }
}

/** Response at one frequency, as {@link frequencyResponse}. @param w rad/s. */
export const responseAt = (s: StateSpace, output: number, input: number, w: number): [number, number] =>
  frequencyResponse(s, output, input)(w);

/** Eigenvalues, those of pairs both, by rising real part. @throws FailedComputation `poles` for a matrix without finite numbers. */
export function polesOf(A: readonly (readonly number[])[]): [number, number][] {
  if (A.length === 0) return [];
  if (!A.flat().every(Number.isFinite))
    throw new FailedComputation('poles', 'The closed loop holds numbers that are not finite.', 'Lower the gains.');
  return eigenvalues(Float64Array.from(A.flat()), A.length).sort((a, b) => a[0] - b[0] || a[1] - b[1]);
}
