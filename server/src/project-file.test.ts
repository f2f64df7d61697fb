import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import pino from 'pino';
import request from 'supertest';
import { inputsOfEvaluation } from '@veldtwind/core/candidate';
import { keyOfResult } from '@veldtwind/core/analysis';
import { createApp } from './app';
import type { Config } from './config';
import { migrations } from '@veldtwind/store/migrations';
import { openDatabase, type Db } from '@veldtwind/store/open';
import { RESULT_BUDGET, makeShrinkable, upkeep } from '@veldtwind/store/upkeep';
import { ResultStore } from '@veldtwind/store/results';
import { forgetHalfImports, readProjectFile } from '@veldtwind/store/project-file/read';
import { writeProjectFile } from '@veldtwind/store/project-file/write';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const newFile = () => join(mkdtempSync(join(tmpdir(), 'veldtwind-')), 'p.sqlite');
const serve = (file = ':memory:') => {
  const db = openDatabase(file);
  const made = createApp(config, db, pino({ level: 'silent' }), resolve('.'));
  pools.push(made.pool);
  return { db, api: request(made.app) };
};
const pools: { close: () => Promise<void> }[] = [];
afterAll(() => Promise.all(pools.map((p) => p.close())));
type Api = ReturnType<typeof serve>['api'];

async function demo(api: Api): Promise<string> {
  const id = (await api.post('/api/v1/projects').send({ name: 'Seedsnipe', from: 'demo' })).body.id as string;
  const { body } = await api.get(`/api/v1/projects/${id}`);
  for (const speed of [27, 0.1 + 0.2 + 25, 29]) {
    const { version } = (await api.get(`/api/v1/projects/${id}`)).body;
    await api
      .post(`/api/v1/projects/${id}/edits`)
      .send({
        baseVersion: version,
        label: 'Speed',
        changes: [{ part: 'brief', value: { ...body.document.brief, speed } }],
      })
      .expect(200);
  }
  await api.post(`/api/v1/projects/${id}/undo`).send({ baseVersion: 3 }).expect(200);
  return id;
}
const download = async (api: Api, id: string): Promise<Buffer> =>
  (
    await api
      .get(`/api/v1/projects/${id}/file`)
      .buffer()
      .parse((res, done) => {
        const pieces: Buffer[] = [];
        res.on('data', (d: Buffer) => pieces.push(d));
        res.on('end', () => done(null, Buffer.concat(pieces)));
      })
      .expect(200)
  ).body as Buffer;
const send = (api: Api, file: Uint8Array) =>
  api.post('/api/v1/projects/file').set('content-type', 'application/zip').send(Buffer.from(file));
const rows = (db: Db, id: string) => ({
  parts: db.prepare('SELECT key, json, version FROM part WHERE project_id = ? ORDER BY key').all(id),
  edits: db
    .prepare(
      `SELECT e.label, e.state, e.version, e.created_at, c.part, c.before_json, c.after_json FROM edit e
       JOIN edit_change c ON c.edit_id = e.id WHERE project_id = ? ORDER BY e.id, c.part`,
    )
    .all(id),
});
const onDisk = (bytes: Uint8Array) => {
  const path = newFile();
  writeFileSync(path, bytes);
  return path;
};

