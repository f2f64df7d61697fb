import { evenPoints } from './quasi-random';
import type { Axis, Try, Tries } from './tries';

/** A band on the answer with an index. */
export interface SolveBand {
  answer: number;
  least: number | null;
  greatest: number | null;
  must: boolean;
}

/** What a wish came to. */
export interface Solution {
  values: number[];
  answers: (number | null)[];
  /** Whether every must is held. */ met: boolean;
  /** Bands that are missed, in the order given, and by how much; the musts among them contradict each other within the bounds. */
  missed: { band: number; by: number }[];
  /** Variables that ended at a bound. */ atBound: number[];
}

const ROUNDS = 40;
/** Share of a band that is kept in reserve, and that a must may be missed by through rounding. */
const RESERVE = 0.02;
const MET = 1e-3;
/** How softly bands are held: musts give next to nothing, wishes as much as the change costs. */
const SOFT = { must: 1e-7, wish: 1 };
/** Change of all variables, in their steps, from which on nothing is gained. */
const SETTLED = 1e-4;
/** Widest and narrowest differences, in steps. */
const WIDE = 0.5;
const NARROW = 0.03;
/** Rounds that slopes are carried on for by what the steps showed (Mathematics of Computation 19, 1965, 577–593), before they are made anew. */
const OLD = 3;
/** Places that are looked at where a must has no value at the start. */
const LOOKED = 48;

interface Row {
  a: number[];
  b: number;
  soft: number;
}

/**
 * The shortest y with A y ≤ b, softly where a row says so: coordinate ascent over the multipliers.
 * @source Hildreth, Naval Research Logistics Quarterly 4(1), 1957, 79–85.
 */
function shortest(rows: readonly Row[], n: number): number[] {
  const y = new Array<number>(n).fill(0);
  const multipliers = new Float64Array(rows.length);
  const sizes = rows.map((r) => r.a.reduce((s, v) => s + v * v, 0) + r.soft);
  for (let cycle = 0; cycle < 20_000; cycle++) {
    let largest = 0;
    rows.forEach(({ a, b, soft }, j) => {
      if (!(sizes[j] > 0)) return;
      let over = -b - soft * multipliers[j];
      for (let i = 0; i < n; i++) over += a[i] * y[i];
      const next = Math.max(0, multipliers[j] + over / sizes[j]);
      const change = next - multipliers[j];
      if (change === 0) return;
      multipliers[j] = next;
      for (let i = 0; i < n; i++) {
        y[i] -= change * a[i];
        largest = Math.max(largest, Math.abs(change * a[i]));
      }
    });
    if (largest < 1e-9) break;
  }
  return y;
}

/** Size that misses of a band are measured by: its width, or a tenth of its bound. */
export const scaleOf = ({ least, greatest }: Pick<SolveBand, 'least' | 'greatest'>): number =>
  least !== null && greatest !== null && greatest > least
    ? greatest - least
    : Math.max(1e-9, 0.1 * Math.abs(least ?? greatest ?? 1));

/** How far an answer is outside a band; 0 inside. */
export const missOf = (v: number | null, { least, greatest }: Pick<SolveBand, 'least' | 'greatest'>): number =>
  v === null ? Infinity : Math.max(0, least === null ? 0 : least - v, greatest === null ? 0 : v - greatest);

/**
 * The least change of variables, each measured in its sensible step, that brings answers into bands; wishes as far as they cost less than they bring.
 * Steps by differences, bounds held throughout; ends after 40 rounds. What cannot be met is told, not thrown.
 * @source sequential least-change steps under constraints made straight: Nocedal and Wright, Numerical Optimization, 2nd ed., 2006, chapter 18.
 */
