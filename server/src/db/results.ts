import { gunzipSync, gzipSync } from 'node:zlib';
import type { Db } from './open';

/** Results by the key of their inputs. A key never changes its meaning, so a result is written once. */
export class ResultStore {
  private readonly q;

  constructor(db: Db) {
    this.q = {
      get: db.prepare('SELECT output FROM result WHERE key = ?'),
      put: db.prepare(
        'INSERT INTO result (key, kind, method_version, input_json, output, created_at) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
      ),
      count: db.prepare('SELECT kind, count(*) AS count FROM result GROUP BY kind ORDER BY kind'),
    };
  }

  /** A result as JSON. */
  get(key: string): string | undefined {
    const row = this.q.get.get(key) as { output: Buffer } | undefined;
    return row && gunzipSync(row.output).toString('utf8');
  }

  put(key: string, kind: string, methodVersion: number, inputJson: string, outputJson: string): void {
    this.q.put.run(key, kind, methodVersion, inputJson, gzipSync(outputJson), new Date().toISOString());
  }

  counts(): { kind: string; count: number }[] {
    return this.q.count.all() as { kind: string; count: number }[];
  }
}

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

  all(): Record<string, unknown> {
    return Object.fromEntries(
      (this.q.all.all() as { key: string; json: string }[]).map((r) => [r.key, JSON.parse(r.json)]),
    );
  }

  put(key: string, value: unknown): void {
    this.q.put.run(key, JSON.stringify(value));
  }
}
