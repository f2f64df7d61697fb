import type { LiftResult } from '../lift';
import { interpolate } from '../numerics';

/** What the centre of gravity is held to; null where it is open. Shares of the chord, degrees, 1/° as in a brief. */
export interface CentreBands {
  staticMargin: { min: number | null; max: number | null };
  trimAngleDeg: { min: number | null; max: number | null };
  pitchSlopePerDeg: { min: number | null; max: number | null };
}

/** How far the centre of gravity may go, m, and which band ends it; null where none does. */
export interface CentreRange {
  forward: { x: number; by: string } | null;
  aft: { x: number; by: string } | null;
  /** Bands that leave nothing between them. */ empty: boolean;
}

const RAD = Math.PI / 180;

/**
 * Where the centre of gravity may lie so that all bands hold: static margin and pitch slope by the neutral point, the trimmed angle by the moment there, which
 * moves with the centre by the lift across the chord.
 * @param lift two or more points, with moments about `lift.momentReference`. @param words a limit in words.
 */
export function centreRange(
  lift: LiftResult,
  bands: CentreBands,
  words: (band: keyof CentreBands, value: number) => string = (band, value) => `${band} ${value}`,
): CentreRange {
  const { chord } = lift.reference;
  const np = lift.neutralPoint;
  const limits: { x: number; side: 'forward' | 'aft'; by: string }[] = [];
  const add = (x: number, side: 'forward' | 'aft', band: keyof CentreBands, value: number) =>
    Number.isFinite(x) && limits.push({ x, side, by: words(band, value) });
  const { staticMargin: m, trimAngleDeg: t, pitchSlopePerDeg: p } = bands;
  if (m.max !== null) add(np - m.max * chord, 'forward', 'staticMargin', m.max);
  if (m.min !== null) add(np - m.min * chord, 'aft', 'staticMargin', m.min);
  // dCm/dα = −CLα (np − x)/c: the most negative slope is the foremost place.
  const slope = lift.momentSlope;
  const liftSlope = (-slope * chord) / (np - lift.momentReference.x);
  if (Number.isFinite(liftSlope) && liftSlope > 0) {
    if (p.min !== null) add(np + (p.min / RAD) * (chord / liftSlope), 'forward', 'pitchSlopePerDeg', p.min);
    if (p.max !== null) add(np + (p.max / RAD) * (chord / liftSlope), 'aft', 'pitchSlopePerDeg', p.max);
  }
  const alphas = lift.points.map((q) => q.alpha);
  const at = (key: 'Cm' | 'CL' | 'CDi', alpha: number) =>
    interpolate(
      alphas,
      lift.points.map((q) => q[key]),
      alpha,
    );
  // At the limit's angle the moment must vanish about the new centre: Cm + CN Δx / c = 0. A centre farther aft trims at a larger angle.
  const placed = (deg: number) => {
    const alpha = deg * RAD;
    if (alpha < alphas[0] || alpha > alphas[alphas.length - 1]) return NaN;
    const normal = at('CL', alpha) * Math.cos(alpha) + at('CDi', alpha) * Math.sin(alpha);
    return normal > 0.02 ? lift.momentReference.x - (at('Cm', alpha) * chord) / normal : NaN;
  };
  if (t.min !== null) add(placed(t.min), 'forward', 'trimAngleDeg', t.min);
  if (t.max !== null) add(placed(t.max), 'aft', 'trimAngleDeg', t.max);
  const pick = (side: 'forward' | 'aft') =>
    limits
      .filter((l) => l.side === side)
      .reduce<(typeof limits)[number] | null>(
        (best, l) => (best === null || (side === 'forward' ? l.x > best.x : l.x < best.x) ? l : best),
        null,
      );
  const [forward, aft] = [pick('forward'), pick('aft')];
  return {
    forward: forward && { x: forward.x, by: forward.by },
    aft: aft && { x: aft.x, by: aft.by },
    empty: forward !== null && aft !== null && forward.x > aft.x,
  };
}
