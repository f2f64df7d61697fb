import { dirname, resolve } from 'node:path';
import { Command, Option } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import { loadedMass, modelOf, readCandidateFile, sectionLookup, type ModelMethod } from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { modelQuantities, type ModelQuantity } from '@veldtwind/core/quantities';
import { ProjectStore } from '@veldtwind/store/projects';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';
import { computePolars } from '../viscous-lift';
import { findProject, openStore } from './store';

interface Options {
  airframe?: string;
  project?: string;
  candidate?: string;
  database?: string;
  speed?: string;
  altitude?: string;
  loading?: string;
  ncrit?: string;
  method?: 'best' | ModelMethod;
  json?: boolean;
}

export function modelCommand(): Command {
  return new Command('model')
    .description('The headline numbers of an aircraft in level flight, each with the method that made it')
    .option('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--project <id>', 'a project of the database, by its id or name')
    .option('--candidate <letter>', 'of the project; the first without')
    .option('--database <file>', 'the database; VELDTWIND_DATABASE, or data/veldtwind.sqlite')
    .option('--speed <m/s>', 'speed of the level flight; that of the project’s brief without')
    .option('--altitude <m>', 'altitude of the standard atmosphere; that of the brief, or 0')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--ncrit <number>', 'critical amplification of the polars; that of the project, or 9')
    .addOption(
      new Option(
        '--method <name>',
        'best, the lattice with section polars, where neither it nor the project says',
      ).choices(['best', 'lattice', 'polars', 'panels']),
    )
    .option('--json', 'print JSON')
    .action(run);
}

/** What is modelled: a candidate with its sections, and the flight that is meant for it. */
function subjectOf(o: Options) {
  if ((o.airframe === undefined) === (o.project === undefined))
    throw new InvalidInput(
      'model',
      'vw model needs --airframe or --project, one of the two.',
      'For instance --airframe my.json --speed 26.',
    );
  if (o.airframe !== undefined) {
    const { candidate, sections } = readCandidateFile(readTextFile(o.airframe));
    return { candidate, lookup: fileLookup(sections, (name) => resolve(dirname(o.airframe!), name)), brief: null };
  }
  const db = openStore(o);
  try {
    const { document } = new ProjectStore(db).state(findProject(db, o.project!).id);
    const all = Object.values(document.candidates).sort((a, b) => a.letter.localeCompare(b.letter));
    const candidate: CandidatePart | undefined =
      o.candidate === undefined ? all[0] : all.find((c) => c.letter === o.candidate || c.id === o.candidate);
    if (!candidate)
      throw new InvalidInput(
        'candidate',
        o.candidate === undefined ? 'The project has no candidate.' : `The project has no candidate "${o.candidate}".`,
        all.length > 0 ? `There are ${all.map((c) => c.letter).join(', ')}.` : 'Draw one first.',
        'candidate',
      );
    return { candidate, lookup: sectionLookup(document.sections), brief: document.brief };
  } finally {
    db.close();
  }
}

async function run(o: Options): Promise<void> {
  const { candidate: read, lookup, brief } = subjectOf(o);
  const candidate = standingIn(read);
  const given = o.speed === undefined ? brief?.speed : readRange(o.speed, 'speed')[0];
  if (given === undefined)
    throw new InvalidInput('speed', 'The model needs a speed.', 'Give --speed in m/s, and --altitude in m.', 'speed');
  const altitude = o.altitude === undefined ? (brief?.altitude ?? 0) : readRange(o.altitude, 'altitude')[0];
  // What is wrong with the masses is said before polars are computed.
  loadedMass(candidate, o.loading);
  const assumed = brief?.assumptions;
  const meant = o.method ?? assumed?.method ?? 'best';
  const method = meant === 'best' ? 'polars' : meant;
  const ncrit = o.ncrit === undefined ? (assumed?.criticalAmplification ?? 9) : readRange(o.ncrit, 'ncrit')[0];
  const polars = method === 'polars' ? (await computePolars(candidate, lookup, [given], altitude, ncrit)).polars : null;
  const model = modelOf(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    speed: given,
    altitude,
    method,
    polars,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
  const quantities = modelQuantities(model);
  if (o.json) return printJson({ method, speed: given, altitude, quantities });
  process.stdout.write(
    `${candidate.name}, level at ${given} m/s and ${altitude} m, by ${{ lattice: 'the vortex lattice', polars: 'the vortex lattice with section polars', panels: 'surface panels' }[method]}\n` +
      table<ModelQuantity>(quantities, [
        { title: 'quantity', text: (q) => q.id },
        { title: 'value', text: (q) => (q.value === null ? '—' : String(Number(q.value.toPrecision(6)))) },
        { title: 'unit', text: (q) => q.unit },
        { title: 'is', text: (q) => (q.reason === undefined ? q.name : `${q.name}: ${q.reason}`) },
      ]),
  );
  for (const d of model.motion?.doubts ?? []) process.stderr.write(`vw: doubtful: ${d}\n`);
}
