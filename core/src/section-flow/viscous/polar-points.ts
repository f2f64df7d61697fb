import { InvalidInput, RAD } from '../../numerics';
import { Cancelled } from '../../results';
import { checkAngle } from '../inviscid';
import { sweepAngles } from './angle-sweep';
import { checkConditions } from './conditions';
import type { ViscousConditions } from './layers';
import { doubt, isSolved, unsolvedPoint, type SolvedPoint, type ViscousPoint } from './point';
import { continuePastStall } from './past-stall';
import type { Distributions } from './results';
import { IN_SWEEP, type SolvedState, type SolveOptions, type ViscousSection } from './viscous-section';

/** What a sweep holds: the Reynolds number, the lift force (Re falls as 1∕√cl), or the angle or lift while the Reynolds number changes. */
export type PolarKind = 'fixed-re' | 'fixed-lift' | 'over-re';

/** The points that a polar is asked for. */
export interface PolarRequest {
  kind: PolarKind;
  /** For a fixed lift force, `reynolds` is the Reynolds number at cl = 1. */
  conditions: ViscousConditions;
  /** Angles, rad, or lift coefficients: one of the two. Over Reynolds numbers exactly one value. */
  alphas?: number[];
  lifts?: number[];
  /** Reynolds numbers of an `over-re` sweep. */
  reynolds?: number[];
}

/** What a polar tells while it is solved, and what it need not solve again. */
export interface PolarOptions extends SolveOptions {
  /** Called as each point is ready or mended; points come in the order in which they are solved. */
  onPoint?: (
    index: number,
    point: ViscousPoint,
    distributions: Distributions | undefined,
    state: SolvedState | undefined,
  ) => void;
  /** Points that are known already, by their place in the request: they are not solved again, and the others start from them. */
  known?: ReadonlyMap<number, KnownPoint>;
  /** Sweeps over angles at one Reynolds number can be broken off and taken up again. */
  journal?: Journal;
}

/**
 * Reynolds number below which burst layers are looked for past the stall with all effort. Measured over ten sections, -10 to 20 degrees: 8 of 620 points
 * at 250 000 and 300 000 are found so, 1 of 930 from 400 000 up.
 */
const BURSTS_BELOW = 350_000;

/** What came of one try at a point of a sweep. */
export interface Outcome {
  /** Place in the request. */
  index: number;
  point: ViscousPoint;
  state?: SolvedState;
}

/** What came of every try so far, in their order: with it a sweep that was broken off ends exactly as if it had not been. */
export interface Journal {
  /** The next outcome of before, or undefined where the sweep goes on from. */
  next: () => Outcome | undefined;
  /** Takes what came of a try. */
  add: (outcome: Outcome) => void;
}

/** A point solved before, with the state that others may start from. */
export interface KnownPoint {
  point: ViscousPoint;
  state?: SolvedState;
}

const LIFT_TOLERANCE = 2e-5;
/** Lift slope used for the first step to a wanted lift, per rad. */
const SLOPE = 5.7;
const HIGHEST = 25 * RAD;
const MOST_POINTS = 2000;

/**
 * Solves many points of a section, each from its nearest solved neighbour; what fails is tried again from the other side, afresh, and with other
 * panels. Every point says how it was reached.
 * @returns the points in the order asked for. @throws InvalidInput for a request outside the method's range.
 */
export function polarPoints(
  section: ViscousSection,
  request: PolarRequest,
  options: PolarOptions = {},
): ViscousPoint[] {
  checkRequest(request);
  const points =
    request.kind === 'over-re' ? overReynolds(section, request, options) : overAngleOrLift(section, request, options);
  if (request.kind !== 'over-re' && request.alphas) markCurve(points);
  return points;
}

/** Marks what only a whole curve over angles shows: points past the stall, jumps, neighbours of different roots; and goes on where a stalled section could not be solved. */
export function markCurve(points: ViscousPoint[]): void {
  markStall(points);
  markJumps(points);
  markRoots(points);
  continuePastStall(points);
}

