import { gaussPoints, InvalidInput, RAD } from '../numerics';
import { placeSurface, type PlacedStation, type PlacedSurface } from './placement';
import type { LiftingSurface, Reference } from './types';

/** What follows from a surface's stations and bays, both sides together where it is mirrored; SI, radians. */
export interface Planform {
  /** Projected area, m². */ area: number;
  /** Projected tip to tip (or root to tip when it is not mirrored), m. */ span: number;
  aspectRatio: number;
  /** Tip chord over root chord. */ taper: number;
  /** Area over span, m. */ meanChord: number;
  /** Mean aerodynamic chord, m, with the place of its leading edge (x) and its distance from the root (offset). */
  mac: {
    chord: number;
    leadingEdge: number;
    offset: number;
    /** Out of the projection plane, from the root. */ rise: number;
  };
  /** x of the quarter chord of the mean aerodynamic chord, m. */
  quarterChord: number;
}

/** Slices of five Gauss points that a flowing bay is summed over. */
const CURVED_SLICES = 10;
const CURVED_POINTS = gaussPoints(0, 1, CURVED_SLICES);

/** Sums over a surface in projection: of chord, chord², and chord times places. */
interface Sums {
  area: number;
  square: number;
  edge: number;
  out: number;
  rise: number;
}

/** Integrates a surface's plan: a straight bay is a trapezium, so its integrals are exact; a flowing one is summed at Gauss points. */
export function planformOf(surface: LiftingSurface): Planform {
  return planformIn(surface, placeSurface(surface));
}

/** The same of a surface that is placed already. */
export function planformIn(surface: LiftingSurface, placed: PlacedSurface): Planform {
  const vertical = surface.plane === 'vertical';
  const roll = (surface.rollDeg ?? 0) * RAD;
  // A surface that hangs down has its span along −z.
  const way = vertical && Math.cos(roll) < 0 ? -1 : 1;
  const { position } = surface;
  const outOf = (s: PlacedStation) => way * (vertical ? s.quarterChord.z - position.z : s.quarterChord.y - position.y);
  const riseOf = (s: PlacedStation) => (vertical ? s.quarterChord.y - position.y : s.quarterChord.z - position.z);
  const sums: Sums = { area: 0, square: 0, edge: 0, out: 0, rise: 0 };
  const plan = (s: PlacedStation) => ({ c: s.chord, l: s.quarterChord.x - 0.25 * s.chord, o: outOf(s), r: riseOf(s) });
  const bays = surface.bays.length;
  for (let b = 0; b < bays; b++) {
    if (!placed.curved[b]) {
      const [p, q] = [plan(placed.stations[b]), plan(placed.stations[b + 1])];
      const span = q.o - p.o;
      const weighted = (u: number, v: number) => (span / 6) * (p.c * (2 * u + v) + q.c * (u + 2 * v));
      sums.area += 0.5 * span * (p.c + q.c);
      sums.square += (span / 3) * (p.c ** 2 + p.c * q.c + q.c ** 2);
      sums.edge += weighted(p.l, q.l);
      sums.out += weighted(p.o, q.o);
      sums.rise += weighted(p.r, q.r);
      continue;
    }
    const [p, q] = [plan(placed.stations[b]), plan(placed.stations[b + 1])];
    // Without a turn the span runs evenly with the share; with one, the rise takes part in it.
    const h = 1e-4;
    const rate = (t: number) =>
      surface.rollDeg || surface.yawDeg
        ? (outOf(placed.at(b, Math.min(1, t + h))) - outOf(placed.at(b, Math.max(0, t - h)))) /
          (Math.min(1, t + h) - Math.max(0, t - h))
        : q.o - p.o;
    for (const { x: t, w: weight } of CURVED_POINTS) {
      const s = plan(placed.at(b, t));
      const w = weight * rate(t);
      sums.area += w * s.c;
      sums.square += w * s.c * s.c;
      sums.edge += w * s.c * s.l;
      sums.out += w * s.c * s.o;
      sums.rise += w * s.c * s.r;
    }
  }
  const sides = surface.mirrored ? 2 : 1;
  const span = outOf(placed.stations[bays]) * sides - outOf(placed.stations[0]) * sides;
  const whole = sums.area * sides;
  const mac = {
    chord: sums.square / sums.area,
    leadingEdge: sums.edge / sums.area,
    offset: sums.out / sums.area,
    rise: sums.rise / sums.area,
  };
  return {
    area: whole,
    span,
    aspectRatio: (span * span) / whole,
    taper: placed.stations[bays].chord / placed.stations[0].chord,
    meanChord: whole / span,
    mac,
    quarterChord: mac.leadingEdge + 0.25 * mac.chord,
  };
}

/** The surface whose size coefficients refer to: the first wing, else the first horizontal surface, else the first. */
export function referenceSurface(surfaces: readonly LiftingSurface[]): LiftingSurface {
  const surface =
    surfaces.find((s) => s.role === 'wing') ?? surfaces.find((s) => s.plane === 'horizontal') ?? surfaces[0];
  if (!surface) {
    throw new InvalidInput('no-surface', 'The airframe has no lifting surface.', 'Add a wing in Airframe.', 'surfaces');
  }
  return surface;
}

/** Area, span and mean aerodynamic chord of the reference surface. */
export function referenceOf(surfaces: readonly LiftingSurface[]): Reference {
  const plan = planformOf(referenceSurface(surfaces));
  return { area: plan.area, span: plan.span, chord: plan.mac.chord };
}
