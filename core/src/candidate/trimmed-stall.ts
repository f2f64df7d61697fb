import type { SectionLookup } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { keptMeanLine, type SectionPolars } from '../lift';
import { controlTrimmer, type AirframeSource, type Trimmer } from '../motion';
import { FailedComputation, RAD } from '../numerics';
import { analysis } from '../results';
import type { MeanLine } from '../section';
import { loadedMass, motion, motionSource, type MotionInput, type MovingCandidate } from './motion';
import { withPlacedMass } from './placed-mass';
import { sectionLookup } from './section-lookup';

const STEP = RAD;
/** Angles that the greatest lift is sought among, rad: coarse, then fine about the best. */
const COARSE = Array.from({ length: 23 }, (_, i) => (i - 2) * STEP);
const FINE = 0.25 * STEP;
/** Rounds of speed and Reynolds number; what a round changes at the end, as a share. */
const ROUNDS = 6;
const SETTLED = 1e-3;

/** The slowest level flight in trim, without thrust; SI, rad. */
export interface TrimmedStall {
  speed: number;
  CL: number;
  alpha: number;
  /** Deflections that trim there, by id. */ controls: Record<string, number>;
  /** What ends it: the lift does not grow any more, or the control has no travel left. */ by: 'lift' | 'travel';
}

interface Trimmed {
  alpha: number;
  CL: number;
  /** Deflection of the control that trims, rad. */ deflection: number;
  within: boolean;
}

/** Lift in trim at an angle: with what the deflection that takes the moment away does to it. */
function trimmedAt(
  source: AirframeSource,
  alpha: number,
  speed: number,
  limits: readonly [number, number],
  trimmer: Trimmer | null,
): Trimmed {
  const c = source.at({ alpha }, speed);
  if (!trimmer) return { alpha, CL: c.CL, deflection: 0, within: true };
  const effect = trimmer.at(alpha);
  const works = -c.Cm / effect.Cm;
  const travel = source.travels?.[trimmer.id];
  const deflection = travel ? travel.deflectionFor(works) : works;
  const within = deflection >= limits[0] - 1e-9 && deflection <= limits[1] + 1e-9;
  return { alpha, CL: c.CL + effect.CL * works, deflection, within };
}

/** The greatest lift in trim at a speed. */
function greatest(source: AirframeSource, speed: number, limits: readonly [number, number], trimmer: Trimmer | null) {
  const trimmed = (alpha: number) => trimmedAt(source, alpha, speed, limits, trimmer);
  const all = COARSE.map(trimmed);
  const usable = all.filter((t) => t.within);
  if (usable.length === 0) return null;
  const best = usable.reduce((a, b) => (b.CL > a.CL ? b : a));
  const at = all.indexOf(best);
  // The next angle would carry more, and the control does not reach it.
  const blocked = [all[at + 1], all[at - 1]].some((t) => t && !t.within && t.CL > best.CL);
  const near = [-3, -2, -1, 1, 2, 3].map((k) => trimmed(best.alpha + k * FINE));
  const finest = near.filter((t) => t.within).reduce((a, b) => (b.CL > a.CL ? b : a), best);
  return { ...finest, by: blocked ? ('travel' as const) : ('lift' as const), end: at === all.length - 1 };
}

/**
 * The slowest level flight that a candidate can be trimmed in: its greatest lift with the deflection that trims, each at its own Reynolds number, thrust idle.
 * @param options speed to begin from, m/s; polars of the sections, for speeds about the stall.
 * @throws FailedComputation `no-stall` where the lift still grows at the last angle, no angle can be trimmed, or the speed does not settle.
 * @source lift in trim, CL − Cm CLδ/Cmδ: Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, chapter 2.
 */
export function trimmedStall(
  candidate: MovingCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  options: { speed: number; altitude: number; polars: SectionPolars[]; loading?: string },
): TrimmedStall {
  const { altitude, polars, loading } = options;
  candidate = withPlacedMass(candidate, lookup);
  const mass = loadedMass(candidate, loading);
  const source = motionSource(candidate, lookup, lineOf, mass, options.speed, altitude, polars);
  return stallOf(source, mass.mass * GRAVITY, altitude, options.speed);
}

/** {@link trimmedStall} of coefficients that are ready. @param weight N. @param start speed to begin from, m/s. @param trimmer what takes the moment away; the control that pitches without, nothing where it is null. @throws as there. */
export function stallOf(
  source: AirframeSource,
  weight: number,
  altitude: number,
  start: number,
  trimmer: Trimmer | null = controlTrimmer(source),
): TrimmedStall {
  const limitsDeg = source.surfaces.flatMap((s) => s.controls ?? []).find((c) => c.id === trimmer?.id)?.limitsDeg;
  const limits = (limitsDeg ?? [-90, 90]).map((d) => d * STEP) as [number, number];
  let speed = start;
  for (let k = 0; k < ROUNDS; k++) {
    const found = greatest(source, speed, limits, trimmer);
    if (!found || found.CL <= 0)
      throw new FailedComputation(
        'no-stall',
        'No angle can be trimmed within the travel of the control.',
        'Give it more travel, or move the centre of gravity.',
      );
    if (found.end)
      throw new FailedComputation(
        'no-stall',
        'The lift in trim still grows at 20°: there is no stall among the angles that the polars cover.',
        'Look at the polars of its sections.',
      );
    const { density } = flowState(1, altitude);
    const next = Math.sqrt((2 * weight) / (density * source.reference.area * found.CL));
    const settled = Math.abs(next / speed - 1) < SETTLED;
    speed = next;
    if (settled)
      return {
        speed,
        CL: found.CL,
        alpha: found.alpha,
        controls: trimmer ? { [trimmer.id]: found.deflection } : {},
        by: found.by,
      };
  }
  throw new FailedComputation('no-stall', 'The stall speed does not settle.', 'Look at the polars of its sections.');
}

/** The slowest level flight in trim of a candidate. */
export const stallInTrim = analysis({
  version: 2,
  input: motion.input,
  run: ({ candidate, sections, polars, ...rest }: MotionInput): TrimmedStall => {
    if (!polars)
      throw new FailedComputation(
        'polar-missing',
        'The stall needs the polars of the sections.',
        'Let them be computed first.',
      );
    const lookup = sectionLookup(sections);
    return trimmedStall(candidate, lookup, (key) => keptMeanLine(lookup(key)), { ...rest, polars });
  },
});
