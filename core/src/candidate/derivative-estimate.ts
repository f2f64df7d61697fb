import { z } from 'zod';
import {
  comparedResponses,
  cut,
  estimableNames,
  estimateDerivatives,
  motionsOf,
  usualNames,
  type ComparedResponse,
  type Estimation,
  type ResponseMotion,
  type ResponseRecord,
} from '../estimation';
import { keptMeanLine } from '../lift';
import { derivativeOf, withDerivatives } from '../motion';
import { FailedComputation, InvalidInput } from '../numerics';
import { flightRecordPart } from '../project';
import { analysis } from '../results';
import { airframeMotion, motion, type AirframeMotion, type MotionInput } from './motion';
import { sectionLookup } from './section-lookup';

/** What an estimate depends on: the candidate in the flight of the record, and the record. */
export interface DerivativeEstimateInput {
  of: MotionInput;
  record: Pick<ResponseRecord, 't' | 'outputs' | 'controls'>;
  /** Angle of its path above the horizon, degrees; level without. */ climbDeg?: number;
  /** The first that the record holds without. */ motion?: ResponseMotion;
  /** The usual ones without. */ names?: string[];
  /** The part of the record that counts, s. */ from?: number;
  to?: number;
}

/** Derivatives of a candidate beside those that a record of its flight tells. */
export interface DerivativeEstimate extends Estimation {
  /** Motions that the record holds. */ motions: ResponseMotion[];
  /** What the predicted derivatives were made by. */ method: AirframeMotion['method'];
  /** Names that may be estimated from it. */ names: string[];
  /** What the predicted derivatives make of the record, with the initial state and the offsets that suit them; empty where they run away from it. */
  predicted: { name: string; values: number[]; explained: number }[];
  /** Of controls that the record sweeps: how outputs answer over frequency, beside the linear motion with the predicted and the estimated derivatives. */
  frequency: ComparedResponse[];
}

/**
 * Derivatives from a record of a flight, beginning with those that are computed; what is set by hand stands where it is not estimated.
 * @throws InvalidInput from {@link estimateDerivatives} and {@link airframeMotion}, `estimation-controls` where the candidate has none of the record's controls.
 */
export function derivativeEstimate(input: DerivativeEstimateInput): DerivativeEstimate {
  const { candidate, sections, ...flight } = input.of;
  const lookup = sectionLookup(sections);
  const flown = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    ...flight,
    ...(input.climbDeg !== undefined && { climbDeg: input.climbDeg }),
  });
  const controls = Object.fromEntries(
    Object.entries(input.record.controls).filter(([name]) => Object.hasOwn(flown.derivatives.controls, name)),
  );
  if (Object.keys(controls).length === 0)
    throw new InvalidInput(
      'estimation-controls',
      `The record moves ${Object.keys(input.record.controls).join(', ') || 'no control'}, which the candidate does not have.`,
      `It has ${Object.keys(flown.derivatives.controls).join(', ') || 'no controls'}.`,
      'record',
    );
  const whole: ResponseRecord = { ...input.record, controls, notes: [] };
  const record =
    input.from === undefined && input.to === undefined ? whole : cut(whole, input.from ?? 0, input.to ?? Infinity);
  const motions = motionsOf(flown.case, record);
  const moved = input.motion ?? motions[0];
  if (moved === undefined)
    throw new InvalidInput(
      'estimation-still',
      'The record holds no response to a control that moves and acts on it.',
      'Record a doublet: longitudinal motion needs α, q, θ or the speed, lateral motion β, p, r or φ.',
      'record',
    );
  const { alpha } = flown.trim;
  const names = estimableNames(flown.case, record, moved);
  const asked = names.filter((n) => input.names?.includes(n));
  const estimated = asked.length > 0 ? asked : usualNames(flown.case, record, moved);
  // What is estimated is compared with what was computed, not with what was set by hand.
  const computed = Object.fromEntries(
    estimated.map((n) => [n, derivativeOf(flown.computed ?? flown.derivatives, n) ?? 0]),
  );
  const start = { ...flown.case, derivatives: withDerivatives(flown.case.derivatives, computed) };
  const found = estimateDerivatives(start, record, moved, estimated, alpha);
  return {
    ...found,
    motions,
    method: flown.method,
    names,
    predicted: predictedOf(() => estimateDerivatives(start, record, moved, [], alpha)),
    frequency: comparedResponses(record, moved, alpha, start, found),
  };
}

function predictedOf(made: () => Estimation): DerivativeEstimate['predicted'] {
  try {
    return made().outputs.map(({ name, estimated, explained }) => ({ name, values: estimated, explained }));
  } catch (error) {
    if (error instanceof FailedComputation) return [];
    throw error;
  }
}

const { t, outputs, controls, motion: motionName } = flightRecordPart.shape;

/** Derivatives from a record of a flight. */
export const derivativeEstimates = analysis({
  version: 1,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    record: z.object({ t, outputs, controls }),
    climbDeg: flightRecordPart.shape.climbDeg.optional(),
    motion: motionName,
    names: flightRecordPart.shape.estimated,
    from: flightRecordPart.shape.from,
    to: flightRecordPart.shape.to,
  }) as unknown as z.ZodType<DerivativeEstimateInput>,
  run: derivativeEstimate,
});