function checkRequest(request: PolarRequest): void {
  const { alphas, lifts, kind } = request;
  checkConditions(request.conditions);
  if ((alphas === undefined) === (lifts === undefined))
    throw new InvalidInput('sweep-range', 'A sweep runs over angles or over lift coefficients: give one of the two.');
  const values = alphas ?? lifts!;
  if (values.length === 0 || values.length > MOST_POINTS)
    throw new InvalidInput('sweep-range', `A sweep has 1 to ${MOST_POINTS} points; this one has ${values.length}.`);
  alphas?.forEach(checkAngle);
  lifts?.forEach((cl) => {
    if (!(Math.abs(cl) <= 5))
      throw new InvalidInput('lift-range', `A lift coefficient lies within ±5; ${cl} does not.`, undefined, 'cl');
  });
  if (kind === 'over-re') {
    if (!request.reynolds?.length) throw new InvalidInput('sweep-range', 'Which Reynolds numbers? None are given.');
    if (values.length !== 1)
      throw new InvalidInput('sweep-range', 'A sweep over Reynolds numbers is made at one angle or one lift.');
    for (const reynolds of request.reynolds) checkConditions({ ...request.conditions, reynolds });
  }
}

interface Slot {
  value: number;
  point?: ViscousPoint;
  state?: SolvedState;
}

/** Indices starting at the value nearest the middle of attached flow, up, then down. */
function outward(values: number[], middle: number): number[][] {
  const order = values.map((_, i) => i).sort((a, b) => values[a] - values[b]);
  let start = 0;
  order.forEach((i, k) => {
    if (Math.abs(values[i] - middle) < Math.abs(values[order[start]] - middle)) start = k;
  });
  return [order.slice(start), order.slice(0, start).reverse()];
}

function overAngleOrLift(section: ViscousSection, request: PolarRequest, options: PolarOptions): ViscousPoint[] {
  const values = request.alphas ?? request.lifts!;
  const slots: Slot[] = values.map((value, i) => ({ value, ...options.known?.get(i) }));
  const solve = (slot: Slot, from: SolvedState | undefined, last: boolean) =>
    request.alphas
      ? atAngle(section, slot.value, request, from, options, last)
      : atLift(section, slot.value, request, from, options);
  // What the last try came to; from a journal nothing stands in the solver.
  let replayed: Outcome | undefined;
  const give = (i: number, point: ViscousPoint) => {
    const slot = slots[i];
    slot.point = point;
    // The last word on a point that stays unsolved is told again, since it is told only at the end.
    if (replayed && point.status !== 'unsolved') {
      slot.state = replayed.state;
      return;
    }
    if (point.status !== 'unsolved' && section.solved) slot.state = section.state();
    options.onPoint?.(i, point, section.distributions(), slot.state);
  };
  const tried = (index: number, solveIt: () => ViscousPoint): ViscousPoint => {
    replayed = options.journal?.next();
    if (replayed) return replayed.point;
    const point = solveIt();
    options.journal?.add({ index, point, ...(isSolved(point) && section.solved ? { state: section.state() } : {}) });
    return point;
  };
  const nearest = (i: number, side?: 1 | -1) => {
    let best: Slot | undefined;
    for (const other of slots) {
      if (!other.state || (side !== undefined && Math.sign(other.value - values[i]) !== side)) continue;
      if (!best || Math.abs(other.value - values[i]) < Math.abs(best.value - values[i])) best = other;
    }
    if (!best) return undefined;
    // A second state behind the first on the same side tells where things go.
    let second: Slot | undefined;
    for (const other of slots) {
      if (!other.state || other === best) continue;
      if (Math.sign(best.value - other.value) !== Math.sign(values[i] - best.value)) continue;
      if (!second || Math.abs(other.value - best.value) < Math.abs(second.value - best.value)) second = other;
    }
    const near = best.state!;
    if (!second || Math.abs(near.alpha - second.state!.alpha) > 0.04) return near;
    return { ...near, behind: second.state! };
  };
  const [up, down] = outward(values, request.alphas ? 0.02 : 0.3);
  if (request.alphas && request.kind === 'fixed-re') {
    const { conditions } = request;
    sweepAngles([up, down], {
      alphas: values,
      known: (i) => options.known?.has(i) ?? false,
      mayBurst: conditions.reynolds < BURSTS_BELOW,
      point: (i) => slots[i].point,
      nearest,
      continued: (i, from, effort) =>
        tried(i, () => solveAngle(section, values[i], conditions, from, { ...options, effort }, false)),
      afresh: (i, effort) =>
        tried(i, () => section.at(values[i], conditions, undefined, { ...options, effort, ways: IN_SWEEP })),
      give,
      cancelled: options.cancelled,
    });
    return slots.map((slot) => slot.point!);
  }
  const deferred: number[] = [];
  for (const run of [up, down]) {
    let failures = 0;
    for (const i of run) {
      if (options.cancelled?.()) throw new Cancelled();
      if (options.known?.has(i)) continue;
      // Far behind the last solved point only a fresh start helps; those come later.
      if (failures >= 3) {
        deferred.push(i);
        continue;
      }
      const point = solve(slots[i], nearest(i), nearest(i) === undefined);
      if (point.status === 'unsolved') {
        failures++;
        deferred.push(i);
        slots[i].point = point;
      } else {
        failures = 0;
        give(i, point);
      }
    }
  }
  for (const i of deferred) {
    if (options.cancelled?.()) throw new Cancelled();
    const spent = slots[i].point?.iterations ?? 0;
    let point: ViscousPoint | undefined;
    for (const side of [1, -1] as const) {
      const from = nearest(i, side);
      if (!from || Math.abs(from.alpha - (request.alphas ? values[i] : from.alpha)) > 0.1) continue;
      const tried = solve(slots[i], from, false);
      if (tried.status === 'unsolved') continue;
      point = { ...tried, approach: 'other-side' };
      break;
    }
    point ??= solve(slots[i], undefined, true);
    point.iterations += spent;
    give(i, point);
  }
  return slots.map((slot) => slot.point!);
}

