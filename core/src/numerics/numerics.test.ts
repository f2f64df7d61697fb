import {
  intervalOf,
  CubicSpline,
  cosineSpaced,
  factorise,
  FailedComputation,
  fitLine,
  gauss5,
  interpolate,
  rootBetween,
  rootsOver,
  solveFactorised,
} from '.';

const randomMatrix = (n: number, seed: number) => {
  let state = seed;
  return Float64Array.from({ length: n * n }, () => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return state / 2147483648 - 0.5;
  });
};

describe('dense factorisation', () => {
  it.each([1, 2, 7, 47, 48, 49, 130, 201])('solves a system of %i to rounding', (n) => {
    const a = randomMatrix(n, n);
    const exact = Float64Array.from({ length: n }, (_, i) => Math.sin(i + 1));
    const b = new Float64Array(n);
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) b[i] += a[i * n + j] * exact[j];
    const x = solveFactorised(factorise(a.slice(), n), b);
    for (let i = 0; i < n; i++) expect(Math.abs(x[i] - exact[i])).toBeLessThan(1e-8);
  });
  it('pivots when the diagonal is zero', () => {
    const x = solveFactorised(factorise(Float64Array.of(0, 2, 4, 0), 2), Float64Array.of(6, 8));
    expect(Array.from(x)).toEqual([2, 3]);
  });
  it('names a singular system', () => {
    expect(() => factorise(Float64Array.of(1, 2, 2, 4), 2)).toThrow(FailedComputation);
    expect(() => factorise(Float64Array.of(NaN, 2, 2, 4), 2)).toThrow(/singular/);
  });
});

describe('cubic spline', () => {
  it('is exact for a cubic with not-a-knot ends, with its derivatives', () => {
    const t = [0, 0.5, 1.2, 2, 3.1];
    const f = (x: number) => x ** 3 - 2 * x + 1;
    const s = new CubicSpline(t, t.map(f));
    for (const x of [0, 0.3, 1, 2.7, 3.1]) {
      expect(s.at(x)).toBeCloseTo(f(x), 11);
      expect(s.derivative(x)).toBeCloseTo(3 * x * x - 2, 10);
      expect(s.second(x)).toBeCloseTo(6 * x, 9);
    }
  });
  it('has no curvature at natural ends', () => {
    const s = new CubicSpline([0, 1, 2, 3], [0, 1, 0, 1], 'natural');
    expect(s.second(0)).toBeCloseTo(0, 12);
    expect(s.second(3)).toBeCloseTo(0, 12);
  });
  it('refuses knots that do not increase', () => {
    expect(() => new CubicSpline([0, 1, 1], [0, 1, 2])).toThrow(/in order/);
  });
});

it('finds roots', () => {
  expect(rootBetween(Math.cos, 0, 3)).toBeCloseTo(Math.PI / 2, 11);
  expect(rootsOver(Math.sin, [-1, 1, 4, 7])).toHaveLength(3);
  expect(() => rootBetween((x) => x * x + 1, -1, 1)).toThrow(/change sign/);
});

it('integrates, spaces, interpolates and fits', () => {
  expect(gauss5((x) => x ** 9 + x ** 8, 0, 1)).toBeCloseTo(1 / 10 + 1 / 9, 13);
  expect(Array.from(cosineSpaced(0, 1, 3))).toEqual([0, expect.closeTo(0.5, 14), 1]);
  expect(interpolate([0, 1, 3], [0, 2, 6], 2)).toBeCloseTo(4);
  expect(interpolate([0, 1], [5, 7], 9)).toBe(7);
  expect(fitLine([0, 1, 2], [1, 3, 5])).toEqual({
    at0: expect.closeTo(1, 12),
    slope: expect.closeTo(2, 12),
    misfit: expect.closeTo(0, 12),
  });
});

describe('a table', () => {
  const xs = [0, 1, 3];
  const ys = [10, 20, 0];
  it('is read between its places by straight lines, and beyond its ends as asked', () => {
    expect(interpolate(xs, ys, 0.5)).toBe(15);
    expect(interpolate(xs, ys, 1)).toBe(20);
    expect(interpolate(xs, ys, 2)).toBe(10);
    expect(interpolate(xs, ys, 4, 'line')).toBe(-10);
    expect(interpolate(xs, ys, 4)).toBe(0);
    expect(interpolate(xs, ys, -1)).toBe(10);
    expect(interpolate([2, 2], [1, 5], 2)).toBe(1);
  });
  it('finds its interval, also far outside', () => {
    expect([-9, 0, 0.9, 1, 2.9, 3, 99].map((x) => intervalOf(xs, x))).toEqual([0, 0, 0, 1, 1, 1, 1]);
  });
});
