import type { Candidate, Criterion } from './choose';
import { memberKey, type Member } from './family';
import { solved } from './solved';

/** What a broken limit costs beside what counts, in shares of the limit. */
const BROKEN = 10;

/**
 * How far a section is from what is asked of it: shares by which limits are broken, and what counts, by the worst of its curves.
 * @returns less is better; below or about zero where all limits are kept.
 */
export function costOf(curves: readonly Pick<Candidate, 'facts'>[], criteria: readonly Criterion[]): number {
  let cost = 0;
  const total = criteria.reduce((s, c) => s + c.weight, 0) || 1;
  for (const { fact, way, value, weight } of criteria) {
    const scale = Math.max(Math.abs(value), 1e-3);
    let worst = Infinity;
    for (const { facts } of curves) {
      const v = facts[fact] ?? null;
      const spare = v === null ? -scale : way === 'least' ? v - value : value - v;
      if (spare < worst) worst = spare;
    }
    if (!Number.isFinite(worst)) worst = -scale;
    if (worst < 0) cost += BROKEN * (-worst / scale);
    cost -= (weight / total) * (worst / scale);
  }
  return cost;
}

/** A member that was tried, and what it came to. */
export interface Tried {
  member: Member;
  cost: number;
}

/** Candidates that the model is asked about at every step. */
const ASKED = 400;
/** Least distances of a new try from all others, in shares of the ranges: from looking around to closing in, and again. */
const APART = [0.15, 0.05, 0.02, 0.005, 0.001];

/** The k-th number of a sequence that fills [0, 1] evenly in a base. @source van der Corput's radical inverse. */
function radicalInverse(k: number, base: number): number {
  let [r, f] = [0, 1 / base];
  for (let i = k; i > 0; i = Math.floor(i / base), f /= base) r += f * (i % base);
  return r;
}
const PRIMES = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29];

/**
 * Members to try next, towards the least cost: a model through all tries (cubic radial functions with a linear part) is asked about points spread over
 * the box and about the best, and its least are taken that keep apart from what was tried. It depends on the tries alone, so that a search that was
 * broken off goes on as if it had not been.
 * @param bounds least and greatest of each number. @param count how many at once.
 */
export function nextTries(
  bounds: readonly (readonly [number, number])[],
  tried: readonly Tried[],
  count: number,
): Member[] {
  const n = bounds.length;
  if (n === 0 || count <= 0) return [];
  const scale = (m: Member) =>
    m.map((v, i) => (bounds[i][1] > bounds[i][0] ? (v - bounds[i][0]) / (bounds[i][1] - bounds[i][0]) : 0));
  const back = (u: number[]): Member =>
    u.map((v, i) => Number((bounds[i][0] + v * (bounds[i][1] - bounds[i][0])).toPrecision(8)));
  const points = tried.map((t) => scale(t.member));
  const finite = tried.filter((t) => Number.isFinite(t.cost));
  const ceiling = finite.length ? Math.max(...finite.map((t) => t.cost)) : 1;
  // The model would be bent by a few tries that are far off.
  const sorted = finite.map((t) => t.cost).sort((a, b) => a - b);
  const most = sorted.length
    ? Math.min(ceiling, sorted[0] + 3 * (sorted[Math.floor(sorted.length / 2)] - sorted[0] || 1))
    : 1;
  const costs = tried.map((t) => Math.min(most, Number.isFinite(t.cost) ? t.cost : most));
  const spread = (k: number) => Array.from({ length: n }, (_, i) => radicalInverse(k, PRIMES[i % PRIMES.length]));
  const chosen: number[][] = [];
  const distance = (u: number[], v: number[]) => Math.hypot(...u.map((x, i) => x - v[i]));
  const free = (u: number[], apart: number) =>
    [...points, ...chosen].every((p) => distance(p, u) >= apart * Math.sqrt(n));
  const model = points.length > n + 1 ? radialModel(points, costs) : undefined;
  const best = costs.length ? points[costs.indexOf(Math.min(...costs))] : undefined;
  for (let c = 0; c < count; c++) {
    const turn = tried.length + c;
    const asked: number[][] = [];
    for (let k = 0; k < ASKED; k++) {
      const u = spread(1 + turn * 7 + k);
      asked.push(u);
      if (!best) continue;
      // About the best, nearer and nearer.
      const reach = 0.25 * 0.5 ** (k % 6);
      asked.push(best.map((v, i) => Math.min(1, Math.max(0, v + reach * (2 * u[i] - 1)))));
    }
    const value = (u: number[]) => (model ? model(u) : 0);
    const ranked = model
      ? asked.map((u) => ({ u, v: value(u) })).sort((a, b) => a.v - b.v)
      : asked.map((u) => ({ u, v: 0 }));
    const first = turn % APART.length;
    const found = [...APART.slice(first), ...APART.slice(0, first).reverse()]
      .map((apart) => ranked.find(({ u }) => free(u, apart)))
      .find(Boolean);
    if (!found) break;
    chosen.push(found.u);
  }
  const known = new Set(tried.map((t) => memberKey(t.member)));
  return chosen.map(back).filter((m) => !known.has(memberKey(m)));
}

/** A function through values at points: cubic radial functions with a linear part; nothing where the points do not carry one. */
function radialModel(points: readonly number[][], values: readonly number[]): ((u: number[]) => number) | undefined {
  const m = points.length;
  const n = points[0].length;
  const size = m + n + 1;
  const a = new Float64Array(size * size);
  const right = new Float64Array(size);
  const cube = (u: number[], v: number[]) => Math.hypot(...u.map((x, i) => x - v[i])) ** 3;
  for (let i = 0; i < m; i++) {
    for (let j = 0; j < m; j++) a[i * size + j] = cube(points[i], points[j]);
    // Points that nearly fall together are not followed to the last digit.
    a[i * size + i] += 1e-8;
    a[i * size + m] = a[m * size + i] = 1;
    for (let k = 0; k < n; k++) a[i * size + m + 1 + k] = a[(m + 1 + k) * size + i] = points[i][k];
    right[i] = values[i];
  }
  const w = solved(a, right, 1e-13);
  if (!w) return undefined;
  return (u) => {
    let v = w[m];
    for (let i = 0; i < m; i++) v += w[i] * cube(u, points[i]);
    for (let k = 0; k < n; k++) v += w[m + 1 + k] * u[k];
    return v;
  };
}
