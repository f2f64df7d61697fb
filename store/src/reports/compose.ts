import { strFromU8, strToU8, unzlibSync, zlibSync } from 'fflate';
import { AircraftPolars, polarSpeeds, type PolarShelf } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { methodMeant, type CandidatePart, type ProjectDocument } from '@veldtwind/core/project';
import {
  composeReport,
  resultsOf,
  type CandidatePolars,
  type CandidateResults,
  type ComposedReport,
  type ReportPart,
} from '@veldtwind/core/report';
import { resultKey } from '@veldtwind/core/results';
import type { UnitSet } from '@veldtwind/core/units';

/** Raised when what a report tells of a candidate is made in another way. */
const VERSION = 1;
const KIND = 'report-candidate';

/** Where results of candidates are kept between two compositions. */
export interface ResultsKept {
  get(key: string): Uint8Array | undefined;
  put(key: string, kind: string, bytes: Buffer): void;
}

const NONE: CandidatePolars = { level: null, flight: null };

/** The polars of a candidate that are all there; none where the project's method does without. */
function polarsOf(aircraft: AircraftPolars, document: ProjectDocument, candidate: CandidatePart): CandidatePolars {
  if (methodMeant(document.brief.assumptions.method) !== 'polars' || candidate.surfaces.length === 0) return NONE;
  try {
    const subject = aircraft.subjectOf(document, candidate);
    const of = (use: 'level' | 'flight') => aircraft.complete(subject, polarSpeeds(use, document.brief, candidate));
    return { level: of('level'), flight: of('flight') };
  } catch (error) {
    // A shape or a section that is none is told where it is evaluated.
    if (error instanceof VeldtwindError) return NONE;
    throw error;
  }
}

/** All that decides what is told of a candidate: names and notes of others do not. */
const keyOf = (document: ProjectDocument, candidate: CandidatePart, polars: CandidatePolars): string => {
  const { note: _, ...brief } = document.brief;
  return resultKey(KIND, VERSION, { brief, candidate, sections: document.sections, polars });
};

/**
 * A report of a project with all its content. Results of a candidate are made once for as long as nothing that decides them changes.
 * @param report one of the document, or one that is not kept. @param shelf the project's polars.
 */
export async function composedReport(
  document: ProjectDocument,
  report: ReportPart,
  project: string,
  units: UnitSet,
  shelf: PolarShelf,
  kept: ResultsKept,
): Promise<ComposedReport> {
  const aircraft = new AircraftPolars(shelf);
  const results: Record<string, CandidateResults> = {};
  const polars: Record<string, CandidatePolars> = {};
  for (const candidate of Object.values(document.candidates)) {
    const { id } = candidate;
    polars[id] = polarsOf(aircraft, document, candidate);
    const key = keyOf(document, candidate, polars[id]);
    const known = kept.get(key);
    results[id] = known
      ? (JSON.parse(strFromU8(unzlibSync(known))) as CandidateResults)
      : await resultsOf(document, id, polars[id]);
    if (!known) {
      const bytes = Buffer.from(zlibSync(strToU8(JSON.stringify(results[id])), { level: 1 }));
      try {
        kept.put(key, KIND, bytes);
      } catch {
        // Where there is no room it is made again.
      }
    }
  }
  return composeReport(report, project, { document, results, polars, units });
}
