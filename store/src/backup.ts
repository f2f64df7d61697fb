import { copyFileSync, existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import { InvalidInput } from '@veldtwind/core/numerics';
import { migrations } from './migrations';
import { makeFolder } from './folder';
import type { Db } from './open';
import { backupFolder, CannotStart, holdFile } from './start';

/** What a backup holds. */
export interface BackupFacts {
  path: string;
  bytes: number;
  projects: number;
  /** When something in it was last changed; empty where there is no project. */
  newest: string;
}

/** Opens a file that should be a database of ours, and reads it through. @throws InvalidInput with what is wrong with it. */
function facts(path: string): BackupFacts {
  let db: Db | undefined;
  try {
    if (!statSync(path).isFile()) throw new InvalidInput('file', `${path} is no file.`, 'Give the path of a backup.');
    db = new Database(path, { readonly: true, fileMustExist: true });
    const found = db.pragma('quick_check(1)', { simple: true });
    if (found !== 'ok')
      throw new InvalidInput(
        'backup-damaged',
        `${path} is damaged (${String(found).slice(0, 120)}).`,
        'Take another one.',
      );
    const version = db.pragma('user_version', { simple: true }) as number;
    if (version < 1 || version > migrations.length)
      throw new InvalidInput(
        'backup-version',
        version < 1
          ? `${path} is no database of Veldtwind.`
          : `${path} was written by a newer Veldtwind (schema ${version}, this one knows ${migrations.length}).`,
        version < 1 ? 'Give the path of a backup.' : 'Use that version.',
      );
    const row = db.prepare("SELECT count(*) AS projects, coalesce(max(updated_at), '') AS newest FROM project").get();
    return { path, bytes: statSync(path).size, ...(row as Pick<BackupFacts, 'projects' | 'newest'>) };
  } catch (error) {
    if (error instanceof InvalidInput) throw error;
    const { code = '', message } = error as NodeJS.ErrnoException;
    throw code === 'ENOENT' || code === 'SQLITE_CANTOPEN'
      ? new InvalidInput('file', `${path} does not exist or cannot be read.`, 'Give the path of a file.')
      : new InvalidInput(
          'backup-damaged',
          `${path} is no database that can be read (${message}).`,
          'Take another one.',
        );
  } finally {
    db?.close();
  }
}

/**
 * Copies a database that may be in use to one file, whole by itself, and reads it back.
 * @returns what the copy holds. @throws InvalidInput where it did not come out whole.
 */
export async function copyDatabase(db: Db, path: string): Promise<BackupFacts> {
  makeFolder(dirname(path));
  const part = `${path}.part`;
  try {
    await db.backup(part);
    const check = new Database(part);
    // One file, with no log beside it.
    check.pragma('journal_mode = DELETE');
    check.close();
    const held = facts(part);
    renameSync(part, path);
    return { ...held, path };
  } finally {
    for (const end of ['', '-wal', '-shm', '-journal']) rmSync(`${part}${end}`, { force: true });
  }
}

/** Backs a database file up, also while a server runs on it. @throws InvalidInput `backup-exists` where the file is there and may not be replaced. */
export async function backupFile(database: string, out: string, force = false): Promise<BackupFacts> {
  const path = resolve(out);
  if (path === resolve(database))
    throw new InvalidInput('file', 'A backup cannot replace the database itself.', 'Give another path with --out.');
  if (existsSync(path) && !force)
    throw new InvalidInput('backup-exists', `${path} exists.`, 'Give another path, or --force to replace it.');
  facts(database);
  const db = new Database(database, { readonly: true, fileMustExist: true });
  try {
    return await copyDatabase(db, path);
  } finally {
    db.close();
  }
}

/**
 * Puts a backup in the place of a database; what was there is kept beside the daily backups.
 * @returns what is restored, and where the former file is kept.
 * @throws InvalidInput `restore-newer` where the database was changed after the backup, `restore-in-use` while a server runs on it.
 */
export function restoreFile(
  from: string,
  database: string,
  force = false,
  now = new Date(),
): BackupFacts & { former: string | null } {
  const path = resolve(from);
  if (path === resolve(database)) throw new InvalidInput('file', `${path} is the database itself.`, 'Give a backup.');
  const held = facts(path);
  makeFolder(dirname(database));
  let lock: Db;
  try {
    lock = holdFile(database);
  } catch (error) {
    if (!(error instanceof CannotStart)) throw error;
    throw new InvalidInput('restore-in-use', `${database} is in use by a server.`, 'Stop it, then restore.');
  }
  try {
    let former: string | null = null;
    if (existsSync(database)) {
      if (!force) refuseNewer(database, held);
      former = join(
        backupFolder(database),
        `${basename(database).replace(/\.[^.]*$/, '')}-before-restore-${now.toISOString().replace(/[:.]/g, '-')}.db`,
      );
      makeFolder(dirname(former));
      settle(database);
      copyFileSync(database, former);
    }
    const part = `${database}.part`;
    copyFileSync(path, part);
    for (const end of ['-wal', '-shm']) rmSync(`${database}${end}`, { force: true });
    renameSync(part, database);
    return { ...held, path: database, former };
  } finally {
    lock.close();
  }
}

/** Brings what stands in the log beside a file into it, so that the file alone is the whole; a damaged one stays as it is. */
function settle(database: string): void {
  try {
    const db = new Database(database);
    db.pragma('wal_checkpoint(TRUNCATE)');
    db.close();
  } catch {
    // It is kept as it is.
  }
}

function refuseNewer(database: string, held: BackupFacts): void {
  let there: BackupFacts;
  try {
    there = facts(database);
  } catch {
    // What cannot be read is not newer.
    return;
  }
  if (there.newest > held.newest)
    throw new InvalidInput(
      'restore-newer',
      `${database} was changed on ${there.newest}, after this backup (${held.newest || 'empty'}).`,
      'To go back all the same, add --force; the file that is there now is kept.',
    );
}
