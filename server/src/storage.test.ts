import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import pino from 'pino';
import request from 'supertest';
import { freshBrief, type ProjectDocument } from '@veldtwind/core/project';
import { createApp } from './app';
import type { Config } from './config';
import { migrations } from '@veldtwind/store/migrations';
import { openDatabase } from '@veldtwind/store/open';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const newFile = () => join(mkdtempSync(join(tmpdir(), 'veldtwind-')), 's.sqlite');
const serve = (file: string) => {
  const db = openDatabase(file);
  return { db, api: request(createApp(config, db, pino({ level: 'silent' }), resolve('.')).app) };
};
const fixture = (
  JSON.parse(readFileSync(resolve('core/src/project/fixtures/document-1.json'), 'utf8')) as {
    document: ProjectDocument;
  }
).document;

/** A database as the version before parts said their versions left it. */
function oldDatabase(): string {
  const file = newFile();
  const old = new Database(file);
  old.exec(migrations[0] as string);
  old.exec(migrations[1] as string);
  old.pragma('user_version = 2');
  old.prepare("INSERT INTO project VALUES ('p', 'Old', 1, 2, '2026-01-01', '2026-01-01')").run();
  const put = old.prepare("INSERT INTO part VALUES ('p', ?, ?)");
  put.run('brief', JSON.stringify(fixture.brief));
  for (const [id, s] of Object.entries(fixture.sections)) put.run(`section:${id}`, JSON.stringify(s));
  for (const [id, c] of Object.entries(fixture.candidates)) put.run(`candidate:${id}`, JSON.stringify(c));
  // Two edits of before: a candidate changed whole, and one taken away and brought back by undo.
  const { a } = fixture.candidates;
  const was = { ...a, name: 'As it was', surfaces: a.surfaces.slice(0, 1) };
  old.prepare("INSERT INTO edit VALUES (1, 'p', NULL, 'Surfaces of A', 'done', 1, '2026-01-01')").run();
  old.prepare("INSERT INTO edit_change VALUES (1, 'candidate:a', ?, ?)").run(JSON.stringify(was), JSON.stringify(a));
  old.close();
  return file;
}

describe('a database of the version before', () => {
  it('opens with every number, its candidates in parts', async () => {
    const { api, db } = serve(oldDatabase());
    const { body } = await api.get('/api/v1/projects/p').expect(200);
    expect(body.unread).toEqual([]);
    expect(body.document.candidates).toEqual(
      Object.fromEntries(Object.entries(fixture.candidates).map(([id, c]) => [id, { ...c, bodies: [] }])),
    );
    expect(body.document.sections).toEqual(fixture.sections);
    const keys = db.prepare("SELECT key FROM part WHERE key LIKE 'surface:a.%' ORDER BY key").pluck().all();
    expect(keys).toEqual(fixture.candidates.a.surfaces.map((s) => `surface:a.${s.id}`).sort());
    expect((await api.get('/api/v1/projects/p/parts/candidate:a').expect(200)).body).toEqual({
      ...fixture.candidates.a,
      bodies: [],
    });
    expect((await api.get('/api/v1/projects/p/parts/surface:a.wing').expect(200)).body.name).toBe('Wing');
  });
  it('undoes and does again edits of before, whole as they were', async () => {
    const { api } = serve(oldDatabase());
    const undone = await api.post('/api/v1/projects/p/undo').send({ baseVersion: 2 }).expect(200);
    const after = (await api.get('/api/v1/projects/p')).body.document.candidates.a;
    expect(after).toMatchObject({ name: 'As it was' });
    expect(after.surfaces).toHaveLength(1);
    // A client that applies what it is told comes to the same.
    const parts = undone.body.changes.map((c: { part: string }) => c.part);
    expect(parts).toEqual(expect.arrayContaining(['candidate:a', 'surface:a.wing']));
    await api.post('/api/v1/projects/p/redo').send({ baseVersion: 3 }).expect(200);
    expect((await api.get('/api/v1/projects/p')).body.document.candidates.a).toEqual({
      ...fixture.candidates.a,
      bodies: [],
    });
  });
  it('goes on refusing what would break it', async () => {
    const { api } = serve(oldDatabase());
    const used = fixture.candidates.a.surfaces[0].stations[0].section;
    const reply = await api
      .post('/api/v1/projects/p/edits')
      .send({ baseVersion: 2, label: 'x', changes: [{ part: `section:${used}`, value: null }] })
      .expect(400);
    expect(reply.body.error.code).toBe('section-in-use');
  });
});

