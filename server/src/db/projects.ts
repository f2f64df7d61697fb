import { randomUUID } from 'node:crypto';
import {
  checkReferences,
  documentFromParts,
  parsePart,
  partsOfDocument,
  SCHEMA_VERSION,
  type CandidatePart,
  type DocumentIndex,
  type PartChange,
  type PartValue,
  type ProjectDocument,
  type SectionPart,
} from '@veldtwind/core/project';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { Db } from './open';

export interface ProjectRow {
  id: string;
  name: string;
  version: number;
  createdAt: string;
  updatedAt: string;
}

export interface ProjectState extends ProjectRow {
  document: ProjectDocument;
  undo: string | null;
  redo: string | null;
}

/** The project moved on since the client last saw it. */
export class StaleVersion extends Error {
  constructor(readonly current: ProjectState) {
    super(`The project is at version ${current.version} by now.`);
  }
}

export class NotFound extends Error {
  constructor(what: string) {
    super(`There is no ${what}.`);
  }
}

export interface Applied {
  version: number;
  changes: PartChange[];
  label: string;
  undo: string | null;
  redo: string | null;
}

/** A list of points as it is stored. */
const POINTS = /"points":\[\[([-\d.,eE+[\]]*)\]\]/;

/** Projects, their parts, and the edits made on them. Every method is one transaction. */
export class ProjectStore {
  private readonly q;

  constructor(private readonly db: Db) {
    this.q = {
      list: db.prepare(
        'SELECT id, name, version, created_at AS createdAt, updated_at AS updatedAt FROM project ORDER BY updated_at DESC, id',
      ),
      get: db.prepare(
        'SELECT id, name, version, created_at AS createdAt, updated_at AS updatedAt FROM project WHERE id = ?',
      ),
      insert: db.prepare(
        'INSERT INTO project (id, name, schema_version, version, created_at, updated_at) VALUES (?, ?, ?, 0, ?, ?)',
      ),
      rename: db.prepare('UPDATE project SET name = ?, updated_at = ? WHERE id = ?'),
      remove: db.prepare('DELETE FROM project WHERE id = ?'),
      bump: db.prepare('UPDATE project SET version = version + 1, updated_at = ? WHERE id = ?'),
      parts: db.prepare("SELECT key, json FROM part WHERE project_id = ? AND key NOT LIKE 'original:%'"),
      sectionKeys: db.prepare("SELECT key FROM part WHERE project_id = ? AND key LIKE 'section:%'").pluck(),
      // Candidates, and the sections that are made from others: all that references can break in.
      referring: db.prepare(
        "SELECT key, json FROM part WHERE project_id = ? AND (key LIKE 'candidate:%' OR (key LIKE 'section:%' AND json LIKE '%\"kind\":\"mix\"%'))",
      ),
      putPart: db.prepare(
        'INSERT INTO part (project_id, key, json) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET json = excluded.json',
      ),
      dropPart: db.prepare('DELETE FROM part WHERE project_id = ? AND key = ?'),
      part: db.prepare('SELECT json FROM part WHERE project_id = ? AND key = ?'),
      addEdit: db.prepare(
        "INSERT INTO edit (project_id, client_id, label, state, version, created_at) VALUES (?, ?, ?, 'done', ?, ?)",
      ),
      addChange: db.prepare('INSERT INTO edit_change (edit_id, part, before_json, after_json) VALUES (?, ?, ?, ?)'),
      dropUndone: db.prepare("UPDATE edit SET state = 'dropped' WHERE project_id = ? AND state = 'undone'"),
      lastDone: db.prepare(
        "SELECT id, label FROM edit WHERE project_id = ? AND state = 'done' ORDER BY id DESC LIMIT 1",
      ),
      firstUndone: db.prepare(
        "SELECT id, label FROM edit WHERE project_id = ? AND state = 'undone' ORDER BY id LIMIT 1",
      ),
      setState: db.prepare('UPDATE edit SET state = ? WHERE id = ?'),
      changes: db.prepare('SELECT part, before_json AS before, after_json AS after FROM edit_change WHERE edit_id = ?'),
      byClient: db.prepare('SELECT id, version, label FROM edit WHERE project_id = ? AND client_id = ?'),
      history: db.prepare(
        'SELECT id, label, state, version, created_at AS createdAt FROM edit WHERE project_id = ? ORDER BY id DESC LIMIT ?',
      ),
    };
  }

