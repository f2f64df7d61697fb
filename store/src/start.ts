import { accessSync, constants, existsSync, readdirSync, rmSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import type { Logger } from 'pino';
import { copyDatabase } from './backup';
import { makeFolder } from './folder';
import { openDatabase, type Db } from './open';
import { makeShrinkable } from './upkeep';

/** The database cannot be used: one sentence with what, why and what to do. */
export class CannotStart extends Error {}

const LOCKED_BY = 'SQLITE_BUSY';

/** How long a server waits for one that is just ending, ms. */
const HELD_WAIT = 3000;

/**
 * Holds a database file for this process, as long as it lives: a lock of the operating system on a file beside it, which no crash leaves behind.
 * @throws CannotStart where another server holds it.
 */
export function holdFile(file: string): Db {
  const lock = new Database(`${file}.lock`, { timeout: HELD_WAIT });
  try {
    lock.pragma('journal_mode = DELETE');
    lock.exec('BEGIN EXCLUSIVE');
    return lock;
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code?.startsWith(LOCKED_BY))
      throw new CannotStart(
        `${file} is in use by another Veldtwind server. End that one, or give this one a file of its own with VELDTWIND_DATABASE.`,
      );
    throw error;
  }
}

/**
 * Opens the database that a server runs on: held against a second server, checked, brought to the newest schema.
 * @throws CannotStart with what is wrong and what to do.
 */
export function startDatabase(file: string): { db: Db; lock: Db } {
  const folder = dirname(file);
  try {
    makeFolder(folder);
    accessSync(folder, constants.W_OK);
  } catch (error) {
    throw new CannotStart(
      `The folder ${folder} cannot be written (${(error as NodeJS.ErrnoException).code}). Make it writable, or set VELDTWIND_DATABASE to another place.`,
    );
  }
  if (existsSync(file) && statSync(file).isDirectory())
    throw new CannotStart(`${file} is a folder. Set VELDTWIND_DATABASE to the path of a file.`);
  const lock = holdFile(file);
  try {
    if (existsSync(file)) accessSync(file, constants.R_OK | constants.W_OK);
    const db = openDatabase(file);
    const found = db.pragma('quick_check(1)', { simple: true });
    if (found !== 'ok') {
      db.close();
      throw new CannotStart(
        `${file} is damaged (${String(found).slice(0, 120)}). Put a file of the folder backups beside it in its place.`,
      );
    }
    makeShrinkable(db);
    return { db, lock };
  } catch (error) {
    lock.close();
    throw explained(error, file);
  }
}

function explained(error: unknown, file: string): Error {
  if (error instanceof CannotStart) return error;
  const { code = '', message } = error as NodeJS.ErrnoException;
  if (/newer Veldtwind|of another program\. Set/.test(message)) return new CannotStart(message);
  if (code.startsWith('SQLITE_NOTADB'))
    return new CannotStart(
      `${file} is no database. Set VELDTWIND_DATABASE to another file, or put a file of the folder backups in its place.`,
    );
  if (code.startsWith('SQLITE_CORRUPT') || code === 'SQLITE_ERROR')
    return new CannotStart(
      `${file} is damaged or of another program (${message}). Put a file of the folder backups beside it in its place.`,
    );
  if (code.startsWith('SQLITE_READONLY') || code === 'EACCES' || code === 'EROFS' || code.startsWith('SQLITE_CANTOPEN'))
    return new CannotStart(
      `${file} cannot be read and written (${code}). Make it writable, or set VELDTWIND_DATABASE to another file.`,
    );
  if (code.startsWith('SQLITE_FULL') || code === 'ENOSPC')
    return new CannotStart(`The disk of ${file} is full. Free some space.`);
  return error as Error;
}

/** Backups that are kept, one a day of use. */
const KEPT = 7;
const DAY = 24 * 3600 * 1000;

/** The folder beside the database that its daily backups lie in. */
export const backupFolder = (file: string): string => join(dirname(file), 'backups');

/** Makes today's backup where there is none yet, and keeps the last seven. @returns its path, or null where there was one. */
export async function dailyBackup(
  db: Db,
  file: string,
  log: Pick<Logger, 'info'>,
  now = new Date(),
): Promise<string | null> {
  const folder = backupFolder(file);
  makeFolder(folder);
  const stem = basename(file).replace(/\.[^.]*$/, '');
  const path = join(folder, `${stem}-${now.toISOString().slice(0, 10)}.sqlite`);
  if (existsSync(path)) return null;
  await copyDatabase(db, path);
  const all = readdirSync(folder)
    .filter((f) => f.startsWith(`${stem}-`) && f.endsWith('.sqlite'))
    .sort();
  for (const old of all.slice(0, -KEPT)) rmSync(join(folder, old), { force: true });
  log.info({ path, kept: Math.min(all.length, KEPT) }, 'backup made');
  return path;
}

/** Makes a backup at start and then every day, as long as the server runs. */
export function keepBackups(db: Db, file: string, log: Pick<Logger, 'info' | 'error'>): void {
  const make = () =>
    dailyBackup(db, file, log).catch((error: unknown) => log.error({ err: error }, 'no backup was made'));
  void make();
  setInterval(() => void make(), DAY / 4).unref();
}
