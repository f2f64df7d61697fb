import { InvalidInput } from '../../numerics';
import { extentOf } from './layout';
import type { Diagnosis, Row } from './types';

/** Points that are put in order this way; of more, the outline is dense enough to tell its sides apart by height. */
export const MOST_TOUR = 1000;
const MOST_ROUNDS = 60;
/** Longest way around a section, in chords. */
const LONGEST = 3.5;
/** Points that each surface must have, and the longest way from one to the next, in chords. */
const FEWEST_ON_SIDE = 5;
const LONGEST_LEG = 0.25;
/** An exchange that makes the tour longer by less than this share of its chord is as good as the tour itself. */
const TIE = 1e-6;
/** Rear points nearer than this to the rearmost one, in chords, belong to the base of a blunt edge. */
const BASE = 0.004;

/**
 * Puts points that come in no order into the order of the shortest closed way through them, which for a section is its outline: a way that crosses
 * itself, or changes between the surfaces, is longer. Begun from nearest neighbours, mended by exchanging two legs and by moving single points.
 * @returns a loop from the trailing edge to the trailing edge. @throws InvalidInput `coordinates-order` with the lines where two orders are as short.
 */
export function ordered(rows: readonly Row[], diagnosis: Diagnosis[]): Row[] {
  const n = rows.length;
  const { length, high } = extentOf(rows);
  const d = (i: number, j: number) => Math.hypot(rows[i].x - rows[j].x, rows[i].y - rows[j].y);
  const tour = nearestNeighbours(
    n,
    d,
    rows.reduce((best, r, i) => (r.x > rows[best].x ? i : best), 0),
  );
  for (let round = 0; round < MOST_ROUNDS; round++) {
    if (!exchange(tour, d) && !move(tour, d)) break;
    // A section is hardly longer around than twice its chord; a cloud of points is far from it, and is not worked on.
    if (round === 1 && around(tour, d) > LONGEST * length)
      throw new InvalidInput(
        'coordinates-order',
        `The points from line ${rows[0].line} to line ${rows[n - 1].line} are in no order, and the shortest way through them is no outline.`,
        'Put them in the order of the outline.',
      );
  }
  const doubt = nearestRival(tour, d);
  if (doubt.longer < TIE * length) {
    const lines = doubt.at.map((k) => rows[tour[k]].line).sort((a, b) => a - b);
    throw new InvalidInput(
      'coordinates-order',
      `The points are in no order, and near those of lines ${lines[0]} and ${lines[1]} two orders are equally good.`,
      'Put them in the order of the outline.',
    );
  }
  const loop = cutAtEdge(
    tour.map((i) => rows[i]),
    high,
    length,
  );
  refuseHalf(loop, length);
  const lines = doubt.at.map((k) => rows[tour[k]].line);
  diagnosis.push({
    code: 'points-sorted',
    message: `The points were in no order; they were put in the order of the shortest way around. The next best order would be ${((100 * doubt.longer) / length).toPrecision(2)} % of the chord longer (at line ${Math.min(...lines)}).`,
    displacement: 0,
  });
  return loop;
}

const around = (tour: readonly number[], d: (i: number, j: number) => number): number =>
  tour.reduce((sum, i, k) => sum + d(i, tour[(k + 1) % tour.length]), 0);

function nearestNeighbours(n: number, d: (i: number, j: number) => number, start: number): number[] {
  const left = new Set(Array.from({ length: n }, (_, i) => i));
  const tour = [start];
  left.delete(start);
  while (left.size > 0) {
    const at = tour[tour.length - 1];
    let best = -1;
    for (const j of left) if (best < 0 || d(at, j) < d(at, best)) best = j;
    tour.push(best);
    left.delete(best);
  }
  return tour;
}

