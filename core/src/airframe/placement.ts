import { InvalidInput, RAD } from '../numerics';
import { bayCurves, type BayCurve, type StationLine } from './edge-flow';
import { checkSurface } from './check';
import { SURFACE_LIMITS } from './limits';
import type { LiftingSurface, Point3 } from './types';

/** A station placed in space. */
export interface PlacedStation {
  /** Distance from the root in projection on the surface's own base plane, m. */
  offset: number;
  leadingEdge: Point3;
  quarterChord: Point3;
  chord: number;
  /** Incidence and twist together, rad. */
  pitch: number;
  /** Unit vectors along the chord and across the section, toward its upper surface. */
  along: Point3;
  up: Point3;
  section: string;
  /** Between stations: the section outboard, and how much of it is in the shape. */
  blend?: { section: string; share: number };
}

/** A surface placed in space: its stations, and what lies between them. */
export interface PlacedSurface {
  stations: PlacedStation[];
  /** Dihedral of every bay as the crow flies, rad. */
  dihedrals: number[];
  /** True where an edge, the rise or the twist flows within a bay. */
  curved: boolean[];
  /** The place in a bay at a share of its span. */
  at(bay: number, share: number): PlacedStation;
}

/** Slices of a curved bay that a skin is drawn with. */
const SLICES = 24;

const angleOf = (values: readonly number[], relative: readonly (boolean | undefined)[]): number[] => {
  const out: number[] = [];
  values.forEach((v, i) => out.push(relative[i] && i > 0 ? out[i - 1] + v : v));
  return out;
};

/** Dihedrals of the bays against the base plane, degrees: those that are given against the bay inboard are added up. */
export const dihedralsOf = ({ bays }: Pick<LiftingSurface, 'bays'>): number[] =>
  angleOf(
    bays.map((b) => b.dihedralDeg),
    bays.map((b) => b.dihedralRelative),
  );
/** Twists of the stations against the incidence, degrees. */
export const twistsOf = ({ stations }: Pick<LiftingSurface, 'stations'>): number[] =>
  angleOf(
    stations.map((s) => s.twistDeg),
    stations.map((s) => s.twistRelative),
  );

/** The lines of a surface at its stations, from the leading edge of its root; m, rad. */
export function stationLines(surface: LiftingSurface): StationLine[] {
  const twists = twistsOf(surface);
  const dihedrals = dihedralsOf(surface);
  dihedrals.forEach((d, i) => {
    if (Math.abs(d) > SURFACE_LIMITS.bay.dihedralDeg.max)
      throw new InvalidInput(
        'dihedral-range',
        `${surface.name || surface.id}, bay ${i + 1}: dihedrals add up to ${d}°; ${SURFACE_LIMITS.bay.dihedralDeg.max}° is the most.`,
        'Give a smaller one.',
        `bays.${i}.dihedralDeg`,
      );
  });
  let rise = 0;
  let quarter = 0.25 * surface.stations[0].chord;
  return surface.stations.map((s, i) => {
    if (i > 0) {
      const bay = surface.bays[i - 1];
      rise += bay.span * Math.tan(dihedrals[i - 1] * RAD);
      const at = bay.sweepAt ?? 0.25;
      quarter += bay.span * Math.tan(bay.sweepDeg * RAD);
      if (at !== 0.25) quarter += (at - 0.25) * (surface.stations[i - 1].chord - s.chord);
    }
    return {
      leading: quarter - 0.25 * s.chord,
      trailing: quarter + 0.75 * s.chord,
      rise,
      twist: twists[i] * RAD,
    };
  });
}

interface Frame {
  root: Point3;
  vertical: boolean;
  /** cos and sin of the turns about x and z; null where there is none. */
  turn: { cr: number; sr: number; cy: number; sy: number } | null;
}

