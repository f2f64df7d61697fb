import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import pino from 'pino';
import request from 'supertest';
import { freshProject } from '@veldtwind/core/project';
import { createApp } from './app';
import { readConfig, type Config } from './config';
import { openDatabase } from '@veldtwind/store/open';

const root = resolve('.');
const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const make = (over: Partial<Config> = {}, file = ':memory:') => {
  const db = openDatabase(file);
  const { app } = createApp({ ...config, ...over }, db, pino({ level: 'silent' }), root);
  return { db, api: request(app) };
};
const start = async () => {
  const { api, db } = make();
  const { body } = await api.post('/api/v1/projects').send({ name: 'Test', from: 'demo' }).expect(201);
  return { api, db, id: body.id as string, document: body.document as ReturnType<typeof freshProject> };
};

describe('projects', () => {
  it('start empty, from the demo, or from a document, and are listed', async () => {
    const { api, id } = await start();
    await api.post('/api/v1/projects').send({ name: 'Empty' }).expect(201);
    const own = await api.post('/api/v1/projects').send({ name: 'Own', document: freshProject() }).expect(201);
    expect(own.body.document).toEqual(freshProject());
    const { body } = await api.get('/api/v1/projects').expect(200);
    expect(body.projects.map((p: { name: string }) => p.name).sort()).toEqual(['Empty', 'Own', 'Test']);
    await api.patch(`/api/v1/projects/${id}`).send({ name: 'Renamed' }).expect(200);
    await api.delete(`/api/v1/projects/${id}`).expect(204);
    await api.get(`/api/v1/projects/${id}`).expect(404);
  });
  it('keep edits, undo and redo them, and drop the redo at a new edit', async () => {
    const { api, id, document } = await start();
    const edit = (baseVersion: number, speed: number) =>
      api.post(`/api/v1/projects/${id}/edits`).send({
        baseVersion,
        label: `Speed ${speed}`,
        changes: [{ part: 'brief', value: { ...document.brief, speed } }],
      });
    await edit(0, 30).expect(200);
    const second = await edit(1, 31).expect(200);
    expect(second.body).toMatchObject({ version: 2, undo: 'Speed 31', redo: null });
    const back = await api.post(`/api/v1/projects/${id}/undo`).send({ baseVersion: 2 }).expect(200);
    expect(back.body).toMatchObject({ version: 3, label: 'Speed 31', undo: 'Speed 30', redo: 'Speed 31' });
    expect(back.body.changes[0].value.speed).toBe(30);
    await api.post(`/api/v1/projects/${id}/redo`).send({ baseVersion: 3 }).expect(200);
    await api.post(`/api/v1/projects/${id}/undo`).send({ baseVersion: 4 }).expect(200);
    await edit(5, 40).expect(200);
    await api.post(`/api/v1/projects/${id}/redo`).send({ baseVersion: 6 }).expect(409);
    const { body } = await api.get(`/api/v1/projects/${id}/history`).expect(200);
    expect(body.edits.map((e: { state: string }) => e.state)).toEqual(['done', 'dropped', 'done']);
  });
  it('answer a stale version with 409 and what changed since, and lose nothing', async () => {
    const { api, id, document } = await start();
    const send = (speed: number) =>
      api
        .post(`/api/v1/projects/${id}/edits`)
        .send({ baseVersion: 0, label: 's', changes: [{ part: 'brief', value: { ...document.brief, speed } }] });
    await send(30).expect(200);
    const { body } = await send(50).expect(409);
    expect(body.error.code).toBe('stale-version');
    expect(body.current).toMatchObject({ version: 1, since: 0 });
    expect(body.current.changes).toEqual([{ part: 'brief', value: { ...document.brief, speed: 30 } }]);
  });
  it('apply an edit that is sent twice only once', async () => {
    const { api, id, document } = await start();
    const body = {
      baseVersion: 0,
      label: 's',
      editId: '7f3f9b52-6d6f-4a5e-9f5d-3b1c9a1e0001',
      changes: [{ part: 'brief', value: { ...document.brief, speed: 33 } }],
    };
    const a = await api.post(`/api/v1/projects/${id}/edits`).send(body).expect(200);
    const b = await api.post(`/api/v1/projects/${id}/edits`).send(body).expect(200);
    expect(b.body.version).toBe(a.body.version);
    expect((await api.get(`/api/v1/projects/${id}`)).body.version).toBe(1);
  });
  it('refuse what would break the document, and change nothing', async () => {
    const { api, id, document } = await start();
    const post = (changes: unknown[]) =>
      api.post(`/api/v1/projects/${id}/edits`).send({ baseVersion: 0, label: 'x', changes });
    const inUse = await post([{ part: 'section:karoo-14', value: null }]).expect(400);
    expect(inUse.body.error.message).toMatch(/used by Wing of A/);
    const a = structuredClone(document.candidates.a);
    a.surfaces[0].bays[0].span = 0;
    const zero = await post([{ part: 'candidate:a', value: a }]).expect(400);
    expect(zero.body.error.path).toBe('surfaces.0.bays.0.span');
    const b = structuredClone(document.candidates.a);
    b.surfaces[0].stations[0].section = 'ghost';
    expect((await post([{ part: 'candidate:a', value: b }]).expect(400)).body.error.code).toBe('section-missing');
    expect((await post([{ part: 'brief', value: null }]).expect(400)).body.error.code).toBe('no-brief');
    expect(
      (await post([{ part: 'section:other', value: document.sections['karoo-14'] }]).expect(400)).body.error.code,
    ).toBe('part-id');
    expect((await api.get(`/api/v1/projects/${id}`)).body).toMatchObject({ version: 0, document });
  });
  it('are still there, with their undo, when the file is opened again', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'vw-db-')), 'p.sqlite');
    const one = make({}, file);
    const { body } = await one.api.post('/api/v1/projects').send({ name: 'Kept', from: 'demo' });
    await one.api
      .post(`/api/v1/projects/${body.id}/edits`)
      .send({
        baseVersion: 0,
        label: 'Faster',
        changes: [{ part: 'brief', value: { ...body.document.brief, speed: 44 } }],
      })
      .expect(200);
    one.db.close();
    const two = make({}, file);
    const again = await two.api.get(`/api/v1/projects/${body.id}`).expect(200);
    expect(again.body).toMatchObject({ version: 1, undo: 'Faster', document: { brief: { speed: 44 } } });
    const undone = await two.api.post(`/api/v1/projects/${body.id}/undo`).send({ baseVersion: 1 }).expect(200);
    expect(undone.body.changes[0].value.speed).toBe(26);
    two.db.close();
  });
});

