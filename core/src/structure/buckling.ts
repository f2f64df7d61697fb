/** Of a plate's bending stiffness, with Poisson's ratio of 0.3. */
const PLATE = Math.PI ** 2 / (12 * (1 - 0.3 ** 2));

/**
 * Stress at which a plate buckles under compression along its length, Pa.
 * @param length between its loaded edges. @param free whether one of the long edges is free, as of a flange; else both are simply supported.
 * @source NACA TN-3781, 1957: k = (m b/a + a/(m b))² at its least over m; of a long flange 0.43 + (b/a)².
 */
export function plateBuckling(modulus: number, thickness: number, width: number, length: number, free = false): number {
  const ratio = length / width;
  let k: number;
  if (free) k = 0.43 + 1 / ratio ** 2;
  else {
    const m = Math.max(1, Math.floor(ratio));
    k = Math.min(...[m, m + 1].map((n) => (n / ratio + ratio / n) ** 2));
  }
  return k * PLATE * modulus * (thickness / width) ** 2;
}

/** Stress at which a plate with simply supported edges buckles in shear, Pa. @source NACA TN-3781, 1957: k = 5.35 + 4 (b/a)², b the shorter side. */
export function plateShearBuckling(modulus: number, thickness: number, width: number, length: number): number {
  const [b, a] = [Math.min(width, length), Math.max(width, length)];
  return (5.35 + 4 * (b / a) ** 2) * PLATE * modulus * (thickness / b) ** 2;
}

/** Stress at which the wall of a round shell buckles in bending, Pa. @source NASA SP-8007, 1968: 0.6 γ E t/R, γ = 1 − 0.731 (1 − exp(−√(R/t)/16)). */
export function shellBuckling(modulus: number, thickness: number, radius: number): number {
  const gamma = 1 - 0.731 * (1 - Math.exp(-Math.sqrt(radius / thickness) / 16));
  return 0.6 * gamma * modulus * (thickness / radius);
}

/** Stress at which a face on a core wrinkles, Pa. @source J. Aeronaut. Sci. 12(3), 1945: 0.5 ∛(E_face E_core G_core), the value for use. */
export const wrinkling = (face: number, core: number, coreShear: number): number =>
  0.5 * Math.cbrt(face * core * coreShear);

/**
 * The multiple of the load at which a panel under compression and shear buckles.
 * @param compression, shear of their critical values. @source NACA TN-3781, 1957: R_c + R_s² = 1.
 */
export function buckledAt(compression: number, shear: number): number {
  if (compression <= 0) return shear > 0 ? 1 / shear : Infinity;
  return shear < 1e-9 * compression
    ? 1 / compression
    : (Math.sqrt(compression ** 2 + 4 * shear ** 2) - compression) / (2 * shear ** 2);
}
