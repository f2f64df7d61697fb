import type { SectionLookup } from '../airframe';
import { analyseViscousLift, type FlightState, type ViscousResult } from '../lift';
import { DEG, InvalidInput } from '../numerics';
import type { MeanLine } from '../section';
import { SteadyAircraft, type Aircraft, type SteadyPoint } from './aircraft';
import { findLift } from './find-lift';

/** What runs along a sweep, and what is held; angles in rad, speeds in m/s. */
export type SteadySweep =
  /** Over angles of attack at one speed. */
  | { kind: 'alpha'; alphas: number[]; beta?: number }
  /** Over angles of attack at the speed at which the lift carries the weight. */
  | { kind: 'carrying'; alphas: number[] }
  /** Over speeds in level flight: the angle follows. */
  | { kind: 'level'; speeds: number[] }
  /** Over sideslip at one angle and speed. */
  | { kind: 'sideslip'; alpha: number; betas: number[] }
  /** Over the deflection of a control at one angle and speed. */
  | { kind: 'control'; alpha: number; control: string; deflections: number[] }
  /** Over wanted lift coefficients at one speed: the angle follows. */
  | { kind: 'lift'; lifts: number[] };

/** A sweep of steady states. */
export interface SteadyResult extends Omit<ViscousResult, 'points'> {
  kind: SteadySweep['kind'];
  points: SteadyPoint[];
}

/**
 * Sweeps an aircraft through steady states with the polars of its sections. Each state is solved or says why not.
 * @param speed that is held where the sweep holds one, m/s. @throws as {@link SteadyAircraft}; InvalidInput `sweep` for an empty one.
 */
export function steadySweep(
  aircraft: Aircraft,
  speed: number,
  sweep: SteadySweep,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  flown = new SteadyAircraft(aircraft, speed, lookup, lineOf),
): SteadyResult {
  const base = {
    kind: sweep.kind,
    reference: flown.reference,
    momentReference: flown.momentReference,
    panels: flown.panels,
  };
  const alone = (points: SteadyPoint[]): SteadyResult => ({
    ...base,
    points,
    CLmax: null,
    alphaCLmax: null,
    stallBegins: null,
  });
  switch (sweep.kind) {
    case 'alpha': {
      const result = analyseViscousLift(
        { surfaces: flown.surfaces, alphas: checked(sweep.alphas), beta: sweep.beta },
        flown.at(speed),
      );
      return { ...result, kind: 'alpha', points: result.points.map((p) => flown.point(p, speed)) };
    }
    case 'carrying':
      return alone(carrying(flown, checked(sweep.alphas), speed));
    case 'level':
      return alone(levelFlight(flown, checked(sweep.speeds)));
    case 'lift':
      return alone(atLifts(flown, speed, checked(sweep.lifts)));
    case 'sideslip':
      return alone(along(flown, speed, checked(sweep.betas), (sideslip) => ({ alpha: sweep.alpha, sideslip })));
    case 'control': {
      const control = flown.surfaces.flatMap((s) => s.controls ?? []).find((c) => c.id === sweep.control);
      if (!control)
        throw new InvalidInput(
          'control-missing',
          `There is no control "${sweep.control}".`,
          'Name one of the airframe’s.',
          'control',
        );
      const points = along(flown, speed, checked(sweep.deflections), (d) => ({
        alpha: sweep.alpha,
        controls: { [sweep.control]: d },
      }));
      return alone(points.map((p, i) => ({ ...p, deflection: sweep.deflections[i] })));
    }
  }
}

function checked(values: number[]): number[] {
  if (values.length === 0) throw new InvalidInput('sweep', 'The sweep is empty.', 'Give one value or more.');
  return values;
}

/** States along one value, each from the one before, outward from the least in size. */
function along(
  flown: SteadyAircraft,
  speed: number,
  values: readonly number[],
  state: (value: number) => FlightState,
): SteadyPoint[] {
  const order = values.map((_, i) => i).sort((a, b) => values[a] - values[b]);
  const middle = order.reduce((best, i, k) => (Math.abs(values[i]) < Math.abs(values[order[best]]) ? k : best), 0);
  const points: SteadyPoint[] = new Array(values.length);
  for (const way of [1, -1]) {
    let from: Float64Array | undefined;
    for (let k = way > 0 ? middle : middle - 1; k >= 0 && k < order.length; k += way) {
      const { point, solution } = flown.loads(state(values[order[k]]), speed, from);
      points[order[k]] = point;
      if (solution.converged) from = solution.turns;
    }
  }
  return points;
}

