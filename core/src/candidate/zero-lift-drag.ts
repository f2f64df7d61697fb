import { z } from 'zod';
import { standingIn, type SectionLookup } from '../airframe';
import { flowState } from '../atmosphere';
import { dragBuildUp, type DragBuildUp } from '../drag';
import { profilesAt, type SteadyPoint, type SteadyResult } from '../flight';
import type { SectionPolars } from '../lift';
import { within } from '../limits';
import { InvalidInput } from '../numerics';
import { BRIEF_LIMITS, candidatePart, type CandidatePart, type ProjectDocument } from '../project';
import { analysis } from '../results';
import { sectionSource, type SectionSource } from '../shaping';
import { inputsOfSteady, steady, type SteadyCase } from './flight';
import { sectionLookup, sectionsUsed } from './section-lookup';

/** What the drag of a candidate's shape depends on. */
export interface ZeroLiftDragInput {
  candidate: Pick<CandidatePart, 'surfaces' | 'bodies' | 'reference' | 'drag'>;
  sections: Record<string, SectionSource>;
  /** m/s, m */ speed: number;
  altitude: number;
  /** Level flight at that speed, where the surfaces' drag is by the polars of their sections. */ level: SteadyCase | null;
}

/** The drag of a shape without lift at a speed, m/s, and an altitude, m. @param level points of level flight, where surfaces are by the polars of their sections. */
export function zeroLiftDragOf(
  candidate: ZeroLiftDragInput['candidate'],
  lookup: SectionLookup,
  flight: { speed: number; altitude: number },
  level: readonly SteadyPoint[],
): DragBuildUp {
  const stands = standingIn(candidate);
  const profiles = profilesAt(level, flight.speed) ?? undefined;
  return dragBuildUp(stands, flowState(flight.speed, flight.altitude), lookup, undefined, profiles);
}

/** The drag build-up of a candidate at the brief's speed and altitude. @throws InvalidInput as {@link inputsOfSteady}. */
export function inputsOfZeroLiftDrag(
  document: ProjectDocument,
  candidateId: string,
  polars: SectionPolars[] | null,
): ZeroLiftDragInput {
  const candidate = document.candidates[candidateId];
  if (!candidate) throw new InvalidInput('candidate-missing', `There is no candidate "${candidateId}".`);
  const { speed, altitude } = document.brief;
  const { surfaces, bodies, reference, drag } = candidate;
  const level =
    drag?.surfaces === 'polars' && polars
      ? inputsOfSteady(document, candidateId, { kind: 'level', speeds: [speed] }, polars)
      : null;
  return {
    candidate: { surfaces, bodies, reference, drag },
    sections: sectionsUsed(document.sections, candidate),
    speed,
    altitude,
    level,
  };
}

/** Drag without lift, part by part. */
export const zeroLiftDrag = analysis({
  version: 1,
  input: z.object({
    candidate: candidatePart.pick({ surfaces: true, bodies: true, reference: true, drag: true }),
    sections: z.record(z.string(), sectionSource),
    speed: within(BRIEF_LIMITS.speed),
    altitude: within(BRIEF_LIMITS.altitude),
    level: (steady.input as z.ZodType<SteadyCase>).nullable(),
  }) as z.ZodType<ZeroLiftDragInput>,
  run: ({ candidate, sections, level, ...flight }: ZeroLiftDragInput): DragBuildUp =>
    zeroLiftDragOf(
      candidate,
      sectionLookup(sections),
      flight,
      level ? (steady.run(level, {}) as SteadyResult).points : [],
    ),
});
