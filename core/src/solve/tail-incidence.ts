import { z } from 'zod';
import { keptMeanLine, type SectionPolars } from '../lift';
import { DEG, FailedComputation, interpolate, InvalidInput } from '../numerics';
import { analysis } from '../results';
import {
  evaluateCandidate,
  evaluateWithPolars,
  evaluationInput,
  inputsOfEvaluation,
  sectionLookup,
  type Evaluation,
  type EvaluationInput,
} from '../candidate';
import type { CandidatePart, ProjectDocument } from '../project';

/** Incidences that are sought among, degrees. */
const MOST = 15;
const MOST_STEPS = 12;
const MOMENT_TOLERANCE = 1e-6;

/** A change that meets a target: the surface, its incidence before and after in degrees, and the trim angle that it leads to. */
export interface IncidenceSolution {
  surfaceId: string;
  fromDeg: number;
  toDeg: number;
  trimDeg: number;
  evaluations: number;
}

/** The candidate with one surface's incidence changed. */
export function withIncidence<C extends Pick<CandidatePart, 'surfaces'>>(
  candidate: C,
  surfaceId: string,
  incidenceDeg: number,
): C {
  return { ...candidate, surfaces: candidate.surfaces.map((s) => (s.id === surfaceId ? { ...s, incidenceDeg } : s)) };
}

/** A candidate, the surface that is turned, and the trim angle that is wanted. */
export interface TailIncidenceInput extends EvaluationInput {
  surfaceId: string;
  /** Trim angle wanted, degrees, inside the candidate's sweep. */
  targetDeg: number;
}

/**
 * Solves for the incidence of a tailplane that trims at a wanted angle: secant steps on the real lattice, with the polars of the sections where they are given.
 * @throws InvalidInput without a centre of gravity or without that surface; FailedComputation when no incidence within ±15° does it.
 */
export function solveTailIncidence(input: TailIncidenceInput): IncidenceSolution {
  const { surfaceId, targetDeg, brief, candidate } = input;
  const surface = candidate.surfaces.find((s) => s.id === surfaceId);
  if (!surface) throw new InvalidInput('no-surface', 'That surface is not in this candidate.');
  const lookup = sectionLookup(input.sections);
  let evaluations = 0;
  const evaluate = (incidenceDeg: number): Evaluation => {
    evaluations++;
    const changed = withIncidence(candidate, surfaceId, incidenceDeg);
    const lineOf = (key: string) => keptMeanLine(lookup(key));
    const alone = evaluateCandidate(brief, changed, lookup, lineOf);
    return input.polars ? evaluateWithPolars(alone, brief, changed, lookup, lineOf, input.polars) : alone;
  };
  // Cm at the wanted angle is nearly linear in the incidence, and defined even where the candidate does not trim.
  const momentAt = (incidenceDeg: number): number => {
    const e = evaluate(incidenceDeg);
    if (!e.balance || !e.lift) {
      throw new InvalidInput(
        'no-centre',
        e.problems[0]?.message ?? 'The centre of gravity is not known.',
        'Give mass items in Balance first.',
      );
    }
    if (input.polars && e.method !== 'polars')
      throw new FailedComputation(
        'no-solution',
        `With this incidence the polars do not answer: ${e.problems.at(-1)?.message ?? 'no reason is known.'}`,
        'Look at the findings of the candidate first.',
      );
    const points = e.curve!.points.filter((p) => p.status !== 'unsolved');
    return interpolate(
      points.map((p) => p.alpha),
      points.map((p) => p.Cm),
      targetDeg / DEG,
      'line',
    );
  };
  let a = surface.incidenceDeg;
  let fa = momentAt(a);
  let b = a + 1;
  for (let step = 0; step < MOST_STEPS; step++) {
    const fb = momentAt(b);
    if (Math.abs(fb) < MOMENT_TOLERANCE) {
      const trim = evaluate(b).balance?.trims[0];
      if (!trim) break;
      return { surfaceId, fromDeg: surface.incidenceDeg, toDeg: b, trimDeg: trim.alpha * DEG, evaluations };
    }
    if (fb === fa) break;
    const next = b - (fb * (b - a)) / (fb - fa);
    a = b;
    fa = fb;
    b = next;
    if (!(Math.abs(b) <= MOST)) break;
  }
  throw new FailedComputation(
    'no-solution',
    `No incidence within ±${MOST}° of ${surface.name} trims at ${targetDeg}°.`,
    'Move the centre of gravity, or change the size or arm of the tail.',
  );
}

/** The tail incidence that trims at a wanted angle. */
export const tailIncidence = analysis({
  version: 3,
  input: evaluationInput.extend({ surfaceId: z.string(), targetDeg: z.number().min(-30).max(30) }),
  inputsOf: (
    document: ProjectDocument,
    candidateId: string,
    surfaceId: string,
    targetDeg: number,
    polars: SectionPolars[] | null = null,
  ): TailIncidenceInput => ({ ...inputsOfEvaluation(document, candidateId, polars), surfaceId, targetDeg }),
  run: (input: TailIncidenceInput): IncidenceSolution => solveTailIncidence(input),
});
