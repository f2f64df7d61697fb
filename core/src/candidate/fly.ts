import { z } from 'zod';
import { standingIn, type SectionLookup } from '../airframe';
import { flowState } from '../atmosphere';
import type { Loading, MassItem } from '../balance';
import { dragBuildUp, type DragPart } from '../drag';
import { keptMeanLine, type SectionPolars } from '../lift';
import { FailedComputation } from '../numerics';
import { candidatePart } from '../project';
import { analysis, Cancelled } from '../results';
import {
  aeroTables,
  drawsOf,
  scatterSchema,
  fly,
  groundTable,
  propulsionOf,
  scenarioSchema,
  tabledAerodynamics,
  TABLE_EXTENT,
  type AeroTables,
  type Draw,
  type Flight,
  type Flown,
  type GroundTable,
  type Scatter,
  type ScatterLine,
  type Scenario,
} from '../simulation';
import type { MeanLine } from '../section';
import { asymmetryOver, unequalItems } from './asymmetry';
import { loadedMass, motion, motionSource, type MotionInput, type MovingCandidate } from './motion';
import { withPlacedMass } from './placed-mass';
import { sectionLookup } from './section-lookup';

/** Tables of a candidate, with its mass items where they are. */
export interface FlightTables extends AeroTables {
  massItems: MassItem[];
}

/** The speed about which a scenario flies, m/s: the tables of its aerodynamics are made there. */
export function tableSpeed(scenario: Scenario, fallback: number): number {
  const { launch } = scenario;
  const speed = launch.kind === 'rail' ? fallback : launch.speed;
  return Math.max(1, speed > 0 ? speed : fallback);
}

/**
 * Tables of a candidate's coefficients for flight, about the centre of gravity of a loading.
 * @throws InvalidInput from {@link loadedMass}; FailedComputation `polar-missing`.
 */
export function flightTables(
  candidate: MovingCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  options: { speed: number; altitude: number; loading?: string; polars: SectionPolars[] | null; ground?: boolean },
  report?: (done: number) => void,
): FlightTables {
  const { speed, altitude, loading, polars } = options;
  candidate = withPlacedMass(candidate, lookup);
  const mass = loadedMass(candidate, loading);
  const source = motionSource(candidate, lookup, lineOf, mass, speed, altitude, polars);
  let parts: DragPart[] | undefined;
  const profileDrag = (id: string) => {
    parts ??= dragBuildUp(standingIn(candidate), flowState(speed, altitude), lookup).parts;
    return parts.find((p) => p.id === id)?.CD ?? 0;
  };
  const unequal = asymmetryOver(source, source.travels ?? {}, profileDrag);
  return {
    ...aeroTables(source, speed, TABLE_EXTENT, report, unequal),
    ...(options.ground && { ground: groundTable(source) }),
    massItems: [...unequalItems(candidate.massItems, source)],
  };
}

/** What flies: a candidate's masses with its aerodynamics from tables and the thrusts of a scenario. */
export function flownVehicle(
  items: readonly MassItem[],
  loading: Loading,
  tables: AeroTables,
  scenario: Scenario,
): Flown {
  const propulsion = propulsionOf(scenario, items, loading);
  const zero = tables.slopeAlphas.reduce(
    (best, a, i) => (Math.abs(a) < Math.abs(tables.slopeAlphas[best]) ? i : best),
    0,
  );
  // The control that pitches: much moment for its lift, without roll.
  let pitch = -1;
  let most = 1e-4;
  tables.controls.forEach(({ slopes }, i) => {
    const [CL, Cm] = [slopes.CL[zero], slopes.Cm[zero]];
    const opposed = Math.abs(slopes.Cl[zero]) > 1e-6 || Math.abs(slopes.Cn[zero]) > 1e-6;
    const score = (opposed ? 0 : Math.abs(Cm)) * Math.min(1, Math.abs(Cm) / Math.max(1e-9, Math.abs(CL)));
    if (score > most) [pitch, most] = [i, score];
  });
  const seen = new Set<string>();
  const controls = tables.controls.map(({ id, name, least, greatest }) => {
    const unique = seen.has(name) ? id : name;
    seen.add(unique);
    return { name: unique, least, greatest };
  });
  const notes =
    tables.gaps > 0
      ? [`${tables.gaps} states of the tables found no balance with their polars: their neighbours stand in.`]
      : [];
  return { ...propulsion, aerodynamics: tabledAerodynamics(tables), controls, pitch, notes };
}

