import { z } from 'zod';
import { finiteNumber } from '../limits';
import { InvalidInput, RAD } from '../numerics';
import { analysis } from '../results';
import { keptMeanLine, liftCase, lookupIn, type LiftCase } from './analysis';
import { BodyFlow } from './body-flow';
import { deflectionsOf } from './controls';
import { makeLattice, type LiftInput } from './lift-analysis';
import type { FlightState, VortexLattice } from './vortex-lattice';

/** An airframe at a lift coefficient, at one height over the ground or in free air; rad, about the moment reference. */
export interface GroundState {
  /** Of the moment reference over the ground, m; null in free air. */ height: number | null;
  alpha: number;
  CDi: number;
  Cm: number;
  /** Per rad, at that height. */ CL_alpha: number;
  Cm_alpha: number;
  /** −Cm_α / CL_α. */ staticMargin: number;
}

/** What the ground does to an airframe at one lift coefficient. */
export interface GroundSweep {
  CL: number;
  /** m */ span: number;
  /** Height at which the lowest corner touches the ground at the free air's angle, m. */ touches: number;
  free: GroundState;
  /** Lowest first. */ rows: GroundState[];
}

const STEPS = 8;
const SPANS = 2;
const MOST_HEIGHTS = 40;

/** What a lattice has at an angle, with its slopes over a step of half a degree either way. */
function stateAt(
  at: (alpha: number) => VortexLattice,
  bodies: LiftInput['bodies'],
  controls: FlightState['controls'],
  CL: number,
  height: number | null,
): GroundState {
  const told = (alpha: number) => {
    const lattice = at(alpha);
    return lattice.coefficients({ alpha, controls }, new BodyFlow(lattice, bodies ?? []).forces({ alpha, controls }));
  };
  const h = 0.5 * RAD;
  let alpha = 0.05;
  // Lift is nearly straight over the angle: two steps are enough.
  for (let k = 0; k < 4; k++) {
    const [down, up] = [told(alpha - h), told(alpha + h)];
    const slope = (up.CL - down.CL) / (2 * h);
    const miss = CL - 0.5 * (up.CL + down.CL);
    if (Math.abs(miss) < 1e-3 * Math.max(0.1, Math.abs(CL))) {
      alpha += miss / slope;
      const here = told(alpha);
      const Cm_alpha = (up.Cm - down.Cm) / (2 * h);
      return { height, alpha, CDi: here.CDi, Cm: here.Cm, CL_alpha: slope, Cm_alpha, staticMargin: -Cm_alpha / slope };
    }
    alpha = Math.max(-0.35, Math.min(0.35, alpha + miss / slope));
  }
  throw new InvalidInput(
    'lift-reach',
    `No angle within ±20° carries a lift coefficient of ${CL.toPrecision(3)}.`,
    'Fly faster, or lighter, or give it more wing.',
    'CL',
  );
}

/**
 * An airframe at one lift coefficient over heights, by images of the lattice below the ground; controls as they stand.
 * @param input with the moment reference that heights are told of. @param heights m; from just clear of the ground to two spans without.
 * @throws InvalidInput `lift-reach`; from {@link makeLattice}.
 */
export function groundSweep(
  input: Omit<LiftCase, 'alphas' | 'sections' | 'ground' | 'wake'>,
  lineOf: Parameters<typeof makeLattice>[1],
  CL: number,
  heights?: readonly number[],
  report: (done: number, of: number) => void = () => {},
): GroundSweep {
  const controls = deflectionsOf(input.surfaces);
  const solver = makeLattice(input, lineOf);
  // Over the ground the wakes lie along the path: so they do in the free air that it is held against.
  const free = stateAt((alpha) => makeLattice(input, lineOf, alpha), input.bodies, controls, CL, null);
  const { span } = solver.reference;
  const touches = depthBelow(solver, free.alpha);
  // Near the ground the angle falls, and half a degree more is looked at.
  const least = Math.max(depthBelow(solver, free.alpha + 0.02), depthBelow(solver, free.alpha - 0.05)) + 0.02 * span;
  const most = Math.max(SPANS * span, 2 * least);
  const list =
    heights ??
    Array.from({ length: STEPS }, (_, k) => Number((least * (most / least) ** (k / (STEPS - 1))).toPrecision(5)));
  const rows = [...list]
    .sort((a, b) => a - b)
    .map((ground, k) => {
      report(k, list.length);
      return stateAt((alpha) => makeLattice({ ...input, ground }, lineOf, alpha), input.bodies, controls, CL, ground);
    });
  return { CL, span, touches, free, rows };
}

/** How far below the moment reference the lowest corner of the surfaces lies at an angle, m; 0 where none does. */
export function depthBelow({ lattice, about }: VortexLattice, alpha: number): number {
  const [nx, nz] = [-Math.sin(alpha), Math.cos(alpha)];
  let least = 0;
  for (const { corners } of lattice.parts)
    for (let i = 0; i < corners.length; i += 3)
      least = Math.min(least, nx * (corners[i] - about.x) + nz * (corners[i + 2] - about.z));
  return -least;
}

/** What a sweep over heights depends on. */
export interface GroundCase {
  of: Omit<LiftCase, 'alphas'>;
  CL: number;
  heights?: number[];
}

/** An airframe at one lift coefficient over heights above the ground. */
export const ground = analysis({
  version: 2,
  input: z.object({
    of: (liftCase as unknown as z.ZodObject).omit({ alphas: true }),
    CL: finiteNumber.min(-3).max(5),
    heights: z.array(z.number().positive().max(1e5)).min(1).max(MOST_HEIGHTS).optional(),
  }) as unknown as z.ZodType<GroundCase>,
  run: ({ of: { sections, ...input }, CL, heights }: GroundCase, context): GroundSweep => {
    const lookup = lookupIn(sections);
    return groundSweep(
      input,
      (key) => keptMeanLine(lookup(key)),
      CL,
      heights,
      (done, of) => {
        context.report?.({ done, of });
      },
    );
  },
});
