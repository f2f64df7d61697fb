import { FailedComputation, InvalidInput } from '../numerics';
import { meanLineCache, type SectionLookup } from '../airframe';
import type { BriefPart, CandidatePart } from '../project';
import { evaluateCandidate, type Evaluation } from './evaluate';

/** A change that meets a target: the surface, its incidence before and after in degrees, and what it leads to. */
export interface IncidenceSolution {
  surfaceId: string;
  fromDeg: number;
  toDeg: number;
  trimDeg: number;
  evaluations: number;
}

const DEG = 180 / Math.PI;

/** The candidate with one surface's incidence changed. */
export function withIncidence(candidate: CandidatePart, surfaceId: string, incidenceDeg: number): CandidatePart {
  return { ...candidate, surfaces: candidate.surfaces.map((s) => (s.id === surfaceId ? { ...s, incidenceDeg } : s)) };
}

/**
 * Solves for the incidence of a tailplane that trims at a wanted angle: secant steps on the real lattice.
 * @param targetDeg trim angle wanted, degrees, inside the candidate's sweep.
 * @throws InvalidInput without a centre of gravity or without that surface; FailedComputation when no incidence within ±15° does it.
 */
export function solveTailIncidence(
  brief: BriefPart,
  candidate: CandidatePart,
  lookup: SectionLookup,
  surfaceId: string,
  targetDeg: number,
): IncidenceSolution {
  const surface = candidate.surfaces.find((s) => s.id === surfaceId);
  if (!surface) throw new InvalidInput('no-surface', 'That surface is not in this candidate.');
  const lineOf = meanLineCache(lookup);
  let evaluations = 0;
  const evaluate = (incidenceDeg: number): Evaluation => {
    evaluations++;
    return evaluateCandidate(brief, withIncidence(candidate, surfaceId, incidenceDeg), lookup, lineOf);
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
    const points = e.lift.points;
    const target = targetDeg / DEG;
    const i = Math.max(0, Math.min(points.length - 2, points.findIndex((p) => p.alpha > target) - 1));
    const u = (target - points[i].alpha) / (points[i + 1].alpha - points[i].alpha);
    return points[i].Cm * (1 - u) + points[i + 1].Cm * u;
  };
  let a = surface.incidenceDeg;
  let fa = momentAt(a);
  let b = a + 1;
  for (let step = 0; step < 12; step++) {
    const fb = momentAt(b);
    if (Math.abs(fb) < 1e-6 || fb === fa) {
      if (fb === fa && Math.abs(fb) > 1e-6) break;
      const trim = evaluate(b).balance?.trims[0];
      if (!trim) break;
      return { surfaceId, fromDeg: surface.incidenceDeg, toDeg: b, trimDeg: trim.alpha * DEG, evaluations };
    }
    const next = b - (fb * (b - a)) / (fb - fa);
    a = b;
    fa = fb;
    b = next;
    if (!(Math.abs(b) <= 15)) break;
  }
  throw new FailedComputation(
    'no-solution',
    `No incidence within ±15° of ${surface.name} trims at ${targetDeg}°.`,
    'Move the centre of gravity, or change the size or arm of the tail.',
  );
}
