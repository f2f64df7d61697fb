import { CubicSpline, rootsOver } from '../numerics';
import { meanLine } from './mean-line';
import type { Outline } from './outline';
import { SurfaceSpline } from './surface-spline';

/**
 * A section taken apart: its mean line, and each point of its outline by the place ξ of its foot on that line and its signed distance η
 * from it (upper surface positive).
 *
 *        η │   · point
 *          │  ╱ (at right angles to the line)
 *     ─────┴─●──────────── mean line, over ξ
 *
 * Putting it together again gives the same points, so thickness (η), camber (the line) and their crests (ξ) can be changed one by one and
 * changed back.
 */
export interface MeanFrame {
  /** Knots of the mean line, from the nose to the middle of the trailing edge. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  /** Per point of the outline. */
  readonly xi: Float64Array;
  readonly eta: Float64Array;
  /** Index of the point at the nose. */
  readonly nose: number;
}

/** A mean line with straight ends. */
export interface Line {
  at(x: number): number;
  slope(x: number): number;
  second(x: number): number;
}

/** The mean line of a frame as a curve: heights and slopes along the chord, chords. */
export function lineOf(frame: Pick<MeanFrame, 'x' | 'y'>): Line {
  const spline = new CubicSpline(frame.x, frame.y);
  const [a, b] = [frame.x[0], frame.x[frame.x.length - 1]];
  const [ya, yb, sa, sb] = [spline.at(a), spline.at(b), spline.derivative(a), spline.derivative(b)];
  return {
    at: (x) => (x < a ? ya + sa * (x - a) : x > b ? yb + sb * (x - b) : spline.at(x)),
    slope: (x) => (x < a ? sa : x > b ? sb : spline.derivative(x)),
    second: (x) => (x < a || x > b ? 0 : spline.second(x)),
  };
}

/** The stretch behind the nose, in chords, over which the line is carried on from behind. */
const UNSURE = 0.012;
const KNOT_SPACING = 0.004;

/**
 * Takes an outline apart.
 * @param outline a checked outline.
 */
export function takeApart(outline: Outline, spline = new SurfaceSpline(outline)): MeanFrame {
  const table = meanLine(spline);
  const chord = table.x[table.x.length - 1] - table.x[0];
  const xs = [table.x[0]];
  const ys = [table.camber[0]];
  table.x.forEach((x, i) => {
    const last = i === table.x.length - 1;
    if (x - table.x[0] < UNSURE * chord) return;
    if (!last && x - xs[xs.length - 1] < KNOT_SPACING * chord) return;
    if (last && x - xs[xs.length - 1] < 1e-6 * chord) {
      xs.pop();
      ys.pop();
    }
    xs.push(x);
    ys.push(table.camber[i]);
  });
  const knots = { x: Float64Array.from(xs), y: Float64Array.from(ys) };
  const line = lineOf(knots);
  const n = outline.x.length;
  const xi = new Float64Array(n);
  const eta = new Float64Array(n);
  let nose = 0;
  for (let i = 0; i < n; i++) {
    const [px, py] = [outline.x[i], outline.y[i]];
    let at = px;
    for (let k = 0; k < 40; k++) {
      const slope = line.slope(at);
      const rise = py - line.at(at);
      const g = px - at + rise * slope;
      const dg = -1 - slope * slope + rise * line.second(at);
      const step = dg < -0.05 ? -g / dg : g;
      at += Math.max(-0.05, Math.min(0.05, step));
      if (Math.abs(step) < 1e-15) break;
    }
    const slope = line.slope(at);
    xi[i] = at;
    // Along the normal, sign and all; the foot lies where the rest vanishes.
    eta[i] = (py - line.at(at) - slope * (px - at)) / Math.hypot(1, slope);
    if (xi[i] < xi[nose]) nose = i;
  }
  return { ...knots, xi, eta, nose };
}

