import { CubicSpline } from '../../numerics';
import type { Outline } from '../../section';
import type { PanelNodes } from '../../section-flow';
import type { Shape } from '../shape';

/** A cubic B-spline of unit height about 0, zero beyond ±2. */
function hat(u: number): number {
  const a = Math.abs(u);
  if (a >= 2) return 0;
  return a < 1 ? 1 - 1.5 * a * a + 0.75 * a ** 3 : 0.25 * (2 - a) ** 3;
}

/** Ways in which the nodes first…last may move, each a value per node; free to turn at an end where `open`, else flat there. */
export function movements(count: number, first: number, last: number, modes: number, open: boolean): Float64Array[] {
  const list: Float64Array[] = [];
  const spacing = (last - first) / (open ? modes + 1 : modes + 3);
  for (let k = 0; k < modes; k++) {
    const centre = first + spacing * (k + (open ? 1 : 2));
    const mode = new Float64Array(count);
    for (let i = first + 1; i < last; i++) {
      // Where the end may turn, the part that hangs over it is folded back with its sign changed: no height, but a slope.
      const fold = open ? hat((2 * first - i - centre) / spacing) + hat((2 * last - i - centre) / spacing) : 0;
      mode[i] = hat((i - centre) / spacing) - fold;
    }
    list.push(mode);
  }
  return list;
}

/** Outward normals at the nodes. */
export function normalsOf(nodes: PanelNodes): [Float64Array, Float64Array] {
  const xs = new CubicSpline(nodes.s, nodes.x);
  const ys = new CubicSpline(nodes.s, nodes.y);
  const nx = new Float64Array(nodes.s.length);
  const ny = new Float64Array(nodes.s.length);
  nodes.s.forEach((s, i) => {
    const [tx, ty] = [xs.derivative(s), ys.derivative(s)];
    const norm = Math.hypot(tx, ty);
    nx[i] = ty / norm;
    ny[i] = -tx / norm;
  });
  return [nx, ny];
}

/** Carries the displacement of the nodes over to the points of the outline; points outside the nodes that moved stay as they are. */
export function carryOver(shape: Shape, before: PanelNodes, after: PanelNodes, first: number, last: number): Outline {
  const s = before.s.slice(first, last + 1);
  const move = (a: Float64Array, b: Float64Array) =>
    new CubicSpline(
      s,
      s.map((_, i) => b[first + i] - a[first + i]),
    );
  const [dx, dy] = [move(before.x, after.x), move(before.y, after.y)];
  const { outline, spline } = shape;
  const inside = (t: number) => t > s[0] && t < s[s.length - 1];
  return {
    x: outline.x.map((x, i) => (inside(spline.knots[i]) ? x + dx.at(spline.knots[i]) : x)),
    y: outline.y.map((y, i) => (inside(spline.knots[i]) ? y + dy.at(spline.knots[i]) : y)),
  };
}
