import { DEG, InvalidInput } from '../numerics';
import {
  meanLineCache,
  planformOf,
  referenceOf,
  referenceSurface,
  standing,
  type Body,
  type Point3,
  type Reference,
  type SectionLookup,
  type LiftingSurface,
} from '../airframe';
import type { MeanLine } from '../section';
import { BodyFlow } from './body-flow';
import { controlSides, deflectionsOf } from './controls';
import { buildLattice, DEFAULT_LATTICE, type LatticeSpread } from './lattice';
import type { AirframeLoads } from './loads';
import { VortexLattice, type FlightState } from './vortex-lattice';

/** What a lift analysis needs; angles in rad, lengths in m. */
export interface LiftInput {
  surfaces: LiftingSurface[];
  /** Their lift and moment are those of slender bodies; none without. */ bodies?: readonly Body[];
  /** Angles of attack, rad. */
  alphas: number[];
  /** Moment reference; the quarter chord of the mean aerodynamic chord when absent. */
  about?: Point3;
  reference?: Reference;
  mach?: number;
  /** Sideslip, rad, positive with the wind from the right. */
  beta?: number;
  spread?: LatticeSpread;
  /** `body`: the wake leaves along the x axis; `stream`: along the free stream, solved anew at every angle. */
  wake?: 'body' | 'stream';
  /** Height of the moment reference over the ground, m, in flight along it: solved anew at every angle, wakes along the ground. */
  ground?: number;
}

/** What a lift analysis gives: loads at every angle, and the slopes and points that follow from them; rad, m. */
export interface LiftResult {
  reference: Reference;
  momentReference: Point3;
  panels: number;
  points: AirframeLoads[];
  /** dCL/dα at α = 0, per rad. */
  liftSlope: number;
  /** dCm/dα about the moment reference at α = 0, per rad. */
  momentSlope: number;
  /** Angle of zero lift from the tangent at α = 0, rad. */
  zeroLiftAngle: number;
  /** x of the point about which the pitching moment does not change with lift, m. */
  neutralPoint: number;
  /** Cm at zero lift. */
  zeroLiftMoment: number;
  /** What each control does at α = 0, per rad of deflection. */
  controls: ControlEffect[];
}

/** Changes of coefficients per rad of a control's deflection. */
export interface ControlEffect {
  id: string;
  name: string;
  surface: string;
  CL: number;
  CY: number;
  Cl: number;
  Cm: number;
  Cn: number;
}

export const MOST_ANGLES = 721;

/** The default moment reference: quarter chord of the reference surface's mean aerodynamic chord, at its root height. */
export function quarterChordPoint(surfaces: readonly LiftingSurface[]): Point3 {
  const surface = referenceSurface(surfaces);
  return { x: planformOf(surface).quarterChord, y: 0, z: surface.position.z };
}

/** Mach numbers below this are no matter to a lattice. */
const LEAST_MACH = 1e-3;

/** The Mach number that a lattice is made for: in steps of 1e-4, so that speeds that hardly differ share one. */
export const latticeMach = (mach: number): number => (mach < LEAST_MACH ? 0 : Math.round(mach * 1e4) / 1e4);

/** Lattices that were made last. What a lattice answers is of its input alone: evaluation, trim and motion of one aircraft share it. */
const MADE_LAST = 2;
interface MadeLattice {
  text: string;
  lines: readonly MeanLine[];
  lattice: VortexLattice;
}
let last: readonly MadeLattice[] = [];

/** Makes the lattice of an airframe, ready for any attitude; one that was made just before is the same. */
export function makeLattice(
  input: Omit<LiftInput, 'alphas'>,
  lineOf: (key: string) => MeanLine,
  wakeAngle = 0,
): VortexLattice {
  const { surfaces, about, mach = 0, spread = DEFAULT_LATTICE, ground } = input;
  const reference = input.reference ?? (surfaces.length > 0 ? referenceOf(surfaces) : null);
  const text = JSON.stringify([surfaces, reference, about, mach, spread, ground, wakeAngle]);
  const lines = surfaces.flatMap((s) => s.stations.map((t) => lineOf(t.section)));
  const known = last.find((m) => m.text === text && m.lines.every((l, i) => l === lines[i]));
  const lattice = known?.lattice ?? madeLattice(input, lineOf, wakeAngle);
  last = [known ?? { text, lines, lattice }, ...last.filter((m) => m !== known)].slice(0, MADE_LAST);
  return lattice;
}