/** Exchanges pairs of legs as long as that shortens the tour. @returns whether any was. */
function exchange(tour: number[], d: (i: number, j: number) => number): boolean {
  const n = tour.length;
  let any = false;
  for (let i = 0; i + 1 < n; i++)
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [a, b, c, e] = [tour[i], tour[i + 1], tour[j], tour[(j + 1) % n]];
      if (d(a, c) + d(b, e) >= d(a, b) + d(c, e) - 1e-14) continue;
      for (let p = i + 1, q = j; p < q; p++, q--) [tour[p], tour[q]] = [tour[q], tour[p]];
      any = true;
    }
  return any;
}

/** Moves stretches of up to three points elsewhere as long as that shortens the tour. @returns whether any was. */
function move(tour: number[], d: (i: number, j: number) => number): boolean {
  const n = tour.length;
  for (let size = 1; size <= 3; size++)
    for (let i = 0; i < n; i++) {
      const turned = [...tour.slice(i), ...tour.slice(0, i)];
      const piece = turned.slice(1, 1 + size);
      const rest = [turned[0], ...turned.slice(1 + size)];
      const saved = d(turned[0], piece[0]) + d(piece[size - 1], rest[1]) - d(turned[0], rest[1]);
      for (let k = 1; k < rest.length; k++) {
        const [a, b] = [rest[k], rest[(k + 1) % rest.length]];
        for (const way of [piece, piece.slice().reverse()]) {
          if (d(a, way[0]) + d(way[size - 1], b) - d(a, b) >= saved - 1e-14) continue;
          rest.splice(k + 1, 0, ...way);
          tour.splice(0, n, ...rest);
          return true;
        }
      }
    }
  return false;
}

/** The exchange of two legs that lengthens the tour least. */
function nearestRival(
  tour: readonly number[],
  d: (i: number, j: number) => number,
): { longer: number; at: [number, number] } {
  const n = tour.length;
  let best: { longer: number; at: [number, number] } = { longer: Infinity, at: [0, 1] };
  for (let i = 0; i + 1 < n; i++)
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [a, b, c, e] = [tour[i], tour[i + 1], tour[j], tour[(j + 1) % n]];
      // Points that lie on each other can change places without a difference.
      if (d(a, b) === 0 || d(c, e) === 0 || d(b, c) === 0 || d(e, a) === 0) continue;
      const longer = d(a, c) + d(b, e) - d(a, b) - d(c, e);
      if (longer < best.longer) best = { longer, at: [i, j] };
    }
  return best;
}

/** @throws InvalidInput `coordinates-order` where one surface is missing, or the way leaps. */
function refuseHalf(loop: readonly Row[], length: number): void {
  let nose = 0;
  loop.forEach((r, i) => (nose = r.x < loop[nose].x ? i : nose));
  const refuse = (why: string): never => {
    throw new InvalidInput(
      'coordinates-order',
      `The points are in no order, and ${why}.`,
      'Put them in the order of the outline.',
    );
  };
  if (Math.min(nose, loop.length - 1 - nose) < FEWEST_ON_SIDE)
    refuse('the shortest way through them has one surface only');
  for (let i = 1; i < loop.length; i++) {
    const [a, b] = [loop[i - 1], loop[i]];
    if (Math.hypot(b.x - a.x, b.y - a.y) > LONGEST_LEG * length)
      refuse(`the shortest way through them leaps from line ${a.line} to line ${b.line}`);
  }
}

/** Opens the closed way at the trailing edge: between the corners of a blunt one, else at its point, which then stands at both ends. */
function cutAtEdge(ring: readonly Row[], high: number, length: number): Row[] {
  const n = ring.length;
  let rear = 0;
  ring.forEach((r, i) => (rear = r.x > ring[rear].x ? i : rear));
  for (const [from, to] of [
    [rear, (rear + 1) % n],
    [(rear + n - 1) % n, rear],
  ]) {
    const [a, b] = [ring[from], ring[to]];
    const base = high - Math.min(a.x, b.x) < BASE * length && Math.abs(a.y - b.y) > 3 * Math.abs(a.x - b.x);
    if (base || (a.x === b.x && a.y === b.y)) return [...ring.slice(to), ...ring.slice(0, to)];
  }
  return [...ring.slice(rear), ...ring.slice(0, rear), ring[rear]];
}
