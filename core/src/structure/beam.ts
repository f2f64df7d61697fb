/** Bending and twist of a cantilever at its places. */
export interface BeamShape {
  /** m */ deflection: number[];
  /** rad */ slope: number[];
  /** rad, nose-up */ twist: number[];
}

/** What loads a beam at its places, and what resists: root first. */
export interface LoadedBeam {
  /** Along the beam from its root, m. */ s: readonly number[];
  /** N, N m */ shear: readonly number[];
  bending: readonly number[];
  torsion: readonly number[];
  /** N m², at the places and in the middle of each stretch. */
  EI: readonly number[];
  EIMiddle: readonly number[];
  GJ: readonly number[];
  GJMiddle: readonly number[];
}

/**
 * Deflection, slope and twist of a beam that is held at its root. Between places the bending moment is the cubic of its values and the shear, so that a
 * beam of one stiffness under even loads is exact.
 */
export function bentBeam(beam: LoadedBeam): BeamShape {
  const { s, shear, bending, torsion, EI, EIMiddle, GJ, GJMiddle } = beam;
  const out: BeamShape = { deflection: [0], slope: [0], twist: [0] };
  for (let i = 0; i + 1 < s.length; i++) {
    const h = s[i + 1] - s[i];
    const middle = 0.5 * (bending[i] + bending[i + 1]) + (h / 8) * (shear[i + 1] - shear[i]);
    const [a, m, b] = [bending[i] / EI[i], middle / EIMiddle[i], bending[i + 1] / EI[i + 1]];
    // Integrals of the parabola through the three curvatures.
    out.deflection.push(out.deflection[i] + h * out.slope[i] + (h * h * (a + 2 * m)) / 6);
    out.slope.push(out.slope[i] + (h * (a + 4 * m + b)) / 6);
    const turned = torsion[i] / GJ[i] + (2 * (torsion[i] + torsion[i + 1])) / GJMiddle[i] + torsion[i + 1] / GJ[i + 1];
    out.twist.push(out.twist[i] + (h * turned) / 6);
  }
  return out;
}
