import { factoriseDense } from '../../kernels';
import { FailedComputation, solveFactorised, type Factorisation } from '../../numerics';
import { READ, type SectionPolar } from './section-polar';
import type { StripSection } from './strip-sections';
import { usablePolar } from './usable-polar';

/** A strip's section with its polars at its Reynolds number. */
interface StripPolar {
  polar: SectionPolar;
  place: ReturnType<SectionPolar['place']>;
  weight: number;
}

/** What a strip's section does in one state; angles in rad, coefficients of the strip's chord on the stream's pressure. */
export interface StripState {
  /** Angle that the section meets. */
  angle: number;
  cl: number;
  cd: number;
  cm: number;
  /** Greatest and least lift of the section there. */
  clMax: number;
  clMin: number;
  /** 1 past greatest lift, −1 past least lift, else 0. */
  stalled: -1 | 0 | 1;
  /** Whether the angle lies beyond what its polar was computed for. */
  beyond: boolean;
  /** Whether the Reynolds number does. */
  outside: 'below' | 'above' | null;
}

/** The end of an iteration. */
export interface StripSolution {
  converged: boolean;
  iterations: number;
  /** Turn of every strip's section, rad. */
  turns: Float64Array;
  states: StripState[];
}

/** Strips whose loss of lift is felt together, as a share of the chord. */
const SHARED = 0.25;
const TOLERANCE = 1e-7;
/** Steps with a matrix that was made before, and the share that must be left at most after each. */
const MOST_CHORDS = 8;
const FAST = 0.3;
/** Time steps from which the matrix is as good as Newton’s. */
const SETTLED = 50;
const MOST_ITERATIONS = 120;
/** Largest step of a turn, rad. */
const STEP = 0.06;

/**
 * Finds the turns of the strips' sections for which every strip of the lattice carries what the polar of its section says at the angle that it meets:
 *
 *   cl(δ) = c₀ + C δ          lift of the strips in the lattice, linear in the turns δ
 *   θ = cl / a + α₀ − δ       angle that a strip meets, a = 2π cos Λ / β
 *   0 = attached(θ) − W loss(θ) − cl(δ)
 *
 * The polar is split into a straight line and what is lost against it. The loss is shared along the span over part of a chord (W), since strips
 * that are much narrower than the chord do not stall one by one; without it the equations have many solutions past the stall, which saw along the span.
 * Sections are read in the flow normal to the quarter-chord line, by simple sweep theory.
 * @source decambering of strips: J. Aircraft 43(3), 2006, 660–668; the sharing of the loss is our own, in place of the artificial viscosity of
 *   Comput. Fluid Dyn. J. 13(4), 2005, cited from memory; the time-like iteration: SIAM J. Numer. Anal. 35(2), 1998, 508–523.
 */
export class StripBalance {
  private readonly n: number;
  private readonly polars: StripPolar[][];
  /** Lift of strip i for a unit turn of strip k. */
  private readonly lift: Float64Array;
  private readonly shared: Float64Array;
  private readonly slope: Float64Array;
  private readonly line: { slope: number; zero: number }[];
  private readonly read = new Float64Array(READ);
  /** Angles of flaps whose polars hold nothing, and those that are read instead, degrees. */
  readonly instead = new Map<number, number>();

  /**
   * @param strips in the order of the lattice's. @param circulation n × n: circulation of strip i over speed for a unit turn of strip k, m.
   * @param polars by {@link sectionKey}. @param reynoldsPerMetre of the stream. @param mach of the stream. @param joined whether the root of a surface meets its mirror image.
   */
  constructor(
    private readonly strips: readonly StripSection[],
    circulation: Float64Array,
    polars: ReadonlyMap<string, SectionPolar>,
    reynoldsPerMetre: number,
    mach: number,
    joined: (surface: number) => boolean,
  ) {
    const n = (this.n = strips.length);
    this.polars = strips.map((s) =>
      s.shares.map((share) => {
        const found = usablePolar(polars, share);
        if (!found)
          throw new FailedComputation(
            'polar-missing',
            `No polar of section "${share.section}" can be read: it is not computed, or unsolved throughout.`,
            'Look at its points in Polars; another critical amplification or another section may lead on.',
          );
        const { polar, insteadDeg } = found;
        if (insteadDeg !== undefined && share.flap) this.instead.set(share.flap.angleDeg, insteadDeg);
        return { polar, place: polar.place(reynoldsPerMetre * s.chord), weight: share.weight };
      }),
    );
    this.lift = new Float64Array(n * n);
    for (let i = 0; i < n; i++)
      for (let k = 0; k < n; k++) this.lift[i * n + k] = (2 * circulation[i * n + k]) / strips[i].chord;
    this.slope = Float64Array.from(strips, (s) => {
      const normal = mach * s.cosSweep;
      return (2 * Math.PI * s.cosSweep) / Math.sqrt(1 - normal * normal);
    });
    this.line = this.polars.map((list) => {
      let [slope, moved] = [0, 0];
      for (const { place, weight } of list)
        for (const [r, w] of [
          [place.low, weight * (1 - place.share)],
          [place.high, weight * place.share],
        ] as const) {
          slope += w * r.slope;
          moved += w * r.slope * r.zeroLift;
        }
      return { slope, zero: moved / slope };
    });
    this.shared = sharing(strips, joined);
  }

