import type { Point3 } from '../airframe';
import { InvalidInput } from '../numerics';
import type { SurfaceLattice } from './lattice';

/** A plane across x and z that the flow cannot pass: points with nx x + nz z = d; (nx, nz) of length 1. */
export interface GroundPlane {
  nx: number;
  nz: number;
  d: number;
}

/**
 * The ground below an aircraft in level flight: along the stream, a height below a point.
 * @param height m. @param angle of the stream above the body's x axis, rad.
 */
export function groundBelow(point: Point3, height: number, angle: number): GroundPlane {
  const [nx, nz] = [-Math.sin(angle), Math.cos(angle)];
  return { nx, nz, d: nx * point.x + nz * point.z - height };
}

/** The plane in space that is stretched by a factor across x. */
export function stretchedPlane({ nx, nz, d }: GroundPlane, by: number): GroundPlane {
  const size = Math.hypot(nx, nz / by);
  return { nx: nx / size, nz: nz / by / size, d: d / size };
}

/** Puts the image of a point, or of a vector where `vector`, behind the plane. */
export function reflect({ nx, nz, d }: GroundPlane, x: number, z: number, vector = false): [number, number] {
  const off = 2 * (nx * x + nz * z - (vector ? 0 : d));
  return [x - off * nx, z - off * nz];
}

/** Refuses a height at which something would be in the ground. @throws InvalidInput `ground`. */
export function checkAbove(parts: readonly SurfaceLattice[], plane: GroundPlane, height: number): void {
  let lowest = Infinity;
  for (const { corners } of parts)
    for (let i = 0; i < corners.length; i += 3)
      lowest = Math.min(lowest, plane.nx * corners[i] + plane.nz * corners[i + 2] - plane.d);
  if (lowest > 0) return;
  throw new InvalidInput(
    'ground',
    `At ${height} m over the ground a surface would reach ${(-lowest).toPrecision(3)} m into it.`,
    `The moment reference needs ${(height - lowest).toPrecision(4)} m or more.`,
    'ground',
  );
}
