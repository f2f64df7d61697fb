import { eigenvalues, factorise, FailedComputation, rootBetween, solveFactorised } from '../numerics';

/** A strip of a wing that bends and twists. */
export interface ElasticStrip {
  /** Of its middle along the beam from the root, m. */ s: number;
  /** Across the stream, m. */ width: number;
  chord: number;
  /** How far the quarter chord lies ahead of the beam's axis, along the stream, m. */ ahead: number;
  /** cos and sin of the beam's sweep. */
  cos: number;
  sin: number;
  /** Of the section, 1/rad. */ liftSlope: number;
  /** Distance from the plane of symmetry, m. */ y: number;
  /** kg */ mass: number;
  /** How far its centre of mass lies behind the axis, m. */ behind: number;
  /** About its centre of mass, in pitch, kg m². */ inertia: number;
}

/** Flexibility of a beam that is held at its root, at places along it. */
export class Flexibility {
  /** Integrals from the root to each place of 1/EI, s/EI, s²/EI and 1/GJ. */
  private readonly sums: [Float64Array, Float64Array, Float64Array, Float64Array];

  /** @param s places, root first, m. @param EI, GJ stiffness anywhere along it, N m². */
  constructor(
    private readonly s: readonly number[],
    EI: (s: number) => number,
    GJ: (s: number) => number,
  ) {
    const n = s.length;
    const [one, first, second, turn] = (this.sums = [
      new Float64Array(n),
      new Float64Array(n),
      new Float64Array(n),
      new Float64Array(n),
    ]);
    for (let i = 0; i < n; i++) {
      const from = i === 0 ? 0 : s[i - 1];
      const h = s[i] - from;
      let [a, b, c, d] = [0, 0, 0, 0];
      for (const [x, w] of [
        [from, 1],
        [from + 0.5 * h, 4],
        [s[i], 1],
      ]) {
        const e = w / EI(x);
        a += e;
        b += e * x;
        c += e * x * x;
        d += w / GJ(x);
      }
      const before = (v: Float64Array) => (i === 0 ? 0 : v[i - 1]);
      one[i] = before(one) + (h * a) / 6;
      first[i] = before(first) + (h * b) / 6;
      second[i] = before(second) + (h * c) / 6;
      turn[i] = before(turn) + (h * d) / 6;
    }
  }
  /** Deflection at i of a force at j, m/N. */
  deflection(i: number, j: number): number {
    const k = Math.min(i, j);
    const [one, first, second] = this.sums;
    return this.s[i] * this.s[j] * one[k] - (this.s[i] + this.s[j]) * first[k] + second[k];
  }
  /** Slope at i of a force at j, rad/N. */
  slope(i: number, j: number): number {
    const k = Math.min(i, j);
    return this.s[j] * this.sums[0][k] - this.sums[1][k];
  }
  /** Slope at i of a bending moment at j, rad/(N m). */
  slopeOfMoment = (i: number, j: number): number => this.sums[0][Math.min(i, j)];
  /** Twist at i of a torque at j, rad/(N m). */
  twist = (i: number, j: number): number => this.sums[3][Math.min(i, j)];
}

/** Change of the angle of attack of strip i by a force up at j and a moment nose-up about the axis there, both along the stream: rad/N, rad/(N m). */
function angleOf(f: Flexibility, strips: readonly ElasticStrip[], i: number, j: number): [number, number] {
  const { cos, sin } = strips[i];
  const own = strips[j];
  return [
    -sin * f.slope(i, j),
    // A moment along the stream turns and bends a swept beam: nose-up unbends the tip of one swept back.
    cos * own.cos * f.twist(i, j) + sin * own.sin * f.slopeOfMoment(i, j),
  ];
}

/** Angles that a unit of stream pressure and a unit angle of each strip cause: n × n, 1/Pa. */
function response(f: Flexibility, strips: readonly ElasticStrip[]): Float64Array {
  const n = strips.length;
  const out = new Float64Array(n * n);
  for (let j = 0; j < n; j++) {
    const s = strips[j];
    const force = s.chord * s.width * s.liftSlope;
    for (let i = 0; i < n; i++) {
      const [lift, moment] = angleOf(f, strips, i, j);
      out[i * n + j] = force * (lift + s.ahead * moment);
    }
  }
  return out;
}

/**
 * Stream pressure at which a wing diverges by strip theory, Pa; null where no speed twists it off.
 * @source NACA TN-1680, 1948: the least pressure at which the twist of the lift and the stiffness of the beam balance.
 */
export function divergencePressure(f: Flexibility, strips: readonly ElasticStrip[]): number | null {
  const all = eigenvalues(response(f, strips), strips.length);
  const size = Math.max(...all.map(([re, im]) => Math.hypot(re, im)));
  const real = all.filter(([re, im]) => re > 1e-9 * size && Math.abs(im) < 1e-6 * size).map(([re]) => re);
  return real.length === 0 ? null : 1 / Math.max(...real);
}

