import { z } from 'zod';
import { DEG } from '../numerics';
import type { AeroTables } from './aero-tables';
import { randomNumbers } from './random';
import type { FlightSummary } from './flight';
import type { Scenario } from './scenario';

const spread = (most: number) => z.number().min(0).max(most).default(0);

/** How far what is thought to be known may be off: standard deviations of normal distributions. */
export const scatterSchema = z.strictObject({
  runs: z.int().min(2).max(2000).default(200),
  seed: z
    .int()
    .min(0)
    .max(2 ** 31 - 1)
    .default(1),
  /** Of the launch: m/s, degrees. */ speed: spread(100),
  elevationDeg: spread(45),
  headingDeg: spread(90),
  /** Along and across the wind, m/s. */ wind: spread(50),
  /** As a share: of all masses, of the drag, of every slope of the aerodynamics by itself. */ mass: spread(0.5),
  drag: spread(0.5),
  slopes: spread(0.5),
  /** What a run has to stay within to count as inside: load factor either way, and m from where the flight ends without scatter. */
  limits: z
    .strictObject({
      loadFactor: z.number().positive().max(1000).optional(),
      distance: z.number().positive().max(1e6).optional(),
    })
    .optional(),
});
export type Scatter = z.infer<typeof scatterSchema>;

/** One draw: a scenario, tables and how much of each mass is there. */
export interface Draw {
  scenario: Scenario;
  tables: AeroTables;
  masses: number;
}

type Six = AeroTables['rates']['p'];
const times = (six: Six, k: number): Six => ({
  CL: six.CL.map((v) => v * k),
  CD: six.CD.map((v) => v * k),
  CY: six.CY.map((v) => v * k),
  Cl: six.Cl.map((v) => v * k),
  Cm: six.Cm.map((v) => v * k),
  Cn: six.Cn.map((v) => v * k),
});

const sideTimes = (side: readonly Six[], k: number) => side.map((s) => times(s, k));

/** Draws of a scatter, from one place on: each has numbers of its own, whatever was drawn before it. @param from, to run numbers. */
export function* drawsOf(
  scenario: Scenario,
  tables: AeroTables,
  scatter: Scatter,
  from: number,
  to: number,
): Generator<Draw> {
  for (let run = from; run < to; run++) {
    const random = randomNumbers(
      (Math.imul(scatter.seed + 1, 0x9e3779b1) ^ Math.imul(run + 1, 0x85ebca6b)) & 0x7fffffff,
    );
    const off = (sd: number) => (sd === 0 ? 0 : sd * random.normal());
    const share = (sd: number) => Math.max(0.05, 1 + off(sd));
    const launch = { ...scenario.launch };
    launch.headingDeg = Math.max(-360, Math.min(360, launch.headingDeg + off(scatter.headingDeg)));
    if ('speed' in launch)
      launch.speed = Math.max(launch.kind === 'flight' ? 0.5 : 0, launch.speed + off(scatter.speed));
    if ('elevationDeg' in launch)
      launch.elevationDeg = Math.max(-90, Math.min(90, launch.elevationDeg + off(scatter.elevationDeg)));
    const wind = scenario.wind ?? { speed: 0, fromDeg: 0, up: 0 };
    const [along, across] = [wind.speed + off(scatter.wind), off(scatter.wind)];
    const blown = scatter.wind > 0 && {
      wind: {
        ...wind,
        speed: Math.hypot(along, across),
        fromDeg: ((wind.fromDeg + Math.atan2(across, along) * DEG + 540) % 360) - 180,
      },
    };
    const masses = share(scatter.mass);
    const drag = share(scatter.drag);
    const sd = scatter.slopes;
    yield {
      masses,
      scenario: {
        ...scenario,
        launch: launch as Scenario['launch'],
        ...blown,
        // Turbulence of its own for every run.
        ...(scenario.turbulence && {
          turbulence: { ...scenario.turbulence, seed: (scenario.turbulence.seed + run) & 0x7fffffff },
        }),
      },
      tables: {
        ...tables,
        base: tables.base.map((b) => ({ ...b, CD: b.CD.map((v) => v * drag), Cm: b.Cm })),
        side: sd === 0 ? tables.side : sideTimes(tables.side, share(sd)),
        rates:
          sd === 0
            ? tables.rates
            : {
                p: times(tables.rates.p, share(sd)),
                q: times(tables.rates.q, share(sd)),
                r: times(tables.rates.r, share(sd)),
              },
        controls:
          sd === 0 ? tables.controls : tables.controls.map((c) => ({ ...c, slopes: times(c.slopes, share(sd)) })),
      },
    };
  }
}

/** Where a run of a scatter ended, and how. */
export interface ScatterLine {
  run: number;
  x: number;
  y: number;
  time: number;
  greatestHeight: number;
  greatestLoadFactor: number;
  ended: FlightSummary['ended'] | 'no-trim';
}

/** The share of the runs that stay inside the limits, end as planned or on the ground, and do not run away. @param planned where it ends without scatter. */
export function shareInside(
  lines: readonly ScatterLine[],
  limits: NonNullable<Scatter['limits']>,
  planned: { x: number; y: number },
): number {
  const inside = lines.filter(
    (l) =>
      l.ended !== 'no-trim' &&
      l.ended !== 'diverged' &&
      (limits.loadFactor === undefined || Math.abs(l.greatestLoadFactor) <= limits.loadFactor) &&
      (limits.distance === undefined || Math.hypot(l.x - planned.x, l.y - planned.y) <= limits.distance),
  );
  return lines.length === 0 ? 0 : inside.length / lines.length;
}

/** What all runs come to: the mean place of the ends, the ellipse that holds about 95 % of them, and the share that ended as planned. */
export function footprint(lines: readonly ScatterLine[]): {
  x: number;
  y: number;
  /** Half axes, m, and the turn of the longer from north, rad. */ axes: [number, number];
  turn: number;
} | null {
  const flown = lines.filter((l) => l.ended !== 'no-trim' && l.ended !== 'diverged');
  if (flown.length < 3) return null;
  const n = flown.length;
  const [x, y] = [flown.reduce((s, l) => s + l.x, 0) / n, flown.reduce((s, l) => s + l.y, 0) / n];
  let [xx, yy, xy] = [0, 0, 0];
  for (const l of flown) {
    xx += (l.x - x) ** 2 / (n - 1);
    yy += (l.y - y) ** 2 / (n - 1);
    xy += ((l.x - x) * (l.y - y)) / (n - 1);
  }
  const mean = 0.5 * (xx + yy);
  const half = Math.hypot(0.5 * (xx - yy), xy);
  // Of two normal numbers 95 % lie within √5.991 spreads.
  const k = Math.sqrt(5.991);
  return {
    x,
    y,
    axes: [k * Math.sqrt(mean + half), k * Math.sqrt(Math.max(0, mean - half))],
    turn: 0.5 * Math.atan2(2 * xy, xx - yy),
  };
}
