import { DEG, InvalidInput } from '../numerics';
import { checkOutline, type Outline } from './outline';
import { SurfaceSpline } from './surface-spline';

/** A plain flap: hinge at x of the chord, y as a fraction of the local thickness from the lower surface; the angle is positive trailing edge down. */
export interface Flap {
  x: number;
  y: number;
  /** rad */
  angle: number;
  /** Half the length of the rounding where the two parts meet in a corner, chords. */
  rounding?: number;
}

/** An outline with its flap deflected; chords. */
export interface FlappedOutline {
  outline: Outline;
  /** The hinge, in chords. */
  hinge: { x: number; y: number };
}

type Point = [number, number];

const FOREMOST = 0.1;
const AFTMOST = 0.98;
const MOST_ANGLE = Math.PI / 3;
const ROUNDING = 0.012;

/**
 * Turns the part of a section behind a hinge about it. The side that opens is closed by an arc about the hinge, the side that closes is cut where
 * the two parts meet and rounded a little, so that no panel sits in a corner.
 * @param outline a checked outline in chords; it stays as it is.
 * @throws InvalidInput `flap-hinge`, `flap-angle`, or those of a bad outline where the surfaces would cross.
 */
export function deflectFlap(outline: Outline, flap: Flap): FlappedOutline {
  if (!(flap.x >= FOREMOST && flap.x <= AFTMOST)) {
    throw new InvalidInput(
      'flap-hinge',
      `A hinge lies from ${FOREMOST} to ${AFTMOST} of the chord; ${flap.x} does not.`,
      `Nearest that works: ${flap.x > AFTMOST ? AFTMOST : FOREMOST}.`,
      'flap.x',
    );
  }
  if (!(flap.y >= 0 && flap.y <= 1)) {
    throw new InvalidInput(
      'flap-hinge',
      `A hinge lies from 0 (lower surface) to 1 (upper surface) of the local thickness; ${flap.y} does not.`,
      `Nearest that works: ${flap.y > 1 ? 1 : 0}.`,
      'flap.y',
    );
  }
  if (!(Math.abs(flap.angle) <= MOST_ANGLE + 1e-12)) {
    throw new InvalidInput(
      'flap-angle',
      `A flap turns up to 60° either way; ${(flap.angle * DEG).toFixed(1)}° is more.`,
      undefined,
      'flap.angle',
    );
  }
  const spline = new SurfaceSpline(outline);
  const n = outline.x.length;
  const points: Point[] = Array.from(outline.x, (x, i) => [x, outline.y[i]]);
  const cutUpper = placeOf(spline, flap.x, 0, spline.nose);
  const cutLower = placeOf(spline, flap.x, spline.length, spline.nose);
  const upperCut: Point = [spline.x(cutUpper), spline.y(cutUpper)];
  const lowerCut: Point = [spline.x(cutLower), spline.y(cutLower)];
  const hinge = { x: flap.x, y: lowerCut[1] + flap.y * (upperCut[1] - lowerCut[1]) };
  if (flap.angle === 0) return { outline, hinge };
  const cos = Math.cos(flap.angle);
  const sin = Math.sin(flap.angle);
  const turn = ([x, y]: Point): Point => [
    hinge.x + (x - hinge.x) * cos + (y - hinge.y) * sin,
    hinge.y - (x - hinge.x) * sin + (y - hinge.y) * cos,
  ];
  const near = 1e-6;
  const between = (from: number, to: number) =>
    points.filter((_, i) => spline.knots[i] > from + near && spline.knots[i] < to - near);
  // Each surface from the fixed part to the trailing edge.
  const upperFixed = [...between(cutUpper, spline.nose).reverse(), upperCut];
  const lowerFixed = [...between(spline.nose, cutLower), lowerCut];
  const upperMoved = [upperCut, ...between(0, cutUpper).reverse(), points[0]].map(turn);
  const lowerMoved = [lowerCut, ...between(cutLower, spline.length), points[n - 1]].map(turn);
  const upper = join(upperFixed, upperMoved, hinge, flap.angle > 0, flap.rounding);
  const lower = join(lowerFixed, lowerMoved, hinge, flap.angle < 0, flap.rounding);
  const nose: Point = [spline.x(spline.nose), spline.y(spline.nose)];
  const loop = [...upper.reverse(), nose, ...lower];
  const result = {
    x: Float64Array.from(loop, (p) => p[0]),
    y: Float64Array.from(loop, (p) => p[1]),
  };
  checkOutline(result);
  return { outline: result, hinge };
}

/** Arc length between the nose and an edge at which x has a value. */
function placeOf(spline: SurfaceSpline, x: number, edge: number, nose: number): number {
  let [aft, fore] = [edge, nose];
  for (let k = 0; k < 80; k++) {
    const mid = 0.5 * (aft + fore);
    if (spline.x(mid) > x) aft = mid;
    else fore = mid;
  }
  return 0.5 * (aft + fore);
}

