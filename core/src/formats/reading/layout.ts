import { InvalidInput } from '../../numerics';
import { MOST_TOUR, ordered } from './tour';
import { linesOf, type Diagnosis, type NumberLine, type Row } from './types';

/** A stretch of rows that runs once along the chord. */
type Pass = Row[];

/** How far x must turn back, in chords, to begin another pass. */
const TURN = 0.05;
const JUMP = 0.5;
const NEAR = 0.03;

/** How far points reach along x. */
export interface Extent {
  low: number;
  high: number;
  length: number;
}

/** Extent of some points along x, in the unit of the file. */
export function extentOf(rows: readonly Row[]): Extent {
  let [low, high] = [Infinity, -Infinity];
  for (const r of rows) {
    if (r.x < low) low = r.x;
    if (r.x > high) high = r.x;
  }
  return { low, high, length: high - low };
}

/** Splits rows wherever x jumps across the chord or a new block begins at an end of it, then wherever x turns back. */
function passesOf(rows: readonly Row[], length: number): Pass[] {
  const { low, high } = extentOf(rows);
  const atEnd = (r: Row) => r.x - low < NEAR * length || high - r.x < NEAR * length;
  const passes: Pass[] = [];
  let start = 0;
  for (let i = 1; i <= rows.length; i++) {
    if (i < rows.length) {
      const block = rows[i].fresh && atEnd(rows[i]) && i - start > 3 && rows.length - i > 3;
      if (!block && Math.abs(rows[i].x - rows[i - 1].x) < JUMP * length) continue;
    }
    passes.push(...turnsOf(rows.slice(start, i), TURN * length));
    start = i;
  }
  return passes;
}

/** Monotone stretches; the row at a turn belongs to both. */
function turnsOf(rows: Row[], reach: number): Pass[] {
  const passes: Pass[] = [];
  let first = 0;
  let way = 0;
  let extreme = 0;
  for (let i = 1; i < rows.length; i++) {
    const x = rows[i].x;
    if (way === 0) {
      if (Math.abs(x - rows[0].x) > reach) {
        way = Math.sign(x - rows[0].x);
        extreme = i;
      }
    } else if ((x - rows[extreme].x) * way >= 0) extreme = i;
    else if ((rows[extreme].x - x) * way > reach) {
      passes.push(rows.slice(first, extreme + 1));
      first = extreme;
      way = -way;
      extreme = i;
    }
  }
  passes.push(rows.slice(first));
  return passes;
}

const fromNose = (pass: Pass): Pass => (pass[0].x > pass[pass.length - 1].x ? pass.slice().reverse() : pass);

/** Height of a pass (from the nose) at x, by straight lines. */
function heightAt(pass: Pass, x: number): number {
  let i = 1;
  while (i < pass.length - 1 && pass[i].x < x) i++;
  const [a, b] = [pass[i - 1], pass[i]];
  return b.x === a.x ? a.y : a.y + ((x - a.x) / (b.x - a.x)) * (b.y - a.y);
}

const SAMPLES = [0.2, 0.35, 0.5, 0.65, 0.8];
const heights = (pass: Pass, e: Extent) => SAMPLES.map((u) => heightAt(pass, e.low + u * e.length));
const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;

/** Puts two passes from the nose into one loop, upper surface first. */
function joined(a: Pass, b: Pass, e: Extent, diagnosis: Diagnosis[], what: string): Row[] {
  const [upper, lower] = mean(heights(a, e)) >= mean(heights(b, e)) ? [a, b] : [b, a];
  const same = Math.hypot(upper[0].x - lower[0].x, upper[0].y - lower[0].y) < 1e-9 * e.length;
  diagnosis.push({ code: 'surfaces-joined', message: what, displacement: 0 });
  return [...upper.slice().reverse(), ...(same ? lower.slice(1) : lower)];
}

