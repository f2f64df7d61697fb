import { statfsSync } from 'node:fs';
import { dirname } from 'node:path';
import { HttpError } from './errors';

/** Bytes without which a database cannot be written for long. */
const LEAST_ROOM = 8_000_000;

/** What is wrong where the disk of a database has no room left; undefined where it has, or nobody can tell. */
export function noRoom(database: string, statfs: typeof statfsSync = statfsSync): string | undefined {
  if (database === '' || database === ':memory:') return undefined;
  try {
    const { bavail, bsize } = statfs(dirname(database));
    return bavail * bsize < LEAST_ROOM
      ? 'The disk is full: nothing can be saved for long. Free some space; nothing is lost.'
      : undefined;
  } catch {
    return undefined;
  }
}

/** What a failure of the database means to who asked: in words, with what to do. Undefined for what is no failure of the store. */
export function storageError(error: unknown): HttpError | undefined {
  const code = (error as { code?: unknown }).code;
  if (typeof code !== 'string' || !code.startsWith('SQLITE_')) return undefined;
  if (code.startsWith('SQLITE_FULL'))
    return new HttpError(
      507,
      'disk-full',
      'The disk is full: nothing can be saved.',
      'Free some space; nothing is lost.',
    );
  if (code.startsWith('SQLITE_READONLY'))
    return new HttpError(
      503,
      'read-only',
      'The database file cannot be written.',
      'Make it writable; nothing is lost.',
    );
  if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED'))
    return new HttpError(503, 'store-busy', 'Another program holds the database.', 'End it; nothing is lost.');
  if (code.startsWith('SQLITE_IOERR'))
    return new HttpError(503, 'store-failing', 'The disk of the database fails.', 'Check it, and make a backup.');
  if (code.startsWith('SQLITE_CORRUPT') || code.startsWith('SQLITE_NOTADB'))
    return new HttpError(
      503,
      'store-damaged',
      'The database file is damaged.',
      'End the server and put a file of the folder backups in its place.',
    );
  return undefined;
}

/** What the store last failed with; a write that succeeds afterwards clears it. */
export class StoreHealth {
  private last: string | undefined;

  failed(error: HttpError): void {
    this.last = `${error.message} ${error.hint ?? ''}`.trim();
  }
  wrote(): void {
    this.last = undefined;
  }
  get trouble(): string | undefined {
    return this.last;
  }
}