/** A control at a strip: how much lift and moment one radian makes there, as angle of attack and as coefficient about the quarter chord. */
export interface StripControl {
  effect: number;
  moment: number;
}

/**
 * Stream pressure at which a control that turns against the other side no longer rolls the aircraft, Pa, and how much of its roll is left below it.
 * @param controls by strip; null where there is none. @param most pressure that is looked at. @returns null where it keeps its sense up to there.
 */
export function reversalPressure(
  f: Flexibility,
  strips: readonly ElasticStrip[],
  controls: readonly (StripControl | null)[],
  most: number,
): { pressure: number | null; left: (pressure: number) => number } {
  const n = strips.length;
  const unit = response(f, strips);
  // Angles that the control's own lift and moment cause.
  const caused = new Float64Array(n);
  for (let j = 0; j < n; j++) {
    const c = controls[j];
    if (!c) continue;
    const s = strips[j];
    const area = s.chord * s.width;
    const lift = area * s.liftSlope * c.effect;
    for (let i = 0; i < n; i++) {
      const [push, moment] = angleOf(f, strips, i, j);
      caused[i] += lift * (push + s.ahead * moment) + area * s.chord * c.moment * moment;
    }
  }
  const rigid = strips.reduce(
    (sum, s, i) => sum + s.chord * s.width * s.liftSlope * s.y * (controls[i]?.effect ?? 0),
    0,
  );
  const left = (q: number): number => {
    const a = new Float64Array(n * n);
    for (let i = 0; i < n * n; i++) a[i] = -q * unit[i];
    for (let i = 0; i < n; i++) a[i * n + i] += 1;
    const angles = solveFactorised(
      factorise(a, n),
      caused.map((v) => q * v),
    );
    const roll = strips.reduce(
      (sum, s, i) => sum + s.chord * s.width * s.liftSlope * s.y * (angles[i] + (controls[i]?.effect ?? 0)),
      0,
    );
    return roll / rigid;
  };
  if (rigid === 0) return { pressure: null, left };
  const STEPS = 40;
  let before = 0;
  for (let k = 1; k <= STEPS; k++) {
    const q = (most * k) / STEPS;
    let here: number;
    try {
      here = left(q);
    } catch (error) {
      if (!(error instanceof FailedComputation)) throw error;
      return { pressure: null, left };
    }
    if (here <= 0) return { pressure: rootBetween(left, before, q), left };
    before = q;
  }
  return { pressure: null, left };
}

/** A natural vibration of a wing that is held at its root. */
export interface Vibration {
  /** Hz */ frequency: number;
  /** Share of its energy that is in bending: 1 pure bending, 0 pure torsion. */ bending: number;
}

/**
 * Natural frequencies of a wing that is held at its root, the least first: bending and torsion coupled by the distance of its masses from the axis.
 * @param most how many.
 */
export function vibrations(f: Flexibility, strips: readonly ElasticStrip[], most = 6): Vibration[] {
  const n = strips.length;
  const N = 2 * n;
  const flex = new Float64Array(N * N);
  const mass = new Float64Array(N * N);
  for (let i = 0; i < n; i++) {
    const { mass: m, behind: d, inertia, cos } = strips[i];
    const e = d * cos;
    mass[i * N + i] = m;
    mass[i * N + n + i] = mass[(n + i) * N + i] = -m * e;
    mass[(n + i) * N + n + i] = inertia * cos * cos + m * e * e;
    for (let j = 0; j < n; j++) {
      flex[i * N + j] = f.deflection(i, j);
      flex[(n + i) * N + n + j] = f.twist(i, j);
    }
  }
  const product = new Float64Array(N * N);
  for (let i = 0; i < N; i++)
    for (let k = 0; k < N; k++) {
      const v = flex[i * N + k];
      if (v === 0) continue;
      for (let j = 0; j < N; j++) product[i * N + j] += v * mass[k * N + j];
    }
  const all = eigenvalues(product.slice(), N)
    .map(([re]) => re)
    .filter((v) => v > 0)
    .sort((a, b) => b - a)
    .slice(0, most);
  return all.map((value) => {
    // Two steps of inverse iteration beside the value give the shape.
    const a = product.slice();
    for (let i = 0; i < N; i++) a[i * N + i] -= value * (1 + 1e-7);
    const factors = factorise(a, N);
    let shape = Float64Array.from({ length: N }, (_, i) => 1 + (i % 7) / 7);
    for (let k = 0; k < 3; k++) {
      shape = Float64Array.from(solveFactorised(factors, shape));
      const size = Math.max(...shape.map(Math.abs));
      shape = shape.map((v) => v / size);
    }
    const energy = (from: number, to: number) => {
      let sum = 0;
      for (let i = from; i < to; i++) sum += shape[i] ** 2 * mass[i * N + i];
      return sum;
    };
    const [bend, turn] = [energy(0, n), energy(n, N)];
    return { frequency: 1 / (2 * Math.PI * Math.sqrt(value)), bending: bend / (bend + turn) };
  });
}
