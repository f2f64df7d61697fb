import type { LiftingSurface } from '../airframe';
import { ControlTravel, plainFlapTravel, polarTravel, type SectionPolars } from '../lift';
import { RAD } from '../numerics';

/**
 * What the deflections of an airframe's controls come to, by id: by the polars of their sections with the flap turned where they are there,
 * else by those of plain flaps.
 * @param reynoldsPerMetre of the stream, for the polars.
 */
export function travelsOf(
  surfaces: readonly LiftingSurface[],
  polars: readonly SectionPolars[] = [],
  reynoldsPerMetre = 0,
): Record<string, ControlTravel> {
  const out: Record<string, ControlTravel> = {};
  for (const s of surfaces)
    for (const c of s.controls ?? []) {
      const own = polars.length > 0 && reynoldsPerMetre > 0 ? polarTravel(s, c, polars, reynoldsPerMetre) : null;
      out[c.id] = new ControlTravel(own ?? plainFlapTravel(c.hinge), c.deflectionDeg * RAD);
    }
  return out;
}

/**
 * What deflections of an airframe's controls come to in attached flow, from rest, rad by id; those that are not given stand as they are drawn.
 * @param deflections rad, by id.
 */
export function effectiveDeflections(
  surfaces: readonly LiftingSurface[],
  deflections: Readonly<Record<string, number>>,
): Record<string, number> {
  return Object.fromEntries(
    surfaces
      .flatMap((s) => s.controls ?? [])
      .map((c): [string, number] => [
        c.id,
        new ControlTravel(plainFlapTravel(c.hinge)).effective(deflections[c.id] ?? c.deflectionDeg * RAD),
      ]),
  );
}
