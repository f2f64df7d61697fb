import { EXTRA_COLUMNS, type CoupledLoops } from './coupled-memory';

/** The loops of core/kernels/coupled.ts and lu.ts in TypeScript: where WebAssembly is not to be had, and what the compiled ones are tested against. */
export function reference(buffer: ArrayBufferLike): CoupledLoops {
  const f = new Float64Array(buffer, 0, Math.floor(buffer.byteLength / 8));
  const int = new Int32Array(buffer, 0, Math.floor(buffer.byteLength / 4));
  return {
    respond(
      order,
      before,
      from,
      to,
      kind,
      kept,
      r0,
      r1,
      r2,
      total,
      response,
      right,
      stagnation,
      weights,
      growth,
      weighted,
    ) {
      const rows = [r0 / 8, r1 / 8, r2 / 8];
      const nodeOf = (p: number) => int[order / 4 + p];
      const extend = (low: number, high: number, t: number) => {
        for (let j = low; j < high; j++) {
          const was = rows.map((r) => f[r + j]);
          rows.forEach((r, i) => {
            f[r + j] = f[t + 3 * i] * was[0] + f[t + 3 * i + 1] * was[1] + f[t + 3 * i + 2] * was[2];
          });
        }
      };
      for (let p = from; p < to; p++) {
        const node = nodeOf(p);
        const previous = p > from ? nodeOf(p - 1) : before;
        const low = kind === 0 ? node : kind === 1 ? nodeOf(from) : 0;
        const high = kind === 0 ? nodeOf(from) + 1 : kind === 1 ? node + 1 : total;
        const k = kept / 8 + node * 24;
        const add = (column: number, offset: number) => rows.forEach((r, i) => (f[r + column] += f[k + offset + i]));
        if (previous >= 0) {
          extend(low, high, k);
          extend(total, total + EXTRA_COLUMNS, k);
          add(previous, 9);
        }
        add(node, 12);
        add(total, 15);
        add(total + 1, 18);
        add(total + (kind === 0 ? 2 : 3), 21);
        const u = rows[2];
        for (let j = low; j < high; j++) f[response / 8 + node * total + j] = f[u + j];
        [0, 2, 3].forEach((column, i) => (f[right / 8 + i * total + node] += f[u + total + column]));
        f[stagnation / 8 + node] = f[u + total + 1];
        if (p >= weighted) continue;
        const [byTheta, bySpeed, own] = [0, 1, 2].map((i) => f[weights / 8 + 3 * p + i]);
        const row = growth / 8;
        const gather = (from: number, to: number) => {
          for (let j = from; j < to; j++) f[row + j] += byTheta * f[rows[1] + j] + bySpeed * f[u + j];
        };
        gather(low, high);
        gather(total, total + EXTRA_COLUMNS);
        f[row + node] += own;
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