/** True where rows zigzag between two surfaces. */
function zigzags(rows: readonly Row[]): boolean {
  let turns = 0;
  for (let i = 1; i + 1 < rows.length; i++) if ((rows[i + 1].y - rows[i].y) * (rows[i].y - rows[i - 1].y) < 0) turns++;
  return turns > 0.75 * (rows.length - 2);
}

function refuseLayout(rows: readonly Row[], passes: number): never {
  throw new InvalidInput(
    'coordinates-layout',
    `The points run ${passes} times along the chord (lines ${rows[0].line} to ${rows[rows.length - 1].line}); a section runs along it twice.`,
    'Start at the trailing edge and follow the outline around, or give each surface from the nose.',
  );
}

/** What the reader is told of a layout that the text does not say. */
export interface LayoutOptions {
  /** Makes the other surface of a symmetric section by mirroring the one that is there. */
  mirror?: boolean;
}

/**
 * Puts the rows into one loop from the trailing edge to the trailing edge, whatever their layout.
 * @throws InvalidInput `coordinates-flat`, `coordinates-one-surface`, `coordinates-layout`.
 */
export function toLoop(
  rows: Row[],
  numbers: readonly NumberLine[],
  counts: [number, number] | undefined,
  diagnosis: Diagnosis[],
  options: LayoutOptions,
): { rows: Row[]; layout: string } {
  const e = extentOf(rows);
  if (!(e.length > 0))
    throw new InvalidInput('coordinates-flat', 'All points have the same x.', 'Are the columns x and y?');
  const nearTail = (r: Row) => e.high - r.x < NEAR * e.length;
  const nearNose = (r: Row) => r.x - e.low < NEAR * e.length;
  const whole = (pass: Pass) => {
    const p = fromNose(pass);
    return p.length >= 4 && nearNose(p[0]) && nearTail(p[p.length - 1]);
  };
  if (counts && Math.min(...counts) >= 4 && counts[0] + counts[1] === rows.length) {
    const [one, two] = [rows.slice(0, counts[0]), rows.slice(counts[0])].map(fromNose);
    if (passesOf(one, e.length).length === 1 && passesOf(two, e.length).length === 1)
      return {
        rows: joined(
          one,
          two,
          e,
          diagnosis,
          'Two surfaces with their counts of points, each from the nose, were joined into one loop.',
        ),
        layout: 'two surfaces with counts',
      };
  }
  let passes = passesOf(rows, e.length).filter((p) => p.length > 1);
  if (passes.length === 1) {
    if (zigzags(rows) && rows.length >= 12) {
      const [a, b] = [rows.filter((_, i) => i % 2 === 0), rows.filter((_, i) => i % 2 === 1)].map(fromNose);
      return {
        rows: joined(
          a,
          b,
          e,
          diagnosis,
          'Points of the two surfaces took turns; they were sorted apart and joined into one loop.',
        ),
        layout: 'interleaved surfaces',
      };
    }
    return oneSurface(rows, numbers, e, whole(rows), diagnosis, options);
  }
  if (passes.length > 4)
    return {
      rows: rows.length <= MOST_TOUR ? ordered(rows, diagnosis) : sorted(rows, e, diagnosis, passes.length),
      layout: 'unsorted points',
    };
  passes = withoutCopies(passes, e, diagnosis);
  passes = withoutCentreLine(passes, e, diagnosis);
  if (passes.length === 2) {
    const [a, b] = passes;
    const connected = a[a.length - 1] === b[0];
    if (connected && nearTail(a[0]) && nearTail(b[b.length - 1]))
      return { rows: [...a, ...b.slice(1)], layout: 'one loop' };
    if (whole(a) && whole(b)) {
      const what = connected
        ? 'The loop started at the nose; it was turned to start at the trailing edge.'
        : 'Two surfaces, each from the nose, were joined into one loop.';
      return {
        rows: joined(fromNose(a), fromNose(connected ? b.slice(0) : b), e, diagnosis, what),
        layout: connected ? 'one loop from the nose' : 'two surfaces',
      };
    }
  }
  if (
    passes.length === 3 &&
    passes[0][passes[0].length - 1] === passes[1][0] &&
    passes[1][passes[1].length - 1] === passes[2][0]
  ) {
    // A loop that starts somewhere on a surface.
    return { rows: turnedToEdge(rows, diagnosis), layout: 'one loop' };
  }
  const end = rows[rows.length - 1];
  if (passes.length < 2 || passes.some((p) => !whole(p))) {
    throw new InvalidInput(
      'coordinates-layout',
      `The points run from line ${rows[0].line} to line ${end.line} without starting and ending at the trailing edge.`,
      'Start at the trailing edge and follow the outline around. Is the end of the file missing?',
    );
  }
  return refuseLayout(rows, passes.length);
}

