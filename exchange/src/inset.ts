import simplify from 'simplify-js';

type Pair = [number, number];

/** mm that a line may pass beside a point that is left out. */
const TOLERANCE = 0.01;

/** Twice the signed area: positive where it runs anticlockwise. */
const turning = (p: readonly Pair[]) =>
  p.reduce((sum, [x, y], i) => sum + x * p[(i + 1) % p.length][1] - p[(i + 1) % p.length][0] * y, 0);

/** Distance of a point to a closed outline, given as x, y pairs in one array. */
function distanceTo(outline: Float64Array, x: number, y: number): number {
  const n = outline.length;
  let least = Infinity;
  for (let i = 0; i < n; i += 2) {
    const k = i + 2 < n ? i + 2 : 0;
    const ax = outline[i];
    const ay = outline[i + 1];
    const dx = outline[k] - ax;
    const dy = outline[k + 1] - ay;
    const size = dx * dx + dy * dy;
    const along = size > 0 ? ((x - ax) * dx + (y - ay) * dy) / size : 0;
    const t = along < 0 ? 0 : along > 1 ? 1 : along;
    const ex = x - ax - t * dx;
    const ey = y - ay - t * dy;
    const d = ex * ex + ey * ey;
    if (d < least) least = d;
  }
  return Math.sqrt(least);
}

/** Points put between those that lie farther apart than a step. */
function refined(outline: readonly Pair[], step: number): Pair[] {
  return outline.flatMap(([x, y], i): Pair[] => {
    const [u, v] = outline[(i + 1) % outline.length];
    const n = Math.max(1, Math.min(400, Math.ceil(Math.hypot(u - x, v - y) / step)));
    return Array.from({ length: n }, (_, k): Pair => [x + (k / n) * (u - x), y + (k / n) * (v - y)]);
  });
}

/**
 * A closed outline moved inward by a distance: its points shifted along their normals; those that would come nearer to another part of the outline,
 * as in a thin trailing edge, are left out.
 * @returns fewer than three points where nothing is left.
 */
export function inset(outline: readonly Pair[], by: number): Pair[] {
  if (by <= 0) return outline.map(([x, y]) => [x, y]);
  const way = turning(outline) > 0 ? 1 : -1;
  const sizes = outline.map(([x, y], i) =>
    Math.hypot(outline[(i + 1) % outline.length][0] - x, outline[(i + 1) % outline.length][1] - y),
  );
  const fine = refined(outline, Math.max(by / 2, sizes.reduce((a, b) => a + b, 0) / 2000));
  const flat = Float64Array.from(outline.flat());
  const n = fine.length;
  const out: Pair[] = [];
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [fine[(i + n - 1) % n], fine[i], fine[(i + 1) % n]];
    const [dx, dy] = [c[0] - a[0], c[1] - a[1]];
    const size = Math.hypot(dx, dy);
    if (size === 0) continue;
    const p: Pair = [b[0] - (way * by * dy) / size, b[1] + (way * by * dx) / size];
    if (distanceTo(flat, p[0], p[1]) >= by * (1 - 5e-3)) out.push(p);
  }
  // What a saw cannot follow needs no points.
  return simplify(
    out.map(([x, y]) => ({ x, y })),
    TOLERANCE,
    true,
  ).map(({ x, y }): Pair => [x, y]);
}
