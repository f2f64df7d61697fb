import { z } from 'zod';
import {
  bodySchema,
  MOST_BODIES,
  MOST_SURFACES,
  point3,
  referenceOf,
  standing,
  surfaceSchema,
  type Body,
} from '../airframe';
import { massProperties } from '../balance';
import { dragSchema, type DragSettings } from '../drag';
import { flowState, GRAVITY } from '../atmosphere';
import {
  stallSpeedsExpected,
  steadySweep,
  streamFactors,
  type Aircraft,
  type SteadyResult,
  type SteadySweep,
  type StreamFactors,
} from '../flight';
import {
  analyseThick,
  keptMeanLine,
  latticeMach,
  type LatticeSpread,
  type PanelSpread,
  type SectionPolars,
  type ThickInput,
  type ThickResult,
  type FlowLinesCase,
  type GroundCase,
} from '../lift';
import { finiteNumber } from '../limits';
import { InvalidInput, VeldtwindError } from '../numerics';
import { BRIEF_LIMITS, type ProjectDocument } from '../project';
import { within } from '../limits';
import { engineSchema, type Engine } from '../propulsion';
import { analysis } from '../results';
import { sectionSource, type SectionSource } from '../shaping';
import { designPoint, type DesignBrief, type DesignCandidate } from './evaluate';
import { withPlacedMass } from './placed-mass';
import { sectionLookup, sectionsUsed } from './section-lookup';

const angle = finiteNumber.min(-0.7854).max(0.7854);
const MOST_STATES = 400;
const angles = z.array(angle).min(1).max(MOST_STATES);
const reference = z
  .object({ area: finiteNumber.positive(), span: finiteNumber.positive(), chord: finiteNumber.positive() })
  .nullable();

/** A sweep of steady states as it comes from outside; rad, m/s. */
const sweep: z.ZodType<SteadySweep> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('alpha'), alphas: angles, beta: angle.optional() }),
  z.object({ kind: z.literal('carrying'), alphas: angles }),
  z.object({ kind: z.literal('level'), speeds: z.array(within(BRIEF_LIMITS.speed)).min(1).max(MOST_STATES) }),
  z.object({ kind: z.literal('sideslip'), alpha: angle, betas: angles }),
  z.object({ kind: z.literal('control'), alpha: angle, control: z.string(), deflections: angles }),
  z.object({ kind: z.literal('lift'), lifts: z.array(finiteNumber.min(-5).max(5)).min(1).max(MOST_STATES) }),
]);

const knots = z.array(finiteNumber).min(4).max(4000);
const polarCurve = z.object({ reynolds: finiteNumber.positive(), alpha: knots, cl: knots, cd: knots, cm: knots });
/** Polars as they come from outside. */
export const polarsSchema: z.ZodType<SectionPolars[]> = z
  .array(
    z.object({
      section: z.string(),
      flap: z.object({ hinge: finiteNumber, angleDeg: finiteNumber }).nullable(),
      curves: z.array(polarCurve).max(200),
    }),
  )
  .max(500);

/** The shape of a candidate with the sections that it uses, complete in themselves. */
interface ShapeCase {
  surfaces: Aircraft['surfaces'];
  bodies: Body[];
  reference: Aircraft['reference'];
  sections: Record<string, SectionSource>;
}

/** What a sweep of steady states depends on; SI, rad. */
export interface SteadyCase extends ShapeCase {
  drag?: Partial<DragSettings>;
  about?: Aircraft['about'];
  mass: number;
  altitude: number;
  speed: number;
  spread?: LatticeSpread;
  bodiesLift?: boolean;
  engine?: Engine;
  polars: SectionPolars[];
  sweep: SteadySweep;
}

const shape = {
  surfaces: z.array(surfaceSchema).min(1).max(MOST_SURFACES),
  bodies: z.array(bodySchema).max(MOST_BODIES),
  reference,
  sections: z.record(z.string(), sectionSource),
};

