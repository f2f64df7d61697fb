import { limitBroken, type FieldLimit } from '../limits';
import { InvalidInput } from '../numerics';
import { SURFACE_LIMITS } from './limits';
import type { Point3, Reference, LiftingSurface } from './types';

const RAD = Math.PI / 180;

/** A station placed in space. */
export interface PlacedStation {
  /** Distance from the root in projection on the base plane, m. */
  offset: number;
  leadingEdge: Point3;
  quarterChord: Point3;
  chord: number;
  /** Incidence and twist together, rad. */
  pitch: number;
  section: string;
}

/**
 * Refuses a surface whose numbers cannot be a shape: the same limits that its schema and its fields have.
 * @throws InvalidInput `surface-stations`, or `chord-range` and its kin with the limit, the nearest value that works and the path of the field.
 */
export function checkSurface(surface: LiftingSurface): void {
  const name = surface.name || surface.id;
  if (surface.stations.length < 2 || surface.bays.length !== surface.stations.length - 1) {
    throw new InvalidInput(
      'surface-stations',
      `${name}: a surface needs two or more stations and one bay between each pair.`,
      'Add a station.',
      'stations',
    );
  }
  const hold = (limit: FieldLimit, value: number, code: string, path: string, where = '') => {
    const broken = limitBroken(limit, value);
    if (broken) throw new InvalidInput(code, `${name}${where}: ${broken.message}.`, undefined, path);
  };
  const { position, incidenceDeg, station, bay } = SURFACE_LIMITS;
  surface.stations.forEach((s, i) => {
    hold(station.chord, s.chord, 'chord-range', `stations.${i}.chord`, `, station ${i + 1}`);
    hold(station.twistDeg, s.twistDeg, 'twist-range', `stations.${i}.twistDeg`, `, station ${i + 1}`);
  });
  surface.bays.forEach((b, i) => {
    hold(bay.span, b.span, 'span-range', `bays.${i}.span`, `, bay ${i + 1}`);
    hold(bay.sweepDeg, b.sweepDeg, 'sweep-range', `bays.${i}.sweepDeg`, `, bay ${i + 1}`);
    hold(bay.dihedralDeg, b.dihedralDeg, 'dihedral-range', `bays.${i}.dihedralDeg`, `, bay ${i + 1}`);
  });
  for (const key of ['x', 'y', 'z'] as const) hold(position[key], surface.position[key], 'position', `position.${key}`);
  hold(incidenceDeg, surface.incidenceDeg, 'incidence-range', 'incidenceDeg');
}

/** Places the stations of a surface (the right or upper side of it). @throws InvalidInput from {@link checkSurface}. */
export function placeStations(surface: LiftingSurface): PlacedStation[] {
  checkSurface(surface);
  const vertical = surface.plane === 'vertical';
  const placed: PlacedStation[] = [];
  let offset = 0;
  let rise = 0;
  let quarter = surface.position.x + 0.25 * surface.stations[0].chord;
  surface.stations.forEach((station, i) => {
    if (i > 0) {
      const bay = surface.bays[i - 1];
      offset += bay.span;
      quarter += bay.span * Math.tan(bay.sweepDeg * RAD);
      rise += bay.span * Math.tan(bay.dihedralDeg * RAD);
    }
    const y = surface.position.y + (vertical ? -rise : offset);
    const z = surface.position.z + (vertical ? offset : rise);
    const pitch = (surface.incidenceDeg + station.twistDeg) * RAD;
    const nose = 0.25 * station.chord;
    placed.push({
      offset,
      quarterChord: { x: quarter, y, z },
      leadingEdge: vertical
        ? { x: quarter - nose * Math.cos(pitch), y: y - nose * Math.sin(pitch), z }
        : { x: quarter - nose * Math.cos(pitch), y, z: z + nose * Math.sin(pitch) },
      chord: station.chord,
      pitch,
      section: station.section,
    });
  });
  return placed;
}

/** What follows from a surface's stations and bays, both sides together where it is mirrored; SI, radians. */
export interface Planform {
  /** Projected area, m². */ area: number;
  /** Projected tip to tip (or root to tip when it is not mirrored), m. */ span: number;
  aspectRatio: number;
  /** Tip chord over root chord. */ taper: number;
  /** Area over span, m. */ meanChord: number;
  /** Mean aerodynamic chord, m, with the place of its leading edge (x) and its distance from the root (offset). */
  mac: { chord: number; leadingEdge: number; offset: number };
  /** x of the quarter chord of the mean aerodynamic chord, m. */
  quarterChord: number;
}

/** Integrates a surface's plan: every bay is a trapezium, so the integrals are exact. */
export function planformOf(surface: LiftingSurface): Planform {
  const placed = placeStations(surface);
  let area = 0;
  let square = 0;
  let edge = 0;
  let moment = 0;
  for (let i = 1; i < placed.length; i++) {
    const a = placed[i - 1];
    const b = placed[i];
    const span = b.offset - a.offset;
    area += 0.5 * span * (a.chord + b.chord);
    square += (span / 3) * (a.chord ** 2 + a.chord * b.chord + b.chord ** 2);
    const la = a.quarterChord.x - 0.25 * a.chord;
    const lb = b.quarterChord.x - 0.25 * b.chord;
    edge += (span / 6) * (a.chord * (2 * la + lb) + b.chord * (la + 2 * lb));
    moment += (span / 6) * (a.chord * (2 * a.offset + b.offset) + b.chord * (a.offset + 2 * b.offset));
  }
  const sides = surface.mirrored ? 2 : 1;
  const span = placed[placed.length - 1].offset * sides;
  const whole = area * sides;
  const mac = { chord: square / area, leadingEdge: edge / area, offset: moment / area };
  return {
    area: whole,
    span,
    aspectRatio: (span * span) / whole,
    taper: placed[placed.length - 1].chord / placed[0].chord,
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
