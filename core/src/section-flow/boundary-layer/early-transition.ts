import { slopes } from './closures';

/**
 * Transition that does not wait for waves to grow: in a rough stream turbulence enters the layer itself, and grains shed vortices. Both come into the
 * growth of n as a term that begins at the published threshold and carries n past any critical value within some tens of momentum thicknesses; so they
 * take part in the same equation as the waves. Each function returns its growth per chord, and leaves slopes as the closures do.
 */

/** Growth of n over one momentum thickness, once the threshold is passed. */
const RATE = 0.1;
/** Half the share of the threshold over which the growth begins. */
const RAMP = 0.04;

/** Turbulence of the stream from which it enters the layer, %. Below it transition is by waves alone. */
export const BYPASS_TURBULENCE = 1;
/** Reynolds number of a grain, with the speed at its top, from which it makes a laminar layer turbulent. @source NACA TN-4363, 1958. */
export const GRAIN_REYNOLDS = 600;

/** [value, slope] of the rise from 0 to 1 about 1. */
function rise(ratio: number): [number, number] {
  const t = (ratio - 1) / (2 * RAMP) + 0.5;
  if (t <= 0) return [0, 0];
  if (t >= 1) return [1, 0];
  return [t * t * (3 - 2 * t), (6 * t * (1 - t)) / (2 * RAMP)];
}

/**
 * Pressure-gradient parameter θ²∕ν du∕dξ of a laminar layer by its shape, bounded to where the threshold was measured (±0.1).
 * @returns value and slope. @source Aeronautical Quarterly 1, 1949, 245–280 (the fits of its table).
 */
function pressureGradient(hk: number): [number, number] {
  const d = hk - 2.61;
  if (d >= 0) {
    const value = 0.0731 / (hk - 2.088) - 0.14;
    return value < -0.1 ? [-0.1, 0] : [value, -0.0731 / (hk - 2.088) ** 2];
  }
  const root = Math.sqrt(Math.max(0, 3.75 * 3.75 + 4 * 5.24 * d));
  const value = (3.75 - root) / (2 * 5.24);
  return value > 0.1 || root === 0 ? [0.1, 0] : [value, -1 / root];
}

/**
 * Reθ at which a layer becomes turbulent in a stream of some turbulence.
 * @param percent turbulence, %. @returns value and slope by Hk.
 * @source Journal of Mechanical Engineering Science 22(5), 1980, 213–228: its start of transition.
 */
export function bypassThreshold(hk: number, percent: number): [number, number] {
  const [l, byHk] = pressureGradient(hk);
  const f = l < 0 ? 6.91 + 12.75 * l + 63.64 * l * l : 6.91 + 2.48 * l - 12.27 * l * l;
  const byL = l < 0 ? 12.75 + 127.28 * l : 2.48 - 24.54 * l;
  const share = 1 - percent / 6.91;
  const e = Math.exp(f * share);
  return [163 + e, e * share * byL * byHk];
}

/** Growth by turbulence that enters the layer. @param percent turbulence of the stream, %. */
export function bypassGrowth(hk: number, reTheta: number, theta: number, percent: number): number {
  const [threshold, byHk] = bypassThreshold(hk, percent);
  const [value, by] = rise(reTheta / threshold);
  const k = RATE / theta;
  slopes((-k * by * reTheta * byHk) / (threshold * threshold), (k * by) / threshold, 0, 0, (-k * value) / theta);
  return k * value;
}

/**
 * Growth behind grains all over the surface.
 * @param friction laminar Cf, with its slopes by Hk and Reθ. @param grain height, chords. @param perSpeed Reynolds number of the chord.
 * The speed at the grain's top is that of the wall's shear, as is right for grains within the inner part of the layer.
 * The slope by the speed at the edge stands in `slope[3]`'s place, since nothing here depends on H.
 */
export function grainGrowth(
  friction: number,
  frictionByHk: number,
  frictionByRe: number,
  theta: number,
  speed: number,
  reynolds: number,
  grain: number,
): number {
  const local = reynolds * speed * grain;
  const ratio = (0.5 * friction * local * local) / GRAIN_REYNOLDS;
  const [value, by] = rise(ratio);
  const k = RATE / theta;
  const byFriction = (k * by * 0.5 * local * local) / GRAIN_REYNOLDS;
  slopes(byFriction * frictionByHk, byFriction * frictionByRe, 0, (2 * k * by * ratio) / speed, (-k * value) / theta);
  return k * value;
}
