import { gauss5, RAD } from '../numerics';
import { trueOffsets } from './true-span';
import type { SectionLookup } from './mean-surface';
import { ringArea, ringsOf, skinArea } from './loft';
import { placeSurface, skinPlaces, trailingEdge, type PlacedStation } from './placement';
import { planformIn, planformOf, referenceSurface } from './planform';
import type { LiftingSurface, Point3 } from './types';

/** Facts of a lifting surface, both sides together where it is mirrored; SI. */
export interface SurfaceFacts {
  id: string;
  /** Of the mean surface, along its dihedral and twist. */ areaTrue: number;
  /** In projection on the base plane, which coefficients refer to. */ areaProjected: number;
  /** Of both faces and the tips. */ areaWetted: number;
  /** Along the dihedral, tip to tip. */ spanTrue: number;
  spanProjected: number;
  /** Of the projected span and area. */ aspectRatio: number;
  taper: number;
  meanChord: number;
  /** Mean aerodynamic chord, and the place of its leading edge on the right (or upper) side. */
  mac: { chord: number } & Point3;
}

/** Area of the ruled surface between two stations' chords. */
function patchArea(a: PlacedStation, b: PlacedStation): number {
  const [p, q] = [a.leadingEdge, b.leadingEdge];
  const [r, s] = [trailingEdge(a), trailingEdge(b)];
  const key = ['x', 'y', 'z'] as const;
  const at = (u: number, v: number) => {
    const along = key.map((k) => (1 - v) * (q[k] - p[k]) + v * (s[k] - r[k]));
    const down = key.map((k) => (1 - u) * (r[k] - p[k]) + u * (s[k] - q[k]));
    return Math.hypot(
      along[1] * down[2] - along[2] * down[1],
      along[2] * down[0] - along[0] * down[2],
      along[0] * down[1] - along[1] * down[0],
    );
  };
  return gauss5((u) => gauss5((v) => at(u, v), 0, 1), 0, 1);
}

/** Facts of one surface. @throws InvalidInput for a surface that is no shape, and from the lookup of its sections. */
export function surfaceFacts(surface: LiftingSurface, lookup: SectionLookup): SurfaceFacts {
  const solid = placeSurface(surface);
  const plan = planformIn(surface, solid);
  const places = skinPlaces(solid);
  const sides = surface.mirrored ? 2 : 1;
  const vertical = surface.plane === 'vertical';
  const rings = ringsOf(surface, lookup);
  let [areaTrue, wetted] = [0, 0];
  for (let i = 1; i < places.length; i++) {
    areaTrue += patchArea(places[i - 1].at, places[i].at);
    // A flowing bay is in slices already.
    wetted += skinArea(rings[i - 1], rings[i], false, solid.curved[places[i - 1].bay] ? 1 : undefined);
  }
  wetted += ringArea(rings[rings.length - 1]);
  const { position } = surface;
  const out = plan.mac.offset;
  const down = vertical && Math.cos((surface.rollDeg ?? 0) * RAD) < 0 ? -1 : 1;
  return {
    id: surface.id,
    areaTrue: sides * areaTrue,
    areaProjected: plan.area,
    areaWetted: sides * wetted,
    spanTrue: sides * trueOffsets(surface, solid).total,
    spanProjected: plan.span,
    aspectRatio: plan.aspectRatio,
    taper: plan.taper,
    meanChord: plan.meanChord,
    mac: {
      chord: plan.mac.chord,
      x: plan.mac.leadingEdge,
      y: position.y + (vertical ? plan.mac.rise : out),
      z: position.z + (vertical ? down * out : plan.mac.rise),
    },
  };
}

/** A tail's lever about the wing, and its volume coefficient. */
export interface TailFacts {
  id: string;
  /** From the wing's quarter mean chord to the tail's, m; negative ahead of it. */
  arm: number;
  /** Of the part that it is mainly: the horizontal volume of a tailplane, the vertical one of a fin. */
  volumeCoefficient: number;
  /** Horizontal part of its area (Σ S cos² Γ along the span) times arm, over wing area and mean aerodynamic chord. */
  horizontalVolume: number;
  /** Vertical part (Σ S sin² Γ) times arm, over wing area and span. */
  verticalVolume: number;
}

/**
 * Area of a surface as it works in pitch and in yaw: every strip's with the square of the cosine and of the sine of its dihedral, both sides together, m².
 * @source of V-tails: NACA TR-823, 1945.
 */
export function areaParts(surface: LiftingSurface): { horizontal: number; vertical: number } {
  const places = skinPlaces(placeSurface(surface)).map(({ at }) => at);
  const sides = surface.mirrored ? 2 : 1;
  let [horizontal, vertical] = [0, 0];
  for (let i = 1; i < places.length; i++) {
    const [a, b] = [places[i - 1], places[i]];
    const [dy, dz] = [b.quarterChord.y - a.quarterChord.y, b.quarterChord.z - a.quarterChord.z];
    const length = Math.hypot(dy, dz);
    if (length === 0) continue;
    const area = sides * 0.5 * (a.chord + b.chord) * length;
    horizontal += area * (dy / length) ** 2;
    vertical += area * (dz / length) ** 2;
  }
  return { horizontal, vertical };
}

/** Volume coefficients that are usual: a range of our own for light aircraft and gliders, no rule. */
export const USUAL_TAIL_VOLUMES = {
  horizontal: { low: 0.35, high: 0.8, source: 'our own range, of light aircraft and gliders' },
  vertical: { low: 0.02, high: 0.06, source: 'our own range, of light aircraft and gliders' },
} as const;

/** Levers and volume coefficients of all tailplanes and fins. */
export function tailFacts(surfaces: readonly LiftingSurface[]): TailFacts[] {
  if (surfaces.length === 0) return [];
  const wing = planformOf(referenceSurface(surfaces));
  return surfaces
    .filter((s) => s.role !== 'wing' && s.id !== referenceSurface(surfaces).id)
    .map((s) => {
      const tail = planformOf(s);
      const arm = tail.quarterChord - wing.quarterChord;
      const { horizontal, vertical } = areaParts(s);
      const horizontalVolume = (horizontal * arm) / (wing.area * wing.mac.chord);
      const verticalVolume = (vertical * arm) / (wing.area * wing.span);
      const volumeCoefficient = s.plane === 'vertical' ? verticalVolume : horizontalVolume;
      return { id: s.id, arm, volumeCoefficient, horizontalVolume, verticalVolume };
    });
}

/** The corners of the box about points, as a size along each axis; nothing for no points. */
export function sizeOf(points: Iterable<Point3>): { length: number; width: number; height: number } {
  const low = { x: Infinity, y: Infinity, z: Infinity };
  const high = { x: -Infinity, y: -Infinity, z: -Infinity };
  for (const p of points)
    for (const k of ['x', 'y', 'z'] as const) {
      low[k] = Math.min(low[k], p[k]);
      high[k] = Math.max(high[k], p[k]);
    }
  const size = (k: 'x' | 'y' | 'z') => (high[k] >= low[k] ? high[k] - low[k] : 0);
  return { length: size('x'), width: size('y'), height: size('z') };
}

/** Every point of a surface's skin that can be outermost, on both sides where it is mirrored. */
export function* skinPoints(surface: LiftingSurface, lookup: SectionLookup): Generator<Point3> {
  for (const ring of ringsOf(surface, lookup))
    for (const p of ring) {
      yield p;
      if (surface.mirrored) yield { ...p, y: -p.y };
    }
}
