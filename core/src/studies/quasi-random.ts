import { erf } from 'mathjs';
import { randomNumbers } from '../simulation';

/** The first primes. */
function primes(count: number): number[] {
  const out: number[] = [];
  for (let n = 2; out.length < count; n++) if (out.every((p) => n % p !== 0)) out.push(n);
  return out;
}

/**
 * Points that fill the unit cube evenly: radical inverses in prime bases whose digits are permuted by a seed, so that high bases do not run side by side.
 * @param seed a whole number: the same seed, the same points. @returns rows of numbers from 0 to 1, both left out.
 * @source Halton, Numerische Mathematik 2, 1960, 84–90; permuted digits: Braaten and Weller, J. Comput. Phys. 33(2), 1979, 249–258.
 */
export function evenPoints(count: number, dimensions: number, seed: number): number[][] {
  const random = randomNumbers(seed);
  const bases = primes(dimensions);
  const permutations = bases.map((base) => {
    const digits = Array.from({ length: base }, (_, i) => i);
    for (let i = base - 1; i > 0; i--) {
      const j = Math.floor(random.uniform() * (i + 1));
      [digits[i], digits[j]] = [digits[j], digits[i]];
    }
    return digits;
  });
  const shifts = bases.map(() => random.uniform());
  const at = (index: number, d: number): number => {
    const base = bases[d];
    let [value, weight, rest] = [0, 1 / base, index];
    // Beyond the index all digits are zero, and zero is permuted too: digits go on until they no longer count.
    while (weight > 1e-15) {
      value += weight * permutations[d][rest % base];
      rest = Math.floor(rest / base);
      weight /= base;
    }
    const moved = (value + shifts[d]) % 1;
    return Math.min(1 - 1e-12, Math.max(1e-12, moved));
  };
  return Array.from({ length: count }, (_, i) => bases.map((_, d) => at(i, d)));
}

/** The number that a share of a normal distribution (mean 0, spread 1) lies below. @param share between 0 and 1. */
export function normalQuantile(share: number): number {
  // From the logistic curve beside it, by Newton's rule.
  let x = Math.log(share / (1 - share)) / 1.702;
  for (let k = 0; k < 60; k++) {
    const density = Math.exp(-0.5 * x * x) / Math.sqrt(2 * Math.PI);
    const off = 0.5 * (1 + erf(x / Math.SQRT2)) - share;
    const step = Math.max(-0.5, Math.min(0.5, off / Math.max(density, 1e-300)));
    x -= step;
    if (Math.abs(step) < 1e-13) break;
  }
  return x;
}
