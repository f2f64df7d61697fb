import { placeSurface, skinPlaces, trailingEdge } from './placement';
import type { LiftingSurface, Point3 } from './types';

/** Where one surface passes through another. */
export interface Crossing {
  a: string;
  b: string;
  at: Point3;
}

/** Share of its length that a surface may reach into another at its root or tip: it is joined there, and crosses nothing. */
const JOINED = 0.06;

/** A root this near to the plane of symmetry is on it, m. */
const SEAM = 1e-6;

type Segment = [Point3, Point3, number, number];
interface Net {
  surface: LiftingSurface;
  /** Leading and trailing edges with the shares of the span at their ends. */
  edges: Segment[];
  triangles: [Point3, Point3, Point3][];
  /** Whether the first triangle has a side on the plane of symmetry, where both sides are one: what passes there passes through. */
  seam: boolean;
  low: Point3;
  high: Point3;
}

const mirror = (p: Point3): Point3 => ({ ...p, y: -p.y });
const minus = (a: Point3, b: Point3): Point3 => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
const cross = (a: Point3, b: Point3): Point3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
const dot = (a: Point3, b: Point3) => a.x * b.x + a.y * b.y + a.z * b.z;

function netsOf(surface: LiftingSurface): Net[] {
  const places = skinPlaces(placeSurface(surface), 4);
  const total = places[places.length - 1].at.offset;
  const side = (turn: (p: Point3) => Point3): Net => {
    const lead = places.map((p) => turn(p.at.leadingEdge));
    const trail = places.map((p) => turn(trailingEdge(p.at)));
    // Edges of two surfaces may meet exactly where the surfaces cross; the line between them does not.
    const middle = lead.map((p, i) => ({
      x: 0.5 * (p.x + trail[i].x),
      y: 0.5 * (p.y + trail[i].y),
      z: 0.5 * (p.z + trail[i].z),
    }));
    const edges: Segment[] = [];
    const triangles: Net['triangles'] = [];
    for (let i = 1; i < places.length; i++) {
      const [s, t] = [places[i - 1].at.offset / total, places[i].at.offset / total];
      edges.push([lead[i - 1], lead[i], s, t], [trail[i - 1], trail[i], s, t], [middle[i - 1], middle[i], s, t]);
      triangles.push([lead[i - 1], trail[i - 1], trail[i]], [lead[i - 1], trail[i], lead[i]]);
    }
    const all = [...lead, ...trail];
    const of = (k: 'x' | 'y' | 'z', f: (...v: number[]) => number) => f(...all.map((p) => p[k]));
    return {
      surface,
      edges,
      triangles,
      seam: surface.mirrored && Math.abs(lead[0].y) < SEAM && Math.abs(trail[0].y) < SEAM,
      low: { x: of('x', Math.min), y: of('y', Math.min), z: of('z', Math.min) },
      high: { x: of('x', Math.max), y: of('y', Math.max), z: of('z', Math.max) },
    };
  };
  return surface.mirrored ? [side((p) => p), side(mirror)] : [side((p) => p)];
}

/** True where an edge lies beside a triangle along an axis. */
const beside = ([p, q]: Segment, [a, b, c]: [Point3, Point3, Point3]) =>
  (p.y < a.y && p.y < b.y && p.y < c.y && q.y < a.y && q.y < b.y && q.y < c.y) ||
  (p.y > a.y && p.y > b.y && p.y > c.y && q.y > a.y && q.y > b.y && q.y > c.y) ||
  (p.x < a.x && p.x < b.x && p.x < c.x && q.x < a.x && q.x < b.x && q.x < c.x) ||
  (p.x > a.x && p.x > b.x && p.x > c.x && q.x > a.x && q.x > b.x && q.x > c.x) ||
  (p.z < a.z && p.z < b.z && p.z < c.z && q.z < a.z && q.z < b.z && q.z < c.z) ||
  (p.z > a.z && p.z > b.z && p.z > c.z && q.z > a.z && q.z > b.z && q.z > c.z);

/** Where an edge passes through a triangle: the share of the edge, or null. @param seam whether the side from a to b is no rim. */
function pierces([from, to]: Segment, [a, b, c]: [Point3, Point3, Point3], seam: boolean): number | null {
  const [u, v, d] = [minus(b, a), minus(c, a), minus(to, from)];
  const n = cross(u, v);
  const slope = dot(n, d);
  // Edges that run within the plane of the triangle only touch it.
  if (Math.abs(slope) < 1e-9 * Math.hypot(n.x, n.y, n.z) * Math.hypot(d.x, d.y, d.z)) return null;
  const t = dot(n, minus(a, from)) / slope;
  if (t < 0 || t > 1) return null;
  const p = minus({ x: from.x + t * d.x, y: from.y + t * d.y, z: from.z + t * d.z }, a);
  const [uu, uv, vv, pu, pv] = [dot(u, u), dot(u, v), dot(v, v), dot(p, u), dot(p, v)];
  const det = uu * vv - uv * uv;
  const [r, s] = [(vv * pu - uv * pv) / det, (uu * pv - uv * pu) / det];
  const rim = 1e-3;
  return r > rim && s > (seam ? -rim : rim) && r + s < 1 - rim ? t : null;
}

/**
 * Where surfaces pass through each other: an edge of one goes through the other, away from its own ends. A lattice is not to be trusted there.
 * @param surfaces where they stand; one that is no shape crosses nothing.
 */
export function crossings(surfaces: readonly LiftingSurface[]): Crossing[] {
  const nets = surfaces.map((s) => {
    try {
      return netsOf(s);
    } catch {
      return [];
    }
  });
  const found: Crossing[] = [];
  const apart = (p: Net, q: Net) =>
    (['x', 'y', 'z'] as const).some((k) => p.high[k] < q.low[k] || q.high[k] < p.low[k]);
  const first = (p: Net, q: Net): Point3 | null => {
    for (const e of p.edges)
      for (const [k, triangle] of q.triangles.entries()) {
        if (beside(e, triangle)) continue;
        const t = pierces(e, triangle, q.seam && k === 0);
        if (t === null) continue;
        const share = e[2] + t * (e[3] - e[2]);
        if (share < JOINED || share > 1 - JOINED) continue;
        return {
          x: e[0].x + t * (e[1].x - e[0].x),
          y: e[0].y + t * (e[1].y - e[0].y),
          z: e[0].z + t * (e[1].z - e[0].z),
        };
      }
    return null;
  };
  for (let i = 0; i < surfaces.length; i++)
    for (let k = i + 1; k < surfaces.length; k++) {
      let at: Point3 | null = null;
      for (const p of nets[i]) for (const q of nets[k]) if (!at && !apart(p, q)) at = first(p, q) ?? first(q, p);
      if (at) found.push({ a: surfaces[i].id, b: surfaces[k].id, at });
    }
  return found;
}
