import { matrixExponential } from '../motion';
import { responseAt, type StateSpace } from './state-space';

/** What a step of the reference comes to; null where it does not come to rest. */
export interface StepMeasures {
  /** From a tenth to nine tenths of the final value, s. */ riseTime: number | null;
  /** Beyond the final value, as a share of it. */ overshoot: number | null;
  /** Until it stays within 2 % of the final value, s. */ settlingTime: number | null;
  finalValue: number | null;
}

/** Why the figures of a step are null; nothing where they are not. @param poles of the closed loop. */
export function stepReason(poles: readonly [number, number][], measures: StepMeasures): { step?: string } {
  if (measures.riseTime !== null) return {};
  if (measures.finalValue === 0) return { step: 'The step comes to rest at zero: the loop holds nothing in the end.' };
  const worst = poles.reduce<[number, number] | null>((w, p) => (w === null || p[0] > w[0] ? p : w), null);
  if (!worst || worst[0] < -1e-9) return {};
  const [re, im] = worst;
  const place = `${re.toPrecision(3)}${Math.abs(im) > 1e-9 ? ` ± ${Math.abs(im).toPrecision(3)}j` : ''}`;
  return {
    step:
      Math.abs(re) <= 1e-9
        ? 'A step does not come to rest: the closed loop has a pole on the imaginary axis.'
        : `A step does not come to rest: the closed loop has a pole at ${place} 1/s.`,
  };
}

const NONE: StepMeasures = { riseTime: null, overshoot: null, settlingTime: null, finalValue: null };
const BAND = 0.02;
const STEPS = 24_000;
/** Instants that are answered from one state. */
const BLOCK = 50;

/** A step response at even times. @returns one value a time, from 0 on. */
export const stepResponse = (s: StateSpace, output: number, input: number, end: number, count: number): Float64Array =>
  stepResponses(s, [output], input, end, count)[0];

/** Responses of several outputs to one step. */
export function stepResponses(
  s: StateSpace,
  outputs: readonly number[],
  input: number,
  end: number,
  count: number,
): Float64Array[] {
  const n = s.A.length;
  const out = outputs.map(() => new Float64Array(count));
  if (n === 0) return out.map((o, i) => o.fill(s.D[outputs[i]][input]));
  // The step is a state of its own that stays at 1.
  const big = [...s.A.map((row, i) => [...row, s.B[i][input]]), new Array<number>(n + 1).fill(0)];
  const size = n + 1;
  const over = matrixExponential(big, end / (count - 1));
  // Rows c, c M, c M², … answer a whole block of instants from one state: n products an instant instead of n².
  const rows = outputs.map((output) => {
    const list = new Float64Array(BLOCK * size);
    list.set([...s.C[output], s.D[output][input]]);
    for (let k = 1; k < BLOCK; k++)
      for (let i = 0; i < size; i++) {
        const v = list[(k - 1) * size + i];
        if (v !== 0) for (let j = 0; j < size; j++) list[k * size + j] += v * over[i][j];
      }
    return list;
  });
  const leap = Float64Array.from(matrixExponential(big, (BLOCK * end) / (count - 1)).flat());
  let x = new Float64Array(size);
  x[n] = 1;
  let next = new Float64Array(size);
  for (let start = 0; start < count; start += BLOCK) {
    const until = Math.min(BLOCK, count - start);
    rows.forEach((list, o) => {
      for (let k = 0; k < until; k++) {
        let y = 0;
        for (let j = 0; j < size; j++) y += list[k * size + j] * x[j];
        out[o][start + k] = y;
      }
    });
    for (let i = 0; i < size; i++) {
      let sum = 0;
      for (let j = 0; j < size; j++) sum += leap[i * size + j] * x[j];
      next[i] = sum;
    }
    [x, next] = [next, x];
  }
  return out;
}

/** Measures of the step of a closed loop. @param poles of it. @param samples of the step that are looked at. */
export function stepMeasures(
  s: StateSpace,
  output: number,
  input: number,
  poles: readonly [number, number][],
  samples = STEPS,
): StepMeasures {
  if (poles.some(([re]) => !(re < -1e-9))) return NONE;
  const slowest = Math.min(...poles.map(([re]) => -re));
  const settled = poles.length === 0 ? 1 : 12 / slowest;
  // First over all of it, then over what matters, so that a slow rest does not hide a fast rise.
  const whole = stepResponse(s, output, input, settled, samples);
  const [final] = responseAt(s, output, input, 0);
  const most = whole.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  // What comes to rest at nothing has no tenth and no nine tenths.
  if (!Number.isFinite(final) || Math.abs(final) < 1e-9 * most)
    return { ...NONE, finalValue: Number.isFinite(final) ? 0 : null };
  const share = (v: number) => v / final;
  const settleAt = lastOutside(whole, share);
  const settlingTime = (settled * settleAt) / (samples - 1);
  const reached = whole.findIndex((v) => share(v) >= 0.9);
  const early = Math.max(1e-9, (settled * 3 * Math.max(1, reached)) / (samples - 1));
  const fine = stepResponse(s, output, input, early, samples);
  const crossing = (level: number) => {
    const k = fine.findIndex((v) => share(v) >= level);
    if (k <= 0) return k === 0 ? 0 : null;
    const [a, b] = [share(fine[k - 1]), share(fine[k])];
    return ((k - 1 + (level - a) / (b - a)) * early) / (samples - 1);
  };
  const [low, high] = [crossing(0.1), crossing(0.9)];
  return {
    riseTime: low === null || high === null ? null : high - low,
    overshoot: Math.max(0, highest(whole, share), highest(fine, share)),
    settlingTime,
    finalValue: final,
  };
}

/** Where a response is outside of the band for the last time, between its samples. */
function lastOutside(values: Float64Array, share: (v: number) => number): number {
  for (let k = values.length - 1; k >= 0; k--) {
    const off = Math.abs(share(values[k]) - 1);
    if (off <= BAND) continue;
    if (k === values.length - 1) return k;
    const next = Math.abs(share(values[k + 1]) - 1);
    return k + (off - BAND) / (off - next);
  }
  return 0;
}

/** Greatest excess over the final value, by the parabola through the highest sample. */
function highest(values: Float64Array, share: (v: number) => number): number {
  let k = 0;
  for (let i = 1; i < values.length; i++) if (share(values[i]) > share(values[k])) k = i;
  if (k === 0 || k === values.length - 1) return share(values[k]) - 1;
  const [a, b, c] = [share(values[k - 1]), share(values[k]), share(values[k + 1])];
  const bend = a - 2 * b + c;
  return (bend < 0 ? b - (a - c) ** 2 / (8 * bend) : b) - 1;
}