  list(): ProjectRow[] {
    return this.q.list.all() as ProjectRow[];
  }

  private row(id: string): ProjectRow {
    const row = this.q.get.get(id) as ProjectRow | undefined;
    if (!row) throw new NotFound('such project');
    return row;
  }

  private steps(id: string): { undo: string | null; redo: string | null } {
    const done = this.q.lastDone.get(id) as { label: string } | undefined;
    const undone = this.q.firstUndone.get(id) as { label: string } | undefined;
    return { undo: done?.label ?? null, redo: undone?.label ?? null };
  }

  private document(id: string): ProjectDocument {
    const rows = this.q.parts.all(id) as { key: string; json: string }[];
    return documentFromParts(new Map(rows.map((r) => [r.key, JSON.parse(r.json) as PartValue])));
  }

  /** @throws NotFound */
  state(id: string): ProjectState {
    return this.db.transaction(() => ({ ...this.row(id), document: this.document(id), ...this.steps(id) }))();
  }

  /**
   * The reply to a client that opens a project, put together from the stored text of its parts: a large library is not parsed for it.
   * @param packed gives lists of points as text (what stands between the outermost brackets), which a client takes apart when it needs them.
   */
  stateText(id: string, packed = false): string {
    return this.db.transaction(() => {
      const head = { ...this.row(id), ...this.steps(id) };
      const kinds: Record<string, string[]> = { brief: [], section: [], candidate: [] };
      for (const { key, json } of this.q.parts.iterate(id) as Iterable<{ key: string; json: string }>) {
        const [kind, part] = key.split(':');
        const text = packed && kind === 'section' ? json.replace(POINTS, '"points":"$1"') : json;
        kinds[kind].push(part === undefined ? text : `${JSON.stringify(part)}:${text}`);
      }
      const document = `{"schemaVersion":${SCHEMA_VERSION},"brief":${kinds.brief[0]},"sections":{${kinds.section.join(',')}},"candidates":{${kinds.candidate.join(',')}}}`;
      return `${JSON.stringify(head).slice(0, -1)},"document":${document}}`;
    })();
  }

  /** One part by its key. @throws NotFound */
  partText(id: string, key: string): string {
    this.row(id);
    const part = this.q.part.get(id, key) as { json: string } | undefined;
    if (!part) throw new NotFound('such part in this project');
    return part.json;
  }

  /** What the check of references needs, as it would be after some changes. */
  private indexAfter(id: string, changes: readonly PartChange[]): DocumentIndex {
    const sections = new Set(this.q.sectionKeys.all(id) as string[]);
    const referring = new Map<string, PartValue>();
    for (const { key, json } of this.q.referring.all(id) as { key: string; json: string }[])
      referring.set(key, JSON.parse(json) as PartValue);
    for (const { part, value } of changes) {
      if (part.startsWith('section:')) {
        if (value === null) sections.delete(part);
        else sections.add(part);
      }
      if (part === 'brief') {
        if (value === null) throw new InvalidInput('no-brief', 'The project has no brief.');
      } else if (value === null) referring.delete(part);
      else if (!part.startsWith('original:')) referring.set(part, value);
    }
    const candidates: Record<string, CandidatePart> = {};
    const mixed: Record<string, SectionPart> = {};
    for (const [key, value] of referring) {
      const [kind, part] = key.split(':');
      if (kind === 'candidate') candidates[part] = value as CandidatePart;
      else mixed[part] = value as SectionPart;
    }
    return { candidates, mixed, hasSection: (part) => sections.has(`section:${part}`) };
  }

