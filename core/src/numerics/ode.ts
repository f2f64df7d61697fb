/** The right side of y' = f(t, y), written into `out`. */
export type Derivative = (t: number, y: Float64Array, out: Float64Array) => void;

/** Bounds of the error of one step: |error| ≤ absolute + relative |y|, for every entry. */
export interface Tolerance {
  relative: number;
  /** One for all entries, or one each. */ absolute: number | ArrayLike<number>;
}

/*
 * The pair of orders 5 and 4 with seven stages, the last of which is the first of the next step.
 *   c | a
 *     | b    (order 5; the last row of a)
 *     | e    (order 5 − order 4)
 */
const C = [0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1, 1];
const A = [
  [],
  [1 / 5],
  [3 / 40, 9 / 40],
  [44 / 45, -56 / 15, 32 / 9],
  [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
  [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
  [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
];
const E = [71 / 57600, 0, -71 / 16695, 71 / 1920, -17253 / 339200, 22 / 525, -1 / 40];
const STAGES = 7;

/** Why an integration came to no end. */
export type Trouble = 'not-finite' | 'step-too-small' | 'budget';

/**
 * Integrates y' = f with steps fitted to an error bound, by the pair of order 5(4); one object holds the state, so that it can be driven from stop to stop.
 * @source J. Comput. Appl. Math. 6(1), 1980, 19–26; steps by a proportional and integral rule, ACM Trans. Math. Softw. 17(4), 1991, 533–554.
 */
export class Integrator {
  /** Time and state that are reached. */
  t: number;
  readonly y: Float64Array;
  /** Steps taken, those that were thrown away, and evaluations of f: the work is counted in these. */
  steps = 0;
  rejected = 0;
  evaluations = 0;
  /** Size of the next step. */
  private h: number;
  private readonly k: Float64Array[];
  private readonly trial: Float64Array;
  private readonly stage: Float64Array;
  /** State and slope at the start of the step that is watched for events. */
  private readonly before: Float64Array;
  private readonly first: Float64Array;
  private lastError = 1e-4;
  private fresh = false;

  /** @param first size of the first step. */
  constructor(
    private f: Derivative,
    t: number,
    y: ArrayLike<number>,
    private readonly tolerance: Tolerance,
    first: number,
  ) {
    this.t = t;
    this.y = Float64Array.from(y);
    this.h = first;
    this.k = Array.from({ length: STAGES }, () => new Float64Array(y.length));
    this.trial = new Float64Array(y.length);
    this.stage = new Float64Array(y.length);
    this.before = new Float64Array(y.length);
    this.first = new Float64Array(y.length);
  }

  /** The state, or what moves it, was changed from outside: nothing is carried over from before. */
  changed(f?: Derivative): void {
    if (f) this.f = f;
    this.fresh = false;
  }

  /** Tries one step of a size; the outcome lies in `trial`. @returns the error over its bound; NaN for numbers that are not finite. */
  private attempt(h: number): number {
    const { k, stage, trial, y, t } = this;
    const n = y.length;
    if (!this.fresh) {
      this.f(t, y, k[0]);
      this.evaluations++;
      this.fresh = true;
    }
    for (let s = 1; s < STAGES; s++) {
      const a = A[s];
      const out = s === STAGES - 1 ? trial : stage;
      for (let i = 0; i < n; i++) {
        let sum = 0;
        for (let j = 0; j < s; j++) sum += a[j] * k[j][i];
        out[i] = y[i] + h * sum;
      }
      this.f(t + C[s] * h, out, k[s]);
    }
    this.evaluations += STAGES - 1;
    const { relative, absolute } = this.tolerance;
    let worst = 0;
    for (let i = 0; i < n; i++) {
      let e = 0;
      for (let s = 0; s < STAGES; s++) e += E[s] * k[s][i];
      const bound =
        (typeof absolute === 'number' ? absolute : absolute[i]) +
        relative * Math.max(Math.abs(y[i]), Math.abs(trial[i]));
      const share = Math.abs(h * e) / bound;
      if (!(share <= worst)) worst = share;
    }
    return worst;
  }

  /**
   * One step that keeps the bound, not beyond `end`.
   * @returns null when it was taken, or what stood in its way.
   */
  step(end: number): Trouble | null {
    const least = 1e-13 * Math.max(1e-3, Math.abs(this.t));
    for (let tries = 0; tries < 60; tries++) {
      const left = end - this.t;
      // A step that nearly reaches the end reaches it.
      const last = this.h >= left * (1 - 1e-9);
      const h = last ? left : this.h;
      const error = this.attempt(h);
      if (!(error <= 1)) {
        this.rejected++;
        if (Number.isNaN(error)) this.h = h * 0.1;
        else this.h = h * Math.max(0.2, 0.9 * error ** -0.2);
        if (!(this.h > least)) return Number.isNaN(error) ? 'not-finite' : 'step-too-small';
        continue;
      }
      const grow = error === 0 ? 5 : 0.9 * error ** -0.17 * this.lastError ** 0.04;
      this.lastError = Math.max(error, 1e-4);
      // A step that was cut at the end says nothing about the size of the next, unless it shows that a smaller one is needed.
      const next = h * Math.max(0.2, Math.min(5, grow));
      this.h = last && h < this.h ? Math.max(next, this.h) : next;
      this.t = last ? end : this.t + h;
      this.y.set(this.trial);
      this.k[0].set(this.k[STAGES - 1]);
      this.steps++;
      return null;
    }
    return 'step-too-small';
  }

  /**
   * Integrates up to a time, or up to where the first of some functions of time and state falls through zero.
   * @param events each is watched for a change from above zero to zero or below; where it happens is found to 1e-12 s by going over the step anew.
   * @param budget greatest number of evaluations of f in the life of this integrator.
   * @returns index of the event that ended it, −1 at the time, or the trouble.
   */
  to(
    end: number,
    events: readonly ((t: number, y: Float64Array) => number)[] = [],
    budget = Infinity,
  ): number | Trouble {
    const { before, first } = this;
    let values = events.map((e) => e(this.t, this.y));
    while (this.t < end) {
      if (this.evaluations > budget) return 'budget';
      const from = this.t;
      if (events.length > 0) {
        before.set(this.y);
        if (!this.fresh) {
          this.f(this.t, this.y, this.k[0]);
          this.evaluations++;
          this.fresh = true;
        }
        first.set(this.k[0]);
      }
      const trouble = this.step(end);
      if (trouble) return trouble;
      const now = events.map((e) => e(this.t, this.y));
      let hit = -1;
      let at = this.t;
      events.forEach((event, i) => {
        if (!(values[i] > 0 && now[i] <= 0)) return;
        const found = this.locate(event, from, before, first, this.t);
        if (hit < 0 || found < at) [hit, at] = [i, found];
      });
      if (hit >= 0) {
        this.land(from, before, first, at - from);
        return hit;
      }
      values = now;
    }
    return -1;
  }

  /** The state at a part of a step that was just taken, by a step of that size from its start. */
  private land(from: number, start: Float64Array, slope: Float64Array, h: number): void {
    this.t = from;
    this.y.set(start);
    this.k[0].set(slope);
    this.fresh = true;
    this.attempt(h);
    this.t = from + h;
    this.y.set(this.trial);
    this.fresh = false;
  }

  private locate(
    event: (t: number, y: Float64Array) => number,
    from: number,
    start: Float64Array,
    slope: Float64Array,
    end: number,
  ): number {
    let [low, high] = [0, end - from];
    const [t, y] = [this.t, this.y.slice()];
    const k = this.k[0].slice();
    const value = (h: number) => {
      this.land(from, start, slope, h);
      return event(this.t, this.y);
    };
    let [above, below] = [event(from, start), value(high)];
    for (let i = 0; i < 100 && high - low > 1e-12; i++) {
      // By the secant where it halves, else in the middle.
      const guess = low + ((high - low) * above) / (above - below);
      const h = i % 3 === 2 || !(guess > low && guess < high) ? 0.5 * (low + high) : guess;
      const v = value(h);
      if (v > 0) [low, above] = [h, v];
      else [high, below] = [h, v];
    }
    this.t = t;
    this.y.set(y);
    this.k[0].set(k);
    this.fresh = true;
    return from + high;
  }
}
