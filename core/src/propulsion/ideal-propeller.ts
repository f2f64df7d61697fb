/**
 * Thrust of the ideal propeller of a power in the air: an actuator disc.
 * @param power that goes into the air, W. @param diameter m. @param density kg/m³. @param speed m/s. @returns N.
 * @source Glauert, in Durand, Aerodynamic Theory IV, 1935, division L: P = T (V/2 + √(V²/4 + T/(2ρA))).
 */
export function propellerThrust(power: number, diameter: number, density: number, speed: number): number {
  if (!(power > 0)) return 0;
  const v = Math.max(0, speed);
  const disc = (Math.PI * diameter * diameter) / 4;
  // T = 2ρA w (V + w), P = T (V + w): a cubic for the speed w that is added at the disc, which rises with w.
  let w = Math.cbrt(power / (2 * density * disc));
  for (let i = 0; i < 60; i++) {
    const f = 2 * density * disc * w * (v + w) ** 2 - power;
    const slope = 2 * density * disc * (v + w) * (v + 3 * w);
    const next = Math.max(0, w - f / slope);
    if (Math.abs(next - w) < 1e-14 * (1 + w)) return power / (v + next);
    w = next;
  }
  return power / (v + w);
}

/** The power into the air that a thrust needs, by the same propeller. @param thrust N, 0 or more. */
export function propellerPower(thrust: number, diameter: number, density: number, speed: number): number {
  const v = Math.max(0, speed);
  const disc = (Math.PI * diameter * diameter) / 4;
  return thrust * (0.5 * v + Math.sqrt(0.25 * v * v + thrust / (2 * density * disc)));
}
