import { randomUUID } from 'node:crypto';
import {
  checkReferences,
  documentFromParts,
  freshBrief,
  kindOf,
  kindsIn,
  parseChanges,
  partsOfDocument,
  readKey,
  readStored,
  SCHEMA_VERSION,
  type PartChange,
  type PartKindName,
  type PartValue,
  type ProjectDocument,
  type SectionPart,
} from '@veldtwind/core/project';
import type { Applied, Catching, ProjectRow, ProjectState } from '@veldtwind/contract';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { Db } from './open';
import { isSealed, PartStore, readRow, type PartRow, type UnreadPart } from './parts';
import { writing } from './writing';

/** The project moved on since the client last saw it. */
export class StaleVersion extends Error {
  constructor(readonly current: Catching) {
    super(`The project is at version ${current.version} by now.`);
  }
}

export class NotFound extends Error {
  constructor(what: string) {
    super(`There is no ${what}.`);
  }
}

/** The step that is asked for is somebody else's, or has one of somebody else's over it. */
export class AnothersStep extends Error {
  constructor(
    readonly label: string,
    readonly by: string,
  ) {
    super(`“${label}” is a step of ${by || 'somebody else'}.`);
  }
}

/** Who does something, where the server knows people by name. */
export interface By {
  id: string;
  name: string;
}
/** A step of the history. */
interface Step {
  id: number;
  label: string;
  byName: string | null;
  person: string | null;
}
const STEP = 'SELECT id, label, by_name AS byName, person FROM edit WHERE project_id = ?';

/** A list of points as it is stored. */
const POINTS = /"points":\[\[([-\d.,eE+[\]]*)\]\]/;
/** Parts that a client may be told of at once to catch up; beyond, it opens the project anew. */
const MOST_TO_CATCH_UP = 2000;

/** Revisions back to which a client can catch up by parts. */
const REVISIONS_KEPT = 2000;

/** Kinds whose stored text can be handed on as it is. */
const asText = (kind: PartKindName) => kindOf(kind).place.at === 'record' && kindsIn(kind).length === 0;

/** Projects, their parts, and the edits made on them. Every method is one transaction. */
export class ProjectStore {
  private readonly q;
  readonly parts: PartStore;

