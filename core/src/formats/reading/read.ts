import { InvalidInput } from '../../numerics';
import { checkOutline, FEWEST_POINTS, outlineFromPairs, signedArea } from '../../section';
import { pointsOfDxf, pointsOfSvg } from './drawings';
import { extentOf, toLoop, type LayoutOptions } from './layout';
import { nameOf, readLines } from './lines';
import {
  refuseCorners,
  refuseCrossing,
  withNose,
  withoutBase,
  withoutDoubles,
  withoutEdgeLoop,
  withoutStrays,
} from './repair';
import { linesOf, type Diagnosis, type NumberLine, type Row } from './types';

/** A section read from text: points as one loop from the trailing edge over the upper surface, in chords. */
export interface ReadSection {
  name: string;
  points: [number, number][];
  diagnosis: Diagnosis[];
  /** True when the points are not simply those of the text. */
  repaired: boolean;
  /** How the points were laid out. */
  layout: string;
  /** The points as they stood, in their order, brought to the same chord: what is drawn beside the result. */
  before: [number, number][];
}

const LONGEST_TEXT = 5_000_000;
export const MOST_POINTS = 5000;
/** Shortest chord in the unit of a file: below, products of lengths have no digits left. */
const SHORTEST = 1e-60;

/** Codes of findings that leave the points as they were. */
const HARMLESS = new Set(['lines-skipped']);

/**
 * Reads a section's coordinates from text, recognised by their content: one loop in either direction, two surfaces from the nose with or
 * without counts, interleaved or unsorted points, a table of both surfaces, or a drawing (DXF, SVG). See docs/reading-sections.md.
 * @param text the file. @param fallbackName name when no title line gives one.
 * @throws InvalidInput `coordinates-…` with the line where reading stopped and why.
 */
export function readCoordinates(text: string, fallbackName = 'Section', options: LayoutOptions = {}): ReadSection {
  if (text.length > LONGEST_TEXT) {
    throw new InvalidInput(
      'coordinates-size',
      `The text has ${text.length} characters; a section has far fewer.`,
      'Is this the right file?',
    );
  }
  const diagnosis: Diagnosis[] = [];
  const drawing = pointsOfDxf(text) ?? pointsOfSvg(text);
  // One row of counts may stand before the points.
  const lines = drawing ? undefined : readLines(text, MOST_POINTS + 2);
  let numbers: NumberLine[] = drawing ?? lines!.numbers;
  const counts = lines ? countsOf(numbers, lines.lone) : undefined;
  if (counts) numbers = numbers.slice(counts.rows);
  if (numbers.length === 0) {
    throw new InvalidInput(
      'coordinates-none',
      drawing
        ? 'The drawing holds no polyline of straight pieces.'
        : 'No coordinates were found: no line holds two numbers.',
      drawing ? 'Draw the section as one polyline.' : 'Each point needs a line with x and y.',
    );
  }
  if (lines && lines.skipped.length > 0) {
    diagnosis.push({
      code: 'lines-skipped',
      message: `${lines.skipped.length} line(s) among the points are not coordinates and were left out.`,
      lines: lines.skipped.slice(0, 20),
    });
  }
  const [first, last] = [numbers[0], numbers[numbers.length - 1]];
  if (numbers.length < FEWEST_POINTS) {
    throw new InvalidInput(
      'coordinates-few',
      `Only ${numbers.length} point(s) were found, the last on line ${last.line}; a section needs at least ${FEWEST_POINTS}.`,
      'Give both surfaces with enough points.',
    );
  }
  if (numbers.length > MOST_POINTS) {
    throw new InvalidInput(
      'coordinates-many',
      `From line ${first.line} to line ${last.line} there are more than ${MOST_POINTS} points already.`,
      'Thin them out.',
    );
  }
  const breaks = new Set((lines?.breaks ?? []).map((k) => lines!.numbers[k]?.line));
  const given: Given = { numbers, breaks, counts, drawing: drawing !== undefined, diagnosis, options };
  const put = fromColumns(given);
  return { name: (lines && nameOf(lines.titles)) ?? fallbackName, ...put };
}

