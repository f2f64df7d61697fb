import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Worker } from 'bullmq';
import { Redis } from 'ioredis';
import { checkedPlan, type RunPlan } from '@veldtwind/core/polar';
import { openDatabase, type Db } from '@veldtwind/store/open';
import { RunStore } from '@veldtwind/store/runs';
import type { Backend } from './backend';
import { RunEngine } from './engine';
import { QueueBackend } from './queue/queue-backend';
import { startWorker, type QueueWorker } from './queue/worker';
import { redisUrl } from './queue/choose-backend';
import { QUEUE } from './queue/wire';
import { TestRedis } from './testing/redis';
import { ThreadBackend } from './threads';

const designation = (name: string) => ({
  name,
  source: { kind: 'designation', designation: name, trailingEdge: 'published' },
});
const plan = (more: object = {}): RunPlan =>
  checkedPlan({
    sections: ['0009', '4415'].map(designation),
    reynolds: [3e5, 1e6],
    alphas: [0, 2, 4],
    spread: { panels: 80, trailingEdge: 1, nose: 1 },
    ...more,
  });
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
async function until(what: () => boolean, most = 30_000): Promise<void> {
  for (let i = 0; i < most / 20 && !what(); i++) await wait(20);
  expect(what()).toBe(true);
}

let redis: TestRedis;
let folder: string;
let db: Db;
let store: RunStore;
beforeAll(async () => {
  redis = await TestRedis.start();
});
afterAll(() => redis.remove());
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'backend-'));
  db = openDatabase(join(folder, 'd.sqlite'));
  store = new RunStore(db);
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});
const everything = (id: string) =>
  store
    .curvesOfRun(id)
    .map((c) => [c.name, c.input.conditions.reynolds, store.points(c.id).map((p) => [p.place, p.point])]);

describe.each(['threads', 'queue'] as const)('by %s', (kind) => {
  let backend: Backend;
  let worker: QueueWorker | undefined;
  beforeEach(() => {
    if (kind === 'threads') backend = new ThreadBackend(2);
    else {
      backend = new QueueBackend(redis.url, `test-${Math.random().toString(36).slice(2)}`);
      worker = startWorker(redis.url, 2, () => undefined);
    }
  });
  afterEach(async () => {
    await worker?.close();
    worker = undefined;
  });

  it('every point is solved, kept once, and the same as in this thread', async () => {
    const seen = new Set<string>();
    const engine = new RunEngine(store, backend, {
      kept: (task, steps) =>
        steps.forEach(({ point }) => {
          if (!point) return;
          const place = `${task.curve} ${point.place}`;
          expect(seen.has(place)).toBe(false);
          seen.add(place);
        }),
    });
    const { id } = engine.submit(null, 'x', plan());
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', points: 12, solved: 12, failed: 0 });
    expect(seen.size).toBe(12);
    const numbers = everything(id);
    // A finer step goes on from the same states.
    const finer = engine.submit(null, 'finer', plan({ alphas: [0, 1, 2, 3, 4] }));
    await engine.idle();
    expect(store.run(finer.id)).toMatchObject({ state: 'finished', known: 12, solved: 8 });
    await engine.close();
    const other = openDatabase(':memory:');
    const there = new RunStore(other);
    const embedded = new RunEngine(there, new ThreadBackend(1));
    const again = embedded.submit(null, 'x', plan()).id;
    await embedded.idle();
    await embedded.close();
    expect(
      there
        .curvesOfRun(again)
        .map((c) => [c.name, c.input.conditions.reynolds, there.points(c.id).map((p) => [p.place, p.point])]),
    ).toEqual(numbers);
    other.close();
  });

  it('a run that rests in mid-task goes on where it was', async () => {
    const engine = new RunEngine(store, backend);
    const alphas = Array.from({ length: 41 }, (_, i) => -5 + i * 0.25);
    const { id } = engine.submit(null, 'x', plan({ sections: [designation('4415')], reynolds: [3e5], alphas }));
    await until(() => store.run(id)!.solved > 2);
    engine.setState(id, 'paused');
    await engine.idle();
    const { solved } = store.run(id)!;
    expect(solved).toBeLessThan(41);
    await wait(300);
    expect(store.run(id)!.solved).toBe(solved);
    engine.setState(id, 'running');
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished' });
    expect(store.curvesOfRun(id)[0].points).toBe(41);
    await engine.close();
  });

  it('a task that cannot be solved says why, and stops only itself', async () => {
    const bad = plan({ reynolds: [3e5] });
    // A flap that no plan lets through, so that the worker finds it.
    bad.sections.push({ ...plan().sections[0], name: 'bad', flap: { x: 0.75, y: 0.5, angleDeg: 80 } });
    const engine = new RunEngine(store, backend);
    const { id } = engine.submit(null, 'x', bad);
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', solved: 6, failed: 1 });
    expect(store.run(id)!.error).toBeTruthy();
    await engine.close();
  });

  it('an engine that ends in the middle leaves its tasks to the next', async () => {
    const engine = new RunEngine(store, backend);
    const { id } = engine.submit(null, 'x', plan());
    await until(() => store.run(id)!.solved > 0);
    await engine.close();
    const had = store.run(id)!.solved;
    const next = kind === 'threads' ? new ThreadBackend(2) : new QueueBackend(redis.url, 'another');
    const after = new RunEngine(store, next);
    after.start();
    await after.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', solved: 12 });
    expect(had).toBeLessThanOrEqual(12);
    await after.close();
  });
});

