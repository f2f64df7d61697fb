import {
  asymmetryAt,
  isAsymmetric,
  SYMMETRIC,
  airframeMotion,
  controlNames,
  evaluation,
  inputsOfEvaluation,
  inputsOfMotion,
  inputsOfPerformance,
  loadedMass,
  performanceOf,
  inputsOfStrength,
  inputsOfZeroLiftDrag,
  sectionLookup,
  structureStrength,
  withPlacedMass,
  zeroLiftDrag,
  type AirframeMotion,
} from '../candidate';
import { surveyLoops, type AutopilotSettings, type LoopLine } from '../control';
import { isBuilt } from '../members';
import { keptMeanLine, type SectionPolars } from '../lift';
import { VeldtwindError } from '../numerics';
import { methodMeant, type CandidatePart, type ProjectDocument } from '../project';
import { NOTHING_MADE, responseOf, type Made, type MadeBy } from '../quantities';

/** Polars of a candidate: those of level flight, and those about the stall too; null where some are missing, or none are meant. */
export interface CandidatePolars {
  level: SectionPolars[] | null;
  flight: SectionPolars[] | null;
}

/** All that a report tells of one candidate. What could not be made is null, and says why. */
export interface CandidateResults {
  made: Made;
  reasons: Partial<Record<MadeBy, string>>;
  /** Static margin and centre in each loading that is kept. */ loadings: { name: string; motion: AirframeMotion }[];
  /** Of {@link soonResults}: the rest is still to be made. */ pending?: true;
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

type Reasons = CandidateResults['reasons'];
/** Makes a part of the results, or says why it cannot be made. */
async function attempt<T>(part: MadeBy, reasons: Reasons, work: () => T | Promise<T>): Promise<T | null> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    reasons[part] = error.message;
    return null;
  }
}
const flies = ({ surfaces, massItems }: CandidatePart): boolean => surfaces.length > 0 && massItems.length > 0;
const polarsMeant = (document: ProjectDocument, own: SectionPolars[] | null) =>
  methodMeant(document.brief.assumptions.method) === 'polars' ? own : null;

function motionIn(document: ProjectDocument, id: string, polars: CandidatePolars, loading?: string): AirframeMotion {
  const { speed, altitude } = document.brief;
  const lookup = sectionLookup(document.sections);
  const level = polarsMeant(document, polars.level);
  const { candidate, polars: own } = inputsOfMotion(document, id, speed, loading, level);
  const of = { speed, altitude, polars: own, ...(loading && { loading }) };
  return airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), of);
}

/**
 * What is there soon of what a report tells of a candidate: lift, trim, drag and motion, without performance, loadings and loops.
 * Nothing is thrown for what cannot be made.
 */
export async function soonResults(
  document: ProjectDocument,
  candidateId: string,
  polars: CandidatePolars,
): Promise<CandidateResults> {
  const reasons: Reasons = {};
  const candidate = document.candidates[candidateId];
  const meant = methodMeant(document.brief.assumptions.method);
  const by = meant === 'panels' ? 'panels' : polarsMeant(document, polars.level);
  const evaluated = await attempt('evaluation', reasons, () =>
    evaluation.run(inputsOfEvaluation(document, candidateId, by), {}),
  );
  const [problem] = evaluated?.problems ?? [];
  if (problem) reasons.evaluation = problem.message;
  const motion = flies(candidate)
    ? await attempt('motion', reasons, () => motionIn(document, candidateId, polars))
    : null;
  if (!flies(candidate)) reasons.motion = 'It has no surfaces or no mass items.';
  const drag = await attempt('drag', reasons, () =>
    candidate.surfaces.length === 0
      ? null
      : zeroLiftDrag.run(inputsOfZeroLiftDrag(document, candidateId, polars.level), {}),
  );
  const halves = !isAsymmetric(candidate.surfaces)
    ? SYMMETRIC
    : motion &&
      (await attempt('asymmetry', reasons, () =>
        asymmetryAt(
          inputsOfMotion(document, candidateId, document.brief.speed, undefined, polarsMeant(document, polars.level)),
          document.brief.speed,
          sectionLookup(document.sections),
        ),
      ));
  const made = { ...NOTHING_MADE, evaluation: evaluated, motion, drag, asymmetry: halves };
  return { made, reasons, loadings: [], pending: true };
}

/**
 * Makes all that a report tells of a candidate, by the analyses that the areas show. Nothing is thrown for what cannot be made.
 * @param known of {@link soonResults}, where that was made.
 */
export async function resultsOf(
  document: ProjectDocument,
  candidateId: string,
  polars: CandidatePolars,
  known?: CandidateResults,
): Promise<CandidateResults> {
  const { pending: _, ...soon } = known ?? (await soonResults(document, candidateId, polars));
  const reasons = { ...soon.reasons };
  const { brief, sections, candidates } = document;
  const candidate = candidates[candidateId];
  if (!flies(candidate)) {
    reasons.performance = reasons.limits = reasons.motion!;
    return { ...soon, reasons };
  }
  const level = polarsMeant(document, polars.flight);
  const of = inputsOfMotion(document, candidateId, brief.speed, undefined, level);
  const input = inputsOfPerformance(document, candidateId, of);
  const conditions = [
    ...new Set(
      brief.requirements.flatMap((r) => (r.speed !== undefined && responseOf(r.quantity)?.at ? [r.speed] : [])),
    ),
  ];
  const flown = await attempt('performance', reasons, () =>
    performanceOf({ ...input, speeds: reportSpeeds(brief.speed), conditions }, sectionLookup(sections)),
  );
  if (reasons.performance) reasons.limits = reasons.performance;
  const loadings: CandidateResults['loadings'] = [];
  for (const name of Object.keys(candidate.loadings ?? {})) {
    const motion = await attempt('motion', reasons, () => motionIn(document, candidateId, polars, name));
    if (motion) loadings.push({ name, motion });
  }
  const { motion } = soon.made;
  const strength = candidate.surfaces.some(isBuilt)
    ? await attempt('strength', reasons, () =>
        structureStrength.run(inputsOfStrength(document, candidateId, level), {}),
      )
    : { surfaces: [] };
  return {
    ...soon,
    made: {
      ...soon.made,
      performance: flown?.performance ?? null,
      limits: flown?.limits ?? null,
      loops: motion && candidate.autopilot ? loopsOf(candidate, candidate.autopilot, motion) : [],
      strength,
    },
    reasons,
    loadings,
  };
}

const loopsOf = (candidate: CandidatePart, settings: AutopilotSettings, motion: AirframeMotion): LoopLine[] =>
  surveyLoops({ of: motion.case, scale: {}, settings, controls: controlNames(candidate) });

/** Mass properties of a candidate as it stands; null where its masses say none. */
export function massOf(document: ProjectDocument, candidateId: string) {
  try {
    return loadedMass(withPlacedMass(document.candidates[candidateId], sectionLookup(document.sections)));
  } catch (error) {
    if (error instanceof VeldtwindError) return null;
    throw error;
  }
}
