import { InvalidInput } from '../../numerics';
import { isSolved, type ViscousPoint } from '../../section-flow';

/** A polar at one Reynolds number as the aircraft reads it: knots in order of the angle, rad; moments about the quarter chord. */
export interface PolarCurve {
  reynolds: number;
  alpha: number[];
  cl: number[];
  cd: number[];
  cm: number[];
}

/** Polars of one section, with its flap where one is set. */
export interface SectionPolars {
  /** Key of the section, as stations name it. */
  section: string;
  /** Hinge in chords and angle, degrees down; null without. */
  flap: { hinge: number; angleDeg: number } | null;
  curves: PolarCurve[];
}

/** Knots that are nearer than this are one, rad. */
const SAME_ANGLE = 1e-7;

/** A curve from solved points; unsolved ones are left out. Null where fewer than four are left. */
export function polarCurve(reynolds: number, points: readonly ViscousPoint[]): PolarCurve | null {
  const solved = points.filter(isSolved).sort((a, b) => a.alpha - b.alpha);
  const out: PolarCurve = { reynolds, alpha: [], cl: [], cd: [], cm: [] };
  for (const p of solved) {
    const last = out.alpha[out.alpha.length - 1];
    if (last !== undefined && p.alpha - last < SAME_ANGLE) continue;
    out.alpha.push(p.alpha);
    out.cl.push(p.cl);
    out.cd.push(p.cd);
    out.cm.push(p.cm);
  }
  return out.alpha.length >= 4 ? out : null;
}

/**
 * Slopes at the knots of a piecewise cubic that does not overshoot its data.
 * @source SIAM J. Numer. Anal. 17(2), 1980, 238–246, with the three-point formula of SIAM J. Sci. Stat. Comput. 5(2), 1984, 300–304.
 */
export function monotoneSlopes(x: ArrayLike<number>, y: ArrayLike<number>): Float64Array {
  const n = x.length;
  const slope = new Float64Array(n);
  const secant = (i: number) => (y[i + 1] - y[i]) / (x[i + 1] - x[i]);
  for (let i = 1; i < n - 1; i++) {
    const [a, b] = [secant(i - 1), secant(i)];
    if (a * b <= 0) continue;
    const [h, k] = [x[i] - x[i - 1], x[i + 1] - x[i]];
    const [w, v] = [2 * k + h, k + 2 * h];
    slope[i] = (w + v) / (w / a + v / b);
  }
  slope[0] = secant(0);
  slope[n - 1] = secant(n - 2);
  return slope;
}

/** A curve ready to be read at any angle. */
export class PolarReader {
  readonly reynolds: number;
  /** Slope of lift about zero lift, per rad, and the angle of zero lift, rad. */
  readonly slope: number;
  readonly zeroLift: number;
  /** Angles of greatest and of least lift, rad. */
  readonly highest: number;
  readonly lowest: number;
  readonly clMax: number;
  readonly clMin: number;
  private readonly x: readonly number[];
  private readonly values: { y: readonly number[]; slope: Float64Array }[];

  /** @throws InvalidInput `polar-knots` for fewer than four knots, or knots out of order. */
  constructor(curve: PolarCurve) {
    const { alpha, cl, cd, cm, reynolds } = curve;
    const bad = alpha.some((a, i) => i > 0 && !(a > alpha[i - 1]));
    if (alpha.length < 4 || bad || [cl, cd, cm].some((v) => v.length !== alpha.length))
      throw new InvalidInput(
        'polar-knots',
        `The polar at Re ${Math.round(reynolds)} has no four points in order of their angles.`,
        'Compute it anew, with more angles.',
      );
    this.reynolds = reynolds;
    this.x = alpha;
    this.values = [cl, cd, cm].map((y) => ({ y, slope: monotoneSlopes(alpha, y) }));
    const zero = this.crossing();
    this.zeroLift = zero;
    // A chord of the curve from 1° below zero lift to 4° above: what separates later is counted from there.
    const [a, b] = [Math.max(alpha[0], zero - 0.0175), Math.min(alpha[alpha.length - 1], zero + 0.07)];
    this.slope = Math.max(1, (this.raw(0, b) - this.raw(0, a)) / (b - a));
    [this.highest, this.clMax] = this.crest(1);
    [this.lowest, this.clMin] = this.crest(-1);
  }

  get first(): number {
    return this.x[0];
  }
  get last(): number {
    return this.x[this.x.length - 1];
  }

