import type { StripLoad } from './loads';
import type { SurfaceLattice } from './lattice';
import type { FlightState, VortexLattice } from './vortex-lattice';

/** Lateral force and moments as coefficients; body axes (x forward, y right, z down), about the lattice's moment reference. */
export interface LateralCoefficients {
  CY: number;
  Cl: number;
  Cn: number;
}

/** A turn of the sections of one side against those of the other. @returns right less left at a strip, nose up positive, rad. */
export type SideTurn = (part: SurfaceLattice, strip: number) => number;

/** Angle by which a strip rises outboard, rad: dihedral and turn about x together. */
export function riseOf(part: SurfaceLattice, strip: number): number {
  const n = 3 * strip * part.rows;
  // An explicit left side has its normal the other way across.
  return Math.atan2(part.normals[n + 1] * (part.middleY[strip] < 0 ? 1 : -1), part.normals[n + 2]);
}

/**
 * What sections bring that are turned more on the right than on the left: half of the difference up on the right, half of it down on the left, so
 * that lift stays as it is to first order.
 * @param state at which they fly. @returns the change of the lateral coefficients, of the whole aircraft.
 * @source superposition in the vortex lattice: Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, chapter 12.
 */
export function turnedApart(lattice: VortexLattice, state: FlightState, turn: SideTurn): LateralCoefficients {
  const half = lattice.lattice.symmetry === 'half';
  const problem = half ? 'odd' : 'all';
  const { strips } = lattice.turning(problem);
  const amounts = strips.map(({ part, strip }) => {
    const of = lattice.lattice.parts[part];
    return 0.5 * turn(of, strip) * (of.middleY[strip] < 0 ? -1 : 1);
  });
  const response = lattice.turnedBy(problem, amounts);
  const [with_, without] = [lattice.at(state, [{ symmetry: half ? 'odd' : 'even', response }]), lattice.at(state)];
  return { CY: with_.CY - without.CY, Cl: with_.Cl - without.Cl, Cn: with_.Cn - without.Cn };
}

/**
 * What a surface brings whose right half stands higher than its left one: its lift leans over, and its sections meet less of the angle of attack.
 * @param id of the surface. @param more dihedral of the right half less that of the left, rad. @param loads of the strips at this state.
 */
export function raisedApart(
  lattice: VortexLattice,
  state: FlightState,
  id: string,
  more: number,
  loads: readonly StripLoad[],
): LateralCoefficients {
  // Up by half on the right and down by half on the left is a roll of the surface about its root.
  const roll = 0.5 * more;
  const turned = turnedApart(lattice, state, (part, strip) =>
    part.id === id ? -2 * roll * Math.sin(state.alpha) * Math.sin(riseOf(part, strip)) : 0,
  );
  const own = lattice.lattice.parts.filter((p) => p.id === id);
  const lift = loads.filter((s) => s.id === id).map((s) => s.cl * s.chord * s.width);
  const both = lattice.lattice.symmetry === 'half' && own[0]?.mirrored ? 2 : 1;
  const Fz = both * lift.reduce((a, b) => a + b, 0);
  let [weighed, sum] = [0, 0];
  for (const p of own)
    for (let s = 0; s < p.strips; s++) {
      const c = 3 * s * (p.rows + 1);
      const x = 0.5 * (p.corners[c] + p.corners[c + 3 * (p.rows + 1)]) + 0.25 * p.chord[s];
      weighed += x * p.chord[s] * p.width[s];
      sum += p.chord[s] * p.width[s];
    }
  const x = weighed / sum;
  const z = own[0].corners[2];
  const { area, span } = lattice.reference;
  const Fy = -roll * Fz;
  return {
    CY: turned.CY + Fy / area,
    Cl: turned.Cl - (roll * Fz * (z - lattice.about.z)) / (area * span),
    Cn: turned.Cn - ((x - lattice.about.x) * Fy) / (area * span),
  };
}
