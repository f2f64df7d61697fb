import type { Member } from './family';
import { solved } from './solved';

/** Numbers that move together cannot be told apart: their normal equations have a pivot below this. */
const LEAST_PIVOT = 1e-9;

/** What each number does to a fact over its range, by a linear fit over all members. */
export interface Effects {
  /** Change of the fact from the least to the greatest value of each number, the others held. */
  over: number[];
  /** Share of the fact's variance that the fit explains, 0 to 1. */
  explained: number;
}

/**
 * Linear effects of numbers on a fact, by least squares on the numbers scaled to their ranges.
 * @param members values of the numbers. @param facts the fact of each member; members without it are left out.
 * @returns nothing where there are too few members, or the numbers do not vary apart from each other.
 */
export function effectsOf(members: readonly Member[], facts: readonly (number | null)[]): Effects | null {
  const rows = members.flatMap((m, i) =>
    facts[i] === null || !Number.isFinite(facts[i]) ? [] : [{ m, f: facts[i]! }],
  );
  const n = members[0]?.length ?? 0;
  if (n === 0 || rows.length < n + 1) return null;
  const low = Array.from({ length: n }, (_, i) => Math.min(...rows.map((r) => r.m[i])));
  const range = low.map((v, i) => Math.max(...rows.map((r) => r.m[i])) - v);
  const varied = range.flatMap((r, i) => (r > 0 ? [i] : []));
  if (varied.length === 0) return null;
  // Means taken out, so that the normal equations stay well conditioned.
  const mean = (of: (r: (typeof rows)[number]) => number) => rows.reduce((s, r) => s + of(r), 0) / rows.length;
  const centre = varied.map((i) => mean((r) => (r.m[i] - low[i]) / range[i]));
  const level = mean((r) => r.f);
  const k = varied.length;
  const a = new Float64Array(k * k);
  const right = new Float64Array(k);
  let total = 0;
  for (const { m, f } of rows) {
    const u = varied.map((i, j) => (m[i] - low[i]) / range[i] - centre[j]);
    for (let p = 0; p < k; p++) {
      for (let q = 0; q < k; q++) a[p * k + q] += (u[p] * u[q]) / rows.length;
      right[p] += (u[p] * (f - level)) / rows.length;
    }
    total += (f - level) ** 2 / rows.length;
  }
  const b = solved(a, right.slice(), LEAST_PIVOT);
  if (!b) return null;
  const over = low.map(() => 0);
  varied.forEach((i, j) => (over[i] = b[j]));
  const fitted = b.reduce((s, v, j) => s + v * right[j], 0);
  return { over, explained: total > 0 ? Math.min(1, Math.max(0, fitted / total)) : 1 };
}
