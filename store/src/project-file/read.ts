import { randomUUID } from 'node:crypto';
import { isAnalysis, keyOfResult, versionOf } from '@veldtwind/core/analysis';
import { parseJson } from '@veldtwind/core/limits';
import { InvalidInput } from '@veldtwind/core/numerics';
import { checkReferences, readDocument, readKey, readStored } from '@veldtwind/core/project';
import { canonicalJson } from '@veldtwind/core/results';
import { z } from 'zod';
import { readArchive } from '../archive';
import type { Db } from '../open';
import { readCurve } from '../curve-file';
import { PartStore } from '../parts';
import { RunStore } from '../runs';
import { ProjectStore } from '../projects';
import { ReportStore } from '../reports/issues';
import { ResultStore } from '../results';
import { PeopleStore } from '../people';
import { MOST_VERSIONS, VersionStore } from '../versions';
import {
  commentLine,
  editLine,
  endSchema,
  FILES,
  headSchema,
  issueLine,
  partLine,
  resultLine,
  versionLine,
  type End,
  type Head,
} from './format';
import { writing } from '../writing';

/** Things left out that are told one by one. */
const MOST_TOLD = 50;

export interface ImportedProject {
  id: string;
  name: string;
  parts: number;
  edits: number;
  results: number;
  /** What was kept unread or left out, with the reason. */
  left: string[];
}

function refuse(code: string, message: string, hint: string): never {
  throw new InvalidInput(code, message, hint);
}

/** Reads the lines of a project file into a project that nobody sees until it is whole. */
class Import {
  readonly id = randomUUID();
  readonly left: string[] = [];
  private head?: Head;
  private end?: End;
  private readonly lines = { parts: 0, edits: 0, results: 0, curves: 0, versions: 0, comments: 0, issues: 0 };
  private run?: string;
  private readonly runs: RunStore;
  private readonly versions: VersionStore;
  private readonly people: PeopleStore;
  private readonly reports: ReportStore;
  private readonly keys: string[] = [];
  private readonly clients = new Set<string>();
  private versionsRead = 0;
  private edits = 0;
  private kept = 0;
  private results = 0;
  private readonly parts: PartStore;
  private readonly store: ResultStore;
  private readonly q;

  constructor(private readonly db: Db) {
    this.parts = new PartStore(db);
    this.store = new ResultStore(db);
    this.runs = new RunStore(db);
    this.people = new PeopleStore(db);
    this.reports = new ReportStore(db);
    this.versions = new VersionStore(db, new ProjectStore(db));
    this.q = {
      begin: db.prepare(
        "INSERT INTO project (id, name, schema_version, version, created_at, updated_at, importing) VALUES (?, '', 1, 0, '', '', 1)",
      ),
      end: db.prepare(
        'UPDATE project SET name = ?, version = ?, created_at = ?, updated_at = ?, importing = 0 WHERE id = ?',
      ),
      raw: db.prepare('INSERT OR REPLACE INTO part (project_id, key, json, version, seal) VALUES (?, ?, ?, ?, 0)'),
      edit: db.prepare(
        'INSERT INTO edit (project_id, client_id, label, state, version, created_at, by_name) VALUES (?, ?, ?, ?, ?, ?, ?)',
      ),
      change: db.prepare(
        'INSERT OR IGNORE INTO edit_change (edit_id, part, before_json, after_json, before_version, after_version) VALUES (?, ?, ?, ?, ?, ?)',
      ),
    };
    this.q.begin.run(this.id);
  }

  private tell(what: string): void {
    if (this.left.length < MOST_TOLD) this.left.push(what);
    else if (this.left.length === MOST_TOLD) this.left.push('and more');
  }

  /** Takes one file of the archive. */
  taker(name: string): ((bytes: Uint8Array) => unknown) | null {
    switch (name) {
      case FILES.head:
        return (b) => (this.head = this.whole(FILES.head, headSchema, b));
      case FILES.end:
        return (b) => (this.end = this.whole(FILES.end, endSchema, b));
      case FILES.parts:
        return this.each('parts', partLine, (v) => this.takePart(v));
      case FILES.edits:
        return this.each('edits', editLine, (v) => this.takeEdit(v));
      case FILES.results:
        return this.each('results', resultLine, (v) => this.takeResult(v));
      case FILES.versions:
        return this.each('versions', versionLine, (v) => this.takeVersion(v));
      case FILES.comments:
        return this.each('comments', commentLine, (v) => this.people.readComment(this.id, v));
      case FILES.issues:
        return this.each('issues', issueLine, ({ report, content, ...issue }) =>
          this.reports.put({ projectId: this.id, reportId: report, ...issue }, content),
        );
      case FILES.curves:
        return (b) => this.takeCurve(b);
      default:
        return null;
    }
  }

  private each<T>(what: keyof End, schema: z.ZodType<T>, take: (value: T) => void): (bytes: Uint8Array) => void {
    return (bytes) => {
      this.lines[what]++;
      try {
        take(schema.parse(parseJson(Buffer.from(bytes).toString('utf8'), 'a line')));
      } catch (error) {
        const { code } = error as { code?: string };
        if (code?.startsWith('SQLITE') && !code.startsWith('SQLITE_CONSTRAINT')) throw error;
        const issue = error instanceof z.ZodError ? error.issues[0] : undefined;
        this.tell(issue ? `${issue.path.join('.') || 'a line'}: ${issue.message}` : (error as Error).message);
      }
    };
  }

