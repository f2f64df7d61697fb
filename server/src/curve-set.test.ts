import { resolve } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import Papa from 'papaparse';
import pino from 'pino';
import request from 'supertest';
import { ROUTES, type CurveReply, type PointsReply } from '@veldtwind/contract';
import { CURVE_VERSION } from '@veldtwind/core/polar';
import { openDatabase } from '@veldtwind/store/open';
import { createApp, type AppParts } from './app';
import type { Config } from './config';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
let [one, two]: AppParts[] = [];
const projectOf = async (parts: AppParts) =>
  ((await request(parts.app).post('/api/v1/projects').send({ name: 'Seed set' })).body as { id: string }).id;
let from: string;
let file: Uint8Array;
const fetched = async (parts: AppParts, path: string): Promise<Buffer> =>
  (
    await request(parts.app)
      .get(path)
      .buffer()
      .parse((res, done) => {
        const pieces: Buffer[] = [];
        res.on('data', (d: Buffer) => pieces.push(d));
        res.on('end', () => done(null, Buffer.concat(pieces)));
      })
      .expect(200)
  ).body as Buffer;
const send = (parts: AppParts, id: string, bytes: Uint8Array) =>
  request(parts.app)
    .post(`/api/v1/projects/${id}/curves/file`)
    .set('content-type', 'application/zip')
    .send(Buffer.from(bytes));
const curvesOf = async (parts: AppParts, id: string) =>
  ((await request(parts.app).get(`/api/v1/projects/${id}/curves`).expect(200)).body as { curves: CurveReply[] }).curves;
const pointsOf = async (parts: AppParts, id: string, curves: CurveReply[]) =>
  (
    (await request(parts.app).get(`/api/v1/projects/${id}/points?curves=${curves.map((c) => c.id).join()}`))
      .body as PointsReply
  ).curves.map((c) => c.points);
type Files = Record<string, Uint8Array>;
const changed = (change: (files: Files) => void): Uint8Array => {
  const files = unzipSync(file) as Files;
  change(files);
  return zipSync(files, { level: 1 });
};
const message = (res: { body: unknown }) => (res.body as { error: { message: string } }).error.message;

