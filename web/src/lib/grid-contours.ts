import { contours } from 'd3-contour';
import { CubicSpline } from '@veldtwind/core/numerics';

/** Values over a grid: a row for each y, a value for each x; null where there is none. */
export interface Grid {
  xs: number[];
  ys: number[];
  rows: (number | null)[][];
}
export interface GridPoint {
  x: number;
  y: number;
  /** On the edge of the grid, or beside a place without a value. */
  edge: boolean;
}
/** Of one value: rings, of each polygon the outer one first. */
export interface Contour {
  value: number;
  rings: GridPoint[][];
}

/** One row and column more on each side, straight on: the cells of a grid end half a step before it does. */
function padded(grid: number[][]): number[][] {
  const ends = (list: number[]) => [2 * list[0] - list[1], ...list, 2 * list[list.length - 1] - list[list.length - 2]];
  const wide = grid.map(ends);
  const beside = (a: number[], b: number[]) => a.map((v, i) => 2 * v - b[i]);
  const last = wide.length - 1;
  return [beside(wide[0], wide[1]), ...wide, beside(wide[last], wide[last - 1])];
}

/** Lines of equal value over a grid of at least two by two. What has no value lies below all else: lines end where values end. */
export function gridContours({ xs, ys, rows }: Grid, levels: readonly number[]): Contour[] {
  const [w, h] = [xs.length + 2, ys.length + 2];
  const grid = padded(rows.map((row) => row.map((v) => v ?? NaN)));
  const finite = grid.flat().filter(Number.isFinite);
  if (finite.length === 0) return [];
  const [least, most] = [Math.min(...finite), Math.max(...finite)];
  const below = least - 1e4 * Math.max(1, most - least);
  const filled = grid.flat().map((v) => (Number.isFinite(v) ? v : below));
  const there = (i: number, k: number) =>
    Number.isFinite(grid[Math.max(0, Math.min(h - 1, k))][Math.max(0, Math.min(w - 1, i))]);
  const place = (list: number[], k: number) => {
    const i = Math.max(0, Math.min(list.length - 2, Math.floor(k)));
    return list[i] + (list[i + 1] - list[i]) * (k - i);
  };
  return contours()
    .size([w, h])
    .smooth(true)
    .thresholds([...levels])(filled)
    .map((c) => ({
      value: c.value,
      rings: c.coordinates.flatMap((polygon) =>
        polygon.map((ring) =>
          ring.map(([x, y]) => {
            const [i, k] = [x - 0.5, y - 0.5];
            const ends = [Math.floor(i), Math.ceil(i)].flatMap((a) =>
              [Math.floor(k), Math.ceil(k)].map((b) => there(a, b)),
            );
            return {
              x: place(xs, i - 1),
              y: place(ys, k - 1),
              edge: i <= 0 || k <= 0 || i >= w - 1 || k >= h - 1 || ends.some((e) => !e),
            };
          }),
        ),
      ),
    }));
}

const between = (list: readonly number[], times: number): number[] =>
  list
    .slice(0, -1)
    .flatMap((a, i) => Array.from({ length: times }, (_, k) => a + ((list[i + 1] - a) * k) / times))
    .concat(list[list.length - 1]);

/** The same surface on a finer grid, by splines along both ways; a grid that lacks values stays as it is. @param times places for one. */
export function refined({ xs, ys, rows }: Grid, times: number): Grid {
  if (xs.length < 3 || ys.length < 3 || rows.some((r) => r.some((v) => v === null || !Number.isFinite(v))))
    return { xs, ys, rows };
  const [fineX, fineY] = [between(xs, times), between(ys, times)];
  const along = (at: readonly number[], values: readonly number[], fine: readonly number[]) => {
    const spline = new CubicSpline(Float64Array.from(at), Float64Array.from(values));
    return fine.map((v) => spline.at(v));
  };
  const wide = rows.map((r) => along(xs, r as number[], fineX));
  const columns = fineX.map((_, i) =>
    along(
      ys,
      wide.map((r) => r[i]),
      fineY,
    ),
  );
  return { xs: fineX, ys: fineY, rows: fineY.map((_, k) => columns.map((c) => c[k])) };
}

/** The value at a place, between the four about it; null outside, and beside what has none. */
export function gridValue({ xs, ys, rows }: Grid, x: number, y: number): number | null {
  const cell = (list: readonly number[], v: number) => {
    const i = list.findIndex((a, k) => k < list.length - 1 && v >= a && v <= list[k + 1]);
    return i < 0 ? null : { i, t: (v - list[i]) / (list[i + 1] - list[i]) };
  };
  const [a, b] = [cell(xs, x), cell(ys, y)];
  if (!a || !b) return null;
  const four = [rows[b.i][a.i], rows[b.i][a.i + 1], rows[b.i + 1][a.i], rows[b.i + 1][a.i + 1]];
  if (four.some((v) => v === null)) return null;
  const [p, q, r, s] = four as number[];
  return (1 - b.t) * ((1 - a.t) * p + a.t * q) + b.t * ((1 - a.t) * r + a.t * s);
}
