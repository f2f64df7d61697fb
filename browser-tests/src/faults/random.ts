/** Numbers from 0 to 1 that are the same with every run of a seed. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0), state / 2 ** 32);
}
