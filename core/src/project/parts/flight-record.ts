import { z } from 'zod';
import { RESPONSE_OUTPUTS } from '../../estimation';
import { finiteNumber, partId, within, words, type FieldLimit } from '../../limits';
import { isDerivative } from '../../motion';
import { BRIEF_LIMITS } from './brief';
import { partKind } from './kind';

/** Rows that a record is condensed to, and the fewest that it may have. */
export const RECORD_ROWS = 3000;
const LEAST_ROWS = 20;
const list = z.array(finiteNumber).min(LEAST_ROWS).max(RECORD_ROWS);
const OUTPUTS = [...RESPONSE_OUTPUTS.longitudinal, ...RESPONSE_OUTPUTS.lateral] as const;
export const CLIMB_LIMIT: FieldLimit = {
  label: 'Climb angle',
  dimension: 'angle',
  min: -60,
  max: 60,
  step: 0.5,
  hint: 'Of the path of the steady flight; a glide is negative.',
};
const seconds = finiteNumber.min(0).max(1e6);

/** What was recorded in a flight: responses and deflections over time, rad, rad/s and m/s; and what is estimated from it. */
export const flightRecordPart = z
  .object({
    id: partId,
    name: words(120).min(1, 'needs a name'),
    /** Of the steady flight that it begins from, m/s, and its altitude, m. */
    speed: within(BRIEF_LIMITS.speed),
    altitude: within(BRIEF_LIMITS.altitude),
    /** Angle of its path above the horizon. */ climbDeg: within(CLIMB_LIMIT).default(0),
    /** The loading that was flown, by name; all items without. */ loading: words(60).optional(),
    /** Rises from 0, s. */ t: list,
    outputs: z.partialRecord(z.enum(OUTPUTS), list),
    /** Deflections by the control's name. */ controls: z.record(words(60).min(1), list),
    notes: z.array(words(400)).max(12).default([]),
    /** The motion that is looked at, the part of the record that counts, s, and the derivatives that are estimated; the usual ones without. */
    motion: z.enum(['longitudinal', 'lateral']).optional(),
    from: seconds.optional(),
    to: seconds.optional(),
    estimated: z.array(words(100).refine(isDerivative, 'is no derivative')).max(60).optional(),
  })
  .superRefine((r, context) => {
    const refuse = (path: string, message: string) => context.addIssue({ code: 'custom', path: [path], message });
    if (r.t.some((v, i) => i > 0 && v <= r.t[i - 1])) refuse('t', 'must rise');
    const lists = [...Object.values(r.outputs), ...Object.values(r.controls)];
    if (lists.some((v) => v && v.length !== r.t.length)) refuse('t', 'needs as many times as there are values');
  });
export type FlightRecordPart = z.infer<typeof flightRecordPart>;

export const flightRecordKind = partKind<FlightRecordPart>({
  schema: flightRecordPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'flightRecords' },
  label: (r) => `the flight record ${r.name}`,
  references: () => [],
});
