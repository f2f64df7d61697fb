import { CubicSpline } from '../../numerics';
import type { Outline } from '../../section';
import { InviscidSection, type PanelNodes } from '../../section-flow';
import type { SpeedPair } from './target';

/**
 * Speeds toward the trailing edge without viscosity, both surfaces from the foremost point back.
 * @param outline a checked outline, chords. @param alpha rad. @returns pairs of x (chords) and speed over that of the stream.
 * @throws InvalidInput, FailedComputation where the flow cannot be solved.
 */
export function surfaceSpeeds(outline: Outline, alpha: number): { upper: SpeedPair[]; lower: SpeedPair[] } {
  const section = new InviscidSection(outline);
  const { x, s } = section.nodes;
  const { speed } = section.at(alpha);
  const front = foremostPoint(section.nodes);
  const round = (v: number) => Number(v.toPrecision(9));
  const q = new CubicSpline(s, speed).at(front.s);
  const upper: SpeedPair[] = [[round(front.x), round(-q)]];
  const lower: SpeedPair[] = [[round(front.x), round(q)]];
  for (let i = x.length - 1; i >= 0; i--) if (s[i] < front.s) upper.push([round(x[i]), round(-speed[i])]);
  for (let i = 0; i < x.length; i++) if (s[i] > front.s) lower.push([round(x[i]), round(speed[i])]);
  return { upper, lower };
}

/** Index of the foremost node. */
export function foremost(x: Float64Array): number {
  let at = 0;
  for (let i = 1; i < x.length; i++) if (x[i] < x[at]) at = i;
  return at;
}

/** The foremost point of the outline through the nodes, between them. */
export function foremostPoint(nodes: PanelNodes): { s: number; x: number } {
  const spline = new CubicSpline(nodes.s, nodes.x);
  const i = foremost(nodes.x);
  let [low, high] = [nodes.s[Math.max(0, i - 1)], nodes.s[Math.min(nodes.s.length - 1, i + 1)]];
  for (let k = 0; k < 48; k++) {
    const middle = 0.5 * (low + high);
    if (spline.derivative(middle) < 0) low = middle;
    else high = middle;
  }
  return { s: low, x: spline.at(low) };
}
