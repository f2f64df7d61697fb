import { InvalidInput } from '../numerics';
import type { Outline } from './outline';
import { SurfaceSpline } from './surface-spline';

export const FEWEST_WRITTEN = 11;
export const MOST_WRITTEN = 2001;

/**
 * The outline at another number of points, gathered toward nose and edge by a cosine along each surface; the nose is one of them.
 * @param count odd numbers give both surfaces as many. @throws InvalidInput `points` outside 11–2001.
 */
export function resample(outline: Outline, count: number, spline = new SurfaceSpline(outline)): Outline {
  if (!Number.isInteger(count) || count < FEWEST_WRITTEN || count > MOST_WRITTEN) {
    throw new InvalidInput(
      'points',
      `A section is written with ${FEWEST_WRITTEN} to ${MOST_WRITTEN} points; ${count} is outside.`,
      undefined,
      'points',
    );
  }
  const upper = Math.floor((count - 1) / 2);
  const lower = count - 1 - upper;
  const s = new Float64Array(count);
  for (let i = 0; i <= upper; i++) s[i] = 0.5 * spline.nose * (1 - Math.cos((Math.PI * i) / upper));
  for (let i = 1; i <= lower; i++)
    s[upper + i] = spline.nose + 0.5 * (spline.length - spline.nose) * (1 - Math.cos((Math.PI * i) / lower));
  return { x: s.map((t) => spline.x(t)), y: s.map((t) => spline.y(t)) };
}
