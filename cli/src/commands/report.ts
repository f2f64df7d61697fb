import { extname } from 'node:path';
import { Command, Option } from 'commander';
import { polarSpeeds, type PolarShelf } from '@veldtwind/core/candidate';
import { InvalidInput } from '@veldtwind/core/numerics';
import { standing } from '@veldtwind/core/airframe';
import { methodMeant, readDocument, type ProjectDocument } from '@veldtwind/core/project';
import { designReview, type ReportPart } from '@veldtwind/core/report';
import { UNIT_SETS, type UnitSet } from '@veldtwind/core/units';
import { sectionLookup } from '@veldtwind/core/candidate';
import { REPORT_FORMATS, reportFile } from '@veldtwind/exchange/report/files';
import { openDatabase, type Db } from '@veldtwind/store/open';
import { ProjectStore } from '@veldtwind/store/projects';
import { readProjectFile } from '@veldtwind/store/project-file/read';
import { materialOf, studiesOf } from '@veldtwind/store/reports/project-report';
import { projectShelf } from '@veldtwind/store/reports/shelf';
import { checkFile, readTextFile } from '../arguments';
import { printJson, writeFile } from '../output';
import { computePolars } from '../viscous-lift';
import { findProject, openStore } from './store';

interface Options {
  project?: string;
  file?: string;
  database?: string;
  report?: string;
  out: string;
  paper: 'a4' | 'letter';
  units: UnitSet;
  polars?: boolean;
  json?: boolean;
}

/** Bytes of a project file. */
const LARGEST_FILE = 2_000_000_000;

export function reportCommand(): Command {
  return new Command('report')
    .description('A report of a project as PDF, page, word-processor file or ZIP; the same bytes for the same state')
    .option('--project <id>', 'a project of the database, by its id or name')
    .option('--file <file>', 'a project file, or a document as JSON')
    .option('--database <file>', 'the database; VELDTWIND_DATABASE, or data/veldtwind.sqlite')
    .option(
      '--report <name>',
      'a report of the project, by its id or name; the first, or a design review where there is none',
    )
    .requiredOption('--out <file>', `where to write it: ${REPORT_FORMATS.map((f) => `.${f}`).join(', ')}`)
    .addOption(new Option('--paper <size>', 'of a PDF').choices(['a4', 'letter']).default('a4'))
    .addOption(
      new Option('--units <set>', 'units of the numbers').choices(UNIT_SETS.map((u) => u.id)).default('metric'),
    )
    .option('--polars', 'compute the polars that are missing first, which takes minutes')
    .option('--json', 'print JSON: blocks, and what could not be shown')
    .action(run);
}

/** Opens what is reported: a project of the database, or a file read into memory. */
async function opened(o: Options): Promise<{ db: Db; id: string }> {
  if ((o.project === undefined) === (o.file === undefined))
    throw new InvalidInput(
      'report',
      'vw report needs --project or --file, one of the two.',
      'For instance --project Seedsnipe --out report.pdf.',
    );
  if (o.project !== undefined) {
    const db = openStore(o);
    try {
      return { db, id: findProject(db, o.project).id };
    } catch (error) {
      db.close();
      throw error;
    }
  }
  const db = openDatabase(':memory:');
  try {
    if (extname(o.file!).toLowerCase() !== '.json') {
      checkFile(o.file!, LARGEST_FILE);
      return { db, id: (await readProjectFile(db, o.file!)).id };
    }
    const { name, document } = documentIn(o.file!);
    // The time of the making is not that of the state: a file without history has none.
    const { id } = new ProjectStore(db).create(name, document);
    return { db, id };
  } catch (error) {
    db.close();
    throw error;
  }
}

function documentIn(file: string): { name: string; document: ProjectDocument } {
  let read: { name?: unknown; document?: unknown };
  try {
    read = JSON.parse(readTextFile(file)) as typeof read;
  } catch (error) {
    if (error instanceof InvalidInput) throw error;
    throw new InvalidInput(
      'file',
      `${file} is not JSON: ${(error as Error).message}.`,
      'Give a project file, or a document as JSON.',
      'file',
    );
  }
  const document = readDocument(read && typeof read === 'object' && read.document !== undefined ? read.document : read);
  return { name: typeof read.name === 'string' ? read.name : 'Project', document };
}

function chosen(document: ProjectDocument, given: string | undefined, studied: boolean): ReportPart {
  const all = Object.values(document.reports);
  if (given === undefined) {
    let n = 0;
    return all[0] ?? designReview(document, () => `block-${n++}`, undefined, studied);
  }
  const found = all.filter((r) => r.id === given || r.name === given);
  if (found.length === 1) return found[0];
  throw new InvalidInput(
    'report',
    found.length === 0 ? `The project has no report "${given}".` : `${found.length} reports are called "${given}".`,
    all.length > 0 ? `There are ${all.map((r) => r.name).join(', ')}.` : 'Leave --report out for a design review.',
    'report',
  );
}

/** The project's polars, and those that are missing where they are asked for. */
async function shelfFor(document: ProjectDocument, known: PolarShelf, compute: boolean): Promise<PolarShelf> {
  const { brief, candidates, sections } = document;
  if (!compute || methodMeant(brief.assumptions.method) !== 'polars') return known;
  const lookup = sectionLookup(sections);
  let shelf = known;
  for (const c of Object.values(candidates)) {
    if (c.surfaces.length === 0) continue;
    const surfaces = standing(c.surfaces, c.bodies);
    const made = await computePolars(
      { surfaces },
      lookup,
      polarSpeeds('flight', brief, c),
      brief.altitude,
      brief.assumptions.criticalAmplification,
      { known: shelf },
    );
    shelf = made.shelf;
  }
  return shelf;
}

async function run(o: Options): Promise<void> {
  const format = extname(o.out).slice(1).toLowerCase();
  if (!(REPORT_FORMATS as readonly string[]).includes(format))
    throw new InvalidInput(
      'report-format',
      `There is no report as "${format}".`,
      `End the name of the file in ${REPORT_FORMATS.map((f) => `.${f}`).join(', ')}.`,
      'out',
    );
  const { db, id } = await opened(o);
  try {
    const { name, updatedAt } = new ProjectStore(db).row(id);
    const { document } = new ProjectStore(db).state(id);
    const part = chosen(document, o.report, studiesOf(db, id).length > 0);
    const shelf = await shelfFor(document, projectShelf(db, id), Boolean(o.polars));
    const material = materialOf(db, id, document, shelf);
    const report = await material.composed(part, name, o.units);
    const date = o.file === undefined ? new Date(updatedAt) : new Date(0);
    writeFile(o.out, await reportFile(report, format, { paper: o.paper, date }));
    const missing = report.blocks.flatMap((b) => (b.kind === 'missing' ? [{ title: b.title, reason: b.reason }] : []));
    const count = (kind: string) => report.blocks.filter((b) => b.kind === kind).length;
    const told = {
      report: report.name,
      project: report.project,
      out: o.out,
      blocks: report.blocks.length,
      figures: ['figure', 'drawing', 'view', 'picture'].reduce((n, kind) => n + count(kind), 0),
      tables: count('table'),
      missing,
    };
    if (o.json) return printJson(told);
    process.stdout.write(
      `${o.out}: ${told.report} of ${told.project}, ${told.figures} figures, ${told.tables} tables\n`,
    );
    for (const m of missing) process.stderr.write(`vw: ${m.title}: ${m.reason}\n`);
  } finally {
    db.close();
  }
}
