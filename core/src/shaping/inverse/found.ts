import { CubicSpline } from '../../numerics';
import type { Outline } from '../../section';
import type { FoundDisplacement } from '../schema';
import type { Shape } from '../shape';

const round = (v: number) => Number(v.toFixed(10));

/** The displacement between an outline and what a design made of it, over the share of the way around. */
export function displacementBetween(before: Shape, after: Outline, of: string): FoundDisplacement {
  const { outline, spline } = before;
  const n = outline.x.length;
  const moves = (i: number) => outline.x[i] !== after.x[i] || outline.y[i] !== after.y[i];
  let [first, last] = [0, n - 1];
  while (first < n - 1 && !moves(first + 1)) first++;
  while (last > first && !moves(last - 1)) last--;
  const found: FoundDisplacement = { of, s: [], x: [], y: [] };
  for (let i = first; i <= last; i++) {
    found.s.push(round(spline.knots[i] / spline.length));
    found.x.push(round(after.x[i] - outline.x[i]));
    found.y.push(round(after.y[i] - outline.y[i]));
  }
  return found;
}

/** An outline moved by a displacement that was found, whatever the number of its points. */
export function displaced(shape: Shape, found: FoundDisplacement): Outline {
  const { outline, spline } = shape;
  if (found.s.length < 2) return outline;
  const [dx, dy] = [new CubicSpline(found.s, found.x), new CubicSpline(found.s, found.y)];
  const [from, to] = [found.s[0], found.s[found.s.length - 1]];
  const x = outline.x.slice();
  const y = outline.y.slice();
  for (let i = 0; i < x.length; i++) {
    const at = spline.knots[i] / spline.length;
    if (at < from || at > to) continue;
    x[i] += dx.at(at);
    y[i] += dy.at(at);
  }
  return { x, y };
}