/** Puts a section together again. */
export function putTogether(frame: MeanFrame): Outline {
  const line = lineOf(frame);
  const n = frame.xi.length;
  const x = new Float64Array(n);
  const y = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const slope = line.slope(frame.xi[i]);
    const norm = Math.hypot(1, slope);
    x[i] = frame.xi[i] - (frame.eta[i] * slope) / norm;
    y[i] = line.at(frame.xi[i]) + frame.eta[i] / norm;
  }
  return { x, y };
}

/** Height of one surface over the mean line, at any place of it; smooth through the nose because it is taken over √ξ. */
export function surfaceHeight(frame: MeanFrame, surface: 'upper' | 'lower'): (xi: number) => number {
  const first = frame.xi[frame.nose];
  const order =
    surface === 'upper'
      ? Array.from({ length: frame.nose + 1 }, (_, i) => frame.nose - i)
      : Array.from({ length: frame.xi.length - frame.nose }, (_, i) => frame.nose + i);
  const t: number[] = [];
  const h: number[] = [];
  for (const i of order) {
    const root = Math.sqrt(Math.max(0, frame.xi[i] - first));
    if (t.length > 0 && root <= t[t.length - 1] + 1e-7) continue;
    t.push(root);
    h.push(frame.eta[i]);
  }
  const spline = new CubicSpline(t, h);
  const most = t[t.length - 1];
  return (xi) => spline.at(Math.min(most, Math.sqrt(Math.max(0, xi - first))));
}

/** A greatest value and its place, chords. */
export interface Crest {
  max: number;
  at: number;
}

const CREST_SAMPLES = 60;

/** Greatest thickness across the mean line and its place, in chords of this frame. */
export function thicknessCrest(frame: MeanFrame): Crest {
  const upper = surfaceHeight(frame, 'upper');
  const lower = surfaceHeight(frame, 'lower');
  const [from, to] = [frame.x[0], frame.x[frame.x.length - 1]];
  const thickness = (u: number) => {
    const xi = from + (to - from) * u;
    return upper(xi) - lower(xi);
  };
  const at = peak(thickness, 0.01, 0.99);
  return { max: thickness(at) / (to - from), at };
}

/** Camber of the greatest size (signed) over the chord line, and its place. */
export function camberCrest(frame: MeanFrame): Crest {
  const spline = new CubicSpline(frame.x, frame.y);
  const last = frame.x.length - 1;
  const chord = frame.x[last] - frame.x[0];
  const tilt = (frame.y[last] - frame.y[0]) / chord;
  let best: Crest = { max: 0, at: 0 };
  for (const x of rootsOver((v) => spline.derivative(v) - tilt, frame.x)) {
    const max = (spline.at(x) - frame.y[0] - tilt * (x - frame.x[0])) / chord;
    if (Math.abs(max) > Math.abs(best.max)) best = { max, at: (x - frame.x[0]) / chord };
  }
  return Math.abs(best.max) < 1e-9 ? { max: 0, at: 0 } : best;
}

/** Where a function with one peak is greatest: sampling, then the golden section. */
function peak(f: (u: number) => number, from: number, to: number): number {
  let best = from;
  let value = -Infinity;
  const step = (to - from) / CREST_SAMPLES;
  for (let k = 0; k <= CREST_SAMPLES; k++) {
    const v = f(from + k * step);
    if (v > value) [best, value] = [from + k * step, v];
  }
  let [a, b] = [Math.max(from, best - step), Math.min(to, best + step)];
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [c, d] = [b - ratio * (b - a), a + ratio * (b - a)];
  let [fc, fd] = [f(c), f(d)];
  for (let k = 0; k < 36; k++) {
    if (fc > fd) {
      [b, d, fd] = [d, c, fc];
      c = b - ratio * (b - a);
      fc = f(c);
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + ratio * (b - a);
      fd = f(d);
    }
  }
  return 0.5 * (a + b);
}
