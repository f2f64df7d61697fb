import { z } from 'zod';
import { GRAVITY } from '../atmosphere';
import type { Loading } from '../balance';
import { DEG, InvalidInput, interpolate, VeldtwindError } from '../numerics';
import { leastSquares, studentT, type ObservedPath } from '../observed';
import { candidatePart, type FITTED_NAMES } from '../project';
import { analysis } from '../results';
import { aeroTablesSchema, fly, scenarioSchema, type Scenario } from '../simulation';
import { flownVehicle, type FlightTables } from './fly';

/** What of a throw is fitted. */
export const FIT_PARAMETERS = {
  speed: { name: 'launch speed', unit: 'm/s', step: 0.05, min: 0.2, max: 150, wide: 5 },
  elevation: { name: 'launch angle', unit: '°', step: 0.1, min: -85, max: 85, wide: 10 },
  wind: { name: 'headwind', unit: 'm/s', step: 0.05, min: -30, max: 30, wide: 3 },
  drag: { name: 'drag factor', unit: '', step: 0.01, min: 0.05, max: 20, wide: 0.5 },
  trim: { name: 'pitching moment offset', unit: '', step: 0.0005, min: -0.5, max: 0.5, wide: 0.02 },
} as const satisfies Record<(typeof FITTED_NAMES)[number], object>;
export type FitParameter = keyof typeof FIT_PARAMETERS;

/** A fitted number. */
export interface FittedNumber {
  id: FitParameter;
  name: string;
  unit: string;
  value: number;
  /** Standard deviation, and the bounds that hold it in 95 of 100 cases. */ deviation: number;
  low: number;
  high: number;
  /** False where the data do not decide it. */ decided: boolean;
}

/** A path: s, m. */
export interface FlownPath {
  t: number[];
  x: number[];
  height: number[];
}

/** A throw fitted to what was observed. */
export interface FlightFit {
  parameters: FittedNumber[];
  /** Pairs that the data hardly tell apart, with their correlation. */ alike: [FitParameter, FitParameter, number][];
  /** Root of the mean square of the distance, m: as begun, and fitted. */ before: number;
  rms: number;
  /** The same of a body without lift and drag, thrown alike. */ withoutLift: number;
  points: number;
  /** Fitted, and without lift. */ path: FlownPath;
  ballistic: FlownPath;
  /** Observed less fitted, m. */ residuals: { t: number[]; x: number[]; height: number[] };
  /** Why what was found is to be read with care. */ doubts: string[];
  rounds: number;
}

/** What a fit is made with. */
export interface FitSettings {
  fit: readonly FitParameter[];
  /** Altitude of the launch, m. */ altitude: number;
  /** What is not fitted stands at these; the launch is taken from the first of the path where it is not given. */
  start?: Partial<Record<FitParameter, number>>;
  loading?: Loading;
}

/** Room below the flight, so that it does not end before the record does, m. */
const ROOM = 400;
const ALIKE = 0.95;
const TOLERANCE = 1e-5;

/** Speed and angle of the launch by the first part of a path: parabolas through it. */
export function launchOf({ t, x, height }: Pick<ObservedPath, 't' | 'x' | 'height'>): {
  speed: number;
  elevationDeg: number;
} {
  const end = Math.max(
    4,
    t.findIndex((v) => v > 0.35 * t[t.length - 1]),
  );
  const slope = (v: readonly number[]) => {
    // v − v₀ = a t + b t², by least squares.
    let [tt, ttt, tttt, vt, vtt] = [0, 0, 0, 0, 0];
    for (let i = 1; i <= Math.min(end, t.length - 1); i++) {
      const [s, d] = [t[i], v[i] - v[0]];
      tt += s * s;
      ttt += s ** 3;
      tttt += s ** 4;
      vt += s * d;
      vtt += s * s * d;
    }
    const size = tt * tttt - ttt * ttt;
    return size > 1e-12 * tt * tttt ? (vt * tttt - vtt * ttt) / size : vt / tt;
  };
  const [along, up] = [slope(x), slope(height)];
  return { speed: Math.max(0.5, Math.hypot(along, up)), elevationDeg: Math.atan2(up, along) * DEG };
}

