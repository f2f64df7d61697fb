import {
  asymmetry,
  controlReach,
  controlTorque,
  flightFit,
  structureSizing,
  structureStrength,
  critical,
  derivativeEstimates,
  evaluation,
  flight,
  flightGround,
  flightScatter,
  flightTablesOf,
  lateral,
  massEstimate,
  motion,
  motionChangePath,
  motionEffectsOf,
  motionEnvelope,
  motionMethods,
  flownMethods,
  motionPath,
  performance,
  performanceLimits,
  performanceMap,
  rollDamping,
  steady,
  steadyFlight,
  stallInTrim,
  streams,
  thick,
  zeroLiftDrag,
} from '../candidate';
import { controlGains, controlRobustness, controlStudy, controlSurvey } from '../control';
import { readFiles, writeFiles } from '../formats';
import { layout } from '../layouts';
import { flowLinesOf, ground, lift } from '../lift';
import { inviscidFlow, liveFlown, liveViscousPoint, polar, storedPoint, storedTables } from '../polar';
import { checkedInput, resultKey, type Analysis, type RunContext } from '../results';
import {
  classShapeFit,
  sectionDetail,
  sectionPanels,
  sectionSpeeds,
  sectionSummaries,
  sectionView,
  shapedSection,
} from '../shaping';
import { tailIncidence, twistForLoad } from '../solve';
import { study } from '../studies';

/** Every analysis by its kind. Workers, server, queue and command line run what stands here, and nothing else. */
export const ANALYSES = {
  evaluation,
  lift,
  'critical-mach': critical,
  'flow-lines': flowLinesOf,
  ground,
  performance,
  'performance-limits': performanceLimits,
  'performance-map': performanceMap,
  steady,
  streams,
  thick,
  'zero-lift-drag': zeroLiftDrag,
  motion,
  'steady-flight': steadyFlight,
  lateral,
  asymmetry,
  'mass-estimate': massEstimate,
  'motion-path': motionPath,
  'motion-effects': motionEffectsOf,
  'motion-change-path': motionChangePath,
  'motion-envelope': motionEnvelope,
  'motion-methods': motionMethods,
  'motion-flown': flownMethods,
  'roll-damping': rollDamping,
  'trimmed-stall': stallInTrim,
  'control-study': controlStudy,
  'control-survey': controlSurvey,
  'control-robustness': controlRobustness,
  'control-gains': controlGains,
  'control-reach': controlReach,
  'control-torque': controlTorque,
  'flight-fit': flightFit,
  'derivative-estimate': derivativeEstimates,
  'structure-strength': structureStrength,
  'structure-sizing': structureSizing,
  'flight-tables': flightTablesOf,
  'flight-ground': flightGround,
  flight,
  'flight-scatter': flightScatter,
  polar,
  'stored-point': storedPoint,
  'stored-tables': storedTables,
  study,
  'starting-layout': layout,
  'tail-incidence': tailIncidence,
  'twist-for-load': twistForLoad,
  'section-view': sectionView,
  'section-detail': sectionDetail,
  'section-summaries': sectionSummaries,
  'section-shape': shapedSection,
  'section-panels': sectionPanels,
  'section-speeds': sectionSpeeds,
  'class-shape-fit': classShapeFit,
  'inviscid-flow': inviscidFlow,
  'viscous-point': liveViscousPoint,
  'flown-flows': liveFlown,
  'read-files': readFiles,
  'write-files': writeFiles,
};

/** A kind of analysis. */
export type AnalysisKind = keyof typeof ANALYSES;
type Entry<K extends AnalysisKind> = (typeof ANALYSES)[K];
/** What an analysis needs, and what it gives. */
export type InputOf<K extends AnalysisKind> = Parameters<Entry<K>['run']>[0];
export type OutputOf<K extends AnalysisKind> = Awaited<ReturnType<Entry<K>['run']>>;

const entryOf = (kind: AnalysisKind) => ANALYSES[kind] as unknown as Analysis<unknown, unknown>;

/** The kinds that may be asked for over HTTP. */
export const REMOTE_KINDS = (Object.keys(ANALYSES) as AnalysisKind[]).filter((kind) => entryOf(kind).remote);

/** Whether there is an analysis of a name. */
export const isAnalysis = (kind: string): kind is AnalysisKind => Object.hasOwn(ANALYSES, kind);

/** Runs an analysis. @throws what the analysis throws, and Cancelled when it was told to end. */
export async function runAnalysis<K extends AnalysisKind>(
  kind: K,
  input: InputOf<K>,
  context: RunContext = {},
): Promise<OutputOf<K>> {
  return (await entryOf(kind).run(input, context)) as OutputOf<K>;
}

/** An input that came from outside, checked. @throws InvalidInput with the path of the field. */
export function checkedInputOf<K extends AnalysisKind>(kind: K, given: unknown): InputOf<K> {
  return checkedInput(entryOf(kind).input, given) as InputOf<K>;
}

/** The version of the method behind a kind. */
export const versionOf = (kind: AnalysisKind): number => entryOf(kind).version;

/** The key of a result: of its kind, the method's version and exactly its input. */
export const keyOfResult = <K extends AnalysisKind>(kind: K, input: InputOf<K>): string =>
  resultKey(kind, versionOf(kind), input);

export { Cancelled, type Progress, type RunContext } from '../results';