describe('results that pages have kept', () => {
  const key = '0123456789abcdef'.repeat(2);
  const put = (api: Awaited<ReturnType<typeof start>>['api'], id: string, bytes: Buffer, of = key) =>
    api.put(`/api/v1/projects/${id}/results/${of}/motion`).set('content-type', 'application/octet-stream').send(bytes);
  const binary = (res: request.Response, done: (e: Error | null, b: Buffer) => void) => {
    const pieces: Buffer[] = [];
    (res as unknown as NodeJS.ReadableStream).on('data', (d: Buffer) => pieces.push(d));
    (res as unknown as NodeJS.ReadableStream).on('end', () => done(null, Buffer.concat(pieces)));
  };
  it('come back byte by byte, are listed, and counted', async () => {
    const { api, id } = await start();
    const bytes = Buffer.from(Array.from({ length: 256 }, (_, i) => i));
    await put(api, id, bytes).expect(204);
    expect((await api.get(`/api/v1/projects/${id}/results`).expect(200)).body).toEqual({ keys: [key] });
    const reply = await api
      .get(`/api/v1/projects/${id}/results/${key}`)
      .buffer()
      .parse(binary as never)
      .expect(200);
    expect(reply.body).toEqual(bytes);
    expect((await api.get('/api/v1/health')).body.results).toEqual({ given: 1, kept: 1 });
  });
  it('are of one project, and refused where they are none or too large', async () => {
    const { api, id } = await start();
    const other = (await api.post('/api/v1/projects').send({ name: 'Other' }).expect(201)).body.id as string;
    await put(api, id, Buffer.alloc(3)).expect(204);
    await api.get(`/api/v1/projects/${other}/results/${key}`).expect(404);
    await put(api, id, Buffer.alloc(3), 'xyz').expect(400);
    await put(api, 'nowhere', Buffer.alloc(3)).expect(404);
    expect((await put(api, id, Buffer.alloc(4_000_001)).expect(413)).body.error.message).toMatch(/4 MB/);
    await api.put(`/api/v1/projects/${id}/results/${key}/motion`).send({ a: 1 }).expect(415);
    expect((await api.get(`/api/v1/projects/${id}/results`)).body.keys).toEqual([key]);
  });
});

