import { bodyRings, placeSurface, trailingEdge, type Body, type LiftingSurface } from '../../airframe';
import { FEWEST_STRIPS, type PanelSpread } from './patch';

/** A place along a span at which a column is to end, or a stretch that is to be a column of its own; as shares of the span. */
export interface SpanPlace {
  from: number;
  to: number;
  /** Whether a body that is narrow beside the columns stands there. */ body?: boolean;
}

/** Bodies less wide than this many columns are narrow beside them. */
const NARROW = 1.5;
const LOOKS = 120;

type Flat = [number, number];
interface SpanStation {
  share: number;
  /** x of the edges there. */ lead: number;
  trail: number;
  /** y and z of the middle of the chord and of the trailing edge. */ middle: Flat;
  edge: Flat;
}

function stationsAlong(surface: LiftingSurface): SpanStation[] {
  const placed = placeSurface(surface);
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  return surface.bays.flatMap((_, b) =>
    Array.from({ length: LOOKS + 1 }, (_at, k) => placed.at(b, k / LOOKS))
      .slice(b === 0 ? 0 : 1)
      .map((at): SpanStation => {
        const [l, t] = [at.leadingEdge, trailingEdge(at)];
        return {
          share: at.offset / total,
          lead: l.x,
          trail: t.x,
          middle: [0.5 * (l.y + t.y), 0.5 * (l.z + t.z)],
          edge: [t.y, t.z],
        };
      }),
  );
}

interface BodyRing {
  x: number;
  z: number;
  radius: number;
}

function ringsOf(body: Body): BodyRing[] {
  return bodyRings(body).map((ring) => {
    let [a, b, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const { y, z } of ring) {
      a = Math.min(a, y);
      b = Math.max(b, y);
      low = Math.min(low, z);
      high = Math.max(high, z);
    }
    return { x: ring[0].x, z: 0.5 * (low + high), radius: 0.5 * Math.max(b - a, high - low) };
  });
}

/** The ring of a body where it is widest between two x; null where it is not there. */
function widest(rings: readonly BodyRing[], from: number, to: number): BodyRing | null {
  let found: BodyRing | null = null;
  for (const r of rings) if (r.x >= from && r.x <= to && (!found || r.radius > found.radius)) found = r;
  return found;
}

/** Stretches of a surface in which bodies stand that are narrow beside its columns. @param bodies that pass through it. @param columns along its span. */
export function bodyPlaces(surface: LiftingSurface, bodies: readonly Body[], columns: number): SpanPlace[] {
  if (bodies.length === 0) return [];
  const stations = stationsAlong(surface);
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  return bodies.flatMap((body) => {
    const rings = ringsOf(body);
    return (body.mirrored ? [1, -1] : [1]).flatMap((side): SpanPlace[] => {
      let best: { off: number; at: SpanStation; radius: number } | null = null;
      stations.forEach((at, k) => {
        const wide = widest(rings, at.lead, at.trail);
        if (!wide) return;
        const [p, q] = [stations[Math.max(0, k - 1)].middle, stations[Math.min(stations.length - 1, k + 1)].middle];
        const size = Math.hypot(q[0] - p[0], q[1] - p[1]);
        const e = [(q[0] - p[0]) / size, (q[1] - p[1]) / size];
        const r = [side * body.position.y - at.middle[0], wide.z - at.middle[1]];
        const off = r[0] * e[0] + r[1] * e[1];
        if (!best || Math.abs(off) < Math.abs(best.off)) best = { off, at, radius: wide.radius };
      });
      if (!best) return [];
      const { off, at, radius } = best as { off: number; at: SpanStation; radius: number };
      const centre = at.share + off / total;
      const half = radius / total;
      const t = Math.min(1, Math.max(0, centre));
      const width = surface.mirrored
        ? (Math.PI / 2) * Math.sqrt(Math.max(1e-4, 1 - t * t))
        : Math.PI * Math.sqrt(Math.max(1e-3, t * (1 - t)));
      if (2 * radius > (NARROW * width * total) / columns || centre + half <= 0 || centre - half >= 1) return [];
      // In the plane of symmetry both sides of it are one column's neighbours.
      if (surface.mirrored && centre - half <= 0) return [];
      return [{ from: Math.max(0, centre - half), to: Math.min(1, centre + half), body: true }];
    });
  });
}

/** Where the trailing edge of a surface meets another one that goes on behind it. */
export interface Meeting {
  /** The other one, and the share of its span. */ surface: string;
  share: number;
  /** The surface whose edge it is, and the x behind the other one there. */ edgeOf: string;
  behind: number;
  /** x of the edge there, and y and z of the other one's middle. */ edge: number;
  middle: Flat;
}

/** Within this share of their chord surfaces meet that only come near to each other. */
const NEAR = 0.06;

/** Where two lines in a plane meet: shares of both, a little beyond their ends too. */
function meet(a: Flat, b: Flat, c: Flat, d: Flat, slack: number): [number, number] | null {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]];
  const det = ux * vy - uy * vx;
  if (Math.abs(det) < 1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy)) return null;
  const [rx, ry] = [c[0] - a[0], c[1] - a[1]];
  const [s, t] = [(rx * vy - ry * vx) / det, (rx * uy - ry * ux) / det];
  const [su, sv] = [slack / Math.hypot(ux, uy), slack / Math.hypot(vx, vy)];
  return s >= -su && s <= 1 + su && t >= -sv && t <= 1 + sv ? [s, t] : null;
}

/** All places where trailing edges meet other surfaces that go on behind them. */
export function meetings(surfaces: readonly LiftingSurface[]): Meeting[] {
  const all = surfaces.map(stationsAlong);
  const out: Meeting[] = [];
  surfaces.forEach((a, i) =>
    surfaces.forEach((b, k) => {
      if (i === k) return;
      for (const side of b.mirrored ? [1, -1] : [1])
        for (let m = 1; m < all[i].length; m++)
          for (let n = 1; n < all[k].length; n++) {
            const [p, q, r, s] = [all[i][m - 1], all[i][m], all[k][n - 1], all[k][n]];
            // Beyond ends only.
            const slack = m === 1 || n === 1 || m === all[i].length - 1 || n === all[k].length - 1 ? NEAR : 0;
            const hit = meet(
              p.middle,
              q.middle,
              [side * r.edge[0], r.edge[1]],
              [side * s.edge[0], s.edge[1]],
              slack * Math.min(q.trail - q.lead, s.trail - s.lead),
            );
            if (!hit) continue;
            const [u, v] = hit.map((t) => Math.min(1, Math.max(0, t)));
            const between = (x: number, y: number, t: number) => x + t * (y - x);
            const own = { lead: between(p.lead, q.lead, u), trail: between(p.trail, q.trail, u) };
            const edge = between(r.trail, s.trail, v);
            if (edge < own.lead || edge >= own.trail) continue;
            const share = between(p.share, q.share, u);
            const middle: Flat = [between(p.middle[0], q.middle[0], u), between(p.middle[1], q.middle[1], u)];
            if (out.some((o) => o.surface === a.id && o.edgeOf === b.id && Math.abs(o.share - share) < 0.02)) continue;
            out.push({ surface: a.id, share, edgeOf: b.id, behind: own.trail, edge, middle });
          }
    }),
  );
  return out;
}

/** Columns along a surface. @param longest span of all, m. */
export function columnsAlong(surface: LiftingSurface, spread: PanelSpread, longest: number): number {
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  return Math.max(Math.min(FEWEST_STRIPS, spread.spanwise), Math.round((spread.spanwise * total) / longest));
}