/** Lines of numbers with what is known of them. */
interface Given {
  numbers: NumberLine[];
  /** Lines before which another block begins. */
  breaks: ReadonlySet<number>;
  counts: ReturnType<typeof countsOf>;
  drawing: boolean;
  diagnosis: readonly Diagnosis[];
  options: LayoutOptions;
}

/** Columns that are tried, where the first two are no outline. */
const MOST_TRIED = 6;

/**
 * The outline in the first two columns; where they are none, in the only two that are (an index may stand before, a zero among them).
 * @throws InvalidInput of the first two where no others, or several, make a section.
 */
function fromColumns(given: Given): Omit<ReadSection, 'name'> {
  try {
    return fromPair(given, 0, 1);
  } catch (error) {
    const columns = Math.min(MOST_TRIED, ...given.numbers.map((n) => n.values.length));
    if (!(error instanceof InvalidInput) || columns < 3) throw error;
    const found: { pair: [number, number]; read: Omit<ReadSection, 'name'> }[] = [];
    for (let i = 0; i < columns; i++)
      for (let j = i + 1; j < columns; j++) {
        if (i === 0 && j === 1) continue;
        try {
          found.push({ pair: [i, j], read: fromPair(given, i, j) });
        } catch (other) {
          if (!(other instanceof InvalidInput)) throw other;
        }
      }
    if (found.length === 0) throw error;
    const words = found.map(({ pair: [i, j] }) => `${i + 1} and ${j + 1}`);
    if (found.length > 1)
      throw new InvalidInput(
        'coordinates-columns',
        `The first two columns are no section, and several others are: columns ${words.join(', or ')}.`,
        'Leave only x and y in the file.',
      );
    const { read } = found[0];
    const chosen: Diagnosis = {
      code: 'columns-chosen',
      message: `The outline stands in columns ${words[0]}; the first two are none.`,
      displacement: 0,
    };
    return { ...read, repaired: true, diagnosis: [chosen, ...read.diagnosis] };
  }
}

/** The outline in two of the columns. @throws InvalidInput `coordinates-…` with the line and why. */
function fromPair(given: Given, i: number, j: number): Omit<ReadSection, 'name'> {
  const { breaks, counts, options } = given;
  const diagnosis = given.diagnosis.slice();
  const numbers =
    i === 0 && j === 1
      ? given.numbers
      : given.numbers.map((n) => ({ line: n.line, values: [n.values[i], n.values[j]] }));
  const [first] = numbers;
  const bad = numbers.find((r) => !r.values.slice(0, 2).every((v) => Number.isFinite(v) && Math.abs(v) < 1e12));
  if (bad)
    throw new InvalidInput(
      'coordinates-number',
      `Line ${bad.line} holds a number that is too large.`,
      'Correct that line.',
    );
  const raw: Row[] = numbers.map(({ line, values }) => ({
    line,
    x: values[0],
    y: values[1],
    ...(breaks.has(line) && { fresh: true }),
  }));
  const { length } = extentOf(raw);
  if (length > 0 && length < SHORTEST)
    throw new InvalidInput(
      'coordinates-number',
      `The points from line ${first.line} on reach over ${length.toPrecision(2)} only.`,
      'Is the exponent of the numbers right?',
    );
  const flat = extentOf(raw.map((r) => ({ ...r, x: r.y })));
  if (flat.length > 3 * extentOf(raw).length && extentOf(raw).length > 0) {
    throw new InvalidInput(
      'coordinates-upright',
      `The points from line ${first.line} on reach ${(flat.length / extentOf(raw).length).toFixed(1)} times farther in y than in x.`,
      'Are the columns x and y, in this order?',
    );
  }

  const single = withoutDoubles(raw, diagnosis);
  const put = toLoop(single, numbers.length === single.length ? numbers : [], counts?.pair, diagnosis, options);
  let rows = withoutDoubles(put.rows, diagnosis);
  rows = withoutBase(rows, diagnosis);
  rows = withoutStrays(rows, diagnosis);
  rows = withoutEdgeLoop(rows, diagnosis);
  rows = withNose(rows, diagnosis);
  if (signedArea(outlineFromPairs(rows.map((r) => [r.x, r.y]))) < 0) {
    rows = rows.slice().reverse();
    diagnosis.push({
      code: 'direction-turned',
      message: 'The points ran over the lower surface first; they were put in the usual order, upper surface first.',
      displacement: 0,
    });
  }
  refuseCrossing(rows);
  refuseCorners(rows);
  const unit = unitChord(rows, diagnosis);
  const points = rows.map((r) => unit(r.x, r.y));
  check(points, rows);
  return {
    points,
    diagnosis,
    repaired: diagnosis.some((d) => !HARMLESS.has(d.code)),
    layout: given.drawing ? 'a drawing' : put.layout,
    before: raw.map((r) => unit(r.x, r.y)),
  };
}

