/**
 * The named face of core: what a script needs to compute sections, wings and aircraft. Everything is plain data and functions, SI units and radians unless a
 * name says degrees, and throws `InvalidInput` or `FailedComputation` with a message, a hint and the path of the field. Whole subjects are at
 * `@veldtwind/core/NAME`.
 */
export { standardAir, flowState, GRAVITY } from './atmosphere';
export { DEG, RAD, FailedComputation, InvalidInput, VeldtwindError } from './numerics';
export { polarPoints, ViscousSection, DEFAULT_SPREAD } from './section-flow';
export { sourceOutline, type SectionSource } from './shaping';
export { analyseLift, keptMeanLine, type LiftInput, type LiftResult, type SectionPolars } from './lift';
export {
  airframeMotion,
  CandidateFlyer,
  evaluateCandidate,
  evaluateWithPanels,
  evaluateWithPolars,
  modelOf,
  performanceOf,
  readCandidateFile,
  sectionLookup,
  writeCandidateFile,
} from './candidate';
export { levelFlights, type LevelPoint } from './performance';
export { ANALYSES, runAnalysis, type AnalysisKind } from './analysis';
