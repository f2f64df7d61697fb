import type { Database } from 'better-sqlite3';
import { splitCandidates } from './split-candidates';

/** One step: SQL, or work on the rows that SQL cannot do. */
export type Migration = string | ((db: Database) => void);

/** Counts of the points of curves. For some hours of a day the step before it stood without them. */
const CURVE_COUNTS = `
  -- How many points a curve has is asked far more often than points come in.
  ALTER TABLE curve ADD COLUMN points INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE curve ADD COLUMN solved INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE curve ADD COLUMN doubtful INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE curve ADD COLUMN unsolved INTEGER NOT NULL DEFAULT 0;
  UPDATE curve SET facts_json = NULL,
    (points, solved, doubtful, unsolved) = (
      SELECT count(*), coalesce(sum(status = 'solved'), 0), coalesce(sum(status = 'doubtful'), 0), coalesce(sum(status = 'unsolved'), 0)
      FROM curve_point WHERE curve = curve.id);
  CREATE TRIGGER curve_point_in AFTER INSERT ON curve_point BEGIN
    UPDATE curve SET facts_json = NULL, points = points + 1, solved = solved + (new.status = 'solved'),
      doubtful = doubtful + (new.status = 'doubtful'), unsolved = unsolved + (new.status = 'unsolved') WHERE id = new.curve;
  END;
  CREATE TRIGGER curve_point_out AFTER DELETE ON curve_point BEGIN
    UPDATE curve SET facts_json = NULL, points = points - 1, solved = solved - (old.status = 'solved'),
      doubtful = doubtful - (old.status = 'doubtful'), unsolved = unsolved - (old.status = 'unsolved') WHERE id = old.curve;
  END;
`;

