import type { LiftResult } from '../lift';
import { interpolate, RAD } from '../numerics';

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

/** Margin and slope over places of the centre of gravity, each in its own trim of level flight. */
export interface CentreTable {
  /** Rising, m. */ x: number[];
  /** Over the mean chord. */ staticMargin: number[];
  /** dCm/dα about that centre, per rad. */ pitchSlope: number[];
}

/** Where a falling or rising line through points has a value, going on along its ends; NaN where it does not. */
function placeOf(x: readonly number[], values: readonly number[], value: number): number {
  const last = x.length - 1;
  const inside = values.findIndex(
    (v, i) => i < last && (v - value) * (values[i + 1] - value) <= 0 && v !== values[i + 1],
  );
  // Beyond the table the nearer end goes on.
  const i = inside >= 0 ? inside : Math.abs(values[0] - value) < Math.abs(values[last] - value) ? 0 : last - 1;
  const at = x[i] + ((value - values[i]) / (values[i + 1] - values[i])) * (x[i + 1] - x[i]);
  return Number.isFinite(at) ? at : NaN;
}

/** Lift and moment over the angles, about a point; drag where it is known. Angles in rad. */
export interface MovedLift {
  points: { alpha: number; CL: number; Cm: number; CD?: number; CDi?: number }[];
  reference: Pick<LiftResult['reference'], 'chord'>;
  momentReference: LiftResult['momentReference'];
}

/**
 * Where the centre of gravity may lie so that all bands hold: static margin and pitch slope by the table of what they are in trim there, the trimmed angle by the
 * moment there, which moves with the centre by the lift across the chord.
 * @param lift two or more points, with moments about `lift.momentReference`. @param table of the whole aircraft. @param words a limit in words.
 */
export function centreRange(
  lift: MovedLift,
  table: CentreTable,
  bands: CentreBands,
  words: (band: keyof CentreBands, value: number) => string = (band, value) => `${band} ${value}`,
): CentreRange {
  const { chord } = lift.reference;
  const limits: { x: number; side: 'forward' | 'aft'; by: string }[] = [];
  const add = (x: number, side: 'forward' | 'aft', band: keyof CentreBands, value: number) =>
    Number.isFinite(x) && limits.push({ x, side, by: words(band, value) });
  const { staticMargin: m, trimAngleDeg: t, pitchSlopePerDeg: p } = bands;
  const withMargin = (margin: number) => placeOf(table.x, table.staticMargin, margin);
  const withSlope = (perDeg: number) => placeOf(table.x, table.pitchSlope, perDeg / RAD);
  if (m.max !== null) add(withMargin(m.max), 'forward', 'staticMargin', m.max);
  if (m.min !== null) add(withMargin(m.min), 'aft', 'staticMargin', m.min);
  // The most negative slope is the foremost place.
  if (p.min !== null) add(withSlope(p.min), 'forward', 'pitchSlopePerDeg', p.min);
  if (p.max !== null) add(withSlope(p.max), 'aft', 'pitchSlopePerDeg', p.max);
  const alphas = lift.points.map((q) => q.alpha);
  const at = (of: (q: MovedLift['points'][number]) => number, alpha: number) =>
    interpolate(alphas, lift.points.map(of), alpha);
  // At the limit's angle the moment must vanish about the new centre: Cm + CN Δx / c = 0. A centre farther aft trims at a larger angle.
  const placed = (deg: number) => {
    const alpha = deg * RAD;
    if (alpha < alphas[0] || alpha > alphas[alphas.length - 1]) return NaN;
    const normal = at((q) => q.CL, alpha) * Math.cos(alpha) + at((q) => q.CD ?? q.CDi ?? 0, alpha) * Math.sin(alpha);
    return normal > 0.02 ? lift.momentReference.x - (at((q) => q.Cm, alpha) * chord) / normal : NaN;
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
