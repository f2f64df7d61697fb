import { FailedComputation } from './errors';

/**
 * Solves a symmetric positive definite system of a narrow band.
 * @param band row-major lower band: band[i·(w+1) + k] is the element (i, i−w+k), so the last of a row is its diagonal; overwritten.
 * @param width w, elements left of the diagonal. @param right right-hand side, length n; overwritten by the solution.
 * @throws FailedComputation `not-positive` where the matrix is not positive definite.
 * @source Golub & Van Loan, Matrix Computations, 4th ed., 2013, section 4.3 (band Cholesky).
 */
export function solveBanded(band: Float64Array, width: number, right: Float64Array): Float64Array {
  const n = right.length;
  const row = width + 1;
  const at = (i: number, j: number) => i * row + (j - i + width);
  for (let i = 0; i < n; i++) {
    for (let j = Math.max(0, i - width); j <= i; j++) {
      let sum = band[at(i, j)];
      for (let k = Math.max(0, i - width); k < j; k++) if (k >= j - width) sum -= band[at(i, k)] * band[at(j, k)];
      if (i === j) {
        if (!(sum > 0)) throw new FailedComputation('not-positive', 'A banded matrix is not positive definite.');
        band[at(i, i)] = Math.sqrt(sum);
      } else band[at(i, j)] = sum / band[at(j, j)];
    }
  }
  for (let i = 0; i < n; i++) {
    let sum = right[i];
    for (let k = Math.max(0, i - width); k < i; k++) sum -= band[at(i, k)] * right[k];
    right[i] = sum / band[at(i, i)];
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = right[i];
    for (let k = i + 1; k <= Math.min(n - 1, i + width); k++) sum -= band[at(k, i)] * right[k];
    right[i] = sum / band[at(i, i)];
  }
  return right;
}

/** Weights of the third derivative over the interval i…i+1 from the values at i−1 … i+2, over uneven places. */
export function thirdDifference(s: ArrayLike<number>, i: number): [number, number, number, number] {
  const h = [s[i] - s[i - 1], s[i + 1] - s[i], s[i + 2] - s[i + 1]];
  // Second derivatives at i and i+1.
  const one = [2 / (h[0] * (h[0] + h[1])), -2 / (h[0] * h[1]), 2 / (h[1] * (h[0] + h[1]))];
  const two = [2 / (h[1] * (h[1] + h[2])), -2 / (h[1] * h[2]), 2 / (h[2] * (h[1] + h[2]))];
  // Each stands for the middle of its three places.
  const d = (s[i + 2] - s[i - 1]) / 3;
  return [-one[0] / d, (two[0] - one[1]) / d, (two[1] - one[2]) / d, two[2] / d];
}

/**
 * Values d that make the third derivative of (d) come near −t at the least cost: minimises λ Σ h (d‴ + t)² + Σ h d², the ends held at 0.
 * @param s places, increasing, length n. @param t third derivative to be removed, per interval (t[i] between i and i+1).
 * @param reach smoothing length ℓ, λ = ℓ⁶: waves shorter than about 2πℓ vanish. @returns d, length n, zero in its first and last two.
 */
export function smoothingChange(s: ArrayLike<number>, t: ArrayLike<number>, reach: number): Float64Array {
  const n = s.length;
  const out = new Float64Array(n);
  const inner = n - 4;
  if (inner < 1 || reach <= 0) return out;
  const lambda = reach ** 6;
  const band = new Float64Array(inner * 4);
  const right = new Float64Array(inner);
  for (let i = 1; i + 2 < n; i++) {
    const w = thirdDifference(s, i);
    const h = s[i + 1] - s[i];
    for (let p = 0; p < 4; p++) {
      const row = i - 1 + p - 2;
      if (row < 0 || row >= inner) continue;
      right[row] -= lambda * h * w[p] * t[i];
      for (let q = 0; q <= p; q++) {
        const column = i - 1 + q - 2;
        if (column >= 0) band[row * 4 + (column - row + 3)] += lambda * h * w[p] * w[q];
      }
    }
  }
  for (let k = 0; k < inner; k++) band[k * 4 + 3] += 0.5 * (s[k + 3] - s[k + 1]);
  solveBanded(band, 3, right);
  out.set(right, 2);
  return out;
}
