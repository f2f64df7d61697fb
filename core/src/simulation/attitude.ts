/**
 * Attitude of the body's axes (forward, right, down) in local axes (north, east, down), as a quaternion (scalar first).
 * @source Stevens, Lewis and Johnson, Aircraft Control and Simulation, 3rd ed., 2016, chapter 1.
 */
export type Vector = [number, number, number];

/** Direction cosines, row-major: local = M · body. @param q four numbers from `at` on, of any length above zero. */
export function bodyToLocal(q: ArrayLike<number>, at: number, out: Float64Array): Float64Array {
  const [a, b, c, d] = [q[at], q[at + 1], q[at + 2], q[at + 3]];
  const k = 2 / (a * a + b * b + c * c + d * d);
  out[0] = 1 - k * (c * c + d * d);
  out[1] = k * (b * c - a * d);
  out[2] = k * (b * d + a * c);
  out[3] = k * (b * c + a * d);
  out[4] = 1 - k * (b * b + d * d);
  out[5] = k * (c * d - a * b);
  out[6] = k * (b * d - a * c);
  out[7] = k * (c * d + a * b);
  out[8] = 1 - k * (b * b + c * c);
  return out;
}

/** The quaternion of heading, then pitch, then bank; rad. */
export function quaternionOf(phi: number, theta: number, psi: number): [number, number, number, number] {
  const [c1, s1] = [Math.cos(phi / 2), Math.sin(phi / 2)];
  const [c2, s2] = [Math.cos(theta / 2), Math.sin(theta / 2)];
  const [c3, s3] = [Math.cos(psi / 2), Math.sin(psi / 2)];
  return [
    c1 * c2 * c3 + s1 * s2 * s3,
    s1 * c2 * c3 - c1 * s2 * s3,
    c1 * s2 * c3 + s1 * c2 * s3,
    c1 * c2 * s3 - s1 * s2 * c3,
  ];
}

/** Bank, pitch and heading of direction cosines; straight up or down all of the turn about the vertical is told as heading. */
export function anglesOf(m: ArrayLike<number>): { phi: number; theta: number; psi: number } {
  const s = Math.max(-1, Math.min(1, -m[6]));
  if (Math.abs(s) > 1 - 1e-12) return { phi: 0, theta: (Math.sign(s) * Math.PI) / 2, psi: Math.atan2(-m[1], m[4]) };
  return { phi: Math.atan2(m[7], m[8]), theta: Math.asin(s), psi: Math.atan2(m[3], m[0]) };
}

/** M · v. */
export const rotate = (m: ArrayLike<number>, x: number, y: number, z: number): Vector => [
  m[0] * x + m[1] * y + m[2] * z,
  m[3] * x + m[4] * y + m[5] * z,
  m[6] * x + m[7] * y + m[8] * z,
];
/** Mᵀ · v. */
export const rotateBack = (m: ArrayLike<number>, x: number, y: number, z: number): Vector => [
  m[0] * x + m[3] * y + m[6] * z,
  m[1] * x + m[4] * y + m[7] * z,
  m[2] * x + m[5] * y + m[8] * z,
];