/**
 * Launch speed and angle, wind, drag and trim of a throw by its observed path: the flight of the candidate is computed again and again until it lies as near to
 * the path as it can.
 * @param tables aerodynamics about the speed of the throw, with the masses.
 * @throws InvalidInput `fit` for too few rows or nothing to fit; FailedComputation `fit`.
 */
export function fitFlight(
  observed: Pick<ObservedPath, 't' | 'x' | 'height'>,
  tables: FlightTables,
  settings: FitSettings,
): FlightFit {
  const { fit, altitude, loading = {} } = settings;
  const { t, x, height } = observed;
  if (fit.length === 0) throw new InvalidInput('fit', 'Nothing is to be fitted.', 'Name a number.', 'fit');
  if (2 * t.length < fit.length + 2)
    throw new InvalidInput(
      'fit',
      `${t.length} rows cannot decide ${fit.length} numbers.`,
      'Fit fewer numbers, or give more rows.',
      'fit',
    );
  const launch = launchOf(observed);
  const begin: Record<FitParameter, number> = {
    speed: launch.speed,
    elevation: launch.elevationDeg,
    wind: 0,
    drag: 1,
    trim: 0,
    ...settings.start,
  };
  const last = t[t.length - 1];
  const record = Math.max(0.005, Math.min(0.05, last / 100));
  const valuesOf = (list: readonly number[]) => ({
    ...begin,
    ...Object.fromEntries(fit.map((id, i) => [id, list[i]])),
  });
  const flown = (list: readonly number[]): FlownPath | null => {
    const v = valuesOf(list);
    const scenario: Scenario = scenarioSchema.parse({
      // What lies below is put deeper, and the flight over it higher: it flies in the same air.
      ground: altitude - ROOM,
      launch: { kind: 'hand', speed: v.speed, height: ROOM, elevationDeg: v.elevation },
      duration: last + 2 * record,
      record,
      tolerance: TOLERANCE,
      ...(v.wind !== 0 && { wind: { speed: Math.abs(v.wind), fromDeg: v.wind > 0 ? 0 : 180 } }),
    });
    const own = {
      ...tables,
      base: tables.base.map((b) => ({ ...b, CD: b.CD.map((c) => c * v.drag), Cm: b.Cm.map((c) => c + v.trim) })),
    };
    try {
      const { columns, series } = fly(scenario, flownVehicle(tables.massItems, loading, own, scenario));
      const column = (name: string) => series[columns.indexOf(name)];
      return {
        t: column('t'),
        x: column('x'),
        height: column('height').map((h) => h - ROOM + height[0]),
      };
    } catch (error) {
      if (error instanceof VeldtwindError) return null;
      throw error;
    }
  };
  const residuals = (list: readonly number[]): number[] => {
    const path = flown(list);
    // What does not fly, or ends before, is as far as can be.
    if (!path || path.t[path.t.length - 1] < last - record) return [...x, ...height].map(() => 1e6);
    return [
      ...x.map((v, i) => v - interpolate(path.t, path.x, t[i])),
      ...height.map((v, i) => v - interpolate(path.t, path.height, t[i])),
    ];
  };
  const free = fit.map((id) => ({ ...FIT_PARAMETERS[id], start: begin[id] }));
  const found = leastSquares(residuals, free);
  const factor = studentT(found.freedom);
  const parameters = fit.map((id, i): FittedNumber => {
    const { name, unit, wide, min, max } = FIT_PARAMETERS[id];
    const [value, deviation] = [found.values[i], found.deviations[i]];
    const atEnd = value <= min * (1 + 1e-9) || value >= max * (1 - 1e-9);
    return {
      id,
      name,
      unit,
      value,
      deviation,
      low: value - factor * deviation,
      high: value + factor * deviation,
      decided: Number.isFinite(deviation) && factor * deviation < wide && !atEnd,
    };
  });
  const alike = fit.flatMap((a, i) =>
    fit.slice(i + 1).flatMap((b, k): [FitParameter, FitParameter, number][] => {
      const r = found.correlations[i][i + 1 + k];
      return Math.abs(r) > ALIKE ? [[a, b, r]] : [];
    }),
  );
  const path = flown(found.values)!;
  const v = valuesOf(found.values);
  const rest = residuals(found.values);
  const stone: FlownPath = {
    t: path.t,
    x: path.t.map((s) => v.speed * Math.cos(v.elevation / DEG) * s),
    height: path.t.map((s) => height[0] + v.speed * Math.sin(v.elevation / DEG) * s - 0.5 * GRAVITY * s * s),
  };
  const distance = (p: FlownPath) =>
    Math.sqrt(
      t.reduce(
        (sum, s, i) => sum + (x[i] - interpolate(p.t, p.x, s)) ** 2 + (height[i] - interpolate(p.t, p.height, s)) ** 2,
        0,
      ) / t.length,
    );
  const doubts: string[] = [];
  for (const p of parameters)
    if (!p.decided) doubts.push(`The record does not decide the ${p.name}: give it, or fit fewer numbers.`);
  for (const [a, b] of alike)
    doubts.push(
      `The ${FIT_PARAMETERS[a].name} and the ${FIT_PARAMETERS[b].name} have nearly the same effect on this path: only both together are known well.`,
    );
  const repeats = runsOf(rest.slice(0, t.length)) || runsOf(rest.slice(t.length));
  if (repeats)
    doubts.push(
      'Residuals follow each other instead of scattering: the model lacks something, and the bounds are too narrow.',
    );
  return {
    parameters,
    alike,
    before: found.before * Math.SQRT2,
    rms: distance(path),
    withoutLift: distance(stone),
    points: t.length,
    path,
    ballistic: stone,
    residuals: { t: [...t], x: rest.slice(0, t.length), height: rest.slice(t.length) },
    doubts,
    rounds: found.rounds,
  };
}

