import { FailedComputation } from '../numerics';
import { rootsOf } from './modes';

/** A complex number. */
type Complex = { re: number; im: number };

const dot = (a: readonly Complex[], b: readonly Complex[]): Complex =>
  a.reduce((s, u, i) => ({ re: s.re + u.re * b[i].re - u.im * b[i].im, im: s.im + u.re * b[i].im + u.im * b[i].re }), {
    re: 0,
    im: 0,
  });

/**
 * Exact change of the eigenvalues of A as it changes by dA: yᵀ dA x / yᵀ x, with right and left eigenvectors.
 * @returns for every root of {@link rootsOf} (pairs once, the upper one) its value and its slope.
 * @throws FailedComputation `merged-roots` where two roots are one, and no slope is defined.
 * @source Golub and Van Loan, Matrix Computations, 4th ed., 2013, §7.2.2.
 */
export function eigenvalueSlopes(
  A: readonly (readonly number[])[],
  dA: readonly (readonly number[])[],
): { re: number; im: number; slope: Complex }[] {
  const right = rootsOf(A);
  const left = rootsOf(A[0].map((_, j) => A.map((row) => row[j])));
  return right.map((r) => {
    const y = left.reduce((best, l) =>
      Math.hypot(l.re - r.re, l.im - r.im) < Math.hypot(best.re - r.re, best.im - r.im) ? l : best,
    );
    const image = dA.map((row) =>
      row.reduce((s, v, j) => ({ re: s.re + v * r.vector[j].re, im: s.im + v * r.vector[j].im }), { re: 0, im: 0 }),
    );
    const top = dot(y.vector, image);
    const below = dot(y.vector, r.vector);
    const size = below.re ** 2 + below.im ** 2;
    if (!(size > 1e-24))
      throw new FailedComputation('merged-roots', 'Two roots are one here: their slopes are not defined.');
    return {
      re: r.re,
      im: r.im,
      slope: {
        re: (top.re * below.re + top.im * below.im) / size,
        im: (top.im * below.re - top.re * below.im) / size,
      },
    };
  });
}