function oneSurface(
  rows: Row[],
  numbers: readonly NumberLine[],
  e: Extent,
  complete: boolean,
  diagnosis: Diagnosis[],
  options: LayoutOptions,
): { rows: Row[]; layout: string } {
  const upper = fromNose(rows);
  // A table of x, upper y and lower y.
  const third = numbers.length === rows.length && numbers.every((n) => n.values.length >= 3);
  if (complete && third) {
    const lower = fromNose(numbers.map(({ line, values }) => ({ line, x: values[0], y: values[2] })));
    const apart = upper.map((r, i) => r.y - lower[i].y);
    const sign = Math.sign(mean(apart));
    // Both surfaces meet at the ends: near on the chord, and against what lies between them.
    const near = Math.min(0.02 * e.length, 0.25 * Math.max(...apart.map(Math.abs)));
    const ends = Math.abs(apart[0]) < near && Math.abs(apart[apart.length - 1]) < near;
    if (sign !== 0 && ends && apart.every((d) => d * sign >= -1e-9) && Math.abs(mean(apart)) > 0.002 * e.length)
      return {
        rows: joined(
          upper,
          lower,
          e,
          diagnosis,
          'A table of x with the heights of both surfaces was joined into one loop.',
        ),
        layout: 'a table of both surfaces',
      };
  }
  const [first, last] = [rows[0], rows[rows.length - 1]];
  if (!complete) {
    throw new InvalidInput(
      'coordinates-layout',
      `The points run from line ${first.line} to line ${last.line} without starting and ending at the trailing edge.`,
      'Start at the trailing edge and follow the outline around. Is a part of the file missing?',
    );
  }
  if (!options.mirror) {
    throw new InvalidInput(
      'coordinates-one-surface',
      `The points run ${rows[0].x < last.x ? 'from the nose to the trailing edge' : 'from the trailing edge to the nose'} once: lines ${first.line} to ${last.line} are one surface only.`,
      'Add the other surface, or, for a symmetric section, ask for its mirror image.',
    );
  }
  const axis = Math.abs(upper[0].y) < 1e-3 * e.length ? 0 : upper[0].y;
  const other = upper.map((r) => ({ line: 0, x: r.x, y: 2 * axis - r.y }));
  diagnosis.push({
    code: 'surface-mirrored',
    message: 'One surface was given; the other is its mirror image.',
    displacement: 0,
  });
  const loop = joined(upper, other, e, [], '');
  return { rows: loop, layout: 'one surface, mirrored' };
}

/** Leaves out a pass that repeats another. */
function withoutCopies(passes: Pass[], e: Extent, diagnosis: Diagnosis[]): Pass[] {
  const kept: Pass[] = [];
  for (const pass of passes) {
    const mine = heights(fromNose(pass), e);
    const copy = kept.some(
      (k) =>
        k.length === pass.length && heights(fromNose(k), e).every((h, i) => Math.abs(h - mine[i]) < 1e-9 * e.length),
    );
    if (copy && passes.length > 2)
      diagnosis.push({
        code: 'surface-repeated',
        message: 'A surface was there twice; the second was left out.',
        lines: linesOf([pass[0], pass[pass.length - 1]]),
        displacement: 0,
      });
    else kept.push(pass);
  }
  return kept;
}

