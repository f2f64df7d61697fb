import { Cancelled } from '../../results';

/** Iterations that one point may take over all its attempts. */
export const DEFAULT_EFFORT = 1400;

/**
 * What a point may cost, counted in iterations, so that a result does not depend on the machine or its load. A clock may only end the whole analysis.
 */
export class Effort {
  private spentSoFar = 0;

  /** @param most iterations. @param cancelled asked now and then; true ends everything with {@link Cancelled}. */
  constructor(
    private most: number,
    private readonly cancelled?: () => boolean,
  ) {}

  /** Iterations taken so far. */
  get spent(): number {
    return this.spentSoFar;
  }

  get exhausted(): boolean {
    return this.spentSoFar >= this.most;
  }

  /** Does a part of the work with at most so many iterations of its own. */
  within<T>(iterations: number, work: () => T): T {
    const all = this.most;
    this.most = Math.min(all, this.spentSoFar + iterations);
    try {
      return work();
    } finally {
      this.most = all;
    }
  }

  /** Counts one iteration. @throws Cancelled when the analysis is told to end. */
  take(): void {
    this.spentSoFar++;
    if (this.spentSoFar % 8 === 0 && this.cancelled?.()) throw new Cancelled();
  }
}
