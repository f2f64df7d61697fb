import { gauss5 } from '../numerics';
import { SurfaceSpline } from './surface-spline';
import type { Outline } from './outline';

/** Area moments about axes through the centroid, chord⁴ for a solid, chord³ × skin thickness for a shell; angles in radians. */
export interface SecondMoments {
  /** About the axis along x, along y, and the product. */
  xx: number;
  yy: number;
  xy: number;
  /** Principal moments, the smaller first, and the angle from x to the axis of the smaller. */
  least: number;
  greatest: number;
  axis: number;
}

/** Area, perimeter, centroid and second moments of a section, for a chord of 1. */
export interface SectionMoments {
  /** chords */ perimeter: number;
  centroid: { x: number; y: number };
  /** The filled section. */
  solid: SecondMoments;
  /** A skin of even thickness along the outline, its thickness divided out. */
  shell: SecondMoments & { centroid: { x: number; y: number } };
}

function principal(xx: number, yy: number, xy: number): SecondMoments {
  const mean = 0.5 * (xx + yy);
  const radius = Math.hypot(0.5 * (xx - yy), xy);
  return { xx, yy, xy, least: mean - radius, greatest: mean + radius, axis: 0.5 * Math.atan2(2 * xy, yy - xx) };
}

/**
 * Perimeter, centroid and second moments of a section from its spline, by Green's theorem and along the skin; a blunt edge is closed straight.
 * @param outline a checked outline, in chords.
 */
export function sectionMoments(outline: Outline, spline = new SurfaceSpline(outline)): SectionMoments {
  const n = outline.x.length;
  const [ax, ay, bx, by] = [outline.x[n - 1], outline.y[n - 1], outline.x[0], outline.y[0]];
  const gap = Math.hypot(bx - ax, by - ay);
  /** ∮ f(x, y, dx/ds, dy/ds) ds along the closed outline. */
  const around = (f: (x: number, y: number, dx: number, dy: number) => number) => {
    let sum = 0;
    for (let i = 0; i + 1 < spline.knots.length; i++)
      sum += gauss5((s) => f(spline.x(s), spline.y(s), ...spline.tangent(s)), spline.knots[i], spline.knots[i + 1]);
    if (gap > 0)
      sum += gauss5(
        (s) => f(ax + (s / gap) * (bx - ax), ay + (s / gap) * (by - ay), (bx - ax) / gap, (by - ay) / gap),
        0,
        gap,
      );
    return sum;
  };
  const length = (dx: number, dy: number) => Math.hypot(dx, dy);
  const area = around((x, y, dx, dy) => 0.5 * (x * dy - y * dx));
  const cx = around((x, _y, _dx, dy) => 0.5 * x * x * dy) / area;
  const cy = around((_x, y, dx) => -0.5 * y * y * dx) / area;
  const solid = principal(
    around((_x, y, dx) => -((y - cy) ** 3) * dx) / 3,
    around((x, _y, _dx, dy) => (x - cx) ** 3 * dy) / 3,
    around((x, y, _dx, dy) => 0.5 * (x - cx) ** 2 * (y - cy) * dy),
  );
  const perimeter = around((_x, _y, dx, dy) => length(dx, dy));
  const sx = around((x, _y, dx, dy) => x * length(dx, dy)) / perimeter;
  const sy = around((_x, y, dx, dy) => y * length(dx, dy)) / perimeter;
  const shell = principal(
    around((_x, y, dx, dy) => (y - sy) ** 2 * length(dx, dy)),
    around((x, _y, dx, dy) => (x - sx) ** 2 * length(dx, dy)),
    around((x, y, dx, dy) => (x - sx) * (y - sy) * length(dx, dy)),
  );
  return { perimeter, centroid: { x: cx, y: cy }, solid, shell: { ...shell, centroid: { x: sx, y: sy } } };
}
