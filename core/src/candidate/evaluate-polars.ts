import type { Point3, SectionLookup } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { trimsOf, type MassProperties } from '../balance';
import { pointSlopes, steadySweep, type SteadyResult } from '../flight';
import type { SectionPolars } from '../lift';
import { NO_CENTRES, overCentre, staticStability, type AirframeSource } from '../motion';
import { FailedComputation, RAD, VeldtwindError } from '../numerics';
import type { MeanLine } from '../section';
import { anglesOf, type DesignBrief, type DesignCandidate, type Evaluation } from './evaluate';
import { motionSource } from './motion';
import { withPlacedMass } from './placed-mass';
import { powered } from './powered';

/** A flight of a candidate whose sections have polars; SI. */
export interface PolarFlight {
  speed: number;
  altitude: number;
  polars: SectionPolars[];
}

/** A sweep over the candidate's own angles with section polars, moments about its centre of gravity. @throws as {@link steadySweep}. */
export function sweepWithPolars(
  candidate: DesignCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  mass: Pick<MassProperties, 'mass' | 'centre'>,
  { speed, altitude, polars }: PolarFlight,
): SteadyResult {
  const { surfaces, bodies = [], reference, drag, engine } = candidate;
  const aircraft = { surfaces, bodies, reference, drag, about: mass.centre, mass: mass.mass, altitude, polars, engine };
  const alphas = anglesOf(candidate.sweep).map((a) => a * RAD);
  return steadySweep(aircraft, speed, { kind: 'alpha', alphas }, lookup, lineOf);
}

/** The same coefficients about a centre of gravity that lies elsewhere along x. */
function movedAlong(source: AirframeSource, centre: Point3): AirframeSource {
  const share = (centre.x - source.centre.x) / source.reference.chord;
  const about = (c: ReturnType<AirframeSource['at']>, alpha: number) => ({
    ...c,
    Cm: c.Cm + share * (c.CL * Math.cos(alpha) + c.CD * Math.sin(alpha)),
  });
  return {
    ...source,
    centre,
    lattice: source.lattice.movedTo(centre),
    at: (state, v) => about(source.at(state, v), state.alpha),
    all: (states, v) =>
      (source.all?.(states, v) ?? states.map((s) => source.at(s, v))).map((c, i) => about(c, states[i].alpha)),
  };
}

/**
 * An evaluation by the lattice with section polars: lift and moment over the angles, trims, and stability in the trim of level flight, the last also over
 * places of the centre of gravity. What it cannot make stays as the lattice alone has it, with the reason in `problems`.
 * @param by the evaluation of the same candidate without polars. @param centres false leaves the places of the centre out.
 */
export function evaluateWithPolars(
  by: Evaluation,
  brief: DesignBrief,
  candidate: DesignCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  polars: SectionPolars[],
  { centres = true } = {},
): Evaluation {
  const { lift, mass } = by;
  if (!lift || !mass || !by.balance) return by;
  const { speed, altitude } = brief;
  try {
    const placed = withPlacedMass(candidate, lookup);
    const flight = { speed, altitude, polars };
    const sweep = sweepWithPolars(placed, lookup, lineOf, mass, flight);
    const points = sweep.points.filter((p) => p.status !== 'unsolved');
    const slopes = pointSlopes(points, mass.centre.x, sweep.reference.chord);
    const flow = flowState(speed, altitude);
    const weight = mass.mass * GRAVITY;
    const bodies = placed.bodies ?? [];
    const source = motionSource({ ...placed, bodies }, lookup, lineOf, mass, speed, altitude, polars);
    const at = (centre: Point3) => {
      const own = centre === mass.centre ? source : movedAlong(source, centre);
      try {
        return powered(own, placed.engine, flow, weight);
      } catch (error) {
        // Without a level flight the propeller's force across its axis is not known.
        if (error instanceof FailedComputation) return { source: own, flight: {} };
        throw error;
      }
    };
    const here = at(mass.centre);
    const { staticMargin, neutralPoint, pitchSlope, liftSlope, alpha, controls, ...state } = staticStability(
      here.source,
      flow,
      weight,
      here.flight,
    );
    const { at: where, reason } = state;
    return {
      ...by,
      method: 'polars',
      curve: {
        points: sweep.points.map(({ alpha: a, CL, CD, Cm, status }) => ({
          alpha: a,
          CL,
          CD,
          Cm,
          ...(status !== undefined && { status }),
        })),
        liftSlope: slopes?.liftSlope ?? null,
        zeroLiftAngle: slopes?.zeroLiftAngle ?? null,
        zeroLiftMoment: slopes?.zeroLiftMoment ?? null,
        greatestLift: sweep.CLmax,
      },
      balance: {
        trims: trimsOf({ ...lift, points } as typeof lift, mass.mass, flow.density),
        staticMargin,
        neutralPoint,
        pitchSlope,
        liftSlope,
        state: { at: where, alpha, speed, controls, ...(reason !== undefined && { reason }) },
        centres: centres ? overCentre(at, mass.centre, sweep.reference.chord, flow, weight) : NO_CENTRES,
      },
    };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    const { code, message, hint, path } = error;
    return { ...by, problems: [...by.problems, { code, message, hint, path }] };
  }
}
