import { FailedComputation, InvalidInput } from '../numerics';
import { marginsOf, type Margins } from './margins';
import type { ControlModel, Loop } from './schema';
import { lawSystem } from './law';
import { delayed, fromTransfer, frequencyResponse, polesOf, series, zeros, type StateSpace } from './state-space';
import { stepMeasures, stepReason, type StepMeasures } from './step';

/** A loop when it and those inside it are closed. */
export interface ClosedLoop extends Margins, StepMeasures {
  name: string;
  from: string;
  to: string;
  closedPoles: [number, number][];
  stable: boolean;
  /** Why a figure is null. */ reasons: Margins['reasons'] & { step?: string };
}

/** A model with the loops closed about it. */
export interface ControlResult {
  /** Of the model alone. */ openPoles: [number, number][];
  loops: ClosedLoop[];
}

/** What moves a control, as a system; null where it follows at once. */
export function moverOf(of: { timeConstant: number } | { naturalFrequency: number; dampingRatio: number } | undefined) {
  if (!of) return null;
  if ('timeConstant' in of) return fromTransfer([1], [of.timeConstant, 1]);
  const { naturalFrequency: w, dampingRatio } = of;
  return fromTransfer([w * w], [1, 2 * dampingRatio * w, w * w]);
}

/** The law of a loop, its actuator and its delay, from the error (and the reference) to what it moves; the delay as an approximant, or left out. */
export function chainOf(loop: Loop, withDelay: boolean): StateSpace {
  const { actuator, delay } = loop;
  let chain = lawSystem(loop);
  const mover = moverOf(actuator);
  if (mover) chain = series(chain, mover);
  return withDelay && delay > 0 ? series(chain, delayed(delay)) : chain;
}

/**
 * Closes a loop about a plant: its input `to` is moved by the chain from the error of `from` against a new reference, which is the last input of what comes
 * out. The chain has one input, the error, or a second one, the reference.
 * @throws FailedComputation `algebraic-loop` where the output answers its own input at once and undoes it.
 */
export function closeLoop(plant: StateSpace, from: number, to: number, chain: StateSpace): StateSpace {
  const [n, h] = [plant.A.length, chain.A.length];
  const inputs = plant.D[0].length;
  const through = plant.D[from][to];
  const [ch, dh] = [chain.C[0], chain.D[0][0]];
  // What the chain takes of the reference itself, beside the error.
  const [forward, ahead] = [chain.D[0][1] ?? 0, chain.B.map((row) => row[1] ?? 0)];
  const feedback = 1 + through * dh;
  if (Math.abs(feedback) < 1e-9)
    throw new FailedComputation(
      'algebraic-loop',
      'The loop feeds itself at once: output and input would have to be known before each other.',
      'Give it an actuator, or a filter.',
    );
  // y = (C x + D u + through (ch z + (dh + forward) r)) / feedback; v = ch z + dh (r − y) + forward r is what the chain moves.
  const y = {
    x: plant.C[from].map((v) => v / feedback),
    z: ch.map((v) => (through * v) / feedback),
    u: plant.D[from].map((v) => v / feedback),
    r: (through * (dh + forward)) / feedback,
  };
  const v = {
    x: y.x.map((k) => -dh * k),
    z: ch.map((k, j) => k - dh * y.z[j]),
    u: y.u.map((k) => -dh * k),
    r: dh * (1 - y.r) + forward,
  };
  const A = zeros(n + h, n + h);
  const B = zeros(n + h, inputs + 1);
  for (let i = 0; i < n; i++) {
    const b = plant.B[i][to];
    for (let j = 0; j < n; j++) A[i][j] = plant.A[i][j] + b * v.x[j];
    for (let j = 0; j < h; j++) A[i][n + j] = b * v.z[j];
    for (let j = 0; j < inputs; j++) B[i][j] = plant.B[i][j] + b * v.u[j];
    B[i][inputs] = b * v.r;
  }
  for (let i = 0; i < h; i++) {
    const b = chain.B[i][0];
    for (let j = 0; j < n; j++) A[n + i][j] = -b * y.x[j];
    for (let j = 0; j < h; j++) A[n + i][n + j] = chain.A[i][j] - b * y.z[j];
    for (let j = 0; j < inputs; j++) B[n + i][j] = -b * y.u[j];
    B[n + i][inputs] = b * (1 - y.r) + ahead[i];
  }
  const C = plant.C.map((row, o) => {
    const d = plant.D[o][to];
    return [...row.map((k, j) => k + d * v.x[j]), ...v.z.map((k) => d * k)];
  });
  const D = plant.D.map((row) => {
    const d = row[to];
    return [...row.map((k, j) => k + d * v.u[j]), d * v.r];
  });
  return { A, B, C, D };
}

/**
 * Closes the loops of a model from the first to the last, each within the next, and measures each: margins of the open loop (a delay counted exactly), the
 * step of its reference and the poles (a delay as an all-pass of order 4).
 * @throws InvalidInput `loops` for two loops of one name; FailedComputation `algebraic-loop`, `poles`.
 */
export function closeLoops(model: ControlModel): ControlResult {
  const outputs = model.outputs ?? model.states;
  const p = outputs.length;
  let plant: StateSpace = {
    A: model.A,
    B: model.B,
    C: model.C ?? model.states.map((_, i) => model.states.map((__, j) => (i === j ? 1 : 0))),
    D: model.D ?? zeros(p, model.inputs.length),
  };
  const openPoles = polesOf(plant.A);
  const seen = new Set<string>();
  // The plant with the delays of inner loops left to their approximants: they are inside it.
  let to = -1;
  const loops = model.loops.map((loop, k): ClosedLoop => {
    const name = loop.name ?? loop.from;
    if (seen.has(name))
      throw new InvalidInput(
        'loops',
        `Two loops are called ${name}.`,
        'Give each a name of its own.',
        `loops.${k}.name`,
      );
    seen.add(name);
    const from = outputs.indexOf(loop.from);
    to = k === 0 ? model.inputs.indexOf(loop.to!) : plant.D[0].length - 1;
    const still = chainOf(loop, false);
    const open = plant;
    const input = to;
    const [law, behind] = [frequencyResponse(still, 0, 0), frequencyResponse(open, from, input)];
    const at = (w: number): [number, number] => {
      const [a, b] = law(w);
      const [c, d] = behind(w);
      const [re, im] = [a * c - b * d, a * d + b * c];
      const [cos, sin] = [Math.cos(w * loop.delay), -Math.sin(w * loop.delay)];
      return [re * cos - im * sin, re * sin + im * cos];
    };
    const corners = [...polesOf(open.A), ...polesOf(still.A)].map(([re, im]) => Math.hypot(re, im));
    plant = closeLoop(plant, from, to, chainOf(loop, true));
    const closedPoles = polesOf(plant.A);
    const margins = marginsOf(at, corners, closedPoles.filter(([re]) => re > 1e-9).length);
    const measures = stepMeasures(plant, from, plant.D[0].length - 1, closedPoles);
    return {
      name,
      from: loop.from,
      to: k === 0 ? loop.to! : `reference of ${model.loops[k - 1].name ?? model.loops[k - 1].from}`,
      ...margins,
      reasons: { ...margins.reasons, ...stepReason(closedPoles, measures) },
      ...measures,
      closedPoles,
      stable: closedPoles.every(([re]) => re < 1e-9),
    };
  });
  return { openPoles, loops };
}
