import { factorise, FailedComputation, solveFactorised } from '../numerics';

/**
 * Solves a small dense system. @param a n × n, row-major; overwritten. @param right n values; overwritten.
 * @param least size of a pivot below which the system has no solution of its own. @returns the solution, or nothing.
 */
export function solved(a: Float64Array, right: Float64Array, least: number): Float64Array | undefined {
  const n = right.length;
  try {
    const f = factorise(a, n);
    for (let k = 0; k < n; k++) if (!(Math.abs(f.rows[k * n + k]) > least)) return undefined;
    return solveFactorised(f, right);
  } catch (error) {
    if (error instanceof FailedComputation) return undefined;
    throw error;
  }
}
