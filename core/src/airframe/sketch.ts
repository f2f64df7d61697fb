import { freeId } from '../limits';
import { InvalidInput, RAD } from '../numerics';
import type { Body } from './body';
import { linesOf, writeLines } from './handles';
import { MOST_STATIONS, SURFACE_LIMITS } from './limits';
import type { DrawingView } from './outlines';
import type { LiftingSurface, SurfaceRole } from './types';

type Pair = readonly [number, number];
const tidy = (v: number) => Number(v.toFixed(4));
/** Corners that lie closer than this share of the sketch's size are one. */
const SAME = 1e-3;
const NAMES: Record<SurfaceRole, string> = { wing: 'Wing', tailplane: 'Tailplane', foreplane: 'Foreplane', fin: 'Fin' };

/** Least and greatest second coordinate of a closed outline at a first one; null outside. */
function crossing(outline: readonly Pair[], u: number): [number, number] | null {
  let [low, high] = [Infinity, -Infinity];
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length];
    if ((ax - u) * (bx - u) > 0) return;
    const ends = ax === bx ? [ay, by] : [ay + ((u - ax) / (bx - ax)) * (by - ay)];
    for (const v of ends) {
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
  });
  return high >= low ? [low, high] : null;
}

/** First coordinates at which an outline has corners, in order, those that are nearly one taken together. */
function corners(outline: readonly Pair[], size: number): number[] {
  const us = outline.map((p) => p[0]).sort((a, b) => a - b);
  return us.filter((u, i) => i === 0 || u - us[i - 1] > SAME * size);
}

function checkOutline(points: readonly Pair[]): number {
  if (points.length < 3 || points.some((p) => !p.every(Number.isFinite)))
    throw new InvalidInput(
      'sketch',
      'An outline needs three points or more.',
      'Draw on, and close it at its first point.',
    );
  const us = points.map((p) => p[0]);
  const vs = points.map((p) => p[1]);
  const [wide, high] = [Math.max(...us) - Math.min(...us), Math.max(...vs) - Math.min(...vs)];
  const area = points.reduce((sum, [u, v], i) => {
    const [p, q] = points[(i + 1) % points.length];
    return sum + 0.5 * (u * q - p * v);
  }, 0);
  const size = Math.max(wide, high);
  if (!(Math.abs(area) > 1e-6 * size * size) || !(size > 0.002))
    throw new InvalidInput('sketch', 'The outline has no area.', 'Draw points that do not lie on one line.');
  return size;
}

/** What a sketch becomes. */
export interface SketchedSurface {
  role: SurfaceRole;
  view: DrawingView;
  /** As {@link inView} has them, m. */ outline: readonly Pair[];
  section: string;
  taken: (id: string) => boolean;
}

/**
 * A surface from an outline that was drawn in the plan (wings and tails) or from the side (fins): stations at its corners, straight bays between them.
 * One that is drawn over or up to the plane of symmetry is mirrored; of one drawn on both sides the right half is taken.
 * @throws InvalidInput `sketch` for an outline that encloses nothing or has more corners than a surface may have stations.
 */
export function surfaceFromOutline({ role, view, outline, section, taken }: SketchedSurface): LiftingSurface {
  if (view === 'front')
    throw new InvalidInput(
      'sketch',
      'A surface is drawn from above or from the side.',
      'Draw its dihedral with the handles afterwards.',
    );
  const size = checkOutline(outline);
  // Along the span first: from above that is y, from the side it is z.
  const turned = outline.map(([u, v]): Pair => (view === 'plan' ? [u, v] : [v, u]));
  const left = Math.min(...turned.map((p) => p[0]));
  const right = Math.max(...turned.map((p) => p[0]));
  const near = 0.02 * (right - left);
  const mirrored = view === 'plan';
  let [from, to] = [left, right];
  let half = turned;
  if (mirrored) {
    // Drawn on the left alone: it is the same wing.
    if (right <= near) half = turned.map(([u, v]) => [-u, v]);
    const us = half.map((p) => p[0]);
    [from, to] = [Math.max(0, Math.min(...us)), Math.max(...us)];
    if (from < near) from = 0;
  }
  const cuts = corners(half, size).filter((u) => u > from + SAME * size && u < to - SAME * size);
  const places = [from, ...cuts, to];
  if (places.length > MOST_STATIONS)
    throw new InvalidInput(
      'sketch',
      `The outline has ${places.length} corners along the span; ${MOST_STATIONS} is the most.`,
      'Draw it with fewer.',
    );
  const inside = (u: number) => crossing(half, u);
  const eps = SAME * 0.01 * size;
  const edges = places.map((u, i) => {
    const at = i === 0 ? Math.max(u, Math.min(...half.map((p) => p[0])) + eps) : i === places.length - 1 ? u - eps : u;
    return inside(at) ?? inside(u + eps) ?? [0, 0];
  });
  const widest = Math.max(...edges.map((e) => e[1] - e[0]));
  const chords = edges.map((e) => Math.max(e[1] - e[0], 0.02 * widest, SURFACE_LIMITS.station.chord.above!.nearest));
  const surface: LiftingSurface = {
    id: freeId(role, taken),
    name: NAMES[role],
    role,
    plane: view === 'plan' ? 'horizontal' : 'vertical',
    mirrored,
    position: {
      x: tidy(edges[0][0]),
      y: mirrored ? tidy(from) : 0,
      z: view === 'side' ? tidy(from) : 0,
    },
    incidenceDeg: 0,
    stations: chords.map((chord) => ({ chord, twistDeg: 0, section })),
    bays: chords.slice(1).map(() => ({ span: 1, sweepDeg: 0, dihedralDeg: 0 })),
  };
  writeLines(surface, {
    offsets: places.map((u) => u - from),
    leading: edges.map((e) => e[0] - edges[0][0]),
    chords,
    rises: chords.map(() => 0),
  });
  for (const b of surface.bays) b.sweepDeg = Math.max(-75, Math.min(75, b.sweepDeg));
  return surface;
}

