import { expose } from 'comlink';
import {
  evaluateCandidate,
  sectionLookup,
  solveTailIncidence,
  type Evaluation,
  type IncidenceSolution,
} from '@veldtwind/core/candidate';
import { meanLineOf } from '@veldtwind/core/airframe';
import type { BriefPart, CandidatePart } from '@veldtwind/core/project';
import {
  meanLine,
  sourceFacts,
  sourceOutline,
  SurfaceSpline,
  type MeanLine,
  type SectionFacts,
  type SectionSource,
} from '@veldtwind/core/section';
import { InviscidSection, type InviscidPoint } from '@veldtwind/core/section-flow';

/** What the drawing of a section needs: its outline, facts and thickness and camber along the chord. */
export interface SectionView {
  x: Float64Array;
  y: Float64Array;
  facts: SectionFacts;
  line: { x: Float64Array; camber: Float64Array; thickness: Float64Array };
}

export interface SectionFlow {
  x: Float64Array;
  y: Float64Array;
  /** Index of the nose among the nodes. */
  nose: number;
  point: InviscidPoint;
}

/** Keeps what was made from a source until others push it out. */
function keeper<T>(make: (source: SectionSource) => T, most: number): (source: SectionSource) => T {
  const kept = new Map<string, T>();
  return (source) => {
    const key = JSON.stringify(source);
    let value = kept.get(key);
    if (value === undefined) {
      value = make(source);
      if (kept.size >= most) kept.delete(kept.keys().next().value!);
      kept.set(key, value);
    }
    return value;
  };
}

const lineOfSource = keeper(meanLineOf, 200);
const flowOfSource = keeper((source) => new InviscidSection(sourceOutline(source)), 30);
const viewOfSource = keeper((source): SectionView => {
  const outline = sourceOutline(source, 241);
  return { ...outline, facts: sourceFacts(source, outline), line: meanLine(new SurfaceSpline(outline)) };
}, 300);

const api = {
  evaluate(
    brief: BriefPart,
    candidate: CandidatePart,
    sections: Record<string, SectionSource>,
  ): { evaluation: Evaluation; ms: number } {
    const start = performance.now();
    const lookup = sectionLookup(sections);
    const lineOf = (key: string): MeanLine => lineOfSource(lookup(key));
    const evaluation = evaluateCandidate(brief, candidate, lookup, lineOf);
    return { evaluation, ms: performance.now() - start };
  },
  section: (source: SectionSource): SectionView => viewOfSource(source),
  flow(source: SectionSource, alpha: number, mach: number): SectionFlow {
    const solver = flowOfSource(source);
    const { x, y, s, nose } = solver.nodes;
    return { x, y, nose: s.findIndex((v) => v >= nose - 1e-9), point: solver.at(alpha, mach) };
  },
  solveTail: (
    brief: BriefPart,
    candidate: CandidatePart,
    sections: Record<string, SectionSource>,
    surfaceId: string,
    targetDeg: number,
  ): IncidenceSolution => solveTailIncidence(brief, candidate, sectionLookup(sections), surfaceId, targetDeg),
};

export type ComputeApi = typeof api;
expose(api);
