import { InvalidInput } from './errors';

/** How a cubic spline ends: `natural` (no curvature) or `not-a-knot` (the first two and last two pieces are one cubic). */
export type SplineEnd = 'natural' | 'not-a-knot';

/**
 * An interpolating cubic spline y(t) over increasing knots.
 * @source de Boor, A Practical Guide to Splines, rev. ed., 2001, chapter IV.
 */
export class CubicSpline {
  readonly t: Float64Array;
  readonly y: Float64Array;
  /** Slopes dy/dt at the knots. */
  readonly slope: Float64Array;
  private last = 0;

  /**
   * @param t knots, strictly increasing, length n ≥ 2.
   * @param y values at the knots, length n.
   * @param end the end condition; with fewer than four knots `natural` is used.
   * @throws InvalidInput `spline-knots` when the knots do not increase or are not finite.
   */
  constructor(t: ArrayLike<number>, y: ArrayLike<number>, end: SplineEnd = 'not-a-knot') {
    this.t = Float64Array.from(t);
    this.y = Float64Array.from(y);
    const n = this.t.length;
    if (n < 2 || this.y.length !== n) throw new InvalidInput('spline-knots', 'A spline needs two or more points.');
    for (let i = 0; i < n; i++) {
      if (!Number.isFinite(this.t[i]) || !Number.isFinite(this.y[i]) || (i > 0 && this.t[i] <= this.t[i - 1])) {
        throw new InvalidInput(
          'spline-knots',
          `The points of a spline must be finite and in order; point ${i + 1} is not.`,
        );
      }
    }
    this.slope = knotSlopes(this.t, this.y, n < 4 ? 'natural' : end);
  }

  /** Index of the piece that holds t (the end pieces also outside the range). */
  private piece(t: number): number {
    const k = this.t;
    const top = k.length - 2;
    let i = this.last;
    if (t >= k[i] && t <= k[i + 1]) return i;
    let low = 0;
    let high = top;
    while (low < high) {
      i = (low + high + 1) >> 1;
      if (k[i] <= t) low = i;
      else high = i - 1;
    }
    this.last = low;
    return low;
  }

  /** Value at t. */
  at(t: number): number {
    const i = this.piece(t);
    const h = this.t[i + 1] - this.t[i];
    const u = (t - this.t[i]) / h;
    const v = 1 - u;
    const { y, slope } = this;
    return v * v * ((1 + 2 * u) * y[i] + u * h * slope[i]) + u * u * ((1 + 2 * v) * y[i + 1] - v * h * slope[i + 1]);
  }

  /** First derivative at t. */
  derivative(t: number): number {
    const i = this.piece(t);
    const h = this.t[i + 1] - this.t[i];
    const u = (t - this.t[i]) / h;
    const { y, slope } = this;
    const chordSlope = (y[i + 1] - y[i]) / h;
    return slope[i] * (1 - u) * (1 - 3 * u) + slope[i + 1] * u * (3 * u - 2) + chordSlope * 6 * u * (1 - u);
  }

  /** Second derivative at t. */
  second(t: number): number {
    const i = this.piece(t);
    const h = this.t[i + 1] - this.t[i];
    const u = (t - this.t[i]) / h;
    const { y, slope } = this;
    const chordSlope = (y[i + 1] - y[i]) / h;
    return (slope[i] * (6 * u - 4) + slope[i + 1] * (6 * u - 2) + chordSlope * (6 - 12 * u)) / h;
  }
}

function knotSlopes(t: Float64Array, y: Float64Array, end: SplineEnd): Float64Array {
  const n = t.length;
  const lower = new Float64Array(n);
  const diagonal = new Float64Array(n);
  const upper = new Float64Array(n);
  const right = new Float64Array(n);
  const h = (i: number) => t[i + 1] - t[i];
  const d = (i: number) => (y[i + 1] - y[i]) / h(i);
  for (let i = 1; i < n - 1; i++) {
    lower[i] = h(i);
    diagonal[i] = 2 * (h(i - 1) + h(i));
    upper[i] = h(i - 1);
    right[i] = 3 * (h(i) * d(i - 1) + h(i - 1) * d(i));
  }
  if (n === 2) return Float64Array.of(d(0), d(0));
  if (end === 'natural') {
    diagonal[0] = 2;
    upper[0] = 1;
    right[0] = 3 * d(0);
    diagonal[n - 1] = 2;
    lower[n - 1] = 1;
    right[n - 1] = 3 * d(n - 2);
  } else {
    const a = h(0);
    const b = h(1);
    diagonal[0] = b;
    upper[0] = a + b;
    right[0] = ((a + 2 * (a + b)) * b * d(0) + a * a * d(1)) / (a + b);
    const p = h(n - 2);
    const q = h(n - 3);
    diagonal[n - 1] = q;
    lower[n - 1] = p + q;
    right[n - 1] = (p * p * d(n - 3) + (2 * (p + q) + p) * q * d(n - 2)) / (p + q);
  }
  for (let i = 1; i < n; i++) {
    const m = lower[i] / diagonal[i - 1];
    diagonal[i] -= m * upper[i - 1];
    right[i] -= m * right[i - 1];
  }
  right[n - 1] /= diagonal[n - 1];
  for (let i = n - 2; i >= 0; i--) right[i] = (right[i] - upper[i] * right[i + 1]) / diagonal[i];
  return right;
}