/** A body from an outline drawn from above (its widths) or from the side (its heights); as high as it is wide. @throws InvalidInput `sketch`. */
export function bodyFromOutline(
  outline: readonly Pair[],
  view: DrawingView,
  taken: (id: string) => boolean,
  most = 60,
): Body {
  if (view === 'front')
    throw new InvalidInput('sketch', 'A body is drawn from above or from the side.', 'Choose that view.');
  const size = checkOutline(outline);
  const turned = outline.map(([u, v]): Pair => (view === 'plan' ? [v, u] : [u, v]));
  const xs = corners(turned, size);
  if (xs.length > most)
    throw new InvalidInput(
      'sketch',
      `The outline has ${xs.length} corners along the body; ${most} is the most.`,
      'Draw it with fewer.',
    );
  const eps = SAME * 0.01 * size;
  const cuts = xs.map((x, i) => crossing(turned, i === 0 ? x + eps : i === xs.length - 1 ? x - eps : x) ?? [0, 0]);
  const thickest = Math.max(...cuts.map((c) => c[1] - c[0]));
  const ends = cuts.map((c) => (c[1] - c[0] < 0.02 * thickest ? 0 : c[1] - c[0]));
  const middles = cuts.map((c) => 0.5 * (c[0] + c[1]));
  // Beside the plane of symmetry from above, it stands on both sides.
  const mean = middles.reduce((a, b) => a + b, 0) / middles.length;
  const beside = view === 'plan' && Math.abs(mean) > 0.5 * thickest;
  return {
    id: freeId('body', taken),
    name: beside ? 'Boom' : 'Fuselage',
    mirrored: beside,
    loft: 'smooth',
    position: { x: tidy(xs[0]), y: beside ? tidy(Math.abs(mean)) : 0, z: view === 'side' ? tidy(middles[0]) : 0 },
    stations: xs.map((x, i) => ({
      x: tidy(x - xs[0]),
      width: tidy(ends[i]),
      height: tidy(ends[i]),
      z: view === 'side' ? tidy(middles[i] - middles[0]) : 0,
      shape: 'ellipse' as const,
      corner: 0.3,
    })),
  };
}

/**
 * Gives a horizontal surface the rise of a line that was drawn from ahead: its stations move up or down onto it, spans and edges stay. The surface given is
 * changed. @param line as {@link inView} has it, m; drawn on the left it is taken as its mirror image. @param base height of the surface's root.
 * @throws InvalidInput `sketch` for a line that goes back, is steeper than 75°, or a surface that stands upright.
 */
export function riseFromLine(surface: LiftingSurface, line: readonly Pair[], root: { y: number; z: number }): void {
  const refuse = (what: string, hint: string): never => {
    throw new InvalidInput('sketch', what, hint);
  };
  if (surface.plane !== 'horizontal') refuse(`${surface.name} stands upright.`, 'Choose a wing or a tail.');
  if (line.length < 2 || line.some((p) => !p.every(Number.isFinite)))
    refuse('A line needs two points or more.', 'Draw on.');
  const left = line.reduce((sum, p) => sum + p[0], 0) < 0;
  const points = line.map(([u, v]): Pair => [left ? -u : u, v]).sort((a, b) => a[0] - b[0]);
  const lines = linesOf(surface);
  const heights = lines.offsets.map((s) => {
    const y = root.y + s;
    let k = 0;
    while (k < points.length - 2 && points[k + 1][0] < y) k++;
    const [a, b] = [points[k], points[k + 1]];
    const t = b[0] > a[0] ? (y - a[0]) / (b[0] - a[0]) : 0;
    return a[1] + t * (b[1] - a[1]);
  });
  const rises = heights.map((h) => h - heights[0]);
  rises.forEach((r, i) => {
    if (i > 0 && Math.abs((r - rises[i - 1]) / (lines.offsets[i] - lines.offsets[i - 1])) > Math.tan(75 * RAD))
      refuse(`Bay ${i} would rise by more than 75°.`, 'Draw a flatter line.');
  });
  writeLines(surface, { ...lines, rises });
}
