import type { BodySkin, Place } from './body-skin';
import { FinSkin, type LineSkin } from './fin-skin';
import { BEHIND, type PanelMesh } from './panel-mesh';
import type { Patch } from './patch';
import { CELLS, type Cutting } from './units';

const BISECTIONS = 30;

/** Where the edge of a wake lies on a body: beside the body along its axis, and behind it in its middle. */
export interface BodyLine {
  skin: LineSkin;
  end: 'inner' | 'outer';
  /** Unit vector across x, from the wing toward the body. */ toward: Place;
  /** From the trailing edge at the body to the body's tail. */ places: Place[];
}

/** The wake of one column of a wing: behind as much of its trailing edge as stands out of bodies. */
export interface WakeEdge {
  patch: Patch;
  /** Of the patch in the mesh. */ index: number;
  column: number;
  /** Ends of the trailing edge, and between which shares of the column's they are. */
  a: Place;
  b: Place;
  from: number;
  to: number;
  lines: BodyLine[];
}

const unitAcross = (p: Place, q: Place): Place => {
  const size = Math.hypot(q[1] - p[1], q[2] - p[2]);
  return [0, (q[1] - p[1]) / size, (q[2] - p[2]) / size];
};

/** The line of a wake's edge on a body. @param root where the trailing edge meets it. */
function lineOn(skin: LineSkin, end: BodyLine['end'], root: Place, toward: Place): BodyLine {
  const tail = skin.x[skin.x.length - 1];
  const places: Place[] = [root];
  const behind = Array.from(skin.x).filter((x) => x > root[0] + 1e-6 && x < tail);
  for (const x of [...behind, tail + BEHIND * skin.radius]) {
    if (x <= root[0]) continue;
    const p: Place = [x, root[1], root[2]];
    const [my, mz] = skin.middle(x);
    let axis = Math.max(0, (my - p[1]) * toward[1] + (mz - p[2]) * toward[2]);
    // As far as the plane of symmetry, where the other side's wake meets it.
    if (Math.abs(my) < 1e-9 && p[1] * toward[1] < 0) axis = -p[1] / toward[1];
    const d = skin.reach(p, toward, axis) ?? axis;
    places.push([x, p[1] + d * toward[1], p[2] + d * toward[2]]);
  }
  return { skin, end, toward, places };
}

/** Whether a line lies on a surface that the edge ends on, not on a body. */
export const onFin = ({ skin }: BodyLine): boolean => skin instanceof FinSkin;

/** The wakes' beginnings of a mesh. @param skins of the bodies. */
export function wakeEdges(
  mesh: PanelMesh,
  hiding: ReadonlyMap<number, Cutting['hidden']>,
  skins: readonly BodySkin[],
): WakeEdge[] {
  const out: WakeEdge[] = [];
  mesh.patches.forEach((patch, index) => {
    if (patch.kind !== 'wing') return;
    const fins = mesh.fins.get(patch.id) ?? [];
    const inBody = hiding.get(index);
    const hidden =
      inBody || fins.length > 0 ? (p: Place) => inBody?.(p) === true || fins.some((f) => f.inside(p)) : undefined;
    const { ni, nj, nodes } = patch;
    const node = (j: number): Place => {
      const at = 3 * j * (ni + 1);
      return [nodes[at], nodes[at + 1], nodes[at + 2]];
    };
    const between = (j: number, t: number): Place => {
      const [a, b] = [node(j), node(j + 1)];
      return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2])];
    };
    const open = (j: number, t: number) => !hidden?.(between(j, t));
    const bound = (j: number, inside: number, outside: number): number => {
      for (let n = 0; n < BISECTIONS; n++) {
        const middle = 0.5 * (inside + outside);
        if (open(j, middle)) outside = middle;
        else inside = middle;
      }
      return outside;
    };
    const intervals = Array.from({ length: nj }, (_, j): [number, number] | null => {
      if (!hidden) return [0, 1];
      const samples = Array.from({ length: CELLS }, (_cell, k) => (k + 0.5) / CELLS);
      const seen = samples.filter((t) => open(j, t));
      if (seen.length === 0) return null;
      const [first, last] = [seen[0], seen[seen.length - 1]];
      return [
        first > samples[0] ? bound(j, first - 1 / CELLS, first) : 0,
        last < samples[CELLS - 1] ? bound(j, last + 1 / CELLS, last) : 1,
      ];
    });
    const all: LineSkin[] = [...skins, ...fins];
    const bodyAt = (p: Place): LineSkin =>
      all.find((s) => s.inside(p)) ?? all.reduce((best, s) => (s.distance(p) < best.distance(p) ? s : best), all[0]);
    intervals.forEach((own, j) => {
      if (!own) return;
      const [from, to] = own;
      const [a, b] = [between(j, from), between(j, to)];
      const lines: BodyLine[] = [];
      if (hidden) {
        const before = j > 0 ? intervals[j - 1] : undefined;
        const after = j + 1 < nj ? intervals[j + 1] : undefined;
        if (from > 0 || before === null || (before && before[1] < 1))
          lines.push(lineOn(bodyAt(between(j, from - 0.5 / CELLS)), 'inner', a, unitAcross(node(j + 1), node(j))));
        if (to < 1 || after === null || (after && after[0] > 0))
          lines.push(lineOn(bodyAt(between(j, to + 0.5 / CELLS)), 'outer', b, unitAcross(node(j), node(j + 1))));
      }
      out.push({ patch, index, column: j, a, b, from, to, lines });
    });
  });
  return out;
}

/** On which sides of the wakes that lie on a body a place of its skin is: two bits a wake. */
export function sidesOn(lines: readonly BodyLine[], p: Place): number {
  let bits = 0;
  lines.forEach(({ skin, toward, places: [root] }, k) => {
    if (p[0] < root[0]) return;
    const [my, mz] = skin.middle(p[0]);
    if ((p[1] - my) * toward[1] + (p[2] - mz) * toward[2] > 0) return;
    const above = (p[2] - root[2]) * toward[1] - (p[1] - root[1]) * toward[2] > 0;
    bits |= (above ? 1 : 2) << (2 * k);
  });
  return bits;
}
