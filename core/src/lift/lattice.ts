import { InvalidInput } from '../numerics';
import { placeStations, type PlacedStation, type LiftingSurface } from '../airframe';
import type { MeanLine } from '../section';

/** How panels are spread over the surfaces. */
export interface LatticeSpread {
  /** Panels along the chord of every surface. */
  chordwise: number;
  /** Strips along one side of the wing; other surfaces get their share by span, at least `fewestStrips`. */
  spanwise: number;
  spacing: 'cosine' | 'uniform';
}

export const DEFAULT_LATTICE: LatticeSpread = { chordwise: 6, spanwise: 24, spacing: 'cosine' };
const FEWEST_STRIPS = 6;
const MOST_PANELS = 6000;

/**
 * One surface cut into horseshoe vortices. Corners of the vortex lines, strip by strip, in m:
 *
 * ```
 *   edge j              edge j+1
 *     •───bound 0────────•      row 0
 *     │    × control     │
 *     •───bound 1────────•      row 1
 *     │                  │
 *     •                  •      row nc: the trailing edge, where the wake leaves
 *     ↓                  ↓
 * ```
 */
export interface SurfaceLattice {
  surface: number;
  id: string;
  rows: number;
  strips: number;
  /** True when its mirror image is present through the symmetry of the solution. */
  mirrored: boolean;
  /** True when it lies in the plane of symmetry: its mirror image is itself. */
  central: boolean;
  /** (rows + 1) × (strips + 1) corners: x, y, z. */
  corners: Float64Array;
  /** rows × strips control points and unit normals: x, y, z. */
  controls: Float64Array;
  normals: Float64Array;
  /** Chord, width along the surface, and spanwise coordinate of the middle of each strip. */
  chord: Float64Array;
  width: Float64Array;
  /** Share of the half span (or of the height) at the middle of each strip, 0 root to 1 tip. */
  station: Float64Array;
  /** Where between its edges a strip is measured: the middle of its step of the cosine law, which is not the middle of its width. */
  share: Float64Array;
  /** y and z of that place. */
  middleY: Float64Array;
  middleZ: Float64Array;
}

/** The whole airframe as lattices. */
export interface Lattice {
  parts: SurfaceLattice[];
  panels: number;
  /** `half`: mirrored surfaces are held by their right side only; `full`: every surface is explicit. */
  symmetry: 'half' | 'full';
}

const CENTRAL = 1e-9;

/**
 * Cuts a side into strips by one law over all of it: the strip ends are the law at whole steps, the places where strips are measured the law
 * at half steps, which makes the spanwise sums as good as a Gauss rule. Steps are stretched a little so that every station is a strip end.
 */
function spanCuts(
  count: number,
  placed: PlacedStation[],
  spread: LatticeSpread,
  mirrored: boolean,
): { edges: number[]; middles: number[] }[] {
  const total = placed[placed.length - 1].offset;
  const bays = placed.length - 1;
  const n = Math.max(count, bays);
  // Free ends are clustered, as the load falls to zero like a root there.
  let law = (u: number) => u;
  let inverse = law;
  if (spread.spacing === 'cosine' && mirrored) {
    law = (u) => Math.sin((Math.PI / 2) * u);
    inverse = (t) => (2 / Math.PI) * Math.asin(Math.min(1, t));
  } else if (spread.spacing === 'cosine') {
    law = (u) => 0.5 * (1 - Math.cos(Math.PI * u));
    inverse = (t) => Math.acos(Math.max(-1, 1 - 2 * t)) / Math.PI;
  }
  const cuts: { edges: number[]; middles: number[] }[] = [];
  let step = 0;
  for (let b = 0; b < bays; b++) {
    const from = placed[b].offset / total;
    const to = placed[b + 1].offset / total;
    const u0 = inverse(from);
    const u1 = inverse(to);
    const last = b === bays - 1;
    const end = last ? n : Math.min(n - (bays - 1 - b), Math.max(step + 1, Math.round(n * u1)));
    const steps = end - step;
    const share = (i: number) => (law(u0 + ((u1 - u0) * i) / steps) - from) / (to - from);
    const edges = Array.from({ length: steps + 1 }, (_, i) => share(i));
    edges[0] = 0;
    edges[steps] = 1;
    cuts.push({ edges, middles: Array.from({ length: steps }, (_, i) => share(i + 0.5)) });
    step = end;
  }
  return cuts;
}

