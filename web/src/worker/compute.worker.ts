import { expose } from 'comlink';
import { keepHints } from './errors';
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
  deflectFlap,
  massProperties,
  meanLine,
  smoothnessOf,
  SurfaceSpline,
  type MassProperties,
  type MeanLine,
  type SectionFacts,
  type Smoothness,
} from '@veldtwind/core/section';
import {
  fitClassShape,
  sourceFacts,
  sourceOutline,
  surfaceSpeeds,
  type ClassShapeFit,
  type FoundDisplacement,
  type SectionSource,
  type SpeedPair,
  type SpeedReport,
} from '@veldtwind/core/shaping';
import {
  atLift,
  DEFAULT_SPREAD,
  InviscidSection,
  panelNodes,
  panelQuality,
  ViscousSection,
  type Distributions,
  type InviscidPoint,
  type PanelSpread,
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

/** A section with everything that is known of its shape. */
export interface SectionDetail extends SectionView {
  mass: MassProperties;
  smoothness: Smoothness;
}

/** A recipe while it changes: the section as it is, and what its inverse steps found. */
export interface ShapedView {
  view: SectionView;
  found: { index: number; displacement: FoundDisplacement; report?: SpeedReport }[];
  ms: number;
}

/** Panels on a section, and how far they leave it. */
export interface PanelView {
  x: Float64Array;
  y: Float64Array;
  /** Panel lengths, chords, and angles between neighbours, rad. */
  length: Float64Array;
  angle: Float64Array;
  /** Greatest distance of each panel from the outline, chords. */
  leaves: Float64Array;
  nose: number;
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
  spread?: PanelSpread;
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

/** The usual spread says nothing, so that results made with it keep their place. */
const usual = (spread?: PanelSpread) => JSON.stringify(spread ?? DEFAULT_SPREAD) === JSON.stringify(DEFAULT_SPREAD);
const viewOfSource = keeper((source): SectionView => {
  const outline = sourceOutline(source, 241);
  return { ...outline, facts: sourceFacts(source, outline), line: meanLine(new SurfaceSpline(outline)) };
}, 300);

const detailOfSource = keeper((source): SectionDetail => {
  const view = viewOfSource(source);
  const spline = new SurfaceSpline(view);
  return { ...view, mass: massProperties(view, spline), smoothness: smoothnessOf(view, spline) };
}, 60);

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

function solverOf(source: SectionSource, flap: FlapSetting | null, spread: PanelSpread = DEFAULT_SPREAD) {
  const key = JSON.stringify([source, flap, spread]);
  let kept = solvers.get(key);
  if (!kept) {
    const { outline, hinge } = { hinge: undefined, ...flapped(source, flap) };
    kept = { section: new ViscousSection(outline, spread), hinge };
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
  detail: (source: SectionSource): SectionDetail => detailOfSource(source),
  /** A recipe's result with what its designs to a speed found. */
  shaped(
    source: SectionSource,
    progress?: (index: number, iteration: number, left: number) => void | Promise<void>,
  ): ShapedView {
    const start = performance.now();
    const found: ShapedView['found'] = [];
    const outline = sourceOutline(source, 241, {
      report: (index, f) => found.push({ index, ...f }),
      progress: progress && ((index, iteration, left) => void progress(index, iteration, left)),
    });
    const view = { ...outline, facts: sourceFacts(source, outline), line: meanLine(new SurfaceSpline(outline)) };
    return { view, found, ms: performance.now() - start };
  },
  fit: (source: SectionSource, order: number): ClassShapeFit => fitClassShape(sourceOutline(source, 241), order),
  speeds: (source: SectionSource, alpha: number): { upper: SpeedPair[]; lower: SpeedPair[] } =>
    surfaceSpeeds(sourceOutline(source, 241), alpha),
  panels(source: SectionSource, spread: PanelSpread): PanelView {
    const spline = new SurfaceSpline(sourceOutline(source, 241));
    const nodes = panelNodes({ x: new Float64Array(), y: new Float64Array() }, spread, spline);
    return {
      x: nodes.x,
      y: nodes.y,
      ...panelQuality(nodes, spline),
      nose: nodes.s.findIndex((v) => v >= nodes.nose - 1e-9),
    };
  },
  flow(
    source: SectionSource,
    flap: FlapSetting | null,
    alpha: number,
    mach: number,
    spread?: PanelSpread,
  ): SectionFlow {
    const solver = flap || !usual(spread) ? solverOf(source, flap, spread).section.solver : flowOfSource(source);
    const { x, y, s, nose } = solver.nodes;
    return { x, y, nose: s.findIndex((v) => v >= nose - 1e-9), point: solver.at(alpha, mach) };
  },
  /** One viscous point, started from the one solved last for this section. */
  viscous(source: SectionSource, request: ViscousRequest): ViscousFlow {
    const start = performance.now();
    const kept = solverOf(source, request.flap, request.spread);
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
keepHints();
expose(api);
