import { isLongitudinal, scheduled, THRUST, type Chain } from './chains';
import { filtersOf, hasGain, type LawTerms } from './law';
import { closeLoop, moverOf } from './loops';
import { marginsOf, type Margins } from './margins';
import { flightModel, withSensors } from './model';
import { sampled } from './sampled';
import { frequencyResponse, polesOf, series, zeros, type StateSpace } from './state-space';
import type { StudyInput } from './study';

/** A loop as it is computed: in steps, with values that are held. */
export interface SampledLoop extends Margins {
  /** Stable, or growing so slowly that what is outside holds it. */ holds: boolean;
  /** A step of the reference by 1, at the instants of computing. */ step: { t: number[]; y: number[] };
}

/** A law as it is computed in steps: the sum by rectangles, the derivative and the filters exact for values that are held. */
export function sampledLaw(law: LawTerms, step: number): StateSpace {
  const { kp, ki, kd, filter = 1, sign, forward } = law;
  const fades = Math.exp(-filter * step);
  let made: StateSpace = {
    A: [
      [1, 0],
      [0, fades],
    ],
    B: [[step], [1 - fades]],
    C: [[ki, -kd * filter]],
    D: [[kp + kd * filter]],
  };
  // What is not used would only stay behind as poles of its own.
  const keep = [ki !== 0, kd !== 0];
  const some = <T>(list: T[]) => list.filter((_, i) => keep[i]);
  made = { A: some(made.A).map(some), B: some(made.B), C: made.C.map(some), D: made.D };
  for (const f of filtersOf(law)) made = series(made, sampled(f, step));
  if (forward) made = { ...made, B: made.B.map(([b]) => [b, 0]), D: [[made.D[0][0], forward]] };
  return series(made, { A: [], B: [], C: [[]], D: [[sign]] });
}

/** A system from instant to instant, one of its inputs coming late. @param delay s, of every input. */
export function sampledLate(s: StateSpace, step: number, delay: number): StateSpace {
  const whole = Math.floor(delay / step + 1e-9);
  const rest = Math.max(0, delay - whole * step);
  const late = rest > 1e-9 * step;
  const n = s.A.length;
  const inputs = s.D[0].length;
  const all = sampled(s, step);
  if (whole === 0 && !late) return all;
  // Held values reach the system `rest` after an instant: until then the one before acts.
  const soon = sampled(s, step - rest);
  const first = late ? sampled(s, rest) : null;
  const kept = whole + (late ? 1 : 0);
  const size = n + kept * inputs;
  const A = zeros(size, size);
  const B = zeros(size, inputs);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) A[i][j] = all.A[i][j];
  const put = (age: number, columns: number[][]) => {
    for (let i = 0; i < n; i++)
      for (let k = 0; k < inputs; k++)
        if (age === 0) B[i][k] += columns[i][k];
        else A[i][n + (age - 1) * inputs + k] += columns[i][k];
  };
  put(whole, soon.B);
  if (first)
    put(
      whole + 1,
      soon.A.map((row) => first.B[0].map((_, k) => row.reduce((v, a, j) => v + a * first.B[j][k], 0))),
    );
  for (let k = 0; k < inputs; k++) {
    B[n + k][k] = 1;
    for (let age = 1; age < kept; age++) A[n + age * inputs + k][n + (age - 1) * inputs + k] = 1;
  }
  return { A, B, C: s.C.map((row) => [...row, ...new Array<number>(kept * inputs).fill(0)]), D: s.D };
}

/** The model with the movers of all chains at its inputs. */
function moved(model: StateSpace, movers: readonly (StateSpace | null)[]): StateSpace {
  let s = model;
  movers.forEach((mover, input) => {
    if (!mover) return;
    const [n, m] = [s.A.length, mover.A.length];
    const A = zeros(n + m, n + m);
    const B = zeros(n + m, s.D[0].length);
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) A[i][j] = s.A[i][j];
      for (let j = 0; j < m; j++) A[i][n + j] = s.B[i][input] * mover.C[0][j];
      for (let k = 0; k < s.D[0].length; k++) B[i][k] = k === input ? s.B[i][k] * mover.D[0][0] : s.B[i][k];
    }
    for (let i = 0; i < m; i++) {
      for (let j = 0; j < m; j++) A[n + i][n + j] = mover.A[i][j];
      B[n + i][input] = mover.B[i][0];
    }
    s = {
      A,
      B,
      C: s.C.map((row, o) => [...row, ...mover.C[0].map((c) => s.D[o][input] * c)]),
      D: s.D.map((row) => row.map((d, k) => (k === input ? d * mover.D[0][0] : d))),
    };
  });
  return s;
}

const POINTS = 260;
const LONGEST = 1500;

