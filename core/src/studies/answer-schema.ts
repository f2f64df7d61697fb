import { z } from 'zod';
import { finiteNumber, within } from '../limits';
import { CONDITION_LIMITS } from '../polar';
import { BRIEF_LIMITS } from '../project';

const L = CONDITION_LIMITS;
const CL: Parameters<typeof within>[0] = { label: 'Lift coefficient', dimension: 'plain', min: -3, max: 5 };
const ALPHA: Parameters<typeof within>[0] = { label: 'Angle of attack', dimension: 'angle', min: -30, max: 40 };

/** Where an answer is asked for: a flight of its own, and, of what is not in trim, an angle or a lift; of sections the flow as well. */
export const answerPlace = z.strictObject({
  /** m/s */ speed: within(BRIEF_LIMITS.speed).optional(),
  /** m */ altitude: within(BRIEF_LIMITS.altitude).optional(),
  alphaDeg: within(ALPHA).optional(),
  CL: within(CL).optional(),
  /** Of a section's chord. */ re: within({ ...L.reynolds, dimension: 'plain' }).optional(),
  mach: within(L.mach).optional(),
  ncrit: within(L.criticalAmplification).optional(),
  /** Places of trips, chords. */ tripTop: within(L.trip).optional(),
  tripBottom: within(L.trip).optional(),
});
export type AnswerPlace = z.infer<typeof answerPlace>;

/** A quantity that a study answers with. */
export const answerSchema = z.strictObject({ id: z.string().min(1).max(160), at: answerPlace.optional() });
export type Answer = z.infer<typeof answerSchema>;

/** A band on an answer. */
export const answerBand = answerSchema
  .extend({
    least: finiteNumber.nullable().default(null),
    greatest: finiteNumber.nullable().default(null),
    weight: z.enum(['must', 'wish']).default('must'),
  })
  .refine((b) => b.least === null || b.greatest === null || b.least <= b.greatest, {
    message: 'least must not be above greatest',
    path: ['least'],
  });
export type AnswerBand = z.infer<typeof answerBand>;

/** How each number of a place is written. */
const WRITTEN: Record<keyof AnswerPlace, (v: number) => string> = {
  speed: (v) => `${v} m/s`,
  altitude: (v) => `${v} m`,
  alphaDeg: (v) => `α ${v}°`,
  CL: (v) => `CL ${v}`,
  re: (v) => `Re ${v}`,
  mach: (v) => `M ${v}`,
  ncrit: (v) => `n ${v}`,
  tripTop: (v) => `trip ${v} top`,
  tripBottom: (v) => `trip ${v} bottom`,
};

/** What tells answers apart. */
export function answerKey({ id, at = {} }: Answer): string {
  const places = (Object.keys(WRITTEN) as (keyof AnswerPlace)[]).flatMap((k) => {
    const v = at[k];
    return v === undefined ? [] : [WRITTEN[k](v)];
  });
  return places.length > 0 ? `${id} at ${places.join(', ')}` : id;
}
