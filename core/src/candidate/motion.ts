import { z } from 'zod';
import { flowState, GRAVITY, type FlowState } from '../atmosphere';
import { referenceOf, standing, type SectionLookup } from '../airframe';
import { massProperties, type MassProperties } from '../balance';
import { dragBuildUp } from '../drag';
import { SteadyAircraft, withStreamEffects } from '../flight';
import { keptMeanLine, latticeMach, makeLattice, type SectionPolars, type TravelCurve } from '../lift';
import {
  airframeCase,
  airframeDerivatives,
  manoeuvreOf,
  derivativeOf,
  motionOf,
  stickFree,
  trimLevel,
  withDerivatives,
  type AirframeSource,
  type DerivativeSet,
  type Manoeuvre,
  type Mode,
  type Motion,
  type MotionCase,
  type SteadyFlight,
  type StickFree,
  type TrimState,
} from '../motion';
import { FailedComputation, InvalidInput, RAD } from '../numerics';
import { BRIEF_LIMITS, candidatePart, type CandidatePart, type ProjectDocument } from '../project';
import { within } from '../limits';
import { analysis } from '../results';
import { sectionSource, type SectionSource } from '../shaping';
import type { MeanLine } from '../section';
import { polarsSchema } from './flight';
import { withPlacedMass } from './placed-mass';
import { powered, thrustOf } from './powered';
import { latticeSource } from './whole-balance';
import { sectionLookup, sectionsUsed } from './section-lookup';
import { travelsOf } from './travels';

/** What motion depends on of a candidate. */
export type MovingCandidate = Pick<
  CandidatePart,
  'surfaces' | 'bodies' | 'massItems' | 'reference' | 'drag' | 'loadings' | 'derivatives' | 'engine'
>;

/** Mass, trim, derivatives and motion of an airframe in level flight. */
export interface AirframeMotion extends Motion {
  /** What its coefficients were made by: the lattice alone, or with section polars. */ method: 'lattice' | 'polars';
  mass: MassProperties;
  flow: FlowState;
  trim: TrimState & { thrust: number };
  /** Of the engine in that flight, 0 to 1; above where it has not so much thrust. Not there without an engine. */ throttle?: number;
  derivatives: DerivativeSet;
  /** As they were computed, where some are replaced by hand; and which. */
  computed?: DerivativeSet;
  overridden: string[];
  case: MotionCase;
  /** x of the point about which the moment does not change with lift, and what lies between it and the centre, over the chord. */
  neutralPoint: number;
  staticMargin: number;
  manoeuvre: Manoeuvre;
  /** With the control that trims let free; not there without one. */ stickFree?: StickFree;
  /** What is left of the deflections that trim, and at each limit: shares that work; by id. */
  works: Record<string, { now: number; least: number; greatest: number; method: TravelCurve['method'] }>;
  /** Reference of the coefficients, as {@link MotionCase} has it too. */ reference: AirframeSource['reference'];
}

/** Mass properties of a loading of a candidate. @throws InvalidInput `loading` for one that is not there, `no-mass` where there is none. */
export function loadedMass(
  candidate: Pick<MovingCandidate, 'massItems' | 'loadings'>,
  loading?: string,
): MassProperties {
  const all = candidate.loadings ?? {};
  if (loading !== undefined && !Object.hasOwn(all, loading))
    throw new InvalidInput(
      'loading',
      `There is no loading "${loading}".`,
      Object.keys(all).length ? `There are ${Object.keys(all).join(', ')}.` : 'The candidate keeps none.',
      'loading',
    );
  const mass = massProperties(candidate.massItems, loading === undefined ? {} : all[loading]);
  if (!mass)
    throw new InvalidInput(
      'no-mass',
      'The candidate has no mass: its centre of gravity is not known.',
      'Give mass items in Balance first.',
      'massItems',
    );
  return mass;
}

