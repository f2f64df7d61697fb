import type { LiftingSurface, Point3 } from '../types';

/** What may be said of a made-up surface beside its size. */
export interface MadeSurface {
  sweep?: number;
  dihedral?: number;
  /** Four digits. */ section?: string;
  incidenceDeg?: number;
}

/** A made-up surface of one bay, for tests and benches; its role follows from its id and plane. */
export const madeSurface = (
  id: string,
  plane: LiftingSurface['plane'],
  mirrored: boolean,
  position: Point3,
  chords: [number, number],
  span: number,
  { sweep = 0, dihedral = 0, section = '0009', incidenceDeg = 0 }: MadeSurface = {},
): LiftingSurface => ({
  id,
  name: id,
  role: id === 'wing' ? 'wing' : plane === 'vertical' ? 'fin' : 'tailplane',
  plane,
  mirrored,
  position,
  incidenceDeg,
  stations: chords.map((chord) => ({ chord, twistDeg: 0, section: `naca:${section}` })),
  bays: [{ span, sweepDeg: sweep, dihedralDeg: dihedral }],
});
