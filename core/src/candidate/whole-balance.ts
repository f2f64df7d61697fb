import type { Body, Point3 } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { trimsOf, type Balance, type CentreTable, type MassProperties } from '../balance';
import {
  BodyFlow,
  deflectionsOf,
  liftOf,
  makeLattice,
  type LiftInput,
  type LiftResult,
  type VortexLattice,
} from '../lift';
import { NO_CENTRES, overCentre, staticStability, type AirframeSource } from '../motion';
import { FailedComputation } from '../numerics';
import type { Engine } from '../propulsion';
import type { MeanLine } from '../section';
import { powered } from './powered';
import { travelsOf } from './travels';

/** Balance with what it becomes when the centre of gravity moves. */
export interface WholeBalance extends Balance {
  centres: CentreTable;
}

/**
 * Coefficients of an airframe by the lattice with its bodies as slender ones, controls as they stand.
 * @param parasite drag coefficient beside the induced one, at a speed.
 */
export function latticeSource(
  lattice: VortexLattice,
  of: {
    surfaces: LiftInput['surfaces'];
    bodies: readonly Body[];
    lineOf: (key: string) => MeanLine;
    flow?: BodyFlow;
    travels?: AirframeSource['travels'];
  },
  parasite: (speed: number) => number = () => 0,
): AirframeSource {
  const { about: centre, reference } = lattice;
  const controls = deflectionsOf(of.surfaces);
  const flow = of.flow?.movedTo(lattice) ?? new BodyFlow(lattice, of.bodies);
  return {
    lattice,
    surfaces: of.surfaces,
    reference,
    centre,
    lineOf: of.lineOf,
    travels: of.travels ?? travelsOf(of.surfaces),
    at: (state, v) => {
      const loads = lattice.coefficients(
        { ...state, controls: { ...controls, ...state.controls } },
        flow.forces({ ...state, controls: { ...controls, ...state.controls } }),
      );
      return { ...loads, CD: loads.CDi + parasite(v) };
    },
  };
}

/**
 * Lift of a whole aircraft, and its balance: trims with the controls as they stand, and margin, neutral point and slope in the trim of level flight, each
 * also over places of the centre of gravity. The lattice is factorised once.
 * @param input with bodies, about the centre of gravity. @param options speed of the level flight, m/s: that of the first trim without; the engine, whose thrust
 *   takes part by its line, and the drag coefficient beside the induced one that it carries then.
 * @throws as {@link makeLattice}.
 */
export function wholeBalance(
  input: LiftInput,
  lineOf: (key: string) => MeanLine,
  mass: MassProperties,
  options: {
    speed?: number;
    altitude: number;
    engine?: Engine;
    parasite?: (speed: number) => number;
    /** False leaves out the stability over places of the centre. */ centres?: boolean;
  },
): { lift: LiftResult; balance: WholeBalance } {
  const lattice = makeLattice(input, lineOf);
  const lift = liftOf(input, lattice);
  const { density } = flowState(1, options.altitude);
  const trims = trimsOf(lift, mass.mass, density);
  const speed = options.speed ?? trims.find((t) => t.speed !== null)?.speed ?? null;
  const bodies = input.bodies ?? [];
  const of = { surfaces: input.surfaces, bodies, lineOf, flow: new BodyFlow(lattice, bodies) };
  const weight = speed === null ? null : mass.mass * GRAVITY;
  const flow = flowState(speed ?? 1, options.altitude);
  const placed = (centre: Point3) => {
    const source = latticeSource(centre === lattice.about ? lattice : lattice.movedTo(centre), of, options.parasite);
    try {
      return powered(source, options.engine, flow, weight ?? 0);
    } catch (error) {
      // Without a level flight the propeller's force across its axis is not known.
      if (error instanceof FailedComputation) return { source, flight: {} };
      throw error;
    }
  };
  const here = placed(lattice.about);
  const { staticMargin, neutralPoint, pitchSlope, liftSlope, alpha, controls, at, reason } = staticStability(
    here.source,
    flow,
    weight,
    here.flight,
  );
  return {
    lift,
    balance: {
      trims,
      staticMargin,
      neutralPoint,
      pitchSlope,
      liftSlope,
      state: { at, alpha, speed, controls, ...(reason !== undefined && { reason }) },
      centres:
        options.centres === false
          ? NO_CENTRES
          : overCentre(placed, lattice.about, lattice.reference.chord, flow, weight),
    },
  };
}
