import { z } from 'zod';
import { InvalidInput } from '../numerics';
import { partId, refusalOf, within, words, type FieldLimit } from '../limits';
import { ringArea, skinArea } from './loft';
import { point3 } from './schema';
import type { Point3 } from './types';

export const MOST_BODY_STATIONS = 60;
export const MOST_BODIES = 20;

/** Limits of every number of a body's station. */
export const BODY_LIMITS = {
  x: { label: 'Along, x', dimension: 'length', min: -1000, max: 1000, step: 0.01 },
  width: { label: 'Width', dimension: 'length', min: 0, max: 100, step: 0.005 },
  height: { label: 'Height', dimension: 'length', min: 0, max: 100, step: 0.005 },
  z: { label: 'Centre, z', dimension: 'length', min: -100, max: 100, step: 0.005 },
  corner: {
    label: 'Corner',
    dimension: 'plain',
    min: 0,
    max: 1,
    step: 0.05,
    hint: 'radius, a share of the half width',
  },
} as const satisfies Record<string, FieldLimit>;
const L = BODY_LIMITS;

/** A cross-section of a body. */
export const bodyStation = z.object({
  /** Along the body from its position, m. */
  x: within(L.x),
  width: within(L.width),
  height: within(L.height),
  /** Height of the cross-section's centre over the body's position, m. */
  z: within(L.z).default(0),
  shape: z.enum(['ellipse', 'box']).default('ellipse'),
  /** Corner radius of a box, a share of its half width. */
  corner: within(L.corner).default(0.3),
});

/** A fuselage, pod, boom or nacelle: cross-sections along a line. */
export const bodySchema = z
  .object({
    id: partId,
    name: words(60).min(1, 'needs a name'),
    mirrored: z.boolean().default(false),
    position: point3,
    stations: z.array(bodyStation).min(2, 'needs two stations or more').max(MOST_BODY_STATIONS),
    loft: z.enum(['smooth', 'straight']).default('smooth'),
  })
  .superRefine((b, context) => {
    b.stations.forEach((s, i) => {
      if (i > 0 && !(s.x > b.stations[i - 1].x))
        context.addIssue({
          code: 'custom',
          path: ['stations', i, 'x'],
          message: `must lie behind the station before, at ${b.stations[i - 1].x} m`,
        });
    });
    if (!b.stations.some((s) => s.width > 0 && s.height > 0))
      context.addIssue({ code: 'custom', path: ['stations'], message: 'need a width and a height somewhere' });
  });
export type Body = z.infer<typeof bodySchema>;
type Station = Body['stations'][number];

/** Points of a cross-section, and slices between two stations. */
const AROUND = 192;
const SLICES = 24;

/** A cross-section of half width and half height 1, from the right over the top: of an ellipse, or of a box with round corners. */
function unitRing({ shape, corner, width, height }: Station): [number, number][] {
  if (shape === 'ellipse' || width === 0 || height === 0)
    return Array.from({ length: AROUND }, (_, i) => {
      const t = (2 * Math.PI * i) / AROUND;
      return [Math.cos(t), Math.sin(t)];
    });
  const [a, b] = [width / 2, height / 2];
  const r = Math.min(corner * a, b);
  // A quarter: up the side, round the corner, to the middle of the top.
  const [side, top] = [b - r, a - r];
  // A third of the points each, so that both ends of the corner are among them.
  const quarter = (share: number): [number, number] => {
    const t = 3 * share;
    if (t <= 1) return [a, t * side];
    if (t < 2 && r > 0) {
      const turn = ((t - 1) * Math.PI) / 2;
      return [a - r + r * Math.cos(turn), side + r * Math.sin(turn)];
    }
    return [a - r - Math.max(0, t - 2) * top, b];
  };
  const n = AROUND / 4;
  return Array.from({ length: AROUND }, (_, i) => {
    const k = Math.floor(i / n);
    const t = (i % n) / n;
    const [u, v] = k % 2 === 0 ? quarter(t) : quarter(1 - t);
    return [((k === 0 || k === 3 ? 1 : -1) * u) / a, ((k < 2 ? 1 : -1) * v) / b];
  });
}

