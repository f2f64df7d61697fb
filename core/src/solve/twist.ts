import { z } from 'zod';
import { referenceSurface, standing, twistsOf } from '../airframe';
import { inputsOfEvaluation, evaluationInput, liftInputOf, sectionLookup, type EvaluationInput } from '../candidate';
import { keptMeanLine, makeLattice } from '../lift';
import { DEG, factorise, FailedComputation, InvalidInput, solveFactorised } from '../numerics';
import type { ProjectDocument } from '../project';
import { analysis } from '../results';

/** Twists beyond this against what they were are no answer, degrees. */
const MOST_CHANGE = 15;
/** How much a change of twist is weighed against what is left of the load: only where the load does not care. */
const CALM = 1e-6;

/** A wing, the lift at which its load is looked at, and the load that is wanted. */
export interface TwistInput extends EvaluationInput {
  surfaceId: string;
  CL: number;
  /** Bending moment at the root, as a share of the elliptic load's of the same lift. */
  bending: number;
}

/** Twists of the stations, degrees against the incidence, and how far the load is from the one wanted before and after: the root mean square over the greatest. */
export interface TwistSolution {
  surfaceId: string;
  twistsDeg: number[];
  fromDeg: number[];
  missBefore: number;
  missAfter: number;
}

/**
 * The load of least induced drag for a lift and a bending moment at the root, of the first two odd terms: at a share of the half span, over the greatest of the
 * elliptic load of the same lift. @param bending share of the elliptic load's moment. @source NACA TN-2249, 1950, gives the exact one.
 */
export function wantedLoad(share: number, bending: number): number {
  const theta = Math.acos(Math.min(1, Math.abs(share)));
  return Math.sin(theta) + (5 / 3) * (bending - 1) * Math.sin(3 * theta);
}

/**
 * Twists of a wing's stations, its root as it is, that bring its span load nearest to a wanted one at a lift: least squares on the lattice, which is linear in
 * the turns of its strips; the angle of attack follows the lift.
 * @throws InvalidInput `no-surface`; FailedComputation `no-solution` where it would take more than ±15°.
 */
export function solveTwist({ brief, candidate, sections, surfaceId, CL, bending }: TwistInput): TwistSolution {
  const lookup = sectionLookup(sections);
  const surfaces = standing(candidate.surfaces);
  const surface = surfaces.find((s) => s.id === surfaceId);
  if (!surface) throw new InvalidInput('no-surface', 'That surface is not in this candidate.');
  const lattice = makeLattice(liftInputOf(brief, candidate), (key) => keptMeanLine(lookup(key)));
  const problem = lattice.lattice.symmetry === 'full' ? 'all' : 'even';
  const { strips, circulation } = lattice.turning(problem);
  const parts = lattice.lattice.parts;
  const own = strips.flatMap((s, k) => (parts[s.part].surface === surfaces.indexOf(surface) ? [k] : []));
  const stationOf = (k: number) => Math.abs(parts[strips[k].part].station[strips[k].strip]);
  const widthOf = (k: number) => parts[strips[k].part].width[strips[k].strip];
  // Shares of the half span at which the stations lie.
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  const places = [0];
  for (const b of surface.bays) places.push(places[places.length - 1] + b.span / total);
  const n = strips.length;
  const gammaAt = (alpha: number) => {
    const { strips: loads } = lattice.at({ alpha });
    return own.map((k) => loads.find((l) => same(l, strips[k], parts))!.circulation);
  };
  const base = gammaAt(0);
  const slope = gammaAt(0.01).map((g, i) => (g - base[i]) / 0.01);
  const effects = [...places.keys()].slice(1).map((j) =>
    own.map((i) => {
      let sum = 0;
      for (const k of own) sum += circulation[i * n + k] * hat(places, j, stationOf(k));
      return sum;
    }),
  );
  const columns = [slope, ...effects];
  const width = own.map(widthOf);
  const carried = (g: readonly number[]) => g.reduce((s, v, i) => s + v * width[i], 0);
  // What the surface carries of the whole at this lift.
  const whole = [lattice.at({ alpha: 0 }).CL, lattice.at({ alpha: 0.01 }).CL];
  const alpha = (CL - whole[0]) / ((whole[1] - whole[0]) / 0.01);
  const now = base.map((g, i) => g + alpha * slope[i]);
  const shape = own.map((k) => wantedLoad(stationOf(k), bending));
  const wanted = shape.map((v) => (v * carried(now)) / carried(shape));
  const top = Math.max(...wanted.map(Math.abs));
  const miss = (g: readonly number[]) =>
    Math.sqrt(g.reduce((s, v, i) => s + width[i] * (v - wanted[i]) ** 2, 0) / carried(width.map(() => 1))) / top;
  // Least squares for the change of the angle and of the twists.
  const m = columns.length;
  const a = new Float64Array(m * m);
  const right = new Float64Array(m);
  const scale = columns[0].reduce((s, v, i) => s + width[i] * v * v, 0);
  for (let p = 0; p < m; p++) {
    for (let q = 0; q < m; q++)
      a[p * m + q] = columns[p].reduce((s, v, i) => s + width[i] * v * columns[q][i], 0) + (p === q ? CALM * scale : 0);
    right[p] = columns[p].reduce((s, v, i) => s + width[i] * v * (wanted[i] - now[i]), 0);
  }
  const x = solveFactorised(factorise(a, m), right);
  const after = now.map((g, i) => g + columns.reduce((s, c, p) => s + x[p] * c[i], 0));
  const fromDeg = twistsOf(surface);
  const twistsDeg = fromDeg.map((t, j) => Number((t + (j === 0 ? 0 : x[j] * DEG)).toFixed(2)));
  if (twistsDeg.some((t, j) => !(Math.abs(t - fromDeg[j]) <= MOST_CHANGE)))
    throw new FailedComputation(
      'no-solution',
      `The load would need a twist that changes by more than ${MOST_CHANGE}°.`,
      'Ask for a higher lift or a milder load, or change the chords.',
    );
  return { surfaceId, twistsDeg, fromDeg, missBefore: miss(now), missAfter: miss(after) };
}

type Parts = ReturnType<typeof makeLattice>['lattice']['parts'];
const same = (l: { surface: number; station: number }, s: { part: number; strip: number }, parts: Parts) =>
  l.surface === parts[s.part].surface && Math.abs(l.station - parts[s.part].station[s.strip]) < 1e-12;

/** Share of station j's turn at a place: the twist runs straight between stations. */
function hat(places: readonly number[], j: number, at: number): number {
  if (at >= places[j - 1] && at <= places[j]) return (at - places[j - 1]) / (places[j] - places[j - 1]);
  if (j + 1 < places.length && at > places[j] && at <= places[j + 1])
    return (places[j + 1] - at) / (places[j + 1] - places[j]);
  return 0;
}

/** Twists that bring a wing's load nearest to a wanted one. */
export const twistForLoad = analysis({
  version: 2,
  input: evaluationInput.extend({
    surfaceId: z.string(),
    CL: z.number().min(0.01).max(4),
    bending: z.number().min(0.6).max(1),
  }),
  inputsOf: (document: ProjectDocument, candidateId: string, CL: number, bending: number): TwistInput => {
    const input = inputsOfEvaluation(document, candidateId);
    return { ...input, surfaceId: referenceSurface(input.candidate.surfaces).id, CL, bending };
  },
  run: (input: TwistInput): TwistSolution => solveTwist(input),
});
