import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checkedPlan, countOf, sweepsOf, type RunPlan } from '@veldtwind/core/polar';
import { isSolved } from '@veldtwind/core/section-flow';
import { openDatabase, type Db } from '@veldtwind/store/open';
import { RunStore, type RunRow, type TaskStep } from '@veldtwind/store/runs';
import type { Backend, TaskEnd } from './backend';
import { RunEngine } from './engine';
import { solveTask, type SweepJob } from './task';
import { ThreadBackend } from './threads';

const plan = (more: object = {}): RunPlan =>
  checkedPlan({
    sections: ['0009', '4415'].map((designation) => ({
      name: designation,
      source: { kind: 'designation', designation, trailingEdge: 'published' },
    })),
    reynolds: [3e5, 1e6],
    alphas: [0, 2, 4],
    spread: { panels: 80, trailingEdge: 1, nose: 1 },
    ...more,
  });

let folder: string;
let db: Db;
let store: RunStore;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'runs-'));
  db = openDatabase(join(folder, 'd.sqlite'));
  store = new RunStore(db);
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

/** Solves in this thread, one step a turn of the loop, so that tests can break in anywhere. */
class StepwiseBackend implements Backend {
  readonly capacity = 1;
  readonly jobs: SweepJob[] = [];
  constructor(
    private readonly most = Infinity,
    private readonly how: TaskEnd = { how: 'lost', message: 'the test ended it' },
  ) {}
  private taken = 0;
  run(job: SweepJob, onStep: (step: TaskStep) => void) {
    this.jobs.push(job);
    let stopped = false;
    const steps: TaskStep[] = [];
    solveTask(
      job,
      (s) => steps.push(s),
      () => false,
    );
    const ended = (async (): Promise<TaskEnd> => {
      for (const step of steps) {
        await new Promise((r) => setImmediate(r));
        if (stopped) return { how: 'stopped' };
        if (this.taken++ >= this.most) return this.how;
        onStep(step);
      }
      return { how: 'done' };
    })();
    return { ended, stop: () => void (stopped = true) };
  }
  close = () => Promise.resolve();
}

/** Everything that a run came to. */
const everything = (id: string) =>
  store
    .curvesOfRun(id)
    .map((c) => [c.name, c.input.conditions.reynolds, store.points(c.id).map((p) => [p.place, p.point])]);

describe('a plan', () => {
  it('becomes one sweep for each curve; what is asked for twice is there once', () => {
    expect(countOf(plan())).toBe(12);
    expect(sweepsOf(plan())).toHaveLength(4);
    expect(sweepsOf(plan({ reynolds: [1e6, 1e6], alphas: [1, 0, 1] }))).toMatchObject([
      { values: [0, 1] },
      { values: [0, 1] },
    ]);
    const over = sweepsOf(plan({ sweep: 'over-re' }));
    expect(over).toHaveLength(6);
    expect(over[0]).toMatchObject({ values: [3e5, 1e6], input: { swept: 're', at: { alphaDeg: 0 } } });
  });
  it.each([
    [{ sections: [] }, /sections.*empty/],
    [{ reynolds: [] }, /reynolds.*empty/],
    [{ alphas: undefined }, /angles or lift/],
    [{ lifts: [0.1] }, /angles or lift/],
    [{ reynolds: [NaN] }, /reynolds/],
    [{ mach: [0.9] }, /mach/],
    [{ conditions: { tripTop: 2 } }, /Trip/],
  ])('is refused with the field: %j', (more, message) => {
    expect(() => plan(more)).toThrow(message);
  });
  it('of ten million points is refused before anything is made of it', () => {
    const many = (n: number) => Array.from({ length: n }, (_, i) => i);
    const big = plan({
      reynolds: many(500).map((i) => 1e5 + i),
      mach: many(10).map((i) => i / 100),
      alphas: many(2000).map((i) => i / 100),
    });
    expect(countOf(big)).toBe(2e7);
    expect(() => sweepsOf(big)).toThrow(/20000000 points/);
    const curves = plan({ reynolds: many(500).map((i) => 1e5 + i), mach: many(20).map((i) => i / 100), alphas: [0] });
    expect(() => sweepsOf(curves)).toThrow(/20000 curves/);
  });
  it('of many curves is planned in slices: the loop goes on meanwhile, and the run is the same', async () => {
    const wide = plan({ reynolds: Array.from({ length: 200 }, (_, i) => 1e5 + 1000 * i), alphas: [0, 1] });
    let turns = 0;
    const turning = setInterval(() => turns++, 0);
    expect(await store.knownInSlices(wide)).toBe(0);
    const run = await store.createInSlices(null, 'wide', wide);
    const listed: { name: string }[] = [];
    for await (const text of store.curvesText(null)) listed.push(JSON.parse(text) as { name: string });
    clearInterval(turning);
    expect(turns).toBeGreaterThan(3);
    expect(run).toMatchObject({ state: 'running', points: 800, tasks: 400, known: 0, failed: 0 });
    expect(listed).toHaveLength(400);
    expect(listed).toEqual(JSON.parse(JSON.stringify(store.curves(null))));
    const again = store.create(null, 'again', wide);
    expect(again).toMatchObject({ state: 'running', points: 800, tasks: 400 });
    expect(store.curves(null)).toHaveLength(400);
  });
  it('has its progress counted as its tasks change: the same as their sum', async () => {
    const engine = new RunEngine(store, new StepwiseBackend(7, { how: 'failed', message: 'by the test' }));
    const { id } = engine.submit(null, 'x', plan());
    await engine.idle();
    const sum = db
      .prepare(
        `SELECT sum(points) AS points, sum(known) AS known, sum(solved) AS solved, sum(doubtful) AS doubtful, sum(unsolved) AS unsolved,
         count(*) AS tasks, sum(state = 'failed') AS failed FROM run_task WHERE run_id = ?`,
      )
      .get(id);
    const run = store.run(id)!;
    expect(run).toMatchObject(sum as object);
    expect(run.failed).toBeGreaterThan(0);
    expect(run).toMatchObject({ error: 'by the test', state: 'finished' });
  });
});

