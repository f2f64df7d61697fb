import { rootsOver } from '../numerics';
import { sectionFacts, type SectionFacts } from './facts';
import { designationOutline, readDesignation, type FormulaTrailingEdge, type MeanLine } from './four-digit';
import { checkOutline, outlineFromPairs, type Outline } from './outline';

/** Where a section's shape comes from. */
export type SectionSource =
  | { kind: 'designation'; designation: string; trailingEdge: FormulaTrailingEdge }
  | { kind: 'coordinates'; points: [number, number][] };

/**
 * The outline of a source.
 * @param count points, for a source that is a formula.
 * @throws InvalidInput when the source cannot be a section.
 */
export function sourceOutline(source: SectionSource, count = 161): Outline {
  if (source.kind === 'designation') return designationOutline(source.designation, source.trailingEdge, count);
  const outline = outlineFromPairs(source.points);
  checkOutline(outline);
  return outline;
}

/** Facts of a source; a formula's camber and nose radius are its own closed forms, everything else comes from the spline. */
export function sourceFacts(source: SectionSource, outline = sourceOutline(source, 241)): SectionFacts {
  const facts = sectionFacts(outline);
  if (source.kind !== 'designation') return facts;
  const formula = readDesignation(source.designation, source.trailingEdge);
  return { ...facts, camber: formula.camber ?? meanLineCrest(formula.meanLine), noseRadius: formula.form.noseRadius };
}

function meanLineCrest(line: MeanLine): { max: number; at: number } {
  const points = Array.from({ length: 201 }, (_, i) => i / 200);
  let best = { max: 0, at: 0 };
  for (const at of rootsOver((x) => line.slope(x), points)) {
    const max = line.ordinate(at);
    if (Math.abs(max) > Math.abs(best.max)) best = { max, at };
  }
  return best;
}