/** Points on the mean surface: chord fraction c at share t between two placed stations. */
function surfacePoint(
  a: PlacedStation,
  b: PlacedStation,
  la: MeanLine,
  lb: MeanLine,
  t: number,
  c: number,
  vertical: boolean,
  out: number[],
): void {
  for (let k = 0; k < 3; k++) out[k] = 0;
  for (const [s, line, w] of [
    [a, la, 1 - t],
    [b, lb, t],
  ] as const) {
    const along = c * s.chord;
    const up = line.ordinate(c) * s.chord;
    const cos = Math.cos(s.pitch);
    const sin = Math.sin(s.pitch);
    const x = s.leadingEdge.x + along * cos + up * sin;
    const h = -along * sin + up * cos;
    out[0] += w * x;
    out[1] += w * (s.leadingEdge.y - (vertical ? h : 0));
    out[2] += w * (s.leadingEdge.z + (vertical ? 0 : h));
  }
}

/** Direction of the mean surface along the chord (not normalised). */
function surfaceSlope(
  a: PlacedStation,
  b: PlacedStation,
  la: MeanLine,
  lb: MeanLine,
  t: number,
  c: number,
  vertical: boolean,
): [number, number, number] {
  let x = 0;
  let h = 0;
  for (const [s, line, w] of [
    [a, la, 1 - t],
    [b, lb, t],
  ] as const) {
    const slope = line.slope(c);
    const cos = Math.cos(s.pitch);
    const sin = Math.sin(s.pitch);
    x += w * s.chord * (cos + slope * sin);
    h += w * s.chord * (-sin + slope * cos);
  }
  return vertical ? [x, -h, 0] : [x, 0, h];
}

/**
 * Cuts surfaces into horseshoe vortices on their cambered, twisted mean surface, at true sweep and dihedral.
 * @param surfaces the airframe's lifting surfaces. @param lineOf mean line of a section key.
 * @param stretch factor on y and z for the Prandtl–Glauert transformation; 1 for the true geometry.
 * @throws InvalidInput for a surface that is no shape, or `lattice-size` for too many panels.
 */
export function buildLattice(
  surfaces: readonly LiftingSurface[],
  lineOf: (key: string) => MeanLine,
  spread: LatticeSpread = DEFAULT_LATTICE,
  stretch = 1,
): Lattice {
  if (
    !Number.isInteger(spread.chordwise) ||
    spread.chordwise < 1 ||
    !Number.isInteger(spread.spanwise) ||
    spread.spanwise < 1
  ) {
    throw new InvalidInput(
      'lattice-size',
      'A lattice needs at least one panel along the chord and one strip.',
      'Give whole numbers.',
    );
  }
  // Before anything is made of that size; what all surfaces come to is checked below.
  if (spread.chordwise * spread.spanwise > MOST_PANELS) {
    throw new InvalidInput(
      'lattice-size',
      `${spread.chordwise} panels along the chord on ${spread.spanwise} strips are more than ${MOST_PANELS}.`,
      'Use fewer strips or panels.',
    );
  }
  if (surfaces.length === 0)
    throw new InvalidInput('no-surface', 'The airframe has no lifting surface.', 'Add a wing in Airframe.');
  const onPlane = (s: LiftingSurface) =>
    !s.mirrored &&
    s.plane === 'vertical' &&
    Math.abs(s.position.y) < CENTRAL &&
    s.incidenceDeg === 0 &&
    s.bays.every((b) => b.dihedralDeg === 0) &&
    s.stations.every(
      (t) =>
        t.twistDeg === 0 && Math.abs(lineOf(t.section).ordinate(0.5)) + Math.abs(lineOf(t.section).slope(0.2)) < 1e-4,
    );
  const full = surfaces.some((s) => !s.mirrored && !onPlane(s));
  const longest = Math.max(...surfaces.map((s) => s.bays.reduce((sum, b) => sum + b.span, 0)));
  const parts: SurfaceLattice[] = [];
  surfaces.forEach((surface, index) => {
    const part = cutSurface(surface, index, lineOf, spread, longest);
    part.central = onPlane(surface);
    if (full) {
      if (surface.mirrored) parts.push(mirrorPart(part));
      part.mirrored = false;
    }
    parts.push(part);
  });
  const panels = parts.reduce((sum, p) => sum + p.rows * p.strips, 0);
  if (panels > MOST_PANELS) {
    throw new InvalidInput(
      'lattice-size',
      `The lattice would have ${panels} panels; ${MOST_PANELS} is the most.`,
      'Use fewer strips or rows.',
    );
  }
  if (stretch !== 1) {
    for (const part of parts) {
      for (const list of [part.corners, part.controls]) {
        for (let i = 0; i < list.length; i += 3) {
          list[i + 1] *= stretch;
          list[i + 2] *= stretch;
        }
      }
      // A normal is a cross product of two lengths: in stretched space its x grows by stretch², its y and z by stretch.
      const n = part.normals;
      for (let i = 0; i < n.length; i += 3) {
        const nx = n[i] * stretch;
        const norm = Math.hypot(nx, n[i + 1], n[i + 2]);
        n[i] = nx / norm;
        n[i + 1] /= norm;
        n[i + 2] /= norm;
      }
    }
  }
  return { parts, panels, symmetry: full ? 'full' : 'half' };
}

