import { dirname } from 'node:path';
import Database from 'better-sqlite3';
import { makeFolder } from './folder';
import { migrations } from './migrations';

export type Db = Database.Database;

/** A database with tables that are not ours is left exactly as it is. @throws Error saying so. */
function refuseForeign(db: Db, file: string): void {
  const tables = db.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all() as string[];
  const version = db.pragma('user_version', { simple: true }) as number;
  if (tables.length === 0 && version === 0) return;
  if (version > 0 && ['project', 'part', 'edit'].every((name) => tables.includes(name))) return;
  throw new Error(
    `${file} is a database of another program. Set VELDTWIND_DATABASE to another file; this one was left as it is.`,
  );
}

/** Opens the database file (or `:memory:`), and brings it to the newest schema. @throws Error when it was written by a newer version. */
export function openDatabase(file: string): Db {
  if (file !== ':memory:') makeFolder(dirname(file));
  const db = new Database(file);
  try {
    refuseForeign(db, file);
  } catch (error) {
    db.close();
    throw error;
  }
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
