import type { Place } from './body-skin';
import type { PanelMesh } from './panel-mesh';
import type { Patch } from './patch';

/** Cells along each side of a panel by which it is cut. */
export const CELLS = 8;

/** What is to be known of a patch that others pass through. */
export interface Cutting {
  /** Whether a place on the skin lies inside of another part. */
  hidden: (p: Place) => boolean;
  /** On which sides of wakes that lie on the skin a place is: two bits a wake, 1 or 2 beside it, 0 elsewhere. */
  sides?: (p: Place) => number;
}

/**
 * The unknowns of a mesh: one a panel, but none for a panel that lies inside another part, and one for each of the pieces into which the others are cut
 * by what passes through them.
 */
export interface Units {
  count: number;
  /** Panel of each. */ panel: Int32Array;
  /** Share of its panel that each is. */ share: Float64Array;
  /** By panel: its first unit; one more at the end. */ first: Int32Array;
  /** Pieces, 12 numbers each, and the unit of each. */
  corners: Float64Array;
  of: Int32Array;
  /** By unit: the piece in whose centre its condition is posed. */ own: Int32Array;
  /** By panel that is cut: units of its cells, −1 where they are hidden, i fastest; and the sides that they are on. */
  cells: Map<number, Int32Array>;
  sides: Map<number, Int32Array>;
}

/** Whether places lie on different sides of a wake. */
export function apart(a: number, b: number): boolean {
  for (let p = a, q = b; p > 0 && q > 0; p >>= 2, q >>= 2)
    if ((p & 3) !== 0 && (q & 3) !== 0 && (p & 3) !== (q & 3)) return true;
  return false;
}

interface Rectangle {
  a: number;
  b: number;
  width: number;
  height: number;
}

/** Cells of one component as few rectangles. */
function rectangles(cells: ReadonlySet<number>): Rectangle[] {
  const left = new Set(cells);
  const out: Rectangle[] = [];
  for (let b = 0; b < CELLS; b++)
    for (let a = 0; a < CELLS; a++) {
      if (!left.has(b * CELLS + a)) continue;
      let width = 1;
      while (a + width < CELLS && left.has(b * CELLS + a + width)) width++;
      let height = 1;
      const row = (r: number) => Array.from({ length: width }, (_, k) => r * CELLS + a + k);
      while (b + height < CELLS && row(b + height).every((c) => left.has(c))) height++;
      for (let r = 0; r < height; r++) row(b + r).forEach((c) => left.delete(c));
      out.push({ a, b, width, height });
    }
  return out;
}

/** Cells that hang together: of the same part of the flow. */
function components(open: readonly boolean[], sides: Int32Array): Set<number>[] {
  const left = new Set(open.flatMap((o, c) => (o ? [c] : [])));
  const out: Set<number>[] = [];
  while (left.size > 0) {
    const [seed] = left;
    const own = new Set([seed]);
    const queue = [seed];
    left.delete(seed);
    for (let c = queue.pop(); c !== undefined; c = queue.pop()) {
      const [a, b] = [c % CELLS, Math.floor(c / CELLS)];
      for (const [p, q] of [
        [a - 1, b],
        [a + 1, b],
        [a, b - 1],
        [a, b + 1],
      ]) {
        const n = q * CELLS + p;
        if (p < 0 || q < 0 || p >= CELLS || q >= CELLS || !left.has(n) || apart(sides[c], sides[n])) continue;
        left.delete(n);
        own.add(n);
        queue.push(n);
      }
    }
    out.push(own);
  }
  return out;
}

/** A place of a panel, by shares of its sides. */
function placeOn({ ni, nodes }: Patch, i: number, j: number, u: number, v: number): Place {
  const at = (a: number, b: number) => 3 * (b * (ni + 1) + a);
  const [p, q, r, s] = [at(i, j), at(i + 1, j), at(i, j + 1), at(i + 1, j + 1)];
  const d = (k: number) =>
    (1 - v) * ((1 - u) * nodes[p + k] + u * nodes[q + k]) + v * ((1 - u) * nodes[r + k] + u * nodes[s + k]);
  return [d(0), d(1), d(2)];
}

/** Share of a column's panels on either face that lie near the trailing edge. */
const NEAR_EDGE = 0.15;