  constructor(private readonly db: Db) {
    this.parts = new PartStore(db);
    this.q = {
      list: db.prepare(
        'SELECT id, name, version, created_at AS createdAt, updated_at AS updatedAt FROM project WHERE importing = 0 ORDER BY updated_at DESC, id',
      ),
      get: db.prepare(
        'SELECT id, name, version, created_at AS createdAt, updated_at AS updatedAt FROM project WHERE id = ? AND importing = 0',
      ),
      insert: db.prepare(
        'INSERT INTO project (id, name, schema_version, version, created_at, updated_at) VALUES (?, ?, ?, 0, ?, ?)',
      ),
      rename: db.prepare('UPDATE project SET name = ?, updated_at = ? WHERE id = ?'),
      remove: db.prepare('DELETE FROM project WHERE id = ?'),
      bump: db.prepare('UPDATE project SET version = version + 1, updated_at = ? WHERE id = ?'),
      addEdit: db.prepare(
        "INSERT INTO edit (project_id, client_id, label, state, version, created_at, person, by_name) VALUES (?, ?, ?, 'done', ?, ?, ?, ?)",
      ),
      addChange: db.prepare(
        'INSERT INTO edit_change (edit_id, part, before_json, after_json, before_version, after_version) VALUES (?, ?, ?, ?, ?, ?)',
      ),
      addRevision: db.prepare('INSERT OR IGNORE INTO revision_part (project_id, version, part) VALUES (?, ?, ?)'),
      dropRevisions: db.prepare('DELETE FROM revision_part WHERE project_id = ? AND version <= ?'),
      // What somebody else has taken back stays to be done again, unless its parts are changed.
      dropUndone: db.prepare(
        `UPDATE edit SET state = 'dropped' WHERE project_id = @id AND state = 'undone' AND (person IS @person
           OR EXISTS (SELECT 1 FROM edit_change c WHERE c.edit_id = edit.id AND c.part IN (SELECT value FROM json_each(@parts))))`,
      ),
      lastDone: db.prepare(`${STEP} AND state = 'done' ORDER BY id DESC LIMIT 1`),
      // What came from a file, or from before people had names, is anybody's own.
      lastOwn: db.prepare(`${STEP} AND state = 'done' AND (person IS ? OR person IS NULL) ORDER BY id DESC LIMIT 1`),
      firstUndone: db.prepare(`${STEP} AND state = 'undone' ORDER BY id LIMIT 1`),
      firstOwnUndone: db.prepare(
        `${STEP} AND state = 'undone' AND (person IS ? OR person IS NULL) ORDER BY id LIMIT 1`,
      ),
      over: db.prepare(
        `SELECT o.id, o.label, o.by_name AS byName, o.person FROM edit o WHERE o.project_id = @id AND o.id > @mine AND o.state = 'done' AND o.person IS NOT @person AND o.person IS NOT NULL
           AND EXISTS (SELECT 1 FROM edit_change c JOIN edit_change mine ON mine.part = c.part WHERE c.edit_id = o.id AND mine.edit_id = @mine)
         ORDER BY o.id DESC LIMIT 1`,
      ),
      setState: db.prepare('UPDATE edit SET state = ? WHERE id = ?'),
      changes: db.prepare(
        `SELECT part, before_json AS before, after_json AS after, before_version AS beforeVersion, after_version AS afterVersion
         FROM edit_change WHERE edit_id = ?`,
      ),
      byClient: db.prepare('SELECT id, version, label FROM edit WHERE project_id = ? AND client_id = ?'),
      revisionsSince: db
        .prepare('SELECT count(DISTINCT version) FROM revision_part WHERE project_id = ? AND version > ?')
        .pluck(),
      partsSince: db
        .prepare('SELECT DISTINCT part FROM revision_part WHERE project_id = ? AND version > ? ORDER BY part')
        .pluck(),
      history: db.prepare(
        'SELECT id, label, state, version, created_at AS createdAt, by_name AS by FROM edit WHERE project_id = ? ORDER BY id DESC LIMIT ?',
      ),
    };
  }

  list(): ProjectRow[] {
    return this.q.list.all() as ProjectRow[];
  }

  /** @throws NotFound */
  row(id: string): ProjectRow {
    const row = this.q.get.get(id) as ProjectRow | undefined;
    if (!row) throw new NotFound('such project');
    return row;
  }

  /** Labels of the steps that undo and redo would take: one's own, else the last of anybody. */
  private steps(id: string, by: By | null): { undo: string | null; redo: string | null } {
    const own = by?.id ?? null;
    const done = (this.q.lastOwn.get(id, own) ?? this.q.lastDone.get(id)) as Step | undefined;
    const undone = (this.q.firstOwnUndone.get(id, own) ?? this.q.firstUndone.get(id)) as Step | undefined;
    return { undo: done?.label ?? null, redo: undone?.label ?? null };
  }

  /** Reads parts; what is old is brought up and written back, what cannot be read is told. */
  private read(id: string, rows: Iterable<PartRow>): { parts: Map<string, PartValue>; unread: UnreadPart[] } {
    const parts = new Map<string, PartValue>();
    const unread: UnreadPart[] = [];
    for (const row of [...rows]) {
      const read = readRow(row);
      if (!read.ok) {
        unread.push({ key: row.key, why: read.why, message: read.message });
        continue;
      }
      if (read.migrated) this.parts.write(id, row.key, read.value);
      parts.set(row.key, read.value);
    }
    // A project without a brief cannot be shown at all: a fresh one stands in, and the finding says so.
    if (!parts.has('brief')) parts.set('brief', freshBrief());
    return { parts, unread };
  }