  private piece(a: number): number {
    const { x } = this;
    let [low, high] = [0, x.length - 2];
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (x[mid] <= a) low = mid;
      else high = mid - 1;
    }
    return low;
  }

  private raw(which: number, a: number): number {
    const { y, slope } = this.values[which];
    const i = this.piece(a);
    const h = this.x[i + 1] - this.x[i];
    const u = (a - this.x[i]) / h;
    const v = 1 - u;
    return v * v * ((1 + 2 * u) * y[i] + u * h * slope[i]) + u * u * ((3 - 2 * u) * y[i + 1] - v * h * slope[i + 1]);
  }

  private rawSlope(which: number, a: number): number {
    const { y, slope } = this.values[which];
    const i = this.piece(a);
    const h = this.x[i + 1] - this.x[i];
    const u = (a - this.x[i]) / h;
    const d = (y[i + 1] - y[i]) / h;
    return (1 - u) * (1 - 3 * u) * slope[i] + u * (3 * u - 2) * slope[i + 1] + 6 * u * (1 - u) * d;
  }

  /** Angle of zero lift nearest to 0°; carried on along the nearest piece where the curve does not reach it. */
  private crossing(): number {
    const [x, y] = [this.x, this.values[0].y];
    let best: number | null = null;
    for (let i = 0; i + 1 < x.length; i++) {
      if (y[i] * y[i + 1] > 0 || y[i + 1] <= y[i]) continue;
      const at = x[i] - (y[i] * (x[i + 1] - x[i])) / (y[i + 1] - y[i]);
      if (best === null || Math.abs(at) < Math.abs(best)) best = at;
    }
    if (best !== null) return best;
    const end = Math.abs(y[0]) < Math.abs(y[y.length - 1]) ? 0 : x.length - 1;
    return x[end] - y[end] / (2 * Math.PI);
  }

  /** The first crest of lift away from zero lift that lift falls away behind, or the end of the curve. */
  private crest(sign: 1 | -1): [number, number] {
    const [x, y] = [this.x, this.values[0].y];
    const order = x.map((_, i) => i).filter((i) => sign * (x[i] - this.zeroLift) > 0);
    if (sign < 0) order.reverse();
    let best = order[0] ?? (sign > 0 ? x.length - 1 : 0);
    for (const i of order) {
      if (sign * y[i] > sign * y[best]) best = i;
      else if (sign * (y[best] - y[i]) > 0.03) break;
    }
    // The cubic does not overshoot, so that the knot itself is the crest.
    return [x[best], y[best]];
  }

  /** Whether an angle lies within the knots. */
  holds(a: number): boolean {
    return a >= this.first - 1e-9 && a <= this.last + 1e-9;
  }

  /**
   * Values at an angle, into `out`: cl, its slope, cd, cm. Beyond the knots lift and drag go over to those of a plate with separated flow.
   * @source of the plate: NASA CP-2230, 1982, 69–83; cited from memory.
   */
  read(a: number, out: Float64Array): void {
    if (this.holds(a)) {
      out[0] = this.raw(0, a);
      out[1] = this.rawSlope(0, a);
      out[2] = this.raw(1, a);
      out[3] = this.raw(2, a);
      return;
    }
    const end = a < this.first ? this.first : this.last;
    const [cl, cd, cm] = [0, 1, 2].map((w) => this.raw(w, end));
    const h = 1e-4;
    const at = plate(end, cl, cd, a);
    out[0] = at[0];
    out[1] = (plate(end, cl, cd, a + h)[0] - plate(end, cl, cd, a - h)[0]) / (2 * h);
    out[2] = at[1];
    out[3] = cm;
  }
}

const PLATE_DRAG = 2;

/** Lift and drag beyond the end of a curve. @param end last angle that is known, with cl and cd there. */
function plate(end: number, cl: number, cd: number, a: number): [number, number] {
  const sign = end < 0 ? -1 : 1;
  const [from, at] = [Math.abs(end), Math.max(1e-3, sign * a)];
  const [s, c] = [Math.sin(from), Math.cos(from)];
  const lift = s > 0.05 ? ((sign * cl - PLATE_DRAG * s * c) * s) / (c * c) : 0;
  const drag = (cd - PLATE_DRAG * s * s) / c;
  const [sa, ca] = [Math.sin(at), Math.cos(at)];
  return [
    sign * (0.5 * PLATE_DRAG * Math.sin(2 * at) + (lift * ca * ca) / sa),
    Math.max(0.001, PLATE_DRAG * sa * sa + drag * ca),
  ];
}
