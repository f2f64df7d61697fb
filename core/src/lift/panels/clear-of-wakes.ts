import type { Place } from './body-skin';
import type { PanelMesh } from './panel-mesh';
import type { WakePiece } from './wake-sheet';

/** Least distance of a column from a wake that it stands aside of, over its chord. */
const CLEAR = 0.06;

/** Beyond its ends a strip counts by this share of its width, so that places at the plane of symmetry lie behind one. */
const SLACK = 1e-3;

/** A column of a surface. */
interface Column {
  id: string;
  /** First of its panels and their number, and those of a lid that closes it. */ panels: [number, number][];
  nodes: Place[];
  chord: number;
}

/** The columns of all surfaces, by their skins; a lid goes with the column that it closes. */
function columnsOf(mesh: PanelMesh, surfaces: ReadonlySet<string>): Column[][] {
  let from = 0;
  let open: { own: Column[]; first: Place } = { own: [], first: [0, 0, 0] };
  return mesh.patches.flatMap(({ kind, id, ni, nj, nodes }): Column[][] => {
    const at = from;
    from += ni * nj;
    if (!surfaces.has(id)) return [];
    const corner: Place = [nodes[0], nodes[1], nodes[2]];
    if (kind === 'cap') {
      const closes = Math.hypot(...corner.map((v, d) => v - open.first[d])) < 1e-9 ? 0 : open.own.length - 1;
      open.own[closes].panels.push([at, ni * nj]);
      return [];
    }
    const own = Array.from({ length: nj }, (_, j): Column => {
      const ring = Array.from({ length: 2 * (ni + 1) }, (_node, k): Place => {
        const q = 3 * (j * (ni + 1) + k);
        return [nodes[q], nodes[q + 1], nodes[q + 2]];
      });
      const xs = ring.map((p) => p[0]);
      return { id, panels: [[at + j * ni, ni]], nodes: ring, chord: Math.max(...xs) - Math.min(...xs) };
    });
    open = { own, first: corner };
    return [own];
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

/** Unit vector along the span of a surface, from its first column to its last, across x; null where it has but one place. */
function spanOf(columns: readonly Column[]): Place | null {
  const middle = ({ nodes }: Column): Place =>
    [0, 1, 2].map((d) => nodes.reduce((sum, p) => sum + p[d], 0) / nodes.length) as unknown as Place;
  const [a, b] = [middle(columns[0]), middle(columns[columns.length - 1])];
  const size = Math.hypot(b[1] - a[1], b[2] - a[2]);
  return size > 0 ? [0, (b[1] - a[1]) / size, (b[2] - a[2]) / size] : null;
}

/** A surface stands across a wake where its span makes more than this with it, as a sine. */
const ACROSS = 0.7;

/** Of the columns of a surface the one that comes nearest to another surface. */
function nearestTo(columns: readonly Column[], others: readonly Column[]): Column {
  let [best, least] = [columns[0], Infinity];
  for (const c of columns)
    for (const p of c.nodes)
      for (const o of others)
        for (const q of o.nodes) {
          const d = (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2 + (p[2] - q[2]) ** 2;
          if (d < least) [best, least] = [c, d];
        }
  return best;
}

/** How far the places of a column are from a surface's wakes, from the least to the greatest; null where none lies behind them. */
function reachOf(column: Column, own: readonly WakePiece[], across: Place): [number, number] | null {
  let [low, high] = [Infinity, -Infinity];
  for (const p of column.nodes)
    for (const w of own) {
      const d = distanceFrom(w, p, across);
      if (d === null) continue;
      low = Math.min(low, d);
      high = Math.max(high, d);
    }
  return low <= high ? [low, high] : null;
}

/**
 * By how much panels of surfaces stand aside of the wakes of others that would pass through their column. A frozen wake through a thin skin has it carry
 * what nobody carries; a real one goes round. A column is moved as a whole, to the side that it mostly is on, so that no wake passes through it. A surface
 * that stands across a wake is moved as a whole: between two of its columns the wake would pass through its inside, where nothing takes off its jump. It
 * goes to the side of what it passes through, that there be no jump between them; but the wakes of what it passes through leave its columns where they are.
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
  const groups = new Map<string, Column[][]>();
  for (const own of columnsOf(mesh, surfaces)) groups.set(own[0].id, [...(groups.get(own[0].id) ?? []), own]);
  const byPanel = new Map<string, Map<number, Place>>();
  const move = (id: string, column: Column, across: Place, by: number) => {
    const moved = byPanel.get(id) ?? new Map<number, Place>();
    for (const [first, count] of column.panels)
      for (let k = 0; k < count; k++) moved.set(first + k, [by * across[0], by * across[1], by * across[2]]);
    byPanel.set(id, moved);
  };
  for (const [id, own] of sheets) {
    const across = acrossOf(own, dir, mesh.half);
    const standsAcross = (columns: readonly Column[]) => {
      const span = spanOf(columns);
      return span !== null && Math.abs(dot(span, across)) > ACROSS;
    };
    for (const [name, parts] of groups) {
      if (name === id) continue;
      const joined = mesh.crossed.has(`${name} ${id}`);
      for (const columns of parts) {
        const reaches = columns.map((c) => reachOf(c, own, across));
        let side: number | null = null;
        if (!joined && standsAcross(columns)) {
          const beside = [...groups].filter(([other]) => other !== id && mesh.crossed.has(`${name} ${other}`));
          const along = beside.flatMap(([, others]) => others.filter((o) => !standsAcross(o))).flat();
          const at = along.length > 0 ? reachOf(nearestTo(along, columns), own, across) : null;
          if (at) side = at[0] + at[1];
          else side = reaches.reduce((sum, r) => sum + (r ? r[0] + r[1] : 0), 0);
        }
        columns.forEach((column, k) => {
          const reach = reaches[k];
          if (!reach) return;
          const [low, high] = reach;
          const clear = CLEAR * column.chord;
          const up = (side ?? low + high) > 0;
          if (up ? low > clear : high < -clear) return;
          move(id, column, across, up ? clear - low : -clear - high);
        });
      }
    }
  }
  return new Map(
    [...byPanel].map(([id, moved]) => {
      const out = new Float64Array(3 * of.length);
      for (let u = 0; u < of.length; u++) out.set(moved.get(of[u]) ?? [], 3 * u);
      return [id, out];
    }),
  );
}
