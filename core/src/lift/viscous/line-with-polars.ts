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
  /** Whether sections lose lift by the wing's edges, as lifting surfaces do; they do without a word. */ edge?: boolean;
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

/**
 * Lifting line of a symmetric straight wing with the polars of its section, the circulation as a Fourier series, by Newton's iteration: the second way of
 * computing what the lattice with polars computes. Each angle goes on from the one before.
 * @param stations of a half wing. @source NACA TR-865, 1947: by relaxation there, and with the same factor for the edges.
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
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++)
      for (const m of odd)
        induces[i * n + j] +=
          (m * Math.sin(m * theta[i]) * Math.sin(m * theta[j])) / (Math.sin(theta[i]) * n * wing.span);
  const inducedBy = (g: Float64Array) =>
    theta.map((_, i) => {
      let sum = 0;
      for (let j = 0; j < n; j++) sum += induces[i * n + j] * g[j];
      return sum;
    });
  const read = new Float64Array(READ);
  const zero = places.map(({ low, high, share: k }) => (1 - k) * low.zeroLift + k * high.zeroLift);
  let area = 0;
  const steps = 2000;
  for (let i = 0; i < steps; i++) area += (wing.chord((i + 0.5) / steps) * wing.span) / steps;
  const aspect = (wing.span * wing.span) / area;
  const edge = wing.edge === false ? 1 : Math.sqrt(1 + 4 / (aspect * aspect));
  const section = (i: number, angle: number) => {
    read.fill(0);
    wing.polar.add(zero[i] + (angle - zero[i]) / edge, places[i], 1, read);
    read[1] /= edge;
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