/** From the surface's own axes (aft, along the span, up from the base plane) into those of the airframe. */
function turned({ vertical, turn }: Frame, x: number, s: number, h: number): Point3 {
  const [y, z] = vertical ? [-h, s] : [s, h];
  if (!turn) return { x, y, z };
  const y2 = y * turn.cr - z * turn.sr;
  return { x: x * turn.cy + y2 * turn.sy, y: y2 * turn.cy - x * turn.sy, z: y * turn.sr + z * turn.cr };
}

/**
 * Places a surface (the right or upper side of it).
 * @throws InvalidInput from {@link checkSurface}; `edges-cross` where flowing edges meet within a bay.
 */
export function placeSurface(surface: LiftingSurface): PlacedSurface {
  checkSurface(surface);
  const lines = stationLines(surface);
  const [roll, yaw] = [(surface.rollDeg ?? 0) * RAD, (surface.yawDeg ?? 0) * RAD];
  const frame: Frame = {
    root: surface.position,
    vertical: surface.plane === 'vertical',
    turn:
      roll === 0 && yaw === 0 ? null : { cr: Math.cos(roll), sr: Math.sin(roll), cy: Math.cos(yaw), sy: Math.sin(yaw) },
  };
  const curves = bayCurves(surface, lines);
  const offsets = [0];
  for (const b of surface.bays) offsets.push(offsets[offsets.length - 1] + b.span);
  const normal = surface.sectionsStand === 'normal';
  const slopeOf = (b: number) => (lines[b + 1].rise - lines[b].rise) / surface.bays[b].span;
  const incidence = surface.incidenceDeg * RAD;

  const place = (offset: number, line: StationLine, about: number, slope: number): Omit<PlacedStation, 'section'> => {
    const pitch = incidence + line.twist;
    const [c, s] = [Math.cos(pitch), Math.sin(pitch)];
    const chord = line.trailing - line.leading;
    // A section that stands normal to the span leans with its rise.
    const lean = normal ? Math.atan(slope) : 0;
    const [cl, sl] = [Math.cos(lean), Math.sin(lean)];
    const nose = about * chord;
    const own = (x: number, across: number) => turned(frame, x, -across * sl, across * cl);
    const along = own(c, -s);
    const up = own(s, c);
    const pivot = turned(frame, line.leading + nose, offset, line.rise);
    const { root } = frame;
    const leadingEdge = {
      x: root.x + pivot.x - nose * along.x,
      y: root.y + pivot.y - nose * along.y,
      z: root.z + pivot.z - nose * along.z,
    };
    const quarter = 0.25 * chord;
    return {
      offset,
      leadingEdge,
      quarterChord: {
        x: leadingEdge.x + quarter * along.x,
        y: leadingEdge.y + quarter * along.y,
        z: leadingEdge.z + quarter * along.z,
      },
      chord,
      pitch,
      along,
      up,
    };
  };
  const last = surface.stations.length - 1;
  const stations = surface.stations.map((s, i): PlacedStation => {
    // At a station the lean is half way between its bays'.
    const lean = normal
      ? Math.tan(
          i === 0
            ? Math.atan(startSlope(curves[0], slopeOf(0)))
            : i === last
              ? Math.atan(endSlope(curves[last - 1], slopeOf(last - 1)))
              : 0.5 *
                (Math.atan(endSlope(curves[i - 1], slopeOf(i - 1))) + Math.atan(startSlope(curves[i], slopeOf(i)))),
        )
      : 0;
    return { ...place(offsets[i], lines[i], s.twistAbout ?? 0.25, lean), section: s.section };
  });

  const at = (b: number, share: number): PlacedStation => {
    if (share <= 0) return stations[b];
    if (share >= 1) return stations[b + 1];
    const [s, t] = [surface.stations[b], surface.stations[b + 1]];
    const blend = { section: t.section, share };
    const curve = curves[b];
    if (!curve) return { ...ruled(stations[b], stations[b + 1], share), section: s.section, blend };
    const line = curve(share);
    const name = surface.name || surface.id;
    if (!(line.trailing - line.leading > SURFACE_LIMITS.station.chord.min))
      throw new InvalidInput(
        'edges-cross',
        `${name}, bay ${b + 1}: leading and trailing edge meet ${(100 * share).toFixed(0)} % along it.`,
        'Shorten the reach of the edges, or change their angles.',
        `stations.${b}.edges`,
      );
    const about = (1 - share) * (s.twistAbout ?? 0.25) + share * (t.twistAbout ?? 0.25);
    return {
      ...place(offsets[b] + share * surface.bays[b].span, line, about, line.riseSlope),
      section: s.section,
      blend,
    };
  };
  return {
    stations,
    dihedrals: surface.bays.map((_, b) => Math.atan(slopeOf(b))),
    curved: curves.map((c) => c !== null),
    at,
  };
}

