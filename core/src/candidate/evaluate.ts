import { flowState, GRAVITY, type FlowState } from '../atmosphere';
import { withPlacedMass } from './placed-mass';
import { meanLineCache, planformOf, referenceSurface, standing, type SectionLookup } from '../airframe';
import { massProperties, type MassProperties } from '../balance';
import {
  analyseLift,
  DEFAULT_LATTICE,
  latticeMach,
  quarterChordPoint,
  type LatticeSpread,
  type LiftInput,
  type LiftResult,
} from '../lift';
import { dragBuildUp } from '../drag';
import { withStreamEffects } from '../flight';
import { RAD, VeldtwindError } from '../numerics';
import { pushes } from '../propulsion';
import type { BriefPart, CandidatePart } from '../project';
import type { MeanLine } from '../section';
import { wholeBalance, type WholeBalance } from './whole-balance';

/** What speed, altitude and mass ask of a wing; SI. */
export interface DesignPoint {
  flow: FlowState;
  /** N */ weight: number;
  /** Lift coefficient needed for level flight; null without a wing. */
  CL: number | null;
  /** Reynolds numbers of the wing; null without a wing. */
  reynolds: { root: number; mean: number; tip: number } | null;
}

/** What the design point depends on. */
export type DesignBrief = Pick<BriefPart, 'speed' | 'altitude' | 'mass'>;
/** What the evaluation of a candidate depends on. */
export type DesignCandidate = Pick<CandidatePart, 'surfaces' | 'massItems' | 'reference' | 'sweep'> &
  Partial<Pick<CandidatePart, 'bodies' | 'engine' | 'drag'>>;

/** The design point of a brief, with what a candidate's wing adds. @throws InvalidInput outside the atmosphere, or for a wing that is no shape. */
export function designPoint(brief: DesignBrief, candidate?: DesignCandidate): DesignPoint {
  const flow = flowState(brief.speed, brief.altitude);
  const weight = brief.mass * GRAVITY;
  if (!candidate || candidate.surfaces.length === 0) return { flow, weight, CL: null, reynolds: null };
  const wing = referenceSurface(candidate.surfaces);
  const plan = planformOf(wing);
  const area = candidate.reference?.area ?? plan.area;
  const at = (chord: number) => flow.reynoldsPerMetre * chord;
  return {
    flow,
    weight,
    CL: weight / (flow.dynamicPressure * area),
    reynolds: {
      root: at(wing.stations[0].chord),
      mean: at(plan.mac.chord),
      tip: at(wing.stations[wing.stations.length - 1].chord),
    },
  };
}

/** The angles of a sweep in degrees, both ends included. */
export function anglesOf(sweep: { fromDeg: number; toDeg: number; stepDeg: number }): number[] {
  const n = Math.floor((sweep.toDeg - sweep.fromDeg) / sweep.stepDeg + 1e-9);
  const angles = Array.from({ length: n + 1 }, (_, i) => Number((sweep.fromDeg + i * sweep.stepDeg).toFixed(6)));
  if (angles[n] < sweep.toDeg - 1e-9) angles.push(sweep.toDeg);
  return angles;
}

/** The lift input of a candidate: moments about the centre of gravity where it is known, else about the quarter chord. */
export function liftInputOf(
  brief: DesignBrief,
  candidate: DesignCandidate,
  spread: LatticeSpread = DEFAULT_LATTICE,
): LiftInput {
  const mass = massProperties(candidate.massItems);
  const surfaces = standing(candidate.surfaces, candidate.bodies);
  return {
    surfaces,
    bodies: candidate.bodies ?? [],
    alphas: anglesOf(candidate.sweep).map((a) => a * RAD),
    about: mass?.centre ?? quarterChordPoint(surfaces),
    ...(candidate.reference ? { reference: candidate.reference } : {}),
    mach: latticeMach(flowState(brief.speed, brief.altitude).mach),
    spread,
  };
}

/** Drag coefficient beside the induced one, by the build-up, at a speed. */
export function parasiteOf(
  brief: Pick<DesignBrief, 'altitude'>,
  candidate: DesignCandidate,
  lookup: SectionLookup,
): (speed: number) => number {
  const { bodies = [], reference, drag } = candidate;
  const surfaces = standing(candidate.surfaces, candidate.bodies);
  const known = new Map<number, number>();
  return (speed) => {
    let CD = known.get(speed);
    if (CD === undefined) {
      CD = dragBuildUp({ surfaces, bodies, reference, drag }, flowState(speed, brief.altitude), lookup).CD;
      known.set(speed, CD);
    }
    return CD;
  };
}

/** How the numbers of an aircraft are made: each stands on the one before, with more in it. */
export const MODEL_METHODS = ['lattice', 'polars', 'panels'] as const;
export type ModelMethod = (typeof MODEL_METHODS)[number];

