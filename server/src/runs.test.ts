import { resolve } from 'node:path';
import pino from 'pino';
import request from 'supertest';
import type { z } from 'zod';
import { EVENTS, ROUTES, type CurveReply, type RunReply } from '@veldtwind/contract';
import { openDatabase } from '@veldtwind/store/open';
import { createApp, type AppParts } from './app';
import type { Config } from './config';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
let parts: AppParts;
let api: ReturnType<typeof request>;
let base: string;
const plan = (more: object = {}) => ({
  sections: [{ name: '4415', source: { kind: 'designation', designation: '4415', trailingEdge: 'published' } }],
  reynolds: [3e5, 1e6],
  alphas: [-6, 0, 2, 4],
  spread: { panels: 80, trailingEdge: 1, nose: 1 },
  ...more,
});
beforeAll(async () => {
  parts = createApp(config, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  api = request(parts.app);
  const { id } = (await api.post('/api/v1/projects').send({ name: 'R' })).body as { id: string };
  base = `/api/v1/projects/${id}`;
});
afterAll(async () => {
  await parts.engine.close();
  await parts.pool.close();
});
const fits = (schema: z.ZodType, value: unknown) => expect(schema.safeParse(value).error?.issues ?? []).toEqual([]);

describe('runs over HTTP', () => {
  it('are estimated, begun, followed, and read', async () => {
    const told: unknown[] = [];
    const send = parts.events.send.bind(parts.events);
    parts.events.send = (project, event, data) => {
      if (event === 'runs') told.push({ project, ...data });
      send(project, event, data);
    };
    const estimate = await api.post(`${base}/runs/estimate`).send({ plan: plan() }).expect(200);
    expect(estimate.body).toMatchObject({ points: 8, known: 0, sweeps: 2 });
    fits(ROUTES.estimateRun.reply, estimate.body);
    const run = (await api.post(`${base}/runs`).send({ name: 'first', plan: plan() }).expect(201)).body as RunReply;
    fits(ROUTES.startRun.reply, run);
    await parts.engine.idle();
    const list = await api.get(`${base}/runs`).expect(200);
    fits(ROUTES.listRuns.reply, list.body);
    expect((list.body as { runs: RunReply[] }).runs[0]).toMatchObject({ state: 'finished', points: 8 });
    const curves = await api.get(`${base}/curves`).expect(200);
    fits(ROUTES.listCurves.reply, curves.body);
    const [first, second] = (curves.body as { curves: CurveReply[] }).curves;
    expect(first).toMatchObject({ name: '4415', points: 4 });
    expect(first.facts!.alphaZeroLiftDeg).toBeCloseTo(-4, 0);
    const points = await api.get(`${base}/points?curves=${first.id},${second.id},99999`).expect(200);
    fits(ROUTES.curvePoints.reply, points.body);
    const read = (
      points.body as { curves: { id: number; points: { place: number; point: { cl: number; cpMin: number } }[] }[] }
    ).curves;
    expect(read.map((c) => c.points.map((p) => p.place / 1e6))).toEqual([
      [-6, 0, 2, 4],
      [-6, 0, 2, 4],
    ]);
    const stored = await api.get(`${base}/curves/${first.id}/points/2000000`).expect(200);
    const body = stored.body as { point: { cl: number }; distributions: { top: { x: number[]; cp: number[] } } };
    expect(body.point.cl).toBeCloseTo(read[0].points[2].point.cl, 5);
    expect(Math.min(...body.distributions.top.cp)).toBeCloseTo(read[0].points[2].point.cpMin, 3);
    await new Promise((r) => setTimeout(r, 400));
    expect(told.length).toBeGreaterThan(0);
    for (const event of told) fits(EVENTS.runs, event);
    expect((told.at(-1) as { run: RunReply }).run.state).toBe('finished');
    expect((await api.post(`${base}/runs/estimate`).send({ plan: plan() })).body).toMatchObject({ known: 8 });
    await api.patch(`${base}/runs/${run.id}`).send({ state: 'paused' }).expect(409);
    await api.patch(`${base}/runs/${run.id}`).send({ priority: 3 }).expect(200);
  });
  it('rest and go on; a removed one takes its curves with it', async () => {
    const run = (
      await api
        .post(`${base}/runs`)
        .send({ name: 'second', plan: plan({ reynolds: [5e5, 6e5, 7e5, 8e5] }) })
        .expect(201)
    ).body as RunReply;
    const rests = await api.patch(`${base}/runs/${run.id}`).send({ state: 'paused' }).expect(200);
    expect((rests.body as RunReply).state).toBe('paused');
    await parts.engine.idle();
    await api.patch(`${base}/runs/${run.id}`).send({ state: 'running' }).expect(200);
    await api.delete(`${base}/runs/${run.id}`).expect(204);
    expect(((await api.get(`${base}/curves`)).body as { curves: CurveReply[] }).curves).toHaveLength(2);
  });
  it('refuses what makes no sense, with the field', async () => {
    for (const [more, status, text] of [
      [{ sections: [] }, 400, /sections/],
      [{ reynolds: ['x'] }, 400, /reynolds/],
      [{ alphas: [] }, 400, /alphas/],
      [{ mach: [2] }, 400, /mach/],
      [
        {
          alphas: Array.from({ length: 2000 }, (_, i) => i / 100),
          reynolds: Array.from({ length: 500 }, (_, i) => 1e5 + i),
        },
        422,
        /1000000 points: about \d+ minutes/,
      ],
    ] as const) {
      const reply = await api.post(`${base}/runs`).send({ name: 'bad', plan: plan(more) });
      expect(reply.status).toBe(status);
      expect((reply.body as { error: { message: string } }).error.message).toMatch(text);
    }
    await api.get(`${base}/runs/none`).expect(404);
    await api.patch(`${base}/runs/none`).send({ state: 'paused' }).expect(404);
    await api.get(`${base}/points?curves=x`).expect(400);
    await api.get(`${base}/curves/99999/points/0`).expect(404);
    await api.get(`${base}/curves/1/points/123`).expect(404);
    await api.get('/api/v1/projects/none/runs').expect(404);
  });
  it('a removed project ends its runs', async () => {
    const { id } = (await api.post('/api/v1/projects').send({ name: 'gone' })).body as { id: string };
    await api
      .post(`/api/v1/projects/${id}/runs`)
      .send({ name: 'x', plan: plan({ reynolds: [9e5] }) })
      .expect(201);
    await api.delete(`/api/v1/projects/${id}`).expect(204);
    await parts.engine.idle();
    await api.get(`/api/v1/projects/${id}/runs`).expect(404);
  });
});