/**
 * Chord fractions of the bound vortices and control points. Evenly spread: ¼ and ¾ of every panel. Cosine: the points of the quadrature
 * that is exact for the square-root singularity of the nose, so that lift and moment of a thin section come out exactly.
 * @source Lan, J. Aircraft 11(9), 1974, 518–527 (cosine).
 */
export function chordPlaces(rows: number, spacing: LatticeSpread['spacing']): { bound: number[]; control: number[] } {
  const places = (f: (i: number) => number) => Array.from({ length: rows }, (_, i) => f(i));
  if (spacing === 'uniform' || rows === 1) {
    return { bound: places((i) => (i + 0.25) / rows), control: places((i) => (i + 0.75) / rows) };
  }
  return {
    bound: places((i) => 0.5 * (1 - Math.cos(((2 * i + 1) * Math.PI) / (2 * rows)))),
    control: places((i) => 0.5 * (1 - Math.cos(((i + 1) * Math.PI) / rows))),
  };
}

function cutSurface(
  surface: LiftingSurface,
  index: number,
  lineOf: (key: string) => MeanLine,
  spread: LatticeSpread,
  longest: number,
): SurfaceLattice {
  const placed = placeStations(surface);
  const vertical = surface.plane === 'vertical';
  const total = placed[placed.length - 1].offset;
  const wanted = Math.max(Math.min(FEWEST_STRIPS, spread.spanwise), Math.round((spread.spanwise * total) / longest));
  const cuts = spanCuts(wanted, placed, spread, surface.mirrored);
  const strips = cuts.reduce((sum, row) => sum + row.middles.length, 0);
  const rows = spread.chordwise;
  const lines = placed.map((p) => lineOf(p.section));
  const { bound, control } = chordPlaces(rows, spread.spacing);
  const part: SurfaceLattice = {
    surface: index,
    id: surface.id,
    rows,
    strips,
    mirrored: surface.mirrored,
    central: false,
    corners: new Float64Array(3 * (rows + 1) * (strips + 1)),
    controls: new Float64Array(3 * rows * strips),
    normals: new Float64Array(3 * rows * strips),
    chord: new Float64Array(strips),
    width: new Float64Array(strips),
    station: new Float64Array(strips),
    share: new Float64Array(strips),
    middleY: new Float64Array(strips),
    middleZ: new Float64Array(strips),
  };
  const point = [0, 0, 0];
  const edgeStride = 3 * (rows + 1);
  let edge = 0;
  for (let b = 0; b < cuts.length; b++) {
    const [sa, sb, la, lb] = [placed[b], placed[b + 1], lines[b], lines[b + 1]];
    for (let j = b === 0 ? 0 : 1; j < cuts[b].edges.length; j++) {
      for (let i = 0; i <= rows; i++) {
        const c = i === rows ? 1 : bound[i];
        surfacePoint(sa, sb, la, lb, cuts[b].edges[j], c, vertical, point);
        part.corners.set(point, edge * edgeStride + 3 * i);
      }
      edge++;
    }
  }
  let strip = 0;
  for (let b = 0; b < cuts.length; b++) {
    const [sa, sb, la, lb] = [placed[b], placed[b + 1], lines[b], lines[b + 1]];
    for (let j = 0; j < cuts[b].middles.length; j++, strip++) {
      const { edges, middles } = cuts[b];
      const t = middles[j];
      const share = (t - edges[j]) / (edges[j + 1] - edges[j]);
      part.share[strip] = share;
      const e0 = strip * edgeStride + 3 * rows;
      const e1 = e0 + edgeStride;
      const dy = part.corners[e1 + 1] - part.corners[e0 + 1];
      const dz = part.corners[e1 + 2] - part.corners[e0 + 2];
      part.width[strip] = Math.hypot(dy, dz);
      part.chord[strip] = (1 - t) * sa.chord + t * sb.chord;
      part.station[strip] = (sa.offset + t * (sb.offset - sa.offset)) / total;
      part.middleY[strip] = (1 - share) * part.corners[e0 + 1] + share * part.corners[e1 + 1];
      part.middleZ[strip] = (1 - share) * part.corners[e0 + 2] + share * part.corners[e1 + 2];
      for (let i = 0; i < rows; i++) {
        const c = control[i];
        surfacePoint(sa, sb, la, lb, t, c, vertical, point);
        const at = 3 * (strip * rows + i);
        part.controls.set(point, at);
        const [sx, sy, sz] = surfaceSlope(sa, sb, la, lb, t, c, vertical);
        // Across the strip at this chord fraction; normal = along × across, upward for a right-hand wing.
        const left: number[] = [0, 0, 0];
        const right: number[] = [0, 0, 0];
        surfacePoint(sa, sb, la, lb, edges[j], c, vertical, left);
        surfacePoint(sa, sb, la, lb, edges[j + 1], c, vertical, right);
        const ax = right[0] - left[0];
        const ay = right[1] - left[1];
        const az = right[2] - left[2];
        const nx = sy * az - sz * ay;
        const ny = sz * ax - sx * az;
        const nz = sx * ay - sy * ax;
        const norm = Math.hypot(nx, ny, nz);
        part.normals[at] = nx / norm;
        part.normals[at + 1] = ny / norm;
        part.normals[at + 2] = nz / norm;
      }
    }
  }
  return part;
}

/** The left-hand copy of a part, its edges in reverse order, so that bound vortices still run toward +y and normals stay up. */
function mirrorPart(part: SurfaceLattice): SurfaceLattice {
  const { rows, strips } = part;
  const flip = (list: Float64Array, group: number, groups: number) => {
    const out = new Float64Array(list.length);
    for (let g = 0; g < groups; g++) {
      for (let i = 0; i < group; i += 3) {
        const from = g * group + i;
        const to = (groups - 1 - g) * group + i;
        out[to] = list[from];
        out[to + 1] = -list[from + 1];
        out[to + 2] = list[from + 2];
      }
    }
    return out;
  };
  const back = (list: Float64Array) => Float64Array.from(list).reverse();
  return {
    ...part,
    mirrored: false,
    central: false,
    corners: flip(part.corners, 3 * (rows + 1), strips + 1),
    controls: flip(part.controls, 3 * rows, strips),
    normals: flip(part.normals, 3 * rows, strips),
    chord: back(part.chord),
    width: back(part.width),
    station: back(part.station).map((t) => -t),
    share: back(part.share).map((v) => 1 - v),
    middleY: back(part.middleY).map((v) => -v),
    middleZ: back(part.middleZ),
  };
}
