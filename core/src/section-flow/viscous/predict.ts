import { emptyLayers, copyLayers, type Layers } from './layers';
import type { SolvedState } from './viscous-section';

const MOST_RATIO = 1.5;

/**
 * A first guess for an angle from two solved ones: unknowns go on as they went from the farther to the nearer one, bounded; places of transition
 * too. Stations whose kind or side differs between the two keep the nearer one's values.
 */
export function predictLayers(far: SolvedState, near: SolvedState, alpha: number): Layers {
  const total = near.layers.c.length;
  const out = emptyLayers(total);
  copyLayers(near.layers, out);
  const step = near.alpha - far.alpha;
  if (Math.abs(step) < 1e-9) return out;
  const t = Math.max(-1.5, Math.min(1.5, (alpha - near.alpha) / step));
  const a = far.layers;
  const b = near.layers;
  const along = (p: number, q: number) => {
    const ratio = q / p;
    if (!(ratio > 0)) return q;
    return q * Math.max(1 / MOST_RATIO, Math.min(MOST_RATIO, ratio ** t));
  };
  for (let i = 0; i < total; i++) {
    out.velocity[i] = b.velocity[i] + t * (b.velocity[i] - a.velocity[i]);
    if (a.side[i] !== b.side[i] || a.turbulent[i] !== b.turbulent[i] || b.side[i] === 0) {
      out.velocity[i] = b.velocity[i];
      continue;
    }
    out.theta[i] = along(a.theta[i], b.theta[i]);
    out.mass[i] = along(a.mass[i], b.mass[i]);
    if (b.turbulent[i]) out.c[i] = along(a.c[i], b.c[i]);
  }
  out.stagnation = b.stagnation + t * (b.stagnation - a.stagnation);
  for (const k of [0, 1] as const) {
    if (a.held[k] || b.held[k]) continue;
    const move = Math.max(-0.15, Math.min(0.15, b.transition[k] - a.transition[k]));
    out.transition[k] = b.transition[k] + t * move;
  }
  return out;
}