/** One angle. @param last whether every way may be tried, or only those from a neighbour. */
function atAngle(
  section: ViscousSection,
  alpha: number,
  request: PolarRequest,
  from: SolvedState | undefined,
  options: SolveOptions,
  last: boolean,
): ViscousPoint {
  if (request.kind === 'fixed-lift') return atFixedLift(section, alpha, request.conditions, from, options, last);
  return solveAngle(section, alpha, request.conditions, from, options, last);
}

function solveAngle(
  section: ViscousSection,
  alpha: number,
  conditions: ViscousConditions,
  from: SolvedState | undefined,
  options: SolveOptions,
  last: boolean,
): ViscousPoint {
  if (last) return section.at(alpha, conditions, from, options);
  const effort = section.begin(options, { alpha, reynolds: conditions.reynolds });
  if (section.proceed(from!, alpha, conditions, effort)) return section.read('continued', options);
  if (section.approach(from!, alpha, conditions, effort)) return section.read('halved', options);
  return unsolvedPoint(alpha, conditions.reynolds, section.failure(effort), effort.spent);
}

/** Reynolds number and lift together: Re = Re₁∕√cl. */
function atFixedLift(
  section: ViscousSection,
  alpha: number,
  conditions: ViscousConditions,
  from: SolvedState | undefined,
  options: SolveOptions,
  last: boolean,
): ViscousPoint {
  let reynolds = from?.reynolds ?? conditions.reynolds;
  let state = from;
  let spent = 0;
  let point: ViscousPoint = unsolvedPoint(alpha, reynolds, '', 0);
  let found = false;
  for (let k = 0; k < 12; k++) {
    point = solveAngle(section, alpha, { ...conditions, reynolds }, state, options, last || state !== from);
    spent += point.iterations;
    if (point.status === 'unsolved') break;
    if (!(point.cl > 0.01)) {
      point = unsolvedPoint(alpha, reynolds, 'No speed carries the lift: the section does not lift at this angle.', 0);
      break;
    }
    const next = Math.min(1e9, Math.max(1000, conditions.reynolds / Math.sqrt(point.cl)));
    found = Math.abs(next / reynolds - 1) < 1e-5;
    if (found) break;
    // A solution by other panels leaves no state to go on from.
    state = section.solved ? section.state() : undefined;
    reynolds = next;
  }
  if (!found && point.status !== 'unsolved')
    point = unsolvedPoint(alpha, reynolds, 'Lift and Reynolds number did not settle on each other at this angle.', 0);
  point.iterations = spent;
  return point;
}

