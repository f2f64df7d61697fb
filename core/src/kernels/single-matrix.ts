import { instantiate } from './index';

const BASE = 65536;
/** Memory that one instance of the kernels may have, bytes. */
const MOST = 2 ** 31;

/** A square matrix of single numbers, and its products with vectors of double ones: compiled where that can run, else in TypeScript. */
export class SingleMatrix {
  /** Row by row; good for the object's life. */
  readonly values: Float32Array;
  private readonly x: Float64Array;
  private readonly y: Float64Array;
  private readonly compiled?: () => void;

  /** @param n rows. @param wasm false asks for the TypeScript reference. */
  constructor(
    readonly n: number,
    wasm = true,
  ) {
    const size = (4 * n * n + 15) & ~15;
    const instance = wasm && 4 * n * n + 16 * n < MOST - 2 * BASE ? instantiate() : null;
    if (!instance) {
      this.values = new Float32Array(n * n);
      this.x = new Float64Array(n);
      this.y = new Float64Array(n);
      return;
    }
    const memory = instance.memory as WebAssembly.Memory;
    const wanted = BASE + size + 16 * n + 64;
    const missing = wanted - memory.buffer.byteLength;
    if (missing > 0) memory.grow(Math.ceil(missing / 65536));
    const [a, x] = [BASE, BASE + size];
    const y = (x + 8 * n + 15) & ~15;
    this.values = new Float32Array(memory.buffer, a, n * n);
    this.x = new Float64Array(memory.buffer, x, n);
    this.y = new Float64Array(memory.buffer, y, n);
    const multiply = instance.multiplySingle as (a: number, x: number, y: number, n: number) => void;
    this.compiled = () => multiply(a, x, y, n);
  }

  /** The product with a vector of n numbers; good until the next one. */
  times(vector: Float64Array): Float64Array {
    const { x, y, n, values } = this;
    x.set(vector);
    if (this.compiled) {
      this.compiled();
      return y;
    }
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let k = 0; k < n; k++) sum += values[i * n + k] * x[k];
      y[i] = sum;
    }
    return y;
  }
}
