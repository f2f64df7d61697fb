import { randomNumbers, type RandomGenerator } from './random';
import type { Vector } from './attitude';

/** Steady wind over the ground. */
export interface SteadyWind {
  /** m/s */ speed: number;
  /** It comes from here, rad from north over east. */ from: number;
  /** Upward, m/s. */ up?: number;
  /** Growth with height, speed·(h/h₀)^exponent; the same at all heights without. */
  shear?: { exponent: number; height: number };
}

/** A gust that rises and falls as 1 − cosine. @source MIL-F-8785C, 1980, §3.7.2. */
export interface Gust {
  /** In the wind's own axes: along it, across it to the right, or upward. */ axis: 'along' | 'across' | 'up';
  /** m/s */ amplitude: number;
  /** s */ start: number;
  duration: number;
}

/** Turbulence near the ground. */
export interface Turbulence {
  /** Mean wind 6 m over the ground, m/s: 7.7 light, 15.4 moderate, 23.1 severe. */ windAt6m: number;
  seed: number;
}

export const windAt = (w: SteadyWind, height: number): Vector => {
  const growth = w.shear ? Math.max(0, height / w.shear.height) ** w.shear.exponent : 1;
  const speed = w.speed * growth;
  return [-speed * Math.cos(w.from), -speed * Math.sin(w.from), -(w.up ?? 0)];
};

export function gustAt(g: Gust, t: number): number {
  const s = (t - g.start) / g.duration;
  return s <= 0 || s >= 1 ? 0 : 0.5 * g.amplitude * (1 - Math.cos(2 * Math.PI * s));
}

const FOOT = 0.3048;

/** Lengths (m) and intensities (m/s) of turbulence at a height. @source MIL-F-8785C, 1980, §3.7.3.4, below 1 000 ft; above the values of 1 000 ft. */
export function turbulenceScales(height: number, windAt6m: number) {
  const h = Math.max(10, Math.min(1000, height / FOOT));
  const k = 0.177 + 0.000823 * h;
  const w = 0.1 * windAt6m;
  return {
    lengthAlong: (h / k ** 1.2) * FOOT,
    lengthUp: h * FOOT,
    along: w / k ** 0.4,
    up: w,
  };
}

/**
 * Turbulence as the aircraft meets it, along its path: filters of white noise in steps, exact whatever the step.
 * Along: σ/(1 + Ts); across and up: σ (1 + √3 Ts)/(1 + Ts)² with T = L/V.
 * With a span the air turns as well: roll with 1/(1 + (4b/πV) s), pitch and yaw with (s/V)/(1 + (4b/πV) s) and (s/V)/(1 + (3b/πV) s) of the speeds.
 * @source MIL-F-8785C, 1980, §3.7.2 and §3.7.5 (the form with rational spectra).
 */
export class TurbulentAir {
  private readonly random: RandomGenerator;
  private first = 0;
  private readonly pairs = [new Float64Array(2), new Float64Array(2)];
  private readonly spectrum: Turbulence;
  private roll = 0;
  private readonly slow = new Float64Array(2);
  /** What the air turns with about the body's axes, as an aircraft of the span feels it, rad/s. */
  readonly turning: Vector = [0, 0, 0];

  /** @param span of the aircraft, m; without it the air does not turn. */
  constructor(
    spectrum: Turbulence,
    private readonly span = 0,
  ) {
    this.spectrum = spectrum;
    this.random = randomNumbers(spectrum.seed);
    this.first = this.random.normal();
    // Filters that have run for ever: their stationary spread (½, ¼; ¼, ¼).
    for (const pair of this.pairs) {
      const [a, b] = [this.random.normal(), this.random.normal()];
      pair[0] = a * Math.SQRT1_2;
      pair[1] = 0.5 * pair[0] + b * Math.sqrt(0.125);
    }
  }

  /** Goes on by a step. @param speed of the air past it, m/s. @returns along, across and up, m/s. */
  next(step: number, speed: number, height: number): Vector {
    const s = turbulenceScales(height, this.spectrum.windAt6m);
    const v = Math.max(1, speed);
    const decay = Math.exp((-step * v) / s.lengthAlong);
    this.first = decay * this.first + Math.sqrt(1 - decay * decay) * this.random.normal();
    const lengths = [s.lengthAlong, s.lengthUp];
    const out = this.pairs.map((pair, i) => {
      const h = (step * v) / lengths[i];
      const e = Math.exp(-h);
      const e2 = e * e;
      // Noise that comes into the two filters of the chain in the step, and what they share of it.
      const q11 = 0.5 * (1 - e2);
      const q12 = 0.25 - e2 * (0.5 * h + 0.25);
      const q22 = 0.25 - e2 * (0.5 * h * h + 0.5 * h + 0.25);
      const l11 = Math.sqrt(q11);
      const l21 = q12 / l11;
      const l22 = Math.sqrt(Math.max(0, q22 - l21 * l21));
      const [n1, n2] = [this.random.normal(), this.random.normal()];
      pair[1] = e * (pair[1] + h * pair[0]) + l21 * n1 + l22 * n2;
      pair[0] = e * pair[0] + l11 * n1;
      return Math.sqrt(3) * pair[0] + (1 - Math.sqrt(3)) * pair[1];
    });
    const air: Vector = [s.along * this.first, s.along * out[0], s.up * out[1]];
    if (this.span > 0) this.turn(step, v, s, air);
    return air;
  }

  /** Roll is a noise of its own; pitch and yaw follow from how lift and side wind change along the path, smoothed over the span. */
  private turn(step: number, v: number, s: ReturnType<typeof turbulenceScales>, air: Vector): void {
    const wide = (4 * this.span) / Math.PI;
    const decay = Math.exp((-step * v) / wide);
    const spread =
      s.up *
      Math.sqrt(((0.8 * Math.PI) / (2 * s.lengthUp * wide)) * Math.cbrt((Math.PI * s.lengthUp) / (4 * this.span)));
    this.roll = decay * this.roll + Math.sqrt(1 - decay * decay) * this.random.normal();
    this.turning[0] = spread * this.roll;
    for (const [i, value, length] of [
      [0, air[2], wide],
      [1, air[1], 0.75 * wide],
    ] as const) {
      const f = Math.exp((-step * v) / length);
      this.slow[i] = value + (this.slow[i] - value) * f;
      this.turning[i + 1] = (value - this.slow[i]) / length;
    }
  }
}
