import type { FlowState } from '../atmosphere';
import {
  trimLevel,
  type AirframeSource,
  type MotionCase,
  type SteadyFlight,
  type Trimmer,
  type TrimState,
} from '../motion';
import { RAD } from '../numerics';
import { pushes, Thruster, type Engine } from '../propulsion';

/** An aircraft with its engine in steady flight. */
export interface PoweredFlight {
  /** With the propeller's force across its axis, where it counts. */ source: AirframeSource;
  /** With the line of thrust. */ flight: SteadyFlight;
  thruster: Thruster | null;
}

/** The same source, which knows its last state: where one search ends the next one begins. */
function remembering(source: AirframeSource): AirframeSource {
  let last: { state: object; speed: number; made: ReturnType<AirframeSource['at']> } | null = null;
  const same = (a: object, b: object) => {
    const [p, q] = [Object.entries(a), b as Record<string, unknown>];
    return p.length === Object.keys(b).length && p.every(([key, v]) => q[key] === v);
  };
  return {
    ...source,
    at: (state, speed) => {
      if (last?.speed === speed && same(last.state, state)) return last.made;
      const made = source.at(state, speed);
      last = { state, speed, made };
      return made;
    },
  };
}

/**
 * An airframe's coefficients with what its engine adds to steady flight: the line of thrust, and the force across a propeller's axis at the thrust of that flight.
 * @param weight N. @param known thrust, N, where it is known; and what trims, where it is not the control that pitches.
 * @throws as {@link trimLevel} where the force across the axis is asked for.
 */
export function powered(
  bare: AirframeSource,
  engine: Engine | undefined,
  flow: FlowState,
  weight: number,
  flight: SteadyFlight = {},
  { thrust: known, trimmer }: { thrust?: number; trimmer?: Trimmer | null } = {},
): PoweredFlight {
  if (!pushes(engine)) return { source: bare, flight, thruster: null };
  const thruster = new Thruster(engine);
  const { position: at, pitchDeg, yawDeg } = engine;
  const tilt = pitchDeg * RAD;
  const own: SteadyFlight = { ...flight, thrustLine: flight.thrustLine ?? { at, tilt } };
  if (engine.kind !== 'motor' || !engine.sideForce) return { source: bare, flight: own, thruster };
  const air = { speed: flow.speed, density: flow.density };
  const source = remembering(bare);
  const first = known === undefined ? trimLevel(source, flow, weight, { ...own, rough: true }, trimmer) : null;
  const thrust = known ?? first!.thrust;
  // The force across the axis changes the trim a little: it is found from there.
  if (first)
    own.near = {
      alpha: first.alpha,
      CL: (weight * first.loadFactor) / (flow.dynamicPressure * source.reference.area),
      slope: first.trimmed.slope,
    };
  const side = thruster.sideways(Math.min(1, thruster.throttleFor(thrust, air)), air);
  if (!side || side.forcePerAngle === 0) return { source, flight: own, thruster };
  const { area, chord, span } = source.reference;
  const qS = flow.dynamicPressure * area;
  const slope = side.forcePerAngle / qS;
  // Seen from the centre, body axes.
  const [ahead, right, down] = [source.centre.x - at.x, at.y - source.centre.y, source.centre.z - at.z];
  const withSide = (c: ReturnType<AirframeSource['at']>, alpha: number, beta: number) => {
    const [up, left] = [slope * (alpha + tilt), slope * (beta - yawDeg * RAD)];
    return {
      ...c,
      CL: c.CL + up * Math.cos(alpha),
      CD: c.CD + up * Math.sin(alpha),
      CY: c.CY - left,
      Cl: c.Cl + (-right * up + down * left) / span,
      Cm: c.Cm + (ahead * up) / chord,
      Cn: c.Cn - (ahead * left) / span,
    };
  };
  const { all } = source;
  return {
    source: {
      ...source,
      at: (state, v) => withSide(source.at(state, v), state.alpha, state.sideslip ?? 0),
      ...(all && {
        all: (states, v) => all(states, v).map((c, i) => withSide(c, states[i].alpha, states[i].sideslip ?? 0)),
      }),
    },
    flight: own,
    thruster,
  };
}

/** The thrust of a steady flight, as small motions about it see it: its throttle is held. */
export function thrustOf(
  { thruster, flight }: PoweredFlight,
  centre: AirframeSource['centre'],
  trim: TrimState & { thrust: number },
  flow: FlowState,
): Pick<MotionCase, 'thrust'> & { throttle?: number } {
  if (!thruster || !flight.thrustLine) return {};
  const air = { speed: flow.speed, density: flow.density };
  const throttle = thruster.throttleFor(trim.thrust, air);
  const { at, tilt = 0 } = flight.thrustLine;
  return {
    throttle,
    thrust: {
      force: trim.thrust,
      // Beyond full it is told as at full.
      perSpeed: thruster.perSpeed(Math.min(1, throttle), air),
      ahead: centre.x - at.x,
      below: centre.z - at.z,
      abovePathDeg: (trim.alpha + tilt) / RAD,
      tiltDeg: tilt / RAD,
    },
  };
}
