import { randomNumbers } from '../simulation';
import { evenPoints, normalQuantile } from './quasi-random';
import type { Axis, Tries } from './tries';

/** A number with its own error, a standard deviation. */
export interface Estimate {
  value: number;
  error: number;
}

/** What uncertain variables make of one answer. */
export interface AnswerSpread {
  mean: number;
  sd: number;
  /** Below which 5, 50 and 95 in a hundred lie. */ p5: number;
  p50: number;
  p95: number;
  /** Share of tries that failed. */ failed: number;
  /** Share of its variance that each variable causes alone, and with all others. */
  first: Estimate[];
  total: Estimate[];
}

export interface SpreadAxis extends Axis {
  /** Of a normal distribution about the value as it stands; even between the bounds without. */ sd?: number;
}

const DEFAULT_BUDGET = 512;
const RESAMPLES = 50;

const valueOf = (axis: SpreadAxis, share: number): number =>
  axis.sd === undefined ? axis.from + share * (axis.to - axis.from) : axis.value + axis.sd * normalQuantile(share);
const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
const quantile = (sorted: readonly number[], share: number): number => {
  const at = share * (sorted.length - 1);
  const i = Math.min(sorted.length - 2, Math.floor(at));
  return sorted.length === 1 ? sorted[0] : sorted[i] + (at - i) * (sorted[i + 1] - sorted[i]);
};

/** First-order and total indices of rows of (f of A, f of B, f of A with one column of B). */
function indices(rows: readonly { a: number; b: number; mixed: number }[]) {
  const all = rows.flatMap((r) => [r.a, r.b]);
  const m = mean(all);
  const variance = mean(all.map((v) => (v - m) ** 2));
  if (!(variance > 0)) return { first: 0, total: 0 };
  return {
    first: mean(rows.map((r) => (r.b - m) * (r.mixed - r.a))) / variance,
    total: mean(rows.map((r) => (r.a - r.mixed) ** 2)) / (2 * variance),
  };
}

/**
 * Spread of every answer over uncertain variables, by points that fill the space evenly, and which variable causes how much of it.
 * @param budget tries at most. @param seed the same seed, the same tries. @param count of answers.
 * @source indices: Saltelli et al., Comput. Phys. Commun. 181(2), 2010, 259–270 (first order with the mean taken off; total by Jansen, 1999).
 */
export async function spreadOf(
  tries: Tries,
  axes: readonly SpreadAxis[],
  count: number,
  { budget = DEFAULT_BUDGET, seed }: { budget?: number; seed: number },
): Promise<{ answers: (AnswerSpread | null)[]; samples: number[][] }> {
  const d = axes.length;
  const n = Math.max(2, Math.floor(budget / (d + 2)));
  const points = evenPoints(n, 2 * d, seed);
  const placed = (shares: readonly number[]) => axes.map((a, i) => valueOf(a, shares[i]));
  const runs: { a: (number | null)[]; b: (number | null)[]; mixed: (number | null)[][] }[] = [];
  for (const [k, p] of points.entries()) {
    const [a, b] = [p.slice(0, d), p.slice(d)];
    const answers = async (shares: readonly number[]) => (await tries.at(placed(shares))).answers;
    const mixed: (number | null)[][] = [];
    const [fa, fb] = [await answers(a), await answers(b)];
    for (let i = 0; i < d; i++) mixed.push(await answers(a.map((v, j) => (j === i ? b[j] : v))));
    runs.push({ a: fa, b: fb, mixed });
    tries.tell(k + 1, n);
  }
  const random = randomNumbers(seed + 1);
  const answers = Array.from({ length: count }, (_, q): AnswerSpread | null => {
    const values = runs.flatMap((r) => [r.a[q], r.b[q]]);
    const known = values.filter((v): v is number => v !== null).sort((x, y) => x - y);
    if (known.length === 0) return null;
    const m = mean(known);
    const estimates = axes.map((_, i) => {
      const rows = runs.flatMap((r) => {
        const [a, b, mixed] = [r.a[q], r.b[q], r.mixed[i][q]];
        return a === null || b === null || mixed === null ? [] : [{ a, b, mixed }];
      });
      if (rows.length < 2) return { first: { value: NaN, error: NaN }, total: { value: NaN, error: NaN } };
      const whole = indices(rows);
      // Their own error: the same from rows that are drawn again.
      const again = Array.from({ length: RESAMPLES }, () =>
        indices(rows.map(() => rows[Math.floor(random.uniform() * rows.length)])),
      );
      const error = (key: 'first' | 'total') => {
        const own = mean(again.map((r) => r[key]));
        return Math.sqrt(mean(again.map((r) => (r[key] - own) ** 2)));
      };
      return {
        first: { value: whole.first, error: error('first') },
        total: { value: whole.total, error: error('total') },
      };
    });
    return {
      mean: m,
      sd: Math.sqrt(mean(known.map((v) => (v - m) ** 2))),
      p5: quantile(known, 0.05),
      p50: quantile(known, 0.5),
      p95: quantile(known, 0.95),
      failed: 1 - known.length / values.length,
      first: estimates.map((e) => e.first),
      total: estimates.map((e) => e.total),
    };
  });
  // Of the even points alone, for chances of bands.
  const samples = Array.from({ length: count }, (_, q) => runs.flatMap((r) => [r.a[q], r.b[q]]).map((v) => v ?? NaN));
  return { answers, samples };
}