  /** @throws NotFound */
  state(id: string, by: By | null = null): ProjectState {
    return this.db.transaction((): ProjectState => {
      const { parts, unread } = this.read(id, this.parts.rows(id));
      return { ...this.row(id), ...this.steps(id, by), unread, document: documentFromParts(parts) };
    })();
  }

  /** The document without its sections and files: what is quick to read, however large the library is. @throws NotFound */
  documentWithoutLibrary(id: string): ProjectDocument {
    this.row(id);
    return this.db.transaction(() => {
      const rows = [...this.parts.rows(id)].filter((row) => readKey(row.key).kind !== 'section');
      return documentFromParts(this.read(id, rows).parts);
    })();
  }

  /** The document with the texts of its files. @throws NotFound */
  wholeDocument(id: string): ProjectDocument {
    this.row(id);
    return this.db.transaction(() => documentFromParts(this.read(id, this.parts.everything(id)).parts))();
  }

  /**
   * The reply to a client that opens a project, put together from the stored text of its parts: a large library is not parsed for it.
   * @param packed gives lists of points as text (what stands between the outermost brackets), which a client takes apart when it needs them.
   */
  stateText(id: string, packed = false, by: By | null = null): string {
    return this.db.transaction(() => {
      const head = { ...this.row(id), ...this.steps(id, by) };
      const texts = new Map<string, string[]>();
      const rest: PartRow[] = [];
      for (const row of this.parts.rows(id)) {
        const { kind, id: part } = readKey(row.key);
        if (!asText(kind) || !isSealed(row)) rest.push(row);
        else {
          const text = packed && kind === 'section' ? row.json.replace(POINTS, '"points":"$1"') : row.json;
          const list = texts.get(kind) ?? [];
          if (list.push(`${JSON.stringify(part)}:${text}`) === 1) texts.set(kind, list);
        }
      }
      const { parts, unread } = this.read(id, rest);
      const document = documentFromParts(parts) as unknown as Record<string, unknown>;
      const fields = Object.entries(document).map(([field, value]) => {
        let text = JSON.stringify(value);
        for (const [kind, list] of texts) {
          if (kindOf(kind as PartKindName).place.field !== field) continue;
          text = text === '{}' ? `{${list.join(',')}}` : `${text.slice(0, -1)},${list.join(',')}}`;
        }
        return `${JSON.stringify(field)}:${text}`;
      });
      return `${JSON.stringify({ ...head, unread }).slice(0, -1)},"document":{${fields.join(',')}}}`;
    })();
  }

  /** One part by its key, as JSON. A candidate comes with all that belongs to it. @throws NotFound, InvalidInput where it cannot be read. */
  partText(id: string, key: string): string {
    this.row(id);
    const row = this.parts.row(id, key);
    if (!row) throw new NotFound('such part in this project');
    const { kind, id: part } = readKey(key);
    const rows = [row];
    for (const [name] of kindsIn(kind))
      for (const child of this.parts.keysOf(id, name, part!)) rows.push(this.parts.row(id, child)!);
    const { parts, unread } = this.db.transaction(() => this.read(id, rows))();
    if (unread.length > 0)
      throw new InvalidInput(`part-${unread[0].why}`, unread[0].message, 'It is kept as it is.', unread[0].key);
    if (rows.length === 1 && kindsIn(kind).length === 0) return JSON.stringify(parts.get(key));
    const document = documentFromParts(parts) as unknown as Record<string, Record<string, unknown>>;
    return JSON.stringify(document[kindOf(kind).place.field][part!]);
  }

  /** The sections that a candidate's stations use, by way of mixes too, by id. @throws NotFound where there is no such candidate. */
  sectionsOf(id: string, candidate: string): Record<string, SectionPart> {
    const first = `candidate:${candidate}`;
    if (!this.parts.row(id, first)) throw new NotFound('such candidate in this project');
    const found = new Map<string, SectionPart>();
    const seen = new Set<string>();
    const waiting = this.parts.keysOf(id, 'surface', candidate);
    for (let key = waiting.pop(); key !== undefined; key = waiting.pop()) {
      if (seen.has(key)) continue;
      seen.add(key);
      const row = this.parts.row(id, key);
      const read = row ? readRow(row) : undefined;
      if (!read?.ok) continue;
      const { kind, id: part } = readKey(key);
      if (kind === 'section') found.set(part!, read.value as SectionPart);
      waiting.push(
        ...kindOf(kind)
          .references(read.value)
          .map((r) => r.key),
      );
    }
    return Object.fromEntries(found);
  }

