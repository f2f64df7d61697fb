import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { eigenvalues } from './eigenvalues';

const sorted = (list: [number, number][]) => list.slice().sort((a, b) => a[0] - b[0] || a[1] - b[1]);
/** Even numbers from −1 to 1, the same every time. */
function* numbers(): Generator<number> {
  for (let s = 12345; ;) {
    s = (1103515245 * s + 12345) % 2147483648;
    yield (2 * s) / 2147483648 - 1;
  }
}

describe('eigenvalues without vectors', () => {
  it('are the roots of a polynomial, in its companion matrix', () => {
    // (x − 1)(x − 2)(x + 3)(x² + 2 x + 10)
    const times = (a: number[], b: number[]) =>
      a.reduce<number[]>((out, u, i) => (b.forEach((v, j) => (out[i + j] = (out[i + j] ?? 0) + u * v)), out), []);
    const poly = [
      [1, -2],
      [1, 3],
      [1, 2, 10],
    ].reduce(times, [1, -1]);
    const n = poly.length - 1;
    const a = new Float64Array(n * n);
    for (let i = 0; i + 1 < n; i++) a[i * n + i + 1] = 1;
    for (let j = 0; j < n; j++) a[(n - 1) * n + j] = -poly[n - j];
    const want = sorted([
      [-3, 0],
      [-1, -3],
      [-1, 3],
      [1, 0],
      [2, 0],
    ]);
    sorted(eigenvalues(a, n)).forEach(([re, im], k) => {
      expect(Math.abs(re - want[k][0])).toBeLessThan(1e-12);
      expect(Math.abs(im - want[k][1])).toBeLessThan(1e-12);
    });
  });
  it('agree with a decomposition into vectors, up to 30 rows', () => {
    const next = numbers();
    for (const n of [1, 2, 3, 5, 8, 13, 20, 30]) {
      const rows = Array.from({ length: n }, () => Array.from({ length: n }, () => next.next().value as number));
      const e = new EigenvalueDecomposition(new Matrix(rows));
      const want = e.realEigenvalues.map((re, k): [number, number] => [re, e.imaginaryEigenvalues[k]]);
      const found = eigenvalues(Float64Array.from(rows.flat()), n);
      expect(found).toHaveLength(n);
      for (const w of want)
        expect(Math.min(...found.map((f) => Math.hypot(f[0] - w[0], f[1] - w[1])))).toBeLessThan(1e-10);
    }
  });
  it('keeps its digits where rows are of very different size', () => {
    const scale = [1, 1e6, 1e-6, 1e3];
    const next = numbers();
    const rows = scale.map(() => scale.map(() => next.next().value as number));
    const want = sorted(eigenvalues(Float64Array.from(rows.flat()), 4));
    const skewed = rows.map((row, i) => row.map((v, j) => (v * scale[i]) / scale[j]));
    sorted(eigenvalues(Float64Array.from(skewed.flat()), 4)).forEach(([re, im], k) => {
      expect(Math.abs(re - want[k][0])).toBeLessThan(1e-9);
      expect(Math.abs(im - want[k][1])).toBeLessThan(1e-9);
    });
  });
  it('finds those of a cycle, which the usual shifts leave as it is, and of nothing', () => {
    const n = 6;
    const a = new Float64Array(n * n);
    for (let i = 0; i < n; i++) a[i * n + ((i + 1) % n)] = 1;
    for (const [re, im] of eigenvalues(a, n)) expect(Math.abs(Math.hypot(re, im) - 1)).toBeLessThan(1e-12);
    expect(eigenvalues(new Float64Array(9), 3)).toEqual([
      [0, 0],
      [0, 0],
      [0, 0],
    ]);
    expect(eigenvalues(new Float64Array(0), 0)).toEqual([]);
  });
});