function madeLattice(
  input: Omit<LiftInput, 'alphas'>,
  lineOf: (key: string) => MeanLine,
  wakeAngle: number,
): VortexLattice {
  const { surfaces, mach = 0, spread = DEFAULT_LATTICE } = input;
  if (!(mach >= 0 && mach < 0.9)) {
    throw new InvalidInput(
      'mach-range',
      `The lattice holds for Mach numbers from 0 to below 0.9; ${mach} is not.`,
      'Lower the speed.',
      'mach',
    );
  }
  const placed = standing(surfaces);
  const lattice = buildLattice(placed, lineOf, spread);
  const stretched = mach > 0 ? buildLattice(placed, lineOf, spread, Math.sqrt(1 - mach * mach)) : lattice;
  return new VortexLattice(
    lattice,
    stretched,
    input.reference ?? referenceOf(surfaces),
    input.about ?? quarterChordPoint(placed),
    { mach, wakeAngle, ...(input.ground === undefined ? {} : { ground: input.ground }) },
    controlSides(placed, lattice, spread.spacing),
  );
}

/** @throws InvalidInput `angle-count` for no angles or too many, `angle-range` or `sideslip-range` for one outside ±45°. */
export function checkAngles(alphas: readonly number[], beta = 0): void {
  if (alphas.length === 0 || alphas.length > MOST_ANGLES) {
    throw new InvalidInput(
      'angle-count',
      `A sweep has 1 to ${MOST_ANGLES} angles; this one has ${alphas.length}.`,
      'Use a wider step.',
      'alpha',
    );
  }
  for (const a of alphas) {
    if (!(Math.abs(a) <= Math.PI / 4 + 1e-12)) {
      throw new InvalidInput(
        'angle-range',
        `Angles of attack must lie within ±45°; ${(a * DEG).toFixed(1)}° does not.`,
        undefined,
        'alpha',
      );
    }
  }
  if (!(Math.abs(beta) <= Math.PI / 4 + 1e-12)) {
    throw new InvalidInput(
      'sideslip-range',
      `Sideslip must lie within ±45°; ${(beta * DEG).toPrecision(3)}° does not.`,
      undefined,
      'beta',
    );
  }
}

/**
 * Lift, induced drag and moments over a list of angles.
 * @param lookup what a station's section key means, or ready mean lines.
 * @throws InvalidInput for a shape that cannot be, no angles or too many, or an angle outside ±45°.
 */
export const analyseLift = (input: LiftInput, lookup: SectionLookup, lineOf = meanLineCache(lookup)): LiftResult => {
  checkAngles(input.alphas, input.beta);
  return liftOf(input, makeLattice(input, lineOf), lineOf);
};

/** The same with a lattice that stands. @param solver made of that input. @param lineOf for wakes along the stream. @throws as {@link analyseLift}. */
export function liftOf(input: LiftInput, solver: VortexLattice, lineOf?: (key: string) => MeanLine): LiftResult {
  const { alphas, beta = 0 } = input;
  checkAngles(alphas, beta);
  const controls = deflectionsOf(input.surfaces);
  const bodies = new BodyFlow(solver, input.bodies ?? []);
  const ofBodies = (state: FlightState) => bodies.forces(state);
  const points = alphas.map((alpha) => {
    const state = { alpha, sideslip: beta, controls };
    // A wake along the stream is another one at every angle.
    const anew = input.wake === 'stream' || input.ground !== undefined;
    const lattice = anew && lineOf ? makeLattice(input, lineOf, alpha) : solver;
    return lattice.at(state, [], () => ofBodies(state));
  });
  const h = 1e-3;
  const [up, down] = [h, -h].map((alpha) => {
    // Over the ground the plane turns with the angle.
    const lattice = input.ground !== undefined && lineOf ? makeLattice(input, lineOf, alpha) : solver;
    return lattice.coefficients({ alpha, controls }, ofBodies({ alpha, controls }));
  });
  const liftSlope = (up.CL - down.CL) / (2 * h);
  const momentSlope = (up.Cm - down.Cm) / (2 * h);
  const lift0 = 0.5 * (up.CL + down.CL);
  const moment0 = 0.5 * (up.Cm + down.Cm);
  return {
    reference: solver.reference,
    momentReference: solver.about,
    panels: solver.lattice.panels,
    points,
    liftSlope,
    momentSlope,
    zeroLiftAngle: -lift0 / liftSlope,
    neutralPoint: solver.about.x - (momentSlope / liftSlope) * solver.reference.chord,
    zeroLiftMoment: moment0 - (momentSlope / liftSlope) * lift0,
    controls: controlEffects(input.surfaces, solver),
  };
}

/** What each control does about the undeflected state at α = 0. */
export function controlEffects(surfaces: readonly LiftingSurface[], solver: VortexLattice): ControlEffect[] {
  const h = 1e-3;
  return surfaces.flatMap((s) =>
    (s.controls ?? []).map(({ id, name }) => {
      const [up, down] = [h, -h].map((d) => solver.coefficients({ alpha: 0, controls: { [id]: d } }));
      const slope = (k: 'CL' | 'CY' | 'Cl' | 'Cm' | 'Cn') => (up[k] - down[k]) / (2 * h);
      const [CL, CY, Cl, Cm, Cn] = [slope('CL'), slope('CY'), slope('Cl'), slope('Cm'), slope('Cn')];
      return { id, name, surface: s.id, CL, CY, Cl, Cm, Cn };
    }),
  );
}