describe('a project as a file', () => {
  it('comes back with every number to the last bit, its history and its originals, in another database', async () => {
    const [one, two] = [serve(newFile()), serve(newFile())];
    const id = await demo(one.api);
    await one.api
      .post(`/api/v1/projects/${id}/edits`)
      .send({
        baseVersion: 4,
        label: 'Original',
        changes: [
          { part: 'original:karoo-12', value: { id: 'karoo-12', fileName: 'k.txt', text: 'Karoo\r\n1 0\u2028' } },
        ],
      })
      .expect(200);
    const made = await send(two.api, await download(one.api, id)).expect(201);
    expect(made.body).toMatchObject({ name: 'Seedsnipe', edits: 4, left: [] });
    expect(rows(two.db, made.body.id)).toEqual(rows(one.db, id));
    const [before, after] = [
      (await one.api.get(`/api/v1/projects/${id}`)).body,
      (await two.api.get(`/api/v1/projects/${made.body.id}`)).body,
    ];
    expect(after.document).toEqual(before.document);
    expect([after.version, after.undo, after.redo]).toEqual([before.version, before.undo, before.redo]);
    // Undo goes on where it was.
    await two.api.post(`/api/v1/projects/${made.body.id}/undo`).send({ baseVersion: after.version }).expect(200);
    await two.api
      .post(`/api/v1/projects/${made.body.id}/undo`)
      .send({ baseVersion: after.version + 1 })
      .expect(200);
    expect((await two.api.get(`/api/v1/projects/${made.body.id}`)).body.document.brief.speed).toBe(27);
  });
  it('is open: JSON and CSV that other programs read', async () => {
    const { api } = serve();
    const files = unzipSync(await download(api, await demo(api)));
    const text = (name: string) => strFromU8(files[name]);
    expect(JSON.parse(text('project.json'))).toMatchObject({ format: 'veldtwind-project', formatVersion: 1 });
    for (const line of text('parts.jsonl').trimEnd().split('\n')) expect(Object.keys(JSON.parse(line))[0]).toBe('key');
    expect(text('history.csv').split(/\r?\n/)[0]).toBe('version,label,state,createdAt,by');
    expect(text('mass-items.csv')).toMatch(/massKg/);
    expect(Object.keys(files).some((f) => /^coordinates\/.*\.csv$/.test(f))).toBe(true);
  });
  it('brings kept results along, and none that answers another question', async () => {
    const [one, two] = [serve(), serve()];
    const id = await demo(one.api);
    const input = inputsOfEvaluation((await one.api.get(`/api/v1/projects/${id}`)).body.document, 'a');
    const computed = await one.api.post('/api/v1/results/evaluation').send(input).expect(200);
    const file = unzipSync(await download(one.api, id));
    const made = await send(two.api, zipSync(file)).expect(201);
    expect(made.body.results).toBe(1);
    const kept = await two.api.post('/api/v1/results/evaluation').send(input).expect(200);
    expect(kept.body).toEqual({ ...computed.body, computed: false });
    const line = JSON.parse(strFromU8(file['results.jsonl'])) as { key: string };
    const other = serve();
    file['results.jsonl'] = strToU8(`${JSON.stringify({ ...line, key: 'f'.repeat(32) })}\n`);
    const refused = await send(other.api, zipSync(file)).expect(201);
    expect([refused.body.results, refused.body.left[0]]).toEqual([0, expect.stringMatching(/not that of its input/)]);
    expect(keyOfResult('evaluation', input)).toBe(line.key);
  });
  it('is larger than any request may be, and comes in as it is read', async () => {
    const { db, api } = serve(newFile());
    const id = await demo(api);
    const text = Array.from({ length: 40_000 }, (_, k) => `${Math.sin(k)} ${Math.cos(7 * k)}`).join('\n');
    const put = db.prepare('INSERT INTO part (project_id, key, json, version, seal) VALUES (?, ?, ?, 1, 0)');
    for (let k = 0; k < 30; k++)
      put.run(id, `original:o${k}`, JSON.stringify({ id: `o${k}`, fileName: 'o.txt', text: text + String(k) }));
    const file = await download(api, id);
    expect(Object.values(unzipSync(file)).reduce((sum, f) => sum + f.length, 0)).toBeGreaterThan(40e6);
    const made = await readProjectFile(db, onDisk(file));
    expect(made.left).toEqual([]);
    expect(rows(db, made.id).parts).toEqual(rows(db, id).parts);
  });
  it('shows an edit made meanwhile neither half nor whole', async () => {
    const { db, api } = serve(newFile());
    const id = await demo(api);
    const pieces: Uint8Array[] = [];
    for await (const piece of writeProjectFile(db, id)) {
      pieces.push(piece);
      db.prepare("UPDATE part SET json = '{}' WHERE project_id = ? AND key = 'brief'").run(id);
    }
    const parts = strFromU8(unzipSync(Buffer.concat(pieces))['parts.jsonl']);
    const brief = parts.split('\n').find((line) => line.startsWith('{"key":"brief"'))!;
    expect(JSON.parse(brief)).toMatchObject({ value: { altitude: 600 } });
  });
});

