import { FailedComputation } from '../numerics';
import { CoupledMemory } from './coupled-memory';

const N = 61;
/** Reproducible numbers between −1 and 1. */
function numbers(seed: number): () => number {
  let s = seed;
  return () => {
    s = (s * 1103515245 + 12345) % 2147483648;
    return s / 1073741824 - 1;
  };
}

/** A system whose columns come as near to each other as is asked. */
function filled(memory: CoupledMemory, seed: number, apart = 1): { a: Float64Array; b: Float64Array[] } {
  const next = numbers(seed);
  const { stride } = memory;
  for (let i = 0; i < N; i++) for (let j = 0; j < N; j++) memory.matrix[i * stride + j] = next() + (i === j ? 6 : 0);
  for (let i = 0; i < N; i++)
    memory.matrix[i * stride + 1] = memory.matrix[i * stride] + apart * memory.matrix[i * stride + 1];
  for (const b of memory.right) for (let i = 0; i < N; i++) b[i] = next();
  return { a: memory.matrix.slice(), b: memory.right.map((b) => b.slice()) };
}

/** Largest rest of the solutions in `right` over the largest right-hand side. */
function restOf(memory: CoupledMemory, { a, b }: ReturnType<typeof filled>): number {
  let most = 0;
  b.forEach((line, c) => {
    let worst = 0;
    for (let i = 0; i < N; i++) {
      let sum = line[i];
      for (let j = 0; j < N; j++) sum -= a[i * memory.stride + j] * memory.right[c][j];
      worst = Math.max(worst, Math.abs(sum));
    }
    most = Math.max(most, worst / Math.max(...line.map(Math.abs)));
  });
  return most;
}

describe('the coupled system solved with factors in single numbers', () => {
  it('is refined to what is asked for', () => {
    for (const goal of [1e-4, 1e-10]) {
      const memory = new CoupledMemory(N);
      const system = filled(memory, 7);
      memory.solve(goal);
      expect(restOf(memory, system)).toBeLessThan(goal);
    }
  });

  it('is solved by the reference alike', () => {
    const [compiled, reference] = [new CoupledMemory(N), new CoupledMemory(N, false)];
    filled(compiled, 3);
    filled(reference, 3);
    compiled.solve();
    reference.solve();
    compiled.right.forEach((b, c) => b.forEach((v, i) => expect(v).toBeCloseTo(reference.right[c][i], 9)));
  });

  it('may take the factors of a matrix near by, and makes new ones where these do not lead there', () => {
    const memory = new CoupledMemory(N);
    filled(memory, 7);
    memory.solve(1e-8);
    const near = filled(memory, 7);
    for (let i = 0; i < N * memory.stride; i++) near.a[i] = memory.matrix[i] *= 1 + 0.01 * Math.sin(i);
    memory.solve(1e-8, true);
    expect(restOf(memory, near)).toBeLessThan(1e-8);
    const far = filled(memory, 91);
    memory.solve(1e-8, true);
    expect(restOf(memory, far)).toBeLessThan(1e-8);
  });

  it('is solved in double numbers where single ones do not tell the columns apart', () => {
    const memory = new CoupledMemory(N);
    const system = filled(memory, 5, 1e-9);
    memory.solve(1e-4);
    expect(restOf(memory, system)).toBeLessThan(1e-6);
  });

  it('says where it is singular', () => {
    const memory = new CoupledMemory(N);
    filled(memory, 5);
    for (let i = 0; i < N; i++) memory.matrix[i * memory.stride + 9] = 0;
    expect(() => memory.solve()).toThrow(FailedComputation);
    filled(memory, 5);
    memory.matrix[4 * memory.stride + 9] = NaN;
    expect(() => memory.solve()).toThrow(/singular/);
  });
});
