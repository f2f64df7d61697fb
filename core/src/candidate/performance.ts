import { z } from 'zod';
import type { SectionLookup } from '../airframe';
import { GRAVITY } from '../atmosphere';
import { keptMeanLine } from '../lift';
import { within } from '../limits';
import { FailedComputation, InvalidInput, RAD } from '../numerics';
import {
  ceiling,
  climbOptima,
  consumptionOf,
  energySchema,
  glideOptima,
  holds,
  inGround,
  landing,
  levelFlights,
  levelPoint,
  loadEnvelope,
  performanceSchema,
  railLaunch,
  rangeFacts,
  rangeOverMass,
  takeOff,
  tightestTurn,
  turnOptima,
  type Ceiling,
  type ClimbOptima,
  type Energy,
  type GlideOptima,
  type GroundRun,
  type LevelPoint,
  type MassRange,
  type LoadEnvelope,
  type PerformanceSettings,
  type RailLaunch,
  type RangeFacts,
  type Turn,
  type TurnOptima,
} from '../performance';
import { BRIEF_LIMITS, MOST_REQUIREMENTS, type ProjectDocument } from '../project';
import { analysis, type RunContext } from '../results';
import { motion, type MotionInput } from './motion';
import { sectionLookup } from './section-lookup';
import { CandidateFlyer } from './trimmed-flyer';
import type { TrimmedStall } from './trimmed-stall';

/** What the performance of a candidate depends on: its flight, what it flies on, and how it is flown. */
export interface PerformanceInput {
  of: MotionInput;
  energy: Energy | null;
  settings: PerformanceSettings;
}

/** The input of a candidate's performance. @param of its flight at the design point. @throws InvalidInput `candidate-missing`. */
export function inputsOfPerformance(document: ProjectDocument, candidateId: string, of: MotionInput): PerformanceInput {
  return {
    of,
    energy: document.candidates[candidateId]?.energy ?? null,
    settings: document.brief.assumptions.performance,
  };
}

const of = z.object({ of: motion.input, energy: energySchema.nullable(), settings: performanceSchema });

function flyerOf(
  { of: { candidate, sections, ...rest }, settings }: PerformanceInput,
  lookup: SectionLookup = sectionLookup(sections),
  alongPath = false,
): CandidateFlyer {
  return new CandidateFlyer(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    ...rest,
    trimmedBy: settings.trimmedBy,
    alongPath,
  });
}

/** Speeds that optima are looked for between, m/s: from the stall, or a slow flight where none is known. */
function rangeOf(flyer: CandidateFlyer, { speed, altitude }: { speed: number; altitude: number }): [number, number] {
  const stall = flyer.stall(altitude) ?? 0.4 * speed;
  return [stall, Math.min(400, Math.max(4 * stall, 2 * speed))];
}

/** Level flight over speeds, and the optima that are read off it; SI, rad. */
export interface Performance {
  method: 'lattice' | 'polars';
  /** N */ weight: number;
  /** That the greatest lift in trim carries at the design speed, N; null without a stall. */ heaviest: number | null;
  trimmedBy: PerformanceSettings['trimmedBy'];
  points: LevelPoint[];
  /** At the speed of the design point; and at those that were asked for besides. */
  design: LevelPoint;
  at: LevelPoint[];
  stall: TrimmedStall | { missing: string };
  glide: GlideOptima;
  climb: ClimbOptima;
}

/** Speeds that are told, m/s; and those of the brief's requirements. */
type SpeedsInput = PerformanceInput & { speeds: number[]; conditions?: number[] };

/** Level flight in trim over speeds. */
export const performance = analysis({
  version: 3,
  input: of.extend({
    speeds: z.array(within(BRIEF_LIMITS.speed)).min(1).max(400),
    conditions: z.array(within(BRIEF_LIMITS.speed)).max(MOST_REQUIREMENTS).optional(),
  }) as unknown as z.ZodType<SpeedsInput>,
  run: (input: SpeedsInput): Performance => performanceBy(flyerOf(input), input),
});

function performanceBy(flyer: CandidateFlyer, { of, settings, speeds, conditions = [] }: SpeedsInput): Performance {
  const { speed, altitude, polars } = of;
  const range = rangeOf(flyer, of);
  const stall = flyer.stallIn(altitude);
  return {
    method: polars ? 'polars' : 'lattice',
    weight: flyer.weight,
    heaviest: stall instanceof FailedComputation ? null : flyer.weight * (speed / stall.speed) ** 2,
    trimmedBy: settings.trimmedBy,
    points: levelFlights(flyer, speeds, altitude),
    design: levelPoint(flyer, speed, altitude),
    at: levelFlights(flyer, conditions, altitude),
    stall: stall instanceof FailedComputation ? { missing: stall.message } : stall,
    glide: glideOptima(flyer, altitude, range),
    climb: climbOptima(flyer, altitude, range),
  };
}

