import { randomUUID } from 'node:crypto';
import type { StudyKind, StudyResult, Try } from '@veldtwind/core/studies';
import type { Db } from './open';
import { writing } from './writing';

export type StudyState = 'running' | 'paused' | 'finished' | 'failed';

/** A study as it is listed. */
export interface StudyRow {
  id: string;
  projectId: string;
  candidate: string;
  name: string;
  kind: StudyKind;
  state: StudyState;
  /** Steps of its way, as far as they are known. */ done: number;
  planned: number;
  /** Of a search for one aim, the best so far. */ best: Try | null;
  /** Why it failed. */ why: string | null;
  by: string | null;
  createdAt: string;
  endedAt: string | null;
}
/** What came of a study beside its tries. */
export type StudyOutcome = Omit<StudyResult, 'tries'>;

const COLUMNS = `id, project_id AS projectId, candidate, name, kind, state, done, planned, best_json AS best, why, by_name AS "by",
  created_at AS createdAt, ended_at AS endedAt`;
type Raw = Omit<StudyRow, 'best'> & { best: string | null };
const row = (raw: Raw): StudyRow => ({ ...raw, best: raw.best === null ? null : (JSON.parse(raw.best) as Try) });

/** Studies that a project keeps; the oldest that are over go. */
export const MOST_STUDIES = 50;

/** Studies and their tries. A try is written once, as it is made: whatever ends a study, it goes on from there. */
export class StudyStore {
  private readonly q;

  constructor(private readonly db: Db) {
    this.q = {
      list: db.prepare(`SELECT ${COLUMNS} FROM study WHERE project_id = ? ORDER BY created_at DESC, id`),
      one: db.prepare(`SELECT ${COLUMNS} FROM study WHERE id = ?`),
      running: db.prepare("SELECT id FROM study WHERE state = 'running' ORDER BY created_at, id").pluck(),
      add: db.prepare(
        `INSERT INTO study (id, project_id, candidate, name, kind, input_json, state, by_name, created_at)
         VALUES (@id, @projectId, @candidate, @name, @kind, @input, 'running', @by, @now)`,
      ),
      trim: db.prepare(
        `DELETE FROM study WHERE project_id = @projectId AND state IN ('finished', 'failed') AND id NOT IN (
           SELECT id FROM study WHERE project_id = @projectId ORDER BY created_at DESC, id LIMIT ${MOST_STUDIES})`,
      ),
      input: db.prepare('SELECT input_json FROM study WHERE id = ?').pluck(),
      result: db.prepare('SELECT result_json FROM study WHERE id = ?').pluck(),
      state: db.prepare('UPDATE study SET state = @state, why = @why, ended_at = @ended WHERE id = @id'),
      further: db.prepare(
        'UPDATE study SET done = @done, planned = @planned, best_json = coalesce(@best, best_json) WHERE id = @id',
      ),
      finish: db.prepare(
        "UPDATE study SET state = 'finished', why = NULL, result_json = @result, ended_at = @now WHERE id = @id",
      ),
      put: db.prepare('INSERT INTO study_try (study_id, ordinal, json) VALUES (?, ?, ?) ON CONFLICT DO NOTHING'),
      tries: db.prepare('SELECT json FROM study_try WHERE study_id = ? AND ordinal >= ? ORDER BY ordinal').pluck(),
      remove: db.prepare('DELETE FROM study WHERE id = ?'),
    };
  }

  list = (project: string): StudyRow[] => (this.q.list.all(project) as Raw[]).map(row);
  row(id: string): StudyRow | undefined {
    const raw = this.q.one.get(id) as Raw | undefined;
    return raw && row(raw);
  }
  /** Ids of those that are to be made. */
  running = (): string[] => this.q.running.all() as string[];

  /** @param input JSON of the analysis' input. */
  add(
    of: { projectId: string; candidate: string; name: string; kind: StudyKind; by: string | null },
    input: string,
    now = new Date(),
  ): StudyRow {
    const id = randomUUID();
    writing(this.db, () => {
      this.q.add.run({ ...of, id, input, now: now.toISOString() });
      this.q.trim.run({ projectId: of.projectId });
    });
    return this.row(id)!;
  }
  /** JSON of the input. */
  input = (id: string): string | undefined => this.q.input.get(id) as string | undefined;
  /** JSON of what came of it; undefined until it is there. */
  result = (id: string): string | undefined => (this.q.result.get(id) as string | null | undefined) ?? undefined;

  /** Tries from an ordinal on, each as JSON. */
  tries = (id: string, from = 0): string[] => this.q.tries.all(id, from) as string[];

  setState(id: string, state: StudyState, why: string | null = null, now = new Date()): void {
    this.q.state.run({ id, state, why, ended: state === 'failed' ? now.toISOString() : null });
  }
  /** Writes how far a study is and the tries that came, whole or not at all. */
  further(
    id: string,
    tries: readonly Try[],
    { done, planned, best }: Pick<StudyRow, 'done' | 'planned' | 'best'>,
  ): void {
    writing(this.db, () => {
      for (const t of tries) this.q.put.run(id, t.index, JSON.stringify(t));
      this.q.further.run({ id, done, planned, best: best && JSON.stringify(best) });
    });
  }
  finish(id: string, result: StudyOutcome, now = new Date()): void {
    this.q.finish.run({ id, result: JSON.stringify(result), now: now.toISOString() });
  }
  remove(id: string): void {
    this.q.remove.run(id);
  }
}