const startSlope = (curve: BayCurve | null, straight: number) => (curve ? curve(0).riseSlope : straight);
const endSlope = (curve: BayCurve | null, straight: number) => (curve ? curve(1).riseSlope : straight);

const mixed = (a: Point3, b: Point3, t: number): Point3 => ({
  x: (1 - t) * a.x + t * b.x,
  y: (1 - t) * a.y + t * b.y,
  z: (1 - t) * a.z + t * b.z,
});

/** A place between two stations whose chords' ends and thickness are joined by straight lines. */
function ruled(a: PlacedStation, b: PlacedStation, t: number): Omit<PlacedStation, 'section'> {
  const leadingEdge = mixed(a.leadingEdge, b.leadingEdge, t);
  const tail = (s: PlacedStation): Point3 => ({
    x: s.leadingEdge.x + s.chord * s.along.x,
    y: s.leadingEdge.y + s.chord * s.along.y,
    z: s.leadingEdge.z + s.chord * s.along.z,
  });
  const edge = mixed(tail(a), tail(b), t);
  const [dx, dy, dz] = [edge.x - leadingEdge.x, edge.y - leadingEdge.y, edge.z - leadingEdge.z];
  const chord = Math.hypot(dx, dy, dz);
  const along = { x: dx / chord, y: dy / chord, z: dz / chord };
  const raw = mixed(a.up, b.up, t);
  const dot = raw.x * along.x + raw.y * along.y + raw.z * along.z;
  const out = { x: raw.x - dot * along.x, y: raw.y - dot * along.y, z: raw.z - dot * along.z };
  const size = Math.hypot(out.x, out.y, out.z);
  return {
    offset: (1 - t) * a.offset + t * b.offset,
    leadingEdge,
    quarterChord: mixed(leadingEdge, edge, 0.25),
    chord,
    pitch: (1 - t) * a.pitch + t * b.pitch,
    along,
    up: { x: out.x / size, y: out.y / size, z: out.z / size },
  };
}

/** The stations of a surface in space (its right or upper side). @throws InvalidInput from {@link placeSurface}. */
export const placeStations = (surface: LiftingSurface): PlacedStation[] => placeSurface(surface).stations;

/**
 * The places that a skin is ruled between: all stations, and slices within the bays that flow.
 * @returns for each place its bay and its share of it (a station opens the bay outboard of it; the tip closes the last).
 */
export function skinPlaces(
  placed: PlacedSurface,
  slices = SLICES,
): { bay: number; share: number; at: PlacedStation }[] {
  const out: { bay: number; share: number; at: PlacedStation }[] = [];
  placed.curved.forEach((curved, bay) => {
    const n = curved ? slices : 1;
    for (let k = 0; k < n; k++) out.push({ bay, share: k / n, at: placed.at(bay, k / n) });
  });
  const bay = placed.curved.length - 1;
  out.push({ bay, share: 1, at: placed.at(bay, 1) });
  return out;
}

/** Trailing edge of a placed station. */
export const trailingEdge = (at: PlacedStation): Point3 => ({
  x: at.leadingEdge.x + at.chord * at.along.x,
  y: at.leadingEdge.y + at.chord * at.along.y,
  z: at.leadingEdge.z + at.chord * at.along.z,
});
