import { dirname, resolve } from 'node:path';
import { Command, Option } from 'commander';
import { standingIn, type SectionLookup } from '@veldtwind/core/airframe';
import {
  loadedMass,
  modelOf,
  performanceOf,
  polarSpeeds,
  readCandidateFile,
  sectionLookup,
  type ModelMethod,
  type PolarShelf,
  withPlacedMass,
} from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import { InvalidInput } from '@veldtwind/core/numerics';
import { performanceSchema } from '@veldtwind/core/performance';
import { methodMeant, type BriefPart, type CandidatePart } from '@veldtwind/core/project';
import {
  missingPerformance,
  modelQuantities,
  performanceQuantities,
  type ModelQuantity,
} from '@veldtwind/core/quantities';
import { ProjectStore } from '@veldtwind/store/projects';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';
import type { Db } from '@veldtwind/store/open';
import { projectShelf } from '@veldtwind/store/reports/shelf';
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

/** What is modelled: a candidate with its sections, the flight that is meant for it, and the polars that its project has. */
interface Subject {
  candidate: CandidatePart;
  lookup: SectionLookup;
  brief: BriefPart | null;
  known: PolarShelf | null;
}

function fromFile(file: string): Subject {
  const { candidate, sections } = readCandidateFile(readTextFile(file));
  const lookup = fileLookup(sections, (name) => resolve(dirname(file), name));
  return { candidate, lookup, brief: null, known: null };
}

function fromProject(db: Db, o: Options): Subject {
  const { id } = findProject(db, o.project!);
  const { document } = new ProjectStore(db).state(id);
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
  return {
    candidate,
    lookup: sectionLookup(document.sections),
    brief: document.brief,
    known: projectShelf(db, id),
  };
}

async function run(o: Options): Promise<void> {
  if ((o.airframe === undefined) === (o.project === undefined))
    throw new InvalidInput(
      'model',
      'vw model needs --airframe or --project, one of the two.',
      'For instance --airframe my.json --speed 26.',
    );
  if (o.airframe !== undefined) return tell(o, fromFile(o.airframe));
  const db = openStore(o);
  try {
    await tell(o, fromProject(db, o));
  } finally {
    db.close();
  }
}

async function tell(o: Options, { candidate: read, lookup, brief, known }: Subject): Promise<void> {
  const candidate = standingIn(read);
  const given = o.speed === undefined ? brief?.speed : readRange(o.speed, 'speed')[0];
  if (given === undefined)
    throw new InvalidInput('speed', 'The model needs a speed.', 'Give --speed in m/s, and --altitude in m.', 'speed');
  const altitude = o.altitude === undefined ? (brief?.altitude ?? 0) : readRange(o.altitude, 'altitude')[0];
  // What is wrong with the masses is said before polars are computed.
  const loaded = loadedMass(withPlacedMass(candidate, lookup), o.loading);
  const assumed = brief?.assumptions;
  const meant = o.method ?? assumed?.method ?? 'best';
  const method = methodMeant(meant);
  const ncrit = o.ncrit === undefined ? (assumed?.criticalAmplification ?? 9) : readRange(o.ncrit, 'ncrit')[0];
  // The stall and flights have Reynolds numbers of their own; level flight reads those of its speed alone.
  const design = { speed: given, altitude, mass: brief?.mass ?? loaded.mass };
  const flown =
    method === 'polars'
      ? await computePolars(candidate, lookup, polarSpeeds('flight', design, candidate), altitude, ncrit, { known })
      : null;
  const polars = flown
    ? (await computePolars(candidate, lookup, [given], altitude, ncrit, { known: flown.shelf })).polars
    : null;
  const model = modelOf(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    speed: given,
    altitude,
    method,
    polars,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
  const of = { candidate, sections: {}, speed: given, altitude, polars: flown?.polars ?? null };
  const quantities = [
    ...modelQuantities(model),
    ...(method === 'panels'
      ? missingPerformance('The panels are without viscosity: take the lattice or section polars.')
      : performanceQuantities(
          await performanceOf(
            {
              of: { ...of, ...(o.loading === undefined ? {} : { loading: o.loading }) },
              energy: candidate.energy ?? null,
              settings: assumed?.performance ?? performanceSchema.parse({}),
            },
            lookup,
          ),
          method,
        )),
  ];
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
