/** A propeller's slipstream at a distance behind its disc. */
export interface Slipstream {
  /** m */ radius: number;
  /** Speed in it over that of the stream. */ speedRatio: number;
}

/**
 * The slipstream of an actuator disc: the speed added grows from that at the disc to twice that far behind, and the tube narrows as it does.
 * @param thrust N. @param speed of the stream, m/s, above 0. @param behind distance behind the disc, m; 0 or more.
 * @source momentum theory, R&M 328, 1916; growth along the axis as behind a vortex cylinder: w(x)/w = 1 + x/√(x² + R²).
 */
export function slipstreamAt(
  thrust: number,
  diameter: number,
  speed: number,
  density: number,
  behind: number,
): Slipstream {
  const radius = 0.5 * diameter;
  const area = Math.PI * radius * radius;
  // 2ρA(V + w)w = T; a brake narrows nothing.
  const w = 0.5 * (Math.sqrt(Math.max(0, speed * speed + (2 * thrust) / (density * area))) - speed);
  const x = Math.max(0, behind);
  const grown = 1 + x / Math.hypot(x, radius);
  const here = Math.max(0.05 * speed, speed + w * grown);
  return { radius: radius * Math.sqrt(Math.max(0.05, (speed + w) / here)), speedRatio: here / speed };
}
