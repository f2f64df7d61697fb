import { expose } from 'comlink';
import { AnalysisError, GivenUp, Lane, makeLanes, setHome } from './lane';

interface Held {
  id: number;
  kind: string;
  input: unknown;
  report?: (progress: { done: number; of: number }) => void;
  answer: (a: unknown) => void;
}
/** What was asked of the workers, each until the test answers it. */
let held: Held[] = [];
let workers: StandIn[] = [];
let cancelled: number[] = [];
let homes: (string | null)[] = [];
let kept: number[] = [];

/** Every channel that is opened, also those of callbacks, so that none outlives its test. */
const channels: MessageChannel[] = [];
const Channel = globalThis.MessageChannel;
beforeAll(() => {
  globalThis.MessageChannel = class extends Channel {
    constructor() {
      super();
      channels.push(this);
    }
  };
});
afterAll(() => (globalThis.MessageChannel = Channel));

/** A worker on the other end of a channel, that answers when the test says so. */
class StandIn {
  private readonly channel = new MessageChannel();
  ended = false;
  constructor() {
    workers.push(this);
    expose(
      {
        run: (id: number, kind: string, input: unknown, _look: boolean, report?: Held['report']) =>
          new Promise((answer) => held.push({ id, kind, input, report, answer })),
        cancel: (id: number) => void cancelled.push(id),
        home: (project: string | null) => void homes.push(project),
        keep: (id: number) => void kept.push(id),
      },
      this.channel.port2,
    );
  }
  postMessage = (...a: Parameters<MessagePort['postMessage']>) => this.channel.port1.postMessage(...a);
  addEventListener = (...a: Parameters<MessagePort['addEventListener']>) => this.channel.port1.addEventListener(...a);
  removeEventListener = (...a: Parameters<MessagePort['removeEventListener']>) =>
    this.channel.port1.removeEventListener(...a);
  start = () => this.channel.port1.start();
  terminate = () => {
    this.ended = true;
    for (const port of [this.channel.port1, this.channel.port2]) port.close();
  };
}
const until = async (ready: () => boolean) => {
  for (let k = 0; k < 400 && !ready(); k++) await new Promise((go) => setTimeout(go, 5));
  if (!ready()) throw new Error('It did not come to that.');
};
const flow = { source: { kind: 'designation', designation: '0012' }, alpha: 0 } as never;

beforeEach(() => {
  held = [];
  workers = [];
  cancelled = [];
  homes = [];
  kept = [];
  (globalThis as unknown as { Worker: unknown }).Worker = StandIn;
});
afterEach(() => {
  for (const { port1, port2 } of channels.splice(0)) for (const port of [port1, port2]) port.close();
});