/** Leaves out a pass that lies between two others. */
function withoutCentreLine(passes: Pass[], e: Extent, diagnosis: Diagnosis[]): Pass[] {
  if (passes.length !== 3) return passes;
  const at = passes.map((p) => heights(fromNose(p), e));
  const middle = at.findIndex((mine, k) => {
    const [a, b] = at.filter((_, j) => j !== k);
    return mine.every((h, i) => (h - a[i]) * (h - b[i]) < 0);
  });
  if (middle < 0) return passes;
  const pass = passes[middle];
  diagnosis.push({
    code: 'centre-line-removed',
    message: `A line between the two surfaces (${pass.length} points) was left out.`,
    lines: linesOf([pass[0], pass[pass.length - 1]]),
    displacement: 0,
  });
  const rest = passes.filter((_, k) => k !== middle);
  const before = passes[middle - 1];
  if (before && before[before.length - 1] === pass[0] && before.length > 2) {
    // The row where the surface turned into the line belongs to the line when it lies between the ends of the surfaces.
    const y = pass[0].y;
    const first = passes[0][0].y;
    const own = before[before.length - 2].y;
    if ((y - first) * (y - own) < 0) rest[rest.indexOf(before)] = before.slice(0, -1);
  }
  return rest;
}

/** A loop that starts on a surface, turned so that it starts where x is greatest. */
function turnedToEdge(rows: Row[], diagnosis: Diagnosis[]): Row[] {
  const closed = rows[0].x === rows[rows.length - 1].x && rows[0].y === rows[rows.length - 1].y;
  const ring = closed ? rows.slice(0, -1) : rows;
  let tail = 0;
  ring.forEach((r, i) => (tail = r.x > ring[tail].x ? i : tail));
  diagnosis.push({
    code: 'start-turned',
    message: `The loop started on a surface (line ${rows[0].line}); it was turned to start at the trailing edge.`,
    displacement: 0,
  });
  return [...ring.slice(tail), ...ring.slice(0, tail), ring[tail]];
}

/**
 * Sorts points that come in no order: along the chord, told apart by whether they lie above or below the middle of their neighbours.
 * @throws InvalidInput `coordinates-order` where the result is no outline.
 */
function sorted(rows: Row[], e: Extent, diagnosis: Diagnosis[], passes: number): Row[] {
  const order = rows.slice().sort((a, b) => a.x - b.x || b.y - a.y);
  const reach = Math.max(3, Math.round(order.length / 24));
  const upper: Row[] = [];
  const lower: Row[] = [];
  order.forEach((r, i) => {
    let [low, high] = [Infinity, -Infinity];
    for (let k = Math.max(0, i - reach); k <= Math.min(order.length - 1, i + reach); k++) {
      low = Math.min(low, order[k].y);
      high = Math.max(high, order[k].y);
    }
    (r.y >= 0.5 * (low + high) ? upper : lower).push(r);
  });
  const rough = (side: Row[]) =>
    side.reduce((sum, r, i) => sum + (i === 0 ? 0 : Math.hypot(r.x - side[i - 1].x, r.y - side[i - 1].y)), 0);
  if (upper.length < 5 || lower.length < 5 || rough(upper) > 1.25 * e.length || rough(lower) > 1.25 * e.length) {
    throw new InvalidInput(
      'coordinates-order',
      `The points from line ${rows[0].line} to line ${rows[rows.length - 1].line} are in no order (they run ${passes} times along the chord), and sorting them gives no outline.`,
      'Put them in the order of the outline.',
    );
  }
  diagnosis.push({
    code: 'points-sorted',
    message: 'The points were in no order; they were sorted into an upper and a lower surface.',
    displacement: 0,
  });
  return joined(upper, lower, e, [], '');
}
