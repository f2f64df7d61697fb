import { CubicSpline } from '../numerics';
import type { Outline } from './outline';

/** A section's outline as a smooth curve over its arc length s (chord lengths), from the upper to the lower trailing edge. */
export class SurfaceSpline {
  readonly length: number;
  readonly knots: Float64Array;
  private readonly xs: CubicSpline;
  private readonly ys: CubicSpline;
  /** Arc length at the nose: the point farthest from the middle of the trailing edge. */
  readonly nose: number;

  /** @param outline points without two equal neighbours. @throws InvalidInput `spline-knots` otherwise. */
  constructor(outline: Outline) {
    const n = outline.x.length;
    const s = new Float64Array(n);
    for (let i = 1; i < n; i++)
      s[i] = s[i - 1] + Math.hypot(outline.x[i] - outline.x[i - 1], outline.y[i] - outline.y[i - 1]);
    this.knots = s;
    this.length = s[n - 1];
    this.xs = new CubicSpline(s, outline.x);
    this.ys = new CubicSpline(s, outline.y);
    this.nose = this.findNose(outline);
  }

  private findNose(outline: Outline): number {
    const n = outline.x.length;
    const tx = 0.5 * (outline.x[0] + outline.x[n - 1]);
    const ty = 0.5 * (outline.y[0] + outline.y[n - 1]);
    let far = 0;
    let best = -1;
    for (let i = 0; i < n; i++) {
      const d = (outline.x[i] - tx) ** 2 + (outline.y[i] - ty) ** 2;
      if (d > best) {
        best = d;
        far = i;
      }
    }
    // Newton on d|P − T|²/ds = 0 from the farthest point; it stays inside the neighbouring pieces.
    let s = this.knots[far];
    const low = this.knots[Math.max(0, far - 1)];
    const high = this.knots[Math.min(n - 1, far + 1)];
    for (let step = 0; step < 30; step++) {
      const dx = this.x(s) - tx;
      const dy = this.y(s) - ty;
      const [ux, uy] = this.tangent(s);
      const g = dx * ux + dy * uy;
      const slope = ux * ux + uy * uy + dx * this.xs.second(s) + dy * this.ys.second(s);
      const ds = slope !== 0 ? -g / slope : 0;
      s = Math.min(high, Math.max(low, s + ds));
      if (Math.abs(ds) < 1e-14) break;
    }
    return s;
  }

  x(s: number): number {
    return this.xs.at(s);
  }
  y(s: number): number {
    return this.ys.at(s);
  }
  /** dP/ds, nearly a unit vector, pointing along the loop. */
  tangent(s: number): [number, number] {
    return [this.xs.derivative(s), this.ys.derivative(s)];
  }
  slopeX(s: number): number {
    return this.xs.derivative(s);
  }
  slopeY(s: number): number {
    return this.ys.derivative(s);
  }
  /** Curvature, 1/chord; positive where the outline is convex. */
  curvature(s: number): number {
    const [dx, dy] = this.tangent(s);
    return (dx * this.ys.second(s) - dy * this.xs.second(s)) / (dx * dx + dy * dy) ** 1.5;
  }
  secondX(s: number): number {
    return this.xs.second(s);
  }
  secondY(s: number): number {
    return this.ys.second(s);
  }
}
