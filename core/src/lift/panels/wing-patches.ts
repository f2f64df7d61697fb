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

const FEWEST_STRIPS = 6;

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

export function wingPatches(
  surface: LiftingSurface,
  part: number,
  lookup: SectionLookup,
  spread: PanelSpread,
  longest: number,
  half: boolean,
): Patch[] {
  const placed = placeSurface(surface);
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  const wanted = Math.max(Math.min(FEWEST_STRIPS, spread.spanwise), Math.round((spread.spanwise * total) / longest));
  const cuts = spanCuts(
    wanted,
    placed.stations,
    { chordwise: 1, spanwise: wanted, spacing: 'cosine' },
    surface.mirrored,
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