/** Tables of a candidate's aerodynamics; their input is that of its motion. */
export const flightTablesOf = analysis({
  version: 8,
  input: motion.input as z.ZodType<MotionInput>,
  run: ({ candidate, sections, ...rest }: MotionInput, context): FlightTables => {
    const lookup = sectionLookup(sections);
    return flightTables(
      candidate,
      lookup,
      (key) => keptMeanLine(lookup(key)),
      rest,
      (done) => {
        if (context.cancelled?.()) throw new Cancelled();
        context.report?.({ done, of: 1 });
      },
    );
  },
});

/** What the ground adds to a candidate's coefficients; without viscosity. */
export const flightGround = analysis({
  version: 2,
  input: motion.input as z.ZodType<MotionInput>,
  run: ({ candidate: given, sections, loading, speed, altitude }: MotionInput, context): GroundTable => {
    const lookup = sectionLookup(sections);
    const candidate = withPlacedMass(given, lookup);
    const mass = loadedMass(candidate, loading);
    const lineOf = (key: string) => keptMeanLine(lookup(key));
    return groundTable(motionSource(candidate, lookup, lineOf, mass, speed, altitude, null), (done) => {
      if (context.cancelled?.()) throw new Cancelled();
      context.report?.({ done, of: 1 });
    });
  },
});

/** What a flight depends on. */
export interface FlightInputOf {
  scenario: Scenario;
  tables: AeroTables;
  massItems: MassItem[];
  loading: Loading;
}

/** One run of a scatter: where it ended, and how. */
export function scatterLine(draw: Draw, run: number, massItems: readonly MassItem[], loading: Loading): ScatterLine {
  const shares = Object.fromEntries(massItems.map((m) => [m.id, draw.masses * (loading[m.id] ?? 1)]));
  try {
    const { series, columns, summary } = fly(
      draw.scenario,
      flownVehicle(massItems, shares, draw.tables, draw.scenario),
    );
    const last = (name: string) => series[columns.indexOf(name)].at(-1)!;
    const { time, greatestHeight, greatestLoadFactor, ended } = summary;
    return { run, x: last('x'), y: last('y'), time, greatestHeight, greatestLoadFactor, ended };
  } catch (error) {
    if (!(error instanceof FailedComputation)) throw error;
    return { run, x: 0, y: 0, time: 0, greatestHeight: 0, greatestLoadFactor: 0, ended: 'no-trim' };
  }
}

/** The draws of a scatter, written down as rarely as its figures allow. */
export const scatterDraws = (scenario: Scenario, tables: AeroTables, scatter: Scatter, from: number, to: number) =>
  drawsOf({ ...scenario, record: Math.max(scenario.record, scenario.duration / 400) }, tables, scatter, from, to);

/** Runs of a scenario in which what is thought to be known is off, from one to another. */
export const flightScatter = analysis({
  version: 7,
  input: z.object({
    flight: z.custom<FlightInputOf>((v) => typeof v === 'object' && v !== null),
    scatter: scatterSchema,
    from: z.int().min(0),
    to: z.int().min(0),
  }) as unknown as z.ZodType<{ flight: FlightInputOf; scatter: Scatter; from: number; to: number }>,
  run: async (
    {
      flight: { scenario, tables, massItems, loading },
      scatter,
      from,
      to,
    }: { flight: FlightInputOf; scatter: Scatter; from: number; to: number },
    context,
  ): Promise<ScatterLine[]> => {
    const out: ScatterLine[] = [];
    let run = from;
    for (const draw of scatterDraws(scenario, tables, scatter, from, to)) {
      if (context.cancelled?.()) throw new Cancelled();
      out.push(scatterLine(draw, run, massItems, loading));
      run++;
      context.report?.({ done: run - from, of: to - from });
      await context.breathe?.();
    }
    return out;
  },
});

/** A flight of a scenario. */
export const flight = analysis({
  version: 7,
  input: z.object({
    scenario: scenarioSchema,
    tables: z.custom<AeroTables>((v) => typeof v === 'object' && v !== null),
    massItems: candidatePart.shape.massItems,
    loading: z.record(z.string(), z.number().min(0).max(1e6)),
  }) as unknown as z.ZodType<FlightInputOf>,
  run: ({ scenario, tables, massItems, loading }: FlightInputOf, context): Flight =>
    fly(scenario, flownVehicle(massItems, loading, tables, scenario), (done) => {
      if (context.cancelled?.()) throw new Cancelled();
      context.report?.({ done, of: 1 });
    }),
});