/** Two counts in front of two surfaces: in one row, or as two numbers standing alone. */
function countsOf(
  numbers: readonly NumberLine[],
  lone: readonly number[],
): { pair: [number, number]; rows: number } | undefined {
  const whole = (v: number) => v >= 3 && Math.abs(v - Math.round(v)) < 1e-9;
  const head = numbers[0]?.values;
  if (head?.length === 2 && head.every(whole) && Math.round(head[0]) + Math.round(head[1]) === numbers.length - 1)
    return { pair: [Math.round(head[0]), Math.round(head[1])], rows: 1 };
  if (lone.length === 2 && lone.every(whole) && lone[0] + lone[1] === numbers.length)
    return { pair: [lone[0], lone[1]], rows: 0 };
  // Counts that do not fit are no points either, where all others lie within a chord of 1.
  if (head && head.every(whole) && numbers.slice(1).every((n) => Math.abs(n.values[0]) < 1.5))
    return { pair: [0, 0], rows: 1 };
  return undefined;
}

/** Leaves a unit chord as it is; brings any other length and place to it. */
function unitChord(rows: readonly Row[], diagnosis: Diagnosis[]): (x: number, y: number) => [number, number] {
  const n = rows.length;
  let nose = rows[0];
  for (const r of rows) if (r.x < nose.x) nose = r;
  const tail = 0.5 * (rows[0].x + rows[n - 1].x);
  const length = tail - nose.x;
  if (Math.abs(nose.x) < 0.01 && Math.abs(tail - 1) < 0.01 && Math.abs(nose.y) < 0.05) return (x, y) => [x, y];
  if (!(length > 0))
    throw new InvalidInput(
      'coordinates-flat',
      'The trailing edge does not lie behind the nose.',
      'Are the columns x and y?',
    );
  diagnosis.push({
    code: 'scaled',
    message: `The chord of ${length.toPrecision(4)} from x = ${nose.x.toPrecision(4)} was brought to 1 from 0.`,
    displacement: 0,
  });
  return (x, y) => [(x - nose.x) / length, (y - nose.y) / length];
}

function check(points: [number, number][], rows: readonly Row[]): void {
  try {
    checkOutline(outlineFromPairs(points));
  } catch (error) {
    if (error instanceof InvalidInput && error.code === 'section-open') {
      throw new InvalidInput(
        'coordinates-open',
        `The points do not close at the trailing edge (lines ${linesOf([rows[0], rows[rows.length - 1]]).join(' and ')}). ${error.message}`,
        'Give both surfaces, from trailing edge to trailing edge.',
      );
    }
    throw error;
  }
  const ys = points.map((p) => p[1]);
  const height = Math.max(...ys) - Math.min(...ys);
  if (height < 0.002 || height > 0.65) {
    throw new InvalidInput(
      'coordinates-height',
      `The section would be ${(100 * height).toPrecision(3)} % of its chord high.`,
      'Are x and y in the same unit?',
    );
  }
}

/** Writes a section as a title and one loop of points. @param digits decimals. */
export function writeCoordinates(name: string, points: readonly (readonly [number, number])[], digits = 8): string {
  const row = ([x, y]: readonly [number, number]) =>
    `${x.toFixed(digits).padStart(digits + 4)} ${y.toFixed(digits).padStart(digits + 4)}`;
  return `${name}\n${points.map(row).join('\n')}\n`;
}
