import { randomUUID } from 'node:crypto';
import { deflateSync, inflateSync } from 'node:zlib';
import { InvalidInput } from '@veldtwind/core/numerics';
import { partsOfDocument, readDocument, type ProjectDocument } from '@veldtwind/core/project';
import { canonicalJson } from '@veldtwind/core/results';
import type { Applied } from '@veldtwind/contract';
import type { Db } from './open';
import { NotFound, type By, type ProjectStore } from './projects';

/** A state of a project that is kept by name. */
export interface KeptVersion {
  id: string;
  name: string;
  /** Version of the project that it was kept at. */ version: number;
  createdAt: string;
  /** Who kept it. */ by: string | null;
}

export const MOST_VERSIONS = 200;

/** States of projects that are kept by name, whole: going back to one is an edit that can be undone. */
export class VersionStore {
  private readonly q;

  constructor(
    db: Db,
    private readonly projects: ProjectStore,
  ) {
    this.q = {
      list: db.prepare(
        'SELECT id, name, version, created_at AS createdAt, by_name AS by FROM kept_version WHERE project_id = ? ORDER BY created_at DESC, id',
      ),
      whole: db.prepare('SELECT name, document FROM kept_version WHERE project_id = ? AND id = ?'),
      add: db.prepare(
        'INSERT INTO kept_version (id, project_id, name, version, created_at, document, by_name) VALUES (?, ?, ?, ?, ?, ?, ?)',
      ),
      remove: db.prepare('DELETE FROM kept_version WHERE project_id = ? AND id = ?'),
    };
  }

  /** Newest first. @throws NotFound */
  list(project: string): KeptVersion[] {
    this.projects.row(project);
    return this.q.list.all(project) as KeptVersion[];
  }

  /** Keeps the project as it stands. @throws NotFound, InvalidInput `versions` where there are as many as there may be. */
  keep(project: string, name: string, by: By | null = null): KeptVersion {
    const { version } = this.projects.row(project);
    if (this.list(project).length >= MOST_VERSIONS)
      throw new InvalidInput('versions', `A project keeps at most ${MOST_VERSIONS} versions.`, 'Forget some first.');
    return this.put(
      project,
      { name, version, createdAt: new Date().toISOString(), by: by?.name ?? null },
      this.projects.wholeDocument(project),
    );
  }

  /** Keeps a document as a version. */
  put(project: string, head: Omit<KeptVersion, 'id'>, document: ProjectDocument): KeptVersion {
    const made = { id: randomUUID(), ...head };
    const packed = deflateSync(JSON.stringify(document));
    this.q.add.run(made.id, project, head.name, head.version, head.createdAt, packed, head.by);
    return made;
  }

  /** The document of a version. @throws NotFound; InvalidInput where a newer Veldtwind kept it. */
  document(project: string, id: string): { name: string; document: ProjectDocument } {
    const row = this.q.whole.get(project, id) as { name: string; document: Buffer } | undefined;
    if (!row) throw new NotFound('such version of this project');
    return { name: row.name, document: readDocument(JSON.parse(inflateSync(row.document).toString('utf8'))) };
  }

  /** Goes back to a version by an edit. @throws NotFound, StaleVersion; InvalidInput `nothing-to-restore` where the project stands so already. */
  restore(project: string, id: string, baseVersion: number, by: By | null = null): Applied {
    const { name, document } = this.document(project, id);
    const [then, now] = [partsOfDocument(document), partsOfDocument(this.projects.wholeDocument(project))];
    const changes: { part: string; value: unknown }[] = [];
    for (const key of now.keys()) if (!then.has(key)) changes.push({ part: key, value: null });
    for (const [key, value] of then) {
      const before = now.get(key);
      if (before === undefined || canonicalJson(before) !== canonicalJson(value)) changes.push({ part: key, value });
    }
    if (changes.length === 0)
      throw new InvalidInput('nothing-to-restore', `The project stands as in “${name}” already.`);
    return this.projects.edit(project, baseVersion, `Back to “${name}”`.slice(0, 120), changes, undefined, by);
  }

  /** Forgets a version; the project stays as it is. @throws NotFound */
  remove(project: string, id: string): void {
    if (this.q.remove.run(project, id).changes === 0) throw new NotFound('such version of this project');
  }
}