/** Joins the fixed and the turned part of one surface, both given from the front to the back. */
function join(
  fixed: Point[],
  moved: Point[],
  hinge: { x: number; y: number },
  opens: boolean,
  given?: number,
): Point[] {
  const rounding = given ?? ROUNDING;
  const [p, q] = [fixed[fixed.length - 1], moved[0]];
  const radius = Math.hypot(p[0] - hinge.x, p[1] - hinge.y);
  const outer = opens && given !== undefined ? tangentCorner(fixed, moved) : undefined;
  if (opens && radius > 1e-4 && !outer) {
    const from = Math.atan2(p[1] - hinge.y, p[0] - hinge.x);
    let to = Math.atan2(q[1] - hinge.y, q[0] - hinge.x);
    if (to - from > Math.PI) to -= 2 * Math.PI;
    if (to - from < -Math.PI) to += 2 * Math.PI;
    const steps = Math.max(4, Math.ceil(Math.abs(to - from) / 0.03));
    const arc: Point[] = [];
    for (let k = 1; k < steps; k++) {
      const t = from + ((to - from) * k) / steps;
      arc.push([hinge.x + radius * Math.cos(t), hinge.y + radius * Math.sin(t)]);
    }
    return [...thin(fixed, p), ...arc, ...thin(moved, q)];
  }
  const corner = outer ?? crossing(fixed, moved) ?? { at: p, fixed: fixed.length - 1, moved: 0 };
  const before = cutBack(fixed.slice(0, corner.fixed + 1), corner.at, -1, rounding);
  const behind = cutBack(
    moved.slice(corner.moved + (corner.at === p || corner === outer ? 0 : 1)),
    corner.at,
    1,
    rounding,
  );
  const a = before[before.length - 1];
  const b = behind[0];
  const round: Point[] = [];
  for (let k = 1; k < 8; k++) {
    const t = k / 8;
    const [u, v, w] = [(1 - t) ** 2, 2 * t * (1 - t), t * t];
    round.push([u * a[0] + v * corner.at[0] + w * b[0], u * a[1] + v * corner.at[1] + w * b[1]]);
  }
  return [...before, ...round, ...behind];
}

/** Where the two parts would meet if both ran on straight, for a joint that is rounded on the side that opens as well. */
function tangentCorner(fixed: Point[], moved: Point[]): { at: Point; fixed: number; moved: number } | undefined {
  const [a, b, c, d] = [fixed[fixed.length - 2], fixed[fixed.length - 1], moved[0], moved[1]];
  const det = (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]);
  if (!a || !d || Math.abs(det) < 1e-12) return undefined;
  const t = ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) / det;
  const at: Point = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
  if (!(Math.hypot(at[0] - b[0], at[1] - b[1]) < 0.05)) return undefined;
  return { at, fixed: fixed.length - 1, moved: 0 };
}

/** Leaves out points nearer to an end than the spline can follow. */
function thin(part: Point[], end: Point): Point[] {
  return part.filter((p) => p === end || Math.hypot(p[0] - end[0], p[1] - end[1]) > 0.002);
}

/** Where two polylines cross, nearest the end of the first. */
function crossing(fixed: Point[], moved: Point[]): { at: Point; fixed: number; moved: number } | undefined {
  for (let i = fixed.length - 2; i >= 0; i--) {
    for (let j = 0; j + 1 < moved.length; j++) {
      const [a, b, c, d] = [fixed[i], fixed[i + 1], moved[j], moved[j + 1]];
      const det = (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]);
      if (Math.abs(det) < 1e-18) continue;
      const t = ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) / det;
      const u = ((c[0] - a[0]) * (b[1] - a[1]) - (c[1] - a[1]) * (b[0] - a[0])) / det;
      if (t >= 0 && t <= 1 && u >= 0 && u <= 1)
        return { at: [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])], fixed: i, moved: j };
    }
  }
  return undefined;
}

/** Ends a polyline a rounding's length short of a corner. @param way −1 where the corner is behind its last point, 1 where it is ahead of its first. */
function cutBack(part: Point[], corner: Point, way: 1 | -1, rounding: number): Point[] {
  const list = way === 1 ? [...part] : [...part].reverse();
  while (list.length > 2 && Math.hypot(list[0][0] - corner[0], list[0][1] - corner[1]) < 1.3 * rounding) list.shift();
  const next = list[0];
  const length = Math.hypot(next[0] - corner[0], next[1] - corner[1]);
  if (length > 1.6 * rounding) {
    const t = rounding / length;
    list.unshift([corner[0] + t * (next[0] - corner[0]), corner[1] + t * (next[1] - corner[1])]);
  }
  return way === 1 ? list : list.reverse();
}
