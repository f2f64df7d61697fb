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
  for (const k of [0, 1] as const) {
    if (a.held[k] || b.held[k]) continue;
    const move = Math.max(-0.15, Math.min(0.15, b.transition[k] - a.transition[k]));
    out.transition[k] = b.transition[k] + t * move;
  }
  return out;
}

/** How far around the stagnation point the layers move with it, chords. */
const REACH = 0.05;

/**
 * Carries the layers around the nose along with the stagnation point: close to it they depend on the distance from it, not on the place.
 * @param out a guess, changed. @param near the solved layers that it came from. @param s arc lengths of the section's nodes.
 * @param shift of the stagnation point, chords.
 */
export function moveStagnation(out: Layers, near: Layers, s: Float64Array, shift: number): void {
  const n = s.length;
  const place = near.stagnation + shift;
  // The node on the old stagnation point has no layer of its own.
  const theta = (i: number) => (near.side[i] !== 0 ? near.theta[i] : 0.5 * (near.theta[i - 1] + near.theta[i + 1]));
  let k = 0;
  for (let i = 1; i + 1 < n; i++) {
    const distance = Math.abs(s[i] - place);
    const weight = Math.exp(-((distance / REACH) ** 2));
    if (weight < 0.01) continue;
    const from = s[i] - shift;
    while (k + 2 < n && s[k + 1] < from) k++;
    while (k > 0 && s[k] > from) k--;
    const u = (from - s[k]) / (s[k + 1] - s[k]);
    const at = (v: (j: number) => number) => v(k) + u * (v(k + 1) - v(k));
    const blend = (now: number, moved: number) => now + weight * (moved - now);
    out.velocity[i] = blend(
      out.velocity[i],
      at((j) => near.velocity[j]),
    );
    out.mass[i] = blend(
      out.mass[i],
      at((j) => near.mass[j]),
    );
    const moved = at(theta);
    out.theta[i] = out.side[i] === 0 ? moved : blend(out.theta[i], moved);
    const side = s[i] < place ? -1 : 1;
    if (out.side[i] !== side) {
      out.side[i] = side;
      out.theta[i] = moved;
      out.mass[i] = at((j) => near.mass[j]);
      out.velocity[i] = at((j) => near.velocity[j]);
      out.turbulent[i] = 0;
    }
  }
  out.stagnation = place;
}

/** How far around a place of transition the layers move with it, chords. */
const TRANSITION_REACH = 0.08;

/** Carries the layers around a place of transition along with it, as `moveStagnation` does for the nose. @param surface 0 upper, 1 lower. */
export function moveTransition(out: Layers, near: Layers, s: Float64Array, surface: 0 | 1): void {
  const place = out.transition[surface];
  const shift = place - near.transition[surface];
  if (out.held[surface] || shift === 0) return;
  const n = s.length;
  const sign = surface === 0 ? -1 : 1;
  const reach = Math.min(TRANSITION_REACH, 0.3 * Math.abs(place - out.stagnation));
  let k = 0;
  for (let i = 1; i + 1 < n; i++) {
    const weight = Math.exp(-(((s[i] - place) / reach) ** 2));
    if (weight < 0.01 || out.side[i] !== sign) continue;
    const from = s[i] - shift;
    while (k + 2 < n && s[k + 1] < from) k++;
    while (k > 0 && s[k] > from) k--;
    if (near.side[k] !== sign || near.side[k + 1] !== sign) continue;
    const u = (from - s[k]) / (s[k + 1] - s[k]);
    const blend = (now: number, v: Float64Array) => now + weight * (v[k] + u * (v[k + 1] - v[k]) - now);
    out.velocity[i] = blend(out.velocity[i], near.velocity);
    out.mass[i] = blend(out.mass[i], near.mass);
    out.theta[i] = blend(out.theta[i], near.theta);
    out.turbulent[i] = sign * (s[i] - place) >= 0 ? 1 : 0;
    if (out.turbulent[i]) {
      const like = near.turbulent[k] ? k : near.turbulent[k + 1] ? k + 1 : -1;
      if (like >= 0) out.c[i] = near.c[like];
    }
  }
}

/** Least shape factor of a guess: of turbulent layers, and of the wake. */
const FULL = 1.25;
const FULL_WAKE = 1.03;

/**
 * Gives back a sensible shape to what was extrapolated into too full a layer: from there Newton’s method takes many steps, since the closures are
 * steep near H = 1. @param out a guess, changed. @param near the solved layers that it came from. @param nodes of the section's loop.
 */
export function keepShapes(out: Layers, near: Layers, nodes: number): void {
  for (let i = 0; i < out.theta.length; i++) {
    const wake = i >= nodes;
    if (out.side[i] === 0 || !(wake || out.turbulent[i])) continue;
    const shape = out.mass[i] / out.velocity[i] / out.theta[i];
    const before = near.mass[i] / near.velocity[i] / near.theta[i];
    const least = Math.min(wake ? FULL_WAKE : FULL, before);
    if (shape < least) out.mass[i] = least * out.theta[i] * out.velocity[i];
  }
}
