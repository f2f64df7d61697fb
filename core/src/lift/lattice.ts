import { layEnds } from './joined-ends';
import { surfaceEnds } from './surface-ends';
import { InvalidInput } from '../numerics';
import { placeSurface, skinPlaces, type LiftingSurface, type PlacedStation } from '../airframe';
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
  /** Its forces over those in the undisturbed stream. */
  pressure: number;
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
export function spanCuts(
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

/** A stretch of mean surface that is ruled between two places, within a bay from one share of its span to another. */
interface Patch {
  from: number;
  to: number;
  a: PlacedStation;
  b: PlacedStation;
  la: MeanLine;
  lb: MeanLine;
}

/** Slices of a bay whose edges flow. */
const FLOW_SLICES = 24;

/** The mean line of a place between stations is blended as its section is. */
function blendedLine(at: PlacedStation, lineOf: (key: string) => MeanLine): MeanLine {
  const own = lineOf(at.section);
  if (!at.blend || at.blend.section === at.section) return own;
  const other = lineOf(at.blend.section);
  const t = at.blend.share;
  return {
    ordinate: (x) => (1 - t) * own.ordinate(x) + t * other.ordinate(x),
    slope: (x) => (1 - t) * own.slope(x) + t * other.slope(x),
  };
}

/** The ruled patches of every bay. */
function patchesOf(surface: LiftingSurface, lineOf: (key: string) => MeanLine) {
  const placed = placeSurface(surface);
  const places = skinPlaces(placed, FLOW_SLICES);
  const lines = places.map((p) => blendedLine(p.at, lineOf));
  const patches: Patch[][] = surface.bays.map(() => []);
  for (let i = 0; i + 1 < places.length; i++) {
    const [p, q] = [places[i], places[i + 1]];
    patches[p.bay].push({
      from: p.share,
      to: q.bay === p.bay ? q.share : 1,
      a: p.at,
      b: q.at,
      la: lines[i],
      lb: lines[i + 1],
    });
  }
  return { stations: placed.stations, patches };
}

/** The patch at a share of a bay, and the share within it. */
function patchAt(patches: readonly Patch[], t: number): { patch: Patch; share: number } {
  let k = 0;
  while (k < patches.length - 1 && t >= patches[k].to) k++;
  const patch = patches[k];
  return { patch, share: patches.length === 1 ? t : (t - patch.from) / (patch.to - patch.from) };
}

/** A point of the mean surface: chord fraction c at a share of a bay. */
function surfacePoint(patches: readonly Patch[], t: number, c: number, out: number[]): void {
  const { patch, share } = patchAt(patches, t);
  for (let k = 0; k < 3; k++) out[k] = 0;
  for (const [s, line, w] of [
    [patch.a, patch.la, 1 - share],
    [patch.b, patch.lb, share],
  ] as const) {
    const along = c * s.chord;
    const up = line.ordinate(c) * s.chord;
    out[0] += w * (s.leadingEdge.x + along * s.along.x + up * s.up.x);
    out[1] += w * (s.leadingEdge.y + along * s.along.y + up * s.up.y);
    out[2] += w * (s.leadingEdge.z + along * s.along.z + up * s.up.z);
  }
}

/** Direction of the mean surface along the chord (not normalised). */
function surfaceSlope(patches: readonly Patch[], t: number, c: number): [number, number, number] {
  const { patch, share } = patchAt(patches, t);
  const out: [number, number, number] = [0, 0, 0];
  for (const [s, line, w] of [
    [patch.a, patch.la, 1 - share],
    [patch.b, patch.lb, share],
  ] as const) {
    const slope = line.slope(c);
    const k = w * s.chord;
    out[0] += k * (s.along.x + slope * s.up.x);
    out[1] += k * (s.along.y + slope * s.up.y);
    out[2] += k * (s.along.z + slope * s.up.z);
  }
  return out;
}

/** Places that are nearer than this are one, m. */
const SAME_PLACE = 1e-7;

/** Refuses surfaces that lie on each other: what each carries could not be told. @throws InvalidInput `surfaces-coincide`. */
function checkApart(parts: readonly SurfaceLattice[], surfaces: readonly LiftingSurface[]): void {
  const seen = new Map<string, number>();
  for (const { controls, surface } of parts)
    for (let i = 0; i < controls.length; i += 3) {
      const key = [controls[i], controls[i + 1], controls[i + 2]].map((v) => Math.round(v / SAME_PLACE)).join();
      const other = seen.get(key);
      if (other === undefined) seen.set(key, surface);
      else if (other !== surface)
        throw new InvalidInput(
          'surfaces-coincide',
          `${surfaces[surface].name || surfaces[surface].id} lies on ${surfaces[other].name || surfaces[other].id}.`,
          'Move one of them, or remove it.',
          'position',
        );
    }
}

/** True where a surface lies in the plane of symmetry and is its own mirror image. */
function liesOnPlane(s: LiftingSurface, lineOf: (key: string) => MeanLine): boolean {
  if (s.mirrored || s.plane !== 'vertical') return false;
  const flat = (at: PlacedStation) => Math.abs(at.leadingEdge.y) < CENTRAL && Math.abs(at.along.y) < CENTRAL;
  return (
    skinPlaces(placeSurface(s)).every(({ at }) => flat(at)) &&
    s.stations.every((t) => {
      const line = lineOf(t.section);
      return Math.abs(line.ordinate(0.5)) + Math.abs(line.slope(0.2)) < 1e-4;
    })
  );
}

/** Refuses a surface that would lie on or beyond its own mirror image. @throws InvalidInput `crosses-mirror`. */
function checkMirror(s: LiftingSurface): void {
  if (!s.mirrored) return;
  const placed = placeSurface(s).stations;
  const refuse = (what: string, hint: string, path: string): never => {
    throw new InvalidInput('crosses-mirror', `${s.name || s.id} ${what}`, hint, path);
  };
  if (placed.every((p) => Math.abs(p.leadingEdge.y) < CENTRAL))
    refuse(
      'is mirrored and lies in the plane of symmetry: it would lie on its mirror image.',
      'Let it stand once, or move it outward.',
      'mirrored',
    );
  const low = placed.findIndex((p) => p.leadingEdge.y < -1e-6);
  if (low >= 0)
    refuse(
      `is mirrored, and its right side reaches over the plane of symmetry at station ${low + 1} (y = ${placed[low].leadingEdge.y.toPrecision(3)} m).`,
      'Give the right side, with y of 0 or more.',
      low === 0 ? 'position.y' : `bays.${low - 1}.span`,
    );
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
  surfaces.forEach(checkMirror);
  const central = surfaces.map((s) => liesOnPlane(s, lineOf));
  const full = surfaces.some((s, i) => !s.mirrored && !central[i]);
  const longest = Math.max(...surfaces.map((s) => s.bays.reduce((sum, b) => sum + b.span, 0)));
  const ends = surfaceEnds(surfaces);
  const parts: SurfaceLattice[] = [];
  const cut = surfaces.map((surface, index) => {
    const part = cutSurface(surface, index, lineOf, spread, longest, ends.joinsAtRoot(index));
    part.central = central[index];
    return part;
  });
  layEnds(cut);
  for (const part of cut) {
    if (full) {
      if (part.mirrored) parts.push(mirrorPart(part));
      part.mirrored = false;
    }
    parts.push(part);
  }
  const panels = parts.reduce((sum, p) => sum + p.rows * p.strips, 0);
  if (panels > MOST_PANELS) {
    throw new InvalidInput(
      'lattice-size',
      `The lattice would have ${panels} panels; ${MOST_PANELS} is the most.`,
      'Use fewer strips or rows.',
    );
  }
  checkApart(parts, surfaces);
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
  joined: boolean,
): SurfaceLattice {
  const { stations: placed, patches } = patchesOf(surface, lineOf);
  const total = placed[placed.length - 1].offset;
  const wanted = Math.max(Math.min(FEWEST_STRIPS, spread.spanwise), Math.round((spread.spanwise * total) / longest));
  // Where another surface stands on the root, circulation goes over to it: strips are as close there as at a free end.
  const cuts = spanCuts(wanted, placed, spread, surface.mirrored && !joined);
  const strips = cuts.reduce((sum, row) => sum + row.middles.length, 0);
  const rows = spread.chordwise;
  const { bound, control } = chordPlaces(rows, spread.spacing);
  const part: SurfaceLattice = {
    surface: index,
    id: surface.id,
    rows,
    strips,
    mirrored: surface.mirrored,
    pressure: surface.pressureRatio ?? 1,
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
    for (let j = b === 0 ? 0 : 1; j < cuts[b].edges.length; j++) {
      for (let i = 0; i <= rows; i++) {
        const c = i === rows ? 1 : bound[i];
        surfacePoint(patches[b], cuts[b].edges[j], c, point);
        part.corners.set(point, edge * edgeStride + 3 * i);
      }
      edge++;
    }
  }
  let strip = 0;
  for (let b = 0; b < cuts.length; b++) {
    const [sa, sb] = [placed[b], placed[b + 1]];
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
      const here = patchAt(patches[b], t);
      part.chord[strip] = (1 - here.share) * here.patch.a.chord + here.share * here.patch.b.chord;
      part.station[strip] = (sa.offset + t * (sb.offset - sa.offset)) / total;
      part.middleY[strip] = (1 - share) * part.corners[e0 + 1] + share * part.corners[e1 + 1];
      part.middleZ[strip] = (1 - share) * part.corners[e0 + 2] + share * part.corners[e1 + 2];
      for (let i = 0; i < rows; i++) {
        const c = control[i];
        surfacePoint(patches[b], t, c, point);
        const at = 3 * (strip * rows + i);
        part.controls.set(point, at);
        const [sx, sy, sz] = surfaceSlope(patches[b], t, c);
        // Across the strip at this chord fraction; normal = along × across, upward for a right-hand wing.
        const left: number[] = [0, 0, 0];
        const right: number[] = [0, 0, 0];
        surfacePoint(patches[b], edges[j], c, left);
        surfacePoint(patches[b], edges[j + 1], c, right);
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
