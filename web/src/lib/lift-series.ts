import type { Reference } from '@veldtwind/core/airframe';
import type { OutputOf } from '@veldtwind/core/analysis';
import type { AirframeLoads, LiftResult } from '@veldtwind/core/lift';
import { DEG } from '@veldtwind/core/numerics';
import {
  inUnit,
  LATERAL_QUANTITIES,
  LIFT_QUANTITIES,
  quantityIn,
  type LiftPoint,
  type Quantity,
} from '@veldtwind/core/quantities';
import type { UnitSet } from '@veldtwind/core/units';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import type { CandidatePart } from '@/lib/types';

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
  ALL_LIFT.some((q) => q.id === id) ? quantityIn(ALL_LIFT, id) : ALL_LIFT[0];

/** What can stand on the axes of lift's figures. */
export const ALL_LIFT: readonly Quantity<LiftPoint>[] = [...LIFT_QUANTITIES, ...LATERAL_QUANTITIES];

/** How lift was found. */
export const METHODS = {
  polars: {
    name: 'section polars',
    word: 'polars',
    says: 'Lattice with the polars of the sections: profile drag and stall',
  },
  lattice: { name: 'vortex lattice', word: 'lattice', says: 'Inviscid: no stall in this model' },
  skins: {
    name: 'surface panels',
    word: 'panels',
    says: 'Panels on the closed surfaces: thickness and bodies, inviscid',
  },
} as const;
export type Method = keyof typeof METHODS;
/** Candidates keep their colour and dash; ways of finding are told apart by weight and markers. */
export const WEIGHT: Record<Method, number | undefined> = { polars: undefined, lattice: 1, skins: 1.2 };

/** States of a candidate found in one way. */
export interface Answered {
  candidate: CandidatePart;
  method: Method;
  points: LiftPoint['point'][];
  reference: Reference;
  /** Of all points; where it is null each point has its own forces. */ dynamicPressure: number | null;
}

/** A state of closed surfaces, as the figures take it. */
export const skinState = (p: OutputOf<'thick'>['points'][number]): LiftPoint['point'] => ({
  ...p,
  CDiNear: p.CDi,
  efficiency: NaN,
  strips: p.strips.map((s) => ({ ...s, surface: 0, z: 0, inducedAngle: NaN })),
});

/**
 * The state at an angle between those that were computed: without viscosity loads are all but straight over it.
 * @param alpha rad. @returns null beyond them.
 */
export function stateBetween(points: readonly LiftPoint['point'][], alpha: number): LiftPoint['point'] | null {
  const order = [...points].sort((a, b) => a.alpha - b.alpha);
  const k = order.findIndex((p) => p.alpha >= alpha - 1e-9);
  if (k < 0 || (k === 0 && order[0].alpha > alpha + 1e-9)) return null;
  const [a, b] = [order[Math.max(0, k - 1)], order[k]];
  const t = b.alpha > a.alpha ? (alpha - a.alpha) / (b.alpha - a.alpha) : 1;
  return {
    ...b,
    alpha,
    CL: a.CL + t * (b.CL - a.CL),
    strips: b.strips.map((s, i) => {
      const from = a.strips[i];
      return {
        ...s,
        circulation: from.circulation + t * (s.circulation - from.circulation),
        cl: from.cl + t * (s.cl - from.cl),
      };
    }),
  };
}

/** A state for quantities of it. */
export function stateOf(a: Answered, point: LiftPoint['point']): LiftPoint {
  const own = point.drag !== undefined && point.CD ? point.drag / (point.CD * a.reference.area) : null;
  return { point, reference: a.reference, dynamicPressure: own ?? a.dynamicPressure };
}

/** One curve an answer, of any quantity over any other; points are linked by the quantity that runs. */
export function answerSeries(
  answers: readonly Answered[],
  x: string,
  y: string,
  runs: string,
  units: UnitSet,
): ChartSeries[] {
  const [qx, qy, qr] = [liftQuantity(x), liftQuantity(y), liftQuantity(runs)];
  const candidates = new Set(answers.map((a) => a.candidate.id)).size;
  const methods = new Set(answers.map((a) => a.method)).size;
  return answers.flatMap((a): ChartSeries[] => {
    const style = seriesStyle(a.candidate.style);
    const points = a.points.flatMap((p) => {
      const at = stateOf(a, p);
      const [u, v, t] = [qx.of(at), qy.of(at), qr.of(at)];
      if (u === null || v === null || !Number.isFinite(u) || !Number.isFinite(v)) return [];
      return [{ x: inUnit(qx, u, units), y: inUnit(qy, v, units), tag: t ?? undefined, status: p.status }];
    });
    if (points.length === 0) return [];
    const name = candidates > 1 ? a.candidate.letter : `${a.candidate.letter} ${a.candidate.name}`.trim();
    return [
      {
        id: methods > 1 ? `${a.candidate.id}-${a.method}` : a.candidate.id,
        // What is laid beside has no name of its own, and is found in one way only.
        label: methods > 1 && a.candidate.name ? `${a.candidate.letter} ${METHODS[a.method].word}` : name,
        style: methods > 1 ? { ...style, width: WEIGHT[a.method] } : style,
        markers: a.method !== 'lattice' || methods === 1,
        points,
      },
    ];
  });
}

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
