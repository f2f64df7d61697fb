import { Cancelled } from '../../results';
import { LEAST_ANGLE, LEAST_LIFT } from './past-stall';
import { isSolved, type ViscousPoint } from './point';
import type { SolvedState } from './viscous-section';

/**
 * Iterations for a point from its neighbour; for the first point of a stretch that cannot be reached from it, and for a beginning; and for the others
 * of that stretch. Measured over ten sections and six Reynolds numbers, -10 to 20 degrees: larger budgets reach one
 * point in a hundred more, all of them past the stall, and take twice the time of the whole matrix.
 */
const FROM_NEIGHBOUR = 130;
const FIRST_OF_STRETCH = 700;
/** What a point may cost in all before it is tried from neighbours that were found after it. */
const BY_ITSELF = 760;
/** For the places inside a long stretch whose far end is not reached: most of those that can be reached at all take fewer. */
const INSIDE_STRETCH = 260;
const LONG_STRETCH = 4;
const REST_OF_STRETCH = 60;
/**
 * The same where the section has stalled on the way there: a separated flow is estimated beyond the last solved point, and hardly another is found: the
 * time of a whole matrix of polars is half of what it is with the budgets above.
 */
const STALLED = { fromNeighbour: 60, first: 60, rest: 0 };
const GOING = { fromNeighbour: FROM_NEIGHBOUR, first: FIRST_OF_STRETCH, rest: REST_OF_STRETCH };
/** Points at the far end of a stretch that get the larger budget: a burst layer found there leads back over the whole stretch. */
const FIRST = 1;
/** Farthest state that a point is tried from once more, rad. */
const FARTHEST = 0.03;

/** What a sweep over angles needs of the points that it puts in order. */
export interface AngleSweep {
  /** The angles wanted, rad. */
  alphas: readonly number[];
  /** Whether a point need not be solved: it was known before. */
  known: (i: number) => boolean;
  /** Whether layers are laminar far enough that one that has burst may be found from the far end, where none leads on from this side. */
  mayBurst: boolean;
  /** The point that is there, solved now or known before. */
  point: (i: number) => ViscousPoint | undefined;
  /** Nearest solved state, of one side only where that is asked. */
  nearest: (i: number, side?: 1 | -1) => SolvedState | undefined;
  /** From a neighbour's state alone. */
  continued: (i: number, from: SolvedState, effort: number) => ViscousPoint;
  /** By every way. */
  afresh: (i: number, effort: number) => ViscousPoint;
  /** Keeps a point that is solved, or the last word on one that is not. */
  give: (i: number, point: ViscousPoint) => void;
  cancelled?: () => boolean;
}

/**
 * Solves angles from the middle outward, each from its neighbour, to the first that cannot be reached so: there the solutions fold, and nothing leads
 * on from this side. What lies behind is solved from its far end back; what is then left, once more from both sides.
 * @param runs places in the list, outward: up, then down.
 */
export function sweepAngles(runs: readonly (readonly number[])[], sweep: AngleSweep): void {
  for (const run of runs) new Run(run, sweep).solve();
}

class Run {
  /** Iterations spent on points that are not solved yet. */
  private readonly spent = new Map<number, number>();
  private readonly failures = new Map<number, ViscousPoint>();
  private readonly solved = new Set<number>();
  /** What was tried: a point, and the angle it was tried from. */
  private readonly tried = new Set<string>();

  constructor(
    private readonly run: readonly number[],
    private readonly sweep: AngleSweep,
  ) {
    for (const i of run) if (sweep.known(i)) this.solved.add(i);
  }

  solve(): void {
    const first = this.outward();
    this.fromTheFarEnd(first);
    this.fromBothSides();
    for (const i of this.run) {
      const failure = this.failures.get(i);
      if (failure && !this.solved.has(i)) this.sweep.give(i, { ...failure, iterations: this.spent.get(i)! });
    }
  }

  private get alphas(): readonly number[] {
    return this.sweep.alphas;
  }

  /** Takes what came of a try. @returns whether the point is solved. */
  private take(i: number, point: ViscousPoint): boolean {
    const iterations = (this.spent.get(i) ?? 0) + point.iterations;
    this.spent.set(i, iterations);
    if (point.status === 'unsolved') {
      this.failures.set(i, point);
      return false;
    }
    this.solved.add(i);
    this.sweep.give(i, { ...point, iterations });
    return true;
  }

  /** What a point may still cost by itself of what is given to it. */
  private left(i: number, effort: number): number {
    return Math.max(0, Math.min(effort, BY_ITSELF - (this.spent.get(i) ?? 0)));
  }

