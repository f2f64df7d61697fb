import { frequencyResponse } from '../control';
import { lateralSystem, longitudinalSystem, type MotionCase } from '../motion';
import { MOVES, RESPONSE_OUTPUTS, type ResponseMotion, type ResponseOutput, type ResponseRecord } from './record';
import { sensorsOf } from './sensors';

/** A point of a response over frequency. */
export interface ResponsePoint {
  /** rad/s */ omega: number;
  /** Output over deflection, both in rad, rad/s or m/s; and its phase, rad. */ gain: number;
  phase: number;
  /** Share of the output's power that goes linearly with the deflection, 0 to 1. */ coherence: number;
  /** Standard deviation of the gain over it, and of the phase in rad. */ deviation: number;
}

/** How a measured quantity answers a control over frequency. */
export interface MeasuredResponse {
  control: string;
  output: ResponseOutput;
  points: ResponsePoint[];
}

const PLACES = 48;
/** Oscillations in a window; and the shares of the record that a window has at most and at least. */
const CYCLES = 8;
const [WIDEST, NARROWEST] = [1 / 5, 1 / 20];
/** Oscillations in the widest window at the lowest frequency; of Nyquist's frequency, the share of the highest. */
const FEWEST = 2;
const HIGHEST = 0.5;
/** Of the greatest power of the deflection, the share below which it says nothing. */
const WEAK = 3e-3;
/** A sweep moves the control in so many of the parts of the record, by this share of its whole range. */
const PARTS = 8;
const [MOVING, OF_RANGE] = [0.6, 0.2];

const rangeOf = (v: readonly number[]) => Math.max(...v) - Math.min(...v);

/** Controls that a record sweeps: they move through most of it. */
export function sweptControls(record: Pick<ResponseRecord, 't' | 'controls'>): string[] {
  const part = Math.floor(record.t.length / PARTS);
  if (part < 4) return [];
  return Object.entries(record.controls)
    .filter(([, v]) => {
      const whole = rangeOf(v);
      const moving = Array.from({ length: PARTS }, (_, i) => rangeOf(v.slice(i * part, (i + 1) * part)));
      return whole >= MOVES && moving.filter((r) => r >= OF_RANGE * whole).length >= MOVING * PARTS;
    })
    .map(([name]) => name);
}

/** Values at even steps of time, run straight between the rows. */
function even(t: readonly number[], v: readonly number[], step: number, count: number): Float64Array {
  const out = new Float64Array(count);
  for (let i = 0, k = 0; i < count; i++) {
    const at = Math.min(t[0] + i * step, t[t.length - 1]);
    while (k + 2 < t.length && t[k + 1] < at) k++;
    out[i] = v[k] + ((v[k + 1] - v[k]) * (at - t[k])) / (t[k + 1] - t[k]);
  }
  return out;
}

/** The Fourier sum of a window at a frequency: its straight line is taken off, then Hann's window laid over. @returns real and imaginary part. */
function sumOf(v: Float64Array, from: number, count: number, turn: number): [number, number] {
  let [mean, slope, size] = [0, 0, 0];
  const middle = 0.5 * (count - 1);
  for (let i = 0; i < count; i++) mean += v[from + i] / count;
  for (let i = 0; i < count; i++) {
    slope += (i - middle) * v[from + i];
    size += (i - middle) ** 2;
  }
  slope /= size;
  let [re, im] = [0, 0];
  for (let i = 0; i < count; i++) {
    const hann = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / count);
    const value = hann * (v[from + i] - mean - slope * (i - middle));
    // The phase counts from the record's beginning, the same for input and output.
    re += value * Math.cos(turn * (from + i));
    im -= value * Math.sin(turn * (from + i));
  }
  return [re, im];
}

