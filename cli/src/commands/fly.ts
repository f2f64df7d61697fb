import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import {
  flightTables,
  flownVehicle,
  loadedMass,
  polarSpeeds,
  readCandidateFile,
  withOwnEngine,
  scatterDraws,
  scatterLine,
  tableSpeed,
  withPlacedMass,
} from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import { parseJson, refusalOf } from '@veldtwind/core/limits';
import { tableText } from '@veldtwind/core/spreadsheet';
import { withSetting, type CandidatePart } from '@veldtwind/core/project';
import type { SectionLookup } from '@veldtwind/core/airframe';
import { DEG } from '@veldtwind/core/numerics';
import {
  fly,
  footprint,
  readStandardTables,
  scatterSchema,
  shareInside,
  scenarioSchema,
  writeStandardTables,
  type Flight,
  type FlightSummary,
  type ScatterLine,
  type Scenario,
} from '@veldtwind/core/simulation';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, writeFile } from '../output';
import { computePolars } from '../viscous-lift';

interface Options {
  airframe: string;
  scenario: string;
  csv?: string;
  speed?: string;
  loading?: string;
  setting?: string;
  ncrit: string;
  inviscid?: boolean;
  tables?: string;
  writeTables?: string;
  throws?: string;
  scatter?: string;
  seed?: string;
  json?: boolean;
}

export function flyCommand(): Command {
  return new Command('fly')
    .description('Flies a scenario: six degrees of freedom, from launch to landing')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--scenario <file>', 'the flight as JSON, see docs/flight.md')
    .option('--csv <file>', 'write all states over time; - for the output')
    .option('--speed <m/s>', 'speed that the tables of the aerodynamics are made about; else that of the launch')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--setting <name>', 'a kept setting of the controls')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'without section polars: the lattice alone, with the drag build-up; it does not stall')
    .option('--tables <file>', 'aerodynamics from an S-119 file instead; mass and loading stay those of the airframe')
    .option('--write-tables <file>', 'write the tables that are flown as an S-119 file')
    .option('--throws <number>', 'fly it so many times with scatter, and tell where it ends')
    .option('--scatter <file>', 'what scatters, as JSON, see docs/flight.md; usual values without it')
    .option('--seed <number>', 'of the scatter', '1')
    .option('--json', 'print the summary as JSON')
    .action(run);
}

/** A scenario from a file. @throws InvalidInput with the field. */
export function readScenario(text: string): Scenario {
  const parsed = scenarioSchema.safeParse(parseJson(text, 'The scenario', 'See docs/flight.md for the format.'));
  if (parsed.success) return parsed.data;
  throw refusalOf(parsed.error, 'The scenario');
}

async function run(o: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const candidate = standingIn(o.setting === undefined ? read : withSetting(read, o.setting));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const scenario = withOwnEngine(readScenario(readTextFile(o.scenario)), candidate);
  const [ncrit] = readRange(o.ncrit, 'ncrit');
  const speed = o.speed === undefined ? tableSpeed(scenario, 20) : readRange(o.speed, 'speed')[0];
  const altitude = scenario.ground + scenario.launch.height;
  const { mass } = loadedMass(withPlacedMass(candidate, lookup), o.loading);
  const ground = scenario.groundEffect ?? false;
  const tables = await tablesOf(o, candidate, lookup, { speed, altitude, mass, ncrit, ground });
  if (o.writeTables !== undefined)
    writeFile(o.writeTables, writeStandardTables(tables, candidate.name, new Date().toISOString().slice(0, 10)));
  const loading = o.loading === undefined ? {} : (candidate.loadings ?? {})[o.loading];
  if (o.throws !== undefined) return scatterRuns(o, scenario, tables, loading);
  const flight = fly(scenario, flownVehicle(tables.massItems, loading, tables, scenario));
  if (o.csv !== undefined) {
    const text = csvOf(flight);
    if (o.csv === '-') process.stdout.write(text);
    else writeFile(o.csv, text);
  }
  if (o.json) return printJson(flight.summary);
  if (o.csv !== '-') process.stdout.write(told(flight.summary));
}

type Tables = ReturnType<typeof flightTables>;