  /** @throws InvalidInput where something in the document refers to what is not there, or comes back to itself. */
  create(name: string, document: ProjectDocument): ProjectState {
    const id = randomUUID();
    const now = new Date().toISOString();
    writing(this.db, () => {
      this.q.insert.run(id, name, SCHEMA_VERSION, now, now);
      const parts = partsOfDocument(document);
      for (const [key, value] of parts) this.parts.write(id, key, value);
      checkReferences(this.parts.index(id), [...parts.keys()]);
    });
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
   * What brings a client from a version to the current one: the values of the parts that changed since. Parts beside the document are left out.
   * Where that is not known any more, or is too much, the whole state. @throws NotFound
   */
  since(id: string, version: number, by: By | null = null): Catching {
    return this.db.transaction((): Catching => {
      const row = this.row(id);
      const head = { ...row, ...this.steps(id, by), since: version };
      const known = this.q.revisionsSince.get(id, version) as number;
      const keys = this.q.partsSince.all(id, version) as string[];
      if (version > row.version || known < row.version - version || keys.length > MOST_TO_CATCH_UP)
        return { ...head, document: this.state(id).document };
      return { ...head, changes: this.current(id, keys) };
    })();
  }

  /** Values of parts as they are now, those beside the document left out. */
  private current(id: string, keys: readonly string[]): PartChange[] {
    return keys.flatMap((part): PartChange[] => {
      if (kindOf(readKey(part).kind).place.at === 'beside') return [];
      const row = this.parts.row(id, part);
      const read = row && readRow(row);
      return [{ part, value: read?.ok ? read.value : null }];
    });
  }

  /**
   * Applies one edit: validated, whole or not at all. One with a client id that was applied before is not applied again; the reply then leads to the
   * project as it is now.
   * @throws NotFound, StaleVersion, InvalidInput.
   */
  edit(
    id: string,
    baseVersion: number,
    label: string,
    given: { part: string; value?: unknown }[],
    clientId?: string,
    by: By | null = null,
  ): Applied {
    return writing(this.db, (): Applied => {
      const row = this.row(id);
      const known = clientId ? (this.q.byClient.get(id, clientId) as { label: string } | undefined) : undefined;
      if (known) {
        const caught = this.since(id, baseVersion, by);
        return {
          version: row.version,
          base: baseVersion,
          label: known.label,
          changes: caught.changes ?? null,
          repeated: true,
          ...this.steps(id, by),
        };
      }
      if (row.version !== baseVersion) throw new StaleVersion(this.since(id, baseVersion, by));
      const changes = parseChanges(given, (kind, owner) => this.parts.keysOf(id, kind, owner));
      const now = new Date().toISOString();
      this.q.dropUndone.run({ id, person: by?.id ?? null, parts: JSON.stringify(changes.map((c) => c.part)) });
      const editId = this.q.addEdit.run(
        id,
        clientId ?? null,
        label,
        row.version + 1,
        now,
        by?.id ?? null,
        by?.name ?? null,
      ).lastInsertRowid;
      this.apply(id, Number(editId), row.version + 1, now, changes, true);
      return this.applied(id, row.version + 1, label, changes, by);
    });
  }

  private applied(id: string, version: number, label: string, changes: readonly PartChange[], by: By | null): Applied {
    return {
      version,
      base: version - 1,
      label,
      changes: changes.filter((c) => kindOf(readKey(c.part).kind).place.at !== 'beside'),
      ...this.steps(id, by),
    };
  }

  /** Writes changes, records them where they are new, and checks that nothing refers to what is gone. */
  private apply(
    id: string,
    editId: number,
    version: number,
    now: string,
    changes: readonly PartChange[],
    record: boolean,
  ): void {
    for (const { part, value } of changes) {
      const before = this.parts.row(id, part);
      const known = kindOf(readKey(part).kind).version;
      if (before && before.version > known)
        throw new InvalidInput(
          'part-newer',
          `${part} was written by a newer Veldtwind (version ${before.version}) and is kept as it is.`,
          'Change it with that version.',
          part,
        );
      let after: { json: string; version: number } | undefined;
      if (value === null) this.parts.remove(id, part);
      else after = this.parts.write(id, part, value as PartValue);
      if (record)
        this.q.addChange.run(
          editId,
          part,
          before?.json ?? null,
          after?.json ?? null,
          before?.version ?? known,
          after?.version ?? known,
        );
    }
    checkReferences(
      this.parts.index(id),
      changes.map((c) => c.part),
    );
    this.q.bump.run(now, id);
    for (const { part } of changes) this.q.addRevision.run(id, version, part);
    if (version % REVISIONS_KEPT === 0) this.q.dropRevisions.run(id, version - REVISIONS_KEPT);
  }

  /** One side of a recorded edit, brought up to this version. */
  private side(id: string, editId: number, side: 'before' | 'after'): PartChange[] {
    const rows = this.q.changes.all(editId) as {
      part: string;
      before: string | null;
      after: string | null;
      beforeVersion: number;
      afterVersion: number;
    }[];
    const given = rows.map((r) => {
      const json = r[side];
      if (json === null) return { part: r.part, value: null };
      const raw = JSON.parse(json) as Record<string, unknown>;
      const version = r[`${side}Version`];
      // Candidates of version 1 held all that belongs to them: they are taken apart with the others below.
      if (version < 2 && r.part.startsWith('candidate:')) return { part: r.part, value: raw };
      const read = readStored(r.part, version, raw);
      if (!read.ok) throw new InvalidInput(`part-${read.why}`, read.message, 'This step cannot be taken.', r.part);
      return { part: r.part, value: read.value };
    });
    return parseChanges(given, (kind, owner) => this.parts.keysOf(id, kind, owner));
  }

  /**
   * Takes back one's own last edit, or does one's own last one taken back again. Edits of others stay where they touch other parts.
   * @param anothers says that the last step of anybody is meant.
   * @returns null when there is nothing to do. @throws NotFound, StaleVersion; AnothersStep where there is none of one's own, or another's lies over it.
   */
  step(id: string, baseVersion: number, way: 'undo' | 'redo', by: By | null = null, anothers = false): Applied | null {
    return writing(this.db, (): Applied | null => {
      const row = this.row(id);
      if (row.version !== baseVersion) throw new StaleVersion(this.since(id, baseVersion, by));
      const edit = this.stepOf(id, way, by, anothers);
      if (!edit) return null;
      const changes = this.side(id, edit.id, way === 'undo' ? 'before' : 'after');
      this.apply(id, edit.id, row.version + 1, new Date().toISOString(), changes, false);
      this.q.setState.run(way === 'undo' ? 'undone' : 'done', edit.id);
      return this.applied(id, row.version + 1, edit.label, changes, by);
    });
  }

  private stepOf(id: string, way: 'undo' | 'redo', by: By | null, anothers: boolean): Step | undefined {
    const [any, own] = way === 'undo' ? [this.q.lastDone, this.q.lastOwn] : [this.q.firstUndone, this.q.firstOwnUndone];
    const last = any.get(id) as Step | undefined;
    if (!by || anothers || !last) return last;
    const mine = own.get(id, by.id) as Step | undefined;
    if (!mine) throw new AnothersStep(last.label, last.byName ?? '');
    const over = this.q.over.get({ id, mine: mine.id, person: by.id }) as Step | undefined;
    if (over) throw new AnothersStep(over.label, over.byName ?? '');
    return mine;
  }
}