beforeAll(async () => {
  one = createApp(config, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  two = createApp(config, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  from = await projectOf(one);
  await request(one.app).get(`/api/v1/projects/${from}/curves/file`).expect(422);
  await request(one.app)
    .post(`/api/v1/projects/${from}/runs`)
    .send({
      name: 'x',
      plan: {
        sections: [{ name: '4415', source: { kind: 'designation', designation: '4415', trailingEdge: 'published' } }],
        reynolds: [3e5, 1e6],
        alphas: [0, 2, 4],
        spread: { panels: 80, trailingEdge: 1, nose: 1 },
      },
    })
    .expect(201);
  await one.engine.idle();
  file = await fetched(one, `/api/v1/projects/${from}/curves/file`);
});
afterAll(() => Promise.all([one, two].flatMap((p) => [p.engine.close(), p.pool.close()])));

describe('a set of curves as one open file', () => {
  it('holds tables of points, facts, and every distribution', () => {
    const files = unzipSync(file);
    const rows = (name: string) =>
      Papa.parse<Record<string, string>>(strFromU8(files[name]), { header: true, skipEmptyLines: true }).data;
    expect(rows('points.csv')).toHaveLength(6);
    expect(rows('facts.csv')).toHaveLength(2);
    const tables = Object.keys(files).filter((n) => n.startsWith('distributions/'));
    expect(tables).toHaveLength(6);
    const stations = rows(tables[0]);
    expect(stations.length).toBeGreaterThan(80);
    expect(new Set(stations.map((r) => r.side))).toEqual(new Set(['top', 'bottom', 'wake']));
  });
  it('is read elsewhere as the same curves, whose points open to the same distributions without solving', async () => {
    const id = await projectOf(two);
    const reply = await send(two, id, file).expect(201);
    expect(ROUTES.importCurves.reply.safeParse(reply.body).success).toBe(true);
    expect(reply.body).toMatchObject({
      curves: 2,
      points: 6,
      known: 0,
      left: [],
      run: { state: 'finished', points: 6 },
    });
    const [there, here] = [await curvesOf(one, from), await curvesOf(two, id)];
    expect(here.map((c) => [c.key, c.facts])).toEqual(there.map((c) => [c.key, c.facts]));
    expect(await pointsOf(two, id, here)).toEqual(await pointsOf(one, from, there));
    const opened = async (parts: AppParts, project: string, c: CurveReply) =>
      (await request(parts.app).get(`/api/v1/projects/${project}/curves/${c.id}/points/2000000`).expect(200))
        .body as unknown;
    expect(await opened(two, id, here[1])).toEqual(await opened(one, from, there[1]));
    // Read again it adds nothing, and what it holds is not solved again.
    expect((await send(two, id, file).expect(201)).body).toMatchObject({ points: 6, known: 6 });
    expect(await curvesOf(two, id)).toHaveLength(2);
    expect(two.engine.busy).toBe(false);
  });
  it('goes with its project', async () => {
    const whole = await fetched(one, `/api/v1/projects/${from}/file`);
    const made = (
      await request(two.app)
        .post('/api/v1/projects/file')
        .set('content-type', 'application/zip')
        .send(whole)
        .expect(201)
    ).body as { id: string; left: string[] };
    expect(made.left).toEqual([]);
    expect((await curvesOf(two, made.id)).map((c) => c.points)).toEqual([3, 3]);
  });
  it('of another version of the method stands beside the curves solved here', async () => {
    const id = await projectOf(two);
    await send(two, id, file).expect(201);
    const older = changed((f) => {
      f['curves.jsonl'] = strToU8(strFromU8(f['curves.jsonl']).replaceAll(/"methodVersion":\d+/g, '"methodVersion":0'));
    });
    const { left, known } = (await send(two, id, older).expect(201)).body as { left: string[]; known: number };
    expect(known).toBe(0);
    expect(left.join()).toMatch(/2 curves were solved by another version/);
    expect((await curvesOf(two, id)).map((c) => c.version).sort()).toEqual([0, 0, CURVE_VERSION, CURVE_VERSION]);
  });
  it('that is damaged in part is read as far as it goes, and says what was left out', async () => {
    const id = await projectOf(two);
    const lines = (f: Files) => strFromU8(f['curves.jsonl']).split('\n').filter(Boolean);
    const half = changed((f) => {
      const [a, b] = lines(f);
      f['curves.jsonl'] = strToU8(`${a.slice(0, 400)}\n${b}\n`);
    });
    const reply = (await send(two, id, half).expect(201)).body as { curves: number; left: string[] };
    expect(reply.curves).toBe(1);
    expect(reply.left).toHaveLength(1);
    const stateless = changed((f) => {
      f['curves.jsonl'] = strToU8(
        lines(f)
          .map((l) => l.replace(/"state":"[^"]{8}/, '"state":"AAAAAAAA'))
          .join('\n') + '\n',
      );
    });
    const other = await projectOf(two);
    expect(((await send(two, other, stateless).expect(201)).body as { left: string[] }).left.join()).toMatch(
      /without their distributions/,
    );
  });
  it.each<[string, (f: Files) => void, RegExp]>([
    ['without its head', (f) => delete f['set.json'], /no set\.json/],
    ['without its curves', (f) => delete f['curves.jsonl'], /curves\.jsonl is missing/],
    ['cut off', (f) => delete f['end.json'], /not complete/],
    [
      'of a newer version',
      (f) => (f['set.json'] = strToU8('{"format":"veldtwind-curves","formatVersion":99,"name":"x"}')),
      /newer/,
    ],
    ['that is something else', (f) => (f['set.json'] = strToU8('{"format":"other"}')), /set of curves/],
    ['of nonsense', (f) => (f['curves.jsonl'] = strToU8('{"name":"x"}\n[]\n')), /not complete|can be read/],
  ])('%s is refused, and leaves nothing', async (_, change, text) => {
    const id = await projectOf(two);
    const reply = await send(two, id, changed(change)).expect(400);
    expect(message(reply)).toMatch(text);
    expect(await curvesOf(two, id)).toEqual([]);
    expect((await request(two.app).get(`/api/v1/projects/${id}/runs`)).body).toMatchObject({ runs: [] });
  });
  it('that is no archive is refused', async () => {
    const id = await projectOf(two);
    expect(message(await send(two, id, strToU8('PK nonsense')).expect(400))).toMatch(/no zip archive/);
    expect(message(await send(two, id, file.slice(0, file.length / 2)).expect(400))).toMatch(/zip archive|unpacked/);
  });
});
