import { factorise, solveFactorised } from '../../numerics';
import { READ, type SectionPolar } from './section-polar';

/** A straight wing of one section; m, rad. */
export interface PolarWing {
  /** m */ span: number;
  /** Chord at a share of the half span, m. */
  chord: (share: number) => number;
  /** Twist at a share of the half span, rad. */
  twist?: (share: number) => number;
  polar: SectionPolar;
  /** Of the stream, 1/m. */ reynoldsPerMetre: number;
  /** Where sections meet the induced flow: at three quarters of their chord, without a word, or on the line at a quarter of it. */
  meets?: 'quarter' | 'three-quarter';
}

/** What the lifting line gives with polars. */
export interface PolarWingPoint {
  CL: number;
  CDi: number;
  CDprofile: number;
  converged: boolean;
}

const MOST_STEPS = 200;
/** Largest step of an angle, rad. */
const STEP = 0.05;
/** Of the integral over the line on either side of a station. */
const INTERVALS = 400;

/**
 * What all of a line induces at a distance x behind it, above twice what it induces on itself and below what the section's own vortex would there, for
 * the terms of a Fourier series: −∫ cos mφ · (√(x² + d²) − x − |d|)∕(x d) dφ with d = y − b∕2 cos φ.
 */
function behindLine(span: number, theta: number, x: number, terms: readonly number[]): number[] {
  const out = terms.map(() => 0);
  const y = 0.5 * span * Math.cos(theta);
  for (const [from, to] of [
    [0, theta],
    [theta, Math.PI],
  ])
    for (let q = 0; q < INTERVALS; q++) {
      const step = (to - from) / INTERVALS;
      const phi = from + (q + 0.5) * step;
      const d = y - 0.5 * span * Math.cos(phi);
      const kernel = (Math.hypot(x, d) - x - Math.abs(d)) / (x * d);
      terms.forEach((m, k) => (out[k] -= Math.cos(m * phi) * kernel * step));
    }
  return out;
}

/**
 * Lifting line of a symmetric straight wing with the polars of its section, the circulation as a Fourier series, by Newton's iteration: the second way of
 * computing what the lattice with polars computes. Each angle goes on from the one before.
 * @param stations of a half wing. @source NACA TR-865, 1947, by relaxation there; NACA TM-1120, 1947, for the flow at three quarters of the chord.
 */
export function lineWithPolars(wing: PolarWing, alphas: readonly number[], stations = 24): PolarWingPoint[] {
  const n = stations;
  const theta = Array.from({ length: n }, (_, i) => ((i + 0.5) * Math.PI) / (2 * n));
  const share = theta.map(Math.cos);
  const chord = share.map((s) => wing.chord(s));
  const twist = share.map((s) => wing.twist?.(s) ?? 0);
  const places = chord.map((c) => wing.polar.place(wing.reynoldsPerMetre * c));
  const odd = Array.from({ length: n }, (_, k) => 2 * k + 1);
  // Of a half series with odd terms the sines at these places are orthogonal.
  const coefficients = (g: ArrayLike<number>) =>
    odd.map((m) => {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += g[i] * Math.sin(m * theta[i]);
      return sum / (n * wing.span);
    });
  /** Induced angle at place i for a unit of circulation over speed at place j. */
  const induces = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    const onLine = odd.map((m) => Math.sin(m * theta[i]) / Math.sin(theta[i]));
    const behind = wing.meets === 'quarter' ? null : behindLine(wing.span, theta[i], 0.5 * chord[i], odd);
    odd.forEach((m, k) => {
      const induced = behind ? 2 * onLine[k] + (wing.span / (2 * Math.PI)) * behind[k] : onLine[k];
      for (let j = 0; j < n; j++) induces[i * n + j] += (m * Math.sin(m * theta[j]) * induced) / (n * wing.span);
    });
  }
  const inducedBy = (g: Float64Array) =>
    theta.map((_, i) => {
      let sum = 0;
      for (let j = 0; j < n; j++) sum += induces[i * n + j] * g[j];
      return sum;
    });
  const read = new Float64Array(READ);
  let area = 0;
  const steps = 2000;
  for (let i = 0; i < steps; i++) area += (wing.chord((i + 0.5) / steps) * wing.span) / steps;
  const aspect = (wing.span * wing.span) / area;
  const section = (i: number, angle: number) => {
    read.fill(0);
    wing.polar.add(angle, places[i], 1, read);
    return read;
  };
  let g = new Float64Array(n);
  return alphas.map((alpha) => {
    let converged = false;
    let time = 1;
    let before = Infinity;
    let induced = inducedBy(g);
    for (let step = 0; step < MOST_STEPS && !converged; step++) {
      const a = new Float64Array(n * n);
      const left = new Float64Array(n);
      let size = 0;
      for (let i = 0; i < n; i++) {
        const [cl, slope] = section(i, alpha + twist[i] - induced[i]);
        left[i] = 0.5 * chord[i] * cl - g[i];
        size = Math.max(size, Math.abs(left[i]));
        for (let j = 0; j < n; j++) a[i * n + j] = 0.5 * chord[i] * slope * induces[i * n + j];
      }
      converged = size < 1e-9 * wing.span;
      // Steps of time that grow to Newton's as the rest falls.
      time = Math.min(1e9, time * Math.min(10, Math.max(0.3, before / size)));
      before = size;
      for (let i = 0; i < n; i++) a[i * n + i] += 1 + 1 / time;
      const change = solveFactorised(factorise(a, n), left);
      const turn = Math.max(...inducedBy(change).map(Math.abs));
      const share = Math.min(1, STEP / turn);
      g = g.map((v, i) => v + share * change[i]);
      induced = inducedBy(g);
    }
    const a = coefficients(g);
    let profile = 0;
    for (let i = 0; i < n; i++) {
      const cd = section(i, alpha + twist[i] - induced[i])[2];
      profile += ((cd * chord[i] * Math.sin(theta[i]) * Math.PI) / (2 * n)) * wing.span;
    }
    return {
      CL: Math.PI * aspect * a[0],
      CDi: Math.PI * aspect * odd.reduce((sum, m, k) => sum + m * a[k] * a[k], 0),
      CDprofile: profile / area,
      converged,
    };
  });
}
