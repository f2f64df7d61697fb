import { matrixExponential, type LinearSystem } from '../motion';

/**
 * The response of a linear system to inputs that run straight from one time to the next.
 * @param inputs one list a time for each input of the system. @returns the states, one list a time.
 */
export function respond(
  { A, B }: Pick<LinearSystem, 'A' | 'B'>,
  start: readonly number[],
  t: readonly number[],
  inputs: readonly (readonly number[])[],
): number[][] {
  // What stands still would only make the matrices larger.
  const moving = inputs.flatMap((v, j) => (v.some((d) => d !== 0) ? [j] : []));
  const [n, m] = [A.length, moving.length];
  const size = n + 2 * m;
  const augmented = Array.from({ length: size }, (_, i) =>
    Array.from({ length: size }, (_v, j) =>
      i < n ? (j < n ? A[i][j] : j < n + m ? B[i][moving[j - n]] : 0) : Number(i < n + m && j === i + m),
    ),
  );
  // Clocks that tremble a little share their steps: to a thousandth of the mean.
  const usual = t[t.length - 1] / (t.length - 1);
  const steps = new Map<number, { dt: number; by: Float64Array }>();
  const over = (wanted: number) => {
    const key = Math.max(1, Math.round((1000 * wanted) / usual));
    const known = steps.get(key);
    if (known) return known;
    const dt = (key * usual) / 1000;
    const made = { dt, by: Float64Array.from(matrixExponential(augmented, dt).slice(0, n).flat()) };
    steps.set(key, made);
    return made;
  };
  const driven = moving.map((j) => inputs[j]);
  const out = [start.slice()];
  for (let k = 1; k < t.length; k++) {
    const { dt, by } = over(t[k] - t[k - 1]);
    const [last, next] = [out[k - 1], new Array<number>(n)];
    for (let i = 0; i < n; i++) {
      const row = i * size;
      let s = 0;
      for (let j = 0; j < n; j++) s += by[row + j] * last[j];
      for (let j = 0; j < m; j++) {
        const [before, now] = [driven[j][k - 1], driven[j][k]];
        s += by[row + n + j] * before + (by[row + n + m + j] * (now - before)) / dt;
      }
      next[i] = s;
    }
    out.push(next);
  }
  return out;
}