/** A trim of steady flight of a candidate without viscosity: climb and turn, with its thrust line. */
export function steadyTrim(
  candidate: MovingCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  mass: MassProperties,
  options: { speed: number; altitude: number; flight: SteadyFlight },
): ReturnType<typeof trimLevel> {
  const { speed, altitude, flight } = options;
  const bare = motionSource(candidate, lookup, lineOf, mass, speed, altitude, null);
  const flow = flowState(speed, altitude);
  const { source, flight: own } = powered(bare, candidate.engine, flow, mass.mass * GRAVITY, flight);
  return trimLevel(source, flow, mass.mass * GRAVITY, own);
}

/**
 * Where an airframe's coefficients come from: the lattice with section polars, or without any viscosity and with the drag build-up.
 * @param polars of the sections; null to do without.
 */
export function motionSource(
  candidate: MovingCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  mass: MassProperties,
  speed: number,
  altitude: number,
  polars: SectionPolars[] | null,
): AirframeSource {
  const { bodies, drag, engine } = candidate;
  const bare = standing(candidate.surfaces, bodies);
  const flow = flowState(speed, altitude);
  const centre = mass.centre;
  const reference = candidate.reference ?? referenceOf(bare);
  const surfaces = withStreamEffects(
    { surfaces: bare, bodies, reference, drag, engine, speed, altitude, mass: mass.mass },
    lookup,
    lineOf,
  );
  if (polars) {
    const flown = new SteadyAircraft(
      { surfaces, bodies, reference: candidate.reference, drag, about: centre, mass: mass.mass, altitude, polars },
      speed,
      lookup,
      lineOf,
    );
    let turns: Float64Array | undefined;
    return {
      lattice: flown.at(speed).lattice,
      surfaces,
      reference,
      centre,
      lineOf,
      travels: travelsOf(surfaces, polars, flow.reynoldsPerMetre),
      at: (state, v) => {
        const { point, solution } = flown.loads(state, v, turns);
        if (solution.converged) turns = solution.turns;
        return point;
      },
      all: (states, v) => flown.allLoads(states, v, turns),
    };
  }
  const lattice = makeLattice({ surfaces, reference, about: centre, mach: latticeMach(flow.mach) }, lineOf);
  const parasite = new Map<number, number>();
  return latticeSource(lattice, { surfaces, bodies, lineOf }, (v) => {
    if (!parasite.has(v))
      parasite.set(v, dragBuildUp({ surfaces, bodies, reference, drag }, flowState(v, altitude), lookup).CD);
    return parasite.get(v)!;
  });
}

/**
 * Trim in level flight, derivatives, matrices and modes of a candidate.
 * @param options loading by name; polars, or null for the lattice alone.
 * @throws InvalidInput from {@link loadedMass} and for a shape that cannot be; FailedComputation `no-trim`, `no-inertia`, `polar-missing`.
 */
export function airframeMotion(
  candidate: MovingCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  options: { speed: number; altitude: number; loading?: string; climbDeg?: number; polars: SectionPolars[] | null },
): AirframeMotion {
  const { speed, altitude, loading, polars } = options;
  candidate = withPlacedMass(candidate, lookup);
  const mass = loadedMass(candidate, loading);
  const flow = flowState(speed, altitude);
  const climb = (options.climbDeg ?? 0) * RAD;
  const bare = motionSource(candidate, lookup, lineOf, mass, speed, altitude, polars);
  const engined = powered(bare, candidate.engine, flow, mass.mass * GRAVITY, { climb });
  const { source } = engined;
  const trim = trimLevel(source, flow, mass.mass * GRAVITY, engined.flight);
  const found = airframeDerivatives(source, trim, flow);
  const overrides = candidate.derivatives?.overrides ?? {};
  const derivatives = withDerivatives(found, overrides);
  const overridden = Object.keys(overrides).filter((name) => derivativeOf(found, name) !== undefined);
  const { throttle, ...push } = thrustOf(engined, source.centre, trim, flow);
  const moving = { ...airframeCase(source, mass, trim, derivatives, flow), climbDeg: options.climbDeg ?? 0, ...push };
  const staticMargin = -derivatives.Cm_alpha / derivatives.CL_alpha;
  const free = freeControl(source, trim, derivatives);
  return {
    ...motionOf(moving),
    method: polars ? 'polars' : 'lattice',
    mass,
    flow,
    trim,
    ...(throttle !== undefined && { throttle }),
    derivatives,
    ...(overridden.length > 0 && { computed: found }),
    overridden,
    case: moving,
    reference: source.reference,
    staticMargin,
    manoeuvre: manoeuvreOf(moving),
    ...(free && { stickFree: free }),
    works: worksOf(source, trim),
    neutralPoint: mass.centre.x + staticMargin * source.reference.chord,
  };
}

