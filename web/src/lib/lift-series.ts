import type { AirframeLoads, LiftResult } from '@veldtwind/core/lift';
import { inUnit, LIFT_QUANTITIES, quantityIn, type LiftPoint, type Quantity } from '@veldtwind/core/quantities';
import type { UnitSet } from '@veldtwind/core/units';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';

const DEG = 180 / Math.PI;

/** A candidate with its lift result, and the dynamic pressure of its design point. */
export interface Shown {
  candidate: CandidatePart;
  lift: LiftResult;
  dynamicPressure: number | null;
}

/** One angle of a shown candidate, for quantities of it. */
export const pointOf = (s: Shown, point: AirframeLoads): LiftPoint => ({
  point,
  reference: s.lift.reference,
  dynamicPressure: s.dynamicPressure,
});

/** The quantity of an axis; the first where an older choice names none that there is. */
export const liftQuantity = (id: string): Quantity<LiftPoint> =>
  LIFT_QUANTITIES.some((q) => q.id === id) ? quantityIn(LIFT_QUANTITIES, id) : LIFT_QUANTITIES[0];

/** One curve a candidate, of any quantity over any other, in the units chosen; points are linked by their angle. */
export function liftSeries(shown: readonly Shown[], x: string, y: string, units: UnitSet): ChartSeries[] {
  const [qx, qy] = [liftQuantity(x), liftQuantity(y)];
  return shown.map((s) => ({
    id: s.candidate.id,
    label: shown.length > 1 ? s.candidate.letter : `${s.candidate.letter} ${s.candidate.name}`,
    style: seriesStyle(s.candidate.style),
    points: s.lift.points.flatMap((p) => {
      const [a, b] = [qx.of(pointOf(s, p)), qy.of(pointOf(s, p))];
      return a === null || b === null ? [] : [{ x: inUnit(qx, a, units), y: inUnit(qy, b, units), tag: p.alpha * DEG }];
    }),
  }));
}

/** The strips of one surface at the angle nearest to the one wanted. */
export function stripsAt(
  lift: LiftResult,
  alphaDeg: number,
  surfaceId: string,
): { point: AirframeLoads; strips: AirframeLoads['strips'] } {
  const point = lift.points.reduce(
    (best, p) => (Math.abs(p.alpha * DEG - alphaDeg) < Math.abs(best.alpha * DEG - alphaDeg) ? p : best),
    lift.points[0],
  );
  return { point, strips: point.strips.filter((s) => s.id === surfaceId && s.station >= 0) };
}
