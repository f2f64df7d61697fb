import type { SurfaceLattice } from './lattice';

/** How far an edge may stand from the other surface's, as a share of the strip there, to be one with it. */
const NEAR = 0.3;

/**
 * Which parts of a lattice share an edge: an end of one (a root or a tip) runs along an edge between strips of the other. Circulation passes over there, and
 * the threads of both wakes belong to one sheet.
 * @returns whether part `a` and part `b` are of one surface or joined, by index.
 */
export function joinedParts(parts: readonly SurfaceLattice[]): (a: number, b: number) => boolean {
  const n = parts.length;
  const table = new Uint8Array(n * n);
  for (let a = 0; a < n; a++)
    for (let b = 0; b < n; b++) {
      const one = parts[a].surface === parts[b].surface;
      if (one || meets(parts[a], parts[b]) || meets(parts[b], parts[a])) table[a * n + b] = table[b * n + a] = 1;
    }
  // Points off all surfaces have no part.
  return (a, b) => a >= 0 && b >= 0 && table[a * n + b] === 1;
}

/** Whether an end of `b` runs along an edge of `a`, or along that of its mirror image. */
function meets(a: SurfaceLattice, b: SurfaceLattice): boolean {
  return [0, b.strips].some((end) => {
    const own = edgeOf(b, end);
    for (let e = 0; e <= a.strips; e++) {
      const other = edgeOf(a, e);
      const [left, right] = [a.width[Math.max(0, e - 1)], a.width[Math.min(a.strips - 1, e)]];
      const near = NEAR * Math.min(left, right);
      for (const side of a.mirrored || b.mirrored ? [1, -1] : [1])
        if (
          Math.hypot(own.y - side * other.y, own.z - other.z) < near &&
          own.front < other.back &&
          other.front < own.back
        )
          return true;
    }
    return false;
  });
}

/** An edge between strips as it is seen from behind, and where it begins and ends along x. */
function edgeOf(p: SurfaceLattice, edge: number): { y: number; z: number; front: number; back: number } {
  const first = 3 * edge * (p.rows + 1);
  const last = first + 3 * p.rows;
  return {
    y: 0.5 * (p.corners[first + 1] + p.corners[last + 1]),
    z: 0.5 * (p.corners[first + 2] + p.corners[last + 2]),
    front: p.corners[first],
    back: p.corners[last],
  };
}
