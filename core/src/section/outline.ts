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

/** Index of the first pair of segments of the loop that cross each other, or undefined. Neighbours and the closing pair are not compared. */
export function findCrossing(outline: Outline): { first: number; second: number } | undefined {
  const { x, y } = outline;
  const n = x.length;
  const side = (ax: number, ay: number, bx: number, by: number, cx: number, cy: number) =>
    (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
  for (let i = 0; i < n - 1; i++) {
    const minX = Math.min(x[i], x[i + 1]);
    const maxX = Math.max(x[i], x[i + 1]);
    for (let j = i + 2; j < n - 1; j++) {
      if (Math.max(x[j], x[j + 1]) < minX || Math.min(x[j], x[j + 1]) > maxX) continue;
      const s1 = side(x[i], y[i], x[i + 1], y[i + 1], x[j], y[j]);
      const s2 = side(x[i], y[i], x[i + 1], y[i + 1], x[j + 1], y[j + 1]);
      const s3 = side(x[j], y[j], x[j + 1], y[j + 1], x[i], y[i]);
      const s4 = side(x[j], y[j], x[j + 1], y[j + 1], x[i + 1], y[i + 1]);
      if (s1 * s2 < 0 && s3 * s4 < 0) return { first: i, second: j };
    }
  }
  return undefined;
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
