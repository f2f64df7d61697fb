import { effectScope, nextTick, ref } from 'vue';
import { inTurn } from './in-turn';
import { readPath, writePath } from './document-path';
import { equalDomains, pixelsOf, plotScale } from './plot-scale';
import { domainOf } from './chart-model';

jest.mock('@/worker/lane', () => ({ GivenUp: class extends Error {} }));
import { useLive } from './live';
import { useLiveEach } from './live-each';
import { tellDragging } from './dragging';

const settled = async () => {
  for (let k = 0; k < 20; k++) await Promise.resolve();
  await nextTick();
};

describe('a live answer', () => {
  const lane = () => {
    const waiting: { input: { n: number }; done: (v: unknown) => void; failed: (e: Error) => void }[] = [];
    const kept: number[] = [];
    return {
      waiting,
      kept,
      lastMs: 3,
      run: (_kind: string, input: { n: number }) =>
        Object.assign(new Promise((done, failed) => waiting.push({ input, done, failed })), { id: waiting.length - 1 }),
      keep: (id: number) => void kept.push(id),
    };
  };
  it('is kept when it has come to rest, and not while a value goes on or is dragged', async () => {
    jest.useFakeTimers();
    try {
      const l = lane();
      const n = ref(1);
      let dragging = false;
      tellDragging(() => dragging);
      useLive(l as never, 'lift', () => ({ n: n.value }) as never);
      await settled();
      l.waiting[0].done('one');
      await settled();
      n.value = 2;
      await settled();
      await jest.advanceTimersByTimeAsync(4000);
      // Another one is asked for already.
      expect(l.kept).toEqual([]);
      l.waiting[1].done('two');
      await settled();
      dragging = true;
      await jest.advanceTimersByTimeAsync(4000);
      expect(l.kept).toEqual([]);
      dragging = false;
      n.value = 3;
      await settled();
      l.waiting[2].done('three');
      await settled();
      await jest.advanceTimersByTimeAsync(4000);
      expect(l.kept).toEqual([2]);
    } finally {
      tellDragging(() => false);
      jest.useRealTimers();
    }
  });
  it('is the newest: what came in between is never asked, and a late one does not hide what is true', async () => {
    const l = lane();
    const n = ref(1);
    const answer = useLive(l as never, 'lift', () => ({ n: n.value }) as never);
    await settled();
    n.value = 2;
    await settled();
    n.value = 3;
    await settled();
    expect(answer.waiting.value).toBe(true);
    expect(l.waiting.map((w) => w.input.n)).toEqual([1]);
    l.waiting[0].done('one');
    await settled();
    expect(answer.stale.value).toBe(true);
    expect(l.waiting.map((w) => w.input.n)).toEqual([1, 3]);
    l.waiting[1].done('three');
    await settled();
    expect(answer.value.value).toBe('three');
    expect([answer.stale.value, answer.waiting.value]).toEqual([false, false]);
  });
  it('is one for each that is looked at, and of one that comes back begins anew', async () => {
    const l = lane();
    const keys = ref(['a', 'b']);
    const scope = effectScope();
    const each = scope.run(() =>
      useLiveEach(
        () => keys.value,
        l as never,
        'lift',
        (k) => ({ n: k === 'a' ? 1 : 2 }) as never,
      ),
    )!;
    await settled();
    expect(l.waiting.map((w) => w.input.n)).toEqual([1, 2]);
    l.waiting.forEach((w) => w.done(`answer ${w.input.n}`));
    await settled();
    expect(each.of('b')!.value.value).toBe('answer 2');
    keys.value = ['b', 'c'];
    await settled();
    expect(each.of('a')).toBeUndefined();
    expect(each.of('b')!.value.value).toBe('answer 2');
    keys.value = ['a'];
    await settled();
    expect(each.all()).toHaveLength(1);
    expect(each.of('a')!.value.value).toBeNull();
    scope.stop();
  });
  it('asks nothing while nobody looks, and nothing twice', async () => {
    const l = lane();
    const look = ref(false);
    const other = ref(0);
    useLive(l as never, 'lift', () => (other.value, look.value ? ({ n: 1 } as never) : null));
    await settled();
    expect(l.waiting).toHaveLength(0);
    look.value = true;
    await settled();
    l.waiting[0].done('x');
    await settled();
    other.value++;
    await settled();
    expect(l.waiting).toHaveLength(1);
  });
  it('tells why there is none, and goes on with the next', async () => {
    const l = lane();
    const n = ref(1);
    const answer = useLive(l as never, 'lift', () => ({ n: n.value }) as never);
    await settled();
    l.waiting[0].failed(Object.assign(new Error('No.'), { hint: 'Do this.' }));
    await settled();
    expect(answer.failure.value).toMatchObject({ message: 'No.', hint: 'Do this.' });
    expect(answer.value.value).toBeNull();
    n.value = 2;
    await settled();
    l.waiting[1].done('two');
    await settled();
    expect(answer.failure.value).toBeNull();
    expect(answer.value.value).toBe('two');
  });
});

