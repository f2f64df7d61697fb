import { kept, sourceOutline, type SectionSource } from '../shaping';
import { placeSurface, skinPlaces, type PlacedStation } from './placement';
import type { SectionLookup } from './mean-surface';
import type { LiftingSurface, Point3 } from './types';

/** Points of an outline that a ring is taken from, and of a ring on each of the two surfaces. */
const OUTLINE_POINTS = 241;
export const RING_SIDE = 60;

/** Points at equal shares of a polyline's length. */
function shares(x: readonly number[], y: readonly number[], count: number): [number, number][] {
  const s = [0];
  for (let i = 1; i < x.length; i++) s.push(s[i - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]));
  const total = s[s.length - 1];
  let k = 1;
  return Array.from({ length: count + 1 }, (_, i) => {
    // Closer together at the nose, where the surface turns.
    const at = total * (1 - Math.cos((Math.PI * i) / count)) * 0.5;
    while (k < s.length - 1 && s[k] < at) k++;
    const t = s[k] > s[k - 1] ? (at - s[k - 1]) / (s[k] - s[k - 1]) : 0;
    return [x[k - 1] + t * (x[k] - x[k - 1]), y[k - 1] + t * (y[k] - y[k - 1])];
  });
}

/** A section's outline as points that stand for the same place on every section: from the upper edge over the nose to the lower. In chords. */
export const ringOf = (lookup: SectionLookup, key: string): [number, number][] => keptRing(lookup(key));

/** Rings by their source: a surface that moves has the same sections. */
const keptRing = kept(200, (source: SectionSource): [number, number][] => {
  const { x, y } = sourceOutline(source, OUTLINE_POINTS);
  let nose = 0;
  for (let i = 1; i < x.length; i++) if (x[i] < x[nose]) nose = i;
  const part = (from: number, to: number) =>
    [Array.from(x.slice(from, to + 1)), Array.from(y.slice(from, to + 1))] as const;
  const [ux, uy] = part(0, nose);
  const [lx, ly] = part(nose, x.length - 1);
  return [...shares(ux, uy, RING_SIDE), ...shares(lx, ly, RING_SIDE).slice(1)];
});

/** A section's ring at its station, in space. */
export function placeRing(at: PlacedStation, ring: readonly [number, number][]): Point3[] {
  const { leadingEdge: le, chord, along, up } = at;
  return ring.map(([px, py]) => {
    const [a, b] = [chord * px, chord * py];
    return { x: le.x + a * along.x + b * up.x, y: le.y + a * along.y + b * up.y, z: le.z + a * along.z + b * up.z };
  });
}

/** A ring of a skin, with where it stands: the station's index, or null between stations. */
export interface SkinRing {
  station: number | null;
  points: Point3[];
}

/**
 * The rings of a surface's skin, root outward, of its right or upper side: one a station, and slices where it flows. Between two rings the skin is ruled.
 * @param ringAt the ring of a section key; of its own making without. @param slices of a bay that flows.
 * @throws InvalidInput from the lookup or for a surface that is no shape.
 */
export function skinRings(
  surface: LiftingSurface,
  lookup: SectionLookup,
  ringAt: (key: string) => readonly [number, number][] = (key) => ringOf(lookup, key),
  slices?: number,
): SkinRing[] {
  const known = new Map<string, readonly [number, number][]>();
  const ring = (key: string) => {
    let made = known.get(key);
    if (!made) known.set(key, (made = ringAt(key)));
    return made;
  };
  return skinPlaces(placeSurface(surface), slices).map(({ bay, share, at }) => {
    const own = ring(at.section);
    const other = at.blend && at.blend.section !== at.section ? ring(at.blend.section) : null;
    const t = at.blend?.share ?? 0;
    const shape = other
      ? own.map(([x, y], i): [number, number] => [(1 - t) * x + t * other[i][0], (1 - t) * y + t * other[i][1]])
      : own;
    return { station: share === 0 ? bay : share === 1 ? bay + 1 : null, points: placeRing(at, shape) };
  });
}

/** The rings alone. */
export const ringsOf = (surface: LiftingSurface, lookup: SectionLookup): Point3[][] =>
  skinRings(surface, lookup).map((r) => r.points);

const minus = (a: Point3, b: Point3): Point3 => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
const cross = (a: Point3, b: Point3): Point3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
const length = (a: Point3) => Math.hypot(a.x, a.y, a.z);

/** Area of a ring that is closed flat. */
export function ringArea(ring: readonly Point3[]): number {
  const sum = { x: 0, y: 0, z: 0 };
  for (let i = 1; i + 1 < ring.length; i++) {
    const v = cross(minus(ring[i], ring[0]), minus(ring[i + 1], ring[0]));
    sum.x += v.x;
    sum.y += v.y;
    sum.z += v.z;
  }
  return 0.5 * length(sum);
}

/** Steps along a bay: a twisted skin is no plane. */
const STEPS = 8;

/** Area of the skin between two rings, ruled from point to point. @param closed whether the last point joins the first. @param steps that the skin is measured in. */
export function skinArea(a: readonly Point3[], b: readonly Point3[], closed = false, steps = STEPS): number {
  const n = a.length;
  let area = 0;
  // Points of the rings at both ends of a step; without objects, since there are many.
  const size = 3 * n;
  let near = new Float64Array(size);
  let far = new Float64Array(size);
  const fill = (out: Float64Array, t: number) => {
    for (let i = 0, k = 0; i < n; i++) {
      const p = a[i];
      const q = b[i];
      out[k++] = p.x + t * (q.x - p.x);
      out[k++] = p.y + t * (q.y - p.y);
      out[k++] = p.z + t * (q.z - p.z);
    }
  };
  const triangle = (p: Float64Array, i: number, q: Float64Array, j: number, r: Float64Array, k: number) => {
    const ux = q[j] - p[i];
    const uy = q[j + 1] - p[i + 1];
    const uz = q[j + 2] - p[i + 2];
    const vx = r[k] - p[i];
    const vy = r[k + 1] - p[i + 1];
    const vz = r[k + 2] - p[i + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    return 0.5 * Math.sqrt(x * x + y * y + z * z);
  };
  fill(near, 0);
  for (let k = 1; k <= steps; k++) {
    fill(far, k / steps);
    for (let i = closed ? 0 : 1; i < n; i++) {
      const at = 3 * i;
      const before = i === 0 ? size - 3 : at - 3;
      area += triangle(near, before, near, at, far, at) + triangle(near, before, far, at, far, before);
    }
    [near, far] = [far, near];
  }
  return area;
}
