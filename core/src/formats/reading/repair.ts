import { findCrossing, outlineFromPairs } from '../../section';
import { InvalidInput, RAD } from '../../numerics';
import { extentOf } from './layout';
import { linesOf, type Diagnosis, type Row } from './types';

/** Points nearer to each other than this, in chords, are one. */
const SAME = 2e-7;

/** Leaves out points that repeat the one before. */
export function withoutDoubles(rows: Row[], diagnosis: Diagnosis[]): Row[] {
  const { length } = extentOf(rows);
  const gone: Row[] = [];
  let most = 0;
  const kept: Row[] = [];
  rows.forEach((r, i) => {
    const before = kept[kept.length - 1];
    const d = before ? Math.hypot(r.x - before.x, r.y - before.y) : Infinity;
    // The last point may not go: with it the loop would not close.
    if (d <= SAME * length && i < rows.length - 1) {
      gone.push(r);
      most = Math.max(most, d / length);
    } else if (d <= SAME * length) {
      gone.push(before);
      kept[kept.length - 1] = r;
    } else kept.push(r);
  });
  if (gone.length > 0) {
    const low = extentOf(rows).low;
    const nose = gone.every((r) => r.x - low < 1e-4 * length);
    diagnosis.push({
      code: nose ? 'nose-doubled' : 'points-doubled',
      message: nose
        ? 'The point at the nose was there twice; one was removed.'
        : `${gone.length} doubled point(s) were removed.`,
      lines: linesOf(gone),
      displacement: most,
    });
  }
  return kept;
}

const turn = (a: Row, b: Row, c: Row) => {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, c.x - b.x, c.y - b.y];
  return Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
};

/**
 * Leaves out single points that leave the outline and come back: there the outline turns one way, sharply back, and the first way again.
 * @throws InvalidInput `coordinates-stray` where there are too many of them.
 */
export function withoutStrays(rows: Row[], diagnosis: Diagnosis[]): Row[] {
  const { length } = extentOf(rows);
  let list = rows;
  const gone: Row[] = [];
  let most = 0;
  for (let round = 0; round < 8; round++) {
    let worst = -1;
    let sharpest = 45 * RAD;
    for (let i = 2; i + 2 < list.length; i++) {
      const here = turn(list[i - 1], list[i], list[i + 1]);
      const before = turn(list[i - 2], list[i - 1], list[i]);
      const after = turn(list[i], list[i + 1], list[i + 2]);
      if (before * here >= 0 || after * here >= 0 || Math.min(Math.abs(before), Math.abs(after)) < 15 * RAD) continue;
      if (Math.abs(here) > sharpest) [worst, sharpest] = [i, Math.abs(here)];
    }
    if (worst < 0) break;
    const [a, b, c] = [list[worst - 1], list[worst], list[worst + 1]];
    const away = Math.abs((c.x - a.x) * (b.y - a.y) - (c.y - a.y) * (b.x - a.x)) / Math.hypot(c.x - a.x, c.y - a.y);
    gone.push(b);
    most = Math.max(most, away / length);
    list = list.filter((_, i) => i !== worst);
  }
  if (gone.length > Math.max(1, 0.05 * rows.length)) {
    throw new InvalidInput(
      'coordinates-stray',
      `Line ${gone[0].line} holds a point that leaves the outline, and ${gone.length - 1} more do (lines ${linesOf(gone).join(', ')}).`,
      'Correct those lines.',
    );
  }
  if (gone.length > 0)
    diagnosis.push({
      code: 'points-stray',
      message: `${gone.length} point(s) that left the outline and came back were removed.`,
      lines: linesOf(gone),
      displacement: most,
    });
  return list;
}

/** Leaves out points of the base of a blunt edge, where the loop was closed along it. */
export function withoutBase(rows: Row[], diagnosis: Diagnosis[]): Row[] {
  const { high, length } = extentOf(rows);
  const gone: Row[] = [];
  const upright = (a: Row, b: Row) =>
    high - Math.min(a.x, b.x) < 0.004 * length &&
    Math.abs(b.y - a.y) > 5 * Math.abs(b.x - a.x) &&
    Math.abs(b.y - a.y) > 1e-6 * length;
  let list = rows;
  while (list.length > 12 && upright(list[0], list[1])) {
    gone.push(list[0]);
    list = list.slice(1);
  }
  while (list.length > 12 && upright(list[list.length - 1], list[list.length - 2])) {
    gone.push(list[list.length - 1]);
    list = list.slice(0, -1);
  }
  if (gone.length === 0) return rows;
  diagnosis.push({
    code: 'base-removed',
    message: `${gone.length} point(s) on the base of the blunt trailing edge were left out; its corners stay.`,
    lines: linesOf(gone),
    displacement: 0,
  });
  return list;
}

/** Longest tiny loop at the trailing edge that is cut off, chords. */
const TINY = 0.06;