/**
 * Responses of the measured quantities to a control over frequency, by averaged cross spectra: overlapping windows, shorter at high frequencies.
 * @param control its name in the record; it should be swept, and alone.
 * @returns none where the record is too short; frequencies at which the deflection has hardly any power are left out.
 * @source IEEE Trans. Audio Electroacoust. 15(2), 1967, 70–73 (averaged windows); J. Am. Helicopter Soc. 37(3), 1992, 3–17 (windows of several lengths, the deviation by the coherence).
 */
export function frequencyResponses(
  record: Pick<ResponseRecord, 't' | 'outputs' | 'controls'>,
  motion: ResponseMotion,
  control: string,
): MeasuredResponse[] {
  const { t } = record;
  const count = t.length;
  const length = t[count - 1] - t[0];
  const step = length / (count - 1);
  const [lowest, highest] = [(FEWEST * 2 * Math.PI) / (WIDEST * length), (HIGHEST * Math.PI) / step];
  if (!(highest > 2 * lowest)) return [];
  const input = even(t, record.controls[control], step, count);
  const names = RESPONSE_OUTPUTS[motion].filter((name) => record.outputs[name]);
  const outputs = names.map((name) => even(t, record.outputs[name]!, step, count));
  const found = Array.from({ length: PLACES }, (_, i) => {
    const omega = lowest * (highest / lowest) ** (i / (PLACES - 1));
    const wide = Math.min(WIDEST, Math.max(NARROWEST, (CYCLES * 2 * Math.PI) / (omega * length)));
    const width = Math.max(8, Math.floor(wide * count));
    const hop = Math.max(1, Math.floor(width / 2));
    let [own, fourth] = [0, 0];
    const sums = names.map(() => ({ re: 0, im: 0, own: 0 }));
    let windows = 0;
    for (let from = 0; from + width <= count; from += hop, windows++) {
      const [xr, xi] = sumOf(input, from, width, omega * step);
      const power = xr * xr + xi * xi;
      own += power;
      fourth += power * power;
      outputs.forEach((v, k) => {
        const [yr, yi] = sumOf(v, from, width, omega * step);
        sums[k].re += xr * yr + xi * yi;
        sums[k].im += xr * yi - xi * yr;
        sums[k].own += yr * yr + yi * yi;
      });
    }
    // Windows without power of the deflection average nothing.
    const averages = fourth > 0 ? (own * own) / fourth : 0;
    return { omega, averages, power: own / (windows * width * width), own, sums };
  });
  const most = Math.max(...found.map((f) => f.power));
  return names.map((output, k) => ({
    control,
    output,
    points: found
      .filter((f) => f.power > WEAK * most && f.sums[k].own > 0)
      .map(({ omega, averages, own, sums }) => {
        const { re, im, own: answered } = sums[k];
        const coherence = Math.min(1, (re * re + im * im) / (own * answered));
        return {
          omega,
          gain: Math.hypot(re, im) / own,
          phase: Math.atan2(im, re),
          coherence,
          deviation: Math.sqrt(Math.max(0, 1 - coherence) / (2 * Math.max(1, averages) * Math.max(coherence, 1e-12))),
        };
      }),
  }));
}

/** The response of the linear motion from a control to a measured quantity, as {@link frequencyResponses} tells it. @returns gain and phase, rad, at a frequency. */
export function modelResponse(
  c: MotionCase,
  motion: ResponseMotion,
  alpha: number,
  control: string,
  output: ResponseOutput,
): (omega: number) => { gain: number; phase: number } {
  const { A, B, inputs } = motion === 'longitudinal' ? longitudinalSystem(c) : lateralSystem(c);
  const sensor = sensorsOf(c, alpha)[output];
  // Sensors are linear in the states.
  const row = A.map((_, i) => sensor(A.map((_a, j) => Number(i === j))));
  const at = frequencyResponse({ A, B, C: [row], D: [inputs.map(() => 0)] }, 0, inputs.indexOf(control));
  return (omega) => {
    const [re, im] = at(omega);
    return { gain: Math.hypot(re, im), phase: Math.atan2(im, re) };
  };
}
