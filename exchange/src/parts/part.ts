import { FailedComputation } from '@veldtwind/core/numerics';
import { materialOf, type MaterialChoice } from '@veldtwind/core/structure';
import type { CutPart } from '../ribs';

export type Pair = [number, number];

/** A flat part to be cut of a sheet, or a strip or tube to be cut to length. */
export interface MadePart extends CutPart {
  surface: string;
  kind: 'rib' | 'web' | 'cap' | 'spar' | 'tube' | 'skin' | 'core' | 'printed';
  material: MaterialChoice;
  /** mm; 0 of what is no sheet. */ thickness: number;
  /** Of one, mm². */ area: number;
  /** mm, of a strip or a tube; the longer side of a flat part. */ length: number;
  /** How many of it an aircraft has. */ count: number;
  /** Of one, kg. */ mass: number;
}

/** Twice the area that a contour runs around, with its sign. */
export const turning = (p: readonly Pair[]): number =>
  p.reduce((sum, [x, y], i) => sum + x * p[(i + 1) % p.length][1] - p[(i + 1) % p.length][0] * y, 0);

const cross = (a: Pair, b: Pair, c: Pair) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** Whether two stretches cross within both. */
const meet = (a: Pair, b: Pair, c: Pair, d: Pair): boolean =>
  cross(a, b, c) * cross(a, b, d) < 0 && cross(c, d, a) * cross(c, d, b) < 0;

/** Refuses a contour that crosses itself: no saw can follow it. @throws FailedComputation `contour` with the place. */
export function checkContour(points: readonly Pair[], label: string): void {
  const n = points.length;
  for (let i = 0; i < n; i++) {
    const [a, b] = [points[i], points[(i + 1) % n]];
    for (let k = i + 2; k < n; k++) {
      if (i === 0 && k === n - 1) continue;
      const [c, d] = [points[k], points[(k + 1) % n]];
      if (Math.max(a[0], b[0]) < Math.min(c[0], d[0]) || Math.min(a[0], b[0]) > Math.max(c[0], d[0])) continue;
      if (meet(a, b, c, d))
        throw new FailedComputation(
          'contour',
          `The contour of ${label} crosses itself near ${a[0].toFixed(1)}, ${a[1].toFixed(1)} mm.`,
          'Make the slots smaller or the section thicker there.',
        );
    }
  }
}

/** The longer side of what is drawn, mm. */
export function longSide(points: readonly Pair[]): number {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  return Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
}

/** kg of an area in mm² at a thickness in mm. */
export const massOf = (material: MaterialChoice, area: number, thickness: number): number =>
  materialOf(material).density * area * thickness * 1e-9;

/** An outline from the tail around the nose moved outward by a distance, mm; inward by a negative one. */
export function outset(ring: readonly Pair[], by: number): Pair[] {
  const way = turning(ring) > 0 ? -1 : 1;
  const n = ring.length;
  return ring.map((p, i): Pair => {
    const [a, b] = [ring[Math.max(0, i - 1)], ring[Math.min(n - 1, i + 1)]];
    const size = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    return [p[0] - (way * by * (b[1] - a[1])) / size, p[1] + (way * by * (b[0] - a[0])) / size];
  });
}
