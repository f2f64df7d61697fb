import { referenceSurface } from '../../airframe';
import { RAD } from '../../numerics';
import { checkAngles, type LiftInput } from '../lift-analysis';
import type { FlightState } from '../vortex-lattice';
import type { StripSolution } from './strip-balance';
import type { ViscousAirframe, ViscousInput, ViscousLoads } from './viscous-airframe';

/** A sweep over angles with section polars. */
export interface ViscousResult {
  reference: LiftInput['reference'] & object;
  momentReference: { x: number; y: number; z: number };
  panels: number;
  points: ViscousLoads[];
  /** Greatest lift of the sweep, refined between its angles; null where the lift still rises at its end. */
  CLmax: number | null;
  alphaCLmax: number | null;
  /** Where the first strip stalls as the angle rises, and at which angle; null where none does. */
  stallBegins: { surface: string; eta: number; alpha: number } | null;
}

/** Steps between angles while strips are stalled, rad; and the least that is tried, once a step has failed. */
const STEP = RAD;
const LEAST_STEP = STEP / 8;

/**
 * Lift, drag and stall over a list of angles, with the polars of the sections in the loop.
 * @throws FailedComputation `polar-missing`; InvalidInput for a sideslip or an angle that is too steep.
 */
export function analyseViscousLift(
  input: Pick<ViscousInput, 'surfaces' | 'alphas' | 'beta'>,
  airframe: ViscousAirframe,
): ViscousResult {
  checkAngles(input.alphas, input.beta);
  const state = (alpha: number): FlightState => ({ alpha, ...(input.beta ? { sideslip: input.beta } : {}) });
  const { solutions, solveFrom } = sweep(airframe, input.alphas, state);
  const points = airframe.loads(input.alphas.map(state), solutions);
  const greatest = greatestLift(airframe, points, solutions, state, solveFrom);
  return {
    reference: airframe.lattice.reference,
    momentReference: airframe.lattice.about,
    panels: airframe.lattice.lattice.panels,
    points,
    CLmax: greatest?.CL ?? null,
    alphaCLmax: greatest?.alpha ?? null,
    stallBegins: firstStall(airframe, input, points, solutions, state, solveFrom),
  };
}

type SolveFrom = (alpha: number, near: { alpha: number; turns: Float64Array }) => StripSolution;

/** Balances all angles, from the least one in size outward on both sides, in small steps where strips have stalled. */
function sweep(
  airframe: ViscousAirframe,
  alphas: readonly number[],
  state: (alpha: number) => FlightState,
): { solutions: StripSolution[]; solveFrom: SolveFrom } {
  const solveFrom: SolveFrom = (alpha, near) => {
    let at = near;
    let step = alpha > at.alpha ? STEP : -STEP;
    for (;;) {
      const next = Math.abs(alpha - at.alpha) <= Math.abs(step) * 1.001 ? alpha : at.alpha + step;
      const found = airframe.balance(state(next), at.turns);
      if (found.converged) {
        if (next === alpha) return found;
        at = { alpha: next, turns: found.turns };
        step = Math.sign(step) * Math.min(STEP, 2 * Math.abs(step));
      } else if (Math.abs(step) > LEAST_STEP) step = 0.5 * step;
      else {
        // Another beginning may lead on where the way along the angles does not.
        const fresh = airframe.balance(state(next));
        if (next === alpha) return fresh.converged ? fresh : found;
        at = { alpha: next, turns: (fresh.converged ? fresh : found).turns };
      }
    }
  };
  const solutions: StripSolution[] = new Array(alphas.length);
  const order = alphas.map((_, i) => i).sort((a, b) => alphas[a] - alphas[b]);
  let middle = 0;
  order.forEach((i, k) => {
    if (Math.abs(alphas[i]) < Math.abs(alphas[order[middle]])) middle = k;
  });
  const first = order[middle];
  solutions[first] = solveFrom(alphas[first], { alpha: 0, turns: airframe.balance(state(0)).turns });
  for (const way of [1, -1])
    for (let k = middle + way; k >= 0 && k < order.length; k += way) {
      const [i, before] = [order[k], order[k - way]];
      const direct = airframe.balance(state(alphas[i]), solutions[before].turns);
      const calm = direct.converged && direct.states.every((s) => s.stalled === 0);
      solutions[i] = calm ? direct : solveFrom(alphas[i], { alpha: alphas[before], turns: solutions[before].turns });
    }
  return { solutions, solveFrom };
}

