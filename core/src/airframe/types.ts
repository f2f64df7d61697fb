import type { SurfaceStructure } from '../structure';

/**
 * The airframe as data. Axes: x aft, y to the right wing tip, z up; metres. Angles in degrees, since these are the fields that an engineer
 * types and that files hold; everything computed from them is in radians.
 */

/** A place in the airframe’s axes: x aft, y right, z up; m. */
export interface Point3 {
  x: number;
  y: number;
  z: number;
}

/** How an edge (or the rise of the span) runs through a station. */
export interface EdgeFlow {
  /**
   * `straight`: as the bays beside it; `held`: at an angle of its own; `inboard`, `outboard`: in line with the neighbouring bay on that side. At the
   * root of a mirrored surface `inboard` is square to the plane of symmetry.
   */
  run: 'straight' | 'held' | 'inboard' | 'outboard';
  /** Held angle, degrees: sweep of an edge, aft positive; dihedral of the rise. */
  angleDeg?: number;
  /** How long it holds that direction, as a share of the bay's span: on both sides of the station. */
  reach?: number;
  /** In the bay outboard, where a held angle reaches less or more far there than inboard. */
  reachOutboard?: number;
}

/** How the edges run through a station. Where `rise` is not given, dihedral blends with the leading edge; twist always does. */
export interface StationEdges {
  leading?: EdgeFlow;
  trailing?: EdgeFlow;
  rise?: EdgeFlow;
}

/** A place along the span with a chord, a twist and a section. */
export interface Station {
  /** m */ chord: number;
  /** Relative to the surface's incidence, nose-up positive. */ twistDeg: number;
  /** Chord fraction that it is twisted about; the quarter chord without. */ twistAbout?: number;
  /** True where the twist is given against the station inboard of it. */ twistRelative?: boolean;
  /** Key of a section, or `naca:` and a designation. */ section: string;
  /** How the edges run through it; straight without. */ edges?: StationEdges;
}

/** The stretch between two stations, measured in projection on the surface's own base plane. */
export interface Bay {
  /** m */ span: number;
  /** Of the line at the chord fraction `sweepAt`. */
  sweepDeg: number;
  /** Chord fraction of the swept line; the quarter chord without. */ sweepAt?: number;
  dihedralDeg: number;
  /** True where the dihedral is given against the bay inboard of it. */ dihedralRelative?: boolean;
}

/** A flap or control surface. */
export interface Control {
  id: string;
  name: string;
  /** Shares of the half span in true length, root 0 to tip 1. */
  from: number;
  to: number;
  /** Chord fraction of the hinge line. */ hinge: number;
  /** `symmetric`: both sides move in the same sense; `opposed`: the left one the other way. */
  kind: 'symmetric' | 'opposed';
  /** Trailing edge down positive (opposed: the right side down); on a vertical surface to the left. */
  deflectionDeg: number;
  limitsDeg: [number, number];
  /** Deflection on the right less that on the left, as it is rigged. */ riggingDeg?: number;
}

/** How the right half of a mirrored surface is built otherwise than the left: right less left; degrees, kg, share of the profile drag of a half. */
export interface SurfaceAsymmetry {
  incidenceDeg?: number;
  /** At the tip, growing from the root. */ twistDeg?: number;
  dihedralDeg?: number;
  mass?: number;
  drag?: number;
}

/** What a surface stands on: another surface's line of chord fractions, or the line of a body. */
export type Attachment =
  | {
      surface: string;
      /** Share of the half span, in true length. */ share: number;
      /** Chord fraction. */ chord?: number;
    }
  | { body: string; /** Share of the length. */ share: number };

/** What a surface is there for. */
export type SurfaceRole = 'wing' | 'tailplane' | 'foreplane' | 'fin';

/** Effects on the stream at a surface that are computed where they are wanted. */
export interface StreamEffects {
  /** Loss of dynamic pressure in the wake of the wing's profile drag. */ wake?: boolean;
  /** Gain of dynamic pressure in the propeller's slipstream. */ slipstream?: boolean;
  /** Lift that a body at its root carries over. */ carryOver?: boolean;
}

/** A lifting surface: stations and the bays between them, from its root outward. */
export interface LiftingSurface {
  id: string;
  name: string;
  role: SurfaceRole;
  /** `horizontal`: spans along y; `vertical`: spans along z. */
  plane: 'horizontal' | 'vertical';
  /** True when it stands on both sides of the plane of symmetry. */
  mirrored: boolean;
  /** Leading edge of the root station, before incidence is set; from what it is attached to, where it is. */
  position: Point3;
  attachedTo?: Attachment;
  incidenceDeg: number;
  /** Turn about x through the root, right tip up (the top of a fin to the left) positive. */ rollDeg?: number;
  /** Turn about z through the root, nose to the right positive. */ yawDeg?: number;
  /** How sections stand: `upright`, or `normal` to the span's rise. */ sectionsStand?: 'upright' | 'normal';
  stations: Station[];
  bays: Bay[];
  controls?: Control[];
  /** Dynamic pressure at the surface over that of the stream, beside what is computed of it; 1 without. */ pressureRatio?: number;
  /** What changes the stream at the surface, or its lift, and is to be counted. */ streamEffects?: StreamEffects;
  /** What it is made of. */ structure?: SurfaceStructure;
  asymmetry?: SurfaceAsymmetry;
  /** Names of dimensions that are kept where another changes: of the whole surface, and bay by bay. */
  held?: { surface: string[]; bays?: string[][] };
}

/** Areas and lengths that coefficients are made with. */
export interface Reference {
  /** m² */ area: number;
  /** m */ span: number;
  /** m */ chord: number;
}
