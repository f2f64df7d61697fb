import { FailedComputation, InvalidInput } from '../numerics';
import type { MotionCase } from '../motion';
import { isLongitudinal, scheduled, THRUST, type AutopilotSettings, type Chain } from './chains';
import { hasGain } from './law';
import { sampledLoop, type SampledLoop } from './discrete';
import { chainOf, closeLoop } from './loops';
import { marginsOf, type Margins } from './margins';
import { rightPoles } from './slow-roots';
import { flightModel, withSensors } from './model';
import { delayed, frequencyResponse, polesOf, series, type StateSpace } from './state-space';
import { stepMeasures, stepReason, stepResponse, stepResponses, type StepMeasures } from './step';

/** What a loop's study depends on. */
export interface StudyInput {
  /** Trimmed flight with its derivatives; controls by name. */ of: MotionCase;
  /** What derivatives are multiplied with. */ scale: Record<string, number>;
  settings: AutopilotSettings;
  /** Names of the controls, by id, as the case has them. */ controls: Record<string, string>;
  /** The chain and the loop within it that is looked at, from 0 at the inner one. */ chain: string;
  loop: number;
}

/** What a closed loop does, in figures and in curves. */
export interface LoopStudy extends Margins, StepMeasures {
  /** Why a figure is null. */ reasons: Margins['reasons'] & { step?: string };
  stable: boolean;
  /** Stable, but for slow roots that were there before it and that it cannot move: see {@link slowRoots}. */
  holds: boolean;
  /** Slow roots on the right that are left to the loops outside it, or to a pilot. */ slowRoots: [number, number][];
  /** Of the aircraft alone, its height or heading left out where the loop does not measure it. */
  openPoles: [number, number][];
  closedPoles: [number, number][];
  /** Open loop over frequency, rad/s, delay and step of computing counted exactly. */
  frequency: { w: number[]; re: number[]; im: number[] };
  /** Greatest of |1/(1+L)| and of |L/(1+L)|, and where. */ sensitivityPeak: number;
  complementaryPeak: number;
  /** Where the closed loop falls to −3 dB, rad/s; null where it does not. */ bandwidth: number | null;
  /** A step of the reference by 1: what is measured, the deflection, and what a step of the deflection from outside does. */
  step: { t: number[]; y: number[]; effort: number[]; disturbance: number[] };
  /** Greatest deflection per unit of the step. */ greatestEffort: number;
  /** The same loop computed in steps, exactly. */ sampled: SampledLoop | null;
  /** Poles while the gains of this loop go from nothing to many times what they are. */
  path: { k: number; poles: [number, number][] }[];
}

const CURVE = 300;
const GRID = 480;
const STEPS = 400;

interface Opened {
  plant: StateSpace;
  /** The output that is measured, and what the sensor tells of it. */ from: number;
  told: number;
  to: number;
  chain: StateSpace;
  /** The same without its delay, which is counted exactly. */ still: StateSpace;
  delay: number;
  /** Output that is the control's deflection. */ effort: number;
  /** Input that disturbs it. */ disturbance: number;
}

/** Delay of a chain: measuring to moving, and half a step by which a value that is held comes late. */
const delayOf = (s: AutopilotSettings) => s.delay + 0.5 * s.step;

/** The law as a system, with the gains of its schedule; the mover belongs to the innermost. @param factor what its gains are multiplied with. */
function lawChain(
  chain: Chain,
  index: number,
  { settings, of }: Pick<StudyInput, 'settings' | 'of'>,
  { factor = 1, late = true } = {},
): StateSpace {
  const { kp, ki, kd, forward, ...rest } = chain.laws[index];
  const times = factor * scheduled(rest, of.speed);
  const made = chainOf(
    {
      ...rest,
      kp: times * kp,
      ki: times * ki,
      kd: times * kd,
      ...(forward && { forward: times * forward }),
      actuator: index === 0 ? chain.mover : undefined,
      delay: 0,
    },
    false,
  );
  const delay = index === 0 ? delayOf(settings) : 0;
  return late && delay > 0 ? series(made, delayed(delay)) : made;
}

