import { z } from 'zod';
import { MEASURED } from '../../control';
import { finiteNumber, partId, words } from '../../limits';
import { aeroTablesSchema, scatterSchema, scenarioSchema } from '../../simulation';
import { partKind } from './kind';

export const MOST_KEPT_FLIGHTS = 12;
/** Places that a kept flight is thinned to. */
export const KEPT_PLACES = 400;

/** A flight that was kept: what it came to, and a thinned record of it. */
export const keptFlight = z.object({
  id: partId,
  name: words(80),
  letter: z.string().max(4),
  at: z.string().max(40),
  /** Of the inputs that it was made of. */ print: z.string().max(80),
  range: finiteNumber,
  time: finiteNumber,
  greatestHeight: finiteNumber,
  greatestSpeed: finiteNumber,
  greatestLoadFactor: finiteNumber,
  ended: words(200),
  columns: z.array(z.string().max(60)).max(60),
  series: z.array(z.array(finiteNumber).max(KEPT_PLACES + 2)).max(60),
});
export type KeptFlight = z.infer<typeof keptFlight>;

/** Places that an observed path is thinned to. */
export const OBSERVED_PLACES = 1500;
const places = z.array(finiteNumber).min(5).max(OBSERVED_PLACES);
/** What of a launch may be fitted to an observed flight. */
export const FITTED_NAMES = ['speed', 'elevation', 'wind', 'drag', 'trim'] as const;
/** A flight that was observed: time (s), distance along the launch and height (m), from its first row on. */
export const observedFlight = z
  .object({
    name: words(120),
    t: places,
    x: places,
    height: places,
    notes: z.array(words(400)).max(12).default([]),
    /** What is fitted to it. */ fit: z.array(z.enum(FITTED_NAMES)).min(1).max(FITTED_NAMES.length).optional(),
  })
  .refine((o) => o.x.length === o.t.length && o.height.length === o.t.length, {
    message: 'needs as many distances and heights as times',
    path: ['t'],
  });
export type ObservedFlight = z.infer<typeof observedFlight>;

/** What an outermost loop is to hold: SI and rad, or the next way-point's. */
const wanted = z.union([
  finiteNumber,
  z
    .array(z.tuple([finiteNumber, finiteNumber]))
    .min(1)
    .max(200),
  z.literal('waypoints'),
]);

/** A scenario that candidates fly. */
export const scenarioPart = z.object({
  id: partId,
  name: words(80).min(1, 'needs a name'),
  note: words(2000).default(''),
  scenario: scenarioSchema,
  /** Flies with the candidate's own loops; what each is to hold, by what it measures. */
  loops: z
    .object({
      on: z.boolean(),
      from: finiteNumber.min(0).max(1e5).default(0),
      wanted: z.partialRecord(z.enum(MEASURED), wanted).default({}),
      /** The throttle holds the speed. */ throttle: z.boolean().default(false),
    })
    .prefault({ on: false }),
  loading: words(60).optional(),
  scatter: scatterSchema.optional(),
  /** Tables of the aerodynamics that were read from a file: flown in the place of the candidate's own. */
  tables: z.object({ name: words(200), checked: z.int().min(0), tables: aeroTablesSchema }).optional(),
  /** The throws that were flown last, by number: where each ended (m north and east), after what time, height, load factor and how. */
  thrown: z
    .object({
      print: z.string().max(200),
      lines: z
        .array(
          z.tuple([z.int(), finiteNumber, finiteNumber, finiteNumber, finiteNumber, finiteNumber, z.string().max(20)]),
        )
        .max(2000),
    })
    .optional(),
  kept: z.array(keptFlight).max(MOST_KEPT_FLIGHTS).default([]),
  /** What it is laid over and fitted to. */
  observed: observedFlight.optional(),
});
export type ScenarioPart = z.infer<typeof scenarioPart>;

export const scenarioKind = partKind<ScenarioPart>({
  schema: scenarioPart as unknown as z.ZodType<ScenarioPart>,
  // Version 2 may have an observed flight, version 3 says what is fitted to it.
  version: 3,
  migrations: { 2: (value) => value, 3: (value) => value },
  place: { at: 'record', field: 'scenarios' },
  label: (s) => `the scenario ${s.name}`,
  references: () => [],
});
