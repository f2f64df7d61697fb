import { whileMoving } from './while-moving';

let due: ((now: number) => void) | null = null;
let now = 0;
beforeEach(() => {
  [due, now] = [null, 0];
  globalThis.requestAnimationFrame = (call) => ((due = call), 1);
  globalThis.cancelAnimationFrame = () => (due = null);
});
/** Frames until none is asked for. */
function run(most: number, each = 20): number {
  let count = 0;
  for (; due && count < most; count++) {
    const call = due;
    due = null;
    call((now += each));
  }
  return count;
}

describe('a loop while something moves', () => {
  it('ends at rest, and begins again with the pace of a frame', () => {
    let left = 5;
    const seconds: number[] = [];
    const loop = whileMoving((s) => (seconds.push(s), left-- > 0));
    expect(due).toBeNull();
    loop.wake();
    expect(run(100)).toBe(15);
    expect(seconds.slice(0, 3).map((s) => Number(s.toFixed(4)))).toEqual([0.0167, 0.02, 0.02]);
    now += 60_000;
    left = 1;
    loop.wake();
    expect(run(100)).toBe(11);
    expect(Math.max(...seconds)).toBeCloseTo(0.02, 9);
  });
  it('is begun once, goes on while it is woken, and can be stopped', () => {
    const loop = whileMoving(() => false);
    loop.wake();
    loop.wake();
    expect(run(8)).toBe(8);
    loop.wake();
    expect(run(100)).toBe(10);
    loop.wake();
    loop.stop();
    expect(due).toBeNull();
  });
});
