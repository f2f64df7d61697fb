import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus as generator } from 'pure-rand/generator/xoroshiro128plus';

/** Random numbers from a seed: the same seed, the same numbers. */
export interface RandomGenerator {
  /** Of a normal distribution, mean 0 and spread 1. */ normal: () => number;
  /** Even between 0 and 1. */ uniform: () => number;
}

/** @param seed a whole number. @source normal numbers in pairs from even ones: Ann. Math. Stat. 29(2), 1958, 610–611. */
export function randomNumbers(seed: number): RandomGenerator {
  const source = generator(seed);
  const uniform = () => uniformFloat64(source);
  let spare: number | null = null;
  return {
    uniform,
    normal: () => {
      if (spare !== null) {
        const kept = spare;
        spare = null;
        return kept;
      }
      const size = Math.sqrt(-2 * Math.log(1 - uniform()));
      const angle = 2 * Math.PI * uniform();
      spare = size * Math.sin(angle);
      return size * Math.cos(angle);
    },
  };
}