/** Lift and drag of a whole aircraft in steady states, with the polars of its sections. */
export const steady = analysis({
  version: 6,
  input: z.object({
    ...shape,
    drag: dragSchema.partial().optional(),
    about: point3.optional(),
    mass: within(BRIEF_LIMITS.mass),
    altitude: within(BRIEF_LIMITS.altitude),
    speed: within(BRIEF_LIMITS.speed),
    spread: z
      .object({
        chordwise: z.number().int().min(1).max(12),
        spanwise: z.number().int().min(1).max(80),
        spacing: z.enum(['cosine', 'uniform']),
      })
      .optional(),
    bodiesLift: z.boolean().optional(),
    engine: engineSchema.optional(),
    polars: polarsSchema,
    sweep,
  }) as z.ZodType<SteadyCase>,
  run: ({ sections, speed, sweep: over, ...aircraft }: SteadyCase): SteadyResult => {
    const lookup = sectionLookup(sections);
    return steadySweep(aircraft, speed, over, lookup, (key) => keptMeanLine(lookup(key)));
  },
});

/** What a flow about closed surfaces depends on. */
export interface ThickCase extends ShapeCase {
  alphas: number[];
  beta?: number;
  mach?: number;
  about?: Aircraft['about'];
  spread?: PanelSpread;
}

/** Pressures, lift and induced drag of the closed surfaces. */
export const thick = analysis({
  version: 5,
  input: z.object({
    ...shape,
    alphas: angles.max(60),
    beta: angle.optional(),
    mach: z.number().min(0).max(1).optional(),
    about: point3.optional(),
    spread: z
      .object({
        chordwise: z.number().int().min(4).max(80),
        spanwise: z.number().int().min(2).max(120),
        around: z.number().int().min(3).max(60),
        along: z.number().int().min(4).max(120),
      })
      .optional(),
  }) as z.ZodType<ThickCase>,
  run: ({ sections, reference: r, ...input }: ThickCase, context): ThickResult =>
    analyseThick({ ...input, ...(r ? { reference: r } : {}) } as ThickInput, sectionLookup(sections), context),
});

/**
 * Speeds, m/s, that the polars of a candidate are for: the design speed, and those about the stall. No stall for a shape that has no area.
 * What is made of them: level flight reads those of its speed, a stall and a flight also those about the stall ({@link polarSpeeds}).
 */
export function speedsOfPolars(
  brief: DesignBrief,
  candidate: Pick<DesignCandidate, 'surfaces' | 'reference'>,
): {
  design: number;
  stall: number[];
} {
  const { speed, altitude, mass } = brief;
  try {
    const { area } = candidate.reference ?? referenceOf(candidate.surfaces);
    return { design: speed, stall: stallSpeedsExpected(mass * GRAVITY, area, flowState(speed, altitude).density) };
  } catch (error) {
    // What is wrong with the shape is told where it is drawn.
    if (error instanceof VeldtwindError) return { design: speed, stall: [] };
    throw error;
  }
}

/** What is made of an aircraft's polars. */
export type PolarUse = 'level' | 'stall' | 'flight';

/** Speeds whose polars a result reads, m/s: the one declaration of what it needs. */
export function polarSpeeds(
  use: PolarUse,
  brief: DesignBrief,
  candidate: Pick<DesignCandidate, 'surfaces' | 'reference'>,
): number[] {
  const { design, stall } = speedsOfPolars(brief, candidate);
  return use === 'level' ? [design] : [design, ...stall];
}

/** The candidate's part of both inputs. @throws InvalidInput `candidate-missing`. */
function shapeOf(document: ProjectDocument, candidateId: string): ShapeCase & { about?: Aircraft['about'] } {
  const candidate = document.candidates[candidateId];
  if (!candidate) throw new InvalidInput('candidate-missing', `There is no candidate "${candidateId}".`);
  const { massItems } = withPlacedMass(candidate, sectionLookup(document.sections));
  const about = massProperties(massItems)?.centre;
  return {
    surfaces: standing(candidate.surfaces, candidate.bodies),
    bodies: candidate.bodies,
    reference: candidate.reference,
    sections: sectionsUsed(document.sections, candidate),
    ...(about ? { about } : {}),
  };
}