describe('a run', () => {
  it('is solved on threads, and every point is kept with what it is read again from', async () => {
    const seen: RunRow[] = [];
    const engine = new RunEngine(store, new ThreadBackend(2), { changed: (run) => seen.push(run) });
    const { id } = engine.submit(null, 'four curves', plan());
    await engine.idle();
    expect(store.run(id)).toMatchObject({
      state: 'finished',
      points: 12,
      known: 0,
      solved: 12,
      unsolved: 0,
      failed: 0,
    });
    // Told now and then on the way, and at the end.
    expect(seen.length).toBeGreaterThanOrEqual(4);
    const curves = store.curves(null);
    expect(curves.map((c) => [c.name, c.points])).toEqual([
      ['0009', 3],
      ['0009', 3],
      ['4415', 3],
      ['4415', 3],
    ]);
    for (const curve of curves) {
      expect(store.points(curve.id).map((p) => p.place)).toEqual([0, 2e6, 4e6]);
      expect(Buffer.from(store.stateText(curve.id, 2e6)!, 'base64').length).toBeLessThan(4000);
    }
    expect(db.prepare('SELECT count(*) FROM task_step').pluck().get()).toBe(0);
    await engine.close();
  });
  it('with a finer step adds to the same curves, and solves only what is new', async () => {
    const engine = new RunEngine(store, new StepwiseBackend());
    engine.submit(null, 'coarse', plan());
    await engine.idle();
    expect(store.known(plan({ alphas: [0, 1, 2, 3, 4] }))).toBe(12);
    const { id, known } = engine.submit(null, 'finer', plan({ alphas: [0, 1, 2, 3, 4] }));
    expect(known).toBe(12);
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', points: 20, known: 12, solved: 8 });
    expect(store.curves(null)).toHaveLength(4);
    expect(store.points(store.curves(null)[0].id).map((p) => p.place / 1e6)).toEqual([0, 1, 2, 3, 4]);
    expect(engine.submit(null, 'again', plan()).state).toBe('finished');
  });
  it('killed anywhere and begun again loses no point, repeats none, and ends the same', async () => {
    const whole = new RunEngine(store, new StepwiseBackend());
    const first = whole.submit(null, 'whole', plan()).id;
    await whole.idle();
    const wanted = everything(first);
    await whole.remove(first);
    expect(store.size).toBe(0);
    const id = store.create(null, 'broken', plan()).id;
    let solved = 0;
    for (let kills = 0; store.run(id)!.state !== 'finished'; kills++) {
      // A process that dies: the engine is thrown away as it stands.
      const engine = new RunEngine(store, new StepwiseBackend(2, { how: 'stopped' }));
      engine.start();
      for (let i = 0; i < 20 && store.run(id)!.state !== 'finished'; i++) await new Promise((r) => setImmediate(r));
      await engine.close();
      const now = store.run(id)!;
      expect(now.solved + now.doubtful).toBeGreaterThanOrEqual(solved);
      solved = now.solved + now.doubtful;
      expect(kills).toBeLessThan(40);
    }
    expect(store.run(id)).toMatchObject({ points: 12, solved: 12 });
    expect(everything(id)).toEqual(wanted);
  });
  it('rests, goes on, and ends when it is told to', async () => {
    const engine = new RunEngine(store, new StepwiseBackend());
    const { id } = engine.submit(null, 'x', plan());
    await new Promise((r) => setTimeout(r, 5));
    engine.setState(id, 'paused');
    await engine.idle();
    const { solved } = store.run(id)!;
    expect(store.run(id)!.state).toBe('paused');
    expect(solved).toBeLessThan(12);
    engine.setState(id, 'running');
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', solved: 12 });
    const other = engine.submit(null, 'y', plan({ reynolds: [2e6] })).id;
    engine.setState(other, 'cancelled');
    await engine.idle();
    expect(store.run(other)!.state).toBe('cancelled');
    await engine.close();
  });
  it('of a higher priority comes first', async () => {
    const backend = new StepwiseBackend();
    const engine = new RunEngine(store, backend);
    store.create(null, 'low', plan({ reynolds: [4e5] }), 0);
    store.create(null, 'high', plan({ reynolds: [5e5] }), 5);
    engine.start();
    await engine.idle();
    expect(backend.jobs.map((j) => j.input.conditions.reynolds)).toEqual([5e5, 5e5, 4e5, 4e5]);
  });
  it('a task that cannot be solved stops only itself; a lost worker gives its task back, three times at most', async () => {
    const bad = plan();
    bad.sections.push({
      name: 'bad',
      flap: { x: 0.75, y: 0.5, angleDeg: 60 },
      source: { kind: 'designation', designation: '4402', trailingEdge: 'published' },
    });
    const troubles: string[] = [];
    const failing = new (class extends StepwiseBackend {
      override run(job: SweepJob, onStep: (s: TaskStep) => void) {
        if (
          job.input.conditions.reynolds === 1e6 &&
          job.input.source.kind === 'designation' &&
          job.input.source.designation === '0009'
        )
          return { ended: Promise.resolve<TaskEnd>({ how: 'lost', message: 'gone' }), stop: () => undefined };
        try {
          return super.run(job, onStep);
        } catch (error) {
          return {
            ended: Promise.resolve<TaskEnd>({ how: 'failed', message: (error as Error).message }),
            stop: () => undefined,
          };
        }
      }
    })();
    const engine = new RunEngine(store, failing, { trouble: (m) => troubles.push(m) });
    const { id } = engine.submit(null, 'x', bad);
    await engine.idle();
    const run = store.run(id)!;
    expect(run.state).toBe('finished');
    expect(run.failed).toBeGreaterThanOrEqual(1);
    expect(run.solved).toBeGreaterThanOrEqual(9);
    expect(troubles.filter((t) => /lost/.test(t))).toHaveLength(2);
    expect(run.error).toBeTruthy();
  });
  it('a disk that is full rests the run, and what was solved before is kept', async () => {
    const engine = new RunEngine(
      new (class extends RunStore {
        private left = 3;
        override keep(...args: Parameters<RunStore['keep']>): number {
          if (this.left-- <= 0) throw Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
          return super.keep(...args);
        }
      })(db),
      new StepwiseBackend(),
    );
    const { id } = engine.submit(null, 'x', plan());
    await engine.idle();
    expect(store.run(id)).toMatchObject({ state: 'paused', solved: 3 });
    const again = new RunEngine(store, new StepwiseBackend());
    again.setState(id, 'running');
    await again.idle();
    expect(store.run(id)).toMatchObject({ state: 'finished', solved: 12 });
  });
  it('a disk that is full so that not even a task can be given back: it is taken back when there is room', async () => {
    let full = false;
    const refused = () => {
      if (full) throw Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
    };
    class Filled extends RunStore {
      private kept = 0;
      override keep(...args: Parameters<RunStore['keep']>): number {
        if (++this.kept === 4) full = true;
        refused();
        return super.keep(...args);
      }
      override release(...args: Parameters<RunStore['release']>): void {
        refused();
        super.release(...args);
      }
      override setState(...args: Parameters<RunStore['setState']>): void {
        refused();
        super.setState(...args);
      }
      override take(): ReturnType<RunStore['take']> {
        refused();
        return super.take();
      }
      override takeBack(under: readonly number[]): number {
        refused();
        return super.takeBack(under);
      }
    }
    const troubles: string[] = [];
    const engine = new RunEngine(new Filled(db), new StepwiseBackend(), { trouble: (m) => troubles.push(m) }, 20);
    engine.start();
    const { id } = engine.submit(null, 'x', plan());
    await engine.idle();
    expect(store.runningTasks(id)).toHaveLength(1);
    expect(store.run(id)).toMatchObject({ state: 'running', solved: 3 });
    await new Promise((r) => setTimeout(r, 100));
    expect(store.run(id)!.solved).toBe(3);
    full = false;
    for (let i = 0; i < 300 && store.run(id)!.state !== 'finished'; i++) await new Promise((r) => setTimeout(r, 20));
    expect(store.run(id)).toMatchObject({ state: 'finished', solved: 12, failed: 0 });
    expect(troubles.join()).toMatch(/1 task that nobody solved goes back/);
    await engine.close();
  });
  it('closing in leaves a shared curve its points until there are better ones', async () => {
    const engine = new RunEngine(store, new StepwiseBackend());
    engine.submit(null, 'x', plan({ reynolds: [1e6] }));
    await engine.idle();
    const [curve] = store.curves(null);
    const unsolved = { status: 'unsolved', alpha: 0.0698, reynolds: 1e6, reason: 'by the test', iterations: 9 };
    db.prepare('DELETE FROM curve_point WHERE curve = ? AND place = 4000000').run(curve.id);
    db.prepare("INSERT INTO curve_point (curve, place, status, json) VALUES (?, 4000000, 'unsolved', ?)").run(
      curve.id,
      JSON.stringify(unsolved),
    );
    // Another project looks at the same curve.
    const at = () => store.points(curve.id).find((p) => p.place === 4000000)?.point;
    const rested = new RunEngine(store, { ...new StepwiseBackend(), capacity: 0 } as unknown as Backend);
    const { id } = rested.closeIn(null)!;
    expect(at()).toMatchObject(unsolved);
    expect(store.curves(null)[0]).toMatchObject({ points: 3, unsolved: 1 });
    store.setState(id, 'cancelled');
    expect(at()).toMatchObject(unsolved);
    engine.setState(id, 'running');
    await engine.idle();
    expect(at()!.status).toBe('solved');
    expect(store.curves(null)[0]).toMatchObject({ points: 6, unsolved: 0 });
  });
  it('closes in on what is unsolved beside what is solved, in smaller steps, and tries it again', async () => {
    const engine = new RunEngine(store, new StepwiseBackend());
    engine.submit(null, 'x', plan({ reynolds: [1e6] }));
    await engine.idle();
    expect(engine.closeIn(null)).toBeUndefined();
    const [first, second] = store.curves(null);
    // A point that was not solved, as a harder section would have it.
    db.prepare('DELETE FROM curve_point WHERE curve = ? AND place = 4000000').run(first.id);
    db.prepare("INSERT INTO curve_point (curve, place, status, json) VALUES (?, 4000000, 'unsolved', ?)").run(
      first.id,
      JSON.stringify({ status: 'unsolved', alpha: 0.0698, reynolds: 1e6, reason: 'by the test', iterations: 9 }),
    );
    expect(store.curves(null)[0]).toMatchObject({ points: 3, solved: 2, unsolved: 1 });
    expect(engine.closeIn(null, [second.id])).toBeUndefined();
    const run = engine.closeIn(null)!;
    expect(run.points).toBe(4);
    await engine.idle();
    expect(store.run(run.id)).toMatchObject({ state: 'finished', solved: 4, unsolved: 0 });
    expect(store.points(first.id).map((p) => p.place / 1e6)).toEqual([0, 2, 2.5, 3, 3.5, 4]);
    expect(store.curves(null)[0]).toMatchObject({ points: 6, solved: 6, unsolved: 0 });
  });
  it('what another worker brings a second time is not written again', async () => {
    const task = (store.create(null, 'x', plan()), store.take()!);
    const steps: TaskStep[] = [];
    solveTask(
      task,
      (s) => steps.push(s),
      () => false,
    );
    expect(store.keep(task, steps)).toBe(3);
    expect(store.keep(task, steps)).toBe(0);
    store.finish(task.id);
    expect(store.keep(task, steps)).toBe(0);
    expect(store.points(task.curve).every((p) => isSolved(p.point))).toBe(true);
  });
});

describe('other kinds of sweep', () => {
  it('over lift, at a fixed lift force and over Reynolds numbers', async () => {
    const engine = new RunEngine(store, new StepwiseBackend());
    for (const more of [
      { alphas: undefined, lifts: [0.3, 0.5] },
      { sweep: 'fixed-lift', alphas: [3, 5] },
      { sweep: 'over-re', alphas: [3] },
    ]) {
      const { id } = engine.submit(null, 'x', plan(more));
      await engine.idle();
      const run = store.run(id)!;
      expect(run.solved + run.doubtful).toBe(run.points);
    }
  });
});