/** What takes many trims: ceilings, range, turns, loads and the ground. Null is not there, a reason says why. */
export interface PerformanceLimits {
  ceiling: Ceiling | null;
  /** Where it still climbs with 0.5 m/s. */ serviceCeiling: Ceiling | null;
  range: RangeFacts | { missing: string };
  /** Range and endurance over the mass; none without an energy. */ payload: MassRange[];
  turns: { sustained: TurnOptima; instantaneous: TurnOptima };
  /** Tightest turns over speeds: those that the engine holds, and those that stall and structure allow. */
  turnCurve: { sustained: Turn[]; instantaneous: Turn[] };
  loads: LoadEnvelope;
  takeOff: GroundRun;
  landing: GroundRun;
  rail: RailLaunch;
  /** Speed of the throw over the stall speed; null without one. */ thrown: number | null;
}

/** Places of a turn's speed that are drawn. */
const TURNS = 25;

/** Limits of a candidate's performance. */
export const performanceLimits = analysis({
  version: 3,
  input: of as unknown as z.ZodType<PerformanceInput>,
  run: (input: PerformanceInput, context): Promise<PerformanceLimits> => limitsBy(flyerOf(input), input, context),
});

async function limitsBy(
  flyer: CandidateFlyer,
  input: PerformanceInput,
  { report, breathe }: RunContext,
): Promise<PerformanceLimits> {
  const { speed, altitude } = input.of;
  const { settings, energy } = input;
  const range = rangeOf(flyer, input.of);
  let done = 0;
  const step = async <T>(work: () => T): Promise<T> => {
    const made = work();
    report?.({ done: ++done, of: 9 });
    await breathe?.();
    return made;
  };
  const most = settings.greatestLoad;
  const curve = (held: boolean) =>
    Array.from({ length: TURNS }, (_, i) => range[0] * (range[1] / range[0]) ** (i / (TURNS - 1))).flatMap((v) => {
      const t = tightestTurn(flyer, v, altitude, most, held);
      return t ? [t] : [];
    });
  const ranges = await step(() => rangesOf(flyer, energy, altitude, range));
  const payload = await step(() => ('missing' in ranges || !energy ? [] : payloadOf(flyer, energy, altitude, range)));
  const turnCurve = await step(() => ({ sustained: curve(true), instantaneous: curve(false) }));
  const turns = await step(() => ({
    sustained: turnOptima(flyer, altitude, range, most, true),
    instantaneous: turnOptima(flyer, altitude, range, most, false),
  }));
  const top = await step(() => ceiling(flyer, altitude, range));
  const service = await step(() => ceiling(flyer, altitude, range, 0.5));
  const limits = { positive: most, negative: settings.leastLoad, cruise: speed, dive: settings.diveRatio * speed };
  const loads = await step(() => loadEnvelope(flyer, altitude, limits, GRAVITY));
  const attitude = flyer.onGround(settings.groundAngleDeg * RAD, range[0], altitude);
  const runs = await step(() => runsOf(flyer, settings, altitude, range[0]));
  const stall = flyer.stall(altitude);
  const rail = await step(() =>
    railLaunch(flyer, altitude, { length: settings.railLength, force: settings.railForce }, attitude.CD),
  );
  return {
    ceiling: top,
    serviceCeiling: service,
    range: ranges,
    payload,
    turns,
    turnCurve,
    loads,
    ...runs,
    rail,
    thrown: stall === null ? null : settings.throwSpeed / stall,
  };
}

/** Take-off and landing at the attitude and the height of the roll. */
function runsOf(flyer: CandidateFlyer, settings: PerformanceSettings, altitude: number, speed: number) {
  const { rolling, braking, obstacle, groundAngleDeg, groundHeight } = settings;
  try {
    const rolled = flyer.onGround(groundAngleDeg * RAD, speed, altitude, groundHeight);
    const ground = { ...rolled, rolling, braking, obstacle };
    return { takeOff: takeOff(flyer, altitude, ground), landing: landing(flyer, altitude, ground) };
  } catch (error) {
    if (!(error instanceof InvalidInput)) throw error;
    return { takeOff: inGround(error), landing: inGround(error) };
  }
}

/** Masses that range is told over, as shares of the mass as it is. */
const MASSES = [0.6, 0.7, 0.8, 0.9, 1, 1.15, 1.3, 1.5, 1.75, 2];

