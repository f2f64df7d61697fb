import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import pino from 'pino';
import request from 'supertest';
import { performanceSchema } from '@veldtwind/core/performance';
import { openDatabase } from '@veldtwind/store/open';
import { madeTailed } from '../../core/src/candidate/testing/made-tailed';
import { createApp, type AppParts } from './app';

const folder = mkdtempSync(join(tmpdir(), 'studies-'));
const config = {
  host: '127.0.0.1',
  port: 0,
  database: join(folder, 'd.sqlite'),
  logLevel: 'silent',
  origins: [],
  automaticPolars: false,
} as unknown as Parameters<typeof createApp>[0];
let db: ReturnType<typeof openDatabase>;
let parts: AppParts;
function open(): void {
  db = openDatabase(config.database);
  parts = createApp(config, db, pino({ level: 'silent' }), resolve('.'));
}
async function close(): Promise<void> {
  await parts.runner.close();
  await parts.engine.close();
  await parts.pool.close();
  db.close();
}
beforeAll(open);
afterAll(async () => {
  await close();
  rmSync(folder, { recursive: true, force: true });
});

const section = { kind: 'designation', designation: '1410', trailingEdge: 'published' };
const subject = {
  candidate: madeTailed({ centre: 0.2 }),
  sections: { s: section },
  flight: { speed: 24, altitude: 500 },
};
const TAIL = { path: 'surfaces.tail.incidenceDeg', from: -8, to: 6 };
const MASS = { path: 'massItems.m.position.x', from: 0, to: 0.5 };
const body = (plan: object) => ({
  name: 'Least drag',
  candidate: 'a',
  input: { plan, subject, polars: null, settings: performanceSchema.parse({}) },
});
const search = (budget: number) =>
  body({
    kind: 'search',
    variables: [TAIL, MASS],
    bands: [{ id: 'balance.staticMargin', least: 0.15 }],
    aim: [{ id: 'drag.coefficient', sense: 'least' }],
    budget,
    seed: 5,
  });
const api = () => request(parts.app);
interface Whole {
  study: {
    id: string;
    state: string;
    done: number;
    planned: number;
    why: string | null;
    best: { index: number } | null;
  };
  plan: { kind: string } | null;
  result: { best: { index: number; answers: number[] }; resumed: number } | null;
  tries: { index: number; values: number[]; answers: (number | null)[] }[];
}
const project = async () => ((await api().post('/api/v1/projects').send({ name: 'P' })).body as { id: string }).id;
const start = async (id: string, given: object) =>
  (await api().post(`/api/v1/projects/${id}/studies`).send(given)).body as Whole['study'];
const whole = async (id: string, study: string, from = 0) =>
  (await api().get(`/api/v1/projects/${id}/studies/${study}?from=${from}`)).body as Whole;
async function until(id: string, study: string, there: (w: Whole) => boolean): Promise<Whole> {
  for (;;) {
    const now = await whole(id, study);
    if (there(now)) return now;
    await new Promise((r) => setTimeout(r, 60));
  }
}
const over = (w: Whole) => w.study.state === 'finished' || w.study.state === 'failed';

describe('studies that the server makes', () => {
  it('keep every try as it comes, and tell how far they are and what is best so far', async () => {
    const id = await project();
    const made = await start(id, search(40));
    expect(made).toMatchObject({ state: 'running', kind: 'search', name: 'Least drag' });
    const done = await until(id, made.id, over);
    expect(done.study).toMatchObject({ state: 'finished', planned: 40, why: null });
    expect(done.plan!.kind).toBe('search');
    expect(done.tries.map((t) => t.index)).toEqual(done.tries.map((_, i) => i));
    expect(done.study.best!.index).toBe(done.result!.best.index);
    expect((await whole(id, made.id, 5)).tries[0].index).toBe(5);
    const { body: listed } = await api().get(`/api/v1/projects/${id}/studies`);
    expect((listed as { studies: { id: string }[] }).studies.map((s) => s.id)).toEqual([made.id]);
    // Of another project it is not told.
    const other = await project();
    expect((await api().get(`/api/v1/projects/${other}/studies/${made.id}`)).status).toBe(404);
    expect((await api().patch(`/api/v1/projects/${id}/studies/${made.id}`).send({ state: 'paused' })).status).toBe(409);
    await api().delete(`/api/v1/projects/${id}/studies/${made.id}`).expect(204);
    expect((await api().get(`/api/v1/projects/${id}/studies/${made.id}`)).status).toBe(404);
    expect(db.prepare('SELECT count(*) FROM study_try').pluck().get()).toBe(0);
  });
  it('go on after a stop of the server and after a rest, to the same tries and the same answer', async () => {
    const id = await project();
    const alone = await until(id, (await start(id, search(60))).id, over);
    const { id: study } = await start(id, search(60));
    await until(id, study, (w) => w.tries.length >= 5);
    await close();
    open();
    const before = await whole(id, study);
    expect(before.study.state).toBe('running');
    expect(before.tries.length).toBeLessThan(alone.tries.length);
    parts.runner.next();
    await until(id, study, (w) => w.tries.length > before.tries.length);
    const { body: rests } = await api().patch(`/api/v1/projects/${id}/studies/${study}`).send({ state: 'paused' });
    expect((rests as { state: string }).state).toBe('paused');
    const resting = await whole(id, study);
    await new Promise((r) => setTimeout(r, 400));
    expect((await whole(id, study)).tries).toHaveLength(resting.tries.length);
    await api().patch(`/api/v1/projects/${id}/studies/${study}`).send({ state: 'running' });
    const done = await until(id, study, over);
    expect(done.tries).toEqual(alone.tries);
    expect(done.result!.best).toEqual(alone.result!.best);
  });
  it('tell why they fail, and refuse what cannot be', async () => {
    const id = await project();
    const none = { ...TAIL, path: 'surfaces.none.incidenceDeg' };
    const failing = body({ kind: 'grid', variables: [none], answers: [{ id: 'drag.coefficient' }] });
    const failed = await until(id, (await start(id, failing)).id, over);
    expect(failed.study).toMatchObject({ state: 'failed', why: expect.stringMatching(/no number at/) as string });
    const many = { ...TAIL, steps: 9000 };
    const huge = body({
      kind: 'grid',
      variables: [many, { ...MASS, steps: 9000 }],
      answers: [{ id: 'drag.coefficient' }],
    });
    for (const wrong of [{}, { ...body({ kind: 'dream' }) }, huge, { ...search(5), name: '' }])
      expect([400, 422]).toContain((await api().post(`/api/v1/projects/${id}/studies`).send(wrong)).status);
    expect((await api().post('/api/v1/projects/none/studies').send(search(5))).status).toBe(404);
  });
});