/** A state that could not be found, with what it was asked for. */
function missing(near: SteadyPoint, speed: number, reason: string): SteadyPoint {
  return { ...near, speed, status: 'unsolved', reason };
}

/** Angles at which a lift is met, from a state near by. */
function angleFor(flown: SteadyAircraft, speed: number, CL: number, from: { alpha: number; turns?: Float64Array }) {
  return findLift((alpha, turns) => flown.loads({ alpha }, speed, turns), CL, from);
}

function levelFlight(flown: SteadyAircraft, speeds: readonly number[]): SteadyPoint[] {
  const order = speeds.map((_, i) => i).sort((a, b) => speeds[b] - speeds[a]);
  const points: SteadyPoint[] = new Array(speeds.length);
  let from: { alpha: number; turns?: Float64Array } = { alpha: 0 };
  for (const i of order) {
    const speed = speeds[i];
    const CL = flown.liftNeeded(speed);
    const { point, turns, met } = angleFor(flown, speed, CL, from);
    if (met) {
      points[i] = point;
      from = { alpha: point.alpha, turns };
    } else
      points[i] = missing(
        point,
        speed,
        `Level flight at ${speed.toPrecision(3)} m/s needs a lift coefficient of ${CL.toPrecision(3)}; the greatest found is ${point.CL.toPrecision(3)}.`,
      );
  }
  return points;
}

function atLifts(flown: SteadyAircraft, speed: number, lifts: readonly number[]): SteadyPoint[] {
  const order = lifts.map((_, i) => i).sort((a, b) => lifts[a] - lifts[b]);
  const points: SteadyPoint[] = new Array(lifts.length);
  let from: { alpha: number; turns?: Float64Array } = { alpha: 0 };
  for (const i of order) {
    const { point, turns, met } = angleFor(flown, speed, lifts[i], from);
    if (met) {
      points[i] = point;
      from = { alpha: point.alpha, turns };
    } else
      points[i] = missing(
        point,
        speed,
        `A lift coefficient of ${lifts[i].toPrecision(3)} is not met; the nearest found is ${point.CL.toPrecision(3)}.`,
      );
  }
  return points;
}

/** Rounds in which the speed follows the lift. */
const ROUNDS = 4;

/** States at angles, each at the speed at which its lift carries the weight. @param start a speed to begin with, m/s. @param close share of the speed within which it has settled. */
export function carrying(flown: SteadyAircraft, alphas: readonly number[], start: number, close = 1e-5): SteadyPoint[] {
  const order = alphas.map((_, i) => i).sort((a, b) => alphas[a] - alphas[b]);
  const points: SteadyPoint[] = new Array(alphas.length);
  let turns: Float64Array | undefined;
  let speed = start;
  for (const i of order) {
    const state = { alpha: alphas[i] };
    let found = flown.loads(state, speed, turns);
    const density = flown.flowAt(speed).density;
    let settled = false;
    for (let round = 0; round < ROUNDS && found.point.CL > 0.02; round++) {
      const next = Math.sqrt((2 * flown.weight) / (density * flown.reference.area * found.point.CL));
      // The Reynolds number's part in the lift is small: the speed settles at once.
      const there = Math.abs(next / speed - 1) < close;
      speed = next;
      if (there) {
        settled = true;
        break;
      }
      found = flown.loads(state, speed, found.solution.converged ? found.solution.turns : turns);
    }
    if (found.solution.converged) turns = found.solution.turns;
    points[i] =
      found.point.CL > 0.02
        ? settled || found.solution.converged
          ? found.point
          : missing(found.point, speed, 'Speed and lift did not settle.')
        : missing(
            found.point,
            found.point.speed,
            `At ${(alphas[i] * DEG).toFixed(2)}° there is no lift to carry the weight.`,
          );
    if (!(found.point.CL > 0.02)) speed = start;
  }
  return points;
}
