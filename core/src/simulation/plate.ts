import { placeSurface, type LiftingSurface } from '../airframe';

/** A bay as a flat plate: m, m²; place of the middle of its quarter-chord line. */
export interface PlatePart {
  chord: number;
  x: number;
  z: number;
  /** Area seen from above, and from the side. */ flat: number;
  upright: number;
}

/** The bays of all surfaces as plates; those that stand on both sides count twice. */
export function plateParts(surfaces: readonly LiftingSurface[]): PlatePart[] {
  return surfaces.flatMap((s) => {
    const { stations } = placeSurface(s);
    const sides = s.mirrored ? 2 : 1;
    return stations.slice(1).map((b, i): PlatePart => {
      const a = stations[i];
      const chord = 0.5 * (a.chord + b.chord);
      return {
        chord,
        x: 0.5 * (a.quarterChord.x + b.quarterChord.x),
        z: 0.5 * (a.quarterChord.z + b.quarterChord.z),
        flat: sides * chord * Math.abs(b.quarterChord.y - a.quarterChord.y),
        upright: sides * chord * Math.abs(b.quarterChord.z - a.quarterChord.z),
      };
    });
  });
}
