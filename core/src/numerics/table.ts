/**
 * Index i of the interval of a table that holds a value: xs[i] ≤ x < xs[i + 1], the first or last one beyond the ends.
 * @param xs rising, two or more.
 */
export function intervalOf(xs: ArrayLike<number>, x: number): number {
  let [low, high] = [0, xs.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (xs[middle] <= x) low = middle;
    else high = middle;
  }
  return low;
}

/**
 * Value of a table at x by a straight line between its neighbours; beyond the ends their values are kept, or the first or last line goes on.
 * @param xs rising, two or more. @param ys as many.
 */
export function interpolate(
  xs: ArrayLike<number>,
  ys: ArrayLike<number>,
  x: number,
  beyond: 'end' | 'line' = 'end',
): number {
  const i = intervalOf(xs, x);
  const wide = xs[i + 1] - xs[i];
  const t = wide === 0 ? 0 : (x - xs[i]) / wide;
  const u = beyond === 'end' ? Math.min(1, Math.max(0, t)) : t;
  return ys[i] + u * (ys[i + 1] - ys[i]);
}
