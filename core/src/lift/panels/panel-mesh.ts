import {
  bodyRings,
  placeSurface,
  ringArea,
  ringOf,
  placeRing,
  RING_SIDE,
  type Body,
  type LiftingSurface,
  type Point3,
  type SectionLookup,
} from '../../airframe';
import { InvalidInput } from '../../numerics';
import { spanCuts } from '../lattice';

/** How fine the skins are cut. */
export interface PanelSpread {
  /** Panels along the chord on each of the two faces. */ chordwise: number;
  /** Strips on half of the longest surface; others get their share by span. */ spanwise: number;
  /** Panels around half a body, and along it. */ around: number;
  along: number;
}

export const DEFAULT_PANELS: PanelSpread = { chordwise: 20, spanwise: 20, around: 8, along: 24 };
export const MOST_SKIN_PANELS = 6000;
const FEWEST_STRIPS = 6;

/**
 * A skin cut into rows and columns of panels. Nodes run with i fastest:
 *
 * ```
 *   wing: i from the trailing edge over the upper face, the nose and the lower face back to it; j from root to tip
 *   body: i around, j from nose to tail          cap: i along the chord, j across
 * ```
 */
export interface Patch {
  kind: 'wing' | 'body' | 'cap';
  id: string;
  /** Index among the surfaces or bodies. */ part: number;
  ni: number;
  nj: number;
  /** (ni + 1) × (nj + 1) nodes: x, y, z. */
  nodes: Float64Array;
  /** −1 where the order of the nodes looks inward. */ out: 1 | -1;
  /** The row i = 0 follows the last one. */ wraps: boolean;
  /** Columns that close to a point at their end: what lies across it is a neighbour. */
  poles: { first: boolean; last: boolean };
  /** Edges that lie in the plane of symmetry: first and last column, first and last row. */
  onPlane: { first: boolean; last: boolean; start: boolean; end: boolean };
  /** Chord fraction of the middle of each panel of a row, for wings; and share of the half span of each column. */
  fractions?: Float64Array;
  stations?: Float64Array;
}

/** The skins of an airframe. */
export interface PanelMesh {
  patches: Patch[];
  panels: number;
  /** Whether only the right half is held, with its mirror image. */ half: boolean;
  /** Bodies that pass through surfaces, and are left out. */ pierced: { body: string; surface: string }[];
}

const SAME = 1e-9;

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

