import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { resolve } from 'node:path';
import { Readable } from 'node:stream';
import type { Request } from 'express';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import pino from 'pino';
import request from 'supertest';
import { WebSocket } from 'ws';
import { openDatabase } from '@veldtwind/store/open';
import { createApp, type AppParts } from './app';
import type { Config } from './config';
import { spooled } from './http/spool';
import { noRoom } from './http/trouble';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
let parts: AppParts;
let server: Server;
let boards: ReturnType<AppParts['openBoards']>;
let project: string;
const api = () => request(parts.app);
beforeAll(async () => {
  parts = createApp(config, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  server = createServer(parts.app).listen(0, '127.0.0.1');
  await new Promise((r) => server.on('listening', r));
  boards = parts.openBoards(server);
  project = (await api().post('/api/v1/projects').send({ name: 'Seedsnipe', from: 'demo' })).body.id as string;
  const state = (await api().get(`/api/v1/projects/${project}`)).body;
  await api()
    .post(`/api/v1/projects/${project}/edits`)
    .send({
      baseVersion: state.version,
      label: 'Faster',
      editId: '00000000-0000-4000-8000-000000000001',
      changes: [{ part: 'brief', value: { ...state.document.brief, speed: 27 } }],
    })
    .expect(200);
  await api().post(`/api/v1/projects/${project}/versions`).send({ name: 'Review' });
}, 60_000);
afterAll(async () => {
  boards.close();
  server.closeAllConnections();
  server.close();
  await parts.pool.close();
});
const port = () => (server.address() as AddressInfo).port;

/** The project's file with lines of one of its files changed, and its end told so. */
async function changed(name: string, change: (lines: string[]) => string[]): Promise<Uint8Array> {
  const { body } = await api()
    .get(`/api/v1/projects/${project}/file`)
    .buffer()
    .parse((res, done) => {
      const pieces: Buffer[] = [];
      res.on('data', (d: Buffer) => pieces.push(d));
      res.on('end', () => done(null, Buffer.concat(pieces)));
    });
  const files = unzipSync(body as Buffer);
  const lines = change(strFromU8(files[`${name}.jsonl`]).split('\n').filter(Boolean));
  files[`${name}.jsonl`] = strToU8(`${lines.join('\n')}\n`);
  const end = JSON.parse(strFromU8(files['end.json'])) as Record<string, number>;
  files['end.json'] = strToU8(JSON.stringify({ ...end, [name]: lines.length }));
  return zipSync(files);
}
const send = (file: Uint8Array) =>
  api().post('/api/v1/projects/file').set('content-type', 'application/zip').send(Buffer.from(file));

describe('tables in a project file', () => {
  it('run nothing in a spreadsheet', async () => {
    const { body: state } = await api().get(`/api/v1/projects/${project}`);
    const [item] = state.document.candidates.a.massItems;
    await api()
      .post(`/api/v1/projects/${project}/edits`)
      .send({
        baseVersion: state.version,
        label: '=HYPERLINK("http://x")',
        changes: [{ part: `mass-item:a.${item.id}`, value: { ...item, name: '+cmd|x' } }],
      })
      .expect(200);
    const files = unzipSync(await changed('edits', (lines) => lines));
    expect(strFromU8(files['history.csv'])).not.toMatch(/(^|,|")=HYPERLINK/m);
    expect(strFromU8(files['mass-items.csv'])).toContain(",'+cmd|x,");
    expect(strFromU8(files['mass-items.csv'])).not.toMatch(/(^|,)\+cmd/m);
  });
});

describe('a project file that was made by hand', () => {
  it('with two edits of one client id is taken, and says so', async () => {
    const file = await changed('edits', ([first, ...rest]) => [first, first, ...rest]);
    const made = await send(file);
    expect(made.status).toBe(201);
    expect(made.body.left.join()).toMatch(/its id is that of an edit before/);
    expect(made.body.edits).toBeGreaterThanOrEqual(2);
  });
  it('with more kept versions than a project keeps brings as many as a project keeps', async () => {
    const file = await changed('versions', ([line]) =>
      Array.from({ length: 230 }, (_, i) => JSON.stringify({ ...JSON.parse(line), name: `Review ${i}` })),
    );
    const made = await send(file);
    expect(made.status).toBe(201);
    expect((await api().get(`/api/v1/projects/${made.body.id}/versions`)).body.versions).toHaveLength(200);
    expect(made.body.left.join()).toMatch(/left out; a project keeps 200 versions/);
  }, 60_000);
  it('with surfaces of a candidate that it does not hold is refused with the reason', async () => {
    const file = await changed('parts', (lines) => lines.filter((l) => !l.startsWith('{"key":"candidate:a"')));
    const made = await send(file);
    expect([made.status, made.body.error.code]).toEqual([400, 'owner-missing']);
    expect(made.body.error.message).toMatch(/of a candidate that it does not hold/);
  });
});

describe('a server without room', () => {
  it('refuses what is sent where its temporary folder is full', async () => {
    const full = Readable.from(
      (async function* () {
        yield Buffer.from('a');
        throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC' });
      })(),
    );
    await expect(spooled(full as unknown as Request, () => Promise.resolve())).rejects.toMatchObject({
      status: 507,
      code: 'temporary-full',
    });
  });
  it('says that the disk is full before a write has failed', () => {
    const statfs = (bavail: number) => (() => ({ bavail, bsize: 4096 })) as never;
    expect(noRoom('/data/d.sqlite', statfs(10))).toMatch(/disk is full/);
    expect(noRoom('/data/d.sqlite', statfs(1e6))).toBeUndefined();
    expect(noRoom(':memory:', statfs(0))).toBeUndefined();
    expect(
      noRoom('/nowhere/d.sqlite', () => {
        throw new Error('gone');
      }),
    ).toBeUndefined();
  });
});

describe('private data', () => {
  it.each(['projects', 'preferences', 'health'])('of %s is kept by nobody on the way', async (path) => {
    expect((await api().get(`/api/v1/${path}`)).headers['cache-control']).toBe('no-store');
  });
});

describe('sockets', () => {
  it('that are refused are let go, though the client never closes its half', async () => {
    const ends = await Promise.all(
      Array.from(
        { length: 100 },
        () =>
          new Promise<string>((done) => {
            const socket = connect({ port: port(), host: '127.0.0.1', allowHalfOpen: true });
            let text = '';
            socket.on('data', (d) => (text += String(d)));
            socket.on('error', () => done('destroyed'));
            socket.on('end', () => done(text.slice(9, 12)));
            socket.write(
              'GET /api/v1/nothing HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n',
            );
          }),
      ),
    );
    expect(ends.every((e) => e === '404' || e === 'destroyed')).toBe(true);
    const open = () => new Promise<number>((r) => server.getConnections((_, n) => r(n)));
    for (let i = 0; i < 100 && (await open()) > 0; i++) await new Promise((r) => setTimeout(r, 20));
    expect(await open()).toBe(0);
  });
  it('that flood are refused at the first message that is not asked for, and not read on', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${port()}/api/v1/board`);
    await new Promise((r) => socket.on('open', r));
    const messages: { code?: string }[] = [];
    socket.on('message', (d) => messages.push(JSON.parse(String(d)) as { code?: string }));
    const closed = new Promise<number>((r) => socket.on('close', r));
    const flood = JSON.stringify({ type: 'hello', filler: 'x'.repeat(200_000) });
    for (let i = 0; i < 200; i++) socket.send(flood, () => undefined);
    expect([1008, 1006]).toContain(await closed);
    expect(messages.filter((m) => m.code !== undefined).length).toBeLessThanOrEqual(1);
    expect((await api().get('/api/v1/health')).status).toBe(200);
  });
});

describe('the loop of the server', () => {
  it('is not held by a plan of thousands of curves: health tells how late it was', async () => {
    await api().get('/api/v1/health');
    const plan = {
      sections: ['0009', '0012', '1410', '4415'].map((designation) => ({
        name: designation,
        source: { kind: 'designation', designation, trailingEdge: 'published' },
      })),
      reynolds: Array.from({ length: 500 }, (_, i) => 1e5 + 1000 * i),
      alphas: [0],
    };
    const own = (await api().post('/api/v1/projects').send({ name: 'Wide' })).body.id as string;
    const at = `/api/v1/projects/${own}`;
    expect((await api().post(`${at}/runs/estimate`).send({ plan })).body).toMatchObject({ points: 2000, sweeps: 2000 });
    // Another question is answered while the plan is made into tasks.
    const order: string[] = [];
    const started = api()
      .post(`${at}/runs`)
      .send({ name: 'Wide', plan })
      .then((r) => (order.push('started'), r));
    const asked = api()
      .get('/api/v1/health')
      .then((r) => (order.push('asked'), r));
    const [run, health] = await Promise.all([started, asked]);
    expect(run.body).toMatchObject({ points: 2000, tasks: 2000 });
    await api().patch(`${at}/runs/${run.body.id}`).send({ state: 'cancelled' });
    expect(order).toEqual(['asked', 'started']);
    expect(health.body.loop.median).toBeGreaterThanOrEqual(0);
    expect((await api().get(`${at}/curves`)).body.curves).toHaveLength(2000);
  }, 60_000);
});
