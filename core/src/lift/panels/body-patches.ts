import {
  bodyRings,
  placeRing,
  placeSurface,
  ringArea,
  ringOf,
  type Body,
  type LiftingSurface,
  type Point3,
  type SectionLookup,
} from '../../airframe';
import type { PanelSpread, Patch } from './patch';

const SAME = 1e-9;

/** Panels along a body beside the chord of a surface that stands on it, at least. */
const BESIDE_CHORD = 10;

/** Places along a body, closer together at its ends, and beside the chords of what stands on it. */
function ringPlaces(x0: number, x1: number, count: number, chords: readonly (readonly [number, number])[]): number[] {
  const own = Array.from(
    { length: count - 1 },
    (_, j) => x0 + (x1 - x0) * 0.5 * (1 - Math.cos((Math.PI * (j + 1)) / count)),
  );
  const places = [x0, ...own, x1];
  const out = [x0];
  for (let j = 1; j < places.length; j++) {
    const [a, b] = [places[j - 1], places[j]];
    const widest = chords.reduce(
      (least, [from, to]) => (b > from && a < to ? Math.min(least, (to - from) / BESIDE_CHORD) : least),
      Infinity,
    );
    const pieces = Math.max(1, Math.ceil((b - a) / widest - 1e-9));
    for (let k = 1; k <= pieces; k++) out.push(a + ((b - a) * k) / pieces);
  }
  return out.slice(1, -1);
}

function chosenRings(
  rings: readonly Point3[][],
  count: number,
  chords: readonly (readonly [number, number])[],
): Point3[][] {
  const [x0, x1] = [rings[0][0].x, rings[rings.length - 1][0].x];
  const out: Point3[][] = [rings[0]];
  let k = 0;
  for (const x of ringPlaces(x0, x1, count, chords)) {
    while (k < rings.length - 2 && rings[k + 1][0].x < x) k++;
    const t = (x - rings[k][0].x) / (rings[k + 1][0].x - rings[k][0].x);
    out.push(
      rings[k].map((p, i) => {
        const q = rings[k + 1][i];
        return { x: p.x + t * (q.x - p.x), y: p.y + t * (q.y - p.y), z: p.z + t * (q.z - p.z) };
      }),
    );
  }
  out.push(rings[rings.length - 1]);
  return out;
}

/** @param chords from where to where along x surfaces stand on it. */
export function bodyPatches(
  body: Body,
  part: number,
  spread: PanelSpread,
  half: boolean,
  chords: readonly (readonly [number, number])[] = [],
): Patch[] {
  const all = bodyRings(body);
  const count = all[0].length;
  const onPlane = half && !body.mirrored && Math.abs(body.position.y) < SAME;
  const ni = onPlane ? spread.around : 2 * spread.around;
  // From below over the right to the top where the other half is the image; all around elsewhere.
  const pick = Array.from(
    { length: ni + 1 },
    (_, i) => (Math.round(((onPlane ? 0.75 : 0) + ((onPlane ? 0.5 : 1) * i) / ni) * count) + count) % count,
  );
  const rings = chosenRings(all, spread.along, chords);
  const nj = rings.length - 1;
  const nodes = new Float64Array(3 * (ni + 1) * (nj + 1));
  rings.forEach((ring, j) =>
    pick.forEach((k, i) => {
      const p = ring[k];
      nodes.set([p.x, onPlane && (i === 0 || i === ni) ? 0 : p.y, p.z], 3 * (j * (ni + 1) + i));
    }),
  );
  const point = (ring: readonly Point3[]) => !(ringArea(ring) > 1e-10);
  const base = { id: body.id, part, wraps: !onPlane, poles: { first: point(rings[0]), last: point(rings[nj]) } };
  const edges = { first: false, last: false, start: onPlane, end: onPlane };
  const made: Patch[] = [{ ...base, kind: 'body', ni, nj, nodes, out: -1, onPlane: edges }];
  for (const [j, out] of [
    [0, 1],
    [nj, -1],
  ] as const) {
    if (point(rings[j])) continue;
    const middle = [0, 1, 2].map((d) => {
      let sum = 0;
      for (const p of rings[j]) sum += [p.x, p.y, p.z][d];
      return sum / rings[j].length;
    });
    if (onPlane) middle[1] = 0;
    const lid = new Float64Array(3 * (ni + 1) * 2);
    for (let i = 0; i <= ni; i++)
      for (let d = 0; d < 3; d++) {
        lid[3 * i + d] = nodes[3 * (j * (ni + 1) + i) + d];
        lid[3 * (ni + 1 + i) + d] = middle[d];
      }
    made.push({
      ...base,
      kind: 'cap',
      ni,
      nj: 1,
      nodes: lid,
      out,
      poles: { first: false, last: true },
      onPlane: { ...edges },
    });
  }
  return made;
}

/** Places along each bay at which it is looked whether a surface passes through a body. */
const LOOKS = 160;

/** Which surfaces' skins pass through a body. */
export function piercing(body: Body, surfaces: readonly LiftingSurface[], lookup: SectionLookup): LiftingSurface[] {
  const rings = bodyRings(body);
  const boxes = rings.map((ring) => {
    let [a, b, c, d] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const q of ring) {
      a = Math.min(a, q.y);
      b = Math.max(b, q.y);
      c = Math.min(c, q.z);
      d = Math.max(d, q.z);
    }
    return { x: ring[0].x, y: 0.5 * (a + b), z: 0.5 * (c + d), ry: 0.5 * (b - a), rz: 0.5 * (d - c) };
  });
  const [first, last] = [boxes[0].x, boxes[boxes.length - 1].x];
  const inside = (p: Point3, y: number) => {
    if (p.x <= first || p.x >= last) return false;
    const at = boxes[boxes.findIndex((b) => b.x >= p.x)];
    if (!(at.ry > 0 && at.rz > 0)) return false;
    return ((y - at.y) / at.ry) ** 2 + ((p.z - at.z) / at.rz) ** 2 < 1;
  };
  const reach = (of: (b: (typeof boxes)[number]) => [number, number]) => [
    Math.min(...boxes.map((b) => of(b)[0] - of(b)[1])),
    Math.max(...boxes.map((b) => of(b)[0] + of(b)[1])),
  ];
  const [[y0, y1], [z0, z1]] = [reach((b) => [b.y, b.ry]), reach((b) => [b.z, b.rz])];
  const near = (v: number, low: number, high: number, margin: number) => v > low - margin && v < high + margin;
  return surfaces.filter((s) => {
    const placed = placeSurface(s);
    const sides = s.mirrored ? [1, -1] : [1];
    return s.bays.some((_, b) => {
      for (let k = 0; k <= LOOKS; k++) {
        const at = placed.at(b, k / LOOKS);
        const { y, z } = at.leadingEdge;
        const margin = 0.5 * at.chord;
        if (!near(z, z0, z1, margin) || !sides.some((side) => near(side * y, y0, y1, margin))) continue;
        const ring = ringOf(lookup, at.section);
        const points = placeRing(
          at,
          ring.filter((_point, i) => i % 6 === 0),
        );
        if (points.some((p) => sides.some((side) => inside(p, side * p.y)))) return true;
      }
      return false;
    });
  });
}
