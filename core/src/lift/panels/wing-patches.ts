import {
  placeSurface,
  RING_SIDE,
  ringOf,
  placeRing,
  type LiftingSurface,
  type Point3,
  type SectionLookup,
} from '../../airframe';
import { spanCuts } from '../lattice';
import type { PanelSpread, Patch } from './patch';
import { columnsAlong, type SpanPlace } from './span-places';

/** No edge of a column lies nearer to an asked one than this share of the column's width there. */
const APART = 0.4;

/** Edges of columns, as shares of the span, with those that are asked for in place of others too near to them. @param fixed that stay. */
function edgesWith(edges: readonly number[], fixed: ReadonlySet<number>, places: readonly SpanPlace[]): number[] {
  let out = [...edges];
  for (const { from, to } of places) {
    const k = out.findIndex((e) => e >= 0.5 * (from + to));
    if (k <= 0) continue;
    const margin = APART * (out[k] - out[k - 1]);
    const asked = [from, to].filter((v, n) => v > 1e-6 && v < 1 - 1e-6 && (n === 0 || to > from));
    const kept = out.filter((e) => fixed.has(e) || e < from - margin || e > to + margin);
    out = [...kept, ...asked.filter((v) => kept.every((e) => Math.abs(e - v) > 1e-6))].sort((a, b) => a - b);
  }
  return out;
}

/** Puts a blunt trailing edge to a point: both faces give half of its thickness, in proportion to their distance from the nose. */
function closed(ring: readonly [number, number][]): [number, number][] {
  const [a, b] = [ring[0], ring[ring.length - 1]];
  const middle = [0.5 * (a[0] + b[0]), 0.5 * (a[1] + b[1])];
  return ring.map(([x, y], i) => {
    const end = i <= RING_SIDE ? a : b;
    const share = Math.max(0, Math.min(1, x));
    return [x + share * (middle[0] - end[0]), y + share * (middle[1] - end[1])];
  });
}

type Cuts = ReturnType<typeof spanCuts>;

/** Cuts of the bays with further ones. @param stations shares of the span at which the bays end. */
function withCuts(cuts: Cuts, stations: readonly number[], mirrored: boolean, places: readonly SpanPlace[]): Cuts {
  if (places.length === 0) return cuts;
  // The laws that columns are spread by, and back.
  const law = (u: number) => (mirrored ? Math.sin((Math.PI / 2) * u) : 0.5 * (1 - Math.cos(Math.PI * u)));
  const inverse = (t: number) =>
    mirrored ? (2 / Math.PI) * Math.asin(Math.min(1, t)) : Math.acos(Math.max(-1, 1 - 2 * t)) / Math.PI;
  const all = cuts.flatMap(({ edges }, b) =>
    edges.slice(b === 0 ? 0 : 1).map((e, k) => {
      const at = b === 0 ? k : k + 1;
      if (at === edges.length - 1) return stations[b + 1];
      return stations[b] + e * (stations[b + 1] - stations[b]);
    }),
  );
  const edges = edgesWith(all, new Set(stations), places);
  return cuts.map((_cut, b) => {
    const [from, to] = [stations[b], stations[b + 1]];
    const own = edges.filter((e) => e >= from && e <= to);
    const within = (e: number) => (e - from) / (to - from);
    return {
      edges: own.map(within),
      middles: own.slice(1).map((e, k) => within(law(0.5 * (inverse(own[k]) + inverse(e))))),
    };
  });
}

