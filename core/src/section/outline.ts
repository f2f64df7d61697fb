import { InvalidInput } from '../numerics';

/**
 * The outline of a section as one loop of points, in chords:
 * trailing edge → upper surface → nose → lower surface → trailing edge. x runs downstream, y up.
 * The first and last point differ when the trailing edge is blunt.
 */
export interface Outline {
  readonly x: Float64Array;
  readonly y: Float64Array;
}

/** An outline from pairs. */
export function outlineFromPairs(pairs: ReadonlyArray<readonly [number, number]>): Outline {
  return { x: Float64Array.from(pairs, (p) => p[0]), y: Float64Array.from(pairs, (p) => p[1]) };
}

/** Pairs from an outline. */
export function pairsFromOutline(outline: Outline): [number, number][] {
  return Array.from(outline.x, (x, i) => [x, outline.y[i]]);
}

/** Twice the signed area of the loop closed from last to first point: positive when it runs counter-clockwise. */
export function signedArea(outline: Outline): number {
  const { x, y } = outline;
  const n = x.length;
  let twice = 0;
  for (let i = 0; i < n; i++) {
    const j = i + 1 === n ? 0 : i + 1;
    twice += x[i] * y[j] - x[j] * y[i];
  }
  return twice / 2;
}

const COLUMNS = 96;

/** The first pair of segments of the loop that cross each other, or undefined. Neighbours and the closing pair are not compared. */
export function findCrossing(outline: Outline): { first: number; second: number } | undefined {
  const { x, y } = outline;
  const n = x.length;
  let [low, high] = [Infinity, -Infinity];
  for (const v of x) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  // Only segments that share an upright column can cross.
  const columns: number[][] = Array.from({ length: COLUMNS }, () => []);
  const scale = (COLUMNS - 1e-9) / (high - low || 1);
  // On a sharp edge the first and the last segment are neighbours.
  const closed = Math.hypot(x[0] - x[n - 1], y[0] - y[n - 1]) < 1e-9 * (high - low);
  let found: { first: number; second: number } | undefined;
  for (let i = 0; i < n - 1; i++) {
    const from = Math.floor((Math.min(x[i], x[i + 1]) - low) * scale);
    const to = Math.floor((Math.max(x[i], x[i + 1]) - low) * scale);
    for (let c = from; c <= to; c++) {
      for (const j of columns[c]) {
        if (j + 1 < i && !(closed && j === 0 && i === n - 2) && (!found || j < found.first) && cross(x, y, j, i))
          found = { first: j, second: i };
      }
      columns[c].push(i);
    }
  }
  return found;
}

function cross(x: Float64Array, y: Float64Array, i: number, j: number): boolean {
  const side = (a: number, b: number, c: number) => (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);
  return side(i, i + 1, j) * side(i, i + 1, j + 1) < 0 && side(j, j + 1, i) * side(j, j + 1, i + 1) < 0;
}

export const FEWEST_POINTS = 10;

/**
 * Refuses an outline that cannot be a section.
 * @throws InvalidInput `section-points`, `section-open` or `section-crossing`.
 */
export function checkOutline(outline: Outline): void {
  const n = outline.x.length;
  if (n < FEWEST_POINTS) {
    throw new InvalidInput(
      'section-points',
      `A section needs at least ${FEWEST_POINTS} points; this one has ${n}.`,
      'Give more points along both surfaces.',
    );
  }
  for (let i = 0; i < n; i++) {
    if (!Number.isFinite(outline.x[i]) || !Number.isFinite(outline.y[i])) {
      throw new InvalidInput('section-points', `Point ${i + 1} of the section is not a number.`);
    }
  }
  const gap = Math.hypot(outline.x[0] - outline.x[n - 1], outline.y[0] - outline.y[n - 1]);
  const length = Math.max(...outline.x) - Math.min(...outline.x);
  if (!(gap < 0.1 * length)) {
    throw new InvalidInput(
      'section-open',
      `The ends of the outline are ${((100 * gap) / length).toFixed(1)} % of the chord apart.`,
      'The outline must start and end at the trailing edge; is one surface missing?',
    );
  }
  const crossing = findCrossing(outline);
  if (crossing) {
    throw new InvalidInput(
      'section-crossing',
      `The outline crosses itself between points ${crossing.first + 1} and ${crossing.second + 1}.`,
      'Look at the points there: the surfaces must not cross.',
    );
  }
}