/** The input of a sweep of steady states of a candidate. @param bodiesLift false to see what the lift of bodies does. @throws InvalidInput `candidate-missing`, or for a section that comes back to itself. */
export function inputsOfSteady(
  document: ProjectDocument,
  candidateId: string,
  sweep: SteadySweep,
  polars: SectionPolars[],
  bodiesLift = true,
): SteadyCase {
  const { drag, engine, surfaces = [] } = document.candidates[candidateId] ?? {};
  const { speed, altitude, mass } = document.brief;
  return {
    ...shapeOf(document, candidateId),
    ...(drag ? { drag } : {}),
    // It takes part by its slipstream only.
    ...(engine && surfaces.some((s) => s.streamEffects?.slipstream) ? { engine } : {}),
    speed,
    altitude,
    mass,
    polars,
    sweep,
    ...(bodiesLift ? {} : { bodiesLift }),
  };
}

/** The input of the flow about a candidate's skins. @throws as {@link inputsOfSteady}. */
export function inputsOfThick(document: ProjectDocument, candidateId: string, alphas: number[]): ThickCase {
  const { speed, altitude } = document.brief;
  return {
    ...shapeOf(document, candidateId),
    alphas,
    // As the lattice has it, so that both are of one stream.
    mach: latticeMach(flowState(speed, altitude).mach),
  };
}

/** The input of the lines of the flow about a candidate. @param circulations of its strips. @throws as {@link inputsOfSteady}. */
export function inputsOfFlowLines(
  document: ProjectDocument,
  candidateId: string,
  state: { alpha: number; beta?: number },
  circulations?: number[],
): FlowLinesCase {
  const { surfaces, sections, about, reference: r } = shapeOf(document, candidateId);
  return {
    surfaces,
    sections,
    ...(about && { about }),
    ...(r && { reference: r }),
    ...state,
    ...(circulations && { circulations }),
  };
}

/** The input of a candidate over heights above the ground, at the lift coefficient of its level flight; null where none is asked of it. @throws as {@link inputsOfSteady}. */
export function inputsOfGround(document: ProjectDocument, candidateId: string): GroundCase | null {
  const { surfaces, sections, bodies, about, reference: r } = shapeOf(document, candidateId);
  const { CL } = designPoint(document.brief, document.candidates[candidateId]);
  if (CL === null) return null;
  const { speed, altitude } = document.brief;
  const mach = latticeMach(flowState(speed, altitude).mach);
  return {
    of: { surfaces, sections, bodies, mach, ...(about && { about }), ...(r && { reference: r }) },
    CL,
  };
}

/** The input of the effects on the streams at a candidate's surfaces, in the brief's level flight. @throws as {@link inputsOfSteady}. */
export function inputsOfStreams(document: ProjectDocument, candidateId: string): StreamInput {
  const { surfaces, bodies, reference: r, sections } = shapeOf(document, candidateId);
  const { drag, engine, massItems } = document.candidates[candidateId];
  const { speed, altitude, mass } = document.brief;
  const own = massProperties(withPlacedMass({ surfaces, bodies, massItems }, sectionLookup(sections)).massItems)?.mass;
  return {
    surfaces,
    bodies,
    sections,
    reference: r,
    ...(drag && { drag }),
    ...(engine && { engine }),
    speed,
    altitude,
    mass: own ?? mass,
  };
}

/** What the effects on the streams at surfaces depend on. */
export interface StreamInput extends ShapeCase {
  drag?: Partial<DragSettings>;
  engine?: Engine;
  speed: number;
  altitude: number;
  mass: number;
}

/** Factors of wake, slipstream and carry-over of every surface, by id, counted or not. */
export const streams = analysis({
  version: 2,
  input: z.object({
    ...shape,
    drag: dragSchema.partial().optional(),
    engine: engineSchema.optional(),
    speed: within(BRIEF_LIMITS.speed),
    altitude: within(BRIEF_LIMITS.altitude),
    mass: within(BRIEF_LIMITS.mass),
  }) as z.ZodType<StreamInput>,
  run: ({ sections, ...of }: StreamInput): Record<string, StreamFactors> => {
    const lookup = sectionLookup(sections);
    return streamFactors(of, lookup, (key) => keptMeanLine(lookup(key)));
  },
});
