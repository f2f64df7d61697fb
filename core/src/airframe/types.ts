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

/** A place along the span with a chord, a twist and a section. */
export interface Station {
  /** m */ chord: number;
  /** Relative to the surface's incidence, nose-up positive, about the quarter chord. */ twistDeg: number;
  /** Key of a section, or `naca:` and a designation. */ section: string;
}

/** The stretch between two stations, measured in projection on the surface's own base plane. */
export interface Bay {
  /** m */ span: number;
  /** Of the quarter-chord line. */ sweepDeg: number;
  dihedralDeg: number;
}

/** What a surface is there for. */
export type SurfaceRole = 'wing' | 'tailplane' | 'fin';

/** A lifting surface: stations and the bays between them, from its root outward. */
export interface LiftingSurface {
  id: string;
  name: string;
  role: SurfaceRole;
  /** `horizontal`: spans along y; `vertical`: spans along z. */
  plane: 'horizontal' | 'vertical';
  /** True when it stands on both sides of the plane of symmetry. */
  mirrored: boolean;
  /** Leading edge of the root station, before incidence is set. */
  position: Point3;
  incidenceDeg: number;
  stations: Station[];
  bays: Bay[];
}

/** Areas and lengths that coefficients are made with. */
export interface Reference {
  /** m² */ area: number;
  /** m */ span: number;
  /** m */ chord: number;
}
