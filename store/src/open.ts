import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import Database from 'better-sqlite3';
import { migrations } from './migrations';

export type Db = Database.Database;

/** Opens the database file (or `:memory:`), and brings it to the newest schema. @throws Error when it was written by a newer version. */
export function openDatabase(file: string): Db {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const db = new Database(file);
  // Holds for a new file only; older ones are changed at start, see upkeep.
  db.pragma('auto_vacuum = INCREMENTAL');
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  db.pragma('busy_timeout = 5000');
  const version = db.pragma('user_version', { simple: true }) as number;
  if (version > migrations.length) {
    db.close();
    throw new Error(
      `${file} was written by a newer Veldtwind (schema ${version}, this one knows ${migrations.length}). Use that version, or restore a backup.`,
    );
  }
  for (let i = version; i < migrations.length; i++) {
    db.transaction(() => {
      const step = migrations[i];
      if (typeof step === 'string') db.exec(step);
      else step(db);
      db.pragma(`user_version = ${i + 1}`);
    })();
  }
  return db;
}
