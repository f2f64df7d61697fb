import { CubicSpline, InvalidInput } from '../../numerics';

/** A place on a surface and the speed there over that of the stream, positive toward the trailing edge. */
export type SpeedPair = [number, number];

/** Speed wanted at a node: x of the node, whether it lies on the upper surface, and x of the foremost point of the loop. */
export type SpeedTarget = (x: number, upper: boolean, foremost: number) => number;

const sorted = (pairs: readonly SpeedPair[], field: string): SpeedPair[] => {
  const list = pairs.map(([x, v]) => [x, v] as SpeedPair).sort((a, b) => a[0] - b[0]);
  const kept = list.filter(([x], i) => i === 0 || x - list[i - 1][0] > 1e-7);
  if (kept.length < 2)
    throw new InvalidInput(
      'target-speed',
      'A target speed needs two or more places along the chord.',
      undefined,
      field,
    );
  return kept;
};

/** A target over a stretch of one surface, through its pairs; straight beyond them. */
export function stretchTarget(pairs: readonly SpeedPair[]): SpeedTarget {
  const list = sorted(pairs, 'target');
  const spline = new CubicSpline(
    list.map((p) => p[0]),
    list.map((p) => p[1]),
    'natural',
  );
  const [first, last] = [list[0], list[list.length - 1]];
  const [slopeFirst, slopeLast] = [spline.derivative(first[0]), spline.derivative(last[0])];
  return (x) =>
    x < first[0]
      ? first[1] + slopeFirst * (x - first[0])
      : x > last[0]
        ? last[1] + slopeLast * (x - last[0])
        : spline.at(x);
}

/** A target over both surfaces: one curve over t = ±√(x − foremost), which runs smoothly around the nose. */
export function wholeTarget(upper: readonly SpeedPair[], lower: readonly SpeedPair[]): SpeedTarget {
  const above = sorted(upper, 'upper');
  const below = sorted(lower, 'lower');
  const foremost = Math.min(above[0][0], below[0][0]);
  if (above[above.length - 1][0] < 0.9 || below[below.length - 1][0] < 0.9 || above[0][0] > 0.1 || below[0][0] > 0.1) {
    throw new InvalidInput(
      'target-speed',
      'A speed for the whole section must run from the nose to the trailing edge on both surfaces.',
      'Give places from below 0.1 to above 0.9 of the chord, above and below.',
      'upper',
    );
  }
  const t: number[] = [];
  const q: number[] = [];
  // Along the loop's parameter the speed has one sign convention: toward the trailing edge over the upper surface.
  for (const [x, v] of below.slice().reverse()) {
    t.push(-Math.sqrt(Math.max(0, x - foremost)));
    q.push(-v);
  }
  for (const [x, v] of above) {
    const at = Math.sqrt(Math.max(0, x - foremost));
    if (at > t[t.length - 1] + 1e-6) {
      t.push(at);
      q.push(v);
    }
  }
  const spline = new CubicSpline(t, q);
  const [low, high] = [t[0], t[t.length - 1]];
  return (x, isUpper, front) => {
    const root = Math.sqrt(Math.max(0, x - front));
    const at = Math.min(high, Math.max(low, isUpper ? root : -root));
    return isUpper ? spline.at(at) : -spline.at(at);
  };
}