describe('stored parts that were touched from outside', () => {
  const start = async () => {
    const file = newFile();
    const { api, db } = serve(file);
    const { body } = await api.post('/api/v1/projects').send({ name: 'T', from: 'demo' });
    const set = (key: string, json: string, version = 1) =>
      db.prepare('UPDATE part SET json = ?, version = ? WHERE key = ?').run(json, version, key);
    return { api, db, id: body.id as string, document: body.document as ProjectDocument, set };
  };
  it('are checked: a row without a field is told and kept, never shown as it is', async () => {
    const { api, db, id, document, set } = await start();
    const { name: _name, ...nameless } = document.sections['sedge-9'];
    set('section:sedge-9', JSON.stringify(nameless));
    const { body } = await api.get(`/api/v1/projects/${id}`).expect(200);
    expect(body.document.sections['sedge-9']).toBeUndefined();
    expect(body.unread).toEqual([expect.objectContaining({ key: 'section:sedge-9', why: 'damaged' })]);
    expect(db.prepare("SELECT json FROM part WHERE key = 'section:sedge-9'").pluck().get()).toBe(
      JSON.stringify(nameless),
    );
    // It can be mended.
    await api
      .post(`/api/v1/projects/${id}/edits`)
      .send({ baseVersion: 0, label: 'm', changes: [{ part: 'section:sedge-9', value: document.sections['sedge-9'] }] })
      .expect(200);
    expect((await api.get(`/api/v1/projects/${id}`)).body.unread).toEqual([]);
  });
  it('of a newer version are kept and said, and not written over', async () => {
    const { api, id, document, set } = await start();
    set('section:sedge-9', '{"from":"the future"}', 99);
    const { body } = await api.get(`/api/v1/projects/${id}`).expect(200);
    expect(body.unread[0]).toMatchObject({ key: 'section:sedge-9', why: 'newer' });
    const refused = await api
      .post(`/api/v1/projects/${id}/edits`)
      .send({ baseVersion: 0, label: 'm', changes: [{ part: 'section:sedge-9', value: document.sections['sedge-9'] }] })
      .expect(400);
    expect(refused.body.error.code).toBe('part-newer');
    await api.get(`/api/v1/projects/${id}/parts/section:sedge-9`).expect(400);
  });
  it('that are no JSON, and a project without a brief, still open', async () => {
    const { api, id, set } = await start();
    set('brief', '{broken');
    const { body } = await api.get(`/api/v1/projects/${id}`).expect(200);
    expect(body.document.brief).toEqual(freshBrief());
    expect(body.unread[0]).toMatchObject({ key: 'brief', why: 'damaged' });
  });
});

describe('edits by parts', () => {
  it('write only what they touch', async () => {
    const { api, db } = serve(newFile());
    const { body } = await api.post('/api/v1/projects').send({ name: 'T', from: 'demo' });
    const wing = body.document.candidates.a.surfaces[0];
    await api
      .post(`/api/v1/projects/${body.id}/edits`)
      .send({ baseVersion: 0, label: 'w', changes: [{ part: 'surface:a.wing', value: { ...wing, incidenceDeg: 2 } }] })
      .expect(200);
    const bytes = db.prepare('SELECT sum(length(after_json)) FROM edit_change').pluck().get() as number;
    expect(bytes).toBeLessThan(800);
    const now = (await api.get(`/api/v1/projects/${body.id}`)).body.document.candidates.a;
    expect(now).toEqual({
      ...body.document.candidates.a,
      surfaces: [{ ...wing, incidenceDeg: 2 }, ...now.surfaces.slice(1)],
    });
  });
  it('lead a client that missed some to the present, by parts', async () => {
    const { api } = serve(newFile());
    const { body } = await api.post('/api/v1/projects').send({ name: 'T', from: 'demo' });
    const brief = (v: number, speed: number) =>
      api.post(`/api/v1/projects/${body.id}/edits`).send({
        baseVersion: v,
        label: `s${v}`,
        changes: [{ part: 'brief', value: { ...body.document.brief, speed } }],
      });
    await brief(0, 30).expect(200);
    await brief(1, 31).expect(200);
    await api.post(`/api/v1/projects/${body.id}/undo`).send({ baseVersion: 2 }).expect(200);
    const since = await api.get(`/api/v1/projects/${body.id}/changes?version=1`).expect(200);
    expect(since.body).toMatchObject({ version: 3, since: 1, undo: 's0', redo: 's1' });
    expect(since.body.changes).toEqual([{ part: 'brief', value: { ...body.document.brief, speed: 30 } }]);
    expect(since.body.document).toBeUndefined();
    // From a version that is not known, everything.
    const all = await api.get(`/api/v1/projects/${body.id}/changes?version=77`).expect(200);
    expect(all.body.document.brief.speed).toBe(30);
  });
  it('refuse what belongs to nothing, goes in circles, or is given twice', async () => {
    const { api } = serve(newFile());
    const { body } = await api.post('/api/v1/projects').send({ name: 'T', from: 'demo' });
    const wing = body.document.candidates.a.surfaces[0];
    const post = async (changes: unknown[]) =>
      (await api.post(`/api/v1/projects/${body.id}/edits`).send({ baseVersion: 0, label: 'x', changes }).expect(400))
        .body.error.code as string;
    expect(await post([{ part: 'surface:ghost.wing', value: wing }])).toBe('candidate-missing');
    expect(
      await post([
        { part: 'brief', value: body.document.brief },
        { part: 'brief', value: body.document.brief },
      ]),
    ).toBe('part-twice');
    const mix = (id: string, a: string) => ({
      part: `section:${id}`,
      value: { id, name: id, source: { kind: 'mix', a, b: a, fraction: 0.5 }, steps: [], tags: [], note: '' },
    });
    const chain = Array.from({ length: 12 }, (_, k) => mix(`m${k + 1}`, k === 0 ? 'sedge-9' : `m${k}`));
    expect(await post(chain)).toBe('section-depth');
    expect(await post([mix('m1', 'm2'), mix('m2', 'm1')])).toBe('section-circle');
    // A document with the same faults is not taken either.
    const broken = structuredClone(body.document);
    broken.candidates.a.surfaces[0].stations[0].section = 'ghost';
    const made = await api.post('/api/v1/projects').send({ name: 'B', document: broken }).expect(400);
    expect(made.body.error.code).toBe('section-missing');
    expect((await api.get('/api/v1/projects')).body.projects).toHaveLength(1);
  });
});
