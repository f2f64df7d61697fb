import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import pino from 'pino';
import request from 'supertest';
import { designationSection, type SectionPart } from '@veldtwind/core/project';
import { createApp } from './app';
import type { Config } from './config';
import { migrations } from '@veldtwind/store/migrations';
import { openDatabase } from '@veldtwind/store/open';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const serve = (file = ':memory:') =>
  request(createApp(config, openDatabase(file), pino({ level: 'silent' }), resolve('.')).app);
const start = async () => {
  const api = serve();
  const { body } = await api.post('/api/v1/projects').send({ name: 'Sections', from: 'demo' }).expect(201);
  const id = body.id as string;
  let version = 0;
  const edit = async (changes: unknown[], status = 200) => {
    const reply = await api
      .post(`/api/v1/projects/${id}/edits`)
      .send({ baseVersion: version, label: 'x', changes })
      .expect(status);
    if (status === 200) version = reply.body.version as number;
    return reply.body as { error: { code: string; message: string } };
  };
  return { api, id, edit };
};
const part = (value: SectionPart) => ({ part: `section:${value.id}`, value });
const mix = (id: string, a: string, b: string): SectionPart => ({
  ...designationSection(id, id, '0012'),
  source: { kind: 'mix', a, b, fraction: 0.5 },
});

describe('sections on the server', () => {
  it('keep the text they were read from beside them, and give it back', async () => {
    const { api, id, edit } = await start();
    const { body } = await api.get(`/api/v1/projects/${id}/parts/original:spekboom-11`).expect(200);
    expect(body.fileName).toBe('spekboom-11.txt');
    expect(body.text).toMatch(/^Spekboom 11\n/);
    const state = await api.get(`/api/v1/projects/${id}`).expect(200);
    expect(JSON.stringify(state.body)).not.toContain(body.text.slice(20, 60));
    await edit([{ part: 'original:karoo-14', value: { id: 'karoo-14', fileName: 'k.txt', text: 'as it was' } }]);
    expect((await api.get(`/api/v1/projects/${id}/parts/original:karoo-14`)).body.text).toBe('as it was');
    await api.get(`/api/v1/projects/${id}/parts/original:none`).expect(404);
    await api.get(`/api/v1/projects/${id}/parts/secrets`).expect(400);
  });
  it('come packed or in full, and are the same', async () => {
    const { api, id } = await start();
    const full = (await api.get(`/api/v1/projects/${id}`)).body.document.sections;
    const packed = (await api.get(`/api/v1/projects/${id}?points=packed`)).body.document.sections;
    const text = packed['spekboom-11'].source.points as string;
    expect(typeof text).toBe('string');
    expect(JSON.parse(`[[${text}]]`)).toEqual(full['spekboom-11'].source.points);
    packed['spekboom-11'].source.points = full['spekboom-11'].source.points;
    expect(packed).toEqual(full);
  });
  it('refuse a mix that comes back to itself, and losing what a mix is made from', async () => {
    const { edit } = await start();
    await edit([part(mix('one', 'karoo-12', 'karoo-14'))]);
    await edit([part(mix('two', 'one', 'sedge-9'))]);
    expect((await edit([part(mix('one', 'two', 'sedge-9'))], 400)).error).toMatchObject({ code: 'section-circle' });
    expect((await edit([{ part: 'section:one', value: null }], 400)).error.message).toMatch(/used by the mix two/);
    expect((await edit([part(mix('three', 'nowhere', 'sedge-9'))], 400)).error.code).toBe('section-missing');
    await edit([
      { part: 'section:two', value: null },
      { part: 'section:one', value: null },
    ]);
  });
  it('refuse a step outside its limits with the nearest that works', async () => {
    const { edit } = await start();
    const bad = {
      ...designationSection('s', 'S', '0012'),
      steps: [{ kind: 'hinge', x: 1.4, angleDeg: 3, height: 0.5, joint: 0.01 }],
    };
    expect((await edit([{ part: 'section:s', value: bad }], 400)).error.message).toMatch(/Nearest that works: 0.98/);
  });
  it('take a thousand files in one edit, and take them back in one', async () => {
    const { api, id, edit } = await start();
    const changes = Array.from({ length: 1000 }, (_, k) => [
      part({ ...designationSection(`f${k}`, `File ${k}`, '0012'), fileName: `${k}.txt` }),
      { part: `original:f${k}`, value: { id: `f${k}`, fileName: `${k}.txt`, text: 'x' } },
    ]).flat();
    await edit(changes);
    const many = (await api.get(`/api/v1/projects/${id}`)).body;
    expect(Object.keys(many.document.sections)).toHaveLength(1005);
    await api.post(`/api/v1/projects/${id}/undo`).send({ baseVersion: many.version }).expect(200);
    expect(Object.keys((await api.get(`/api/v1/projects/${id}`)).body.document.sections)).toHaveLength(5);
    await api.get(`/api/v1/projects/${id}/parts/original:f3`).expect(404);
  });
});

it('brings a database from before the recipes up: texts become parts of their own', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'veldtwind-')), 'old.sqlite');
  const old = new Database(file);
  old.exec(migrations[0] as string);
  old.pragma('user_version = 1');
  const brief = { speed: 20, altitude: 0, mass: 5, spanLimit: null, bands: {}, note: '' };
  old.prepare("INSERT INTO project VALUES ('p', 'Old', 1, 3, '2026-01-01', '2026-01-01')").run();
  const put = old.prepare("INSERT INTO part VALUES ('p', ?, ?)");
  put.run('brief', JSON.stringify(brief));
  const source = { kind: 'designation', designation: '0012', trailingEdge: 'sharp' };
  put.run(
    'section:a',
    JSON.stringify({ id: 'a', name: 'A', source, note: 'n', original: { fileName: 'a.dat', text: '1 0\n"quoted"' } }),
  );
  put.run('section:b', JSON.stringify({ id: 'b', name: 'B', source, note: '' }));
  old.close();
  const api = serve(file);
  const { body } = await api.get('/api/v1/projects/p').expect(200);
  expect(body.document.sections.a).toEqual({
    id: 'a',
    name: 'A',
    source,
    note: 'n',
    fileName: 'a.dat',
    steps: [],
    tags: [],
  });
  expect(body.document.sections.b.fileName).toBeUndefined();
  expect((await api.get('/api/v1/projects/p/parts/original:a')).body).toEqual({
    id: 'a',
    fileName: 'a.dat',
    text: '1 0\n"quoted"',
  });
});
