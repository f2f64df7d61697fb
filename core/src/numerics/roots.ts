import { FailedComputation } from './errors';

/**
 * A root of f between a and b, where f changes sign.
 * @param f a continuous function.
 * @param a one end; @param b the other end.
 * @param tolerance absolute tolerance on the root. @param seen values at the ends, where they are known: rounding of the ends then cannot lose the bracket.
 * @throws FailedComputation `no-bracket` when f has one sign at both ends.
 * @source Brent, Algorithms for Minimization without Derivatives, 1973, chapter 4.
 */
export function rootBetween(
  f: (x: number) => number,
  a: number,
  b: number,
  tolerance = 1e-12,
  seen?: readonly [number, number],
): number {
  let [fa, fb] = seen ?? [f(a), f(b)];
  if (fa === 0) return a;
  if (fb === 0) return b;
  if (!(Math.sign(fa) * Math.sign(fb) < 0))
    throw new FailedComputation('no-bracket', 'The function does not change sign over the interval.');
  let c = a;
  let fc = fa;
  let d = b - a;
  let e = d;
  for (let step = 0; step < 200; step++) {
    if (Math.abs(fc) < Math.abs(fb)) {
      [a, b, c] = [b, c, b];
      [fa, fb, fc] = [fb, fc, fb];
    }
    const limit = 2 * Number.EPSILON * Math.abs(b) + 0.5 * tolerance;
    const m = 0.5 * (c - b);
    if (Math.abs(m) <= limit || fb === 0) return b;
    if (Math.abs(e) < limit || Math.abs(fa) <= Math.abs(fb)) {
      d = e = m;
    } else {
      const s = fb / fa;
      let p: number;
      let q: number;
      if (a === c) {
        p = 2 * m * s;
        q = 1 - s;
      } else {
        const r = fb / fc;
        const qa = fa / fc;
        p = s * (2 * m * qa * (qa - r) - (b - a) * (r - 1));
        q = (qa - 1) * (r - 1) * (s - 1);
      }
      if (p > 0) q = -q;
      else p = -p;
      if (2 * p < Math.min(3 * m * q - Math.abs(limit * q), Math.abs(e * q))) {
        e = d;
        d = p / q;
      } else {
        d = e = m;
      }
    }
    a = b;
    fa = fb;
    b += Math.abs(d) > limit ? d : Math.sign(m) * limit;
    fb = f(b);
    if (fb > 0 === fc > 0) {
      c = a;
      fc = fa;
      d = e = b - a;
    }
  }
  return b;
}

/**
 * All roots of a sampled function, by linear search for sign changes and Brent's method inside.
 * @param f a continuous function; @param points increasing abscissae between which the signs are compared.
 * @returns the roots, increasing.
 */
export function rootsOver(f: (x: number) => number, points: ArrayLike<number>): number[] {
  const roots: number[] = [];
  let before = f(points[0]);
  if (before === 0) roots.push(points[0]);
  for (let i = 1; i < points.length; i++) {
    const value = f(points[i]);
    if (value === 0) roots.push(points[i]);
    else if (Math.sign(before) * Math.sign(value) < 0)
      roots.push(rootBetween(f, points[i - 1], points[i], 1e-12, [before, value]));
    before = value;
  }
  return roots;
}
