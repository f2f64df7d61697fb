import type { Db } from './open';

/** Every statement on curves, their points, and the runs that solve them. */
export function runQueries(db: Db) {
  const listed = `SELECT c.id, c.key, c.version, t.name, t.section, c.input_json AS inputJson, c.facts_json AS factsJson,
    c.created_at AS at, c.points, c.solved, c.doubtful, c.unsolved`;
  const runs = `SELECT r.id, r.project_id AS projectId, r.name, r.state, r.priority, r.created_at AS createdAt, r.ended_at AS endedAt, r.by_name AS by,
    r.points, r.known, r.solved, r.doubtful, r.unsolved, r.tasks, r.failed,
    CASE WHEN r.failed > 0 THEN (SELECT min(error) FROM run_task t WHERE t.run_id = r.id AND t.state = 'failed') END AS error
    FROM run r`;
  return {
    run: db.prepare(`${runs} WHERE r.id = ?`),
    ofProject: db.prepare(`${runs} WHERE r.project_id IS ? ORDER BY r.created_at DESC, r.id`),
    plan: db.prepare('SELECT plan_json FROM run WHERE id = ?').pluck(),
    addRun: db.prepare(
      "INSERT INTO run (id, project_id, name, plan_json, state, priority, created_at) VALUES (?, ?, ?, ?, 'running', ?, ?)",
    ),
    curveId: db.prepare('SELECT id FROM curve WHERE key = ?').pluck(),
    addCurve: db.prepare('INSERT INTO curve (key, version, input_json, created_at) VALUES (?, ?, ?, ?)'),
    places: db.prepare('SELECT place FROM curve_point WHERE curve = ?').pluck(),
    solvedPlaces: db.prepare("SELECT place FROM curve_point WHERE curve = ? AND status <> 'unsolved'").pluck(),
    addTask: db.prepare(
      'INSERT INTO run_task (run_id, ordinal, curve, name, section, values_json, state, points, known) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
    ),
    next: db
      .prepare(
        `SELECT t.id FROM run_task t JOIN run r ON r.id = t.run_id WHERE t.state = 'waiting' AND r.state = 'running'
         AND NOT EXISTS (SELECT 1 FROM run_task o WHERE o.curve = t.curve AND o.state = 'running')
         ORDER BY r.priority DESC, r.created_at, t.ordinal LIMIT 1`,
      )
      .pluck(),
    task: db.prepare(
      `SELECT t.id, t.run_id AS runId, t.curve, c.input_json AS inputJson, t.values_json AS valuesJson, t.known_json AS knownJson, t.attempts, t.state
       FROM run_task t JOIN curve c ON c.id = t.curve WHERE t.id = ?`,
    ),
    begin: db.prepare(
      "UPDATE run_task SET state = 'running', attempts = attempts + 1, known_json = ?, known = ? WHERE id = ?",
    ),
    steps: db.prepare('SELECT json FROM task_step WHERE task = ? ORDER BY seq').pluck(),
    addStep: db.prepare('INSERT INTO task_step (task, seq, json) VALUES (?, ?, ?) ON CONFLICT DO NOTHING'),
    dropSteps: db.prepare('DELETE FROM task_step WHERE task = ?'),
    point: db.prepare('SELECT place, json, state FROM curve_point WHERE curve = ? AND place = ?'),
    unsolvedAt: db
      .prepare("SELECT json FROM curve_point WHERE curve = ? AND place = ? AND status = 'unsolved'")
      .pluck(),
    pointsOf: db.prepare('SELECT place, json FROM curve_point WHERE curve = ? ORDER BY place'),
    pointsWithState: db.prepare('SELECT place, json, state FROM curve_point WHERE curve = ? ORDER BY place'),
    addPoint: db.prepare(
      'INSERT INTO curve_point (curve, place, status, json, state) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
    ),
    dropPoint: db.prepare('DELETE FROM curve_point WHERE curve = ? AND place = ?'),
    count: {
      solved: db.prepare('UPDATE run_task SET solved = solved + 1 WHERE id = ?'),
      doubtful: db.prepare('UPDATE run_task SET doubtful = doubtful + 1 WHERE id = ?'),
      unsolved: db.prepare('UPDATE run_task SET unsolved = unsolved + 1 WHERE id = ?'),
    },
    setTask: db.prepare('UPDATE run_task SET state = ?, error = ? WHERE id = ?'),
    tasksIn: db.prepare('SELECT count(*) FROM run_task WHERE run_id = ?').pluck(),
    nameRun: db.prepare('UPDATE run SET name = ? WHERE id = ?'),
    uncount: db.prepare('UPDATE run_task SET attempts = attempts - 1 WHERE id = ?'),
    taskState: db.prepare('SELECT state FROM run_task WHERE id = ?').pluck(),
    open: db.prepare('SELECT open FROM run WHERE id = ?').pluck(),
    signRun: db.prepare('UPDATE run SET by_name = ? WHERE id = ?'),
    setRun: db.prepare('UPDATE run SET state = ?, ended_at = ? WHERE id = ?'),
    setPriority: db.prepare('UPDATE run SET priority = ? WHERE id = ?'),
    running: db.prepare("SELECT id FROM run WHERE state = 'running' ORDER BY created_at").pluck(),
    adrift: db.prepare(
      "UPDATE run_task SET state = 'waiting' WHERE state = 'running' AND id NOT IN (SELECT value FROM json_each(?))",
    ),
    recover: db.prepare("UPDATE run_task SET state = 'waiting' WHERE state = 'running'"),
    retry: db.prepare(
      "UPDATE run_task SET state = 'waiting', attempts = 0, error = NULL WHERE run_id = ? AND state = 'failed'",
    ),
    tasksOf: db.prepare("SELECT id FROM run_task WHERE run_id = ? AND state = 'running'").pluck(),
    removeRun: db.prepare('DELETE FROM run WHERE id = ?'),
    orphans: db.prepare('DELETE FROM curve WHERE NOT EXISTS (SELECT 1 FROM run_task t WHERE t.curve = curve.id)'),
    curves: db.prepare(
      `${listed}
       FROM curve c JOIN (SELECT curve, max(id) AS last FROM run_task WHERE run_id IN (SELECT id FROM run WHERE project_id IS @project) GROUP BY curve) m
         ON m.curve = c.id JOIN run_task t ON t.id = m.last
       WHERE @only IS NULL OR c.id IN (SELECT value FROM json_each(@only)) ORDER BY c.id`,
    ),
    curvesOfRun: db.prepare(
      `${listed} FROM run_task t JOIN curve c ON c.id = t.curve WHERE t.run_id = ? ORDER BY t.ordinal`,
    ),
    curve: db.prepare('SELECT id, key, version, input_json AS inputJson FROM curve WHERE id = ?'),
    keepFacts: db.prepare('UPDATE curve SET facts_json = ? WHERE id = ?'),
    inProject: db
      .prepare('SELECT 1 FROM run_task t JOIN run r ON r.id = t.run_id WHERE t.curve = ? AND r.project_id IS ? LIMIT 1')
      .pluck(),
    allPoints: db.prepare('SELECT count(*) FROM curve_point').pluck(),
  };
}
