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
import { deflectFlap, meanLine, SurfaceSpline, type MeanLine, type SectionFacts } from '@veldtwind/core/section';
import { sourceFacts, sourceOutline, type SectionSource } from '@veldtwind/core/shaping';
import {
  atLift,
  InviscidSection,
  ViscousSection,
  type Distributions,
  type InviscidPoint,
  type SolvedState,
  type ViscousPoint,
} from '@veldtwind/core/section-flow';

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

/** A flap as the interface holds it: hinge in chords and in thicknesses from below, angle positive down. */
export interface FlapSetting {
  x: number;
  y: number;
  angleDeg: number;
}

/** Conditions of the live viscous solution; either the angle or the lift is held. */
export interface ViscousRequest {
  alphaDeg: number | null;
  cl: number | null;
  reynolds: number;
  mach: number;
  criticalAmplification: number;
  tripTop: number | null;
  tripBottom: number | null;
  flap: FlapSetting | null;
}

export interface ViscousFlow {
  point: ViscousPoint;
  distributions?: Distributions;
  ms: number;
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

/** The outline with its flap deflected, and the hinge. */
function flapped(source: SectionSource, flap: FlapSetting | null) {
  const outline = sourceOutline(source, 241);
  if (!flap) return { outline };
  return deflectFlap(outline, { x: flap.x, y: flap.y, angle: (flap.angleDeg * Math.PI) / 180 });
}

const MOST_SOLVERS = 6;
const BUDGET = 2000;
/** Solvers with the state solved last, from which the next angle starts. */
const solvers = new Map<string, { section: ViscousSection; hinge?: { x: number; y: number }; state?: SolvedState }>();

function solverOf(source: SectionSource, flap: FlapSetting | null) {
  const key = JSON.stringify([source, flap]);
  let kept = solvers.get(key);
  if (!kept) {
    const { outline, hinge } = { hinge: undefined, ...flapped(source, flap) };
    kept = { section: new ViscousSection(outline), hinge };
    if (solvers.size >= MOST_SOLVERS) solvers.delete(solvers.keys().next().value!);
    solvers.set(key, kept);
  }
  return kept;
}

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
  flow(source: SectionSource, flap: FlapSetting | null, alpha: number, mach: number): SectionFlow {
    const solver = flap ? solverOf(source, flap).section.solver : flowOfSource(source);
    const { x, y, s, nose } = solver.nodes;
    return { x, y, nose: s.findIndex((v) => v >= nose - 1e-9), point: solver.at(alpha, mach) };
  },
  /** One viscous point, started from the one solved last for this section. */
  viscous(source: SectionSource, request: ViscousRequest): ViscousFlow {
    const start = performance.now();
    const kept = solverOf(source, request.flap);
    const conditions = {
      reynolds: request.reynolds,
      mach: request.mach,
      criticalAmplification: request.criticalAmplification,
      tripTop: request.tripTop ?? undefined,
      tripBottom: request.tripBottom ?? undefined,
    };
    const options = { budget: BUDGET, hinge: kept.hinge };
    const near = kept.state && Math.abs(Math.log(kept.state.reynolds / request.reynolds)) < 1 ? kept.state : undefined;
    const point =
      request.cl === null
        ? kept.section.at(((request.alphaDeg ?? 0) * Math.PI) / 180, conditions, near, options)
        : atLift(kept.section, request.cl, { kind: 'fixed-re', conditions }, near, options);
    if (point.status !== 'unsolved' && kept.section.solved) kept.state = kept.section.state();
    return { point, distributions: kept.section.distributions(), ms: performance.now() - start };
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
