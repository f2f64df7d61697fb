import type { SectionLookup } from '../airframe';
import type { SectionPolars } from '../lift';
import { FailedComputation } from '../numerics';
import type { CandidatePart } from '../project';
import type { MeanLine } from '../section';
import { evaluateCandidate, type Evaluation, type ModelMethod } from './evaluate';
import { panelStability } from './evaluate-panels';
import { evaluateWithPolars } from './evaluate-polars';
import { airframeMotion, loadedMass, type AirframeMotion } from './motion';
import { withPlacedMass } from './placed-mass';
import { trimmedStall } from './trimmed-stall';

/** A number of the model, or why there is none. SI; angles in rad. */
export type Modelled = { value: number } | { missing: string };

/** The headline numbers of an aircraft in level flight by one method. */
export interface AircraftModel {
  method: ModelMethod;
  /** m/s, m */ speed: number;
  altitude: number;
  /** Of the trim of level flight; null by panels, which have no derivatives of motion. */ motion: AirframeMotion | null;
  staticMargin: Modelled;
  /** x, m */ neutralPoint: Modelled;
  /** Without a moment, controls as they stand. */ trimAngle: Modelled;
  /** dCm/dα in the trim of level flight, per rad. */ pitchSlope: Modelled;
  /** Angle of attack in level flight, in trim where a control trims. */ levelAngle: Modelled;
  /** dCL/dα at α = 0, per rad. */ liftSlope: Modelled;
  /** Of the lift in level flight: CL² over π, aspect ratio and induced drag. */ spanEfficiency: Modelled;
  /** That the greatest lift in trim carries at the speed, kg. */ heaviestMass: Modelled;
  /** In the trim of level flight. */ dragCoefficient: Modelled;
}

const given = (value: number | null | undefined, why: string): Modelled =>
  value !== null && value !== undefined && Number.isFinite(value) ? { value } : { missing: why };
const OUTSIDE = 'The pitching moment has no zero within the angles of the sweep.';

/**
 * The numbers of a candidate by one method, all of the same flight: those of Balance, Motion and Lift.
 * @param options speed, m/s, and altitude, m; polars of the sections, for the method `polars`.
 * @throws InvalidInput for masses or a shape that cannot be; FailedComputation `no-trim`, `polar-missing`.
 */
export function modelOf(
  part: CandidatePart,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  options: { speed: number; altitude: number; method: ModelMethod; polars: SectionPolars[] | null; loading?: string },
): AircraftModel {
  const { speed, altitude, method, loading } = options;
  const candidate = withPlacedMass(part, lookup);
  const mass = loadedMass(candidate, loading);
  const polars = method === 'polars' ? options.polars : null;
  if (method === 'polars' && !polars)
    throw new FailedComputation('polar-missing', 'The polars of the sections are not there.', 'Compute them first.');
  const brief = { speed, altitude, mass: mass.mass };
  const shares = loading === undefined ? {} : (candidate.loadings?.[loading] ?? {});
  const massItems = candidate.massItems.map((m) => ({ ...m, mass: m.mass * (shares[m.id] ?? 1) }));
  const loaded = { ...candidate, massItems };
  const alone = evaluateCandidate(brief, loaded, lookup, lineOf);
  const evaluation = polars ? evaluateWithPolars(alone, brief, loaded, lookup, lineOf, polars) : alone;
  const [problem] = evaluation.problems;
  const { curve, balance, lift } = evaluation;
  if (!lift || !balance || !curve || (polars && evaluation.method !== 'polars'))
    throw new FailedComputation(problem?.code ?? 'model', problem?.message ?? 'It has no lift.', problem?.hint ?? '');
  const motion = airframeMotion(candidate, lookup, lineOf, { speed, altitude, polars, ...(loading && { loading }) });
  if (method === 'panels') return byPanels(candidate, lookup, lineOf, evaluation, motion, { speed, altitude });
  return {
    method,
    speed,
    altitude,
    motion,
    staticMargin: { value: motion.staticMargin },
    neutralPoint: { value: motion.neutralPoint },
    trimAngle: given(balance.trims[0]?.alpha, OUTSIDE),
    pitchSlope: { value: motion.derivatives.Cm_alpha },
    levelAngle: { value: motion.trim.alpha },
    liftSlope: given(curve.liftSlope, 'The sweep has no two solved points.'),
    spanEfficiency: given(levelSpanEfficiency(motion, evaluation), 'It has no induced drag.'),
    heaviestMass: polars
      ? heaviestMass(mass.mass, speed, () =>
          trimmedStall(candidate, lookup, lineOf, { speed, altitude, polars, ...(loading && { loading }) }),
        )
      : { missing: 'Without viscosity there is no greatest lift: use section polars.' },
    dragCoefficient: { value: motion.trim.CD },
  };
}

