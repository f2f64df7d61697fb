import { resolve } from 'node:path';
import pino from 'pino';
import request from 'supertest';
import { openDatabase } from '@veldtwind/store/open';
import { createApp, type AppParts } from './app';
import type { Config } from './config';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
let parts: AppParts;
let id: string;
const path = (rest = '') => `/api/v1/projects/${id}/versions${rest}`;
const state = async () =>
  (await request(parts.app).get(`/api/v1/projects/${id}`)).body as {
    version: number;
    undo: string | null;
    document: {
      brief: { speed: number };
      candidates: Record<string, { name: string; surfaces: { id: string }[] }>;
      sections: object;
    };
  };
const edit = async (changes: { part: string; value: unknown }[]) =>
  request(parts.app)
    .post(`/api/v1/projects/${id}/edits`)
    .send({ baseVersion: (await state()).version, label: 'Edit', changes })
    .expect(200);
const back = async (kept: string, baseVersion?: number) =>
  request(parts.app)
    .post(path(`/${kept}/restore`))
    .send({ baseVersion: baseVersion ?? (await state()).version });

beforeAll(async () => {
  parts = createApp(config, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  id = (
    (await request(parts.app).post('/api/v1/projects').send({ name: 'Seedsnipe', from: 'demo' })).body as { id: string }
  ).id;
});
afterAll(() => Promise.all([parts.engine.close(), parts.pool.close()]));

describe('kept versions of a project', () => {
  let kept = '';
  it('are the whole project under a name; going back is one edit, which can be undone', async () => {
    const first = await state();
    kept = (
      (await request(parts.app).post(path()).send({ name: ' Before the long wing ' }).expect(201)).body as {
        id: string;
      }
    ).id;
    await edit([
      { part: 'brief', value: { ...first.document.brief, speed: 33 } },
      { part: 'candidate:c', value: null },
      { part: 'surface:a.fin', value: null },
    ]);
    const changed = await state();
    expect(Object.keys(changed.document.candidates)).toEqual(['a', 'b']);
    await back(kept).then((r) => expect(r.status).toBe(200));
    const restored = await state();
    expect(restored.document).toEqual(first.document);
    expect(restored.undo).toBe('Back to “Before the long wing”');
    await request(parts.app).post(`/api/v1/projects/${id}/undo`).send({ baseVersion: restored.version }).expect(200);
    expect((await state()).document).toEqual(changed.document);
  });
  it('are listed newest first, travel with the project’s file, and can be forgotten', async () => {
    await request(parts.app).post(path()).send({ name: 'Second' }).expect(201);
    const list = async () =>
      ((await request(parts.app).get(path())).body as { versions: { id: string; name: string }[] }).versions;
    expect((await list()).map((v) => v.name)).toEqual(['Second', 'Before the long wing']);
    const file = await request(parts.app)
      .get(`/api/v1/projects/${id}/file`)
      .buffer()
      .parse((res, done) => {
        const pieces: Buffer[] = [];
        res.on('data', (d: Buffer) => pieces.push(d));
        res.on('end', () => done(null, Buffer.concat(pieces)));
      });
    const copy = (
      await request(parts.app)
        .post('/api/v1/projects/file')
        .set('content-type', 'application/zip')
        .send(file.body as Buffer)
        .expect(201)
    ).body as { id: string; left: string[] };
    expect(copy.left).toEqual([]);
    const theirs = (await request(parts.app).get(`/api/v1/projects/${copy.id}/versions`)).body as {
      versions: { name: string }[];
    };
    expect(theirs.versions.map((v) => v.name)).toEqual(['Second', 'Before the long wing']);
    await request(parts.app)
      .delete(path(`/${kept}`))
      .expect(204);
    expect(await list()).toHaveLength(1);
  });
  it('refuse what cannot be', async () => {
    const [second] = ((await request(parts.app).get(path())).body as { versions: { id: string }[] }).versions;
    const same = await back(second.id);
    expect([same.status, (same.body as { error: { code: string } }).error.code]).toEqual([400, 'nothing-to-restore']);
    expect((await back('none')).status).toBe(404);
    await edit([{ part: 'candidate:b', value: null }]);
    expect((await back(second.id, 0)).status).toBe(409);
    await request(parts.app).post(path()).send({ name: '  ' }).expect(400);
    await request(parts.app).delete(path('/none')).expect(404);
  });
});