describe('results and preferences', () => {
  it('compute a lift case once and keep it under the key of its inputs', async () => {
    const { api, document } = await start();
    const c = document.candidates.a;
    const sections = Object.fromEntries(Object.values(document.sections).map((s) => [s.id, s.source]));
    const body = { surfaces: c.surfaces, alphas: [0, 0.05], sections };
    const first = await api.post('/api/v1/results/lift').send(body).expect(200);
    expect(first.body.computed).toBe(true);
    expect(first.body.output.liftSlope).toBeGreaterThan(4);
    const second = await api.post('/api/v1/results/lift').send(body).expect(200);
    expect(second.body.computed).toBe(false);
    expect(second.body.output).toEqual(first.body.output);
    expect((await api.get(`/api/v1/results/${first.body.key}`).expect(200)).body.output).toEqual(first.body.output);
    const other = await api
      .post('/api/v1/results/lift')
      .send({ ...body, alphas: [0, 0.06] })
      .expect(200);
    expect(other.body.key).not.toBe(first.body.key);
  });
  it('keep preferences', async () => {
    const { api } = await start();
    await api.put('/api/v1/preferences/units').send({ value: 'us' }).expect(200);
    expect((await api.get('/api/v1/preferences').expect(200)).body).toEqual({ units: 'us' });
  });
  it('take every name that the interface gives a preference', async () => {
    const { api, id } = await start();
    const names = ['decimalMark', `study-${id}`, `weigh-${id.slice(0, 8)}-A`];
    for (const name of names) await api.put(`/api/v1/preferences/${name}`).send({ value: 1 }).expect(200);
    expect(Object.keys((await api.get('/api/v1/preferences').expect(200)).body).sort()).toEqual(names.sort());
  });
});

describe('malformed requests', () => {
  const hostile: [string, unknown][] = [
    ['nothing', undefined],
    ['text', 'hello'],
    ['an array', []],
    ['null inside', { baseVersion: null, label: null, changes: null, name: null, value: undefined }],
    ['wrong types', { baseVersion: '0', label: 5, changes: 'all', name: [], surfaces: {}, alphas: 'x' }],
    [
      'hostile keys',
      {
        baseVersion: 0,
        label: 'x',
        name: ' ',
        changes: [{ part: '__proto__', value: {} }],
        surfaces: [{}],
        alphas: [1e99],
        sections: {},
      },
    ],
  ];
  const endpoints: ['post' | 'patch' | 'put', (id: string) => string][] = [
    ['post', () => '/api/v1/projects'],
    ['patch', (id) => `/api/v1/projects/${id}`],
    ['post', (id) => `/api/v1/projects/${id}/edits`],
    ['post', (id) => `/api/v1/projects/${id}/undo`],
    ['post', (id) => `/api/v1/projects/${id}/redo`],
    ['post', () => '/api/v1/results/lift'],
    ['put', () => '/api/v1/preferences/units'],
    ['put', () => '/api/v1/preferences/UPPER%20case'],
  ];
  it.each(endpoints.flatMap(([m, u]) => hostile.map(([n, b]) => [m, u('ID'), n, u, b] as const)))(
    '%s %s with %s is answered with the error shape',
    async (method, _, __, url, body) => {
      const { api, id } = await start();
      const call = api[method](url(id)).set('content-type', 'application/json');
      const res = await (body === undefined ? call : call.send(typeof body === 'string' ? body : JSON.stringify(body)));
      expect(res.status).toBeGreaterThanOrEqual(400);
      expect(res.status).toBeLessThan(500);
      expect(res.body.error.code).toEqual(expect.any(String));
      expect(res.body.error.message).toEqual(expect.any(String));
    },
  );
  it('names unknown places, wrong keys and bodies that are no JSON or too large', async () => {
    const { api, id } = await start();
    expect((await api.get('/api/v1/nowhere').expect(404)).body.error.code).toBe('not-found');
    expect((await api.get('/api/v1/results/xyz').expect(400)).body.error.code).toBe('invalid');
    expect((await api.get(`/api/v1/results/${'0'.repeat(32)}`).expect(404)).body.error.hint).toMatch(/POST/);
    expect((await api.get('/api/v1/projects/none').expect(404)).body.error.code).toBe('not-found');
    expect((await api.get('/api/v1/projects/none/events').expect(404)).body.error.code).toBe('not-found');
    expect((await api.get(`/api/v1/projects/${id}/history?most=-1`).expect(400)).body.error.path).toBe('most');
    expect(
      (await api.post('/api/v1/projects').set('content-type', 'application/json').send('{"name":').expect(400)).body
        .error.code,
    ).toBe('json');
    expect(
      (
        await api
          .patch(`/api/v1/projects/${id}`)
          .send({ name: 'x'.repeat(9_000_000) })
          .expect(413)
      ).body.error.code,
    ).toBe('too-large');
    expect((await api.get('/api/v1/health').expect(200)).body.status).toBe('ok');
  });
  it('describes itself with the schemas that it validates with', async () => {
    const { api } = await start();
    const { body } = await api.get('/api/v1/openapi.json').expect(200);
    expect(body.openapi).toBe('3.1.0');
    const edit = body.paths['/projects/{id}/edits'].post.requestBody.content['application/json'].schema;
    expect(edit.required).toEqual(expect.arrayContaining(['baseVersion', 'label', 'changes']));
  });
});

