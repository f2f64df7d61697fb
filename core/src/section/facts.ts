import { CubicSpline, cosineSpaced, gauss5, rootsOver } from '../numerics';
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

/** Mean line and thickness along it: for each station the point of the mean line and the full thickness across it. */
export interface MeanLineTable {
  x: Float64Array;
  camber: Float64Array;
  thickness: Float64Array;
}

const STATIONS = 161;

/** Slope at station i of the polynomial through (x[i], height) and the `behind` stations before it, seen in the marching direction. */
function backwardSlope(
  x: Float64Array,
  y: Float64Array,
  i: number,
  way: 1 | -1,
  behind: number,
  height: number,
): number {
  let slope = 0;
  let product = 1;
  let difference = [height];
  for (let k = 1; k <= behind; k++) {
    const next = [y[i - way * k]];
    for (let m = 0; m < difference.length; m++) {
      const span = x[i - way * k] - x[i - way * (k - 1 - m)];
      next.push((next[m] - difference[m]) / span);
    }
    difference = next;
    slope += next[k] * product;
    product *= x[i] - x[i - way * k];
  }
  return slope;
}

/**
 * Mean line of any section: the curve from whose points the upper and lower surface are equally far, measured at right angles to it.
 *
 * That is a first-order equation for the line, whose errors die out away from the nose and away from the trailing edge, toward the place
 * of greatest thickness. So it is marched from both ends to there, the slope taken from the points already passed (third order).
 * For a section laid off from a mean line by formula this gives that mean line and thickness back.
 * @param spline the outline. @returns stations from nose to trailing edge.
 */
