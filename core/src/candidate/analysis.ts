import { z } from 'zod';
import { standing } from '../airframe';
import { keptMeanLine, type SectionPolars } from '../lift';
import { InvalidInput } from '../numerics';
import { BRIEF_LIMITS, candidatePart, type ProjectDocument } from '../project';
import { within } from '../limits';
import { analysis } from '../results';
import { sectionSource, type SectionSource } from '../shaping';
import { evaluateCandidate, type DesignBrief, type DesignCandidate, type Evaluation } from './evaluate';
import { evaluateWithPanels } from './evaluate-panels';
import { evaluateWithPolars } from './evaluate-polars';
import { polarsSchema } from './flight';
import { sectionLookup, sectionsUsed } from './section-lookup';

/** Everything that the evaluation of a candidate depends on. */
export interface EvaluationInput {
  brief: DesignBrief;
  candidate: DesignCandidate;
  /** The project's sections that its stations use, complete in themselves. */
  sections: Record<string, SectionSource>;
  /** Of the sections; without, the lattice alone answers. */ polars?: SectionPolars[];
  /** By surface panels. */ panels?: true;
}

export const evaluationInput = z.object({
  brief: z.object({
    speed: within(BRIEF_LIMITS.speed),
    altitude: within(BRIEF_LIMITS.altitude),
    mass: within(BRIEF_LIMITS.mass),
  }),
  candidate: candidatePart.pick({
    surfaces: true,
    massItems: true,
    reference: true,
    sweep: true,
    bodies: true,
    engine: true,
    drag: true,
  }),
  sections: z.record(z.string(), sectionSource),
  polars: polarsSchema.optional(),
  panels: z.literal(true).optional(),
});

/** The input of a candidate's evaluation. @param by the polars of its sections, or surface panels; null for the lattice alone. @throws InvalidInput `candidate-missing`, or for a section that comes back to itself. */
export function inputsOfEvaluation(
  document: ProjectDocument,
  candidateId: string,
  by: SectionPolars[] | 'panels' | null = null,
): EvaluationInput {
  const candidate = document.candidates[candidateId];
  if (!candidate) throw new InvalidInput('candidate-missing', `There is no candidate "${candidateId}".`);
  const { speed, altitude, mass } = document.brief;
  const { massItems, reference, sweep } = candidate;
  // What it is attached to has told where a surface stands.
  const surfaces = standing(candidate.surfaces, candidate.bodies);
  const { bodies, engine, drag } = candidate;
  return {
    brief: { speed, altitude, mass },
    // Drag takes part by the thrust that carries it.
    candidate: { surfaces, massItems, reference, sweep, bodies, ...(engine && { engine, ...(drag && { drag }) }) },
    sections: sectionsUsed(document.sections, candidate),
    ...(by && (by === 'panels' ? { panels: true } : { polars: by })),
  };
}

/** A candidate from brief to static stability. */
export const evaluation = analysis({
  version: 9,
  input: evaluationInput,
  remote: true,
  inputsOf: inputsOfEvaluation,
  run: ({ brief, candidate, sections, polars, panels }: EvaluationInput): Evaluation => {
    const lookup = sectionLookup(sections);
    const lineOf = (key: string) => keptMeanLine(lookup(key));
    const alone = evaluateCandidate(brief, candidate, lookup, lineOf);
    if (panels) return evaluateWithPanels(alone, brief, candidate, lookup, lineOf);
    return polars ? evaluateWithPolars(alone, brief, candidate, lookup, lineOf, polars) : alone;
  },
});