/** The plant with everything closed but the loop that is looked at and those outside it. */
export function openedAt(input: StudyInput, times = 1): Opened {
  const { settings, of, scale, controls } = input;
  const chain = settings.chains.find((c) => c.id === input.chain);
  if (!chain) throw new InvalidInput('chain', `There is no chain "${input.chain}".`);
  const law = chain.laws[input.loop];
  if (!law) throw new InvalidInput('loop', `The chain ${chain.name} has no loop ${input.loop + 1}.`);
  const side = isLongitudinal(chain.laws[0].from) ? 'longitudinal' : 'lateral';
  const model = flightModel(of, side, scale);
  const inputOf = (c: Chain) => model.inputs.indexOf(c.to === THRUST ? THRUST : controls[c.to]);
  // Deflections are put out as well: what a loop asks of its control.
  const p = model.outputs.length;
  let plant: StateSpace = withSensors(
    {
      A: model.A,
      B: model.B,
      C: [...model.C, ...model.inputs.map(() => new Array<number>(model.A.length).fill(0))],
      D: [...model.D, ...model.inputs.map((_, i) => model.inputs.map((__, j) => (i === j ? 1 : 0)))],
    },
    p,
    settings.sensorLag,
  );
  const told = (output: number) => p + model.inputs.length + output;
  const close = (c: Chain, upTo: number) => {
    const control = inputOf(c);
    if (control < 0)
      throw new InvalidInput(
        'control-missing',
        `The chain ${c.name} moves a control that is not there.`,
        model.inputs.length ? `There are ${model.inputs.join(', ')}.` : 'Give the surfaces controls in Airframe.',
        'to',
      );
    let to = control;
    for (let i = 0; i < upTo; i++) {
      const from = model.outputs.indexOf(c.laws[i].from);
      if (from < 0)
        throw new InvalidInput(
          'loop',
          `The chain ${c.name} mixes ${c.laws[0].from} with ${c.laws[i].from}: one is longitudinal, the other lateral.`,
          'Measure quantities of one kind in one chain.',
          `laws.${i}.from`,
        );
      if (!hasGain(c.laws[i]))
        throw new FailedComputation(
          'no-gain',
          `Loop ${i + 1} of ${c.name} has no gain: nothing is closed.`,
          'Give it a gain, or remove it.',
        );
      plant = closeLoop(plant, told(from), to, lawChain(c, i, input));
      to = plant.D[0].length - 1;
    }
    return to;
  };
  // The other chains of this side are closed first.
  for (const c of settings.chains)
    if (c.id !== chain.id && isLongitudinal(c.laws[0].from) === (side === 'longitudinal') && c.laws.every(hasGain))
      close(c, c.laws.length);
  const to = close(chain, input.loop);
  const from = model.outputs.indexOf(law.from);
  if (from < 0) close(chain, input.loop + 1);
  return {
    plant,
    from,
    told: told(from),
    to,
    chain: lawChain(chain, input.loop, input, { factor: times }),
    still: lawChain(chain, input.loop, input, { factor: times, late: false }),
    delay: input.loop === 0 ? delayOf(settings) : 0,
    effort: p + inputOf(chain),
    disturbance: inputOf(chain),
  };
}

/** Open loop of an opened plant at a frequency. */
export function loopResponse(o: Opened): (w: number) => [number, number] {
  const [law, behind] = [frequencyResponse(o.still, 0, 0), frequencyResponse(o.plant, o.told, o.to)];
  return (w) => {
    const [a, b] = law(w);
    const [c, d] = behind(w);
    const [re, im] = [a * c - b * d, a * d + b * c];
    const [cos, sin] = [Math.cos(w * o.delay), -Math.sin(w * o.delay)];
    return [re * cos - im * sin, re * sin + im * cos];
  };
}

/** Closed poles of an opened loop on the right, those that it is to blame for apart from those that it cannot move. */
export const rightPolesOf = (
  input: StudyInput,
  o: Opened,
  closed: readonly [number, number][],
  open: readonly [number, number][],
) =>
  rightPoles(
    closed,
    open,
    () => {
      const chain = input.settings.chains.find((c) => c.id === input.chain)!;
      return moving(polesOf(closeLoop(o.plant, o.told, o.to, lawChain(chain, input.loop, input, { factor: 10 })).A));
    },
    () => wholeChain(input),
  );

/** Poles with the loops outside of one closed as well; null where there are none, or one of them has no gain yet. */
function wholeChain(input: StudyInput): [number, number][] | null {
  const chain = input.settings.chains.find((c) => c.id === input.chain)!;
  const last = chain.laws.length - 1;
  if (input.loop === last || !chain.laws.slice(input.loop + 1).every(hasGain)) return null;
  const o = openedAt({ ...input, loop: last });
  return moving(polesOf(closeLoop(o.plant, o.told, o.to, o.chain).A));
}

/** Poles at the origin that a state brings which is only integrated from the others and fed back nowhere. */
export const moving = (poles: [number, number][]) => poles.filter(([re, im]) => Math.hypot(re, im) > 1e-7);

/**
 * Studies one loop of a candidate's chains, with all others of its side closed.
 * @throws InvalidInput for chains and controls that are not there; FailedComputation `no-gain`, `algebraic-loop`, `poles`.
 */
