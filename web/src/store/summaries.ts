import { getMany, setMany } from 'idb-keyval';
import { resultKey } from '@veldtwind/core/results';
import { sectionSummaries, type SectionSource, type SummaryResult } from '@veldtwind/core/shaping';
import { lanes } from '@/worker/lane';

const keyOf = (source: SectionSource) => `summary-${resultKey('section-summaries', sectionSummaries.version, source)}`;

/** Facts of sections, from this browser's store where they were measured before. */
export async function summaries(sources: readonly SectionSource[]): Promise<SummaryResult[]> {
  const keys = sources.map(keyOf);
  let known: (SummaryResult | undefined)[] = [];
  try {
    known = await getMany<SummaryResult>(keys);
  } catch {
    // Without a store everything is measured anew.
  }
  const missing = sources.map((_, i) => i).filter((i) => !known[i]?.ok);
  const out = known.slice() as SummaryResult[];
  if (missing.length > 0) {
    const made = await lanes.library.run('section-summaries', { sources: missing.map((i) => sources[i]) });
    missing.forEach((i, k) => (out[i] = made[k]));
    const fresh = missing.filter((i) => out[i].ok);
    await setMany(fresh.map((i) => [keys[i], out[i]])).catch(() => undefined);
  }
  return out;
}

export type { SummaryResult };