  private from(i: number, state: SolvedState, effort: number, otherSide: boolean): boolean {
    this.tried.add(`${i} ${state.alpha}`);
    const point = this.sweep.continued(i, state, effort);
    return this.take(i, otherSide && point.status !== 'unsolved' ? { ...point, approach: 'other-side' } : point);
  }

  /** @returns the place in the run of the first point that is not reached. */
  private outward(): number {
    const { run, sweep } = this;
    for (let k = 0; k < run.length; k++) {
      if (sweep.cancelled?.()) throw new Cancelled();
      const i = run[k];
      if (this.solved.has(i)) continue;
      const state = sweep.nearest(i);
      // Without any state yet, each point is a beginning of its own.
      if (!state) this.take(i, sweep.afresh(i, FIRST_OF_STRETCH));
      else if (!this.from(i, state, (this.stalledBefore(k) ? STALLED : GOING).fromNeighbour, false)) return k;
    }
    return run.length;
  }

  /** Whether the section has stalled before a place of the run, and no burst layer may be found behind it. */
  private stalledBefore(k: number): boolean {
    return !this.sweep.mayBurst && this.fallsBefore(k);
  }

  /** Whether the flow has left the surface on the way to a place of the run: lift falls outward there. */
  private fallsBefore(k: number): boolean {
    const [a, b] = [k - 2, k - 1].map((j) => (j < 0 ? undefined : this.sweep.point(this.run[j])));
    if (!a || !b || !isSolved(a) || !isSolved(b)) return false;
    const outward = Math.sign(b.alpha - a.alpha);
    // Where no plate's flow can stand in, every way is tried.
    if (outward * b.cl < LEAST_LIFT || outward * b.alpha < LEAST_ANGLE) return false;
    return outward * (b.cl - a.cl) < 0 || b.doubts.includes('nose-bubble-bursts');
  }

  /** Looks for a place inside a stretch that can be reached by itself, and goes outward from there. */
  private fromInside(first: number): void {
    const { run, sweep } = this;
    const end = run.length - 1;
    // Where lift has fallen, estimates go on as far as anything would be found.
    if (end - first < LONG_STRETCH - 1 || this.fallsBefore(first)) return;
    for (const share of [0.5, 0.75, 0.25]) {
      const middle = first + Math.round(share * (end - first));
      if (sweep.cancelled?.()) throw new Cancelled();
      if (
        this.solved.has(run[middle]) ||
        !this.take(run[middle], sweep.afresh(run[middle], this.left(run[middle], INSIDE_STRETCH)))
      )
        continue;
      for (let k = middle + 1; k <= end; k++) {
        const state = sweep.nearest(run[k]);
        if (this.solved.has(run[k]) || !state || !this.from(run[k], state, FROM_NEIGHBOUR, true)) break;
      }
      return;
    }
  }

  private fromTheFarEnd(first: number): void {
    const { run, sweep, alphas } = this;
    const most = this.stalledBefore(first) ? STALLED : GOING;
    let tries = 0;
    for (let k = run.length - 1; k >= first; k--) {
      if (sweep.cancelled?.()) throw new Cancelled();
      const i = run[k];
      // Once the far end has failed.
      if (most === GOING && k === run.length - 2 && tries === 1) this.fromInside(first);
      if (this.solved.has(i)) continue;
      if (k + 1 < run.length && this.solved.has(run[k + 1])) {
        const side = Math.sign(alphas[run[k + 1]] - alphas[i]) as 1 | -1;
        const state = sweep.nearest(i, side);
        if (state && this.from(i, state, FROM_NEIGHBOUR, true)) continue;
      }
      this.take(i, sweep.afresh(i, this.left(i, tries < FIRST ? most.first : most.rest)));
      tries = this.solved.has(i) ? 0 : tries + 1;
    }
  }

  private fromBothSides(): void {
    const { run, sweep, alphas } = this;
    for (const list of [run, run.slice().reverse()]) {
      let failed = false;
      for (const i of list) {
        if (sweep.cancelled?.()) throw new Cancelled();
        if (this.solved.has(i)) failed = false;
        else if (!failed) {
          const state = sweep.nearest(i);
          if (!state || Math.abs(state.alpha - alphas[i]) > FARTHEST) continue;
          failed = this.tried.has(`${i} ${state.alpha}`) || !this.from(i, state, FROM_NEIGHBOUR, true);
        }
      }
    }
  }
}
