import { GRAVITY } from '../atmosphere';
import { longitudinalSystem, lateralSystem, type MotionCase } from '../motion';
import { fingerprint, InvalidInput } from '../numerics';
import { isLongitudinal, THRUST, type Chain, type Measured } from './chains';
import { zeros, type StateSpace } from './state-space';

/** A linear model of small motions with what loops can measure as its outputs. */
export interface FlightModel extends StateSpace {
  states: string[];
  inputs: string[];
  outputs: Measured[];
}

/**
 * The model of small motions about level flight, with height or heading as further states, and thrust (N) as a further input.
 * @param side which of the two. @param scale by derivative, such as `{ Cm_q: 0 }`: what each is multiplied with.
 * @source states as {@link longitudinalSystem} and {@link lateralSystem}; height: ḣ = V θ − w; heading: ψ̇ = r.
 */
export function flightModel(
  c: MotionCase,
  side: 'longitudinal' | 'lateral',
  scale: Readonly<Record<string, number>> = {},
): FlightModel {
  const scaled = { ...c.derivatives } as Record<string, unknown>;
  for (const [name, by] of Object.entries(scale))
    if (typeof scaled[name] === 'number') scaled[name] = (scaled[name] as number) * by;
  const of = { ...c, derivatives: scaled as MotionCase['derivatives'] };
  const { A, B, states, inputs } = side === 'longitudinal' ? longitudinalSystem(of) : lateralSystem(of);
  const V = c.speed;
  const n = 5;
  const big = zeros(n, n);
  A.forEach((row, i) => row.forEach((v, j) => (big[i][j] = v)));
  const pick = (weights: Record<number, number>) => Array.from({ length: n }, (_, j) => weights[j] ?? 0);
  if (side === 'longitudinal') big[4] = pick({ 1: -1, 3: V });
  else big[4] = pick({ 2: 1 });
  const rows: [Measured, number[]][] =
    side === 'longitudinal'
      ? [
          ['V', pick({ 0: 1 })],
          ['alpha', pick({ 1: 1 / V })],
          ['q', pick({ 2: 1 })],
          ['theta', pick({ 3: 1 })],
          ['climb', pick({ 3: 1, 1: -1 / V })],
          ['height', pick({ 4: 1 })],
        ]
      : [
          ['beta', pick({ 0: 1 / V })],
          ['p', pick({ 1: 1 })],
          ['r', pick({ 2: 1 })],
          ['rTurn', pick({ 2: 1, 3: -GRAVITY / V })],
          ['phi', pick({ 3: 1 })],
          ['psi', pick({ 4: 1 })],
          ['course', pick({ 4: 1, 0: 1 / V })],
        ];
  // Thrust acts along the path at the centre of gravity: its moment is not known here, since where it acts belongs to what drives.
  const pushed = side === 'longitudinal';
  const all = pushed ? [...inputs, THRUST] : inputs;
  const moves = [...B, new Array<number>(inputs.length).fill(0)];
  return {
    A: big,
    B: pushed ? moves.map((row, i) => [...row, i === 0 ? 1 / c.mass : 0]) : moves,
    C: rows.map(([, row]) => row),
    D: zeros(rows.length, all.length),
    states: [...states, side === 'longitudinal' ? 'height' : 'psi'],
    inputs: all,
    outputs: rows.map(([name]) => name),
  };
}

/** The model as gains of a chain were found for it: a few figures of each derivative, so that the last digits do not make it another. */
export function modelPrint(of: MotionCase, chain: Pick<Chain, 'laws'>): string {
  const side = isLongitudinal(chain.laws[0].from);
  const names = Object.entries(of.derivatives).filter(
    (entry): entry is [string, number] => typeof entry[1] === 'number' && /^C[LDm]_/.test(entry[0]) === side,
  );
  return fingerprint(
    JSON.stringify([
      names.map(([k, v]) => [k, Number(v.toPrecision(2))]),
      Number(of.speed.toPrecision(3)),
      Number(of.mass.toPrecision(3)),
    ]),
  );
}

/**
 * A system with its first outputs once more at its end, each behind a lag of the first order: what sensors tell of them.
 * @param outputs how many. @param lag s; 0: the same values.
 */
export function withSensors(s: StateSpace, outputs: number, lag: number): StateSpace {
  const told = s.C.slice(0, outputs);
  const through = s.D.slice(0, outputs);
  if (lag === 0) return { ...s, C: [...s.C, ...told], D: [...s.D, ...through] };
  const n = s.A.length;
  const wide = (row: readonly number[]) => [...row, ...new Array<number>(outputs).fill(0)];
  return {
    A: [
      ...s.A.map(wide),
      ...told.map((row, o) => [...row.map((v) => v / lag), ...told.map((_, i) => (i === o ? -1 / lag : 0))]),
    ],
    B: [...s.B, ...through.map((row) => row.map((v) => v / lag))],
    C: [...s.C.map(wide), ...told.map((_, o) => Array.from({ length: n + outputs }, (__, j) => (j === n + o ? 1 : 0)))],
    D: [...s.D, ...through.map((row) => row.map(() => 0))],
  };
}

/**
 * The same model with its states along the body's axes instead of those of the stream: u and w, p and r turned by the trimmed angle.
 * @param alpha rad.
 */
export function inBodyAxes(m: FlightModel, alpha: number): FlightModel {
  const [a, b] = m.states.includes('w') ? ['u', 'w'] : ['p', 'r'];
  const [i, j] = [m.states.indexOf(a), m.states.indexOf(b)];
  if (i < 0 || j < 0) return m;
  const [c, s] = [Math.cos(alpha), Math.sin(alpha)];
  // u_b = u cos α − w sin α, w_b = w cos α + u sin α; p and r the same way.
  const rows = (matrix: number[][]) =>
    matrix.map((row, k) =>
      row.map((v, n) => (k === i ? c * v - s * matrix[j][n] : k === j ? s * matrix[i][n] + c * v : v)),
    );
  const columns = (matrix: number[][]) =>
    matrix.map((row) => row.map((v, n) => (n === i ? c * v - s * row[j] : n === j ? s * row[i] + c * v : v)));
  return { ...m, A: columns(rows(m.A)), B: rows(m.B), C: columns(m.C) };
}

/** The same model with some of its outputs, in the order that they are named. @throws InvalidInput `outputs` for one that is not there. */
export function withOutputs(m: FlightModel, names: readonly string[]): FlightModel {
  const at = names.map((name) => {
    const k = m.outputs.indexOf(name as Measured);
    if (k < 0)
      throw new InvalidInput(
        'outputs',
        `There is no output "${name}".`,
        `There are ${m.outputs.join(', ')}.`,
        'outputs',
      );
    return k;
  });
  return { ...m, C: at.map((k) => m.C[k]), D: at.map((k) => m.D[k]), outputs: at.map((k) => m.outputs[k]) };
}
