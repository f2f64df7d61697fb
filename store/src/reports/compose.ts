import { strFromU8, strToU8, unzlibSync, zlibSync } from 'fflate';
import { AircraftPolars, polarSpeeds, type PolarShelf } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { methodMeant, type CandidatePart, type ProjectDocument } from '@veldtwind/core/project';
import {
  composeReport,
  withLastSeen,
  resultsOf,
  soonResults,
  type CandidatePolars,
  type CandidateResults,
  type ComposedReport,
  type ReportPart,
  type StudyTold,
} from '@veldtwind/core/report';
import { resultKey } from '@veldtwind/core/results';
import type { UnitSet } from '@veldtwind/core/units';

/** Raised when what a report tells of a candidate is made in another way. */
const VERSION = 2;
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
 * What reports of a project are composed from. Results of a candidate are made once for as long as nothing that decides them changes.
 */
export class ReportMaterial {
  private readonly polars: Record<string, CandidatePolars> = {};
  private readonly keys: Record<string, string> = {};

  /** @param shelf the project's polars. @param studies those that were run. */
  constructor(
    private readonly document: ProjectDocument,
    shelf: PolarShelf,
    private readonly kept: ResultsKept,
    private readonly studies: readonly StudyTold[] = [],
  ) {
    const aircraft = new AircraftPolars(shelf);
    for (const c of Object.values(document.candidates)) {
      this.polars[c.id] = polarsOf(aircraft, document, c);
      this.keys[c.id] = keyOf(document, c, this.polars[c.id]);
    }
  }

  /** Candidates whose results are not there yet. @param soon whether what is there soon is enough. */
  missing = (soon = false): string[] =>
    Object.keys(this.keys).filter((id) => !this.has(this.keys[id]) && !(soon && this.has(this.soonKey(id))));

  /** What is told of a candidate; made and kept where it is not there. @param soon whether what is there soon is enough. */
  async make(id: string, soon = false): Promise<CandidateResults> {
    const [key, soonKey] = [this.keys[id], this.soonKey(id)];
    const known = this.read<CandidateResults>(key);
    if (known) return known;
    const first = this.read<CandidateResults>(soonKey);
    if (soon && first) return first;
    const polars = this.polars[id];
    const made = soon
      ? await soonResults(this.document, id, polars)
      : await resultsOf(this.document, id, polars, first);
    this.write(soon ? soonKey : key, KIND, made);
    return made;
  }

  /**
   * @param report one of the document, or one that is not kept.
   * @param soon leaves out what waits for the longer computations: such a block says that it is pending.
   */
  async composed(report: ReportPart, project: string, units: UnitSet, soon = false): Promise<ComposedReport> {
    const { document, polars, studies } = this;
    const results: Record<string, CandidateResults> = {};
    for (const id of Object.keys(this.keys)) results[id] = await this.make(id, soon);
    const made = composeReport(report, project, { document, results, polars, units, studies });
    return this.remembered(report.id, made, units);
  }

  /** Blocks of candidates that went stay as they were seen last. */
  private remembered(id: string, made: ComposedReport, units: UnitSet): ComposedReport {
    const key = `report-last-${id}-${units}`;
    const last = this.read<ComposedReport>(key);
    const report = last ? withLastSeen(made, last) : made;
    // What waits would take the place of what was seen.
    const whole = !report.blocks.some((b) => b.kind === 'missing' && b.pending);
    if (whole && JSON.stringify(last) !== JSON.stringify(report)) this.write(key, 'report-last', report);
    return report;
  }

  private soonKey = (id: string): string => `${this.keys[id]}-soon`;
  private has = (key: string): boolean => this.kept.get(key) !== undefined;
  private read<T>(key: string): T | undefined {
    const bytes = this.kept.get(key);
    return bytes && (JSON.parse(strFromU8(unzlibSync(bytes))) as T);
  }
  private write(key: string, kind: string, value: unknown): void {
    try {
      this.kept.put(key, kind, Buffer.from(zlibSync(strToU8(JSON.stringify(value)), { level: 1 })));
    } catch {
      // Where there is no room it is made again.
    }
  }
}