/** The angle that gives a lift coefficient, by secants from solved angles. */
export function atLift(
  section: ViscousSection,
  cl: number,
  request: Pick<PolarRequest, 'kind' | 'conditions'>,
  from: SolvedState | undefined,
  options: SolveOptions,
): ViscousPoint {
  const { conditions } = request;
  const fixed = request.kind === 'fixed-lift';
  if (fixed && !(cl > 0.01))
    return unsolvedPoint(
      null,
      conditions.reynolds,
      'No speed carries the lift at a lift coefficient that is not positive.',
      0,
    );
  const here = fixed ? { ...conditions, reynolds: Math.min(1e9, conditions.reynolds / Math.sqrt(cl)) } : conditions;
  let alpha = from?.alpha ?? 0;
  let state = from;
  let slope = SLOPE;
  let spent = 0;
  let below: [number, number] | undefined;
  let above: [number, number] | undefined;
  let greatest = -Infinity;
  let least = Infinity;
  for (let k = 0; k < 24; k++) {
    const point = solveAngle(section, alpha, here, state, options, state === undefined);
    spent += point.iterations;
    if (point.status === 'unsolved') {
      if (!state) return { ...point, iterations: spent };
      // Too far: half way back to the last one that was solved.
      alpha = 0.5 * (alpha + state.alpha);
      if (Math.abs(alpha - state.alpha) < 1e-4) break;
      continue;
    }
    greatest = Math.max(greatest, point.cl);
    least = Math.min(least, point.cl);
    if (Math.abs(point.cl - cl) < LIFT_TOLERANCE) return { ...point, iterations: spent };
    const previous: [number, number] | undefined = point.cl < cl ? below : above;
    if (point.cl < cl) below = [alpha, point.cl];
    else above = [alpha, point.cl];
    if (section.solved) state = section.state();
    let next: number;
    if (below && above) {
      const [a, b] = [below, above];
      const t = (cl - a[1]) / (b[1] - a[1]);
      // Between the two, and never quite at an end.
      next = a[0] + Math.min(0.95, Math.max(0.05, t)) * (b[0] - a[0]);
      if (Math.abs(b[0] - a[0]) < 1e-6) {
        const jump = `The lift jumps from ${a[1].toFixed(3)} to ${b[1].toFixed(3)} there.`;
        return unsolvedPoint(null, here.reynolds, `No angle was found that gives cl = ${cl}. ${jump}`, spent);
      }
    } else {
      if (previous && Math.abs(alpha - previous[0]) > 1e-9) {
        const found = (point.cl - previous[1]) / (alpha - previous[0]);
        // The lift no longer follows the angle: its maximum is behind.
        if (found < 0.3) break;
        slope = Math.min(8, found);
      }
      const step = (cl - point.cl) / slope;
      next = alpha + Math.max(-0.07, Math.min(0.07, step));
      if (Math.abs(next) > HIGHEST) break;
    }
    alpha = next;
  }
  const reach = `Solved lift coefficients reach from ${least.toFixed(3)} to ${greatest.toFixed(3)} here.`;
  return unsolvedPoint(null, here.reynolds, `No angle was found that gives cl = ${cl}. ${reach}`, spent);
}

function overReynolds(section: ViscousSection, request: PolarRequest, options: PolarOptions): ViscousPoint[] {
  const list = request.reynolds!;
  const points: (ViscousPoint | undefined)[] = list.map(() => undefined);
  // From the highest down: thin layers are the easiest to solve.
  const order = list.map((_, i) => i).sort((a, b) => list[b] - list[a]);
  let state: SolvedState | undefined;
  for (const i of order) {
    if (options.cancelled?.()) throw new Cancelled();
    const known = options.known?.get(i);
    if (known) {
      points[i] = known.point;
      state = known.state ?? state;
      continue;
    }
    const conditions = { ...request.conditions, reynolds: list[i] };
    const point = request.alphas
      ? section.at(request.alphas[0], conditions, state, options)
      : atLift(section, request.lifts![0], { kind: 'fixed-re', conditions }, state, options);
    if (point.status !== 'unsolved' && section.solved) state = section.state();
    points[i] = point;
    options.onPoint?.(i, point, section.distributions(), section.solved ? state : undefined);
  }
  return points as ViscousPoint[];
}

