import { tableText } from '@veldtwind/core/spreadsheet';
import { Readable } from 'node:stream';
import Database from 'better-sqlite3';
import { ZipFile } from 'yazl';
import { keyOfResult } from '@veldtwind/core/analysis';
import { inputsOfEvaluation } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { SCHEMA_VERSION, type ProjectDocument } from '@veldtwind/core/project';
import type { Db } from '../open';
import { curveText } from '../curve-file';
import type { PartRow } from '../parts';
import { RunStore } from '../runs';
import { ProjectStore } from '../projects';
import { ReportStore } from '../reports/issues';
import { ResultStore } from '../results';
import { VersionStore } from '../versions';
import { PeopleStore } from '../people';
import { FILES, FORMAT, FORMAT_VERSION, type End } from './format';

/** Text that is handed to the zip at once. */
const BATCH = 256_000;

/** JSON text as it stands inside a line, or null where it is none. */
function jsonText(text: string | null): string | null {
  if (text === null) return null;
  try {
    JSON.parse(text);
    return text;
  } catch {
    return null;
  }
}

const partText = (row: PartRow): string => {
  const value = jsonText(row.json);
  return `{"key":${JSON.stringify(row.key)},"version":${row.version},${value === null ? `"value":null,"text":${JSON.stringify(row.json)}` : `"value":${value}`}}\n`;
};

interface EditRow {
  id: number;
  label: string;
  state: string;
  version: number;
  createdAt: string;
  clientId: string | null;
  by: string | null;
}
interface ChangeRow {
  part: string;
  before: string | null;
  after: string | null;
  beforeVersion: number;
  afterVersion: number;
}

function editText(edit: EditRow, changes: readonly ChangeRow[]): string {
  const { label, state, version, createdAt, clientId, by } = edit;
  const list = changes.map(
    (c) =>
      `{"part":${JSON.stringify(c.part)},"before":${jsonText(c.before)},"after":${jsonText(c.after)},"beforeVersion":${c.beforeVersion},"afterVersion":${c.afterVersion}}`,
  );
  return `${JSON.stringify({ label, state, version, createdAt, clientId, by }).slice(0, -1)},"changes":[${list.join(',')}]}\n`;
}

/** Kept results that the project as it stands leads to. */
function* resultTexts(document: ProjectDocument, results: ResultStore): Generator<string> {
  for (const id of Object.keys(document.candidates)) {
    let key: string;
    try {
      key = keyOfResult('evaluation', inputsOfEvaluation(document, id));
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      // A candidate that cannot be evaluated has no result.
      continue;
    }
    const row = results.whole(key);
    if (row)
      yield `{"key":"${key}","kind":${JSON.stringify(row.kind)},"methodVersion":${row.methodVersion},"input":${row.input},"output":${row.output}}\n`;
  }
}

/** Tables for people and other programs. */
function* tables(document: ProjectDocument, edits: readonly EditRow[]): Generator<[string, string]> {
  const sections = Object.values(document.sections);
  yield [
    'sections.csv',
    tableText([
      ['id', 'name', 'source', 'tags'],
      ...sections.map((s) => [s.id, s.name, s.source.kind, s.tags?.join(' ') ?? '']),
    ]),
  ];
  for (const s of sections)
    if (s.source.kind === 'coordinates') yield [`coordinates/${s.id}.csv`, tableText([['x', 'y'], ...s.source.points])];
  const items = Object.values(document.candidates).flatMap((c) =>
    c.massItems.map((m) => [c.id, m.id, m.name, m.mass, m.position.x, m.position.y, m.position.z]),
  );
  yield ['mass-items.csv', tableText([['candidate', 'id', 'name', 'massKg', 'x', 'y', 'z'], ...items])];
  yield [
    'history.csv',
    tableText([
      ['version', 'label', 'state', 'createdAt', 'by'],
      ...edits.map(({ version, label, state, createdAt, by }) => [version, label, state, createdAt, by ?? '']),
    ]),
  ];
}

/**
 * A project as one file, piece by piece: with the texts that its sections were read from, its history, and the results that are kept of it. It is read
 * in one transaction on a connection of its own, so that edits made meanwhile neither wait nor mix in.
 * @throws NotFound
 */
export async function* writeProjectFile(db: Db, id: string): AsyncGenerator<Uint8Array> {
  new ProjectStore(db).row(id);
  const own = db.memory ? db : new Database(db.name);
  try {
    if (own !== db) own.exec('BEGIN');
    yield* pieces(own, id);
  } finally {
    if (own !== db) own.close();
  }
}