/** Fuel must be less than the mass: lighter ones are left out. */
function payloadOf(flyer: CandidateFlyer, energy: Energy, altitude: number, range: readonly [number, number]) {
  const fuel = energy.kind === 'fuel' ? energy.mass : 0;
  const shares = MASSES.filter((k) => (k * flyer.weight) / GRAVITY > 1.05 * fuel);
  return rangeOverMass(flyer, energy, altitude, range, shares);
}

function rangesOf(
  flyer: CandidateFlyer,
  energy: Energy | null,
  altitude: number,
  range: readonly [number, number],
): PerformanceLimits['range'] {
  if (!energy) return { missing: 'It has neither a battery nor fuel.' };
  if (!flyer.thruster) return { missing: 'It has no engine.' };
  try {
    return rangeFacts(flyer, energy, altitude, range);
  } catch (error) {
    if (error instanceof FailedComputation) return { missing: error.message };
    throw error;
  }
}

/**
 * Performance and its limits at once, for scripts.
 * @param speeds m/s, of level flights that are told; those of the design point without. @param lookup of sections that the input does not bring.
 * @param alongPath thrust along the path through the centre of gravity, whatever line the engine has.
 * @throws InvalidInput for masses or a shape that cannot be, FailedComputation `polar-missing`.
 */
export async function performanceOf(
  input: PerformanceInput & { speeds?: number[]; conditions?: number[] },
  lookup: SectionLookup,
  alongPath = false,
): Promise<{ performance: Performance; limits: PerformanceLimits }> {
  const flyer = flyerOf(input, lookup, alongPath);
  const performance = performanceBy(flyer, { ...input, speeds: input.speeds ?? [input.of.speed] });
  return { performance, limits: await limitsBy(flyer, input, {}) };
}

/** Performance at the design point alone, for studies. @param lookup of sections that the input does not bring. @throws as {@link performanceOf}. */
export const performanceAlone = (input: PerformanceInput, lookup: SectionLookup): Performance =>
  performanceBy(flyerOf(input, lookup), { ...input, speeds: [input.of.speed] });

/** Limits of performance alone. @throws as {@link performanceOf}. */
export const limitsAlone = (input: PerformanceInput, lookup: SectionLookup): Promise<PerformanceLimits> =>
  limitsBy(flyerOf(input, lookup), input, {});

/** Level flight over speed and altitude: rows are altitudes. */
export interface PerformanceMap {
  speeds: number[];
  altitudes: number[];
  /** Rate of climb, m/s; power needed, W; lift over drag; null where it does not fly. */
  climb: (number | null)[][];
  power: (number | null)[][];
  ratio: (number | null)[][];
  /** Way per energy, m/J, or per fuel, m/kg; none without an energy. */
  specificRange: (number | null)[][];
  /** Stall speed over altitude, m/s. */ stall: (number | null)[];
}

/** A map of performance over speed and altitude, row by row. */
export const performanceMap = analysis({
  version: 3,
  input: of.extend({
    speeds: z.array(within(BRIEF_LIMITS.speed)).min(2).max(60),
    altitudes: z.array(within(BRIEF_LIMITS.altitude)).min(2).max(60),
  }) as unknown as z.ZodType<PerformanceInput & { speeds: number[]; altitudes: number[] }>,
  run: async (
    input: PerformanceInput & { speeds: number[]; altitudes: number[] },
    { report, breathe },
  ): Promise<PerformanceMap> => {
    const flyer = flyerOf(input);
    const { speeds, altitudes, energy } = input;
    const rows: (LevelPoint | null)[][] = [];
    const stall: (number | null)[] = [];
    for (const [i, h] of altitudes.entries()) {
      const slowest = flyer.stall(h);
      stall.push(slowest);
      // Well below the stall nothing is looked for: there the strips settle slowly, and nothing flies.
      const below = slowest === null ? 0 : 0.95 * slowest;
      rows.push(speeds.map((v) => (v < below ? null : levelPoint(flyer.search, v, h))));
      report?.({ done: i + 1, of: altitudes.length });
      await breathe?.();
    }
    const of = (key: 'climb' | 'power' | 'ratio') =>
      rows.map((row) => row.map((p) => (!p || p.status === 'limited' ? null : p[key])));
    return {
      speeds,
      altitudes,
      climb: of('climb'),
      power: of('power'),
      ratio: of('ratio'),
      specificRange: rows.map((row) =>
        row.map((p) => {
          const rate = energy && p?.trim && holds(p) ? consumptionOf(flyer, energy, p.trim) : null;
          return rate !== null && rate > 0 ? p!.speed / rate : null;
        }),
      ),
      stall,
    };
  },
});