function wingPatches(
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

/**
 * The right face of a surface that lies in the plane of symmetry, as one half of a body without lift: in symmetric flow it carries nothing.
 * @param whole its patch with both faces.
 */
function halfFin(whole: Patch): Patch[] {
  const nc = whole.ni / 2;
  const { nj, nodes } = whole;
  const row = whole.ni + 1;
  // The upper face of a fin looks to the left: the other half of the ring is the right one.
  const face = new Float64Array(3 * (nc + 1) * (nj + 1));
  for (let j = 0; j <= nj; j++)
    for (let i = 0; i <= nc; i++) {
      const from = 3 * (j * row + nc + i);
      const edge = i === 0 || i === nc;
      face.set([nodes[from], edge ? 0 : Math.abs(nodes[from + 1]), nodes[from + 2]], 3 * (j * (nc + 1) + i));
    }
  const base = { ...whole, kind: 'body' as const, ni: nc, fractions: undefined, stations: undefined };
  const skin: Patch = { ...base, nodes: face, onPlane: { first: false, last: false, start: true, end: true } };
  const lids = [nj, 0].map((j, k): Patch => {
    const lid = new Float64Array(3 * (nc + 1) * 2);
    for (let i = 0; i <= nc; i++)
      for (let d = 0; d < 3; d++) {
        lid[3 * i + d] = face[3 * (j * (nc + 1) + i) + d];
        lid[3 * (nc + 1 + i) + d] = d === 1 ? 0 : face[3 * (j * (nc + 1) + i) + d];
      }
    return {
      ...base,
      kind: 'cap',
      nj: 1,
      nodes: lid,
      out: k === 0 ? 1 : -1,
      onPlane: { first: false, last: true, start: true, end: true },
    };
  });
  return [skin, ...lids];
}

/** Whether a surface lies in the plane of symmetry, its sections alike on both sides. */
function inPlane(s: LiftingSurface, lookup: SectionLookup): boolean {
  if (s.mirrored || s.plane !== 'vertical') return false;
  const placed = placeSurface(s);
  return s.bays.every((_, b) =>
    [0, 0.5, 1].every((share) => {
      const at = placed.at(b, share);
      if (Math.abs(at.leadingEdge.y) > SAME || Math.abs(at.along.y) > SAME) return false;
      const ring = ringOf(lookup, at.section);
      return ring.every(([x, y], i) => {
        const [u, v] = ring[ring.length - 1 - i];
        return Math.abs(x - u) < 1e-4 && Math.abs(y + v) < 1e-4;
      });
    }),
  );
}

/** Rings chosen so that those closer to the ends lie closer together. */
function chosenRings(rings: readonly Point3[][], count: number): Point3[][] {
  const [x0, x1] = [rings[0][0].x, rings[rings.length - 1][0].x];
  const out: Point3[][] = [rings[0]];
  let k = 0;
  for (let j = 1; j < count; j++) {
    const x = x0 + (x1 - x0) * 0.5 * (1 - Math.cos((Math.PI * j) / count));
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

function bodyPatches(body: Body, part: number, spread: PanelSpread, half: boolean): Patch[] {
  const all = bodyRings(body);
  const count = all[0].length;
  const onPlane = half && !body.mirrored && Math.abs(body.position.y) < SAME;
  const ni = onPlane ? spread.around : 2 * spread.around;
  // From below over the right to the top where the other half is the image; all around elsewhere.
  const pick = Array.from(
    { length: ni + 1 },
    (_, i) => (Math.round(((onPlane ? 0.75 : 0) + ((onPlane ? 0.5 : 1) * i) / ni) * count) + count) % count,
  );
  const rings = chosenRings(all, spread.along);
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

/** The left copy of a patch, its order kept; it looks the other way. */
function mirrored(patch: Patch): Patch {
  const nodes = patch.nodes.slice();
  for (let k = 1; k < nodes.length; k += 3) nodes[k] = -nodes[k];
  return {
    ...patch,
    nodes,
    out: patch.out === 1 ? -1 : 1,
    ...(patch.stations ? { stations: patch.stations.map((s) => -s) } : {}),
  };
}

/** Places along each bay at which it is looked whether a surface passes through a body. */
const LOOKS = 160;

/** The surface whose skin passes through a body, if one does. */
function piercing(body: Body, surfaces: readonly LiftingSurface[], lookup: SectionLookup): string | null {
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
  for (const s of surfaces) {
    const placed = placeSurface(s);
    for (let b = 0; b < s.bays.length; b++)
      for (let k = 0; k <= LOOKS; k++) {
        const at = placed.at(b, k / LOOKS);
        const { y, z } = at.leadingEdge;
        const margin = 0.5 * at.chord;
        const sides = s.mirrored ? [1, -1] : [1];
        if (!near(z, z0, z1, margin) || !sides.some((side) => near(side * y, y0, y1, margin))) continue;
        const ring = ringOf(lookup, at.section);
        const points = placeRing(
          at,
          ring.filter((_, i) => i % 6 === 0),
        );
        if (points.some((p) => sides.some((side) => inside(p, side * p.y)))) return s.id;
      }
  }
  return null;
}

/**
 * Cuts the closed skins of an airframe into panels.
 * @param surfaces where they stand. @param whole both sides explicitly, for states without symmetry.
 * @throws InvalidInput `panel-count` for too few or too many; from the lookup, and for parts that are no shape.
 */
export function panelMesh(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
  spread: PanelSpread = DEFAULT_PANELS,
  whole = false,
): PanelMesh {
  for (const [name, least, most] of [
    ['chordwise', 4, RING_SIDE],
    ['spanwise', 2, 400],
    ['around', 3, 48],
    ['along', 4, 200],
  ] as const)
    if (!(Number.isInteger(spread[name]) && spread[name] >= least && spread[name] <= most))
      throw new InvalidInput(
        'panel-count',
        `Panels ${name} are from ${least} to ${most}; ${spread[name]} is not.`,
        'Give a whole number within these.',
        name,
      );
  if (surfaces.length === 0 && bodies.length === 0)
    throw new InvalidInput('no-surface', 'There is nothing that air flows around.', 'Add a wing in Airframe.');
  const central = surfaces.map((s) => inPlane(s, lookup));
  const bodyAside = bodies.some((b) => !b.mirrored && Math.abs(b.position.y) > SAME);
  // A surface that stands once is whole by itself: its other half is no image.
  const half = !whole && surfaces.every((s, k) => s.mirrored || central[k]) && !bodyAside;
  const longest = Math.max(0.1, ...surfaces.map((s) => s.bays.reduce((sum, b) => sum + b.span, 0)));
  const patches: Patch[] = [];
  const pierced: PanelMesh['pierced'] = [];
  surfaces.forEach((s, k) => {
    const made = wingPatches(s, k, lookup, spread, longest, half);
    patches.push(...(half && central[k] ? halfFin(made[0]) : made));
    if (s.mirrored && !half) patches.push(...made.map(mirrored));
  });
  bodies.forEach((b, k) => {
    const surface = piercing(b, surfaces, lookup);
    if (surface) {
      pierced.push({ body: b.id, surface });
      return;
    }
    const made = bodyPatches(b, k, spread, half);
    patches.push(...made);
    if (b.mirrored && !half) patches.push(...made.map(mirrored));
  });
  const panels = patches.reduce((sum, p) => sum + p.ni * p.nj, 0);
  if (panels > MOST_SKIN_PANELS)
    throw new InvalidInput(
      'panel-count',
      `The skins would have ${panels} panels; ${MOST_SKIN_PANELS} is the most.`,
      'Use fewer along the chord or the span.',
      'spanwise',
    );
  return { patches, panels, half, pierced };
}
