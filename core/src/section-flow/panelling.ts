import { InvalidInput } from '../numerics';
import { SurfaceSpline, type Outline } from '../section';

/** How panel ends are spread over an outline. */
export interface PanelSpread {
  /** Number of panels, 20 to 1 000. */
  panels: number;
  /** How strongly panels gather at the trailing edge; 0 not at all, 1 is the default. */
  trailingEdge: number;
  /** How strongly panels gather where the outline is curved; 0 spreads them evenly, 1 is the default. */
  nose: number;
  /** A stretch of the chord, on both surfaces, with more or fewer panels: density times `density` from `from` to `to`. */
  stretch?: { from: number; to: number; density: number };
}

export const DEFAULT_SPREAD: PanelSpread = { panels: 160, trailingEdge: 1, nose: 1 };

/** Panel ends on an outline, with the outline's own tangent there: trailing edge → upper → nose → lower. */
export interface PanelNodes {
  x: Float64Array;
  y: Float64Array;
  /** Arc length of each node along the outline, chords. */
  s: Float64Array;
  /** Arc length of the nose. */
  nose: number;
}

const SAMPLES = 1200;
/** Width of the border of a stretch, chords. */
const SOFT = 0.008;

/**
 * Spreads panel ends so that every panel carries the same integral of a density that grows with the curvature (smoothed over a few
 * panels, and bounded so that a thin nose gets many but not all) and toward the trailing edge. The nose itself is always a node.
 * @param outline a checked outline. @param spread wishes.
 * @throws InvalidInput `panel-count` outside 20–1 000.
 */
export function panelNodes(
  outline: Outline,
  spread: PanelSpread = DEFAULT_SPREAD,
  spline = new SurfaceSpline(outline),
): PanelNodes {
  const { panels } = spread;
  if (!Number.isInteger(panels) || panels < 20 || panels > 1000) {
    throw new InvalidInput(
      'panel-count',
      `A section is solved with 20 to 1 000 panels; ${panels} is outside.`,
      undefined,
      'panels',
    );
  }
  const length = spline.length;
  const upperPanels = Math.max(8, Math.min(panels - 8, Math.round((panels * spline.nose) / length)));
  const s = new Float64Array(panels + 1);
  spreadSide(spline, 0, spline.nose, upperPanels, spread, s, 0);
  spreadSide(spline, spline.nose, length, panels - upperPanels, spread, s, upperPanels);
  s[panels] = length;
  return { x: s.map((t) => spline.x(t)), y: s.map((t) => spline.y(t)), s, nose: spline.nose };
}

function spreadSide(
  spline: SurfaceSpline,
  from: number,
  to: number,
  count: number,
  spread: PanelSpread,
  s: Float64Array,
  first: number,
): void {
  const m = SAMPLES;
  const t = new Float64Array(m + 1);
  const density = new Float64Array(m + 1);
  const tail = from === 0 ? from : to;
  // Of the standard count, whatever the count: so refining a spread divides every panel alike.
  const mean = spline.length / DEFAULT_SPREAD.panels;
  for (let i = 0; i <= m; i++) {
    // Samples gather at both ends, where the density changes fastest.
    t[i] = from + (to - from) * 0.5 * (1 - Math.cos((Math.PI * i) / m));
    const curvature = Math.abs(spline.curvature(t[i]));
    // A panel on an arc of radius r should not turn much more than 0.1 rad near the nose.
    const bend = (mean * curvature) / 0.1;
    density[i] = 1 + spread.nose * 2.5 * (bend / Math.sqrt(1 + (bend / 40) ** 2)) ** 0.9;
  }
  smooth(t, density, 0.2 * mean);
  for (let i = 0; i <= m; i++) {
    // Speeds behave like the root of the distance to the edge there; panels that grow with that root keep the error of second order.
    const distance = Math.abs(t[i] - tail) / spline.length;
    density[i] += 0.11 * spread.trailingEdge * (distance + 1e-6) ** -0.5;
  }
  if (spread.stretch) {
    const { from: fore, to: aft, density: factor } = spread.stretch;
    for (let i = 0; i <= m; i++) {
      const x = spline.x(t[i]);
      // A soft border, so that neighbours do not differ much in length.
      const inside = 1 / (1 + Math.exp(-(x - fore) / SOFT)) / (1 + Math.exp((x - aft) / SOFT));
      density[i] *= 1 + (factor - 1) * inside;
    }
  }
  const sum = new Float64Array(m + 1);
  for (let i = 1; i <= m; i++) sum[i] = sum[i - 1] + 0.5 * (density[i] + density[i - 1]) * (t[i] - t[i - 1]);
  let k = 0;
  for (let j = 0; j <= count; j++) {
    const wanted = (sum[m] * j) / count;
    while (k < m - 1 && sum[k + 1] < wanted) k++;
    s[first + j] = t[k] + ((wanted - sum[k]) / (sum[k + 1] - sum[k])) * (t[k + 1] - t[k]);
  }
  s[first] = from;
  s[first + count] = to;
}

/**
 * What panels make of an outline.
 * @param nodes panel ends. @param spline the outline.
 * @returns panel lengths (n−1) and their greatest distance from the outline, chords; angles between neighbours at the nodes (n), rad, zero at the edge.
 */
export function panelQuality(
  nodes: PanelNodes,
  spline: SurfaceSpline,
): { length: Float64Array; angle: Float64Array; leaves: Float64Array } {
  const { x, y, s } = nodes;
  const n = x.length;
  const length = new Float64Array(n - 1);
  const leaves = new Float64Array(n - 1);
  const angle = new Float64Array(n);
  const steps = 9;
  for (let i = 0; i + 1 < n; i++) {
    const [dx, dy] = [x[i + 1] - x[i], y[i + 1] - y[i]];
    length[i] = Math.hypot(dx, dy);
    for (let k = 1; k < steps; k++) {
      const at = s[i] + ((s[i + 1] - s[i]) * k) / steps;
      const away = Math.abs((spline.x(at) - x[i]) * dy - (spline.y(at) - y[i]) * dx) / length[i];
      leaves[i] = Math.max(leaves[i], away);
    }
    if (i > 0) {
      const [bx, by] = [x[i] - x[i - 1], y[i] - y[i - 1]];
      angle[i] = Math.abs(Math.atan2(bx * dy - by * dx, bx * dx + by * dy));
    }
  }
  return { length, angle, leaves };
}

/** Implicit diffusion over a length, so that panel lengths change gradually. */
function smooth(t: Float64Array, f: Float64Array, reach: number): void {
  const n = t.length;
  const a = new Float64Array(n);
  const b = new Float64Array(n).fill(1);
  const c = new Float64Array(n);
  for (let i = 1; i < n - 1; i++) {
    const before = t[i] - t[i - 1];
    const after = t[i + 1] - t[i];
    const k = (reach * reach * 2) / (before + after);
    a[i] = -k / before;
    c[i] = -k / after;
    b[i] = 1 - a[i] - c[i];
  }
  b[0] = 1;
  c[0] = -1;
  f[0] = 0;
  a[n - 1] = -1;
  f[n - 1] = 0;
  for (let i = 1; i < n; i++) {
    const w = a[i] / b[i - 1];
    b[i] -= w * c[i - 1];
    f[i] -= w * f[i - 1];
  }
  f[n - 1] /= b[n - 1];
  for (let i = n - 2; i >= 0; i--) f[i] = (f[i] - c[i] * f[i + 1]) / b[i];
}