/** The greatest lift of a sweep and its angle, by closing in between its angles; null where it rises to the end. */
function greatestLift(
  airframe: ViscousAirframe,
  points: readonly ViscousLoads[],
  solutions: readonly StripSolution[],
  state: (alpha: number) => FlightState,
  solveFrom: SolveFrom,
): { CL: number; alpha: number } | null {
  const order = points
    .map((_, i) => i)
    .filter((i) => points[i].status !== 'unsolved')
    .sort((a, b) => points[a].alpha - points[b].alpha);
  let best = -1;
  order.forEach((i, k) => {
    if (best < 0 || points[i].CL > points[order[best]].CL) best = k;
  });
  if (best <= 0 || best >= order.length - 1) return null;
  let low = { alpha: points[order[best - 1]].alpha, turns: solutions[order[best - 1]].turns };
  let high = points[order[best + 1]].alpha;
  let top = { CL: points[order[best]].CL, alpha: points[order[best]].alpha };
  // Quarters, each from the side of the smaller angle, which is how an aircraft comes there; then the crest of the parabola through the last three.
  for (let k = 0; k < 2; k++) {
    const alphas = [1, 2, 3].map((j) => low.alpha + (j * (high - low.alpha)) / 4);
    let near = low;
    const found = alphas.map((a) => {
      const s = solveFrom(a, near);
      near = { alpha: a, turns: s.turns };
      return s;
    });
    const lifts = airframe.loads(alphas.map(state), found).map((p) => p.CL);
    let at = 0;
    lifts.forEach((v, j) => {
      if (v > lifts[at]) at = j;
    });
    if (lifts[at] > top.CL) top = { CL: lifts[at], alpha: alphas[at] };
    if (k === 1 && at === 1) {
      const [l, m, r] = lifts;
      const bend = l - 2 * m + r;
      const shift = bend < 0 ? (0.5 * (l - r)) / bend : 0;
      const CL = m - 0.25 * (l - r) * shift;
      if (CL > top.CL && Math.abs(shift) <= 1) top = { CL, alpha: alphas[1] + shift * (alphas[1] - alphas[0]) };
    }
    if (at > 0) low = { alpha: alphas[at - 1], turns: found[at - 1].turns };
    if (at < 2) high = alphas[at + 1];
  }
  return top;
}

/** Where the first strip of the reference surface, or of any, stalls as the angle rises. */
function firstStall(
  airframe: ViscousAirframe,
  input: Pick<ViscousInput, 'surfaces'>,
  points: readonly ViscousLoads[],
  solutions: readonly StripSolution[],
  state: (alpha: number) => FlightState,
  solveFrom: SolveFrom,
): ViscousResult['stallBegins'] {
  const wing = referenceSurface(input.surfaces).id;
  const index = input.surfaces.findIndex((s) => s.id === wing);
  const order = points.map((_, i) => i).sort((a, b) => points[a].alpha - points[b].alpha);
  const strips = airframe.stripsOf(state(points[order[0]].alpha));
  const stalls = (s: StripSolution) => s.states.some((v, i) => v.stalled > 0 && strips[i].surface === index);
  const at = order.findIndex((i, k) => k > 0 && stalls(solutions[i]) && !stalls(solutions[order[k - 1]]));
  if (at < 0) return null;
  let low = { alpha: points[order[at - 1]].alpha, turns: solutions[order[at - 1]].turns };
  let found = { alpha: points[order[at]].alpha, states: solutions[order[at]].states };
  for (let k = 0; k < 6; k++) {
    const alpha = 0.5 * (low.alpha + found.alpha);
    const solution = solveFrom(alpha, low);
    if (stalls(solution)) found = { alpha, states: solution.states };
    else low = { alpha, turns: solution.turns };
  }
  let deepest = -1;
  found.states.forEach((s, i) => {
    if (strips[i].surface !== index || s.stalled <= 0) return;
    if (deepest < 0 || s.cl / s.clMax > found.states[deepest].cl / found.states[deepest].clMax) deepest = i;
  });
  return { surface: wing, eta: strips[deepest].station, alpha: found.alpha };
}