  /** A file that is one value. */
  private whole<T>(name: string, schema: z.ZodType<T>, bytes: Uint8Array): T {
    const given = parseJson(Buffer.from(bytes).toString('utf8'), name, 'Is the file complete?');
    const parsed = schema.safeParse(given);
    if (parsed.success) return parsed.data;
    const issue = parsed.error.issues[0];
    return refuse(
      'project-file',
      `${name}: ${issue.path.join('.') || 'it'} ${issue.message}.`,
      'Is it a project file?',
    );
  }

  private takePart({ key, version, value, text }: z.infer<typeof partLine>): void {
    if (text !== undefined) {
      this.q.raw.run(this.id, key, text, version);
      this.tell(`${key}: kept as it is; its text is no JSON.`);
    } else {
      const read = readStored(key, version, value);
      if (read.ok) this.parts.write(this.id, key, read.value);
      else {
        this.q.raw.run(this.id, key, JSON.stringify(value), version);
        this.tell(`${key}: kept as it is. ${read.message}`);
        this.kept++;
        return;
      }
    }
    this.keys.push(key);
  }

  private takeEdit(e: z.infer<typeof editLine>): void {
    // Two edits of one id: the second one is an edit all the same, and nobody asks for it again by its id.
    const again = e.clientId !== null && this.clients.has(e.clientId);
    if (e.clientId !== null) this.clients.add(e.clientId);
    if (again) this.tell(`“${e.label}”: its id is that of an edit before; taken without it.`);
    const edit = this.q.edit.run(
      this.id,
      again ? null : e.clientId,
      e.label,
      e.state,
      e.version,
      e.createdAt,
      e.by,
    ).lastInsertRowid;
    const text = (v: unknown) => (v === null || v === undefined ? null : JSON.stringify(v));
    for (const c of e.changes)
      this.q.change.run(edit, c.part, text(c.before), text(c.after), c.beforeVersion, c.afterVersion);
    this.edits++;
  }

  private takeCurve(bytes: Uint8Array): void {
    this.lines.curves++;
    try {
      const known = new Set(this.keys.flatMap((k) => (k.startsWith('section:') ? [k.slice(8)] : [])));
      const curve = readCurve(bytes, known, (what) => this.tell(what));
      this.run ??= this.runs.beginImport(this.id);
      this.runs.importCurve(this.run, curve);
    } catch (error) {
      if ((error as { code?: string }).code?.startsWith('SQLITE')) throw error;
      this.tell((error as Error).message);
    }
  }

  private takeVersion({ name, version, createdAt, by, document }: z.infer<typeof versionLine>): void {
    if (++this.versionsRead > MOST_VERSIONS)
      return this.tell(`“${name}”: left out; a project keeps ${MOST_VERSIONS} versions.`);
    this.versions.put(this.id, { name, version, createdAt, by }, readDocument(document));
  }

  /** A result is taken where its key is that of its input: no other question can be answered by it. */
  private takeResult(r: z.infer<typeof resultLine>): void {
    if (!isAnalysis(r.kind) || versionOf(r.kind) !== r.methodVersion) return;
    if (keyOfResult(r.kind, r.input as never) !== r.key)
      return this.tell(`result ${r.key}: its key is not that of its input.`);
    this.store.put(r.key, r.kind, r.methodVersion, canonicalJson(r.input), JSON.stringify(r.output));
    this.results++;
  }

  /** A part of a candidate that the file does not hold would be seen by nobody. @throws InvalidInput `owner-missing`. */
  private checkOwners(): void {
    const there = new Set(this.keys);
    for (const key of this.keys) {
      const { owner, kind } = readKey(key);
      if (owner !== undefined && !there.has(`candidate:${owner}`))
        refuse(
          'owner-missing',
          `The file has a ${kind} (${key}) of a candidate that it does not hold.`,
          'Is it complete? Export it again.',
        );
    }
  }

  /** Shows the project. @throws InvalidInput where it is not whole. */
  finish(): ImportedProject {
    const { head, end, lines } = this;
    if (!head) return refuse('project-file', 'The file holds no project.json.', 'Is it a project file, and complete?');
    if (!end || (Object.keys(lines) as (keyof End)[]).some((k) => lines[k] !== end[k]))
      return refuse('project-file', 'The file is not complete: its end is missing.', 'Export it again.');
    if (this.keys.length === 0)
      return refuse('project-file', 'The file holds no part of a project.', 'Is it complete?');
    return writing(this.db, (): ImportedProject => {
      // What refers to a part that is kept unread is no fault of the file.
      if (this.kept === 0) this.checkOwners();
      if (this.kept === 0) checkReferences(this.parts.index(this.id), this.keys);
      if (this.run) this.runs.endImport(this.run, 'Read with the project');
      this.q.end.run(head.name, head.version, head.createdAt, new Date().toISOString(), this.id);
      const { id, edits, results, left } = this;
      return { id, name: head.name, parts: this.keys.length + this.kept, edits, results, left };
    });
  }
}

/**
 * Reads a project file in small transactions, and shows the project when it is whole; else nothing of it stays.
 * @param path of the file. @throws InvalidInput `project-file…` with what is wrong with it.
 */
export async function readProjectFile(db: Db, path: string): Promise<ImportedProject> {
  const work = new Import(db);
  try {
    await readArchive(db, path, 'project-file', (name) => work.taker(name));
    return work.finish();
  } catch (error) {
    db.prepare('DELETE FROM project WHERE id = ?').run(work.id);
    throw error;
  }
}

/** Takes away what an import left behind that was ended in its midst. */
export const forgetHalfImports = (db: Db): void => void db.prepare('DELETE FROM project WHERE importing = 1').run();
