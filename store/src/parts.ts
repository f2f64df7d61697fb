import { crc32 } from 'node:zlib';
import {
  keyOf,
  kindOf,
  readKey,
  readStored,
  referencesOf,
  type PartIndex,
  type PartKindName,
  type PartValue,
  type StoredPart,
} from '@veldtwind/core/project';
import type { Db } from './open';

/** A row of the table of parts. */
export interface PartRow {
  key: string;
  json: string;
  version: number;
  seal: number;
}

/** A part that is stored and cannot be read: kept as it is, and said. */
export interface UnreadPart {
  key: string;
  why: 'newer' | 'damaged';
  message: string;
}

/** True where a row is of this version and as it was written: it was checked then. */
export const isSealed = (row: PartRow): boolean =>
  row.version === kindOf(readKey(row.key).kind).version && row.seal === crc32(row.json);

/** Reads a row: at once where it is sealed, else brought up to this version and checked. */
export function readRow(row: PartRow): StoredPart {
  let raw: unknown;
  try {
    raw = JSON.parse(row.json);
    if (isSealed(row)) return { ok: true, value: raw as PartValue, migrated: false };
  } catch {
    return { ok: false, why: 'damaged', message: `${row.key} cannot be read: its text is no JSON.` };
  }
  const read = readStored(row.key, row.version, raw);
  // Checked now, so that it need not be again.
  return read.ok ? { ...read, migrated: true } : read;
}

/** The parts of projects. No method opens a transaction; the caller does. */
export class PartStore {
  private readonly q;

  constructor(db: Db) {
    this.q = {
      all: db.prepare("SELECT key, json, version, seal FROM part WHERE project_id = ? AND key NOT LIKE 'original:%'"),
      everything: db.prepare('SELECT key, json, version, seal FROM part WHERE project_id = ? ORDER BY key'),
      one: db.prepare('SELECT key, json, version, seal FROM part WHERE project_id = ? AND key = ?'),
      has: db.prepare('SELECT 1 FROM part WHERE project_id = ? AND key = ?').pluck(),
      keys: db.prepare('SELECT key FROM part WHERE project_id = ? AND key >= ? AND key < ?').pluck(),
      put: db.prepare(
        `INSERT INTO part (project_id, key, json, version, seal) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT DO UPDATE SET json = excluded.json, version = excluded.version, seal = excluded.seal`,
      ),
      drop: db.prepare('DELETE FROM part WHERE project_id = ? AND key = ?'),
      forget: db.prepare('DELETE FROM part_reference WHERE project_id = ? AND part = ?'),
      refer: db.prepare('INSERT OR IGNORE INTO part_reference (project_id, part, refers_to) VALUES (?, ?, ?)'),
      users: db.prepare('SELECT part FROM part_reference WHERE project_id = ? AND refers_to = ?').pluck(),
    };
  }

  /** Every part of a project that is shown, row by row. */
  rows(project: string): Iterable<PartRow> {
    return this.q.all.iterate(project) as Iterable<PartRow>;
  }

  /** Every part of a project, the texts of files too. */
  everything(project: string): Iterable<PartRow> {
    return this.q.everything.iterate(project) as Iterable<PartRow>;
  }

  row(project: string, key: string): PartRow | undefined {
    return this.q.one.get(project, key) as PartRow | undefined;
  }

  /** Keys of the parts of a kind that belong to an owner. */
  keysOf(project: string, kind: PartKindName, owner: string): string[] {
    const from = keyOf(kind, '', owner);
    return this.q.keys.all(project, from, `${from.slice(0, -1)}/`) as string[];
  }

  /** Writes a checked value. @returns its JSON and version. */
  write(project: string, key: string, value: PartValue): { json: string; version: number } {
    const json = JSON.stringify(value);
    const { version } = kindOf(readKey(key).kind);
    this.q.put.run(project, key, json, version, crc32(json));
    this.q.forget.run(project, key);
    for (const r of referencesOf(key, value)) this.q.refer.run(project, key, r.key);
    return { json, version };
  }

  remove(project: string, key: string): void {
    this.q.drop.run(project, key);
    this.q.forget.run(project, key);
  }

  /** What the check of references needs, of the project as it stands. */
  index(project: string): PartIndex {
    const values = new Map<string, unknown>();
    return {
      has: (key) => this.q.has.get(project, key) !== undefined,
      value: (key) => {
        if (!values.has(key)) {
          const row = this.row(project, key);
          const read = row && readRow(row);
          values.set(key, read?.ok ? read.value : undefined);
        }
        return values.get(key);
      },
      usersOf: (key) => this.q.users.all(project, key) as string[],
    };
  }
}