describe('a file that is not whole', () => {
  const made = async () => {
    const { db, api } = serve();
    const file = await download(api, await demo(api));
    return { db, api, file, files: unzipSync(file) };
  };
  const nothingLeft = (db: Db) =>
    expect([
      db.prepare('SELECT count(*) FROM project').pluck().get(),
      db.prepare('SELECT count(DISTINCT project_id) FROM part').pluck().get(),
    ]).toEqual([1, 1]);
  it('is refused wherever it is cut off, and nothing of it stays', async () => {
    const { db, api, file } = await made();
    for (const share of [0.02, 0.3, 0.6, 0.8, 0.95]) {
      const res = await send(api, file.subarray(0, Math.floor(share * file.length)));
      expect([res.status, res.body.error.code]).toEqual([400, 'project-file']);
    }
    nothingLeft(db);
  });
  it.each<[string, (f: Record<string, Uint8Array>) => void, RegExp]>([
    ['without its head', (f) => delete f['project.json'], /no project.json/],
    ['without its end', (f) => delete f['end.json'], /not complete/],
    [
      'with a part gone',
      (f) => (f['parts.jsonl'] = strToU8(strFromU8(f['parts.jsonl']).replace(/.*\n/, ''))),
      /not complete/,
    ],
    [
      'of another program',
      (f) => (f['project.json'] = strToU8('{"format":"other"}')),
      /not that of a Veldtwind project/,
    ],
    [
      'of a newer version',
      (f) =>
        (f['project.json'] = strToU8(strFromU8(f['project.json']).replace('"formatVersion": 1', '"formatVersion": 9'))),
      /newer Veldtwind/,
    ],
    ['whose head is no JSON', (f) => (f['project.json'] = strToU8('{')), /not JSON/],
    ['nested without end', (f) => (f['project.json'] = strToU8('['.repeat(1e6))), /nested/],
    [
      'where a section is missing',
      (f) => {
        const lines = strFromU8(f['parts.jsonl']).trimEnd().split('\n');
        f['parts.jsonl'] = strToU8(
          lines.map((l) => (l.includes('"key":"section:karoo-14"') ? lines[0] : l)).join('\n') + '\n',
        );
      },
      /karoo-14/,
    ],
  ])('%s is refused with the reason', async (_, change, why) => {
    const { db, api, files } = await made();
    change(files);
    const res = await send(api, zipSync(files));
    expect(res.status).toBe(400);
    expect(res.body.error.message).toMatch(why);
    nothingLeft(db);
  });
  it('that is none at all is refused', async () => {
    const { db, api } = await made();
    expect((await send(api, strToU8('hello'))).body.error.message).toMatch(/no zip/);
    expect((await send(api, new Uint8Array(0))).body.error.message).toMatch(/no zip/);
    expect((await api.post('/api/v1/projects/file').send({})).status).toBe(415);
    nothingLeft(db);
  });
  it('with hostile lines loses those, and says so', async () => {
    const { api, files } = await made();
    const extra = [
      '{"key":"constructor","version":1,"value":{}}',
      '{"key":"section:x","version":1,"value":{"id":"y"}}',
      'no json',
      '['.repeat(100_000),
    ];
    files['parts.jsonl'] = strToU8(`${strFromU8(files['parts.jsonl'])}${extra.join('\n')}\n`);
    const end = JSON.parse(strFromU8(files['end.json'])) as { parts: number };
    files['end.json'] = strToU8(JSON.stringify({ ...end, parts: end.parts + extra.length }));
    const res = await send(api, zipSync(files)).expect(201);
    expect(res.body.left).toHaveLength(4);
    const state = await api.get(`/api/v1/projects/${res.body.id}`).expect(200);
    expect(Object.keys(state.body.document.candidates)).toEqual(['a', 'b', 'c']);
  });
  it('ended in its midst is not shown, and is taken away at the next start', async () => {
    const { db, api, file } = await made();
    // As it is when the process ends between two of its transactions.
    const run = readProjectFile(db, onDisk(file));
    for (let k = 0; k < 200 && db.prepare('SELECT count(*) FROM project').pluck().get() === 1; k++)
      await new Promise((go) => setImmediate(go));
    expect(db.prepare('SELECT count(*) FROM project').pluck().get()).toBe(2);
    expect((await api.get('/api/v1/projects')).body.projects).toHaveLength(1);
    const hidden = db.prepare('SELECT id FROM project WHERE importing = 1').pluck().get();
    expect((await api.get(`/api/v1/projects/${String(hidden)}`)).status).toBe(404);
    forgetHalfImports(db);
    nothingLeft(db);
    await run.catch(() => undefined);
  });
});

