import type { Place } from './body-skin';
import type { PanelMesh } from './panel-mesh';
import type { WakePiece } from './wake-sheet';

/** Least distance of a column from a wake that it stands aside of, over its chord. */
const CLEAR = 0.06;

/** Beyond its ends a strip counts by this share of its width, so that places at the plane of symmetry lie behind one. */
const SLACK = 1e-3;

/** Stretch of a column: the surface, and the first of its panels. */
interface Column {
  id: string;
  first: number;
  nodes: Place[];
  chord: number;
}

/** The columns of all surfaces, caps too, by their panels. */
function columnsOf(mesh: PanelMesh, surfaces: ReadonlySet<string>): (Column & { panels: number })[] {
  let from = 0;
  return mesh.patches.flatMap(({ id, ni, nj, nodes }) => {
    const at = from;
    from += ni * nj;
    if (!surfaces.has(id)) return [];
    return Array.from({ length: nj }, (_, j) => {
      const ring = Array.from({ length: 2 * (ni + 1) }, (_, k): Place => {
        const q = 3 * (j * (ni + 1) + k);
        return [nodes[q], nodes[q + 1], nodes[q + 2]];
      });
      const xs = ring.map((p) => p[0]);
      return { id, first: at + j * ni, panels: ni, nodes: ring, chord: Math.max(...xs) - Math.min(...xs) };
    });
  });
}

const cross = (a: Place, b: Place): Place => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const dot = (a: Place, b: Place): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Unit vector across the wakes of a surface, as a mean over their strips and, in a half, over their images. */
function acrossOf(strips: readonly WakePiece[], dir: Place, half: boolean): Place {
  const sum: [number, number, number] = [0, 0, 0];
  for (const { a, b, patch } of strips)
    cross(dir, [b[0] - a[0], b[1] - a[1], b[2] - a[2]]).forEach((v, d) => (sum[d] += patch.out * v));
  if (half) sum[1] = 0;
  const size = Math.hypot(...sum) || 1;
  return [sum[0] / size, sum[1] / size, sum[2] / size];
}

/** How far a place is from a strip's wake, along `across`; null where it is not behind it. */
function distanceFrom({ a, b, dir, until }: WakePiece, p: Place, across: Place): number | null {
  if (p[0] > until) return null;
  const e: Place = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const r: Place = [p[0] - a[0], p[1] - a[1], p[2] - a[2]];
  // r = s e + t dir + d across
  const det = dot(e, cross(dir, across));
  if (Math.abs(det) < 1e-12) return null;
  const s = dot(r, cross(dir, across)) / det;
  const t = dot(e, cross(r, across)) / det;
  if (s < -SLACK || s > 1 + SLACK || t <= 0) return null;
  return dot(e, cross(dir, r)) / det;
}

/**
 * By how much panels of surfaces stand aside of the wakes of others that would pass through their column. A frozen wake through a thin skin has it carry
 * what nobody carries; a real one goes round. A column is moved as a whole, to the side that it mostly is on, so that no wake passes through it.
 * @param of panels of the units. @returns by the surface that the wakes are of: three numbers a unit.
 */
export function clearOfWakes(
  mesh: PanelMesh,
  strips: readonly WakePiece[],
  dir: Place,
  surfaces: ReadonlySet<string>,
  of: ArrayLike<number>,
): Map<string, Float64Array> {
  const sheets = new Map<string, WakePiece[]>();
  for (const w of strips) sheets.set(w.patch.id, [...(sheets.get(w.patch.id) ?? []), w]);
  const byPanel = new Map<string, Map<number, Place>>();
  for (const column of columnsOf(mesh, surfaces))
    for (const [id, own] of sheets) {
      if (id === column.id) continue;
      const across = acrossOf(own, dir, mesh.half);
      let [low, high] = [Infinity, -Infinity];
      for (const p of column.nodes)
        for (const w of own) {
          const d = distanceFrom(w, p, across);
          if (d === null) continue;
          low = Math.min(low, d);
          high = Math.max(high, d);
        }
      const clear = CLEAR * column.chord;
      if (low > clear || high < -clear) continue;
      const [up, down] = [clear - low, -clear - high];
      const by = up < -down ? up : down;
      const moved = byPanel.get(id) ?? new Map<number, Place>();
      for (let k = 0; k < column.panels; k++)
        moved.set(column.first + k, [by * across[0], by * across[1], by * across[2]]);
      byPanel.set(id, moved);
    }
  return new Map(
    [...byPanel].map(([id, moved]) => {
      const out = new Float64Array(3 * of.length);
      for (let u = 0; u < of.length; u++) out.set(moved.get(of[u]) ?? [], 3 * u);
      return [id, out];
    }),
  );
}
