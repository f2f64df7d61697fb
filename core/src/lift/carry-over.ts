/**
 * Lift of a wing with a body through its root over that of the exposed halves put together, by slender-body theory.
 * @param radiusShare radius of the body over the half span, 0 to below 1.
 * @returns `wing`: on the wing itself, by the body's upwash; `body`: carried over to the body. @source NACA TR-1307, 1957 (equations 19 to 21).
 */
export function carryOverFactors(radiusShare: number): { wing: number; body: number } {
  const t = radiusShare;
  if (!(t > 1e-6)) return { wing: 1, body: 0 };
  const inverse = 1 / t - t;
  const own =
    ((2 / Math.PI) *
      ((1 + t ** 4) * (0.5 * Math.atan(0.5 * inverse) + Math.PI / 4) - t * t * (inverse + 2 * Math.atan(t)))) /
    (1 - t) ** 2;
  return { wing: own, body: (1 + t) ** 2 - own };
}
