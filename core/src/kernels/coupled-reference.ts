import type { CoupledLoops } from './coupled-memory';

/** The loops of core/kernels/coupled.ts and lu.ts in TypeScript: where WebAssembly is not to be had, and what the compiled ones are tested against. */
export function reference(buffer: ArrayBufferLike): CoupledLoops {
  const f = new Float64Array(buffer, 0, Math.floor(buffer.byteLength / 8));
  const int = new Int32Array(buffer, 0, Math.floor(buffer.byteLength / 4));
  return {
    extend(r0, r1, r2, low, high, t) {
      const [p0, p1, p2, m] = [r0 / 8, r1 / 8, r2 / 8, t / 8];
      for (let j = low; j < high; j++) {
        const [p, q, r] = [f[p0 + j], f[p1 + j], f[p2 + j]];
        f[p0 + j] = f[m] * p + f[m + 1] * q + f[m + 2] * r;
        f[p1 + j] = f[m + 3] * p + f[m + 4] * q + f[m + 5] * r;
        f[p2 + j] = f[m + 6] * p + f[m + 7] * q + f[m + 8] * r;
      }
    },
    assembleCoupled(a, lda, mass, response, g, line, signs, scale, n) {
      for (let i = 0; i < n; i++) {
        const s = f[signs / 8 + i];
        const k = f[g / 8 + i];
        for (let j = 0; j < n; j++) {
          const value =
            s * f[signs / 8 + j] * f[mass / 8 + i * n + j] - f[response / 8 + i * n + j] - k * f[line / 8 + j];
          f[a / 8 + i * lda + j] = value * f[scale / 8 + j];
        }
      }
    },
    multiply(a, x, y, n) {
      for (let i = 0; i < n; i++) {
        let sum = 0;
        for (let j = 0; j < n; j++) sum += f[a / 8 + i * n + j] * f[x / 8 + j];
        f[y / 8 + i] = sum;
      }
    },
    factorise(a, n, lda, pivot) {
      const at = (i: number, j: number) => a / 8 + i * lda + j;
      for (let k = 0; k < n; k++) {
        let p = k;
        for (let i = k + 1; i < n; i++) if (Math.abs(f[at(i, k)]) > Math.abs(f[at(p, k)])) p = i;
        if (!(Math.abs(f[at(p, k)]) > 0) || !Number.isFinite(f[at(p, k)])) return k + 1;
        int[pivot / 4 + k] = p;
        if (p !== k)
          for (let j = 0; j < n; j++) {
            const t = f[at(k, j)];
            f[at(k, j)] = f[at(p, j)];
            f[at(p, j)] = t;
          }
        for (let i = k + 1; i < n; i++) {
          const l = (f[at(i, k)] /= f[at(k, k)]);
          for (let j = k + 1; j < n; j++) f[at(i, j)] -= l * f[at(k, j)];
        }
      }
      return 0;
    },
    solveFactorised(a, n, lda, pivot, b, count) {
      for (let c = 0; c < count; c++) {
        const x = b / 8 + c * n;
        for (let k = 0; k < n; k++) {
          const p = int[pivot / 4 + k];
          const t = f[x + k];
          f[x + k] = f[x + p];
          f[x + p] = t;
        }
        for (let i = 1; i < n; i++) for (let j = 0; j < i; j++) f[x + i] -= f[a / 8 + i * lda + j] * f[x + j];
        for (let i = n - 1; i >= 0; i--) {
          for (let j = i + 1; j < n; j++) f[x + i] -= f[a / 8 + i * lda + j] * f[x + j];
          f[x + i] /= f[a / 8 + i * lda + i];
        }
      }
    },
  };
}