export function studyLoop(input: StudyInput): LoopStudy {
  const chain = input.settings.chains.find((c) => c.id === input.chain);
  if (chain?.laws[input.loop] && !hasGain(chain.laws[input.loop]))
    throw new FailedComputation(
      'no-gain',
      `Loop ${input.loop + 1} of ${chain.name} has no gain: nothing is closed.`,
      'Give it a gain.',
    );
  const o = openedAt(input);
  const at = loopResponse(o);
  const openPoles = moving(polesOf(o.plant.A));
  const corners = [...openPoles, ...polesOf(o.still.A)].map(([re, im]) => Math.hypot(re, im)).filter((c) => c > 1e-6);
  const closed = closeLoop(o.plant, o.told, o.to, o.chain);
  const all = polesOf(closed.A);
  // Height and heading that no loop holds drift: they are no part of this loop.
  const closedPoles = moving(all);
  const reference = closed.D[0].length - 1;
  const stable = closedPoles.every(([re]) => re < -1e-9);
  const rest = rightPolesOf(input, o, closedPoles, openPoles);
  const holds = rest.unstable === 0;
  const margins = marginsOf(at, corners, rest.unstable, GRID);
  const reduced = stable ? withoutIdle(closed) : closed;
  const measures = stepMeasures(reduced, o.from, reference, stable ? polesOf(reduced.A) : all, 4000);
  const crossings = [margins.gainCrossover, margins.phaseCrossover].filter((c) => c !== null);
  // About where it crosses, and down to its slowest corner; what movers and delays do far above is no matter.
  const [low, high] = [
    Math.max(1e-3, 0.2 * Math.min(5, ...corners, ...crossings)),
    8 * Math.max(3, ...(crossings.length > 0 ? crossings : corners.filter((c) => c < 100))),
  ];
  const w = Array.from({ length: CURVE }, (_, i) => low * (high / low) ** (i / (CURVE - 1)));
  const response = w.map(at);
  let [sensitivityPeak, complementaryPeak] = [0, 0];
  let bandwidth: number | null = null;
  response.forEach(([re, im], i) => {
    const apart = Math.hypot(1 + re, im);
    sensitivityPeak = Math.max(sensitivityPeak, 1 / apart);
    const t = Math.hypot(re, im) / apart;
    complementaryPeak = Math.max(complementaryPeak, t);
    if (bandwidth === null && i > 0 && t < Math.SQRT1_2) {
      const [a, b] = response[i - 1];
      if (Math.hypot(a, b) / Math.hypot(1 + a, b) >= Math.SQRT1_2) bandwidth = w[i];
    }
  });
  const settle = measures.settlingTime;
  // What is slow and left to the loops outside does not set the time that is looked at.
  const quick = closedPoles.filter((p) => Math.hypot(...p) > 0.1);
  const slowest = Math.min(...quick.map(([re]) => Math.max(0.05, Math.abs(re))), 1);
  const fastest = Math.max(...closedPoles.map(([re, im]) => Math.min(100, Math.hypot(re, im))), 1e-3);
  // A loop that leaves a slow drift to others is looked at over its own swings: three turns at its crossing.
  const own = margins.gainCrossover === null ? 6 / slowest : 20 / margins.gainCrossover;
  const end = settle && settle > 0 ? 1.6 * settle : Math.min(60, holds ? own : 20 / fastest);
  const t = Array.from({ length: STEPS }, (_, i) => (end * i) / (STEPS - 1));
  const finite = (list: Float64Array) => Array.from(list, (v) => (Number.isFinite(v) ? v : 0));
  const [y, effort] = stepResponses(closed, [o.from, o.effort], reference, end, STEPS).map(finite);
  const disturbance = finite(stepResponse(closed, o.from, o.disturbance, end, STEPS));
  const path = PATH.map((k) => ({
    k,
    poles: moving(polesOf(closeLoop(o.plant, o.told, o.to, lawChain(chain!, input.loop, input, { factor: k })).A)),
  }));
  return {
    ...margins,
    reasons: { ...margins.reasons, ...stepReason(stable ? polesOf(reduced.A) : closedPoles, measures) },
    ...measures,
    stable,
    holds,
    slowRoots: rest.left,
    openPoles,
    closedPoles,
    frequency: { w, re: response.map((v) => v[0]), im: response.map((v) => v[1]) },
    sensitivityPeak,
    complementaryPeak,
    bandwidth,
    step: { t, y, effort, disturbance },
    sampled: sampledLoop(input, end, rest.left.length),
    greatestEffort: Math.max(...effort.map(Math.abs)),
    path,
  };
}

/** Gains of a root path, over what they are. */
const PATH = Array.from({ length: 61 }, (_, i) => (i === 0 ? 1e-6 : 10 ** (-2 + (3.2 * (i - 1)) / 59)));

/** A system without the states that nothing else depends on and that lie at the origin: a height that is not held, a heading. */
function withoutIdle(s: StateSpace): StateSpace {
  const idle = s.A.findIndex(
    (_, j) => s.A.every((row) => row[j] === 0) && s.C.filter((row) => row[j] !== 0).length > 0,
  );
  if (idle < 0) return s;
  const keep = (_: unknown, i: number) => i !== idle;
  return {
    A: s.A.filter(keep).map((r) => r.filter(keep)),
    B: s.B.filter(keep),
    C: s.C.map((r) => r.filter(keep)),
    D: s.D,
  };
}