describe('upkeep', () => {
  const fill = (db: Db, count: number, size: number) => {
    const put = db.prepare(
      'INSERT INTO result (key, kind, method_version, input_json, output, created_at, used_at) VALUES (?, ?, 1, ?, ?, ?, ?)',
    );
    for (let k = 0; k < count; k++) {
      const at = new Date(Date.UTC(2026, 0, 1 + k)).toISOString();
      put.run(String(k).padStart(32, '0'), 'lift', '{}', Buffer.alloc(size, k), at, at);
    }
  };
  const left = (db: Db) => db.prepare('SELECT count(*) FROM result').pluck().get();
  it('lets go of results that are long unused, and of the oldest beyond the budget', async () => {
    const db = openDatabase(newFile());
    fill(db, 40, 1000);
    const now = new Date(Date.UTC(2026, 0, 40));
    expect((await upkeep(db, now, RESULT_BUDGET)).results).toBe(0);
    expect((await upkeep(db, now, 20 * 1002)).results).toBe(20);
    // The newest stay.
    expect(db.prepare('SELECT min(used_at) FROM result').pluck().get()).toMatch(/^2026-01-21/);
    expect((await upkeep(db, new Date(Date.UTC(2026, 3, 25)), RESULT_BUDGET)).results).toBe(4);
    expect(left(db)).toBe(16);
  });
  it('asking for a result keeps it', () => {
    const db = openDatabase(':memory:');
    const store = new ResultStore(db);
    store.put('a'.repeat(32), 'lift', 1, '{}', '1');
    db.prepare("UPDATE result SET used_at = '2020-01-01'").run();
    expect(store.get('a'.repeat(32))).toBe('1');
    expect(store.collect(new Date(Date.now() - 1e6), 1e9)).toBe(0);
    expect(left(db)).toBe(1);
  });
  it('gives the room back to the disk, also in files of earlier versions', async () => {
    const old = newFile();
    const raw = new Database(old);
    raw.pragma('journal_mode = WAL');
    raw.exec(migrations[0] as string);
    raw.pragma('user_version = 1');
    raw.close();
    for (const file of [newFile(), old]) {
      const db = openDatabase(file);
      makeShrinkable(db);
      expect(db.pragma('auto_vacuum', { simple: true })).toBe(2);
      fill(db, 60, 200_000);
      db.pragma('wal_checkpoint(TRUNCATE)');
      expect(readFileSync(file).length).toBeGreaterThan(12e6);
      expect((await upkeep(db, new Date(Date.UTC(2030, 0, 1)))).bytes).toBeGreaterThan(11e6);
      expect(readFileSync(file).length).toBeLessThan(1e6);
      expect(db.pragma('quick_check(1)', { simple: true })).toBe('ok');
      db.close();
    }
  });
});
