import { cosineSpaced, factorise, InvalidInput, solveFactorised } from '../numerics';
import { SurfaceSpline, type Outline } from '../section';
import type { ClassShapeSource } from './schema';

/** Bernstein polynomials of an order at x, 0–1. */
function bernstein(order: number, x: number): Float64Array {
  const b = new Float64Array(order + 1);
  b[0] = 1;
  for (let k = 1; k <= order; k++) {
    for (let i = k; i > 0; i--) b[i] = b[i] * (1 - x) + b[i - 1] * x;
    b[0] *= 1 - x;
  }
  return b;
}

/**
 * Height of a surface made by class and shape functions: √x (1 − x) times a sum of Bernstein polynomials, a straight wedge to the edge and
 * a straight line from the nose.
 * @param x share of the chord, 0–1. @source AIAA J. Aircraft 45(1), 2008, 142–158.
 */
export function classShapeHeight(coefficients: readonly number[], edge: number, noseY: number, x: number): number {
  const b = bernstein(coefficients.length - 1, x);
  let sum = 0;
  for (let i = 0; i < coefficients.length; i++) sum += coefficients[i] * b[i];
  return Math.sqrt(x) * (1 - x) * sum + x * edge + (1 - x) * noseY;
}

/** Points of a section made by class and shape functions. @param count points in all, made odd. */
export function classShapeOutline(source: ClassShapeSource, count: number): Outline {
  const half = Math.max(8, Math.floor(count / 2));
  const stations = cosineSpaced(0, 1, half + 1);
  const x = new Float64Array(2 * half + 1);
  const y = new Float64Array(2 * half + 1);
  const [noseX, noseY] = source.nose ?? [0, 0];
  for (let i = 0; i <= half; i++) {
    const at = noseX + (1 - noseX) * stations[i];
    x[half - i] = at;
    y[half - i] = classShapeHeight(source.upper, source.edgeUpper, noseY, stations[i]);
    x[half + i] = at;
    y[half + i] = classShapeHeight(source.lower, source.edgeLower, noseY, stations[i]);
  }
  return { x, y };
}

/** A fit by class and shape functions, and how far it lies off. */
export interface ClassShapeFit {
  source: ClassShapeSource;
  /** Greatest and root-mean-square distance from the outline that was fitted, chords. */
  error: { max: number; rms: number; at: number };
}

/**
 * Least-squares fit of an outline by class and shape functions, in the distance at right angles to the surface.
 * @param outline a checked outline of about unit chord. @param order of the polynomials, 2–12.
 * @throws InvalidInput `fit-order`.
 */
export function fitClassShape(outline: Outline, order: number, spline = new SurfaceSpline(outline)): ClassShapeFit {
  if (!Number.isInteger(order) || order < 2 || order > 12) {
    throw new InvalidInput(
      'fit-order',
      `The order of a fit is a whole number from 2 to 12; ${order} is not.`,
      `Nearest that works: ${order > 12 ? 12 : 2}.`,
      'order',
    );
  }
  // The foremost point is where both surfaces are one-valued over x.
  let s0 = spline.nose;
  let [low, high] = [spline.nose - 0.04 * spline.length, spline.nose + 0.04 * spline.length];
  if (spline.tangent(low)[0] < 0 && spline.tangent(high)[0] > 0) {
    for (let k = 0; k < 50; k++) {
      s0 = 0.5 * (low + high);
      if (spline.tangent(s0)[0] < 0) low = s0;
      else high = s0;
    }
  }
  const n = outline.x.length;
  const tailX = 0.5 * (outline.x[0] + outline.x[n - 1]);
  const [noseX, noseY] = [spline.x(s0), spline.y(s0)];
  const length = tailX - noseX;
  const samples = 101;
  const surface = (end: number) => {
    const edge = spline.y(end);
    const points = Array.from({ length: samples }, (_, k) => {
      const s = s0 + (end - s0) * 0.5 * (1 - Math.cos((Math.PI * (k + 0.5)) / samples));
      const [dx, dy] = spline.tangent(s);
      return {
        x: Math.min(1, Math.max(0, (spline.x(s) - noseX) / length)),
        y: spline.y(s),
        weight: Math.abs(dx) / Math.hypot(dx, dy),
      };
    });
    const m = order + 1;
    const a = new Float64Array(m * m);
    const right = new Float64Array(m);
    for (const p of points) {
      const b = bernstein(order, p.x).map((v) => v * Math.sqrt(p.x) * (1 - p.x));
      const rest = p.y - p.x * edge - (1 - p.x) * noseY;
      const w = p.weight * p.weight;
      for (let i = 0; i < m; i++) {
        right[i] += w * b[i] * rest;
        for (let j = 0; j < m; j++) a[i * m + j] += w * b[i] * b[j];
      }
    }
    // A trace of damping keeps high orders from chasing the last digits of the points.
    for (let i = 0; i < m; i++) a[i * m + i] += 1e-12;
    const coefficients = Array.from(solveFactorised(factorise(a, m), right), (v) => Number(v.toPrecision(10)));
    return { coefficients, edge, points };
  };
  const upper = surface(0);
  const lower = surface(spline.length);
  let max = 0;
  let at = 0;
  let sum = 0;
  for (const side of [upper, lower]) {
    for (const p of side.points) {
      const miss = Math.abs(classShapeHeight(side.coefficients, side.edge, noseY, p.x) - p.y) * p.weight;
      sum += miss * miss;
      if (miss > max) [max, at] = [miss, noseX + p.x * length];
    }
  }
  return {
    source: {
      kind: 'class-shape',
      upper: upper.coefficients,
      lower: lower.coefficients,
      edgeUpper: upper.edge,
      edgeLower: lower.edge,
      nose: [noseX, noseY],
    },
    error: { max, rms: Math.sqrt(sum / (2 * samples)), at },
  };
}
