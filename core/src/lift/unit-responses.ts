import type { Response } from './near-field';

/** Responses to units of several right-hand sides, packed so that sums of them are quick: gamma, u, v and w of one after the other. */
export class UnitResponses {
  private readonly packed: Float64Array;
  private readonly total: number;

  /** @param responses one or more, of the same horseshoes. */
  constructor(responses: readonly Response[]) {
    this.total = responses[0]?.gamma.length ?? 0;
    this.packed = new Float64Array(responses.length * 4 * this.total);
    responses.forEach((r, k) =>
      [r.gamma, r.u, r.v, r.w].forEach((part, q) => this.packed.set(part, (4 * k + q) * this.total)),
    );
  }

  /** @param amounts one a response, in their order. @returns their sum. */
  sum(amounts: ArrayLike<number>): Response {
    const { packed, total } = this;
    const out = new Float64Array(4 * total);
    for (let k = 0; k < amounts.length; k++) {
      const a = amounts[k];
      if (a === 0) continue;
      const at = 4 * k * total;
      for (let i = 0; i < out.length; i++) out[i] += a * packed[at + i];
    }
    const part = (q: number) => out.subarray(q * total, (q + 1) * total);
    return { gamma: part(0), u: part(1), v: part(2), w: part(3) };
  }
}
