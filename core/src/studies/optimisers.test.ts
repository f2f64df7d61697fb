import { covarianceSearch, frontSearch, evenPoints, normalQuantile, spreadOf, Tries, type Worth } from '.';

const at = (bounds: readonly (readonly [number, number])[], place: readonly number[]) =>
  bounds.map(([a, b], i) => a + place[i] * (b - a));
/** A problem with one aim and constraints g ≤ 0. */
const problem =
  (
    bounds: readonly (readonly [number, number])[],
    aim: (x: number[]) => number,
    held: (x: number[]) => number[] = () => [],
  ) =>
  (places: number[][]): Promise<Worth[]> =>
    Promise.resolve(
      places.map((p) => {
        const x = at(bounds, p);
        return { miss: held(x).reduce((s, g) => s + Math.max(0, g), 0), aims: [aim(x)] };
      }),
    );

describe('search by covariance', () => {
  it('finds the valley of Rosenbrock in ten dimensions', async () => {
    const bounds = Array.from({ length: 10 }, () => [-5, 10] as const);
    const aim = (x: number[]) => x.slice(1).reduce((s, v, i) => s + 100 * (v - x[i] ** 2) ** 2 + (1 - x[i]) ** 2, 0);
    const start = bounds.map((_, i) => 0.2 + 0.05 * i);
    const { worth } = await covarianceSearch(problem(bounds, aim), { budget: 30_000, seed: 3, start });
    expect(worth.aims[0]).toBeLessThan(1e-9);
  });
  it('keeps to curved constraints: g24', async () => {
    const bounds = [[0, 3], [0, 4]] as const; // prettier-ignore
    const { worth, place } = await covarianceSearch(
      problem(
        bounds,
        ([x, y]) => -x - y,
        ([x, y]) => [
          -2 * x ** 4 + 8 * x ** 3 - 8 * x ** 2 + y - 2,
          -4 * x ** 4 + 32 * x ** 3 - 88 * x ** 2 + 96 * x + y - 36,
        ],
      ),
      { budget: 6000, seed: 5, start: [0.2, 0.2] },
    );
    expect(worth.miss).toBe(0);
    expect(worth.aims[0]).toBeCloseTo(-5.508013, 3);
    expect(at(bounds, place)[0]).toBeCloseTo(2.3295, 2);
  });
  it('finds the corner of a thin region: g06', async () => {
    const bounds = [[13, 100], [0, 100]] as const; // prettier-ignore
    const { worth } = await covarianceSearch(
      problem(
        bounds,
        ([x, y]) => (x - 10) ** 3 + (y - 20) ** 3,
        ([x, y]) => [100 - (x - 5) ** 2 - (y - 5) ** 2, (x - 6) ** 2 + (y - 5) ** 2 - 82.81],
      ),
      { budget: 20_000, seed: 1, start: [0.5, 0.5] },
    );
    expect(worth.miss).toBe(0);
    expect(worth.aims[0] / -6961.81388).toBeGreaterThan(0.999);
  });
  it('gives the same answer for the same seed, and never more tries than allowed', async () => {
    let asked = 0;
    const run = (seed: number) =>
      covarianceSearch(
        (places) => {
          asked += places.length;
          return problem([[0, 1], [0, 1]], ([x, y]) => (x - 0.3) ** 2 + (y - 0.6) ** 2)(places); // prettier-ignore
        },
        { budget: 200, seed, start: [0.9, 0.1] },
      );
    const [a, b, c] = [await run(2), await run(2), await run(4)];
    expect(a).toEqual(b);
    expect(c.place).not.toEqual(a.place);
    expect(asked).toBeLessThanOrEqual(600);
  });
});