/**
 * Slopes of a curve through points that does not overshoot them: those of the parabola through three neighbours, held within what keeps a cubic
 * monotone. @source SIAM J. Numer. Anal. 17(2), 1980, 238–246, cited from memory.
 */
function monotoneSlopes(x: readonly number[], y: readonly number[]): number[] {
  const n = x.length;
  const h = x.slice(1).map((v, i) => v - x[i]);
  const d = h.map((v, i) => (y[i + 1] - y[i]) / v);
  if (n === 2) return [d[0], d[0]];
  const held = (m: number, a: number, b: number) => {
    if (a * b <= 0) return 0;
    return Math.sign(a) * Math.min(Math.max(0, m * Math.sign(a)), 3 * Math.min(Math.abs(a), Math.abs(b)));
  };
  return y.map((_, i) => {
    if (i === 0) return held(((2 * h[0] + h[1]) * d[0] - h[0] * d[1]) / (h[0] + h[1]), d[0], d[0]);
    if (i === n - 1) {
      const [p, q] = [h[n - 2], h[n - 3]];
      return held(((2 * p + q) * d[n - 2] - p * d[n - 3]) / (p + q), d[n - 2], d[n - 2]);
    }
    return held((h[i] * d[i - 1] + h[i - 1] * d[i]) / (h[i - 1] + h[i]), d[i - 1], d[i]);
  });
}

function hermite(x: readonly number[], y: readonly number[], m: readonly number[], i: number, at: number): number {
  const h = x[i + 1] - x[i];
  const t = (at - x[i]) / h;
  const [a, b] = [1 - t, t];
  return a * a * (1 + 2 * t) * y[i] + t * a * a * h * m[i] + b * b * (3 - 2 * t) * y[i + 1] - b * b * a * h * m[i + 1];
}

/**
 * A body as rings, nose to tail, in space (its own side). A smooth loft passes a curve without overshoot through the squares of widths and heights, so
 * that an end that closes is round, and one of an ellipsoid is its own; cross-sections blend from shape to shape.
 * @throws InvalidInput `body` for stations that are none.
 */
export function bodyRings(body: Body): Point3[][] {
  const parsed = bodySchema.safeParse(body);
  if (!parsed.success) {
    const { message, hint, path } = refusalOf(parsed.error, body.name || body.id);
    throw new InvalidInput('body', message, hint, path);
  }
  const { stations, position, loft } = parsed.data;
  const x = stations.map((s) => s.x);
  const smooth = loft === 'smooth';
  const curve = (of: (s: Station) => number, squared: boolean) => {
    const y = stations.map((s) => (squared ? of(s) ** 2 : of(s)));
    const m = monotoneSlopes(x, y);
    return (i: number, at: number) => {
      const v = Math.max(squared ? 0 : -Infinity, hermite(x, y, m, i, at));
      return squared ? Math.sqrt(v) : v;
    };
  };
  const straight = (of: (s: Station) => number) => (i: number, at: number) =>
    of(stations[i]) + ((at - x[i]) / (x[i + 1] - x[i])) * (of(stations[i + 1]) - of(stations[i]));
  const width = smooth ? curve((s) => s.width, true) : straight((s) => s.width);
  const height = smooth ? curve((s) => s.height, true) : straight((s) => s.height);
  const middle = smooth ? curve((s) => s.z, false) : straight((s) => s.z);
  const units = stations.map(unitRing);
  const rings: Point3[][] = [];
  for (let i = 0; i + 1 < stations.length; i++)
    for (let k = i === 0 ? 0 : 1; k <= SLICES; k++) {
      // Closer together at the stations: an end that closes turns fast there.
      const t = 0.5 * (1 - Math.cos((Math.PI * k) / SLICES));
      const at = x[i] + t * (x[i + 1] - x[i]);
      const [a, b] = [width(i, at) / 2, height(i, at) / 2];
      const up = position.z + middle(i, at);
      rings.push(
        units[i].map(([u, v], j) => ({
          x: position.x + at,
          y: position.y + a * ((1 - t) * u + t * units[i + 1][j][0]),
          z: up + b * ((1 - t) * v + t * units[i + 1][j][1]),
        })),
      );
    }
  return rings;
}