export function meanLine(spline: SurfaceSpline): MeanLineTable {
  const noseX = spline.x(spline.nose);
  const noseY = spline.y(spline.nose);
  const tailX = 0.5 * (spline.x(0) + spline.x(spline.length));
  const tailY = 0.5 * (spline.y(0) + spline.y(spline.length));
  const n = STATIONS;
  const stations = cosineSpaced(0, 1, n);
  const x = new Float64Array(n);
  const y = new Float64Array(n);
  const thickness = new Float64Array(n);
  const su = new Float64Array(n);
  const sl = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    x[i] = noseX + (tailX - noseX) * stations[i];
    const root = Math.sqrt(stations[i]);
    su[i] = spline.nose * (1 - (0.15 * root + 0.85 * stations[i]));
    sl[i] = spline.nose + (spline.length - spline.nose) * (0.15 * root + 0.85 * stations[i]);
  }
  const cut = (px: number, py: number, tx: number, ty: number, from: number, low: number, high: number) => {
    let s = from;
    for (let k = 0; k < 40; k++) {
      const g = (spline.x(s) - px) * tx + (spline.y(s) - py) * ty;
      const [dx, dy] = spline.tangent(s);
      const slope = dx * tx + dy * ty;
      let step = -g / slope;
      if (!Number.isFinite(step)) break;
      const bound = 0.05 * spline.length;
      step = Math.max(-bound, Math.min(bound, step));
      s = Math.min(high, Math.max(low, s + step));
      if (Math.abs(step) < 1e-13) break;
    }
    return s;
  };
  for (let i = 1; i < n - 1; i++) {
    su[i] = cut(x[i], 0, 1, 0, su[i], 0, spline.nose);
    sl[i] = cut(x[i], 0, 1, 0, sl[i], spline.nose, spline.length);
    y[i] = 0.5 * (spline.y(su[i]) + spline.y(sl[i]));
  }
  y[0] = noseY;
  y[n - 1] = tailY;
  x[n - 1] = tailX;
  let crestIndex = 1;
  for (let i = 1; i < n - 1; i++) {
    thickness[i] = spline.y(su[i]) - spline.y(sl[i]);
    if (thickness[i] > thickness[crestIndex]) crestIndex = i;
  }
  // The middle of the normal through (x, y) less y: zero on the mean line.
  const miss = (i: number, height: number, slope: number) => {
    const norm = Math.hypot(1, slope);
    su[i] = cut(x[i], height, 1 / norm, slope / norm, su[i], 0, spline.nose);
    sl[i] = cut(x[i], height, 1 / norm, slope / norm, sl[i], spline.nose, spline.length);
    const mx = 0.5 * (spline.x(su[i]) + spline.x(sl[i]));
    const my = 0.5 * (spline.y(su[i]) + spline.y(sl[i]));
    return my - slope * (mx - x[i]) - height;
  };
  const march = (from: number, to: number, way: 1 | -1) => {
    for (let i = from; i !== to + way; i += way) {
      const behind = Math.min(3, 1 + Math.floor(Math.abs(i - from) / 8));
      const slopeAt = (height: number) => backwardSlope(x, y, i, way, behind, height);
      // Where the line bends little, the correction that the last station needed is the best guess for this one.
      const last = i - way;
      if (i !== from) y[i] += y[last] - vertical[last];
      let before = y[i];
      let missBefore = miss(i, before, slopeAt(before));
      const reach = 0.1 * thickness[i] + 1e-5;
      let height = before + 1e-6;
      for (let k = 0; k < 25; k++) {
        const m = miss(i, height, slopeAt(height));
        const step = m === missBefore ? 0 : (-m * (height - before)) / (m - missBefore);
        before = height;
        missBefore = m;
        height += Math.max(-reach, Math.min(reach, step));
        if (Math.abs(step) < 1e-13) break;
      }
      y[i] = height;
      thickness[i] = Math.hypot(spline.x(su[i]) - spline.x(sl[i]), spline.y(su[i]) - spline.y(sl[i]));
    }
  };
  // Next to the nose the condition says next to nothing; there the middle of the vertical chord, corrected for the slope, starts the march.
  const vertical = y.slice();
  const verticalSlope = (i: number) => (vertical[i + 1] - vertical[i - 1]) / (x[i + 1] - x[i - 1]);
  let start = 4;
  while (
    start < crestIndex &&
    (x[start] - noseX < 0.006 || thickness[start] * Math.abs(verticalSlope(start)) > 0.6 * (x[start] - noseX))
  ) {
    start++;
  }
  for (let i = 1; i <= start; i++) {
    const slope = verticalSlope(i);
    const growth = (thickness[i + 1] ** 2 - thickness[i - 1] ** 2) / (x[i + 1] - x[i - 1]);
    const bound = 0.15 * thickness[i];
    y[i] = vertical[i] + Math.max(-bound, Math.min(bound, (growth / 8) * slope));
  }
  if (crestIndex > start) march(start, crestIndex, 1);
  march(n - 2, crestIndex + 1, -1);
  thickness[n - 1] = Math.hypot(spline.x(0) - spline.x(spline.length), spline.y(0) - spline.y(spline.length));
  return { x, camber: y, thickness };
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
 * Facts of a section from its spline, not from its raw points. Camber is measured from the chord line, from the origin to the middle of the
 * trailing edge.
 * @param outline a checked outline, in chords. @param line its mean line when it is known already.
 */
export function sectionFacts(
  outline: Outline,
  spline = new SurfaceSpline(outline),
  line = meanLine(spline),
): SectionFacts {
  const last = line.x.length - 1;
  const chord = line.x[last];
  const camberLine = line.camber.map((y, i) => y - (line.camber[last] * line.x[i]) / chord);
  const fore = Math.max(
    1,
    line.x.findIndex((x) => x > 0.015),
  );
  const atCrest = crest(line.x.subarray(fore), camberLine.subarray(fore));
  const camber = { max: atCrest.max, at: atCrest.at / chord };
  // Thickness starts like √x, which a cubic cannot follow; over √x it is smooth.
  const root = line.x.map((x) => Math.sqrt(Math.max(0, x - line.x[0])));
  const overRoot = crest(root, line.thickness);
  const thickness = { max: overRoot.max, at: (line.x[0] + overRoot.at ** 2) / chord };
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