it('does what shares a name one after the other, whatever becomes of it', async () => {
  const done: string[] = [];
  const work =
    (name: string, ms: number, fails = false) =>
    async () => {
      await new Promise((r) => setTimeout(r, ms));
      done.push(name);
      if (fails) throw new Error(name);
      return name;
    };
  const first = inTurn('a', work('slow', 20, true));
  const second = inTurn('a', work('quick', 1));
  const other = inTurn('b', work('beside', 1));
  await expect(first).rejects.toThrow('slow');
  expect(await second).toBe('quick');
  expect(await other).toBe('beside');
  expect(done).toEqual(['beside', 'slow', 'quick']);
});

describe('places in the document', () => {
  const document = {
    a: {
      list: [
        { id: 'x', v: 1 },
        { id: 'y', v: 2 },
      ],
    },
  };
  it('are found by id, also when the list changed its order', () => {
    expect(readPath(document, ['a', 'list', { id: 'y' }, 'v'])).toBe(2);
    document.a.list.reverse();
    expect(readPath(document, ['a', 'list', { id: 'y' }, 'v'])).toBe(2);
    expect(writePath(document, ['a', 'list', { id: 'x' }, 'v'], 9)).toBe(true);
    expect(document.a.list[1].v).toBe(9);
  });
  it('that are gone are nothing', () => {
    expect(readPath(document, ['a', 'list', { id: 'z' }, 'v'])).toBeUndefined();
    expect(writePath(document, ['a', 'list', { id: 'z' }, 'v'], 1)).toBe(false);
    expect(writePath(document, ['nowhere', 'v'], 1)).toBe(false);
  });
});

describe('scales of a plot', () => {
  it('are linear or logarithmic, and can be flipped', () => {
    expect(plotScale([0, 10], 100)(5)).toBe(50);
    for (const scale of [
      plotScale([-3, 7], 431),
      plotScale([-3, 7], 431, 'linear', true),
      plotScale([1, 1e4], 90, 'log'),
      plotScale([2, 2], 50),
    ])
      for (const v of [-2.5, 1, 2, 6.99]) {
        const [own, fast] = [scale(v), pixelsOf(scale)(v)];
        if (Number.isFinite(own)) expect(fast).toBeCloseTo(own, 9);
        else expect(Number.isFinite(fast)).toBe(false);
      }
    expect(plotScale([0, 10], 100, 'linear', true)(0)).toBe(100);
    expect(plotScale([1e4, 1e6], 100, 'log')(1e5)).toBeCloseTo(50, 9);
    // A domain that a logarithm cannot show still gives places.
    expect(Number.isFinite(plotScale([-5, 100], 100, 'log')(10))).toBe(true);
  });
  it('have units of one length on both axes where that is asked for', () => {
    const { x, y } = equalDomains([0, 1], [-0.1, 0.1], { w: 400, h: 200 });
    expect((x[1] - x[0]) / 400).toBeCloseTo((y[1] - y[0]) / 200, 12);
    expect(x[0]).toBeLessThanOrEqual(0);
    expect(y[1]).toBeGreaterThanOrEqual(0.1);
  });
  it('fit what is there, and stand where nothing is', () => {
    const series = [
      {
        points: [
          { x: 2e4, y: 0 },
          { x: 3e6, y: 5 },
        ],
      },
    ] as never;
    expect(domainOf(series, 'x', { name: 'Re', scale: 'log' })).toEqual([2e4, 3e6]);
    expect(domainOf([], 'x', { name: 'x' })).toEqual([0, 1]);
    expect(domainOf([], 'y', { name: 'y', scale: 'log' })).toEqual([1, 10]);
    expect(domainOf(series, 'y', { name: 'y', zero: true })[0]).toBe(0);
  });
});
