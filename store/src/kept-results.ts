import type { Db } from './open';
import { writing } from './writing';

/** Bytes that a project's results may take; the longest unused go first. */
export const KEPT_BUDGET = 64_000_000;
/** Bytes of one result. */
export const LARGEST_KEPT = 4_000_000;

/**
 * What pages computed of a project, by the keys of its inputs, as bytes that only pages read. Beside the results that the server made itself: a page may be
 * wrong, so that what it keeps is given to its own project alone.
 */
export class KeptResults {
  private readonly q;

  constructor(
    private readonly db: Db,
    private readonly budget = KEPT_BUDGET,
  ) {
    this.q = {
      keys: db.prepare('SELECT key FROM kept_result WHERE project_id = ? ORDER BY used_at DESC').pluck(),
      get: db.prepare('SELECT bytes, used_at AS usedAt FROM kept_result WHERE project_id = ? AND key = ?'),
      use: db.prepare('UPDATE kept_result SET used_at = @now WHERE project_id = @project AND key = @key'),
      put: db.prepare(
        `INSERT INTO kept_result (project_id, key, kind, bytes, size, used_at) VALUES (@project, @key, @kind, @bytes, @size, @now)
         ON CONFLICT DO UPDATE SET bytes = excluded.bytes, size = excluded.size, used_at = excluded.used_at`,
      ),
      beyond: db.prepare(
        `DELETE FROM kept_result WHERE project_id = @project AND key IN (
           SELECT key FROM (
             SELECT key, sum(size) OVER (ORDER BY used_at DESC, key) AS reached FROM kept_result WHERE project_id = @project
           ) WHERE reached > @budget
         )`,
      ),
    };
  }

  /** Keys of what there is, the last used first. */
  keys(project: string): string[] {
    return this.q.keys.all(project) as string[];
  }

  /** Bytes of a result; undefined where it is not there. */
  get(project: string, key: string, now = new Date()): Buffer | undefined {
    const row = this.q.get.get(project, key) as { bytes: Buffer; usedAt: number } | undefined;
    if (!row) return undefined;
    // What was used within the minute is not written for it again.
    if (now.getTime() - row.usedAt > 60_000) this.q.use.run({ project, key, now: now.getTime() });
    return row.bytes;
  }

  /** Keeps a result; the longest unused of the project go where there is no room. @throws RangeError for one that is too large. */
  put(project: string, key: string, kind: string, bytes: Buffer, now = new Date()): void {
    if (bytes.length > LARGEST_KEPT) throw new RangeError('The result is larger than 4 MB.');
    writing(this.db, () => {
      this.q.put.run({ project, key, kind, bytes, size: bytes.length, now: now.getTime() });
      this.q.beyond.run({ project, budget: this.budget });
    });
  }
}