/** The control that trims, let free; null where none trims. */
function freeControl(source: AirframeSource, trim: TrimState, d: DerivativeSet): StickFree | null {
  const id = Object.keys(trim.controls)[0];
  const control = source.surfaces.flatMap((s) => s.controls ?? []).find((c) => c.id === id);
  const effect = control && (d.controls[control.name] ?? d.controls[control.id]);
  return effect ? stickFree(source, trim.alpha, id, { CL: d.CL_alpha, Cm: d.Cm_alpha }, effect) : null;
}

/** Shares of the deflections of all controls that work. */
function worksOf(source: AirframeSource, trim: TrimState): AirframeMotion['works'] {
  return Object.fromEntries(
    source.surfaces
      .flatMap((s) => s.controls ?? [])
      .flatMap((c) => {
        const travel = source.travels?.[c.id];
        if (!travel) return [];
        const [least, greatest] = c.limitsDeg.map((v) => travel.share(v * RAD));
        const now = travel.share(trim.controls[c.id] ?? travel.standing);
        return [[c.id, { now, least, greatest, method: travel.curve.method }]];
      }),
  );
}

/** What the motion of a candidate depends on; SI. */
export interface MotionInput {
  candidate: MovingCandidate;
  sections: Record<string, SectionSource>;
  speed: number;
  altitude: number;
  /** The loading, by name; all items without. */ loading?: string;
  /** Null: the lattice without viscosity. */ polars: SectionPolars[] | null;
}

/** The input of a candidate's motion. @throws InvalidInput `candidate-missing`. */
export function inputsOfMotion(
  document: ProjectDocument,
  candidateId: string,
  speed: number,
  loading: string | undefined,
  polars: SectionPolars[] | null,
): MotionInput {
  const candidate = document.candidates[candidateId];
  if (!candidate) throw new InvalidInput('candidate-missing', `There is no candidate "${candidateId}".`);
  const { surfaces, bodies, massItems, reference, drag, loadings, derivatives, engine } = candidate;
  return {
    candidate: {
      surfaces: standing(surfaces, bodies),
      bodies,
      massItems,
      reference,
      drag,
      loadings,
      ...(engine && { engine }),
      // A measured set changes nothing that is computed.
      ...(derivatives && { derivatives: { overrides: derivatives.overrides } }),
    },
    sections: sectionsUsed(document.sections, candidate),
    speed,
    altitude: document.brief.altitude,
    ...(loading === undefined ? {} : { loading }),
    polars,
  };
}

/** Trim, derivatives and modes of a candidate in level flight. */
export const motion = analysis({
  version: 8,
  input: z.object({
    candidate: candidatePart.pick({
      surfaces: true,
      bodies: true,
      massItems: true,
      reference: true,
      drag: true,
      loadings: true,
      derivatives: true,
      engine: true,
    }),
    sections: z.record(z.string(), sectionSource),
    speed: within(BRIEF_LIMITS.speed),
    altitude: within(BRIEF_LIMITS.altitude),
    loading: z.string().optional(),
    polars: polarsSchema.nullable(),
  }) as z.ZodType<MotionInput>,
  run: ({ candidate, sections, ...rest }: MotionInput): AirframeMotion => {
    const lookup = sectionLookup(sections);
    return airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), rest);
  },
});

