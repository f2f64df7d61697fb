/** How far transition may move in one iteration, chords. */
const MOST_MOVE = 0.05;
/** A place that has turned back may still move this far, chords; less with every iteration. */
const FREE_MOVE = 0.01;
/** Residual of the flow above which the places of transition are held back in proportion. */
const CALM = 0.2;
/** Residual of the flow above which a driven place is held back. */
const UNSETTLED = 0.3;
/** Residual of the flow below which n at two places can be compared. */
const SETTLED = 0.02;
/** So many times to and fro without coming nearer, and a place is driven on. */
const FRUITLESS = 2;
/** A turn that leaves more than this share of the criterion of the turn before was fruitless. */
const NO_NEARER = 0.7;
/** Share of the interval by which a driven place moves in its first step; it grows with each. */
const DRIVEN = 0.3;

/** What the moves of both places are decided from. Moves are along the loop's arc length. */
export interface TransitionState {
  /** n at the place less the critical one, of each surface. */
  criterion: readonly [number, number];
  critical: readonly [number, number];
  /** Whether a place is free, and not held at a trip or the edge. */
  free: readonly [boolean, boolean];
  /** Largest residual of the flow. */
  flowResidual: number;
  /** Length of the interval that a place lies in. */
  interval: (surface: 0 | 1) => number;
}

/**
 * How far the places of transition move: Newton's wish, bounded, and never against the sense of their equation.
 *
 * A place that goes to and fro without coming nearer has no root there: n as a function of the place has an extremum short of the critical value
 * (a bubble whose growth falls behind its reattachment). It is then driven on the way that growth calls for, until n passes the critical value.
 */
export class TransitionMoves {
  private readonly limit: [number, number] = [MOST_MOVE, MOST_MOVE];
  private readonly last: [number, number] = [0, 0];
  /** Criterion before the last step. */
  private readonly before: [number, number] = [0, 0];
  private readonly sign: [number, number] = [0, 0];
  private readonly turns: [number, number] = [0, 0];
  private readonly turnSize: [number, number] = [Infinity, Infinity];
  /** Steps for which a place has been driven; 0 while it is not. */
  private readonly driving: [number, number] = [0, 0];
  private steps = 0;

  /** Begins a new problem. */
  reset(): void {
    for (const k of [0, 1] as const) {
      this.limit[k] = MOST_MOVE;
      this.last[k] = this.before[k] = 0;
      this.release(k);
      this.sign[k] = 0;
    }
    this.steps = 0;
  }

  /** Whether a place is being driven, so that residuals say nothing about progress. */
  get driven(): boolean {
    return this.driving[0] > 0 || this.driving[1] > 0;
  }

  private release(k: 0 | 1): void {
    this.turns[k] = this.driving[k] = 0;
    this.turnSize[k] = Infinity;
  }

  /**
   * The moves of both places.
   * @param rows of each surface: n less the critical one after the rest of the step, and its change with the move of the upper and the lower place.
   */
  decide(rows: readonly (readonly number[])[], state: TransitionState): [number, number] {
    this.steps++;
    const { criterion, free } = state;
    for (const k of [0, 1] as const) {
      const sign = free[k] ? Math.sign(criterion[k]) : 0;
      if (sign === 0 || sign !== this.sign[k]) {
        if (this.driving[k] > 0) this.limit[k] = Math.max(this.limit[k], 0.5 * state.interval(k));
        this.release(k);
      }
      this.sign[k] = sign;
    }
    const moves = this.newton(rows, state);
    for (const k of [0, 1] as const) {
      if (!this.drive(k, moves, state)) this.bound(k, moves, state);
      this.before[k] = criterion[k];
    }
    return moves;
  }

  /** Remembers what was taken of the moves. */
  took(share: number, moves: readonly [number, number]): void {
    for (const k of [0, 1] as const) this.last[k] = share * moves[k];
  }

  private newton(rows: readonly (readonly number[])[], state: TransitionState): [number, number] {
    const moves: [number, number] = [0, 0];
    const limited = (k: 0 | 1, wish: number) => this.limited(k, wish, state);
    const [p, a, b] = rows[0];
    const [q, c, d] = rows[1];
    if (state.free[0] && state.free[1]) {
      const det = a * d - b * c;
      const wish: [number, number] = [(-p * d + b * q) / det, (-a * q + c * p) / det];
      moves[0] = limited(0, wish[0]);
      moves[1] = limited(1, wish[1]);
      // One that was bounded changes what the other should do.
      if (moves[0] !== wish[0] && moves[1] === wish[1]) moves[1] = limited(1, -(q + c * moves[0]) / d);
      else if (moves[1] !== wish[1] && moves[0] === wish[0]) moves[0] = limited(0, -(p + b * moves[1]) / a);
    } else if (state.free[0]) moves[0] = limited(0, -p / a);
    else if (state.free[1]) moves[1] = limited(1, -q / d);
    return moves;
  }

  /** The way that growth calls for: too little calls for a place further down. */
  private senseOf(k: 0 | 1, { criterion }: TransitionState): number {
    const down = k === 0 ? -1 : 1;
    return -Math.sign(criterion[k]) * down;
  }

  private limited(k: 0 | 1, wish: number, state: TransitionState): number {
    const sense = this.senseOf(k, state);
    const converging = Math.abs(state.criterion[k]) < 0.2 * state.critical[k];
    const size = this.limit[k] * Math.min(1, CALM / state.flowResidual);
    const move = !Number.isFinite(wish) || (!converging && wish * sense < 0) ? sense * 0.5 * size : wish;
    return Math.max(-size, Math.min(size, move));
  }

  /** Drives a place on where it turned fruitlessly. @returns whether it did. */
  private drive(k: 0 | 1, moves: [number, number], state: TransitionState): boolean {
    if (this.driving[k] > 0) {
      moves[k] = this.senseOf(k, state) * state.interval(k) * Math.min(1, DRIVEN * this.driving[k]);
      if (state.flowResidual < UNSETTLED) this.driving[k]++;
      else moves[k] *= CALM / state.flowResidual;
      this.limit[k] = MOST_MOVE;
      return true;
    }
    if (moves[k] * this.last[k] < 0) {
      const size = Math.abs(state.criterion[k]);
      const fruitless = size > 1e-4 * state.critical[k] && size > NO_NEARER * this.turnSize[k];
      this.turns[k] = fruitless ? this.turns[k] + 1 : 0;
      this.turnSize[k] = size;
      const other = state.free[1 - k] ? Math.abs(state.criterion[1 - k]) : 0;
      if (this.turns[k] >= FRUITLESS && size >= other) this.driving[k] = 1;
    }
    return false;
  }

  /** A place that turns back goes at most part of the way; one that keeps its way may go faster again. */
  private bound(k: 0 | 1, moves: [number, number], state: TransitionState): void {
    if (moves[k] * this.last[k] < 0) {
      const [now, before] = [state.criterion[k], this.before[k]];
      // To and fro about a kink of n, where both slopes miss: the line through both places hits between them.
      if (state.flowResidual < SETTLED && now * before < 0 && Math.abs(now) > 0.3 * Math.abs(before))
        moves[k] = (-this.last[k] * now) / (now - before);
      this.limit[k] = Math.max(FREE_MOVE * 0.6 ** this.steps, 0.6 * Math.abs(this.last[k]));
      moves[k] = Math.max(-this.limit[k], Math.min(this.limit[k], moves[k]));
    } else this.limit[k] = Math.min(MOST_MOVE, 2 * this.limit[k]);
  }
}