/** Fall of the lift coefficient behind its maximum, and the least that is one: at low Reynolds numbers lift may fall about zero lift, which is no stall. */
const FALL = 0.02;
const LEAST_MAXIMUM = 0.3;

/** Points beyond the angle of greatest lift, or below that of least lift, are doubtful. */
export function markStall(points: ViscousPoint[]): void {
  const solved = points.filter(isSolved).sort((a, b) => a.alpha - b.alpha);
  if (solved.length < 3) return;
  // The first peak after which the lift has clearly fallen, so that a later rise of separated flow is not taken for lift regained.
  const scan = (list: SolvedPoint[], sign: 1 | -1) => {
    let peak = list[0];
    let past = false;
    let burst = false;
    for (const p of list) {
      // Behind the angle at which the nose stalls, all that follows is as doubtful.
      if (burst) doubt(p, 'nose-bubble-bursts');
      burst ||= p.doubts.includes('nose-bubble-bursts');
      if (past) {
        doubt(p, 'past-maximum-lift');
        continue;
      }
      if (sign * p.cl > sign * peak.cl) peak = p;
      else if (sign * (peak.cl - p.cl) > FALL && sign * peak.cl > LEAST_MAXIMUM) {
        past = true;
        for (const q of list)
          if (sign * q.alpha > sign * peak.alpha && sign * q.alpha <= sign * p.alpha) doubt(q, 'past-maximum-lift');
      }
    }
  };
  const middle = solved.findIndex((p) => p.alpha >= 0);
  const from = middle < 0 ? solved.length - 1 : middle;
  scan(solved.slice(from), 1);
  scan(solved.slice(0, from + 1).reverse(), -1);
}

/** Points whose values leave the line through both neighbours while those follow their own are doubtful. */
export function markJumps(points: ViscousPoint[]): void {
  const solved = points.filter(isSolved).sort((a, b) => a.alpha - b.alpha);
  for (let i = 2; i + 2 < solved.length; i++) {
    const [a, b, c, d, e] = solved.slice(i - 2, i + 3);
    if (e.alpha - a.alpha > 0.12) continue;
    const off = (get: (p: SolvedPoint) => number, p: SolvedPoint, q: SolvedPoint, r: SolvedPoint) =>
      Math.abs(get(q) - get(p) - ((q.alpha - p.alpha) / (r.alpha - p.alpha)) * (get(r) - get(p)));
    const cl = (p: SolvedPoint) => p.cl;
    const cd = (p: SolvedPoint) => Math.log(p.cd);
    const stray = (get: typeof cl, least: number) =>
      off(get, b, c, d) > Math.max(least, 4 * off(get, a, b, d), 4 * off(get, b, d, e));
    if (stray(cl, 0.05) || stray(cd, 0.2)) doubt(c, 'jump');
  }
}

/** Least jump of the lift coefficient between points of two roots, and how far apart they may lie, rad. */
const ROOT_JUMP = 0.12;
const ROOT_REACH = 0.045;

/**
 * Neighbours of different roots: between them the lift jumps while it goes on smoothly on either side. Where the flow folds both exist (a bubble that
 * closes, and one that has burst), and which of them a point has depends on the side it was reached from.
 */
export function markRoots(points: ViscousPoint[]): void {
  const solved = points.filter(isSolved).sort((a, b) => a.alpha - b.alpha);
  for (let i = 1; i + 2 < solved.length; i++) {
    const [a, b, c, d] = solved.slice(i - 1, i + 3);
    const step = c.alpha - b.alpha;
    if (step > ROOT_REACH || step < 1e-9) continue;
    const before = (b.cl - a.cl) / (b.alpha - a.alpha);
    const behind = (d.cl - c.cl) / (d.alpha - c.alpha);
    const off = Math.abs(c.cl - b.cl - 0.5 * (before + behind) * step);
    if (off < Math.max(ROOT_JUMP, 2 * Math.abs(before - behind) * step)) continue;
    doubt(b, 'two-roots');
    doubt(c, 'two-roots');
  }
}