/** The roots of a candidate's motion while its speed changes: one list of modes a speed; none where it does not trim. */
export const motionPath = analysis({
  version: 7,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    speeds: z.array(within(BRIEF_LIMITS.speed)).min(1).max(60),
  }),
  run: ({ of, speeds }: { of: MotionInput; speeds: number[] }): { speed: number; modes: Mode[] }[] => {
    const lookup = sectionLookup(of.sections);
    const { candidate, sections: _, ...rest } = of;
    return speeds.map((speed) => {
      try {
        return {
          speed,
          modes: airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), { ...rest, speed }).modes,
        };
      } catch (error) {
        if (error instanceof FailedComputation) return { speed, modes: [] };
        throw error;
      }
    });
  },
});

/** Steady flight of a candidate at a speed: level, in a climb or a glide, or in a level turn. */
export interface SteadyFlightInput {
  of: MotionInput;
  climbDeg: number;
  bankDeg: number;
  /** Where thrust acts, m, and its tilt upward; that of the engine without, or through the centre of gravity. */
  thrustLine?: { x: number; z: number; tiltDeg: number };
}
export interface SteadyFlightTrim extends TrimState {
  /** N */ thrust: number;
  loadFactor: number;
  manoeuvre: Manoeuvre;
  manoeuvrePoint: number;
  neutralPoint: number;
  staticMargin: number;
  /** Controls that would have to go beyond their limits, with these, rad. */
  beyond: { id: string; name: string; deflection: number; limit: number }[];
}

/** Trims a candidate in steady flight, with the polars of its sections where they are given. */
export const steadyFlight = analysis({
  version: 7,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    climbDeg: z.number().min(-60).max(60),
    bankDeg: z.number().min(-80).max(80),
    thrustLine: z
      .object({
        x: z.number().min(-1e4).max(1e4),
        z: z.number().min(-1e4).max(1e4),
        tiltDeg: z.number().min(-90).max(90),
      })
      .optional(),
  }) as unknown as z.ZodType<SteadyFlightInput>,
  run: ({ of, climbDeg, bankDeg, thrustLine }: SteadyFlightInput): SteadyFlightTrim => {
    const { sections, candidate: given, ...rest } = of;
    const lookup = sectionLookup(sections);
    const lineOf = (key: string) => keptMeanLine(lookup(key));
    const candidate = withPlacedMass(given, lookup);
    const mass = loadedMass(candidate, rest.loading);
    const bare = motionSource(candidate, lookup, lineOf, mass, rest.speed, rest.altitude, rest.polars);
    const flow = flowState(rest.speed, rest.altitude);
    const weight = mass.mass * GRAVITY;
    const { source, flight } = powered(bare, candidate.engine, flow, weight, {
      climb: climbDeg * RAD,
      bank: bankDeg * RAD,
      ...(thrustLine && {
        thrustLine: { at: { x: thrustLine.x, y: 0, z: thrustLine.z }, tilt: thrustLine.tiltDeg * RAD },
      }),
    });
    const trim = trimLevel(source, flow, weight, flight);
    const level = airframeMotion(candidate, lookup, lineOf, rest);
    return {
      ...trim,
      manoeuvre: level.manoeuvre,
      manoeuvrePoint: mass.centre.x + level.manoeuvre.margin * level.reference.chord,
      neutralPoint: level.neutralPoint,
      staticMargin: level.staticMargin,
      beyond: beyondLimits(candidate, trim.controls),
    };
  },
});

/** Controls whose trim lies beyond their limits. */
export function beyondLimits(
  candidate: Pick<MovingCandidate, 'surfaces'>,
  controls: Readonly<Record<string, number>>,
): SteadyFlightTrim['beyond'] {
  return candidate.surfaces
    .flatMap((s) => s.controls ?? [])
    .flatMap((c) => {
      const d = controls[c.id];
      if (d === undefined) return [];
      const [least, greatest] = (c.limitsDeg ?? [-25, 25]).map((v) => v * RAD);
      const limit = d < least ? least : d > greatest ? greatest : null;
      return limit === null ? [] : [{ id: c.id, name: c.name || c.id, deflection: d, limit }];
    });
}
