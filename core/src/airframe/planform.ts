import { InvalidInput } from '../numerics';
import type { Point3, Reference, Surface } from './types';

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

/** Refuses a surface whose numbers cannot be a shape. @throws InvalidInput with the path of the field. */
export function checkSurface(surface: Surface): void {
  const at = (path: string) => `${surface.name || surface.id}: ${path}`;
  const refuse = (code: string, message: string, hint: string, path: string): never => {
    throw new InvalidInput(code, message, hint, path);
  };
  if (surface.stations.length < 2 || surface.bays.length !== surface.stations.length - 1) {
    refuse(
      'surface-stations',
      `${at('a surface needs two or more stations')} and one bay between each pair.`,
      'Add a station.',
      'stations',
    );
  }
  surface.stations.forEach((s, i) => {
    if (!(s.chord > 0) || !Number.isFinite(s.chord)) {
      refuse(
        'chord-range',
        `${at(`the chord of station ${i + 1} is ${s.chord} m`)}; it must be greater than zero.`,
        'Give a chord in metres.',
        `stations.${i}.chord`,
      );
    }
    if (!(Math.abs(s.twistDeg) <= 45)) {
      refuse(
        'twist-range',
        `${at(`the twist of station ${i + 1} is ${s.twistDeg}°`)}; it must lie within ±45°.`,
        'Give a smaller twist.',
        `stations.${i}.twistDeg`,
      );
    }
  });
  surface.bays.forEach((b, i) => {
    if (!(b.span > 0) || !Number.isFinite(b.span)) {
      refuse(
        'span-range',
        `${at(`the span of bay ${i + 1} is ${b.span} m`)}; it must be greater than zero.`,
        'Give a span in metres.',
        `bays.${i}.span`,
      );
    }
    if (!(Math.abs(b.sweepDeg) <= 75)) {
      refuse(
        'sweep-range',
        `${at(`the sweep of bay ${i + 1} is ${b.sweepDeg}°`)}; it must lie within ±75°.`,
        'Give a smaller sweep.',
        `bays.${i}.sweepDeg`,
      );
    }
    if (!(Math.abs(b.dihedralDeg) <= 75)) {
      refuse(
        'dihedral-range',
        `${at(`the dihedral of bay ${i + 1} is ${b.dihedralDeg}°`)}; it must lie within ±75°.`,
        'For a fin, choose the vertical plane.',
        `bays.${i}.dihedralDeg`,
      );
    }
  });
  for (const key of ['x', 'y', 'z'] as const) {
    if (!Number.isFinite(surface.position[key])) {
      refuse(
        'position',
        `${at(`its position along ${key} is ${surface.position[key]}`)}, not a number.`,
        'Give a length in metres.',
        `position.${key}`,
      );
    }
  }
  if (!(Math.abs(surface.incidenceDeg) <= 45)) {
    refuse(
      'incidence-range',
      `${at(`its incidence is ${surface.incidenceDeg}°`)}; it must lie within ±45°.`,
      'Give a smaller incidence.',
      'incidenceDeg',
    );
  }
}

/** Places the stations of a surface (the right or upper side of it). @throws InvalidInput from {@link checkSurface}. */
export function placeStations(surface: Surface): PlacedStation[] {
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
export function planformOf(surface: Surface): Planform {
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
export function referenceSurface(surfaces: readonly Surface[]): Surface {
  const surface =
    surfaces.find((s) => s.role === 'wing') ?? surfaces.find((s) => s.plane === 'horizontal') ?? surfaces[0];
  if (!surface) {
    throw new InvalidInput('no-surface', 'The airframe has no lifting surface.', 'Add a wing in Airframe.', 'surfaces');
  }
  return surface;
}

/** Area, span and mean aerodynamic chord of the reference surface. */
export function referenceOf(surfaces: readonly Surface[]): Reference {
  const plan = planformOf(referenceSurface(surfaces));
  return { area: plan.area, span: plan.span, chord: plan.mac.chord };
}