/** The tables that are flown: computed, or read. */
async function tablesOf(
  o: Options,
  candidate: CandidatePart,
  lookup: SectionLookup,
  {
    speed,
    altitude,
    mass,
    ncrit,
    ground,
  }: { speed: number; altitude: number; mass: number; ncrit: number; ground: boolean },
): Promise<Tables> {
  if (o.tables !== undefined) {
    const { tables, checked } = readStandardTables(readTextFile(o.tables));
    process.stderr.write(`vw: tables of ${o.tables}: ${checked} of its own checks are met\n`);
    return { ...tables, massItems: withPlacedMass(candidate, lookup).massItems };
  }
  const polars = o.inviscid
    ? null
    : (
        await computePolars(
          candidate,
          lookup,
          polarSpeeds('flight', { speed, altitude, mass }, candidate),
          altitude,
          ncrit,
        )
      ).polars;
  return flightTables(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    speed,
    altitude,
    polars,
    ground,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
}

/** Flies a scenario many times with scatter, and tells where it ends. */
function scatterRuns(o: Options, scenario: Scenario, tables: Tables, loading: Record<string, number>): void {
  const given: unknown =
    o.scatter === undefined
      ? { speed: 1, elevationDeg: 2, headingDeg: 2, mass: 0.02, drag: 0.1, slopes: 0.1 }
      : parseJson(readTextFile(o.scatter), 'The scatter', 'See docs/flight.md.');
  const parsed = scatterSchema.safeParse({
    ...(given as object),
    runs: readRange(o.throws!, 'throws')[0],
    seed: readRange(o.seed ?? '1', 'seed')[0],
  });
  if (!parsed.success) throw refusalOf(parsed.error, 'The scatter');
  const scatter = parsed.data;
  const lines: ScatterLine[] = [];
  for (const draw of scatterDraws(scenario, tables, scatter, 0, scatter.runs)) {
    lines.push(scatterLine(draw, lines.length, tables.massItems, loading));
    if (process.stderr.isTTY) process.stderr.write(`\r${lines.length} of ${scatter.runs}`);
  }
  if (process.stderr.isTTY) process.stderr.write('\r');
  if (o.csv !== undefined) {
    const keys = ['run', 'x', 'y', 'time', 'greatestHeight', 'greatestLoadFactor', 'ended'] as const;
    const text = `${keys.join(',')}\n${lines.map((l) => keys.map((k) => l[k]).join(',')).join('\n')}\n`;
    if (o.csv === '-') process.stdout.write(text);
    else writeFile(o.csv, text);
  }
  const ends: Record<string, number> = {};
  for (const l of lines) ends[l.ended] = (ends[l.ended] ?? 0) + 1 / lines.length;
  const where = footprint(lines);
  // Without scatter it ends here.
  const planned = scatter.limits && plannedEnd(scenario, tables, loading);
  const inside = planned ? shareInside(lines, scatter.limits!, planned) : undefined;
  if (o.json) return printJson({ scatter, footprint: where, ends, ...(planned && { planned, inside }), runs: lines });
  if (o.csv === '-') return;
  const shares = Object.entries(ends).map(([how, share]) => `${how} ${(100 * share).toFixed(1)} %`);
  process.stdout.write(
    `${lines.length} throws: ${shares.join(', ')}${inside === undefined ? '' : `; ${(100 * inside).toFixed(1)} % inside the limits`}.\n${
      where
        ? `Ends about ${where.x.toFixed(1)} m north, ${where.y.toFixed(1)} m east; 95 % within ${where.axes[0].toFixed(1)} by ${where.axes[1].toFixed(1)} m, the longer at ${(where.turn * DEG).toFixed(0)}° from north.`
        : 'Too few flew to tell where they end.'
    }\n`,
  );
}

function plannedEnd(scenario: Scenario, tables: Tables, loading: Record<string, number>): { x: number; y: number } {
  const { columns, series } = fly(scenario, flownVehicle(tables.massItems, loading, tables, scenario));
  const last = (name: string) => series[columns.indexOf(name)].at(-1)!;
  return { x: last('x'), y: last('y') };
}

const csvOf = ({ columns, series }: Flight): string => {
  const rows = series[0].map((_, i) => series.map((v) => Number(v[i].toPrecision(15))));
  return `${tableText([columns, ...rows], ',', '\n')}\n`;
};

function told(s: FlightSummary): string {
  const lines = [
    s.trim &&
      `trimmed: α ${s.trim.alphaDeg.toFixed(2)}°, climb ${s.trim.climbDeg.toFixed(2)}°, throttle ${(100 * s.trim.throttle).toFixed(0)} %${Object.entries(
        s.trim.controls,
      )
        .map(([name, d]) => `, ${name} ${d.toFixed(2)}°`)
        .join('')}`,
    s.leftRail && `left the rail after ${s.leftRail.t.toFixed(3)} s at ${s.leftRail.speed.toFixed(2)} m/s`,
    ...s.burnOuts.map(
      (b) => `${b.name} burnt out after ${b.t.toFixed(2)} s: ${b.speed.toFixed(1)} m/s, ${b.height.toFixed(1)} m high`,
    ),
    ...s.waypoints.map((w) => `way-point ${w.name} after ${w.t.toFixed(2)} s`),
    `${s.reason} Range ${s.range.toFixed(1)} m, greatest height ${s.greatestHeight.toFixed(1)} m, greatest speed ${s.greatestSpeed.toFixed(1)} m/s, greatest load factor ${s.greatestLoadFactor.toFixed(2)}.`,
    ...s.notes,
  ];
  return `${lines.filter(Boolean).join('\n')}\n`;
}