/** The schema, one step after another; a step that has been released is never changed. */
export const migrations: readonly Migration[] = [
  `
  CREATE TABLE project (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    schema_version INTEGER NOT NULL,
    version INTEGER NOT NULL,
    created_at TEXT NOT NULL,
    updated_at TEXT NOT NULL
  ) STRICT;

  CREATE TABLE part (
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    json TEXT NOT NULL,
    PRIMARY KEY (project_id, key)
  ) STRICT, WITHOUT ROWID;

  CREATE TABLE edit (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    client_id TEXT,
    label TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('done', 'undone', 'dropped')),
    version INTEGER NOT NULL,
    created_at TEXT NOT NULL
  ) STRICT;
  CREATE INDEX edit_by_project ON edit (project_id, state, id);
  CREATE UNIQUE INDEX edit_by_client ON edit (project_id, client_id) WHERE client_id IS NOT NULL;

  CREATE TABLE edit_change (
    edit_id INTEGER NOT NULL REFERENCES edit(id) ON DELETE CASCADE,
    part TEXT NOT NULL,
    before_json TEXT,
    after_json TEXT,
    PRIMARY KEY (edit_id, part)
  ) STRICT, WITHOUT ROWID;

  CREATE TABLE result (
    key TEXT PRIMARY KEY,
    kind TEXT NOT NULL,
    method_version INTEGER NOT NULL,
    input_json TEXT NOT NULL,
    output BLOB NOT NULL,
    created_at TEXT NOT NULL
  ) STRICT, WITHOUT ROWID;
  CREATE INDEX result_by_kind ON result (kind, created_at);

  CREATE TABLE preference (
    key TEXT PRIMARY KEY,
    json TEXT NOT NULL
  ) STRICT, WITHOUT ROWID;
  `,
  // The text that a section was read from becomes a part of its own, so that a library stays light.
  `
  INSERT INTO part (project_id, key, json)
    SELECT project_id, 'original:' || substr(key, 9),
      json_object('id', substr(key, 9), 'fileName', json_extract(json, '$.original.fileName'), 'text', json_extract(json, '$.original.text'))
    FROM part WHERE key LIKE 'section:%' AND json_extract(json, '$.original') IS NOT NULL;
  UPDATE part SET json = json_set(json_remove(json, '$.original'), '$.fileName', json_extract(json, '$.original.fileName'))
    WHERE key LIKE 'section:%' AND json_extract(json, '$.original') IS NOT NULL;
  `,
  // Every stored value says its version and is sealed by a sum, so that only what is old or was touched from outside must be checked again;
  // references stand in a table of their own; every revision says which parts it changed.
  `
  ALTER TABLE part ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
  ALTER TABLE part ADD COLUMN seal INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE edit_change ADD COLUMN before_version INTEGER NOT NULL DEFAULT 1;
  ALTER TABLE edit_change ADD COLUMN after_version INTEGER NOT NULL DEFAULT 1;

  CREATE TABLE part_reference (
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    part TEXT NOT NULL,
    refers_to TEXT NOT NULL,
    PRIMARY KEY (project_id, part, refers_to)
  ) STRICT, WITHOUT ROWID;
  CREATE INDEX part_reference_by_target ON part_reference (project_id, refers_to);

  CREATE TABLE revision_part (
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    part TEXT NOT NULL,
    PRIMARY KEY (project_id, version, part)
  ) STRICT, WITHOUT ROWID;
  `,
  splitCandidates,
  // A project that is being read from a file is not shown until it is whole; results say when they were last asked for, so that old ones can go.
  `
  ALTER TABLE project ADD COLUMN importing INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE result ADD COLUMN used_at TEXT NOT NULL DEFAULT '';
  UPDATE result SET used_at = created_at;
  CREATE INDEX result_by_use ON result (used_at);
  `,
  // Curves with their points, shared by all runs that ask for them; runs with their tasks, and what a task that is being solved has come to.
  `
  CREATE TABLE curve (
    id INTEGER PRIMARY KEY,
    key TEXT NOT NULL UNIQUE,
    input_json TEXT NOT NULL,
    created_at TEXT NOT NULL,
    facts_json TEXT,
    facts_of INTEGER NOT NULL DEFAULT 0
  ) STRICT;

  CREATE TABLE curve_point (
    curve INTEGER NOT NULL REFERENCES curve(id) ON DELETE CASCADE,
    place INTEGER NOT NULL,
    status TEXT NOT NULL CHECK (status IN ('solved', 'doubtful', 'unsolved')),
    json TEXT NOT NULL,
    state BLOB,
    PRIMARY KEY (curve, place)
  ) STRICT;

  CREATE TABLE run (
    id TEXT PRIMARY KEY,
    project_id TEXT REFERENCES project(id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    plan_json TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('running', 'paused', 'cancelled', 'finished')),
    priority INTEGER NOT NULL DEFAULT 0,
    created_at TEXT NOT NULL,
    ended_at TEXT
  ) STRICT;
  CREATE INDEX run_by_project ON run (project_id, created_at);

  CREATE TABLE run_task (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    run_id TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
    ordinal INTEGER NOT NULL,
    curve INTEGER NOT NULL REFERENCES curve(id),
    name TEXT NOT NULL,
    section TEXT,
    values_json TEXT NOT NULL,
    known_json TEXT,
    state TEXT NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'failed')),
    attempts INTEGER NOT NULL DEFAULT 0,
    points INTEGER NOT NULL,
    known INTEGER NOT NULL DEFAULT 0,
    solved INTEGER NOT NULL DEFAULT 0,
    doubtful INTEGER NOT NULL DEFAULT 0,
    unsolved INTEGER NOT NULL DEFAULT 0,
    error TEXT
  ) STRICT;
  CREATE INDEX run_task_by_run ON run_task (run_id, ordinal);
  CREATE INDEX run_task_by_curve ON run_task (curve);
  CREATE INDEX run_task_by_state ON run_task (state);

  CREATE TABLE task_step (
    task INTEGER NOT NULL REFERENCES run_task(id) ON DELETE CASCADE,
    seq INTEGER NOT NULL,
    json TEXT NOT NULL,
    PRIMARY KEY (task, seq)
  ) STRICT, WITHOUT ROWID;
  `,
  // Curves that come from a file may have been solved by another version of the method.
  `
  ALTER TABLE curve ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
${CURVE_COUNTS}`,
  // States of a project that are kept by name: the whole document, packed.
  `
  CREATE TABLE kept_version (
    id TEXT PRIMARY KEY,
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    version INTEGER NOT NULL,
    created_at TEXT NOT NULL,
    document BLOB NOT NULL
  ) STRICT;
  CREATE INDEX kept_version_by_project ON kept_version (project_id, created_at);
  `,
  // How far a run has come is asked at each of its steps: counted as its tasks change, not summed over them.
  `
  ALTER TABLE run ADD COLUMN points INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN known INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN solved INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN doubtful INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN unsolved INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN tasks INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN failed INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE run ADD COLUMN open INTEGER NOT NULL DEFAULT 0;
  UPDATE run SET (points, known, solved, doubtful, unsolved, tasks, failed, open) = (
    SELECT coalesce(sum(points), 0), coalesce(sum(known), 0), coalesce(sum(solved), 0), coalesce(sum(doubtful), 0),
      coalesce(sum(unsolved), 0), count(*), coalesce(sum(state = 'failed'), 0), coalesce(sum(state IN ('waiting', 'running')), 0)
    FROM run_task WHERE run_id = run.id);
  CREATE TRIGGER run_task_in AFTER INSERT ON run_task BEGIN
    UPDATE run SET points = points + new.points, known = known + new.known, solved = solved + new.solved,
      doubtful = doubtful + new.doubtful, unsolved = unsolved + new.unsolved, tasks = tasks + 1,
      failed = failed + (new.state = 'failed'), open = open + (new.state IN ('waiting', 'running')) WHERE id = new.run_id;
  END;
  CREATE TRIGGER run_task_out AFTER DELETE ON run_task BEGIN
    UPDATE run SET points = points - old.points, known = known - old.known, solved = solved - old.solved,
      doubtful = doubtful - old.doubtful, unsolved = unsolved - old.unsolved, tasks = tasks - 1,
      failed = failed - (old.state = 'failed'), open = open - (old.state IN ('waiting', 'running')) WHERE id = old.run_id;
  END;
  CREATE TRIGGER run_task_change AFTER UPDATE OF points, known, solved, doubtful, unsolved, state ON run_task BEGIN
    UPDATE run SET points = points + new.points - old.points, known = known + new.known - old.known,
      solved = solved + new.solved - old.solved, doubtful = doubtful + new.doubtful - old.doubtful,
      unsolved = unsolved + new.unsolved - old.unsolved,
      failed = failed + (new.state = 'failed') - (old.state = 'failed'),
      open = open + (new.state IN ('waiting', 'running')) - (old.state IN ('waiting', 'running')) WHERE id = new.run_id;
  END;
  CREATE INDEX run_task_failed ON run_task (run_id) WHERE state = 'failed';
  -- The next task is looked for among those that wait, oldest first; and whether a curve is being solved, among few.
  CREATE INDEX run_task_waiting ON run_task (run_id, ordinal) WHERE state = 'waiting';
  CREATE INDEX run_task_running ON run_task (curve) WHERE state = 'running';
  `,
  // People with names: who may do what in which project, how they came in, and what they did.
  `
  CREATE TABLE person (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    keeper INTEGER NOT NULL DEFAULT 0,
    token_hash TEXT UNIQUE,
    token_at TEXT,
    proxy_name TEXT UNIQUE,
    created_at TEXT NOT NULL,
    ended_at TEXT
  ) STRICT;
  CREATE TABLE person_role (
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    person TEXT NOT NULL REFERENCES person(id) ON DELETE CASCADE,
    role TEXT NOT NULL CHECK (role IN ('read', 'comment', 'edit', 'own')),
    PRIMARY KEY (project_id, person)
  ) STRICT, WITHOUT ROWID;
  CREATE INDEX person_role_by_person ON person_role (person);
  CREATE TABLE invitation (
    id TEXT PRIMARY KEY,
    code_hash TEXT NOT NULL UNIQUE,
    project_id TEXT REFERENCES project(id) ON DELETE CASCADE,
    role TEXT CHECK (role IN ('read', 'comment', 'edit', 'own')),
    note TEXT NOT NULL,
    made_by TEXT NOT NULL,
    created_at TEXT NOT NULL,
    expires_at TEXT NOT NULL,
    used_by TEXT,
    used_at TEXT
  ) STRICT;
  CREATE TABLE session (
    id TEXT PRIMARY KEY,
    person TEXT NOT NULL REFERENCES person(id) ON DELETE CASCADE,
    secret_hash TEXT NOT NULL UNIQUE,
    agent TEXT NOT NULL,
    address TEXT NOT NULL,
    created_at TEXT NOT NULL,
    used_at TEXT NOT NULL
  ) STRICT;
  CREATE INDEX session_by_person ON session (person);
  CREATE TABLE audit (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    at TEXT NOT NULL,
    person TEXT,
    name TEXT NOT NULL,
    action TEXT NOT NULL,
    project TEXT,
    detail TEXT NOT NULL,
    address TEXT NOT NULL
  ) STRICT;
  CREATE TABLE comment (
    id TEXT PRIMARY KEY,
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    person TEXT,
    name TEXT NOT NULL,
    text TEXT NOT NULL,
    place TEXT NOT NULL,
    created_at TEXT NOT NULL,
    done_at TEXT,
    done_by TEXT
  ) STRICT;
  CREATE INDEX comment_by_project ON comment (project_id, created_at);
  -- Names as they were then: they stay when a person goes, and travel in a project's file.
  ALTER TABLE edit ADD COLUMN person TEXT;
  ALTER TABLE edit ADD COLUMN by_name TEXT;
  ALTER TABLE kept_version ADD COLUMN by_name TEXT;
  ALTER TABLE run ADD COLUMN by_name TEXT;
  `,
  // Databases of the hours in which the counts of curves were not there yet.
  (db) => {
    const columns = db.prepare("SELECT name FROM pragma_table_info('curve')").pluck().all();
    if (!columns.includes('points')) db.exec(CURVE_COUNTS);
  },
  `
  -- What pages computed, by the keys of its inputs.
  CREATE TABLE kept_result (
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    kind TEXT NOT NULL,
    bytes BLOB NOT NULL,
    size INTEGER NOT NULL,
    used_at INTEGER NOT NULL,
    PRIMARY KEY (project_id, key)
  ) STRICT;
  CREATE INDEX kept_result_by_use ON kept_result (project_id, used_at);
  `,
  `
  -- Studies that the server makes, and every try of them as it comes.
  CREATE TABLE study (
    id TEXT PRIMARY KEY,
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    candidate TEXT NOT NULL,
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    input_json TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('running', 'paused', 'finished', 'failed')),
    done INTEGER NOT NULL DEFAULT 0,
    planned INTEGER NOT NULL DEFAULT 0,
    best_json TEXT,
    result_json TEXT,
    why TEXT,
    by_name TEXT,
    created_at TEXT NOT NULL,
    ended_at TEXT
  ) STRICT;
  CREATE INDEX study_by_project ON study (project_id, created_at);
  CREATE TABLE study_try (
    study_id TEXT NOT NULL REFERENCES study(id) ON DELETE CASCADE,
    ordinal INTEGER NOT NULL,
    json TEXT NOT NULL,
    PRIMARY KEY (study_id, ordinal)
  ) STRICT, WITHOUT ROWID;
  `,
  `
  -- Issues of reports: content as it was, whatever is edited later; and links by which one report is read without an account.
  CREATE TABLE report_issue (
    id TEXT PRIMARY KEY,
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    report_id TEXT NOT NULL,
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    note TEXT NOT NULL,
    by_name TEXT,
    content BLOB NOT NULL,
    created_at TEXT NOT NULL,
    UNIQUE (project_id, report_id, number)
  ) STRICT;
  CREATE TABLE report_link (
    token TEXT PRIMARY KEY,
    project_id TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE,
    report_id TEXT NOT NULL,
    issue_id TEXT REFERENCES report_issue(id) ON DELETE CASCADE,
    by_name TEXT,
    created_at TEXT NOT NULL
  ) STRICT;
  CREATE INDEX report_link_by_project ON report_link (project_id, created_at);
  `,
  // Facts of curves have grown: found anew when they are asked for.
  'UPDATE curve SET facts_json = NULL',
];
