/** The schema, one step after another; a step that has been released is never changed. */
export const migrations: readonly string[] = [
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
];
