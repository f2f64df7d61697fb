import { statSync } from 'node:fs';
import type { Logger } from 'pino';
import { forgetHalfImports } from './project-file/read';
import type { Db } from './open';
import { ResultStore } from './results';
import { RunStore } from './runs';

/** Results that are kept: of the last quarter of a year, and in bytes. They can be computed again at any time. */
const RESULT_DAYS = 90;
export const RESULT_BUDGET = 500_000_000;
const HOUR = 3600 * 1000;
/** Free pages that are given back at once: a few milliseconds of work. */
const PAGES = 2000;

/** Makes the file able to shrink. Files of earlier versions are written anew once, which needs the lock on the file. */
export function makeShrinkable(db: Db): void {
  const INCREMENTAL = 2;
  if (db.pragma('auto_vacuum', { simple: true }) === INCREMENTAL) return;
  db.pragma('auto_vacuum = INCREMENTAL');
  try {
    db.exec('VACUUM');
  } catch (error) {
    // Without room for a second copy it stays as it is, until there is.
    if (!(error as { code?: string }).code?.startsWith('SQLITE_FULL')) throw error;
  }
}

/** Gives free pages back to the disk, a few at a time. @returns whether there are more. */
export function shrink(db: Db): boolean {
  db.pragma(`incremental_vacuum(${PAGES})`);
  if ((db.pragma('freelist_count', { simple: true }) as number) > 0) return true;
  db.pragma('wal_checkpoint(TRUNCATE)');
  return false;
}

/** One round: old results go, and the file shrinks. @returns when it has shrunk. */
export async function upkeep(
  db: Db,
  now = new Date(),
  budget = RESULT_BUDGET,
): Promise<{ results: number; bytes: number }> {
  const size = () => (db.memory ? 0 : statSync(db.name).size);
  const before = size();
  const results = new ResultStore(db).collect(new Date(now.getTime() - RESULT_DAYS * 24 * HOUR), budget);
  new RunStore(db).collect();
  while (db.open && shrink(db)) await new Promise((go) => setImmediate(go));
  return { results, bytes: before - size() };
}

/** Looks after the file at start and every hour, as long as the server runs. */
export function keepUp(db: Db, log: Pick<Logger, 'info' | 'error'>): void {
  forgetHalfImports(db);
  const round = async () => {
    try {
      const gone = await upkeep(db);
      if (gone.results > 0 || gone.bytes > 1e6) log.info(gone, 'old results let go, file shrunk');
    } catch (error) {
      log.error({ err: error }, 'the upkeep of the file failed');
    }
  };
  void round();
  setInterval(() => void round(), HOUR).unref();
}
