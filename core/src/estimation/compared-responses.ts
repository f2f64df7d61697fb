import { withDerivatives, type MotionCase } from '../motion';
import { frequencyResponses, modelResponse, sweptControls, type MeasuredResponse } from './frequency';
import { activeControls, type Estimation } from './output-error';
import type { ResponseMotion, ResponseRecord } from './record';

/** A response over frequency: as it was measured, and of the linear motion at the same frequencies. */
export interface ComparedResponse extends MeasuredResponse {
  predicted: { gain: number; phase: number }[];
  estimated: { gain: number; phase: number }[];
}

/**
 * Responses of the controls that a record sweeps, beside those of the linear motion.
 * @param start the case with the predicted derivatives. @param found what was estimated from it. @param alpha of the steady flight, rad.
 */
export function comparedResponses(
  record: ResponseRecord,
  motion: ResponseMotion,
  alpha: number,
  start: MotionCase,
  found: Estimation,
): ComparedResponse[] {
  const values = Object.fromEntries(found.derivatives.map((d) => [d.name, d.value]));
  const cases = { predicted: start, estimated: { ...start, derivatives: withDerivatives(start.derivatives, values) } };
  const active = activeControls(start, record, motion);
  return sweptControls(record)
    .filter((name) => active.includes(name))
    .flatMap((name) => frequencyResponses(record, motion, name))
    .map((r) => comparedWith(r, cases, motion, alpha));
}

/** A measured response beside those of the linear motion; phases run on over frequency, the measured beside the predicted. */
function comparedWith(
  measured: MeasuredResponse,
  cases: Record<'predicted' | 'estimated', MotionCase>,
  motion: ResponseMotion,
  alpha: number,
): ComparedResponse {
  const beside = (phase: number, other: number) => phase - 2 * Math.PI * Math.round((phase - other) / (2 * Math.PI));
  const of = (c: MotionCase) => {
    const at = modelResponse(c, motion, alpha, measured.control, measured.output);
    let last = 0;
    return measured.points.map(({ omega }) => {
      const { gain, phase } = at(omega);
      last = beside(phase, last);
      return { gain, phase: last };
    });
  };
  const [predicted, estimated] = [of(cases.predicted), of(cases.estimated)];
  return {
    ...measured,
    points: measured.points.map((p, i) => ({ ...p, phase: beside(p.phase, predicted[i].phase) })),
    predicted,
    estimated: estimated.map((p, i) => ({ ...p, phase: beside(p.phase, predicted[i].phase) })),
  };
}