describe('safety', () => {
  it('sends a strict content-security policy', async () => {
    const { api } = make();
    const policy = (await api.get('/api/v1/health')).headers['content-security-policy'];
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toContain('unsafe-inline');
  });
  it('answers neither a foreign host nor a foreign origin', async () => {
    const { api } = make();
    expect((await api.get('/api/v1/health').set('host', 'evil.example')).status).toBe(421);
    expect((await api.post('/api/v1/projects').set('origin', 'http://evil.example').send({ name: 'x' })).status).toBe(
      403,
    );
  });
  it('demands a token on other addresses, and checks it', async () => {
    expect(() => readConfig({ VELDTWIND_HOST: '0.0.0.0' }, root)).toThrow(/VELDTWIND_TOKEN/);
    expect(() => readConfig({ VELDTWIND_PORT: 'x' }, root)).toThrow(/VELDTWIND_PORT/);
    expect(readConfig({ VELDTWIND_HOST: '0.0.0.0', VELDTWIND_TOKEN: '0123456789abcdef' }, root).token).toBe(
      '0123456789abcdef',
    );
    const { api } = make({ host: '0.0.0.0', token: '0123456789abcdef' });
    expect((await api.get('/api/v1/projects')).status).toBe(401);
    expect((await api.get('/api/v1/projects').set('authorization', 'Bearer wrong')).status).toBe(401);
    expect((await api.get('/api/v1/projects').set('authorization', 'Bearer 0123456789abcdef')).status).toBe(200);
    const entry = await api.get('/api/v1/projects?token=0123456789abcdef');
    expect(entry.status).toBe(302);
    expect((await api.get('/api/v1/projects').set('cookie', entry.headers['set-cookie'][0].split(';')[0])).status).toBe(
      200,
    );
  });
  it('refuses a database of a newer version', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'vw-db-')), 'n.sqlite');
    const db = openDatabase(file);
    db.pragma('user_version = 99');
    db.close();
    expect(() => openDatabase(file)).toThrow(/newer/);
  });
});

it('loses nothing that was answered when it is killed while saving', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'vw-kill-')), 'k.sqlite');
  const boot = () =>
    new Promise<{ base: string; kill: () => Promise<void> }>((done, fail) => {
      const child = spawn(process.execPath, [resolve('scripts/serve.mjs')], {
        env: {
          ...process.env,
          VELDTWIND_PORT: '0',
          VELDTWIND_DATABASE: file,
          VELDTWIND_LOG: 'silent',
          VELDTWIND_API_ONLY: '1',
        },
      });
      const gone = new Promise<void>((r) => child.on('exit', () => r()));
      child.stdout.on('data', (d: Buffer) => {
        const m = /http:\S+\//.exec(String(d));
        if (m) done({ base: `${m[0]}api/v1`, kill: () => (child.kill('SIGKILL'), gone) });
      });
      child.stderr.on('data', (d) => fail(new Error(String(d))));
    });
  const call = async (url: string, body?: unknown) => {
    const res = await fetch(
      url,
      body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {},
    );
    return (await res.json()) as Record<string, never>;
  };
  let server = await boot();
  const project = await call(`${server.base}/projects`, { name: 'Kill', from: 'demo' });
  const { brief } = project.document as { brief: object };
  let version = 0;
  // Ended after different times, so that it hits different moments of a save.
  for (const after of [400, 130, 270, 61]) {
    const { base, kill } = server;
    let answered = version;
    const writing = (async () => {
      for (let v = version; v < version + 1000; v++) {
        await call(`${base}/projects/${project.id}/edits`, {
          baseVersion: v,
          label: `s${v}`,
          changes: [{ part: 'brief', value: { ...brief, speed: 10 + v * 0.01 } }],
        });
        answered = v + 1;
      }
    })().catch(() => undefined);
    await new Promise((r) => setTimeout(r, after));
    await kill();
    await writing;
    server = await boot();
    const found = (await call(`${server.base}/projects/${project.id}`)) as unknown as {
      version: number;
      document: { brief: { speed: number } };
    };
    expect(found.version).toBeGreaterThanOrEqual(answered);
    if (found.version > 0) expect(found.document.brief.speed).toBeCloseTo(10 + (found.version - 1) * 0.01, 9);
    version = found.version;
  }
  expect(version).toBeGreaterThan(4);
  await server.kill();
});
