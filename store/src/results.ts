import { gunzipSync, gzipSync } from 'node:zlib';
import type { Db } from './open';
import { OWNER } from './people';

/** Results by the key of their inputs. A key never changes its meaning, so a result is written once. */
export class ResultStore {
  private readonly q;

  constructor(db: Db) {
    this.q = {
      get: db.prepare('SELECT output, used_at AS usedAt FROM result WHERE key = ?'),
      whole: db.prepare(
        'SELECT kind, method_version AS methodVersion, input_json AS input, output FROM result WHERE key = ?',
      ),
      use: db.prepare('UPDATE result SET used_at = ? WHERE key = ?'),
      put: db.prepare(
        'INSERT INTO result (key, kind, method_version, input_json, output, created_at, used_at) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
      ),
      old: db.prepare('DELETE FROM result WHERE used_at < ?'),
      // Newest use first, until the budget is spent; what lies beyond goes.
      beyond: db.prepare(
        `DELETE FROM result WHERE key IN (
           SELECT key FROM (
             SELECT key, sum(length(output) + length(input_json)) OVER (ORDER BY used_at DESC, key) AS reached FROM result
           ) WHERE reached > ?
         )`,
      ),
      count: db.prepare('SELECT kind, count(*) AS count FROM result GROUP BY kind ORDER BY kind'),
    };
  }

  /** A result as JSON. */
  get(key: string): string | undefined {
    const row = this.q.get.get(key) as { output: Buffer; usedAt: string } | undefined;
    if (!row) return undefined;
    const today = new Date().toISOString();
    // Once a day is enough to know what is still used.
    if (row.usedAt.slice(0, 10) !== today.slice(0, 10)) this.q.use.run(today, key);
    return gunzipSync(row.output).toString('utf8');
  }

  /** A result with its input, as JSON. */
  whole(key: string): { kind: string; methodVersion: number; input: string; output: string } | undefined {
    const row = this.q.whole.get(key) as
      { kind: string; methodVersion: number; input: string; output: Buffer } | undefined;
    return row && { ...row, output: gunzipSync(row.output).toString('utf8') };
  }

  put(key: string, kind: string, methodVersion: number, inputJson: string, outputJson: string): void {
    const now = new Date().toISOString();
    this.q.put.run(key, kind, methodVersion, inputJson, gzipSync(outputJson), now, now);
  }

  /** Lets go of results that nobody asked for since a time, and of the longest unused ones beyond a budget of bytes. @returns how many. */
  collect(unusedSince: Date, budget: number): number {
    return this.q.old.run(unusedSince.toISOString()).changes + this.q.beyond.run(budget).changes;
  }

  counts(): { kind: string; count: number }[] {
    return this.q.count.all() as { kind: string; count: number }[];
  }
}

const prefixOf = (person: string | undefined) => (person === undefined || person === OWNER ? '' : `${person}:`);

/** What the user chose for the interface, as JSON by name. */
export class PreferenceStore {
  private readonly q;

  constructor(db: Db) {
    this.q = {
      all: db.prepare('SELECT key, json FROM preference'),
      put: db.prepare(
        'INSERT INTO preference (key, json) VALUES (?, ?) ON CONFLICT DO UPDATE SET json = excluded.json',
      ),
    };
  }

  /** @param person whose they are, where the server knows people by name; its owner has those of the time before. */
  all(person?: string): Record<string, unknown> {
    const own = prefixOf(person);
    return Object.fromEntries(
      (this.q.all.all() as { key: string; json: string }[])
        .filter(({ key }) => (own ? key.startsWith(own) : !key.includes(':')))
        .map((r) => [r.key.slice(own.length), JSON.parse(r.json)]),
    );
  }

  put(key: string, value: unknown, person?: string): void {
    this.q.put.run(prefixOf(person) + key, JSON.stringify(value));
  }
}