/** The unknowns of a mesh. @param cutting of the patches that others pass through, by their index. */
export function unitsOf(mesh: PanelMesh, cutting: ReadonlyMap<number, Cutting>): Units {
  const panel: number[] = [];
  const share: number[] = [];
  const first: number[] = [];
  const corners: number[] = [];
  const of: number[] = [];
  const own: number[] = [];
  const cells = new Map<number, Int32Array>();
  const sides = new Map<number, Int32Array>();
  let k = 0;
  mesh.patches.forEach((patch, index) => {
    const cut = cutting.get(index);
    for (let j = 0; j < patch.nj; j++)
      for (let i = 0; i < patch.ni; i++, k++) {
        first.push(panel.length);
        const piece = ({ a, b, width, height }: Rectangle) => {
          const [u0, u1, v0, v1] = [a / CELLS, (a + width) / CELLS, b / CELLS, (b + height) / CELLS];
          const order = [
            placeOn(patch, i, j, u0, v0),
            placeOn(patch, i, j, u0, v1),
            placeOn(patch, i, j, u1, v1),
            placeOn(patch, i, j, u1, v0),
          ];
          if (patch.out < 0) order.reverse();
          order.forEach((p) => corners.push(...p));
          of.push(panel.length);
        };
        const whole = () => {
          own.push(of.length);
          piece({ a: 0, b: 0, width: CELLS, height: CELLS });
          panel.push(k);
          share.push(1);
        };
        if (!cut) {
          whole();
          continue;
        }
        const places = Array.from({ length: CELLS * CELLS }, (_, c) => {
          const [u, v] = [((c % CELLS) + 0.5) / CELLS, (Math.floor(c / CELLS) + 0.5) / CELLS];
          const place = placeOn(patch, i, j, u, v);
          // Near the edge both faces of a wing are cut alike, in the middle between them: there they balance each other.
          if (patch.kind !== 'wing' || Math.min(i, patch.ni - 1 - i) >= NEAR_EDGE * patch.ni) return place;
          const other = placeOn(patch, patch.ni - 1 - i, j, 1 - u, v);
          return [0, 1, 2].map((d) => 0.5 * (place[d] + other[d])) as unknown as Place;
        });
        const open = places.map((p) => !cut.hidden(p));
        const on = Int32Array.from(places, (p) => cut.sides?.(p) ?? 0);
        sides.set(k, on);
        if (open.every(Boolean) && on.every((s) => s === on[0])) {
          whole();
          continue;
        }
        const unitOfCell = new Int32Array(CELLS * CELLS).fill(-1);
        for (const part of components(open, on)) {
          const middle = (c: number): [number, number] => [(c % CELLS) + 0.5, Math.floor(c / CELLS) + 0.5];
          let [ma, mb] = [0, 0];
          for (const c of part) {
            ma += middle(c)[0] / part.size;
            mb += middle(c)[1] / part.size;
          }
          const pieces = rectangles(part);
          const away = (r: Rectangle) => Math.hypot(r.a + r.width / 2 - ma, r.b + r.height / 2 - mb);
          const nearest = pieces.reduce((best, r, n) => (away(r) < away(pieces[best]) ? n : best), 0);
          own.push(of.length + nearest);
          pieces.forEach(piece);
          for (const c of part) unitOfCell[c] = panel.length;
          panel.push(k);
          share.push(part.size / CELLS ** 2);
        }
        cells.set(k, unitOfCell);
      }
  });
  first.push(panel.length);
  return {
    count: panel.length,
    panel: Int32Array.from(panel),
    share: Float64Array.from(share),
    first: Int32Array.from(first),
    corners: Float64Array.from(corners),
    of: Int32Array.from(of),
    own: Int32Array.from(own),
    cells,
    sides,
  };
}

/** The unit of a panel that a unit of its neighbour goes over into, across the side that they share; −1 where there is none. @param way the neighbour lies along i or j, ahead (1) or behind (−1). */
export function across(units: Units, unit: number, beside: number, axis: 'i' | 'j', way: 1 | -1): number {
  const { cells, sides, first, panel } = units;
  const from = panel[unit];
  const mine = cells.get(from);
  const other = cells.get(beside);
  if (!mine && !other && !sides.has(from)) return first[beside];
  const [ownSides, otherSides] = [sides.get(from), sides.get(beside)];
  const count = new Map<number, number>();
  for (let t = 0; t < CELLS; t++) {
    const edge = (ahead: boolean) =>
      axis === 'i' ? t * CELLS + (ahead ? CELLS - 1 : 0) : (ahead ? CELLS - 1 : 0) * CELLS + t;
    const [p, q] = [edge(way > 0), edge(way < 0)];
    if (mine && mine[p] !== unit) continue;
    const unitThere = other ? other[q] : first[beside];
    if (unitThere < 0 || apart(ownSides?.[p] ?? 0, otherSides?.[q] ?? 0)) continue;
    count.set(unitThere, (count.get(unitThere) ?? 0) + 1);
  }
  let [best, most] = [-1, 0];
  for (const [u, n] of count) if (n > most) [best, most] = [u, n];
  return best;
}
