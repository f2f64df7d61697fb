import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { openDatabase } from './open';
import { PeopleStore } from './people';
import { ProjectStore } from './projects';
import { readProjectFile } from './project-file/read';
import { RunStore } from './runs';
import { VersionStore } from './versions';

/**
 * Databases and project files as the program of each landed state wrote them: one project with two edits of which the second was taken back, a kept
 * version and a run of polars where there were such things. `facts.json` says what that program told of the project.
 */
const LANDED = resolve('store/src/testing/landed');
interface Facts {
  state: string;
  name: string;
  version: number;
  undo: string;
  redo: string;
  speed: number;
  mass: number;
  sections: string[];
  candidates: string[];
  surfaces: string[];
  spans: number[];
  massItems: [string, number][];
  kept: boolean;
  file: boolean;
  points: number;
}
const states = JSON.parse(readFileSync(join(LANDED, 'facts.json'), 'utf8')) as Facts[];
let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'landed-'))));
afterEach(() => rmSync(folder, { recursive: true }));

function holds(store: ProjectStore, id: string, f: Facts): void {
  const { document, unread, ...row } = store.state(id);
  expect(unread).toEqual([]);
  expect([row.name, row.version, row.undo, row.redo]).toEqual([f.name, f.version, f.undo, f.redo]);
  const [candidate] = Object.values(document.candidates);
  expect({
    speed: document.brief.speed,
    mass: document.brief.mass,
    sections: Object.keys(document.sections).sort(),
    candidates: Object.keys(document.candidates).sort(),
    surfaces: candidate.surfaces.map((s) => s.name),
    spans: candidate.surfaces.map((s) => s.bays.reduce((sum, b) => sum + b.span, 0)),
    massItems: candidate.massItems.map((m) => [m.name, m.mass]),
  }).toEqual({
    speed: f.speed,
    mass: f.mass,
    sections: f.sections,
    candidates: f.candidates,
    surfaces: f.surfaces,
    spans: f.spans,
    massItems: f.massItems,
  });
}

describe.each(states.map((f) => [f.state, f] as const))('what landed as %s', (state, f) => {
  it('opens with all that was in it, and its steps can be taken on', () => {
    const path = join(folder, 'd.sqlite');
    writeFileSync(path, gunzipSync(readFileSync(join(LANDED, `${state}.sqlite.gz`))));
    const db = openDatabase(path);
    try {
      const store = new ProjectStore(db);
      const [{ id }] = store.list();
      holds(store, id, f);
      expect(store.step(id, f.version, 'redo')?.label).toBe(f.redo);
      expect(store.state(id).document.brief.speed).toBe(33);
      store.step(id, f.version + 1, 'undo');
      store.step(id, f.version + 2, 'undo');
      expect(store.state(id).document.brief.speed).not.toBe(f.speed);
      const { document } = store.state(id);
      store.edit(id, f.version + 3, 'On', [{ part: 'brief', value: { ...document.brief, speed: 29 } }]);
      expect(store.state(id).document.brief.speed).toBe(29);
      const versions = new VersionStore(db, store);
      const kept = versions.list(id);
      expect(kept).toHaveLength(f.kept ? 1 : 0);
      for (const { id: which } of kept) expect(versions.document(id, which).document.brief.speed).toBe(f.speed);
      const runs = new RunStore(db);
      const points = runs.curves(id).flatMap((c) => runs.points(c.id));
      expect(points).toHaveLength(f.points);
      expect(new PeopleStore(db).comments(id)).toEqual([]);
      expect(db.pragma('foreign_key_check')).toEqual([]);
    } finally {
      db.close();
    }
    // Once more: nothing is brought up twice.
    openDatabase(path).close();
  });
  if (f.file)
    it('is read from its project file with all that was in it', async () => {
      const db = openDatabase(':memory:');
      const read = await readProjectFile(db, join(LANDED, `${state}.zip`));
      expect(read.left).toEqual([]);
      const store = new ProjectStore(db);
      holds(store, read.id, f);
      expect((store.history(read.id, 10) as { label: string }[]).map((e) => e.label)).toEqual(['Speed 33', 'Speed 31']);
      expect(new VersionStore(db, store).list(read.id)).toHaveLength(f.kept ? 1 : 0);
      db.close();
    });
});

it('some of them had polars', () => {
  expect(states.filter((f) => f.points > 0).length).toBeGreaterThan(2);
});
it('nothing lies among them that is not asked for', () => {
  const asked = states.flatMap((f) => [`${f.state}.sqlite.gz`, ...(f.file ? [`${f.state}.zip`] : [])]);
  expect(readdirSync(LANDED).sort()).toEqual([...asked, 'facts.json'].sort());
});