  create(name: string, document: ProjectDocument): ProjectState {
    const id = randomUUID();
    const now = new Date().toISOString();
    this.db.transaction(() => {
      this.q.insert.run(id, name, SCHEMA_VERSION, now, now);
      for (const [key, value] of partsOfDocument(document))
        this.q.putPart.run(id, key, JSON.stringify(parsePart(key, value)));
    })();
    return this.state(id);
  }

  rename(id: string, name: string): ProjectRow {
    this.row(id);
    this.q.rename.run(name, new Date().toISOString(), id);
    return this.row(id);
  }

  remove(id: string): void {
    if (this.q.remove.run(id).changes === 0) throw new NotFound('such project');
  }

  history(id: string, most: number): unknown[] {
    this.row(id);
    return this.q.history.all(id, most);
  }

  /**
   * Applies one edit: validated, whole or not at all. An edit with a client id that was applied before is answered as it was then.
   * @throws NotFound, StaleVersion, InvalidInput.
   */
  edit(
    id: string,
    baseVersion: number,
    label: string,
    changes: { part: string; value?: unknown }[],
    clientId?: string,
  ): Applied {
    return this.db.transaction((): Applied => {
      const row = this.row(id);
      const known = clientId
        ? (this.q.byClient.get(id, clientId) as { id: number; version: number; label: string } | undefined)
        : undefined;
      if (known) {
        return {
          version: known.version,
          label: known.label,
          changes: this.changesOf(known.id, 'after'),
          ...this.steps(id),
        };
      }
      if (row.version !== baseVersion) throw new StaleVersion(this.state(id));
      const parsed = changes.map(({ part, value }): PartChange => ({
        part,
        value: value == null ? null : parsePart(part, value),
      }));
      checkReferences(
        this.indexAfter(id, parsed),
        parsed.map((c) => c.part),
      );
      const now = new Date().toISOString();
      this.q.dropUndone.run(id);
      const editId = this.q.addEdit.run(id, clientId ?? null, label, row.version + 1, now).lastInsertRowid;
      for (const { part, value } of parsed) {
        const before = this.q.part.get(id, part) as { json: string } | undefined;
        const after = value === null ? null : JSON.stringify(value);
        this.q.addChange.run(editId, part, before?.json ?? null, after);
        this.write(id, part, after);
      }
      this.q.bump.run(now, id);
      return { version: row.version + 1, label, changes: parsed, ...this.steps(id) };
    })();
  }

  private write(id: string, part: string, json: string | null): void {
    if (json === null) this.q.dropPart.run(id, part);
    else this.q.putPart.run(id, part, json);
  }

  private changesOf(editId: number, side: 'before' | 'after'): PartChange[] {
    const rows = this.q.changes.all(editId) as { part: string; before: string | null; after: string | null }[];
    return rows.map((r) => ({ part: r.part, value: r[side] === null ? null : (JSON.parse(r[side]!) as PartValue) }));
  }

  /**
   * Takes back the last edit, or does the last one taken back again.
   * @returns null when there is nothing to do. @throws NotFound, StaleVersion.
   */
  step(id: string, baseVersion: number, way: 'undo' | 'redo'): Applied | null {
    return this.db.transaction((): Applied | null => {
      const row = this.row(id);
      if (row.version !== baseVersion) throw new StaleVersion(this.state(id));
      const edit = (way === 'undo' ? this.q.lastDone : this.q.firstUndone).get(id) as
        { id: number; label: string } | undefined;
      if (!edit) return null;
      const changes = this.changesOf(edit.id, way === 'undo' ? 'before' : 'after');
      for (const { part, value } of changes) this.write(id, part, value === null ? null : JSON.stringify(value));
      this.q.setState.run(way === 'undo' ? 'undone' : 'done', edit.id);
      this.q.bump.run(new Date().toISOString(), id);
      return { version: row.version + 1, label: edit.label, changes, ...this.steps(id) };
    })();
  }
}
