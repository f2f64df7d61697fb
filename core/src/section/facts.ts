import { CubicSpline, gauss5, rootsOver } from '../numerics';
import { meanLine } from './mean-line';
import type { Outline } from './outline';
import { SurfaceSpline } from './surface-spline';

/** Facts of a section, in chords; the trailing-edge angle in radians. */
export interface SectionFacts {
  /** Greatest thickness, measured at right angles to the mean line, and its place along the chord. */
  thickness: { max: number; at: number };
  /** Camber of the greatest size (signed) and its place along the chord. */
  camber: { max: number; at: number };
  noseRadius: number;
  trailingEdge: { angle: number; gap: number };
  /** Enclosed area, chord². */
  area: number;
}

function crest(x: Float64Array, y: Float64Array): { max: number; at: number } {
  const spline = new CubicSpline(x, y);
  let max = 0;
  let at = 0;
  for (const place of rootsOver((t) => spline.derivative(t), x)) {
    const value = spline.at(place);
    if (Math.abs(value) > Math.abs(max)) {
      max = value;
      at = place;
    }
  }
  return { max, at };
}

/**
 * Facts of a section from its spline, not from its raw points. Camber is measured from the chord line, from the nose to the middle of the
 * trailing edge; thickness and camber are given in chords.
 * @param outline a checked outline, in chords. @param line its mean line when it is known already.
 */
export function sectionFacts(
  outline: Outline,
  spline = new SurfaceSpline(outline),
  line = meanLine(spline),
): SectionFacts {
  const last = line.x.length - 1;
  const start = { x: line.x[0], y: line.camber[0] };
  const chord = line.x[last] - start.x;
  const tilt = (line.camber[last] - start.y) / chord;
  const camberLine = line.camber.map((y, i) => y - start.y - tilt * (line.x[i] - start.x));
  const fore = Math.max(
    1,
    line.x.findIndex((x) => x - line.x[0] > 0.015 * chord),
  );
  const atCrest = crest(line.x.subarray(fore), camberLine.subarray(fore));
  const camber = { max: atCrest.max / chord, at: (atCrest.at - start.x) / chord };
  // Thickness starts like √x, which a cubic cannot follow; over √x it is smooth.
  const root = line.x.map((x) => Math.sqrt(Math.max(0, x - line.x[0])));
  const overRoot = crest(root, line.thickness);
  const thickness = { max: overRoot.max / chord, at: (line.x[0] + overRoot.at ** 2 - start.x) / chord };
  let area = 0;
  let noseCurvature = 0;
  for (let i = 0; i + 1 < spline.knots.length; i++) {
    const a = spline.knots[i];
    const b = spline.knots[i + 1];
    area += gauss5((s) => spline.x(s) * spline.tangent(s)[1], a, b);
  }
  const n = outline.x.length;
  area += 0.5 * (outline.x[0] + outline.x[n - 1]) * (outline.y[0] - outline.y[n - 1]);
  const reach = 0.02 * spline.length;
  for (let k = -40; k <= 40; k++) {
    noseCurvature = Math.max(noseCurvature, spline.curvature(spline.nose + (reach * k) / 40));
  }
  const [ux, uy] = spline.tangent(0);
  const [lx, ly] = spline.tangent(spline.length);
  const angle = Math.atan2(-uy, -ux);
  const below = Math.atan2(ly, lx);
  return {
    thickness,
    camber: Math.abs(camber.max) < 1e-9 ? { max: 0, at: 0 } : camber,
    noseRadius: noseCurvature > 0 ? 1 / noseCurvature : 0,
    trailingEdge: { angle: below - angle, gap: line.thickness[line.thickness.length - 1] },
    area,
  };
}
