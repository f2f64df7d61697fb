import { z } from 'zod';

/** What is asked of a section: a fact that must be at least or at most so much at every Reynolds number that was run, and how much it counts. */
export const criterion = z.object({
  fact: z.string().min(1).max(40),
  way: z.enum(['least', 'most']),
  value: z.number(),
  /** Share in the ranking; 0 only limits. */
  weight: z.number().min(0).max(100),
});
export type Criterion = z.infer<typeof criterion>;

/** A curve with the facts that criteria ask for; null where it does not reach one. */
export interface Candidate {
  section: string;
  curve: string;
  facts: Readonly<Record<string, number | null>>;
}

/** Why a section is not chosen: the curve and the fact, with its value, or null where it is not known. */
export interface Rejection {
  curve: string;
  criterion: Criterion;
  value: number | null;
}

/** What criteria come to for one section. */
export interface Verdict {
  section: string;
  rejections: Rejection[];
  /** 1 for the best in everything that counts, 0 for the worst; of those that are not rejected. */
  score: number | null;
}

/**
 * Filters and ranks sections: each is judged by the worst of its curves. Scores are weighted means over the criteria, each from the worst (0) to the
 * best (1) of the sections that are left.
 * @returns one verdict a section: first those that are left, best first; then the rejected ones, those with the fewest reasons first.
 */
export function choose(candidates: readonly Candidate[], criteria: readonly Criterion[]): Verdict[] {
  const names = [...new Set(candidates.map((c) => c.section))];
  const curvesOf = (name: string) => candidates.filter((c) => c.section === name);
  const verdicts = names.map((section): Verdict => {
    const rejections = curvesOf(section).flatMap(({ curve, facts }) =>
      criteria.flatMap((criterion) => {
        const value = facts[criterion.fact] ?? null;
        const kept =
          value !== null && (criterion.way === 'least' ? value >= criterion.value : value <= criterion.value);
        return kept ? [] : [{ curve, criterion, value }];
      }),
    );
    return { section, rejections, score: null };
  });
  const left = verdicts.filter((v) => v.rejections.length === 0);
  const total = criteria.reduce((sum, c) => sum + c.weight, 0);
  const worst = (section: string, { fact, way }: Criterion) => {
    const values = curvesOf(section).map((c) => c.facts[fact]!);
    return way === 'least' ? Math.min(...values) : Math.max(...values);
  };
  for (const v of left) {
    let score = 0;
    for (const c of criteria) {
      const values = left.map((other) => worst(other.section, c));
      const [low, high] = [Math.min(...values), Math.max(...values)];
      const share = high === low ? 1 : (worst(v.section, c) - low) / (high - low);
      score += c.weight * (c.way === 'least' ? share : high === low ? 1 : 1 - share);
    }
    v.score = total > 0 ? score / total : 1;
  }
  return verdicts.sort(
    (a, b) =>
      (b.score ?? -1) - (a.score ?? -1) ||
      a.rejections.length - b.rejections.length ||
      a.section.localeCompare(b.section),
  );
}
