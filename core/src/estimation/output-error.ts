import { InvalidInput, RAD } from '../numerics';
import {
  controlName,
  DERIVATIVE_NAMES,
  derivativeOf,
  lateralSystem,
  longitudinalSystem,
  withDerivatives,
  type MotionCase,
} from '../motion';
import { leastSquares, studentT, type Free } from '../observed';
import { MOVES, RESPONSE_OUTPUTS, type ResponseMotion, type ResponseOutput, type ResponseRecord } from './record';
import { respond } from './respond';
import { sensorsOf } from './sensors';

/** A derivative that was estimated, per rad as in the case. */
export interface EstimatedDerivative {
  /** As `Cm_alpha`, or `controls.ID.Cm`. */ name: string;
  predicted: number;
  value: number;
  /** Standard deviation, and the bounds that hold it in 95 of 100 cases. */ deviation: number;
  low: number;
  high: number;
  /** False where the record does not decide it: bounds wider than half of it. */ decided: boolean;
}

/** A measured quantity of the record, rad, rad/s or m/s, and how the estimate follows it. */
export interface FollowedOutput {
  name: ResponseOutput;
  /** Root of the mean square of what is left, and the share of the variance that the estimate explains. */ rms: number;
  explained: number;
  /** Correlation of what is left from one row to the next: 0 of white noise. */ correlation: number;
  /** The offset of the sensor against the steady flight, together with that of the steady flight itself. */ offset: number;
  measured: number[];
  estimated: number[];
}

export interface Estimation {
  motion: ResponseMotion;
  derivatives: EstimatedDerivative[];
  outputs: FollowedOutput[];
  t: number[];
  /** Pairs that the record hardly tells apart, with their correlation. */ alike: [string, string, number][];
  rounds: number;
  doubts: string[];
}

/** What is estimated unless it is said: derivatives that a short record decides. */
const USUAL: Record<ResponseMotion, readonly string[]> = {
  longitudinal: ['CL_alpha', 'Cm_alpha', 'Cm_q'],
  lateral: ['CY_beta', 'Cl_beta', 'Cn_beta', 'Cl_p', 'Cn_p', 'Cl_r', 'Cn_r'],
};
const OF_CONTROL: Record<ResponseMotion, readonly ('CL' | 'CD' | 'Cm' | 'CY' | 'Cl' | 'Cn')[]> = {
  longitudinal: ['CL', 'Cm'],
  lateral: ['CY', 'Cl', 'Cn'],
};
/** Of each motion, what may be estimated beside its controls. */
const KNOWN: Record<ResponseMotion, RegExp> = {
  longitudinal: /^(CL|CD|Cm)_(alpha|q|alphadot|u)$/,
  lateral: /^(CY|Cl|Cn)_(beta|p|r)$/,
};
/** A control acts on a motion when one of its derivatives is so great. */
const ACTS = 1e-5;
/** Of a motion, the share that a linear model is hardly truer than: no output counts as if it were. */
const TRUEST = 0.01;
const ALIKE = 0.95;
const REWEIGHTED = 12;
/** Changes of all numbers below this share of their steps are far inside their bounds. */
const STILL = 1e-2;

const read = (c: MotionCase, name: string): number => derivativeOf(c.derivatives, name)!;
const changed = (c: MotionCase, names: readonly string[], values: readonly number[]): MotionCase => ({
  ...c,
  derivatives: withDerivatives(c.derivatives, Object.fromEntries(names.map((name, i) => [name, values[i]]))),
});

/** Controls of a record that move, and act on a motion. */
export function activeControls(c: MotionCase, record: ResponseRecord, motion: ResponseMotion): string[] {
  return Object.entries(record.controls)
    .filter(([, v]) => Math.max(...v) - Math.min(...v) >= MOVES)
    .map(([id]) => id)
    .filter((id) => OF_CONTROL[motion].some((k) => Math.abs(c.derivatives.controls[id]?.[k] ?? 0) > ACTS));
}

/** Motions that a record holds: a response of each, and a control that moves and acts on it. */
export function motionsOf(c: MotionCase, record: ResponseRecord): ResponseMotion[] {
  return (['longitudinal', 'lateral'] as const).filter(
    (motion) =>
      RESPONSE_OUTPUTS[motion].some((name) => record.outputs[name]) && activeControls(c, record, motion).length > 0,
  );
}