/** Whether neighbouring residuals are alike: their correlation is beyond what chance makes of so many. */
function runsOf(r: readonly number[]): boolean {
  const [mean, n] = [r.reduce((a, b) => a + b, 0) / r.length, r.length];
  let [own, next] = [0, 0];
  r.forEach((v, i) => {
    own += (v - mean) ** 2;
    if (i > 0) next += (v - mean) * (r[i - 1] - mean);
  });
  return own > 0 && next / own > 3.5 / Math.sqrt(n);
}

/** What a fit depends on. */
export interface FlightFitInput {
  observed: Pick<ObservedPath, 't' | 'x' | 'height'>;
  tables: FlightTables;
  settings: { fit: FitParameter[]; altitude: number; start?: Partial<Record<FitParameter, number>>; loading?: Loading };
}

const names = z.enum(Object.keys(FIT_PARAMETERS) as [FitParameter, ...FitParameter[]]);
const places = z.array(z.number()).min(1).max(20_000);

/** Numbers of a throw by its observed path. */
export const flightFit = analysis({
  version: 2,
  input: z.object({
    observed: z.object({ t: places, x: places, height: places }),
    tables: aeroTablesSchema.and(z.object({ massItems: candidatePart.shape.massItems })),
    settings: z.object({
      fit: z.array(names).min(1).max(5),
      altitude: z.number(),
      start: z.partialRecord(names, z.number()).optional(),
      loading: z.record(z.string(), z.number()).optional(),
    }),
  }) as unknown as z.ZodType<FlightFitInput>,
  run: ({ observed, tables, settings }: FlightFitInput): FlightFit => fitFlight(observed, tables, settings),
});