/** Texts in pieces that are worth handing on. */
function* batches(texts: Iterable<string>): Generator<Buffer> {
  let batch = '';
  for (const text of texts) {
    batch += text;
    if (batch.length < BATCH) continue;
    yield Buffer.from(batch);
    batch = '';
  }
  yield Buffer.from(batch);
}

async function* pieces(db: Db, id: string): AsyncGenerator<Uint8Array> {
  const zip = new ZipFile();
  const out = zip.outputStream as Readable;
  zip.on('error', (error: Error) => out.destroy(error));
  // Files are made one after the other, each when its turn comes.
  const file = (name: string, texts: () => Iterable<string>) =>
    zip.addReadStreamLazy(name, (done) => done(null, Readable.from(batches(texts()), { objectMode: false })));
  const held: End = { parts: 0, edits: 0, results: 0, curves: 0, versions: 0, comments: 0, issues: 0 };
  function* counted(what: keyof End, texts: Iterable<string>): Generator<string> {
    for (const text of texts) {
      held[what]++;
      yield text;
    }
  }
  const store = new ProjectStore(db);
  const { name, version, createdAt, updatedAt } = store.row(id);
  const head = {
    format: FORMAT,
    formatVersion: FORMAT_VERSION,
    name,
    version,
    createdAt,
    updatedAt,
    schemaVersion: SCHEMA_VERSION,
  };
  file(FILES.head, () => [`${JSON.stringify(head, null, 2)}\n`]);
  const keys = db.prepare('SELECT key FROM part WHERE project_id = ? ORDER BY key').pluck().all(id) as string[];
  file(FILES.parts, () =>
    counted(
      'parts',
      (function* () {
        // Row by row: a statement that stays open while others run would forbid them to write.
        for (const key of keys) {
          const row = store.parts.row(id, key);
          if (row) yield partText(row);
        }
      })(),
    ),
  );
  const edits = db
    .prepare(
      'SELECT id, label, state, version, created_at AS createdAt, client_id AS clientId, by_name AS by FROM edit WHERE project_id = ? ORDER BY id',
    )
    .all(id) as EditRow[];
  const changes = db.prepare(
    `SELECT part, before_json AS before, after_json AS after, before_version AS beforeVersion, after_version AS afterVersion
     FROM edit_change WHERE edit_id = ? ORDER BY part`,
  );
  file(FILES.edits, () =>
    counted(
      'edits',
      (function* () {
        for (const edit of edits) yield editText(edit, changes.all(edit.id) as ChangeRow[]);
      })(),
    ),
  );
  const { document } = store.state(id);
  file(FILES.results, () => counted('results', resultTexts(document, new ResultStore(db))));
  const runs = new RunStore(db);
  const curves = runs.curves(id).filter((c) => c.points > 0);
  file(FILES.curves, () =>
    counted(
      'curves',
      (function* () {
        for (const curve of curves) yield curveText(runs, curve);
      })(),
    ),
  );
  const versions = new VersionStore(db, store);
  file(FILES.versions, () =>
    counted(
      'versions',
      (function* () {
        for (const { id: kept, ...head } of versions.list(id))
          yield `${JSON.stringify({ ...head, document: versions.document(id, kept).document })}\n`;
      })(),
    ),
  );
  file(FILES.comments, () =>
    counted(
      'comments',
      new PeopleStore(db).comments(id).map(({ name, text, place, createdAt, doneAt, doneBy }) => {
        return `${JSON.stringify({ name, text, place, createdAt, doneAt, doneBy })}\n`;
      }),
    ),
  );
  const reports = new ReportStore(db);
  file(FILES.issues, () =>
    counted(
      'issues',
      (function* () {
        for (const { id: issue, reportId, number, note, by, createdAt } of reports.issues(id).reverse())
          yield `${JSON.stringify({ report: reportId, number, note, by, createdAt, content: reports.content(issue) })}\n`;
      })(),
    ),
  );
  for (const [csv, text] of tables(document, edits)) file(csv, () => [`${text}\n`]);
  file(FILES.end, () => [`${JSON.stringify(held)}\n`]);
  zip.end();
  for await (const piece of out) yield piece as Buffer;
}

/** The name that a project's file is given. @returns letters, digits and dashes only. */
export const projectFileName = (name: string): string =>
  `${
    name
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'project'
  }.veldtwind.zip`;