describe('the queue', () => {
  /** A worker as it is started by hand. */
  function spawned(): ChildProcess {
    return spawn('node', [resolve('scripts/vw.mjs'), 'worker', '--threads', '1'], {
      env: { ...process.env, VELDTWIND_REDIS_URL: redis.url },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
  }
  const takes = (child: ChildProcess) =>
    new Promise<void>((done) => child.stderr!.on('data', (text: Buffer) => /takes/.test(String(text)) && done()));

  it('a worker killed in mid-task costs only what was not kept; the run waits for the next, and says so', async () => {
    const backend = new QueueBackend(redis.url, 'owner-a');
    const troubles: string[] = [];
    const engine = new RunEngine(store, backend, { trouble: (m) => troubles.push(m) });
    const first = spawned();
    const begun = takes(first);
    const alphas = Array.from({ length: 81 }, (_, i) => -6 + i * 0.2);
    const { id } = engine.submit(null, 'x', plan({ sections: [designation('4415')], reynolds: [2e5], alphas }));
    await begun;
    await until(() => store.run(id)!.solved > 5);
    first.kill('SIGKILL');
    await until(() => engine.notice !== null);
    expect(engine.notice).toMatch(/No worker is connected.*npm run worker/);
    const { solved } = store.run(id)!;
    const worker = startWorker(redis.url, 1, () => undefined);
    let fresh = 0;
    const keep = store.keep.bind(store);
    store.keep = (task, steps) => {
      const n = keep(task, steps);
      fresh += n;
      return n;
    };
    await engine.idle();
    const run = store.run(id)!;
    expect(run.state).toBe('finished');
    expect(fresh).toBe(81 - solved);
    expect(troubles.join()).toMatch(/worker was lost/);
    expect(engine.notice).toBeNull();
    await worker.close();
    await engine.close();
  }, 90_000);

  it('Redis that goes away in the middle is told, and the run goes on when it is back, though it has forgotten everything', async () => {
    const backend = new QueueBackend(redis.url, 'owner-b');
    const troubles: string[] = [];
    const engine = new RunEngine(store, backend, { trouble: (m) => troubles.push(m) });
    const worker = startWorker(redis.url, 1, (m) => troubles.push(m));
    const alphas = Array.from({ length: 41 }, (_, i) => -6 + i * 0.4);
    const { id } = engine.submit(null, 'x', plan({ alphas }));
    await until(() => store.run(id)!.solved > 5);
    await redis.down();
    await until(() => engine.notice !== null);
    expect(engine.notice).toMatch(/Redis is not reachable/);
    expect(store.run(id)!.state).toBe('running');
    await wait(1500);
    await redis.up();
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', points: 164, failed: 0 });
    expect(troubles.join()).toMatch(/reachable again/);
    await worker.close();
    await engine.close();
  }, 90_000);

  it('a command that Redis refuses is no Redis that is away: nothing is given out until it takes commands again', async () => {
    const backend = new QueueBackend(redis.url, 'owner-c');
    const troubles: string[] = [];
    const taken: number[] = [];
    const engine = new RunEngine(
      new (class extends RunStore {
        override take() {
          const task = super.take();
          if (task) taken.push(task.id);
          return task;
        }
      })(db),
      backend,
      { trouble: (m) => troubles.push(m) },
    );
    const worker = startWorker(redis.url, 1, () => undefined);
    await until(() => backend.connected > 0);
    const admin = new Redis(redis.url);
    await admin.config('SET', 'maxmemory', '1');
    const { id } = engine.submit(null, 'x', plan());
    await until(() => /Redis refuses/.test(engine.notice ?? ''));
    await wait(1500);
    // No hot loop of taking and giving back.
    expect(taken.length).toBeLessThan(8);
    expect(store.run(id)).toMatchObject({ state: 'running', failed: 0 });
    await admin.config('SET', 'maxmemory', '0');
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', points: 12, failed: 0 });
    expect(engine.notice).toBeNull();
    expect(troubles.join()).toMatch(/takes commands again/);
    admin.disconnect();
    await worker.close();
    await engine.close();
  }, 90_000);

  it('messages that mean nothing cost an attempt, and the reason is told in the end', async () => {
    const backend = new QueueBackend(redis.url, 'owner-d');
    const engine = new RunEngine(store, backend);
    // A worker that says rubbish: its tasks end with nothing, and its steps are none.
    let turn = 0;
    const connection = new Redis(redis.url, { maxRetriesPerRequest: null });
    const worker = new Worker(
      QUEUE,
      async (job) => {
        if (turn++ % 2 === 0) await job.updateProgress(null as never);
        return null;
      },
      { connection, name: '1-rubbish' },
    );
    const { id } = engine.submit(null, 'x', plan({ sections: [designation('0009')], reynolds: [3e5] }));
    await until(() => store.run(id)!.state === 'finished', 60_000);
    expect(store.run(id)).toMatchObject({
      failed: 1,
      error: expect.stringMatching(/sent (a step|an end) that is none/),
    });
    await worker.close();
    connection.disconnect();
    await engine.close();
  }, 90_000);

  it('closes within seconds though Redis died in the middle', async () => {
    const backend = new QueueBackend(redis.url, 'owner-e');
    const engine = new RunEngine(store, backend);
    const worker = startWorker(redis.url, 1, () => undefined);
    engine.submit(null, 'x', plan());
    await until(() => backend.connected > 0);
    await redis.down();
    const begun = Date.now();
    await Promise.all([engine.close(), worker.close()]);
    expect(Date.now() - begun).toBeLessThan(10_000);
    await redis.up();
  }, 60_000);

  it('an address that is none is refused, and its password not shown', () => {
    expect(redisUrl({})).toBeUndefined();
    expect(redisUrl({ VELDTWIND_REDIS_URL: 'redis://h:1' })).toBe('redis://h:1');
    expect(() => redisUrl({ VELDTWIND_REDIS_URL: 'http://me:secret@h' })).toThrow(/no address of Redis/);
    try {
      redisUrl({ VELDTWIND_REDIS_URL: 'http://me:secret@h' });
    } catch (error) {
      expect((error as Error).message).not.toContain('secret');
    }
  });
});