describe('search for a front', () => {
  const n = 30;
  const g = (x: number[]) => 1 + (9 * x.slice(1).reduce((s, v) => s + v, 0)) / (n - 1);
  const ZDT: Record<string, (x: number[]) => [number, number]> = {
    ZDT1: (x) => [x[0], g(x) * (1 - Math.sqrt(x[0] / g(x)))],
    ZDT2: (x) => [x[0], g(x) * (1 - (x[0] / g(x)) ** 2)],
    ZDT3: (x) => [x[0], g(x) * (1 - Math.sqrt(x[0] / g(x)) - (x[0] / g(x)) * Math.sin(10 * Math.PI * x[0]))],
  };
  /** Area that points dominate below (1.1, 1.1). */
  function volume(points: [number, number][]): number {
    let [sum, low] = [0, 1.1];
    for (const [x, y] of points.filter(([a, b]) => a < 1.1 && b < 1.1).sort((a, b) => a[0] - b[0]))
      if (y < low) {
        sum += (1.1 - x) * (low - y);
        low = y;
      }
    return sum;
  }
  it.each(Object.keys(ZDT))('%s: the front has its hypervolume within 1 %%', async (name) => {
    const f = ZDT[name];
    const found = await frontSearch((places) => Promise.resolve(places.map((p): Worth => ({ miss: 0, aims: f(p) }))), {
      budget: 40_000,
      seed: 7,
      start: Array.from({ length: n }, () => 0.5),
    });
    const flat = (x: number) => f([x, ...new Array<number>(n - 1).fill(0)]);
    const exact = volume(Array.from({ length: 20_001 }, (_, i) => flat(i / 20_000)));
    const own = volume(found.map((m) => m.worth.aims as [number, number]));
    expect(own / exact).toBeGreaterThan(0.99);
    expect(own / exact).toBeLessThanOrEqual(1.0001);
  });
});

describe('even points', () => {
  it('fill the cube, the same for the same seed, without running side by side', () => {
    const points = evenPoints(512, 12, 9);
    expect(points).toEqual(evenPoints(512, 12, 9));
    for (let d = 0; d < 12; d++) {
      const own = points.map((p) => p[d]);
      expect(own.reduce((s, v) => s + v, 0) / 512).toBeCloseTo(0.5, 1);
      expect(Math.min(...own)).toBeGreaterThan(0);
      expect(Math.max(...own)).toBeLessThan(1);
    }
    const correlation = points.reduce((s, p) => s + (p[10] - 0.5) * (p[11] - 0.5), 0) / 512 / (1 / 12);
    expect(Math.abs(correlation)).toBeLessThan(0.15);
  });
  it('become normal numbers', () => {
    expect(normalQuantile(0.5)).toBeCloseTo(0, 12);
    expect(normalQuantile(0.975)).toBeCloseTo(1.959963985, 8);
    expect(normalQuantile(1e-6)).toBeCloseTo(-4.753424309, 6);
  });
});

describe('spread', () => {
  const axis = (from: number, to: number, sd?: number) => ({
    from,
    to,
    value: 0.5 * (from + to),
    step: 0.1,
    whole: false,
    ...(sd !== undefined && { sd }),
  });
  it('has the indices of the Ishigami function', async () => {
    const tries = new Tries(([x, y, z]) =>
      Promise.resolve({
        values: [Math.sin(x) + 7 * Math.sin(y) ** 2 + 0.1 * z ** 4 * Math.sin(x)],
        reasons: {},
      }),
    );
    const axes = [0, 1, 2].map(() => axis(-Math.PI, Math.PI));
    const { answers } = await spreadOf(tries, axes, 1, { budget: 5 * 8192, seed: 4 });
    const { first, total } = answers[0]!;
    [0.3139, 0.4424, 0].forEach((v, i) => expect(Math.abs(first[i].value - v)).toBeLessThan(0.01));
    [0.5576, 0.4424, 0.2437].forEach((v, i) => expect(Math.abs(total[i].value - v)).toBeLessThan(0.01));
    total.forEach((e) => expect(e.error).toBeLessThan(0.02));
  });
  it('of a linear model is normal, with the closed form', async () => {
    const tries = new Tries(([x, y]) => Promise.resolve({ values: [3 * x + 4 * y], reasons: {} }));
    const { answers } = await spreadOf(tries, [axis(0, 2, 0.1), axis(0, 2, 0.1)], 1, { budget: 4000, seed: 2 });
    const a = answers[0]!;
    expect(a.mean).toBeCloseTo(7, 2);
    expect(a.sd).toBeCloseTo(0.5, 2);
    expect(a.p95 - a.p50).toBeCloseTo(1.645 * 0.5, 1);
    expect(a.first[1].value).toBeCloseTo(16 / 25, 1);
  });
});