/**
 * What a loop keeps when it is computed in steps, exactly: the aircraft with its movers from instant to instant, values that are held and come late, and the
 * laws as {@link sampledLaw} has them. Chains of the other side are left out.
 * @param end of the step response, s. @param slowRoots how many roots on the right are left to what is outside of the loop. @returns null where the loop's control or measure is not there.
 */
export function sampledLoop(input: StudyInput, end: number, slowRoots = 0): SampledLoop | null {
  const { settings, of, scale, controls } = input;
  const chain = settings.chains.find((c) => c.id === input.chain)!;
  const law = chain.laws[input.loop];
  const side = isLongitudinal(chain.laws[0].from);
  const model = flightModel(of, side ? 'longitudinal' : 'lateral', scale);
  const chains = settings.chains.filter(
    (c) => c.id === chain.id || (isLongitudinal(c.laws[0].from) === side && c.laws.every(hasGain)),
  );
  const inputOf = (c: Chain) => model.inputs.indexOf(c.to === THRUST ? THRUST : controls[c.to]);
  const movers = model.inputs.map((_, i) => {
    const c = chains.find((k) => inputOf(k) === i);
    return c ? moverOf(c.mover) : null;
  });
  const p = model.outputs.length;
  let plant = sampledLate(withSensors(moved(model, movers), p, settings.sensorLag), settings.step, settings.delay);
  const lawOf = (c: Chain, i: number) => {
    const l = c.laws[i];
    const f = scheduled(l, of.speed);
    return sampledLaw(
      { ...l, kp: f * l.kp, ki: f * l.ki, kd: f * l.kd, ...(l.forward && { forward: f * l.forward }) },
      settings.step,
    );
  };
  const close = (c: Chain, upTo: number): number => {
    let to = inputOf(c);
    for (let i = 0; i < upTo && to >= 0; i++) {
      const from = model.outputs.indexOf(c.laws[i].from);
      if (from < 0) return -1;
      plant = closeLoop(plant, p + from, to, lawOf(c, i));
      to = plant.D[0].length - 1;
    }
    return to;
  };
  for (const c of chains) if (c.id !== chain.id) close(c, c.laws.length);
  const to = close(chain, input.loop);
  const from = model.outputs.indexOf(law.from);
  if (to < 0 || from < 0) return null;
  const own = lawOf(chain, input.loop);
  const [a, b] = [frequencyResponse(own, 0, 0), frequencyResponse(plant, p + from, to)];
  const T = settings.step;
  const at = (w: number): [number, number] => {
    const [c, s] = [Math.cos(w * T), Math.sin(w * T)];
    const [p, q] = a(s, c);
    const [u, v] = b(s, c);
    return [p * u - q * v, p * v + q * u];
  };
  const highest = (Math.PI / T) * (1 - 1e-9);
  const corners = continuous(polesOf(plant.A), T).map(([re, im]) => Math.hypot(re, im));
  const closed = closeLoop(plant, p + from, to, own);
  const poles = continuous(polesOf(closed.A), T).filter((p) => Math.hypot(...p) > 1e-6);
  const lost = Math.max(0, poles.filter(([re]) => re > -1e-9).length - slowRoots);
  const margins = marginsOf(
    at,
    corners.filter((c) => c > 1e-6),
    lost,
    POINTS,
    highest,
  );
  return { ...margins, holds: lost === 0, step: heldStep(closed, from, T, end) };
}

/** Poles from instant to instant as those of continuous time. */
const continuous = (poles: [number, number][], step: number): [number, number][] =>
  poles
    .filter(([re, im]) => Math.hypot(re, im) > 1e-12)
    .map(([re, im]) => [Math.log(Math.hypot(re, im)) / step, Math.atan2(im, re) / step]);

function heldStep(s: StateSpace, output: number, step: number, end: number): { t: number[]; y: number[] } {
  const input = s.D[0].length - 1;
  const count = Math.min(LONGEST, Math.floor(end / step) + 1);
  const n = s.A.length;
  let x = new Float64Array(n);
  let next = new Float64Array(n);
  const flat = Float64Array.from(s.A.flat());
  const [t, y]: [number[], number[]] = [[], []];
  for (let k = 0; k < count; k++) {
    let value = s.D[output][input];
    for (let j = 0; j < n; j++) value += s.C[output][j] * x[j];
    t.push(k * step);
    y.push(Number.isFinite(value) ? value : 0);
    for (let i = 0; i < n; i++) {
      let sum = s.B[i][input];
      for (let j = 0; j < n; j++) sum += flat[i * n + j] * x[j];
      next[i] = sum;
    }
    [x, next] = [next, x];
  }
  return { t, y };
}
