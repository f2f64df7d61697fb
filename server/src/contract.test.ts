import { resolve } from 'node:path';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import pino from 'pino';
import request from 'supertest';
import type { z } from 'zod';
import { EVENTS, ROUTES, staleReply, type EventName, type Route } from '@veldtwind/contract';
import { createApp, type AppParts } from './app';
import type { Config } from './config';
import { openDatabase } from '@veldtwind/store/open';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const made: AppParts[] = [];
const make = () => {
  const parts = createApp(config, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  made.push(parts);
  return parts;
};
afterAll(() => Promise.all(made.map((p) => p.pool.close())));

/** What a schema does not know is told: a reply must be in the contract whole. */
const fits = (schema: z.ZodType, value: unknown) => {
  const parsed = schema.safeParse(value);
  expect(parsed.error?.issues ?? []).toEqual([]);
  expect(Object.keys(value as object).sort()).toEqual(Object.keys(parsed.data as object).sort());
};

describe('what the server says is what the contract says', () => {
  it('in every reply', async () => {
    const api = request(make().app);
    const created = await api.post('/api/v1/projects').send({ name: 'C', from: 'demo' }).expect(201);
    const { id, document } = created.body;
    const edit = (baseVersion: number, speed: number) =>
      api.post(`/api/v1/projects/${id}/edits`).send({
        baseVersion,
        label: 's',
        changes: [{ part: 'brief', value: { ...document.brief, speed } }],
      });
    const c = document.candidates.a;
    const sections = Object.fromEntries(
      Object.values(document.sections as Record<string, { id: string; source: unknown }>).map((s) => [s.id, s.source]),
    );
    const computed = await api.post('/api/v1/results/lift').send({ surfaces: c.surfaces, alphas: [0], sections });
    const replies: [keyof typeof ROUTES, { status: number; body: unknown }][] = [
      ['createProject', created],
      ['listProjects', await api.get('/api/v1/projects')],
      ['listSamples', await api.get('/api/v1/samples')],
      ['projectPicture', await api.get(`/api/v1/projects/${id}/picture`)],
      ['openProject', await api.get(`/api/v1/projects/${id}`)],
      ['edit', await edit(0, 30)],
      ['undo', await api.post(`/api/v1/projects/${id}/undo`).send({ baseVersion: 1 })],
      ['redo', await api.post(`/api/v1/projects/${id}/redo`).send({ baseVersion: 2 })],
      ['changesSince', await api.get(`/api/v1/projects/${id}/changes?version=1`)],
      ['history', await api.get(`/api/v1/projects/${id}/history`)],
      ['renameProject', await api.patch(`/api/v1/projects/${id}`).send({ name: 'D' })],
      ['compute', computed],
      ['result', await api.get(`/api/v1/results/${computed.body.key}`)],
      ['setPreference', await api.put('/api/v1/preferences/units').send({ value: 'us' })],
      ['health', await api.get('/api/v1/health')],
    ];
    for (const [name, reply] of replies) {
      const route: Route = ROUTES[name];
      expect([name, reply.status]).toEqual([name, route.status ?? 200]);
      fits(route.reply!, reply.body);
    }
    const stale = await edit(0, 40);
    expect(stale.status).toBe(409);
    fits(staleReply, stale.body);
  });

  it('samples begin projects; one that is not there is told with those that are', async () => {
    const api = request(make().app);
    const { samples } = (await api.get('/api/v1/samples').expect(200)).body;
    expect(samples.length).toBeGreaterThanOrEqual(3);
    for (const { id, name, picture } of samples) {
      expect(picture.length).toBeGreaterThan(3);
      const made = await api.post('/api/v1/projects').send({ name, from: 'sample', sample: id }).expect(201);
      expect(Object.values(made.body.document.candidates).length).toBeGreaterThan(1);
    }
    for (const sample of ['nothing', '../../package', undefined]) {
      const refused = await api.post('/api/v1/projects').send({ name: 'x', from: 'sample', sample }).expect(404);
      expect(refused.body.error).toMatchObject({ code: 'no-sample', hint: expect.stringContaining(samples[0].id) });
    }
    const empty = await api.post('/api/v1/projects').send({ name: 'x' }).expect(201);
    expect((await api.get(`/api/v1/projects/${empty.body.id}/picture`).expect(200)).body).toEqual({ lines: [] });
    await api.get('/api/v1/projects/nothing/picture').expect(404);
  });

  it('in every event, and small: an edit of one surface is told as that surface', async () => {
    const { app } = make();
    const server = createServer(app).listen(0, '127.0.0.1');
    await new Promise((r) => server.on('listening', r));
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/v1`;
    const call = async (method: string, path: string, body?: unknown, tab = '') =>
      (
        await fetch(base + path, {
          method,
          headers: { 'content-type': 'application/json', 'x-veldtwind-tab': tab },
          body: body === undefined ? undefined : JSON.stringify(body),
        })
      ).json() as Promise<Record<string, never>>;
    try {
      const { id, document } = (await call('POST', '/projects', { name: 'E', from: 'demo' })) as never as {
        id: string;
        document: { candidates: Record<string, { surfaces: object[] }>; sections: Record<string, object> };
      };
      const stop = new AbortController();
      const stream = await fetch(`${base}/projects/${id}/events`, { signal: stop.signal });
      const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
      let text = '';
      const heard = async (count: number) => {
        const all = () =>
          [...text.matchAll(/event: (\w+)\ndata: (.*)\n\n/g)].map((m) => ({
            name: m[1] as EventName,
            data: JSON.parse(m[2]) as never,
            bytes: m[2].length,
          }));
        while (all().length < count) text += (await reader.read()).value ?? '';
        return all();
      };
      const wing = { ...document.candidates.a.surfaces[0], incidenceDeg: 1.5 };
      await call(
        'POST',
        `/projects/${id}/edits`,
        { baseVersion: 0, label: 'i', changes: [{ part: 'surface:a.wing', value: wing }] },
        'tab-1',
      );
      const original = { id: 'karoo-14', fileName: 'k.txt', text: 'x'.repeat(100_000) };
      await call('POST', `/projects/${id}/edits`, {
        baseVersion: 1,
        label: 'o',
        changes: [{ part: 'original:karoo-14', value: original }],
      });
      await call('PATCH', `/projects/${id}`, { name: 'F' });
      const events = await heard(3);
      expect(events.map((e) => e.name)).toEqual(['changed', 'changed', 'renamed']);
      for (const e of events) fits(EVENTS[e.name], e.data);
      expect(events[0].data).toMatchObject({ version: 1, base: 0, from: 'tab-1' });
      expect(events[0].bytes).toBeLessThan(1000);
      // Texts of files are never told.
      expect(events[1].bytes).toBeLessThan(300);
      stop.abort();
    } finally {
      server.closeAllConnections();
      server.close();
    }
  });

  it('in the description, made from the same table', async () => {
    const { body } = await request(make().app).get('/api/v1/openapi.json').expect(200);
    const described = Object.entries(body.paths as Record<string, object>).flatMap(([path, methods]) =>
      Object.keys(methods).map((m) => `${m.toUpperCase()} ${path}`),
    );
    expect(described.sort()).toEqual(
      Object.values(ROUTES)
        .map((r) => `${r.method} ${r.path}`)
        .sort(),
    );
    expect(JSON.stringify(body)).toContain('text/event-stream');
  });
});

describe('computations', () => {
  it('leave the server free: it answers while several run, and they can be of any kind that is offered', async () => {
    const { app } = make();
    const server = createServer(app).listen(0, '127.0.0.1');
    await new Promise((r) => server.on('listening', r));
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/v1`;
    try {
      const surface = {
        id: 'wing',
        name: 'Wing',
        role: 'wing',
        plane: 'horizontal',
        mirrored: false,
        position: { x: 0, y: 0, z: 0 },
        incidenceDeg: 0,
        stations: [
          { chord: 1, twistDeg: 0, section: 'naca:2312' },
          { chord: 0.6, twistDeg: -2, section: 'naca:2312' },
        ],
        bays: [{ span: 4, sweepDeg: 10, dihedralDeg: 3 }],
      };
      const heavy = {
        surfaces: [surface, { ...surface, id: 'two', position: { x: 3, y: 0, z: 1 } }],
        alphas: Array.from({ length: 200 }, (_, i) => -0.1 + i * 0.001),
        spread: { chordwise: 16, spanwise: 60, spacing: 'cosine' },
        sections: {},
      };
      let done = false;
      const running = fetch(`${base}/results/lift`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(heavy),
      }).then(async (r) => {
        done = true;
        return { status: r.status, body: (await r.json()) as { output?: { points: unknown[] } } };
      });
      let answered = 0;
      while (!done && answered < 400) {
        await (await fetch(`${base}/health`)).json();
        answered++;
      }
      const { status, body } = await running;
      expect(status).toBe(200);
      expect(body.output!.points).toHaveLength(200);
      expect(answered).toBeGreaterThan(20);
      const polar = await fetch(`${base}/results/polar`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          source: { kind: 'designation', designation: '2312', trailingEdge: 'published' },
          kind: 'fixed-re',
          conditions: { reynolds: 1e6 },
          alphas: [0, 0.05],
        }),
      });
      expect(((await polar.json()) as { output: { status: string }[] }).output.map((p) => p.status)).toEqual([
        'solved',
        'solved',
      ]);
      expect(
        (
          await fetch(`${base}/results/read-files`, {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: '{}',
          })
        ).status,
      ).toBe(404);
    } finally {
      server.closeAllConnections();
      server.close();
    }
  });
  it('tell what is wrong with the input, at its field', async () => {
    const api = request(make().app);
    const bad = await api.post('/api/v1/results/polar').send({ source: {}, kind: 'fixed-re' }).expect(400);
    expect(bad.body.error.code).toBe('invalid');
    const ghost = await api
      .post('/api/v1/results/evaluation')
      .send({
        brief: { speed: 20, altitude: 0, mass: 5 },
        candidate: { surfaces: [], massItems: [], reference: null, sweep: { fromDeg: -4, toDeg: 8, stepDeg: 1 } },
        sections: {},
      })
      .expect(200);
    expect(ghost.body.output.lift).toBeNull();
  });
});