/**
 * Estimates derivatives from a record by output error: the linear motion about the case's steady flight is made to follow the record, each measured
 * quantity weighted by the variance of its own residuals, which is estimated along (maximum likelihood for white noise of unknown size). Initial state
 * and offsets of all measured quantities are estimated too, so that neither the trim nor the zeros of the sensors need be known.
 * Bounds are widened where the residuals are correlated in time.
 * @param c steady flight with the predicted derivatives: the start, and what is not estimated.
 * @param names of {@link EstimatedDerivative}; else the usual ones.
 * @param alpha angle of attack of the steady flight, rad: that of the body's axes, along which rates and bank are measured, above the stream.
 * @throws InvalidInput `estimation-still` without a control that moves, `estimation-outputs` without a response, `estimation-name`.
 * @throws FailedComputation `fit` where the predicted motion runs away.
 * @source NASA RP-1168, 1985 (output error, relaxation of the noise's covariance, bounds); correlated residuals by J. Guid. Control Dyn. 20(1), 1997, 74–80, in the form of a first-order process.
 */
export function estimateDerivatives(
  c: MotionCase,
  record: ResponseRecord,
  motion: ResponseMotion,
  names: readonly string[] = usualNames(c, record, motion),
  alpha = 0,
): Estimation {
  const measured = RESPONSE_OUTPUTS[motion].filter((name) => record.outputs[name]);
  if (measured.length === 0)
    throw new InvalidInput(
      'estimation-outputs',
      `The record holds no response of ${motion} motion.`,
      `Give one and more of ${RESPONSE_OUTPUTS[motion].join(', ')}.`,
      'record',
    );
  const controls = activeControls(c, record, motion);
  if (controls.length === 0)
    throw new InvalidInput(
      'estimation-still',
      `No control of ${motion} motion moves by 0.1° in the record.`,
      'Record a doublet or a sweep of one: without it nothing tells derivatives apart.',
      'record',
    );
  const known = estimableNames(c, record, motion);
  const strange = names.find((name) => !known.includes(name));
  if (strange !== undefined)
    throw new InvalidInput(
      'estimation-name',
      `"${strange}" is no derivative that a record of ${motion} motion tells.`,
      `Give some of ${known.join(', ')}.`,
      'estimate',
    );
  const { t } = record;
  const deflections = Object.keys(c.derivatives.controls).map((id) =>
    controls.includes(id) ? record.controls[id].map((v) => v - record.controls[id][0]) : t.map(() => 0),
  );
  const sensors = sensorsOf(c, alpha);
  const data = measured.map((name) => record.outputs[name]!);
  const count = names.length;
  const system = motion === 'longitudinal' ? longitudinalSystem : lateralSystem;
  const model = (values: readonly number[]): number[][] => {
    const states = respond(
      system(changed(c, names, values)),
      values
        .slice(count, count + 4)
        .map((v, i) => v * (i === 0 || (motion === 'longitudinal' && i === 1) ? c.speed : 1)),
      t,
      deflections,
    );
    return measured.map((name, k) => {
      const [sensor, offset, line] = [sensors[name], values[count + 4 + k], new Array<number>(t.length)];
      for (let m = 0; m < t.length; m++) line[m] = sensor(states[m]) + offset;
      return line;
    });
  };
  const sizeOf = (name: string) => Math.max(0.02 * Math.abs(read(c, name)), 1e-3);
  const free: Free[] = [
    ...names.map((name) => ({ start: read(c, name), step: sizeOf(name), min: -1e4, max: 1e4 })),
    // Initial state as angles, rates and a share of the speed.
    ...Array.from({ length: 4 }, () => ({ start: 0, step: 1e-3, min: -3, max: 3 })),
    ...data.map((v) => ({ start: v[0], step: 1e-3, min: v[0] - 1e4, max: v[0] + 1e4 })),
  ];
  const spreadOf = (v: readonly number[]) => {
    const mean = v.reduce((s, x) => s + x, 0) / v.length;
    return Math.sqrt(v.reduce((s, x) => s + (x - mean) ** 2, 0) / v.length);
  };
  // Second differences hold little beside the noise: a start that needs few weightings anew.
  const least = data.map((v) => Math.max(TRUEST * spreadOf(v), 1e-9));
  let noise = data.map((v, i) =>
    Math.max(spreadOf(v.slice(2).map((y, k) => y - 2 * v[k + 1] + v[k])) / Math.sqrt(6), least[i]),
  );
  let fitted!: ReturnType<typeof leastSquares>;
  let made!: number[][];
  let left!: number[];
  let rounds = 0;
  for (let k = 0; k < REWEIGHTED; k++) {
    fitted = leastSquares(
      (values) => {
        const [lines, out] = [model(values), new Array<number>(data.length * t.length)];
        for (let i = 0, at = 0; i < lines.length; i++)
          for (let j = 0; j < t.length; j++) out[at++] = (lines[i][j] - data[i][j]) / noise[i];
        return out;
      },
      // Differences, and what is still, by how well a number is told.
      free.map((f, i) =>
        fitted
          ? { ...f, start: fitted.values[i], step: Math.max(f.step, Math.min(10 * f.step, 0.1 * fitted.deviations[i])) }
          : f,
      ),
      STILL,
    );
    rounds += fitted.rounds;
    made = model(fitted.values);
    left = made.map((line, i) => Math.sqrt(line.reduce((s, v, j) => s + (v - data[i][j]) ** 2, 0) / line.length));
    const next = left.map((v, i) => Math.max(v, least[i]));
    const still = next.every((v, i) => Math.abs(v / noise[i] - 1) < 0.01);
    noise = next;
    if (still) break;
  }
  const correlation = made.map((line, i) => {
    const off = line.map((v, j) => v - data[i][j]);
    const [a, b] = off.reduce(([s, p], v, j) => [s + v * v, j > 0 ? p + v * off[j - 1] : 0], [0, 0]);
    return a > 0 ? b / a : 0;
  });
  // Rows that repeat each other's noise count for fewer: those of a first-order process.
  const mean = correlation.reduce((s, v) => s + v, 0) / correlation.length;
  const colour =
    mean > 2 / Math.sqrt(t.length) ? Math.sqrt((1 + Math.min(mean, 0.999)) / (1 - Math.min(mean, 0.999))) : 1;
  const wide = studentT(fitted.freedom);
  const derivatives = names.map((name, i): EstimatedDerivative => {
    const [value, deviation, predicted] = [fitted.values[i], fitted.deviations[i] * colour, read(c, name)];
    const half = wide * deviation;
    return {
      name,
      predicted,
      value,
      deviation,
      low: value - half,
      high: value + half,
      decided: half <= 0.5 * Math.max(Math.abs(value), Math.abs(predicted)),
    };
  });
  const outputs = measured.map((name, i): FollowedOutput => {
    const own = spreadOf(data[i]);
    return {
      name,
      rms: left[i],
      explained: own > 0 ? 1 - (left[i] / own) ** 2 : 0,
      correlation: correlation[i],
      offset: fitted.values[count + 4 + i],
      measured: data[i],
      estimated: made[i],
    };
  });
  const alike = names.flatMap((a, i) =>
    names
      .slice(i + 1)
      .map((b, j): [string, string, number] => [a, b, fitted.correlations[i][i + 1 + j]])
      .filter(([, , r]) => Math.abs(r) > ALIKE),
  );
  return { motion, derivatives, outputs, t, alike, rounds, doubts: doubtsOfEstimation(c, record, outputs, colour) };
}

