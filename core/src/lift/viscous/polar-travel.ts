import { placeSurface, type Control, type LiftingSurface } from '../../airframe';
import { RAD } from '../../numerics';
import type { TravelCurve } from '../control-travel';
import { thinFlapLift } from '../controls';
import type { SectionPolars } from './polar-curve';
import { READ, SectionPolar } from './section-polar';

/**
 * The travel of a control by the polars of its middle section with the flap turned: their lift at the section's zero angle over that of a thin section. It holds
 * from the last polar that has lift to lose on either side.
 * @param reynoldsPerMetre of the stream. @returns null where fewer than two turned flaps have polars on a side that is used.
 */
export function polarTravel(
  surface: LiftingSurface,
  control: Pick<Control, 'from' | 'to' | 'hinge'>,
  polars: readonly SectionPolars[],
  reynoldsPerMetre: number,
): TravelCurve | null {
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  let offset = 0.5 * (control.from + control.to) * total;
  let bay = 0;
  while (bay < surface.bays.length - 1 && offset > surface.bays[bay].span) offset -= surface.bays[bay++].span;
  const at = placeSurface(surface).at(bay, Math.min(1, offset / surface.bays[bay].span));
  const hinge = Math.round(control.hinge * 100) / 100;
  const own = polars.filter((p) => p.section === at.section && p.curves.length > 0);
  const clean = own.find((p) => p.flap === null);
  const turned = own.filter((p) => p.flap?.hinge === hinge && p.flap.angleDeg !== 0);
  if (!clean || turned.length < 2) return null;
  const lift = (p: SectionPolars) => {
    const polar = new SectionPolar(p);
    const out = new Float64Array(READ);
    polar.add(0, polar.place(reynoldsPerMetre * at.chord), 1, out);
    return out[0];
  };
  const [rest, thin] = [lift(clean), thinFlapLift(hinge)];
  const knots = [
    [0, 0],
    ...turned.map((p): [number, number] => [p.flap!.angleDeg * RAD, (lift(p) - rest) / thin]),
  ].sort((a, b) => a[0] - b[0]);
  // Outward from zero it rises: past the flap's own stall nothing more is gained.
  const zero = knots.findIndex(([d]) => d === 0);
  const kept = [knots[zero]];
  for (let i = zero + 1; i < knots.length && knots[i][1] > kept[kept.length - 1][1]; i++) kept.push(knots[i]);
  for (let i = zero - 1; i >= 0 && knots[i][1] < kept[0][1]; i--) kept.unshift(knots[i]);
  if (kept.length < 3) return null;
  return { deflections: kept.map(([d]) => d), effective: kept.map(([, e]) => e), method: 'polars' };
}
