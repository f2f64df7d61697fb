import type { Database } from 'better-sqlite3';
import { partsOfWhole, referencesOf } from '@veldtwind/core/project';

/**
 * Takes stored candidates apart: their surfaces and mass items become parts of their own, so that a nudge writes a few hundred bytes.
 * Nothing is checked here; what is broken stays as it is and is told when it is read.
 */
export function splitCandidates(db: Database): void {
  const put = db.prepare('INSERT OR REPLACE INTO part (project_id, key, json, version) VALUES (?, ?, ?, 2)');
  const rows = db.prepare("SELECT project_id AS project, key, json FROM part WHERE key LIKE 'candidate:%'").all() as {
    project: string;
    key: string;
    json: string;
  }[];
  for (const { project, key, json } of rows) {
    let value: { surfaces?: unknown; massItems?: unknown };
    try {
      value = JSON.parse(json) as typeof value;
    } catch {
      continue;
    }
    const sound = (list: unknown) =>
      Array.isArray(list) && list.every((v) => typeof (v as { id?: unknown })?.id === 'string');
    if (!sound(value?.surfaces) || !sound(value?.massItems)) continue;
    for (const [part, v] of partsOfWhole('candidate', key.slice('candidate:'.length), value))
      put.run(project, part, JSON.stringify(v));
  }
  recordReferences(db);
}

/** Writes down what every stored part refers to. */
function recordReferences(db: Database): void {
  const refer = db.prepare('INSERT OR IGNORE INTO part_reference (project_id, part, refers_to) VALUES (?, ?, ?)');
  const rows = db.prepare("SELECT project_id AS project, key, json FROM part WHERE key NOT LIKE 'original:%'");
  for (const { project, key, json } of rows.all() as { project: string; key: string; json: string }[]) {
    try {
      for (const r of referencesOf(key, JSON.parse(json))) refer.run(project, key, r.key);
    } catch {
      // What is broken refers to nothing.
    }
  }
}
