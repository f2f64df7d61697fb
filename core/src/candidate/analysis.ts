import { z } from 'zod';
import { standing } from '../airframe';
import { keptMeanLine } from '../lift';
import { InvalidInput } from '../numerics';
import { BRIEF_LIMITS, candidatePart, resolvedSource, type ProjectDocument } from '../project';
import { within } from '../limits';
import { analysis } from '../results';
import { sectionSource, type SectionSource } from '../shaping';
import { evaluateCandidate, type DesignBrief, type DesignCandidate, type Evaluation } from './evaluate';
import { sectionLookup } from './section-lookup';

/** Everything that the evaluation of a candidate depends on. */
export interface EvaluationInput {
  brief: DesignBrief;
  candidate: DesignCandidate;
  /** The project's sections that its stations use, complete in themselves. */
  sections: Record<string, SectionSource>;
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
});

/** The sections that a candidate's stations use, by key; those that cannot be made are left out, and the evaluation says so. */
export function sectionsUsed(
  sections: ProjectDocument['sections'],
  candidate: Pick<DesignCandidate, 'surfaces'>,
): Record<string, SectionSource> {
  const used: Record<string, SectionSource> = {};
  for (const s of candidate.surfaces)
    for (const { section } of s.stations) {
      if (Object.hasOwn(used, section) || !Object.hasOwn(sections, section)) continue;
      used[section] = resolvedSource(sections, section);
    }
  return used;
}

/** The input of a candidate's evaluation. @throws InvalidInput `candidate-missing`, or for a section that comes back to itself. */
export function inputsOfEvaluation(document: ProjectDocument, candidateId: string): EvaluationInput {
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
  };
}

/** A candidate from brief to static stability. */
export const evaluation = analysis({
  version: 6,
  input: evaluationInput,
  remote: true,
  inputsOf: inputsOfEvaluation,
  run: ({ brief, candidate, sections }: EvaluationInput): Evaluation => {
    const lookup = sectionLookup(sections);
    return evaluateCandidate(brief, candidate, lookup, (key) => keptMeanLine(lookup(key)));
  },
});
