import type { SteadyPoint } from './aircraft';

/**
 * Drag coefficients of the surfaces by the polars of their sections, in the state of level flight that belongs to a speed.
 * @param points of a sweep over speeds in level flight. @returns by id of the surface; null where that speed is not among them, or is not flown.
 */
export function profilesAt(points: readonly SteadyPoint[], speed: number): Record<string, number> | null {
  const at = points.find((p) => Math.abs(p.speed / speed - 1) < 1e-6);
  return at && at.status !== 'unsolved' ? at.profiles : null;
}
