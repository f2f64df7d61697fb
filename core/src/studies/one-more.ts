import { answerKey, type AnswerBand } from './answer-schema';
import { missOf, scaleOf } from './solve-for';
import type { Evaluate } from './tries';
import type { Variable } from './variables';

/** What one more variable would bring to bands that contradict each other, by straight lines from the solution. */
export interface OneMore {
  path: string;
  label: string;
  /** Where it would stand. */ to: number;
  /** Share of the sum of misses that would be left; 0 where every must is held. */ left: number;
}

/** Farthest that a line is trusted, in sensible steps; how finely it is looked along; how many are told, and from which share on. */
const REACH = 25;
const PLACES = 100;
const MOST = 3;
const WORTH = 0.9;

/**
 * The variables outside a study that would lessen most what its musts miss.
 * @param from answers of the solution, in the order of `keys`. @param musts whose misses are summed, each over the size of its band.
 * @param step makes the answers with one more variable at a value. @returns the best few.
 */
export async function oneMoreOf(
  others: readonly Variable[],
  from: readonly (number | null)[],
  keys: readonly string[],
  musts: readonly AnswerBand[],
  step: (path: string, value: number) => ReturnType<Evaluate>,
): Promise<OneMore[]> {
  const missed = (answers: readonly (number | null)[]) =>
    musts.reduce((s, b) => s + missOf(answers[keys.indexOf(answerKey(b))], b) / scaleOf(b), 0);
  const now = missed(from);
  if (!Number.isFinite(now) || now === 0) return [];
  const out: (OneMore & { steps: number })[] = [];
  for (const v of others) {
    const [low, high] = [v.limit.above?.nearest ?? v.limit.min, v.limit.max];
    const by = v.value + v.step <= high ? v.step : -v.step;
    const { values } = await step(v.path, v.value + by);
    if (values.every((a, i) => a === null || a === from[i])) continue;
    let best = { to: v.value, left: 1 };
    for (let k = -PLACES; k <= PLACES; k++) {
      const to = v.value + (REACH * v.step * k) / PLACES;
      if (to < low || to > high) continue;
      const at = from.map((a, i) => {
        const moved = values[i];
        return a === null || moved === null ? null : a + ((moved - a) / by) * (to - v.value);
      });
      const left = missed(at) / now;
      // Of places that bring the same, the nearest.
      if (left < best.left - 1e-9 || (left < best.left + 1e-9 && Math.abs(to - v.value) < Math.abs(best.to - v.value)))
        best = { to, left };
    }
    if (best.left < WORTH)
      out.push({ path: v.path, label: v.label, ...best, steps: Math.abs(best.to - v.value) / v.step });
  }
  // What brings as much with fewer steps comes first.
  return out
    .sort((a, b) => Math.round(100 * (a.left - b.left)) || a.steps - b.steps)
    .slice(0, MOST)
    .map(({ steps: _, ...told }) => told);
}
