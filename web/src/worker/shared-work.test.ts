import { SharedWork } from './shared-work';

let begun: { cancelled: () => boolean; report: (p: { done: number; of: number }) => void }[] = [];
let finish: ((output: unknown) => void)[] = [];
let fail: ((error: Error) => void)[] = [];
jest.mock('@veldtwind/core/analysis', () => ({
  runAnalysis: (_kind: string, _input: unknown, context: (typeof begun)[number]) =>
    new Promise((done, failed) => {
      begun.push(context);
      finish.push(done);
      fail.push(failed);
    }),
}));
const input = { speed: 20 } as never;
const tick = () => new Promise((go) => setTimeout(go, 0));

beforeEach(() => {
  begun = [];
  finish = [];
  fail = [];
});

describe('work that several ask for', () => {
  it('is done once while it is under way, and its answer stays at hand', async () => {
    const work = new SharedWork();
    const key = work.keyOf('motion', input);
    const told: number[] = [];
    const both = [
      work.run(0, 'motion', input, key, (p) => told.push(p.done)),
      work.run(1, 'motion', input, key, (p) => told.push(10 * p.done)),
    ];
    await tick();
    expect(begun).toHaveLength(1);
    begun[0].report({ done: 1, of: 2 });
    expect(told).toEqual([1, 10]);
    finish[0]('modes');
    expect(await Promise.all(both)).toEqual(['modes', 'modes']);
    expect(work.answered(key)).toBe('modes');
    expect(work.answered(work.keyOf('motion', { speed: 21 }))).toBeUndefined();
  });
  it('goes on until every request is given up; one that comes after that begins anew', async () => {
    const work = new SharedWork();
    const key = work.keyOf('motion', input);
    const [a, b] = [work.run(0, 'motion', input, key), work.run(1, 'motion', input, key)];
    for (const r of [a, b]) r.catch(() => undefined);
    await tick();
    work.cancel(0);
    expect(begun[0].cancelled()).toBe(false);
    work.cancel(1);
    expect(begun[0].cancelled()).toBe(true);
    const c = work.run(2, 'motion', input, key);
    await tick();
    expect(begun).toHaveLength(2);
    fail[0](new Error('given up'));
    await expect(a).rejects.toThrow('given up');
    await expect(b).rejects.toThrow('given up');
    // The end of the first does not take the place of the second.
    const d = work.run(3, 'motion', input, key);
    await tick();
    expect(begun).toHaveLength(2);
    finish[1]('anew');
    expect(await c).toBe('anew');
    expect(await d).toBe('anew');
  });
  it('is tried again after it failed', async () => {
    const work = new SharedWork();
    const key = work.keyOf('control-survey', input);
    const first = work.run(0, 'control-survey', input, key);
    await tick();
    fail[0](new Error('why'));
    await expect(first).rejects.toThrow('why');
    expect(work.answered(key)).toBeUndefined();
    const second = work.run(1, 'control-survey', input, key);
    await tick();
    finish[1]('well');
    expect(await second).toBe('well');
  });
  it('is not joined where nobody else asks for it', async () => {
    const work = new SharedWork();
    expect(work.keyOf('evaluation', input)).toBeNull();
    const both = [work.run(0, 'evaluation', input, null), work.run(1, 'evaluation', input, null)];
    await tick();
    expect(begun).toHaveLength(2);
    finish[0]('a');
    finish[1]('b');
    expect(await Promise.all(both)).toEqual(['a', 'b']);
    expect(work.answered(null)).toBeUndefined();
  });
});
