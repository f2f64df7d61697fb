import { eigenvalues, factorise, FailedComputation, solveFactorised } from '../numerics';

/** A number that is fitted. */
export interface Free {
  start: number;
  /** Step of its differences, and a size that a change of it is told by. */ step: number;
  min: number;
  max: number;
}

/** A fit by least squares. */
export interface Fitted {
  values: number[];
  /** Standard deviations by the residuals, as if these were independent of each other; infinite where the data say nothing. */ deviations: number[];
  /** Correlations of the values, row by row. */ correlations: number[][];
  /** Root of the mean square of the residuals at the start and at the end. */ before: number;
  rms: number;
  /** Degrees of freedom that are left. */ freedom: number;
  rounds: number;
}

const ROUNDS = 40;
/** Ratio of the eigenvalues of the scaled normal matrix below which a direction is not decided. */
const FLAT = 1e-10;

const product = (a: readonly number[], b: readonly number[]) => {
  let s = 0;
  for (let m = 0; m < a.length; m++) s += a[m] * b[m];
  return s;
};
const meanSquare = (r: readonly number[]) => product(r, r) / r.length;

/**
 * Fits numbers so that residuals become small, by damped Gauss–Newton steps with differences on both sides.
 * @param residuals of values; as many each time, all finite. @param still a change of all numbers below this share of their steps ends it. @throws FailedComputation `fit` where no step makes them smaller at the start, or values are none.
 * @source SIAM J. Appl. Math. 11(2), 1963, 431–441 (the damping); covariance s² (JᵀJ)⁻¹.
 */
export function leastSquares(
  residuals: (values: readonly number[]) => number[],
  free: readonly Free[],
  still = 1e-7,
): Fitted {
  const n = free.length;
  const held = (i: number, v: number) => Math.min(free[i].max, Math.max(free[i].min, v));
  let values = free.map((f, i) => held(i, f.start));
  let now = residuals(values);
  const before = Math.sqrt(meanSquare(now));
  if (!Number.isFinite(before))
    throw new FailedComputation(
      'fit',
      'The flight cannot be computed from where the fit begins.',
      'Give a speed and an angle of the launch that are nearer.',
    );
  let damping = 1e-3;
  let rounds = 0;
  let jacobian: number[][];
  const slopes = () =>
    free.map((f, i) => {
      const at = (k: number) => residuals(values.map((v, j) => (j === i ? held(i, v + k * f.step) : v)));
      const width = held(i, values[i] + f.step) - held(i, values[i] - f.step);
      const [up, down] = [at(1), at(-1)];
      for (let m = 0; m < up.length; m++) up[m] = ((up[m] - down[m]) / width) * f.step;
      return up;
    });
  for (; rounds < ROUNDS; rounds++) {
    jacobian = slopes();
    const gradient = jacobian.map((c) => product(c, now));
    const normal = new Float64Array(n * n);
    for (let i = 0; i < n; i++)
      for (let j = i; j < n; j++) normal[i * n + j] = normal[j * n + i] = product(jacobian[i], jacobian[j]);
    let moved = false;
    for (let k = 0; k < 12 && !moved; k++) {
      const a = normal.slice();
      for (let i = 0; i < n; i++) a[i * n + i] += damping * (a[i * n + i] || 1);
      const change = solveFactorised(
        factorise(a, n),
        Float64Array.from(gradient, (g) => -g),
      );
      const next = values.map((v, i) => held(i, v + change[i] * free[i].step));
      const there = residuals(next);
      if (meanSquare(there) < meanSquare(now)) {
        moved = next.some((v, i) => Math.abs(v - values[i]) > still * free[i].step);
        [values, now] = [next, there];
        damping = Math.max(1e-9, damping / 5);
        if (!moved) break;
      } else damping = Math.min(1e9, damping * 6);
    }
    if (!moved) break;
  }
  jacobian = slopes();
  const freedom = Math.max(1, now.length - n);
  const variance = (meanSquare(now) * now.length) / freedom;
  const { deviations, correlations } = spread(jacobian, free, variance);
  return { values, deviations, correlations, before, rms: Math.sqrt(meanSquare(now)), freedom, rounds };
}

/** Standard deviations and correlations; infinite where a number, or a combination with others, changes nothing. */
function spread(jacobian: readonly number[][], free: readonly Free[], variance: number) {
  const n = free.length;
  const sizes = jacobian.map((c) => Math.sqrt(product(c, c)));
  const scaled = jacobian.map((c, i) => c.map((v) => (sizes[i] > 0 ? v / sizes[i] : 0)));
  const normal = new Float64Array(n * n);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) normal[i * n + j] = product(scaled[i], scaled[j]);
  const roots = eigenvalues(normal.slice(), n).map(([re]) => re);
  const flat = Math.min(...roots) < FLAT * Math.max(...roots);
  // A little of the unit matrix keeps what is not decided finite, and large.
  for (let i = 0; i < n; i++) normal[i * n + i] += flat ? FLAT : 0;
  const factors = factorise(normal, n);
  const inverse = Array.from({ length: n }, (_, j) =>
    Array.from(
      solveFactorised(
        factors,
        Float64Array.from({ length: n }, (_v, i) => (i === j ? 1 : 0)),
      ),
    ),
  );
  return {
    deviations: free.map((f, i) =>
      sizes[i] > 0 ? (f.step * Math.sqrt(Math.max(0, inverse[i][i]) * variance)) / sizes[i] : Infinity,
    ),
    correlations: free.map((_, i) =>
      free.map((_f, j) => inverse[i][j] / Math.sqrt(Math.abs(inverse[i][i] * inverse[j][j]) || 1)),
    ),
  };
}

/** Student's t that 95 % lie within on both sides. @source Abramowitz and Stegun, 1964, 26.7.5. */
export function studentT(freedom: number): number {
  const z = 1.959963985;
  const [z3, z5, z7] = [z ** 3, z ** 5, z ** 7];
  return (
    z +
    (z3 + z) / (4 * freedom) +
    (5 * z5 + 16 * z3 + 3 * z) / (96 * freedom ** 2) +
    (3 * z7 + 19 * z5 + 17 * z3 - 15 * z) / (384 * freedom ** 3)
  );
}
