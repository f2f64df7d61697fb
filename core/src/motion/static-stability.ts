import type { Point3 } from '../airframe';
import type { FlowState } from '../atmosphere';
import type { CentreTable } from '../balance';
import { FailedComputation } from '../numerics';
import { angleSlopes, trimLevel, type AirframeSource, type SteadyFlight, type TrimState } from './airframe-motion';

/** Static longitudinal stability of the whole aircraft in one state. */
export interface StaticStability {
  /** (x of the neutral point − x of the centre of gravity) over the mean aerodynamic chord: −Cm_α / CL_α. */
  staticMargin: number;
  /** x of the point about which the moment does not change with the angle, m. */ neutralPoint: number;
  /** Per rad, about the centre of gravity. */ pitchSlope: number;
  /** Per rad. */ liftSlope: number;
  /** The state that it belongs to: level flight in trim, or α = 0 where there is none. */
  at: 'level' | 'zero';
  /** rad */ alpha: number;
  /** Deflections that trim, rad by id. */ controls: Record<string, number>;
  /** Why it is not level flight. */ reason?: string;
}

/**
 * Static margin, neutral point and slopes in the trim of level flight: those of the derivatives of motion there, to the last digit.
 * @param source about the centre of gravity. @param weight N; null where there is no level flight to be in. @param flight climb, turn and thrust line of the steady flight.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §2.3.
 */
export function staticStability(
  source: AirframeSource,
  flow: FlowState,
  weight: number | null,
  flight: SteadyFlight = {},
): StaticStability {
  let trim: TrimState = { alpha: 0, speed: flow.speed, CL: 0, CD: 0, controls: {}, Cm: 0 };
  let reason: string | undefined;
  if (weight === null) reason = 'No speed is given, and no angle without a moment carries the weight.';
  else
    try {
      trim = trimLevel(source, flow, weight, flight);
    } catch (error) {
      if (!(error instanceof FailedComputation)) throw error;
      reason = error.message;
    }
  const { CL: liftSlope, Cm: pitchSlope } = angleSlopes(source, trim);
  const staticMargin = -pitchSlope / liftSlope;
  return {
    staticMargin,
    neutralPoint: source.centre.x + staticMargin * source.reference.chord,
    pitchSlope,
    liftSlope,
    at: reason === undefined ? 'level' : 'zero',
    alpha: trim.alpha,
    controls: trim.controls,
    ...(reason !== undefined && { reason }),
  };
}

/** Where the centre of gravity may be put, as a share of the chord from where it is, when the margin is told over it. */
const PLACES = [-0.6, -0.25, 0, 0.25, 0.6];

/**
 * How margin and slope go when the centre of gravity moves along: it is trimmed anew at every place.
 * @param sourceAt the same aircraft about another centre.
 */
export function overCentre(
  sourceAt: (centre: Point3) => { source: AirframeSource; flight: SteadyFlight },
  centre: Point3,
  chord: number,
  flow: FlowState,
  weight: number | null,
): CentreTable {
  const x = PLACES.map((share) => centre.x + share * chord);
  const all = x.map((place) => {
    const { source, flight } = sourceAt({ ...centre, x: place });
    return staticStability(source, flow, weight, flight);
  });
  return { x, staticMargin: all.map((s) => s.staticMargin), pitchSlope: all.map((s) => s.pitchSlope) };
}

/** A table of no places: for whoever asks only about the centre itself. */
export const NO_CENTRES: CentreTable = { x: [], staticMargin: [], pitchSlope: [] };
