import { SingleMatrix } from './single-matrix';

describe('a matrix of single numbers', () => {
  for (const n of [1, 7, 8, 9, 40, 133])
    it(`of ${n} rows gives the same product compiled and in TypeScript`, () => {
      const [compiled, plain] = [new SingleMatrix(n), new SingleMatrix(n, false)];
      const x = Float64Array.from({ length: n }, (_, i) => Math.sin(3 * i + 1));
      for (const m of [compiled, plain]) for (let k = 0; k < n * n; k++) m.values[k] = Math.cos(k) / (1 + (k % 13));
      const [a, b] = [compiled.times(x).slice(), plain.times(x).slice()];
      let wanted = 0;
      for (let k = 0; k < n; k++) wanted += Math.fround(Math.cos(k) / (1 + (k % 13))) * x[k];
      expect(b[0]).toBeCloseTo(wanted, 12);
      a.forEach((v, i) => expect(Math.abs(v - b[i])).toBeLessThan(1e-12));
    });
});
