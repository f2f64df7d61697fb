import type { AirframeLoads, LiftResult } from '@veldtwind/core/lift';
import type { ChartPoint, ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';

const DEG = 180 / Math.PI;

/** Quantities of one angle of attack that can stand on any axis. */
export const POINT_QUANTITIES: { id: string; name: string; unit?: string; of: (p: AirframeLoads) => number }[] = [
  { id: 'alpha', name: 'α', unit: '°', of: (p) => p.alpha * DEG },
  { id: 'CL', name: 'CL', of: (p) => p.CL },
  { id: 'CDi', name: 'CD induced', of: (p) => p.CDi },
  { id: 'Cm', name: 'Cm', of: (p) => p.Cm },
  { id: 'ratio', name: 'CL / CD induced', of: (p) => (Math.abs(p.CL) < 0.02 ? NaN : p.CL / p.CDi) },
  { id: 'efficiency', name: 'span efficiency', of: (p) => (Math.abs(p.CL) < 0.05 ? NaN : p.efficiency) },
  { id: 'greatest', name: 'greatest local cl', of: (p) => Math.max(...p.strips.map((s) => s.cl)) },
];
export const pointQuantity = (id: string) => POINT_QUANTITIES.find((q) => q.id === id) ?? POINT_QUANTITIES[0];

export interface Shown {
  candidate: CandidatePart;
  lift: LiftResult;
}

/** One curve a candidate, of any quantity over any other; points are linked by their angle. */
export function pointSeries(shown: readonly Shown[], x: string, y: string): ChartSeries[] {
  const [qx, qy] = [pointQuantity(x), pointQuantity(y)];
  return shown.map(({ candidate, lift }) => ({
    id: candidate.id,
    label: shown.length > 1 ? candidate.letter : `${candidate.letter} ${candidate.name}`,
    style: seriesStyle(candidate.style),
    points: lift.points
      .map((p): ChartPoint => ({ x: qx.of(p), y: qy.of(p), tag: p.alpha * DEG }))
      .filter((p) => Number.isFinite(p.x) && Number.isFinite(p.y)),
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
