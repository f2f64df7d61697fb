import { sectionLookup } from '../candidate';
import { number, type FindingNumber } from '../findings';
import { quantityWords } from '../findings/words';
import type { CandidatePart, ProjectDocument } from '../project';
import { axisTitle, inUnit, textOf, unitOf, type Quantity } from '../quantities';
import { displayUnit, type Dimension, type UnitSet } from '../units';
import type { SectionLookup } from '../airframe';
import type { StudyTold } from './table-studies';
import type { CandidatePolars, CandidateResults } from './results';

/** One candidate as a report sees it. */
export interface Subject extends CandidateResults {
  candidate: CandidatePart;
  /** `A Seedsnipe`. */ title: string;
  polars: CandidatePolars;
}

/** What blocks are composed from. */
export interface ReportContext {
  document: ProjectDocument;
  units: UnitSet;
  lookup: SectionLookup;
  /** The newest first. */ studies: readonly StudyTold[];
  /** In the order of their letters. */ subjects: readonly Subject[];
}

export const contextOf = (
  document: ProjectDocument,
  results: Readonly<Record<string, CandidateResults>>,
  polars: Readonly<Record<string, CandidatePolars>>,
  units: UnitSet,
  studies: readonly StudyTold[] = [],
): ReportContext => ({
  document,
  studies,
  units,
  lookup: sectionLookup(document.sections),
  subjects: Object.values(document.candidates)
    .filter((c) => Object.hasOwn(results, c.id))
    .sort((a, b) => (a.letter.length - b.letter.length || a.letter < b.letter ? -1 : 1))
    .map((candidate) => ({
      ...results[candidate.id],
      candidate,
      title: `${candidate.letter} ${candidate.name}`.trim(),
      polars: polars[candidate.id] ?? { level: null, flight: null },
    })),
});

/** A value with its unit, in the reader's units. */
export const said = (value: number, dimension: Dimension, set: UnitSet, digits?: number, per?: string): string => {
  const n: FindingNumber = { ...number(value, dimension, digits), ...(per !== undefined && { per }) };
  return quantityWords(n, set);
};

/** A quantity's value with its unit; a dash where there is none. */
export function saidOf(
  q: Pick<Quantity<never>, 'dimension' | 'digits' | 'per'>,
  value: number | null,
  set: UnitSet,
): string {
  const text = textOf(q, value, set);
  const unit = unitOf(q, set);
  return text === '—' || unit === '' ? text : `${text}${unit === '°' ? '' : ' '}${unit}`;
}

/** An axis of a quantity, in the reader's units. */
export const axisOf = (q: Pick<Quantity<never>, 'symbol' | 'dimension' | 'per'>, set: UnitSet) => ({
  name: axisTitle({ symbol: q.symbol, dimension: 'plain' }, set),
  unit: unitOf(q, set),
});
export const scaleOf = (dimension: Dimension, set: UnitSet): number => displayUnit(dimension, set).scale;
export { inUnit };