describe('a lane', () => {
  it('has one worker, started when it is first asked', async () => {
    const lane = new Lane();
    expect(workers).toHaveLength(0);
    const [a, b] = [lane.run('inviscid-flow', flow), lane.run('inviscid-flow', flow)];
    await until(() => held.length === 2);
    expect(workers).toHaveLength(1);
    expect(held[0].id).not.toBe(held[1].id);
    // Answers find their own question, whatever their order.
    held[1].answer({ ok: true, output: 'second', ms: 2 });
    expect(await b).toBe('second');
    held[0].answer({ ok: true, output: 'first', ms: 7 });
    expect(await a).toBe('first');
    expect(lane.lastMs).toBe(7);
  });
  it('tells how far an analysis is', async () => {
    const seen: number[] = [];
    const run = new Lane().run('polar', flow, (p) => seen.push(p.done));
    await until(() => held.length === 1);
    for (const done of [1, 2, 3]) held[0].report!({ done, of: 3 });
    await until(() => seen.length === 3);
    held[0].answer({ ok: true, output: [], ms: 1 });
    await run;
    expect(seen).toEqual([1, 2, 3]);
  });
  it('gives a failure with its reason, hint and field', async () => {
    const run = new Lane().run('inviscid-flow', flow);
    await until(() => held.length === 1);
    held[0].answer({ ok: false, cancelled: false, message: 'Why.', code: 'x', hint: 'Do.', path: 'a.b' });
    const error: AnalysisError = await run.then(
      () => Promise.reject(new Error('no failure')),
      (e: AnalysisError) => e,
    );
    expect(error).toBeInstanceOf(AnalysisError);
    expect(error).toMatchObject({ message: 'Why.', code: 'x', hint: 'Do.', path: 'a.b' });
  });
  it('cancels one analysis and no other', async () => {
    const lane = new Lane();
    const [a, b] = [lane.run('polar', flow), lane.run('polar', flow)];
    await until(() => held.length === 2);
    a.cancel();
    await until(() => cancelled.length === 1);
    expect(cancelled).toEqual([held[0].id]);
    held[0].answer({ ok: false, cancelled: true, message: 'The analysis was ended.' });
    held[1].answer({ ok: true, output: 'kept', ms: 1 });
    await expect(a).rejects.toBeInstanceOf(GivenUp);
    expect(await b).toBe('kept');
  });
  it('started anew gives up all that ran, also inside a step that never ends, and works on', async () => {
    const lane = new Lane();
    const stuck = [lane.run('read-files', flow), lane.run('read-files', flow)].map((r) => r.catch((e: Error) => e));
    await until(() => held.length === 2);
    lane.restart();
    for (const s of stuck) expect(await s).toBeInstanceOf(GivenUp);
    expect(workers[0].ended).toBe(true);
    const next = lane.run('inviscid-flow', flow);
    await until(() => held.length === 3);
    expect(workers).toHaveLength(2);
    held[2].answer({ ok: true, output: 'new', ms: 1 });
    expect(await next).toBe('new');
  });
  it('started anew for one kind asks what else is waiting of the new worker', async () => {
    const lane = new Lane();
    const stuck = lane.run('thick', flow).catch((e: Error) => e);
    const other = lane.run('streams', flow);
    await until(() => held.length === 2);
    lane.restart('thick');
    expect(await stuck).toBeInstanceOf(GivenUp);
    await until(() => held.length === 3);
    expect(workers).toHaveLength(2);
    expect(held[2].kind).toBe('streams');
    held[2].answer({ ok: true, output: 'answered', ms: 1 });
    expect(await other).toBe('answered');
  });
  it('shares its worker on a small machine; started anew, what other lanes wait for is asked again', async () => {
    const lanes = makeLanes(2);
    const stuck = lanes.skins.run('thick', flow).catch((e: Error) => e);
    const other = lanes.performance.run('performance', flow);
    const quick = lanes.candidate.run('evaluation', flow);
    await until(() => held.length === 3);
    expect(workers).toHaveLength(2);
    lanes.skins.restart();
    expect(await stuck).toBeInstanceOf(GivenUp);
    await until(() => held.length === 4);
    expect(workers.map((w) => w.ended).sort()).toEqual([false, false, true]);
    expect(held[3].kind).toBe('performance');
    held[3].answer({ ok: true, output: 'asked again', ms: 3 });
    held.find((h) => h.kind === 'evaluation')!.answer({ ok: true, output: 'quick', ms: 5 });
    expect(await other).toBe('asked again');
    expect(await quick).toBe('quick');
    expect([lanes.performance.lastMs, lanes.candidate.lastMs, lanes.skins.lastMs]).toEqual([3, 5, 0]);
  });
  it('has as many workers as a large machine has groups of lanes', async () => {
    const lanes = makeLanes(16);
    const names = ['candidate', 'polars', 'motion', 'performance', 'skins', 'study', 'section', 'limits'] as const;
    const runs = names.map((name) => lanes[name].run('evaluation', flow));
    await until(() => held.length === names.length);
    expect(workers).toHaveLength(6);
    for (const h of held) h.answer({ ok: true, output: 1, ms: 1 });
    await Promise.all(runs);
  });
  it('is told whose results it may take and keep, also when its worker begins later', async () => {
    (globalThis as unknown as { location: unknown }).location = { origin: 'http://here' };
    const lane = new Lane();
    setHome('p');
    const run = lane.run('motion', flow);
    await until(() => held.length === 1 && homes.includes('p'));
    held[0].answer({ ok: true, output: 1, ms: 1 });
    await run;
    lane.keep(run.id);
    await until(() => kept.length === 1);
    expect(kept).toEqual([held[0].id]);
    setHome(null);
    await until(() => homes.includes(null));
  });
  it('sends plain data, without what the interface wraps around it', async () => {
    const inner = { kind: 'designation', designation: '0012' };
    const watched = new Proxy({ source: new Proxy(inner, {}), alpha: 0 }, {});
    const run = new Lane().run('inviscid-flow', watched as never);
    await until(() => held.length === 1);
    expect(held[0].input).toEqual({ source: inner, alpha: 0 });
    held[0].answer({ ok: true, output: 1, ms: 1 });
    await run;
  });
});
