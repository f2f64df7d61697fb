import type { CurveReply } from '@veldtwind/contract';
import type { PolarFacts } from '@veldtwind/core/polar';
import { FACT_QUANTITIES, SECTION_QUANTITIES, type Quantity } from '@veldtwind/core/quantities';
import { canonicalJson } from '@veldtwind/core/results';
import type { SectionSource } from '@veldtwind/core/shaping';
import type { LibraryRow } from './library';

/** What a section's polar says, and at which Reynolds number. */
export interface LibraryPolar {
  reynolds: number;
  facts: PolarFacts;
}

/** What the library lists, filters and sorts by: facts of the shape, then facts of the polar, where there is one. */
export const LIBRARY_QUANTITIES: readonly (Quantity<LibraryRow> & { polar: boolean })[] = [
  ...SECTION_QUANTITIES.map((q) => ({
    ...q,
    polar: false,
    of: (row: LibraryRow) => (row.summary ? q.of(row.summary.facts) : null),
  })),
  ...FACT_QUANTITIES.map((q) => ({
    ...q,
    polar: true,
    of: (row: LibraryRow) => (row.polar ? q.of(row.polar.facts) : null),
  })),
];

/** As a filter or an order is called; a crest's symbol alone would not say of what. */
export const libraryName = (q: Pick<Quantity<never>, 'id' | 'symbol'>): string =>
  q.id.endsWith('-at') ? `${q.id.replace('-at', '')} crest` : q.symbol;

const texts = new WeakMap<object, string>();
function textOfSource(source: SectionSource): string {
  let text = texts.get(source);
  if (text === undefined) texts.set(source, (text = canonicalJson(source)));
  return text;
}

/** Whether one curve tells more than another about a section as it is flown: nearer in Reynolds number, then clean rather than tripped. */
function nearer(a: CurveReply, b: CurveReply, reynolds: number): boolean {
  const off = (c: CurveReply) => Math.abs(Math.log(c.input.conditions.reynolds / reynolds));
  const dirt = ({ input: { conditions: c, flap } }: CurveReply) =>
    (c.tripTop === undefined ? 0 : 1) +
    (c.tripBottom === undefined ? 0 : 1) +
    (c.grain ? 1 : 0) +
    (flap ? 1 : 0) +
    (c.mach ? 0.5 : 0);
  return dirt(a) !== dirt(b) ? dirt(a) < dirt(b) : off(a) < off(b);
}

/**
 * The polar that stands for each section: of its curves that were solved for the shape it has now, the clean one nearest to a Reynolds number.
 * @param sourceOf the section's shape as it is now; null where it cannot be made.
 */
export function polarsOf(
  curves: readonly CurveReply[],
  reynolds: number,
  sourceOf: (id: string) => SectionSource | null,
): Map<string, LibraryPolar> {
  const best = new Map<string, CurveReply>();
  for (const c of curves) {
    if (!c.section || !c.facts || c.solved + c.doubtful < 3 || c.input.swept === 're') continue;
    const now = sourceOf(c.section);
    if (!now || textOfSource(now) !== textOfSource(c.input.source)) continue;
    const before = best.get(c.section);
    if (!before || nearer(c, before, reynolds)) best.set(c.section, c);
  }
  return new Map([...best].map(([id, c]) => [id, { reynolds: c.input.conditions.reynolds, facts: c.facts! }]));
}