/** Facts of a body, both where it is mirrored; SI. */
export interface BodyFacts {
  id: string;
  length: number;
  /** Of its skin, with ends that do not close covered flat. */ areaWetted: number;
  volume: number;
  /** Of its shadow along x. */ frontalArea: number;
}

const COLUMNS = 300;

/** The stretch of z that a ring covers in each column, empty ones reversed. */
function columnsOf(ring: readonly Point3[], low: number, step: number): { from: Float64Array; to: Float64Array } {
  const from = new Float64Array(COLUMNS).fill(Infinity);
  const to = new Float64Array(COLUMNS).fill(-Infinity);
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    const [left, right] = p.y < q.y ? [p, q] : [q, p];
    if (left.y === right.y) return;
    const slope = (right.z - left.z) / (right.y - left.y);
    const last = Math.min(COLUMNS - 1, Math.floor((right.y - low) / step - 0.5));
    for (let c = Math.max(0, Math.ceil((left.y - low) / step - 0.5)); c <= last; c++) {
      const z = left.z + slope * (low + (c + 0.5) * step - left.y);
      if (z < from[c]) from[c] = z;
      if (z > to[c]) to[c] = z;
    }
  });
  return { from, to };
}

/** Area that rings cover, seen along x: column by column the stretches that any ring covers. */
function shadow(rings: readonly Point3[][]): number {
  let [low, high] = [Infinity, -Infinity];
  for (const ring of rings)
    for (const { y } of ring) {
      low = Math.min(low, y);
      high = Math.max(high, y);
    }
  if (!(high > low)) return 0;
  const step = (high - low) / COLUMNS;
  const covers = rings.map((ring) => columnsOf(ring, low, step));
  let area = 0;
  for (let c = 0; c < COLUMNS; c++) {
    const spans = covers.filter(({ from, to }) => to[c] > from[c]).sort((a, b) => a.from[c] - b.from[c]);
    let end = -Infinity;
    for (const { from, to } of spans) {
      if (to[c] <= end) continue;
      area += step * (to[c] - Math.max(from[c], end));
      end = to[c];
    }
  }
  return area;
}

/** Facts of one body. @throws InvalidInput from {@link bodyRings}. */
export function bodyFacts(body: Body): BodyFacts {
  const rings = bodyRings(body);
  const sides = body.mirrored ? 2 : 1;
  let [wetted, volume] = [ringArea(rings[0]) + ringArea(rings[rings.length - 1]), 0];
  for (let i = 1; i < rings.length; i++) {
    wetted += skinArea(rings[i - 1], rings[i], true, 1);
    const [a, b] = [ringArea(rings[i - 1]), ringArea(rings[i])];
    // Between slices the cross-section changes as the square of its sides.
    volume += ((rings[i][0].x - rings[i - 1][0].x) / 3) * (a + Math.sqrt(a * b) + b);
  }
  return {
    id: body.id,
    length: body.stations[body.stations.length - 1].x - body.stations[0].x,
    areaWetted: sides * wetted,
    volume: sides * volume,
    frontalArea: sides * shadow(rings),
  };
}

/** Every point of a body's skin, on both sides where it is mirrored. */
export function* bodyPoints(body: Body): Generator<Point3> {
  for (const ring of bodyRings(body))
    for (const p of ring) {
      yield p;
      if (body.mirrored) yield { ...p, y: -p.y };
    }
}

/** Puts a station half way behind another, or behind the last; as wide and high as its neighbours' mean. */
export function addBodyStation(body: Body, after: number): void {
  const [a, b] = [body.stations[after], body.stations[after + 1]];
  if (!a) return;
  const mean = (of: (s: Station) => number) => (b ? 0.5 * (of(a) + of(b)) : of(a));
  const step = after > 0 ? a.x - body.stations[after - 1].x : 0.1;
  body.stations.splice(after + 1, 0, {
    ...a,
    x: b ? 0.5 * (a.x + b.x) : a.x + step,
    width: mean((s) => s.width),
    height: mean((s) => s.height),
    z: mean((s) => s.z),
  });
}