export function wingPatches(
  surface: LiftingSurface,
  part: number,
  lookup: SectionLookup,
  spread: PanelSpread,
  longest: number,
  half: boolean,
  cutAt: readonly SpanPlace[] = [],
): Patch[] {
  const placed = placeSurface(surface);
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  const wanted = columnsAlong(surface, spread, longest);
  const cuts = withCuts(
    spanCuts(wanted, placed.stations, { chordwise: 1, spanwise: wanted, spacing: 'cosine' }, surface.mirrored),
    placed.stations.map((s) => s.offset / total),
    surface.mirrored,
    cutAt.filter((c) => !c.body),
  );
  const nc = spread.chordwise;
  const ni = 2 * nc;
  /** A ring's point at a place of the cosine law along both faces. */
  const pick = (ring: readonly [number, number][], i: number): [number, number] => {
    const at = (i * RING_SIDE) / nc;
    const k = Math.min(ring.length - 2, Math.floor(at + 1e-9));
    const t = at - k;
    return [ring[k][0] + t * (ring[k + 1][0] - ring[k][0]), ring[k][1] + t * (ring[k + 1][1] - ring[k][1])];
  };
  const rings = new Map<string, [number, number][]>();
  const ringAt = (key: string) => {
    let made = rings.get(key);
    if (!made) rings.set(key, (made = closed(ringOf(lookup, key))));
    return made;
  };
  const places: { points: Point3[]; offset: number }[] = [];
  cuts.forEach(({ edges }, b) =>
    edges.forEach((share, k) => {
      if (b > 0 && k === 0) return;
      const at = placed.at(b, share);
      const own = ringAt(at.section);
      const other = at.blend && at.blend.section !== at.section ? ringAt(at.blend.section) : null;
      const t = at.blend?.share ?? 0;
      const shape = Array.from({ length: ni + 1 }, (_, i): [number, number] => {
        const [x, y] = pick(own, i);
        if (!other) return [x, y];
        const [u, v] = pick(other, i);
        return [(1 - t) * x + t * u, (1 - t) * y + t * v];
      });
      places.push({ points: placeRing(at, shape), offset: at.offset / total });
    }),
  );
  const nj = places.length - 1;
  const nodes = new Float64Array(3 * (ni + 1) * (nj + 1));
  places.forEach(({ points }, j) => points.forEach((p, i) => nodes.set([p.x, p.y, p.z], 3 * (j * (ni + 1) + i))));
  const rootOnPlane = surface.mirrored && places[0].points.every((p) => Math.abs(p.y) < 1e-6);
  const first = ringAt(placed.stations[0].section);
  const fractions = Float64Array.from({ length: ni }, (_, i) => 0.5 * (pick(first, i)[0] + pick(first, i + 1)[0]));
  const stations = Float64Array.from({ length: nj }, (_, j) => 0.5 * (places[j].offset + places[j + 1].offset));
  const middles = Float64Array.from(
    cuts.flatMap(({ edges, middles: own }) => own.map((t, k) => (t - edges[k]) / (edges[k + 1] - edges[k]))),
  );
  const narrow = cutAt.some((c) => c.body);
  const base = { id: surface.id, part, out: 1 as const, poles: { first: false, last: false } };
  const made: Patch[] = [
    {
      ...base,
      kind: 'wing',
      ni,
      nj,
      nodes,
      wraps: false,
      onPlane: { first: half && rootOnPlane, last: false, start: false, end: false },
      fractions,
      stations,
      middles,
      narrow,
    },
  ];
  const cap = (j: number, out: 1 | -1) => {
    // Between the faces, from the trailing edge to the nose.
    const lid = new Float64Array(3 * (nc + 1) * 2);
    for (let i = 0; i <= nc; i++)
      for (let d = 0; d < 3; d++) {
        lid[3 * i + d] = nodes[3 * (j * (ni + 1) + i) + d];
        lid[3 * (nc + 1 + i) + d] = nodes[3 * (j * (ni + 1) + ni - i) + d];
      }
    made.push({
      ...base,
      kind: 'cap',
      ni: nc,
      nj: 1,
      nodes: lid,
      out,
      wraps: false,
      onPlane: { first: false, last: false, start: false, end: false },
    });
  };
  cap(nj, 1);
  if (!(surface.mirrored && rootOnPlane)) cap(0, -1);
  return made;
}