export async function solveFor(tries: Tries, axes: readonly Axis[], bands: readonly SolveBand[]): Promise<Solution> {
  const n = axes.length;
  const toValues = (y: readonly number[]) =>
    axes.map((a, i) => Math.min(a.to, Math.max(a.from, a.value + y[i] * a.step)));
  const missed = (t: Try) =>
    Math.max(0, ...bands.filter((b) => b.must).map((b) => missOf(t.answers[b.answer], b) / scaleOf(b)));
  const wished = (t: Try) =>
    bands.reduce((s, b) => s + (b.must ? 0 : (missOf(t.answers[b.answer], b) / scaleOf(b)) ** 2), 0);
  // Missing a must is worse than any change; then wishes and change are weighed.
  const cost = (t: Try, y: readonly number[]) =>
    1e6 * Math.max(0, missed(t) - MET) + wished(t) + 1e-6 * y.reduce((s, v) => s + v * v, 0);
  const start = axes.map((a) => (Math.min(a.to, Math.max(a.from, a.value)) - a.value) / a.step);
  let y = start;
  let now = await tries.at(toValues(y));
  const unknown = (t: Try) => bands.filter((b) => b.must && t.answers[b.answer] === null).length;
  if (unknown(now) > 0) {
    // From where a must has no value no step leads on: the space is looked through, and the search begins where most musts have one.
    const bounds = axes.map((a) => [(a.from - a.value) / a.step, (a.to - a.value) / a.step]);
    for (const p of evenPoints(LOOKED, n, 1)) {
      const there = p.map((share, i) => bounds[i][0] + share * (bounds[i][1] - bounds[i][0]));
      const made = await tries.at(toValues(there));
      const fewer = unknown(made) - unknown(now);
      if (fewer < 0 || (fewer === 0 && unknown(now) === 0 && missed(made) < missed(now))) [y, now] = [there, made];
    }
  }
  let slopes: number[][] = [];
  /** How many rounds the slopes are old: then they follow what the steps showed. */
  let age = Infinity;
  let size = WIDE;
  const differences = async () => {
    slopes = [];
    for (let i = 0; i < n; i++) {
      const room = (axes[i].to - axes[i].from) / axes[i].step;
      const step = Math.min(size, 0.05 * room);
      // Away from the bound that is near.
      const way = y[i] + step > (axes[i].to - axes[i].value) / axes[i].step ? -step : step;
      const there = await tries.at(toValues(y.map((v, k) => (k === i ? v + way : v))));
      slopes.push(
        there.answers.map((v, k) => (v === null || now.answers[k] === null ? 0 : (v - now.answers[k]) / way)),
      );
    }
    age = 0;
  };
  for (let round = 0; round < ROUNDS; round++) {
    if (age >= OLD) await differences();
    const rows: Row[] = [];
    for (const b of bands) {
      const value = now.answers[b.answer];
      if (value === null) continue;
      const scale = scaleOf(b);
      const inside = RESERVE * (b.least !== null && b.greatest !== null ? scale : 0.05 * scale);
      const a = slopes.map((s) => s[b.answer] / scale);
      const here = a.reduce((s, v, i) => s + v * y[i], 0);
      const soft = b.must ? SOFT.must : SOFT.wish;
      if (b.greatest !== null) rows.push({ a, b: here + (b.greatest - inside - value) / scale, soft });
      if (b.least !== null) rows.push({ a: a.map((v) => -v), b: -here + (value - b.least - inside) / scale, soft });
    }
    axes.forEach((axis, i) => {
      const unit = (sign: number) => axes.map((_, k) => (k === i ? sign : 0));
      rows.push({ a: unit(1), b: (axis.to - axis.value) / axis.step, soft: 0 });
      rows.push({ a: unit(-1), b: (axis.value - axis.from) / axis.step, soft: 0 });
    });
    // With old slopes one step is tried; with new ones shorter ones too.
    const least = age > 0 ? 0.9 : 0.03;
    let next: number[] = y;
    let made = now;
    const steps = async (wanted: readonly number[]): Promise<boolean> => {
      for (let share = 1; share > least; share *= 0.5) {
        next = y.map((v, i) => v + share * (wanted[i] - v));
        made = await tries.at(toValues(next));
        if (cost(made, next) < cost(now, y) - 1e-12) return true;
      }
      return false;
    };
    let found = await steps(shortest(rows, n));
    if (!found && age === 0 && missed(now) > MET) {
      // The least change of all may lie behind a bend; the nearest place that is held is taken, and the change lessened from there.
      const near = rows.map((r) => ({ ...r, b: r.b - r.a.reduce((sum, v, i) => sum + v * y[i], 0) }));
      found = await steps(shortest(near, n).map((v, i) => y[i] + v));
    }
    tries.tell(round + 1, ROUNDS);
    if (!found) {
      if (age > 0) age = Infinity;
      else if (size > NARROW && missed(now) > MET) {
        // A kink within the differences, perhaps: closer ones tell.
        size *= 0.2;
        age = Infinity;
      } else break;
      continue;
    }
    const moved = next.map((v, i) => v - y[i]);
    const long = moved.reduce((s, v) => s + v * v, 0);
    made.answers.forEach((v, k) => {
      const before = now.answers[k];
      if (v === null || before === null) return;
      const off = v - before - moved.reduce((s, m, i) => s + m * slopes[i][k], 0);
      moved.forEach((m, i) => (slopes[i][k] += (off * m) / long));
    });
    age++;
    [y, now] = [next, made];
    if (Math.max(...moved.map(Math.abs)) >= SETTLED) continue;
    // What came to rest on old slopes is looked at with new ones.
    if (age > 1) age = Infinity;
    else break;
  }
  const left = bands.flatMap((b, band) => {
    const by = missOf(now.answers[b.answer], b);
    return by > MET * scaleOf(b) ? [{ band, by }] : [];
  });
  const near = (a: number, b: number, axis: Axis) => Math.abs(a - b) <= 1e-9 * Math.max(1, axis.to - axis.from);
  return {
    values: now.values,
    answers: now.answers,
    met: left.every(({ band }) => !bands[band].must),
    missed: left,
    atBound: axes.flatMap((a, i) => (near(now.values[i], a.from, a) || near(now.values[i], a.to, a) ? [i] : [])),
  };
}