  /** Of the matrix of the last step, where that was Newton's own. */
  private factor: Factorisation | null = null;

  /** Values of a strip's section in the normal flow at an angle: cl, slope, cd, cm. */
  private section(i: number, angle: number): Float64Array {
    this.read.fill(0);
    for (const { polar, place, weight } of this.polars[i]) polar.add(angle, place, weight, this.read);
    return this.read;
  }

  /** Angle in the flow normal to the span. */
  private normalAngle(i: number, angle: number): number {
    const { zeroLift, cosSweep } = this.strips[i];
    return zeroLift + (angle - zeroLift) / cosSweep;
  }

  /** Angles that the strips meet. */
  private angles(cl: Float64Array, turns: Float64Array): Float64Array {
    return Float64Array.from(cl, (c, i) => c / this.slope[i] + this.strips[i].zeroLift - turns[i]);
  }

  private carried(base: Float64Array, turns: Float64Array): Float64Array {
    const { n, lift } = this;
    const cl = base.slice();
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let k = 0; k < n; k++) sum += lift[i * n + k] * turns[k];
      cl[i] += sum;
    }
    return cl;
  }

  /** What is left over, and the slopes of the line and of the loss. */
  private residual(base: Float64Array, turns: Float64Array) {
    const { n, shared, strips, line } = this;
    const cl = this.carried(base, turns);
    const angle = this.angles(cl, turns);
    const loss = new Float64Array(n);
    const lossSlope = new Float64Array(n);
    const lineSlope = new Float64Array(n);
    const left = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      const c = strips[i].cosSweep;
      const normal = this.normalAngle(i, angle[i]);
      const [value, slope] = this.section(i, normal);
      const straight = line[i].slope * (normal - line[i].zero);
      left[i] = c * c * straight - cl[i];
      loss[i] = c * c * (straight - value);
      lineSlope[i] = c * line[i].slope;
      lossSlope[i] = c * (line[i].slope - slope);
    }
    let size = 0;
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let k = 0; k < n; k++) if (shared[i * n + k] !== 0) sum += shared[i * n + k] * loss[k];
      left[i] -= sum;
      size = Math.max(size, Math.abs(left[i]));
    }
    return { left, size, lineSlope, lossSlope };
  }

  /**
   * @param base lift of the strips without turns. @param start turns to begin with; none without.
   */
  solve(base: Float64Array, start?: Float64Array): StripSolution {
    const { n, lift, shared, slope } = this;
    let turns = start?.slice() ?? new Float64Array(n);
    let now = this.residual(base, turns);
    let time = 2;
    let iterations = 0;
    let best = { size: Infinity, turns };
    // Near a state that was solved just before, its matrix serves again as long as the rest falls fast.
    while (start && this.factor && iterations < MOST_CHORDS && now.size > TOLERANCE) {
      const step = solveFactorised(this.factor, now.left.slice());
      const next = turns.map((t, k) => t + step[k]);
      const then = this.residual(base, next);
      iterations++;
      if (!(then.size < FAST * now.size)) break;
      [turns, now] = [next, then];
    }
    for (; iterations < MOST_ITERATIONS && now.size > TOLERANCE && Number.isFinite(now.size); iterations++) {
      const a = new Float64Array(n * n);
      const weights = new Float64Array(n);
      for (let i = 0; i < n; i++) {
        for (let m = 0; m < n; m++) weights[m] = -shared[i * n + m] * now.lossSlope[m];
        weights[i] += now.lineSlope[i];
        const row = i * n;
        for (let m = 0; m < n; m++) {
          const w = weights[m];
          if (w === 0) continue;
          const q = w / slope[m];
          for (let k = 0; k < n; k++) a[row + k] -= q * lift[m * n + k];
          a[row + m] += w;
        }
        for (let k = 0; k < n; k++) a[row + k] += lift[row + k];
        a[row + i] += 1 / time;
      }
      const factor = factoriseDense(a, n);
      const step = solveFactorised(factor, now.left.slice());
      this.factor = time > SETTLED ? factor : null;
      let largest = 0;
      for (let k = 0; k < n; k++) largest = Math.max(largest, Math.abs(step[k]));
      const share = Math.min(1, STEP / largest);
      const next = turns.slice();
      for (let k = 0; k < n; k++) next[k] += share * step[k];
      const then = this.residual(base, next);
      if (then.size < best.size) best = { size: then.size, turns: next };
      // Steps of time grow as the rest falls: in the end they are Newton's.
      const ratio = then.size > 0 ? now.size / then.size : 1e3;
      if (ratio < 0.2 && time > 0.05) {
        time *= 0.2;
        continue;
      }
      time = Math.min(1e9, time * Math.min(20, Math.max(0.3, ratio * (ratio > 1 ? 1.5 : 1))));
      turns = next;
      now = then;
    }
    const converged = now.size <= TOLERANCE;
    if (!converged && best.size < Infinity) turns = best.turns;
    return { converged, iterations, turns, states: this.states(base, turns) };
  }

  private states(base: Float64Array, turns: Float64Array): StripState[] {
    const cl = this.carried(base, turns);
    const angle = this.angles(cl, turns);
    return this.strips.map((s, i): StripState => {
      const c2 = s.cosSweep * s.cosSweep;
      const normal = this.normalAngle(i, angle[i]);
      const values = this.section(i, normal);
      const [cd, cm] = [values[2], values[3]];
      let [high, low, clMax, clMin] = [0, 0, 0, 0];
      let beyond = false;
      let outside: StripState['outside'] = null;
      for (const { place, weight } of this.polars[i]) {
        const { low: p, high: q, share } = place;
        const mix = (of: (r: typeof p) => number) => weight * ((1 - share) * of(p) + share * of(q));
        high += mix((r) => r.highest);
        low += mix((r) => r.lowest);
        clMax += mix((r) => r.clMax);
        clMin += mix((r) => r.clMin);
        beyond ||= !p.holds(normal) || !q.holds(normal);
        outside ??= place.outside;
      }
      return {
        angle: angle[i],
        cl: cl[i],
        // The normal part of the drag is of the normal pressure; friction is felt along the whole stream.
        cd,
        cm: c2 * cm,
        clMax: c2 * clMax,
        clMin: c2 * clMin,
        stalled: normal > high ? 1 : normal < low ? -1 : 0,
        beyond,
        outside,
      };
    });
  }
}

/** Rows of weights, which sum to 1: how the loss of strip k is felt at strip i. A part that meets its mirror image goes on there. */
function sharing(strips: readonly StripSection[], joined: (surface: number) => boolean): Float64Array {
  const n = strips.length;
  const w = new Float64Array(n * n);
  const both = strips.some((s) => s.side < 0 || s.along < 0);
  strips.forEach((s, i) => {
    const reach = SHARED * s.chord;
    const bell = (distance: number, width: number) => width * Math.exp(-0.5 * (distance / reach) ** 2);
    let sum = 0;
    strips.forEach((t, k) => {
      if (t.surface !== s.surface) return;
      const one = t.side === s.side && t.part === s.part;
      if (!one && !joined(s.surface)) return;
      let value = bell(s.along - t.along, t.width);
      // Where only one side is held, what lies beyond the plane of symmetry is its image.
      if (one && !both && joined(s.surface)) value += bell(s.along + t.along, t.width);
      if (value < 1e-12) return;
      w[i * n + k] = value;
      sum += value;
    });
    for (let k = 0; k < n; k++) w[i * n + k] /= sum;
  });
  return w;
}
