import { placeSurface, type LiftingSurface, type PlacedStation } from '../airframe';

/** How near an end stands to another one to be one with it, as a share of the shorter span. */
const TOUCHES = 0.01;

/** A mirrored surface that rises more steeply from its root makes a corner with its image, rad. */
const CORNER = 0.15;

/** Which surfaces meet at their ends. */
export interface SurfaceEnds {
  /** Whether an end of another surface runs along the root of a mirrored one, or its own image stands there at an angle. @param index of it. */
  joinsAtRoot(index: number): boolean;
}

/** The ends of surfaces, and which of them meet. */
export function surfaceEnds(surfaces: readonly LiftingSurface[]): SurfaceEnds {
  const placed = surfaces.map((s) => placeSurface(s).stations);
  const length = (list: readonly PlacedStation[]) => list[list.length - 1].offset;
  const meets = (a: PlacedStation, b: PlacedStation, near: number) =>
    Math.hypot(a.quarterChord.y - b.quarterChord.y, a.quarterChord.z - b.quarterChord.z) < near &&
    a.leadingEdge.x < b.leadingEdge.x + b.chord &&
    b.leadingEdge.x < a.leadingEdge.x + a.chord;
  return {
    joinsAtRoot: (index) =>
      surfaces[index].mirrored &&
      (cornered(placed[index], length(placed[index])) ||
        placed.some(
          (other, k) =>
            k !== index &&
            [other[0], other[other.length - 1]].some((end) =>
              meets(end, placed[index][0], TOUCHES * Math.min(length(other), length(placed[index]))),
            ),
        )),
  };
}

/** Whether a surface begins at the plane of symmetry and leaves it at an angle. */
function cornered([root, next]: readonly PlacedStation[], length: number): boolean {
  const [a, b] = [root.quarterChord, next.quarterChord];
  return Math.abs(a.y) < TOUCHES * length && Math.abs(Math.atan2(b.z - a.z, b.y - a.y)) > CORNER;
}
