import { InvalidInput, smoothingChange } from '../../numerics';
import { resample, type Outline } from '../../section';
import type { SurfaceSpline } from '../../section';
import { fade, Shape } from '../shape';

/** A side of a section. */
export type Side = 'upper' | 'lower';

/** Arc length on a surface at which x has a value; the nearest end where it has none. */
export function arcAt(spline: SurfaceSpline, surface: Side, x: number): number {
  let [fore, aft] = [spline.nose, surface === 'upper' ? 0 : spline.length];
  for (let k = 0; k < 60; k++) {
    const mid = 0.5 * (fore + aft);
    if (spline.x(mid) < x) fore = mid;
    else aft = mid;
  }
  return 0.5 * (fore + aft);
}

/** Arc lengths between which a stretch of a surface lies, in the direction of the loop. @throws InvalidInput `step-stretch`. */
export function stretchOf(spline: SurfaceSpline, surface: Side, from: number, to: number): [number, number] {
  if (!(to - from >= 0.02)) {
    throw new InvalidInput(
      'step-stretch',
      `The stretch runs from ${from} to ${to} of the chord; it must be at least 0.02 long.`,
      `Nearest that works: to ${Number(Math.min(1, from + 0.02).toFixed(3))}.`,
      'to',
    );
  }
  const [a, b] = [arcAt(spline, surface, from), arcAt(spline, surface, to)];
  return a < b ? [a, b] : [b, a];
}

/** Points moved along the outward normals of the outline by given amounts. */
export function moveAlongNormals(shape: Shape, by: (i: number, s: number) => number): Outline {
  const { outline, spline } = shape;
  const x = outline.x.slice();
  const y = outline.y.slice();
  for (let i = 0; i < x.length; i++) {
    const s = spline.knots[i];
    const d = by(i, s);
    if (d === 0) continue;
    const [tx, ty] = spline.tangent(s);
    const norm = Math.hypot(tx, ty);
    x[i] += (d * ty) / norm;
    y[i] -= (d * tx) / norm;
  }
  return { x, y };
}

/** A rounded bump on a surface, highest in its middle, with no bend left at its ends; it leaves the trailing edge where it is. */
export function bump(shape: Shape, step: { surface: Side; at: number; height: number; width: number }): Shape {
  if (step.height === 0) return shape;
  let base = shape.dense();
  if (step.width < 0.12 && base.outline.x.length < 400)
    base = Shape.ofOutline(resample(base.outline, 401, base.spline));
  const { spline } = base;
  const middle = arcAt(spline, step.surface, step.at);
  return Shape.ofOutline(
    moveAlongNormals(base, (_, s) => {
      const u = (s - middle) / (0.5 * step.width);
      if (Math.abs(u) >= 1) return 0;
      const edge = Math.min(s, spline.length - s);
      return step.height * (1 - u * u) ** 3 * (1 - fade(edge / 0.04));
    }),
  );
}

/** Smoothing length at strength 1, chords. */
const REACH = 0.03;

/**
 * Evens out the curvature over a stretch: the least displacement along the normals after which the curvature changes as little as may be.
 * The strength sets the length of the waves that vanish; where a point would move farther than the bound, it is weakened until none does.
 */
export function smoothStretch(
  shape: Shape,
  step: { surface: Side; from: number; to: number; strength: number; bound: number },
): Shape {
  if (step.strength === 0) return shape;
  const base = shape.dense();
  const { spline } = base;
  const [a, b] = stretchOf(spline, step.surface, step.from, step.to);
  const first = spline.knots.findIndex((s) => s >= a - 1e-12);
  let last = first;
  while (last + 1 < spline.knots.length && spline.knots[last + 1] <= b + 1e-12) last++;
  if (last - first < 6) {
    throw new InvalidInput(
      'step-stretch',
      `Only ${last - first + 1} points lie in the stretch; smoothing needs 7.`,
      'Take a longer stretch.',
      'to',
    );
  }
  const s = spline.knots.slice(first, last + 1);
  const curvature = polygonCurvature(base, first, last);
  // An outward displacement d takes d″ off the curvature.
  const change = new Float64Array(s.length);
  for (let i = 1; i + 2 < s.length; i++) change[i] = (-3 * (curvature[i + 1] - curvature[i])) / (s[i + 2] - s[i - 1]);
  const most = (d: Float64Array) => d.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  let reach = REACH * step.strength;
  let moved = smoothingChange(s, change, reach);
  if (most(moved) > step.bound) {
    let [low, high] = [0, reach];
    for (let k = 0; k < 24; k++) {
      reach = 0.5 * (low + high);
      if (most(smoothingChange(s, change, reach)) > step.bound) high = reach;
      else low = reach;
    }
    moved = smoothingChange(s, change, low);
  }
  return Shape.ofOutline(moveAlongNormals(base, (i) => (i >= first && i <= last ? moved[i - first] : 0)));
}

/** Curvature at points first…last from the points themselves: a spline through rough points would triple their roughness. */
function polygonCurvature(shape: Shape, first: number, last: number): Float64Array {
  const { outline, spline } = shape;
  const { knots } = spline;
  const out = new Float64Array(last - first + 1);
  const second = (v: Float64Array, i: number) =>
    (2 * ((v[i + 1] - v[i]) / (knots[i + 1] - knots[i]) - (v[i] - v[i - 1]) / (knots[i] - knots[i - 1]))) /
    (knots[i + 1] - knots[i - 1]);
  for (let k = 0; k < out.length; k++) {
    const i = Math.min(knots.length - 2, Math.max(1, first + k));
    const [tx, ty] = spline.tangent(knots[i]);
    out[k] = (second(outline.y, i) * tx - second(outline.x, i) * ty) / Math.hypot(tx, ty);
  }
  return out;
}