/** Lift and pitching moment of the whole aircraft over the angles of its sweep, about its centre of gravity; rad. */
export interface WholeCurve {
  /** CD where the method knows all of it, else the induced part. */
  points: {
    alpha: number;
    CL: number;
    Cm: number;
    CD?: number;
    CDi?: number;
    status?: 'solved' | 'doubtful' | 'unsolved';
  }[];
  /** At α = 0, per rad; null where too few points are solved. */ liftSlope: number | null;
  zeroLiftAngle: number | null;
  zeroLiftMoment: number | null;
  /** Null without viscosity, and where it lies outside of the sweep. */ greatestLift: number | null;
}

/** What is known of a candidate. A step that cannot be done leaves null and its reason in `problems`. */
export interface Evaluation {
  /** What made curve and balance. */ method: ModelMethod;
  design: DesignPoint | null;
  /** Of the vortex lattice, whatever the method. */ lift: LiftResult | null;
  curve: WholeCurve | null;
  mass: MassProperties | null;
  /** Null while the centre of gravity is not known. */
  balance: WholeBalance | null;
  problems: { code: string; message: string; hint?: string; path?: string }[];
}

/**
 * Evaluates a candidate from brief to static stability. Never throws for bad input: what cannot be computed is said in `problems`.
 * @param lineOf ready mean lines, to save their making when only numbers of the planform change.
 */
export function evaluateCandidate(
  brief: DesignBrief,
  candidate: DesignCandidate,
  lookup: SectionLookup,
  lineOf?: (key: string) => MeanLine,
  spread: LatticeSpread = DEFAULT_LATTICE,
  { centres = true } = {},
): Evaluation {
  const result: Evaluation = {
    method: 'lattice',
    design: null,
    lift: null,
    curve: null,
    mass: null,
    balance: null,
    problems: [],
  };
  const attempt = (work: () => void): boolean => {
    try {
      work();
      return true;
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      result.problems.push({ code: error.code, message: error.message, hint: error.hint, path: error.path });
      return false;
    }
  };
  attempt(() => (result.design = designPoint(brief, candidate)));
  // A mass whose place is not known has none: the centre of gravity is then not known either.
  if (attempt(() => (candidate = withPlacedMass(candidate, lookup))))
    attempt(() => (result.mass = massProperties(candidate.massItems)));
  else candidate = { ...candidate, massItems: [] };
  if (candidate.surfaces.length === 0 || !result.design) return result;
  attempt(() => {
    const lines = lineOf ?? meanLineCache(lookup);
    const input = liftInputOf(brief, streamed(brief, candidate, result.mass?.mass, lookup, lines), spread);
    if (!result.mass) result.lift = analyseLift(input, lookup, lines);
    else {
      const { engine } = candidate;
      const { lift, balance } = wholeBalance(input, lines, result.mass, {
        speed: brief.speed,
        altitude: brief.altitude,
        centres,
        // Only a thrust beside the centre makes the drag that it carries matter.
        ...(pushes(engine) && { engine, parasite: parasiteOf(brief, candidate, lookup) }),
      });
      result.lift = lift;
      result.balance = balance;
    }
    const { points, liftSlope, zeroLiftAngle, zeroLiftMoment } = result.lift;
    result.curve = {
      points: points.map(({ alpha, CL, Cm, CDi }) => ({ alpha, CL, Cm, CDi })),
      liftSlope,
      zeroLiftAngle,
      zeroLiftMoment,
      greatestLift: null,
    };
  });
  return result;
}

/** The candidate with what is counted of the effects on the streams at its surfaces. @param mass kg; the brief's without. */
export function streamed<C extends DesignCandidate>(
  brief: DesignBrief,
  candidate: C,
  mass: number | undefined,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
): C {
  const { bodies = [], reference, drag, engine } = candidate;
  const of = { surfaces: standing(candidate.surfaces, bodies), bodies, reference, drag, engine };
  const { speed, altitude } = brief;
  const surfaces = withStreamEffects({ ...of, speed, altitude, mass: mass ?? brief.mass }, lookup, lineOf);
  return { ...candidate, surfaces };
}

/** Angle at which the lift needed at the design point is reached, rad; null when it lies outside the sweep. */
export function angleForLift(lift: { points: { alpha: number; CL: number }[] }, CL: number): number | null {
  for (let i = 1; i < lift.points.length; i++) {
    const a = lift.points[i - 1];
    const b = lift.points[i];
    if ((a.CL - CL) * (b.CL - CL) <= 0 && a.CL !== b.CL)
      return a.alpha + ((CL - a.CL) / (b.CL - a.CL)) * (b.alpha - a.alpha);
  }
  return null;
}