/** Mass that the greatest lift in trim carries at a speed, kg: at one greatest lift it goes with the square of the speed over the stall's. */
function heaviestMass(mass: number, speed: number, stall: () => { speed: number }): Modelled {
  try {
    return { value: mass * (speed / stall().speed) ** 2 };
  } catch (error) {
    if (error instanceof FailedComputation) return { missing: error.message };
    throw error;
  }
}

/** Span efficiency of the lift in the trim of level flight; null without induced drag. */
export function levelSpanEfficiency(motion: AirframeMotion, evaluation: Evaluation): number | null {
  const { CL, CDi } = inTrim(motion, evaluation);
  const { span, area } = motion.reference;
  return CDi > 0 ? (CL * CL) / (Math.PI * ((span * span) / area) * CDi) : null;
}

/** Lift and induced drag in the trim of level flight, between the points of the lattice's sweep, at the lift that is flown. */
function inTrim(motion: AirframeMotion, { lift }: Evaluation): { CL: number; CDi: number } {
  const points = lift!.points;
  const { CL } = motion.trim;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]];
    if ((a.CL - CL) * (b.CL - CL) > 0 || a.CL === b.CL) continue;
    // CDi goes with the square of the lift: between two points its square root is straight enough to four digits.
    const t = (CL - a.CL) / (b.CL - a.CL);
    const k = (p: (typeof points)[number]) => p.CDi / Math.max(1e-9, p.CL * p.CL);
    return { CL, CDi: (k(a) + t * (k(b) - k(a))) * CL * CL };
  }
  return { CL, CDi: NaN };
}

/** By the closed surfaces: slopes about the angle that the lattice flies level at. */
function byPanels(
  candidate: CandidatePart,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  evaluation: Evaluation,
  motion: AirframeMotion,
  { speed, altitude }: { speed: number; altitude: number },
): AircraftModel {
  const { mass, trim, reference } = motion;
  const made = panelStability(evaluation, candidate, lookup, lineOf, { speed, altitude, mass, about: trim.alpha });
  const { CL, CDi, trims } = made;
  const NONE = 'The panels are without viscosity, and controls stand as they are.';
  const FLAT = 'The lift does not change with the angle.';
  return {
    method: 'panels',
    speed,
    altitude,
    motion: null,
    staticMargin: given(made.staticMargin, FLAT),
    neutralPoint: given(made.neutralPoint, FLAT),
    trimAngle: given(trims[0]?.alpha, OUTSIDE),
    pitchSlope: given(made.pitchSlope, 'It is not finite.'),
    levelAngle: given(made.levelAngle, FLAT),
    liftSlope: given(made.liftSlopeAtZero, 'It is not finite.'),
    spanEfficiency: given(
      (CL * CL) / (Math.PI * ((reference.span * reference.span) / reference.area) * CDi),
      'It has no induced drag.',
    ),
    heaviestMass: { missing: NONE },
    dragCoefficient: { missing: NONE },
  };
}
