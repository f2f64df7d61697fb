import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import {
  FIT_PARAMETERS,
  fitFlight,
  flightTables,
  launchOf,
  loadedMass,
  polarSpeeds,
  readCandidateFile,
  withPlacedMass,
  type FitParameter,
} from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import { InvalidInput } from '@veldtwind/core/numerics';
import { readObservedPath } from '@veldtwind/core/observed';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';
import { computePolars } from '../viscous-lift';

interface Options {
  flight: string;
  airframe: string;
  fit: string;
  held?: string[];
  altitude: string;
  loading?: string;
  ncrit: string;
  inviscid?: boolean;
  json?: boolean;
}

const NAMES = Object.keys(FIT_PARAMETERS) as FitParameter[];

export function fitCommand(): Command {
  return new Command('fit')
    .description('Fits launch, wind, drag and trim of a throw to its observed path')
    .requiredOption('--flight <file>', 'observed path as CSV: t, x, height with their units in the headings')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--fit <list>', `what is fitted, of ${NAMES.join(', ')}`, 'speed,elevation,drag')
    .option(
      '--held <name=value>',
      'a number that is not fitted, as wind=1.5; may be given again',
      (v, all: string[] = []) => [...all, v],
    )
    .option('--altitude <m>', 'altitude of the launch', '0')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'without section polars')
    .option('--json', 'print JSON')
    .action(run);
}

function readName(text: string): FitParameter {
  const name = text.trim() as FitParameter;
  if (!NAMES.includes(name))
    throw new InvalidInput('fit', `"${text.trim()}" cannot be fitted.`, `Give some of ${NAMES.join(', ')}.`, 'fit');
  return name;
}

function readHeld(list: readonly string[]): Partial<Record<FitParameter, number>> {
  return Object.fromEntries(
    list.map((text) => {
      const [name, value] = text.split('=');
      const id = readName(name);
      const [number] = readRange(value ?? '', 'held');
      const { min, max } = FIT_PARAMETERS[id];
      if (!(number >= min && number <= max))
        throw new InvalidInput('held', `${id} must be from ${min} to ${max}; ${number} is not.`, undefined, 'held');
      return [id, number];
    }),
  );
}

async function run(o: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const candidate = withPlacedMass(standingIn(read), lookup);
  const observed = readObservedPath(readTextFile(o.flight));
  const start = readHeld(o.held ?? []);
  const fit = [...new Set(o.fit.split(',').map(readName))].filter((id) => start[id] === undefined);
  const [altitude] = readRange(o.altitude, 'altitude');
  const { mass } = loadedMass(candidate, o.loading);
  const { speed } = { speed: start.speed ?? launchOf(observed).speed };
  const polars = o.inviscid
    ? null
    : (
        await computePolars(
          candidate,
          lookup,
          polarSpeeds('flight', { speed, altitude, mass }, candidate),
          altitude,
          readRange(o.ncrit, 'ncrit')[0],
        )
      ).polars;
  const tables = flightTables(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    speed,
    altitude,
    polars,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
  const loading = o.loading === undefined ? {} : (candidate.loadings ?? {})[o.loading];
  const found = fitFlight(observed, tables, { fit, altitude, start, loading });
  const { notes, gaps, outliers } = observed;
  if (o.json) {
    printJson({ airframe: candidate.name, ...found, held: start, notes, gaps, outliers });
    return;
  }
  process.stdout.write(
    table(found.parameters, [
      { title: 'fitted', text: (p) => p.name },
      { title: 'value', text: (p) => `${p.value.toPrecision(4)}${p.unit && ` ${p.unit}`}` },
      { title: '95 % bounds', text: (p) => `${p.low.toPrecision(4)} to ${p.high.toPrecision(4)}` },
      { title: '', text: (p) => (p.decided ? '' : 'not decided') },
    ]),
  );
  process.stdout.write(
    `${found.points} points; distance ${found.rms.toFixed(3)} m, ${found.before.toFixed(3)} m before the fit, ${found.withoutLift.toFixed(3)} m of a body without lift\n`,
  );
  for (const g of gaps) process.stdout.write(`gap of ${g.length.toFixed(2)} s at ${g.at.toFixed(2)} s\n`);
  for (const n of [...notes, ...found.doubts]) process.stdout.write(`${n}\n`);
}
