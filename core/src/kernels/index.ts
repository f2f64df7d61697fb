import { factorise, FailedComputation, solveFactorised, type Factorisation } from '../numerics';
import { KERNEL_BYTES } from './binary';

/** The compiled inner loops (core/kernels), with the memory that they work in. Sizes and addresses in bytes. */
export interface Kernels {
  readonly memory: WebAssembly.Memory;
  readonly base: number;
  factorise(a: number, n: number, lda: number, pivot: number): number;
  solveFactorised(a: number, n: number, lda: number, pivot: number, b: number, count: number): void;
  assemble(
    corners: number,
    rows: number,
    strips: number,
    width: number,
    wakeX: number,
    wakeZ: number,
    controls: number,
    normals: number,
    count: number,
    own: number,
    image: number,
    matrix: number,
    lda: number,
    scratch: number,
  ): void;
  induce(
    corners: number,
    rows: number,
    strips: number,
    width: number,
    wakeX: number,
    wakeZ: number,
    points: number,
    count: number,
    own: number,
    image: number,
    gammas: number,
    sets: number,
    result: number,
    scratch: number,
  ): void;
}

let loaded: Kernels | null | undefined;
let compiled: WebAssembly.Module | null | undefined;

/** A new instance of the kernels with memory of its own, or null where WebAssembly is not to be had. */
export function instantiate(): Record<string, unknown> | null {
  if (compiled === undefined) {
    try {
      const bytes = Uint8Array.from(atob(KERNEL_BYTES), (c) => c.charCodeAt(0));
      compiled = new WebAssembly.Module(bytes);
    } catch {
      compiled = null;
    }
  }
  return compiled ? (new WebAssembly.Instance(compiled).exports as Record<string, unknown>) : null;
}

/** The kernels, or null where WebAssembly is not to be had; callers then use their TypeScript reference. */
export function kernels(): Kernels | null {
  if (loaded !== undefined) return loaded;
  const e = instantiate();
  loaded = e && {
    memory: e.memory as WebAssembly.Memory,
    base: 65536,
    factorise: e.factorise as Kernels['factorise'],
    solveFactorised: e.solveFactorised as Kernels['solveFactorised'],
    assemble: e.assemble as Kernels['assemble'],
    induce: e.induce as Kernels['induce'],
  };
  return loaded;
}

/** Hands out stretches of the kernels' memory, from its base upward; a new arena starts over. */
export class Arena {
  private at: number;

  constructor(private readonly k: Kernels) {
    this.at = k.base;
  }

  /** Room for `count` doubles, 16-byte aligned. @returns its address. */
  room(count: number): number {
    const address = (this.at + 15) & ~15;
    this.at = address + count * 8;
    const missing = this.at - this.k.memory.buffer.byteLength;
    if (missing > 0) this.k.memory.grow(Math.ceil(missing / 65536));
    return address;
  }

  /** Copies numbers in. @returns their address. */
  put(values: ArrayLike<number>): number {
    const address = this.room(values.length);
    this.doubles(address, values.length).set(values);
    return address;
  }

  /** A view of doubles at an address, good until the next `room` or `put`. */
  doubles(address: number, count: number): Float64Array {
    return new Float64Array(this.k.memory.buffer, address, count);
  }
}

/**
 * Factorises a matrix that lies in the kernels' memory. @param a address of n rows of lda doubles.
 * @returns the factorisation, copied out. @throws FailedComputation `singular-matrix`.
 */
export function factoriseInPlace(k: Kernels, arena: Arena, a: number, n: number, lda: number): Factorisation {
  const pivotAt = arena.room(Math.ceil(n / 2));
  const failed = k.factorise(a, n, lda, pivotAt);
  if (failed)
    throw new FailedComputation('singular-matrix', `The linear system is singular at equation ${failed} of ${n}.`);
  const rows = new Float64Array(n * n);
  const all = arena.doubles(a, n * lda);
  if (lda === n) rows.set(all);
  else for (let i = 0; i < n; i++) rows.set(all.subarray(i * lda, i * lda + n), i * n);
  return { n, rows, pivot: new Int32Array(k.memory.buffer, pivotAt, n).slice() };
}

/**
 * Factorises a dense matrix by the kernels where they can run, else by the TypeScript reference.
 * @param a n × n, row-major; may be overwritten. @throws FailedComputation `singular-matrix`.
 */
export function factoriseDense(a: Float64Array, n: number): Factorisation {
  const k = kernels();
  if (!k || n < 24) return factorise(a, n);
  const arena = new Arena(k);
  const lda = n + (n & 1);
  const at = arena.room(n * lda);
  const view = arena.doubles(at, n * lda);
  if (lda === n) view.set(a);
  else for (let i = 0; i < n; i++) view.set(a.subarray(i * n, (i + 1) * n), i * lda);
  return factoriseInPlace(k, arena, at, n, lda);
}

/**
 * Solves a factorised system for many right-hand sides, by the kernels where they can run.
 * @param columns the right-hand sides, n numbers each, one after the other; overwritten by the solutions.
 */
export function solveColumns(f: Factorisation, columns: Float64Array): void {
  const { n } = f;
  const count = columns.length / n;
  const k = kernels();
  if (!k) {
    for (let c = 0; c < count; c++) columns.set(solveFactorised(f, columns.slice(c * n, (c + 1) * n)), c * n);
    return;
  }
  const arena = new Arena(k);
  const rows = arena.put(f.rows);
  const pivot = arena.room(Math.ceil(n / 2));
  const b = arena.put(columns);
  new Int32Array(k.memory.buffer, pivot, n).set(f.pivot);
  k.solveFactorised(rows, n, n, pivot, b, count);
  columns.set(arena.doubles(b, columns.length));
}

export * from './coupled-memory';
export * from './single-matrix';
