import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { flightTables, flownVehicle, sectionLookup, sectionsUsed, withOwnEngine } from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import { DEG } from '@veldtwind/core/numerics';
import { fly, randomNumbers, scenarioSchema } from '@veldtwind/core/simulation';
import { seedsnipe } from './seedsnipe';

// Records of two flights of candidate A as its board would write them: npm run records -w demo
// The aircraft that flies is not quite the one that was computed, and its sensors are noisy.
const { document } = seedsnipe(false);
const candidate = document.candidates.a;
const lookup = sectionLookup(sectionsUsed(document.sections, candidate));
const lineOf = (key: string) => keptMeanLine(lookup(key));
const { speed, altitude } = document.brief;
const options = { speed, altitude, polars: null };
const tables = flightTables(candidate, lookup, lineOf, options);

/** The computed aircraft with some of its lists multiplied. */
const times = (list: number[], k: number) => list.map((v) => v * k);
const built: typeof tables = {
  ...tables,
  base: tables.base.map((b) => ({ ...b, CL: times(b.CL, 0.95) })),
  side: tables.side.map((b) => ({ ...b, Cl: times(b.Cl, 0.85) })),
  rates: { ...tables.rates, p: { ...tables.rates.p, Cl: times(tables.rates.p.Cl, 0.9) } },
  controls: tables.controls.map((c) =>
    c.name === 'Elevator' ? { ...c, slopes: { ...c.slopes, Cm: times(c.slopes.Cm, 0.88) } } : c,
  ),
};

/** A doublet as a servo moves it, each half so long, s. */
const RAMP = 0.12;
const doublet = (at: number, half: number, degrees: number): [number, number][] => [
  [0, 0],
  [at, 0],
  [at + RAMP, degrees],
  [at + half, degrees],
  [at + half + 2 * RAMP, -degrees],
  [at + 2 * half + RAMP, -degrees],
  [at + 2 * half + 2 * RAMP, 0],
  [1e4, 0],
];
const COLUMNS = {
  longitudinal: {
    V: ['speed (m/s)', 1, 0.15],
    alpha: ['alpha (deg)', DEG, 0.15],
    theta: ['theta (deg)', DEG, 0.1],
    q: ['q (deg/s)', DEG, 0.4],
  },
  lateral: {
    beta: ['beta (deg)', DEG, 0.2],
    phi: ['phi (deg)', DEG, 0.1],
    p: ['p (deg/s)', DEG, 0.5],
    r: ['r (deg/s)', DEG, 0.4],
  },
} as const;
function record(
  file: string,
  motion: keyof typeof COLUMNS,
  inputs: object[],
  controls: string[],
  seed: number,
  seconds = 10,
): void {
  const scenario = withOwnEngine(
    scenarioSchema.parse({
      ground: altitude - 100,
      launch: { kind: 'flight', speed, height: 100 },
      duration: seconds,
      record: 0.04,
      inputs,
    }),
    candidate,
  );
  const { columns, series } = fly(scenario, flownVehicle(tables.massItems, {}, built, scenario));
  const random = randomNumbers(seed);
  const of = (name: string) => series[columns.indexOf(name)];
  const measured = Object.entries(COLUMNS[motion]).map(
    ([name, [heading, scale, noise]]) =>
      [heading, of(name).map((v) => (v * scale + noise * random.normal()).toFixed(3))] as const,
  );
  const moved = controls.map((name) => [`${name} (deg)`, of(name).map((v) => (v * DEG).toFixed(2))] as const);
  const all = [['t (s)', of('t').map((v) => v.toFixed(2))] as const, ...measured, ...moved];
  const rows = of('t').map((_, i) => all.map(([, v]) => v[i]).join(','));
  writeFileSync(
    fileURLToPath(new URL(`../flight-records/${file}`, import.meta.url)),
    `${all.map(([heading]) => heading).join(',')}\n${rows.join('\n')}\n`,
  );
}
mkdirSync(fileURLToPath(new URL('../flight-records', import.meta.url)), { recursive: true });
record(
  'elevator-doublet.csv',
  'longitudinal',
  [{ kind: 'points', control: 'Elevator', points: doublet(1, 0.52, 3) }],
  ['Elevator'],
  5,
);
record(
  'rudder-and-aileron.csv',
  'lateral',
  [
    { kind: 'points', control: 'Rudder', points: doublet(1, 0.6, 5) },
    { kind: 'points', control: 'Aileron', points: doublet(5, 0.52, 3) },
  ],
  ['Rudder', 'Aileron'],
  6,
);
record(
  'elevator-sweep.csv',
  'longitudinal',
  [{ kind: 'sweep', control: 'Elevator', at: 0.5, duration: 34, amountDeg: 1.2, fromHz: 0.3, toHz: 4 }],
  ['Elevator'],
  7,
  35,
);
