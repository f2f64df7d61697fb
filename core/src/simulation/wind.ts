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
  /** Filters of the side and the upward speed, and what the smoothing over the span makes of them. */
  private readonly chains = [new Float64Array(3), new Float64Array(3)];
  private readonly spectrum: Turbulence;
  private roll = 0;
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
    for (const chain of this.chains) {
      const [a, b] = [this.random.normal(), this.random.normal()];
      chain[0] = a * Math.SQRT1_2;
      chain[1] = 0.5 * chain[0] + b * Math.sqrt(0.125);
      chain[2] = speedOf(chain);
    }
  }

  /** Goes on by a step. @param speed of the air past it, m/s. @returns along, across and up, m/s. */
  next(step: number, speed: number, height: number): Vector {
    const s = turbulenceScales(height, this.spectrum.windAt6m);
    const v = Math.max(1, speed);
    const decay = Math.exp((-step * v) / s.lengthAlong);
    this.first = decay * this.first + Math.sqrt(1 - decay * decay) * this.random.normal();
    const wide = (4 * this.span) / Math.PI;
    const lengths = [s.lengthAlong, s.lengthUp];
    // The span smooths what yaws by three quarters of the length that it smooths what pitches by.
    const smooth = [0.75 * wide, wide];
    const out = this.chains.map((chain, i) => {
      advance(chain, (step * v) / lengths[i], this.span > 0 ? lengths[i] / smooth[i] : null, this.random);
      return speedOf(chain);
    });
    const air: Vector = [s.along * this.first, s.along * out[0], s.up * out[1]];
    if (this.span > 0) this.turn(step, v, s, out, smooth);
    return air;
  }

  /** Roll is a noise of its own; pitch and yaw follow from how lift and side wind change along the path, smoothed over the span. */
  private turn(
    step: number,
    v: number,
    s: ReturnType<typeof turbulenceScales>,
    speeds: readonly number[],
    smooth: readonly number[],
  ): void {
    const wide = smooth[1];
    const decay = Math.exp((-step * v) / wide);
    const spread =
      s.up *
      Math.sqrt(((0.8 * Math.PI) / (2 * s.lengthUp * wide)) * Math.cbrt((Math.PI * s.lengthUp) / (4 * this.span)));
    this.roll = decay * this.roll + Math.sqrt(1 - decay * decay) * this.random.normal();
    this.turning[0] = spread * this.roll;
    this.turning[1] = (s.up * (speeds[1] - this.chains[1][2])) / smooth[1];
    this.turning[2] = (s.along * (speeds[0] - this.chains[0][2])) / smooth[0];
  }
}

/** The speed that the two filters of a chain make of white noise: (1 + √3 Ts)/(1 + Ts)², of variance 1. */
const speedOf = (chain: ArrayLike<number>) => Math.sqrt(3) * chain[0] + (1 - Math.sqrt(3)) * chain[1];

/** Nodes and weights of the quadrature of Gauss over 0 to 1: products of exponentials over a step come out to the last digits. */
const NODES = [0.013046735741414128, 0.06746831665550773, 0.16029521585048778, 0.2833023029353764, 0.4255628305091844];
const WEIGHTS = [0.03333567215434407, 0.0747256745752902, 0.109543181257991, 0.13463335965499826, 0.1477621123573764];
const GAUSS = NODES.flatMap((x, i) => [[x, WEIGHTS[i]] as const, [1 - x, WEIGHTS[i]] as const]);
/** Longest step of the chain's time constants that the quadrature is taken over. */
const LONGEST = 2;

/**
 * Brings a chain on by a step, exactly: a' = −a + noise, b' = a − b, and what the span smooths, c' = r (speed − c), in units of L/V.
 * @param h step over L/V. @param r L over the length of the smoothing; null without one.
 * @source the state and the covariance of the noise over a step: Gelb, Applied Optimal Estimation, 1974, §3.7.
 */
function advance(chain: Float64Array, h: number, r: number | null, random: RandomGenerator): void {
  const longest = LONGEST / Math.max(1, r ?? 0);
  for (let left = Math.max(1, Math.min(1000, Math.ceil(h / longest))), part = h / left; left > 0; left--)
    advancePart(chain, part, r, random);
}

function advancePart(chain: Float64Array, h: number, r: number | null, random: RandomGenerator): void {
  const root3 = Math.sqrt(3);
  // Both rates alike would divide by nothing, and hardly differ from almost alike.
  const k = r === null ? 2 : Math.abs(r - 1) < 1e-3 ? 1.001 : r;
  /** Responses of a, b and c to a unit of a, and of c to one of b and of itself, after a time. */
  const after = (u: number) => {
    const [e, f] = [Math.exp(-u), Math.exp(-k * u)];
    const plain = (e - f) / (k - 1);
    const ramp = (u * e - plain) / (k - 1);
    return { e, f, b: u * e, fromA: k * (root3 * plain + (1 - root3) * ramp), fromB: k * (1 - root3) * plain };
  };
  const g = [0, 0, 0, 0, 0, 0];
  for (const [x, weight] of GAUSS) {
    const { e, b, fromA } = after(x * h);
    const w = weight * h;
    g[0] += w * e * e;
    g[1] += w * e * b;
    g[2] += w * b * b;
    g[3] += w * e * fromA;
    g[4] += w * b * fromA;
    g[5] += w * fromA * fromA;
  }
  const l11 = Math.sqrt(g[0]);
  const l21 = g[1] / l11;
  const l22 = Math.sqrt(Math.max(0, g[2] - l21 * l21));
  const l31 = g[3] / l11;
  const l32 = l22 > 0 ? (g[4] - l31 * l21) / l22 : 0;
  const l33 = Math.sqrt(Math.max(0, g[5] - l31 * l31 - l32 * l32));
  const [n1, n2, n3] = [random.normal(), random.normal(), r === null ? 0 : random.normal()];
  const { e, f, b, fromA, fromB } = after(h);
  const [a0, b0, c0] = chain;
  chain[0] = e * a0 + l11 * n1;
  chain[1] = e * b0 + b * a0 + l21 * n1 + l22 * n2;
  chain[2] = r === null ? 0 : f * c0 + fromA * a0 + fromB * b0 + l31 * n1 + l32 * n2 + l33 * n3;
}
