import {
  airframeMotion,
  controlNames,
  evaluation,
  inputsOfEvaluation,
  inputsOfMotion,
  inputsOfPerformance,
  inputsOfSteady,
  loadedMass,
  performanceOf,
  sectionLookup,
  steady,
  withPlacedMass,
  type AirframeMotion,
} from '../candidate';
import { standingIn } from '../airframe';
import { surveyLoops, type AutopilotSettings, type LoopLine } from '../control';
import { flowState } from '../atmosphere';
import { dragBuildUp, dragShape, type DragBuildUp } from '../drag';
import { profilesAt, type SteadyResult } from '../flight';
import { keptMeanLine, type SectionPolars } from '../lift';
import { VeldtwindError } from '../numerics';
import { methodMeant, type CandidatePart, type ProjectDocument } from '../project';
import { responseOf, type Made, type MadeBy } from '../quantities';

/** Polars of a candidate: those of level flight, and those about the stall too; null where some are missing, or none are meant. */
export interface CandidatePolars {
  level: SectionPolars[] | null;
  flight: SectionPolars[] | null;
}

/** All that a report tells of one candidate. What could not be made is null, and says why. */
export interface CandidateResults {
  made: Made;
  reasons: Partial<Record<MadeBy | 'drag', string>>;
  drag: DragBuildUp | null;
  /** Of its autopilot, as they close about its motion. */ loops: LoopLine[];
  /** Static margin and centre in each loading that is kept. */ loadings: { name: string; motion: AirframeMotion }[];
}

/** Speeds that curves over speed are told at. */
const SPEEDS = 33;
/** As shares of the design speed: from well below the stall, which trims then tell, to well above. */
const SLOWEST = 0.5;
const FASTEST = 1.9;
export const reportSpeeds = (design: number): number[] =>
  Array.from({ length: SPEEDS }, (_, i) =>
    Number((design * (SLOWEST + ((FASTEST - SLOWEST) * i) / (SPEEDS - 1))).toPrecision(4)),
  );

/** Makes what a report tells of a candidate, by the analyses that the areas show. Nothing is thrown for what cannot be made. */
export async function resultsOf(
  document: ProjectDocument,
  candidateId: string,
  polars: CandidatePolars,
): Promise<CandidateResults> {
  const reasons: CandidateResults['reasons'] = {};
  const attempt = async <T>(part: MadeBy | 'drag', work: () => T | Promise<T>): Promise<T | null> => {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      reasons[part] = error.message;
      return null;
    }
  };
  const { brief, sections, candidates } = document;
  const { speed, altitude } = brief;
  const candidate = candidates[candidateId];
  const meant = methodMeant(brief.assumptions.method);
  const by = meant === 'panels' ? 'panels' : meant === 'polars' ? polars.level : null;
  const use = (own: SectionPolars[] | null) => (meant === 'polars' ? own : null);
  const evaluated = await attempt('evaluation', () =>
    evaluation.run(inputsOfEvaluation(document, candidateId, by), {}),
  );
  const [problem] = evaluated?.problems ?? [];
  if (problem) reasons.evaluation = problem.message;
  const lookup = sectionLookup(sections);
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const flies = candidate.surfaces.length > 0 && candidate.massItems.length > 0;
  const none = 'It has no surfaces or no mass items.';
  const motionOf = (loading?: string) => {
    const { candidate: part, polars: own } = inputsOfMotion(document, candidateId, speed, loading, use(polars.level));
    return airframeMotion(part, lookup, lineOf, { speed, altitude, polars: own, ...(loading && { loading }) });
  };
  const motion = flies ? await attempt('motion', () => motionOf()) : null;
  const of = flies ? inputsOfMotion(document, candidateId, speed, undefined, use(polars.flight)) : null;
  const input = of && inputsOfPerformance(document, candidateId, of);
  const conditions = [
    ...new Set(
      brief.requirements.flatMap((r) => (r.speed !== undefined && responseOf(r.quantity)?.at ? [r.speed] : [])),
    ),
  ];
  const flown = input
    ? await attempt('performance', () => performanceOf({ ...input, speeds: reportSpeeds(speed), conditions }, lookup))
    : null;
  if (reasons.performance) reasons.limits = reasons.performance;
  if (!flies) reasons.motion = reasons.performance = reasons.limits = none;
  const drag = await attempt('drag', () =>
    candidate.surfaces.length === 0 ? null : dragOf(document, candidateId, polars.level),
  );
  const loadings: CandidateResults['loadings'] = [];
  if (flies)
    for (const name of Object.keys(candidate.loadings ?? {})) {
      const own = await attempt('motion', () => motionOf(name));
      if (own) loadings.push({ name, motion: own });
    }
  return {
    made: { evaluation: evaluated, motion, performance: flown?.performance ?? null, limits: flown?.limits ?? null },
    reasons,
    drag,
    loops: motion && candidate.autopilot ? loopsOf(candidate, candidate.autopilot, motion) : [],
    loadings,
  };
}

const loopsOf = (candidate: CandidatePart, settings: AutopilotSettings, motion: AirframeMotion): LoopLine[] =>
  surveyLoops({ of: motion.case, scale: {}, settings, controls: controlNames(candidate) });

/** The drag build-up at the design point; surfaces by their polars where the candidate asks for that and they are there. */
function dragOf(document: ProjectDocument, candidateId: string, polars: SectionPolars[] | null): DragBuildUp {
  const { speed, altitude } = document.brief;
  const candidate = document.candidates[candidateId];
  const lookup = sectionLookup(document.sections);
  const level =
    candidate.drag?.surfaces === 'polars' && polars
      ? (steady.run(
          inputsOfSteady(document, candidateId, { kind: 'level', speeds: [speed] }, polars),
          {},
        ) as SteadyResult)
      : null;
  const shape = dragShape(standingIn(candidate), lookup);
  return dragBuildUp(
    standingIn(candidate),
    flowState(speed, altitude),
    lookup,
    shape,
    level ? profilesAt(level.points, speed) : undefined,
  );
}

/** Mass properties of a candidate as it stands; null where its masses say none. */
export function massOf(document: ProjectDocument, candidateId: string) {
  try {
    return loadedMass(withPlacedMass(document.candidates[candidateId], sectionLookup(document.sections)));
  } catch (error) {
    if (error instanceof VeldtwindError) return null;
    throw error;
  }
}