/** All derivatives that a record of a motion may tell: of the motion itself, and of its controls that move. */
export function estimableNames(c: MotionCase, record: ResponseRecord, motion: ResponseMotion): string[] {
  const controls = activeControls(c, record, motion);
  return [
    ...DERIVATIVE_NAMES.filter((name) => KNOWN[motion].test(name)),
    ...controls.flatMap((id) => OF_CONTROL[motion].map((k) => controlName(id, k))),
  ];
}

/** Derivatives that a record of a motion usually tells: the main ones, and those of its controls that move. */
export function usualNames(c: MotionCase, record: ResponseRecord, motion: ResponseMotion): string[] {
  return [
    ...USUAL[motion],
    ...activeControls(c, record, motion).flatMap((id) =>
      OF_CONTROL[motion].filter((k) => Math.abs(c.derivatives.controls[id][k]) > ACTS).map((k) => controlName(id, k)),
    ),
  ];
}

function doubtsOfEstimation(
  c: MotionCase,
  record: ResponseRecord,
  outputs: readonly FollowedOutput[],
  colour: number,
): string[] {
  const doubts: string[] = [];
  const speed = record.outputs.speed;
  if (speed) {
    const mean = speed.reduce((s, v) => s + v, 0) / speed.length;
    if (Math.abs(mean / c.speed - 1) > 0.1)
      doubts.push(
        `The record was flown at ${mean.toFixed(1)} m/s on the mean, the case is of ${c.speed.toFixed(1)} m/s: derivatives would take in the difference.`,
      );
  }
  for (const { name } of outputs.filter((o) => ['alpha', 'beta', 'theta', 'phi'].includes(o.name))) {
    const v = record.outputs[name]!;
    const range = Math.max(...v) - Math.min(...v);
    const most = name === 'alpha' || name === 'beta' ? 20 : 60;
    if (range > most * RAD)
      doubts.push(`${name} goes over ${(range / RAD).toFixed(0)}°: small motions are only a rough picture of it.`);
  }
  if (colour > 1.3)
    doubts.push(
      `What is left is correlated in time: bounds are ${colour.toFixed(1)} times those of white noise. The model lacks something that the record shows.`,
    );
  for (const o of outputs.filter((o) => o.explained < 0.5))
    doubts.push(`Of ${o.name} only ${(100 * Math.max(0, o.explained)).toFixed(0)} % of the variance is explained.`);
  return doubts;
}