/** Cuts off a tiny loop where the surfaces cross just ahead of the trailing edge; the crossing becomes the edge. */
export function withoutEdgeLoop(rows: Row[], diagnosis: Diagnosis[]): Row[] {
  const { high, length } = extentOf(rows);
  const n = rows.length;
  const reach = Math.min(Math.floor(n / 3), 40);
  for (let i = Math.min(reach, n - 2); i >= 0; i--) {
    for (let j = Math.max(n - 2 - reach, i + 2); j < n - 1; j++) {
      const at = crossing(rows[i], rows[i + 1], rows[j], rows[j + 1]);
      if (!at) continue;
      if (high - at.x > TINY * length || i + 1 > j - 6) return rows;
      const cut = [...rows.slice(0, i + 1), ...rows.slice(j + 1)];
      const size = cut.reduce((m, r) => Math.max(m, Math.hypot(r.x - at.x, r.y - at.y)), 0);
      if (size < 1e-9 * length) return rows;
      diagnosis.push({
        code: 'edge-loop-removed',
        message: 'The surfaces crossed just ahead of the trailing edge; the tiny loop was cut off there.',
        lines: linesOf(cut),
        displacement: size / length,
      });
      return [{ line: 0, ...at }, ...rows.slice(i + 1, j + 1), { line: 0, ...at }];
    }
  }
  return rows;
}

function crossing(a: Row, b: Row, c: Row, d: Row): { x: number; y: number } | undefined {
  const det = (b.x - a.x) * (d.y - c.y) - (b.y - a.y) * (d.x - c.x);
  if (det === 0) return undefined;
  const t = ((c.x - a.x) * (d.y - c.y) - (c.y - a.y) * (d.x - c.x)) / det;
  const u = ((c.x - a.x) * (b.y - a.y) - (c.y - a.y) * (b.x - a.x)) / det;
  const open = 1e-9;
  return t > open && t < 1 - open && u > open && u < 1 - open
    ? { x: a.x + t * (b.x - a.x), y: a.y + t * (b.y - a.y) }
    : undefined;
}

/** Adds the point at the nose where both surfaces begin behind it, from the parabola through their first points. */
export function withNose(rows: Row[], diagnosis: Diagnosis[]): Row[] {
  const { length } = extentOf(rows);
  let k = 0;
  rows.forEach((r, i) => (k = r.x < rows[k].x ? i : k));
  // The two foremost points, one of each surface.
  if (k < 3 || k > rows.length - 4) return rows;
  const ahead = rows[k - 1].x < rows[k + 1].x ? k - 1 : k + 1;
  const [u, l] = ahead < k ? [ahead, k] : [k, ahead];
  const [a, b, c, d] = [rows[u - 1], rows[u], rows[l], rows[l + 1]];
  const width = Math.hypot(b.x - c.x, b.y - c.y);
  const open =
    Math.abs(b.x - c.x) < 0.35 * Math.abs(b.y - c.y) &&
    width > 1.35 * Math.max(Math.hypot(a.x - b.x, a.y - b.y), Math.hypot(c.x - d.x, c.y - d.y));
  const wide = width > 0.012 * length && Math.abs(b.x - c.x) < 0.1 * width;
  if (!open && !wide) return rows;
  // x = x0 + q (y − y0)² through the two foremost points and the mean of the next two.
  const y0 = 0.5 * (b.y + c.y);
  const inner = 0.25 * (b.y - c.y) ** 2;
  const outer = 0.25 * (a.y - d.y) ** 2;
  const xi = 0.5 * (b.x + c.x);
  const xo = 0.5 * (a.x + d.x);
  if (!(outer > 1.05 * inner) || !(xo > xi)) return rows;
  let x = xi - (inner * (xo - xi)) / (outer - inner);
  const depth = (xi - x) / length;
  if (depth < 2e-4 || depth > 0.03) return rows;
  // Coordinates of unit chord begin at 0.
  if (Math.abs(x) < 0.004 && xi > 0 && Math.abs(length - 1) < 0.03) x = 0;
  diagnosis.push({
    code: 'nose-added',
    message: `The point at the nose was missing; it was added ${((100 * (xi - x)) / length).toFixed(2)} % of the chord ahead of the first points.`,
    lines: linesOf([b, c]),
    displacement: (xi - x) / length,
  });
  return [...rows.slice(0, u + 1), { line: 0, x, y: y0 }, ...rows.slice(l)];
}

/** @throws InvalidInput `coordinates-crossing` with the lines where the outline crosses itself. */
export function refuseCrossing(rows: readonly Row[]): void {
  const crossed = findCrossing(outlineFromPairs(rows.map((r) => [r.x, r.y])));
  if (!crossed) return;
  const line = (i: number) => rows[i].line || rows[i + 1].line;
  throw new InvalidInput(
    'coordinates-crossing',
    `The outline crosses itself: between the points of lines ${line(crossed.first)} and ${line(crossed.second)}.`,
    'Look at those lines: the surfaces must not cross.',
  );
}

/** Sharpest corner of an outline away from its nose and edge. */
const SHARPEST = 75 * RAD;

/** @throws InvalidInput `coordinates-corner` where the outline turns too sharply to be a surface. */
export function refuseCorners(rows: readonly Row[]): void {
  const { low, length } = extentOf(rows);
  for (let i = 1; i + 1 < rows.length; i++) {
    const r = rows[i];
    if (r.x - low < 0.03 * length) continue;
    const angle = Math.abs(turn(rows[i - 1], r, rows[i + 1]));
    if (angle > SHARPEST) {
      throw new InvalidInput(
        'coordinates-corner',
        `At line ${r.line || rows[i + 1].line} the outline turns by ${(angle / RAD).toFixed(0)}°.`,
        'Look at the points there: is one wrong, or out of order?',
      );
    }
  }
}
