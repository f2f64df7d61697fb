import { InvalidInput } from '../numerics';
import { checkOutline, FEWEST_POINTS, outlineFromPairs, signedArea } from '../section';

/** One thing that reading found or changed. */
export interface Diagnosis {
  code: string;
  message: string;
  /** Line numbers, from 1. */
  lines?: number[];
  /** Largest displacement that the change caused, in chords. */
  displacement?: number;
}

/** A section read from text: points as one loop from the trailing edge over the upper surface, in chords. */
export interface ReadSection {
  name: string;
  points: [number, number][];
  diagnosis: Diagnosis[];
  /** True when the points are not simply those of the text. */
  repaired: boolean;
}

interface Row {
  line: number;
  x: number;
  y: number;
}

const NUMBER = String.raw`[+\-−]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eEdD][+-]?\d+)?`;
const LONGEST_TEXT = 5_000_000;
export const MOST_POINTS = 5000;

/** Splits a line into numbers, or undefined when it is not made of two or more of them. */
function numbersOf(line: string): number[] | undefined {
  const bare = line.replace(/[#!%].*$/, '').trim();
  if (!bare) return undefined;
  // A comma is a decimal sign when another separator is there and no point is.
  const decimalComma = !bare.includes('.') && /\d,\d/.test(bare) && /[\s;]/.test(bare.replace(/,\s+/g, ','));
  const tokens = decimalComma ? bare.split(/[\s;]+/).map((t) => t.replace(',', '.')) : bare.split(/[\s;,]+/);
  const values: number[] = [];
  for (const token of tokens.filter(Boolean)) {
    if (!new RegExp(`^${NUMBER}$`).test(token)) return undefined;
    values.push(Number(token.replace('−', '-').replace(/[dD]/, 'e')));
  }
  return values.length >= 2 ? values : undefined;
}

/**
 * Reads a section's coordinates from text: one loop from the trailing edge in either direction, or two surfaces from the nose, with or
 * without title lines and point counts, comma, semicolon, tab or blank separated.
 * @param text the file. @param fallbackName name when no title line gives one.
 * @throws InvalidInput `coordinates-…` with the line where reading stopped and why.
 */
export function readCoordinates(text: string, fallbackName = 'Section'): ReadSection {
  if (text.length > LONGEST_TEXT) {
    throw new InvalidInput(
      'coordinates-size',
      `The text has ${text.length} characters; a section has far fewer.`,
      'Is this the right file?',
    );
  }
  const diagnosis: Diagnosis[] = [];
  let rows: Row[] = [];
  const titles: string[] = [];
  const skipped: number[] = [];
  let breakBefore: number | undefined;
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  let counts: [number, number] | undefined;
  lines.forEach((line, i) => {
    const values = numbersOf(line);
    if (!values) {
      if (line.trim() === '') {
        if (rows.length > 0) breakBefore ??= rows.length;
      } else if (!/^\s*[#!%]/.test(line)) {
        if (rows.length === 0) titles.push(line.trim());
        else skipped.push(i + 1);
      }
      return;
    }
    const [x, y] = values;
    const whole = (v: number) => v >= 3 && Math.abs(v - Math.round(v)) < 1e-9;
    if (rows.length === 0 && !counts && whole(x) && whole(y)) {
      counts = [Math.round(x), Math.round(y)];
      return;
    }
    rows.push({ line: i + 1, x, y });
  });
  if (rows.length === 0) {
    throw new InvalidInput(
      'coordinates-none',
      'No coordinates were found: no line holds two numbers.',
      'Each point needs a line with x and y.',
    );
  }
  if (counts && counts[0] + counts[1] !== rows.length) {
    // It was a first point and not a pair of counts.
    if (rows.every((r) => Math.abs(r.x) <= counts![0] * 1.001)) rows.unshift({ line: 1, x: counts[0], y: counts[1] });
    counts = undefined;
  }
  if (skipped.length > 0) {
    diagnosis.push({
      code: 'lines-skipped',
      message: `${skipped.length} line(s) among the points are not coordinates and were left out.`,
      lines: skipped.slice(0, 20),
    });
  }
  if (rows.length < FEWEST_POINTS) {
    throw new InvalidInput(
      'coordinates-few',
      `Only ${rows.length} point(s) were found, the last on line ${rows[rows.length - 1].line}; a section needs at least ${FEWEST_POINTS}.`,
      'Give both surfaces with enough points.',
    );
  }
  if (rows.length > MOST_POINTS) {
    throw new InvalidInput('coordinates-many', `${rows.length} points are more than ${MOST_POINTS}.`, 'Thin them out.');
  }
  const bad = rows.find((r) => !Number.isFinite(r.x) || !Number.isFinite(r.y));
  if (bad)
    throw new InvalidInput(
      'coordinates-number',
      `Line ${bad.line} holds a number that is too large.`,
      'Correct that line.',
    );

  const doubled = rows.filter((r, i) => i > 0 && r.x === rows[i - 1].x && r.y === rows[i - 1].y);
  rows = toLoop(rows, counts, breakBefore, diagnosis);
  if (doubled.length > 0) {
    diagnosis.push({
      code: 'points-doubled',
      message: `${doubled.length} doubled point(s) were removed.`,
      lines: doubled.map((r) => r.line),
      displacement: 0,
    });
  }
  const before = rows.length;
  rows = rows.filter((r, i) => i === 0 || r.x !== rows[i - 1].x || r.y !== rows[i - 1].y);
  const repairedDoubles = before !== rows.length || doubled.length > 0;

  let points = rows.map((r) => [r.x, r.y] as [number, number]);
  if (signedArea(outlineFromPairs(points)) < 0) {
    points.reverse();
    diagnosis.push({
      code: 'direction-turned',
      message: 'The points ran over the lower surface first; they were put in the usual order, upper surface first.',
      displacement: 0,
    });
  }
  const scaled = toUnitChord(points, diagnosis);
  points = scaled.points;
  try {
    checkOutline(outlineFromPairs(points));
  } catch (error) {
    if (error instanceof InvalidInput && error.code === 'section-open') {
      throw new InvalidInput(
        'coordinates-open',
        `The points do not close at the trailing edge. ${error.message}`,
        'Give both surfaces, from trailing edge to trailing edge.',
      );
    }
    throw error;
  }
  return {
    name: titles.find((t) => /[A-Za-z0-9]/.test(t))?.slice(0, 80) ?? fallbackName,
    points,
    diagnosis,
    repaired: repairedDoubles || scaled.changed || diagnosis.some((d) => d.code !== 'lines-skipped'),
  };
}

/** Puts the rows into one loop, whatever the layout. */
function toLoop(
  rows: Row[],
  counts: [number, number] | undefined,
  breakBefore: number | undefined,
  diagnosis: Diagnosis[],
): Row[] {
  const xs = rows.map((r) => r.x);
  const low = Math.min(...xs);
  const high = Math.max(...xs);
  const length = high - low;
  if (!(length > 0))
    throw new InvalidInput('coordinates-flat', 'All points have the same x.', 'Are the columns x and y?');
  const nearNose = (r: Row) => r.x - low < 0.02 * length;
  const nearTail = (r: Row) => high - r.x < 0.02 * length;
  const first = rows[0];
  const last = rows[rows.length - 1];
  if (nearTail(first) && nearTail(last)) return rows;
  const noseStart = nearNose(first);
  const split = counts
    ? counts[0]
    : breakBefore && breakBefore > 3 && rows.length - breakBefore > 3
      ? breakBefore
      : findRestart(rows, length);
  if (split === undefined) {
    const surface =
      noseStart && nearTail(last)
        ? 'from the nose to the trailing edge'
        : nearTail(first) && nearNose(last)
          ? 'from the trailing edge to the nose'
          : undefined;
    if (surface) {
      throw new InvalidInput(
        'coordinates-one-surface',
        `The points run ${surface} once: lines ${first.line} to ${last.line} are one surface only.`,
        'Add the other surface, or, for a symmetric section, its mirror image.',
      );
    }
    throw new InvalidInput(
      'coordinates-layout',
      `The points run from line ${first.line} to line ${last.line} without starting and ending at the trailing edge.`,
      'Start at the trailing edge and follow the outline around.',
    );
  }
  let one = rows.slice(0, split);
  let two = rows.slice(split);
  if (one.length < 4 || two.length < 4) {
    throw new InvalidInput(
      'coordinates-one-surface',
      `One surface has only ${Math.min(one.length, two.length)} point(s).`,
      'Give both surfaces.',
    );
  }
  if (one[0].x > one[one.length - 1].x) one = one.slice().reverse();
  if (two[0].x > two[two.length - 1].x) two = two.slice().reverse();
  const height = (part: Row[]) => part.reduce((sum, r) => sum + r.y, 0) / part.length;
  const [upper, lower] = height(one) >= height(two) ? [one, two] : [two, one];
  const shared = upper[0].x === lower[0].x && upper[0].y === lower[0].y;
  diagnosis.push({
    code: 'surfaces-joined',
    message: 'Two surfaces, each from the nose, were joined into one loop.',
    displacement: 0,
  });
  return [...upper.slice().reverse(), ...(shared ? lower.slice(1) : lower)];
}

/** Index at which a second surface starts: where x jumps back over most of the chord. */
function findRestart(rows: Row[], length: number): number | undefined {
  for (let i = 1; i < rows.length; i++) if (Math.abs(rows[i].x - rows[i - 1].x) > 0.5 * length) return i;
  return undefined;
}

/** Leaves a unit chord as it is; brings any other length and place to it. */
function toUnitChord(
  points: [number, number][],
  diagnosis: Diagnosis[],
): { points: [number, number][]; changed: boolean } {
  const xs = points.map((p) => p[0]);
  const low = Math.min(...xs);
  const n = points.length;
  const tail = [0.5 * (points[0][0] + points[n - 1][0]), 0.5 * (points[0][1] + points[n - 1][1])];
  const length = tail[0] - low;
  if (Math.abs(low) < 0.01 && Math.abs(tail[0] - 1) < 0.01) return { points, changed: false };
  if (!(length > 0))
    throw new InvalidInput(
      'coordinates-flat',
      'The trailing edge does not lie behind the nose.',
      'Are the columns x and y?',
    );
  const nose = points[xs.indexOf(low)];
  diagnosis.push({
    code: 'scaled',
    message: `The chord of ${length.toPrecision(4)} from x = ${low.toPrecision(4)} was brought to 1 from 0.`,
    displacement: 0,
  });
  return { points: points.map(([x, y]) => [(x - low) / length, (y - nose[1]) / length]), changed: true };
}

/** Writes a section as a title and one loop of points. @param digits decimals. */
export function writeCoordinates(name: string, points: readonly (readonly [number, number])[], digits = 8): string {
  const row = ([x, y]: readonly [number, number]) =>
    `${x.toFixed(digits).padStart(digits + 4)} ${y.toFixed(digits).padStart(digits + 4)}`;
  return `${name}\n${points.map(row).join('\n')}\n`;
}
