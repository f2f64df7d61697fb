import { z } from 'zod';
import { finiteNumber, partId, words, type FieldLimit } from '../limits';
import { filterIsThere, lawFields, positive } from './law';

/** What a loop can measure; rad, rad/s, m, m/s. `rTurn` is the yaw rate beside that of a coordinated turn at the bank there is, (g/V) sin φ cos θ. */
export const MEASURED = [
  'alpha',
  'beta',
  'p',
  'q',
  'r',
  'rTurn',
  'phi',
  'theta',
  'psi',
  'climb',
  'course',
  'height',
  'V',
] as const;
export type Measured = (typeof MEASURED)[number];

/** Those of motion in the plane of symmetry; the others are lateral. */
export const LONGITUDINAL: readonly Measured[] = ['alpha', 'q', 'theta', 'climb', 'height', 'V'];
export const isLongitudinal = (m: Measured): boolean => LONGITUDINAL.includes(m);

/** Limits of the fields of loops. */
export const CONTROL_LIMITS = {
  step: { label: 'Sampling period, s', dimension: 'plain', min: 0.001, max: 1, step: 0.005 },
  delay: { label: 'Delay, s', dimension: 'plain', min: 0, max: 5, step: 0.005 },
  sensorLag: { label: 'Lag of the sensors, s', dimension: 'plain', min: 0, max: 5, step: 0.005 },
  gainMargin: { label: 'Least gain margin, dB', dimension: 'plain', min: 0, max: 40, step: 1 },
  phaseMargin: { label: 'Least phase margin', dimension: 'angle', min: 0, max: 90, step: 5 },
} as const satisfies Record<string, FieldLimit>;

/** A law of a chain, from the inner to the outer. */
export const lawSchema = z
  .strictObject({
    from: z.enum(MEASURED),
    ...lawFields,
    /** Of what it puts out, as the reference of the next within it or as a deflection; SI, rad. */
    limits: z.tuple([finiteNumber, finiteNumber]).optional(),
    /** What its gains are multiplied with, by speed (m/s): a line through points, as at its ends beyond them. */
    schedule: z
      .array(z.tuple([finiteNumber.min(0).max(1000), finiteNumber.min(-1e6).max(1e6)]))
      .min(1)
      .max(12)
      .refine((l) => l.every(([v], i) => i === 0 || v > l[i - 1][0]), 'must go on in speed')
      .optional(),
  })
  .refine(filterIsThere, { message: 'is needed where kd is set', path: ['filter'] })
  .refine((l) => !l.limits || l.limits[0] < l.limits[1], {
    message: 'must go from the least to the greatest',
    path: ['limits'],
  });
export type Law = z.infer<typeof lawSchema>;

/** What the gains of a law are multiplied with at a speed. @param speed m/s. */
export function scheduled({ schedule }: Pick<Law, 'schedule'>, speed: number): number {
  if (!schedule) return 1;
  const next = schedule.findIndex(([v]) => v >= speed);
  if (next === 0) return schedule[0][1];
  if (next < 0) return schedule[schedule.length - 1][1];
  const [[a, f], [b, g]] = [schedule[next - 1], schedule[next]];
  return f + ((g - f) * (speed - a)) / (b - a);
}

/** What moves a control, as it is saved. */
export const moverSchema = z.union([
  z.strictObject({ timeConstant: positive('s'), rateDeg: positive('°/s').optional() }),
  z.strictObject({
    naturalFrequency: positive('rad/s'),
    dampingRatio: positive(''),
    rateDeg: positive('°/s').optional(),
  }),
]);

/** What a chain moves in the place of a control: the thrust along the flight path, N. */
export const THRUST = 'thrust';

/** Loops one within the other that move one control, or the thrust. */
export const chainSchema = z.object({
  id: partId,
  name: words(60).min(1, 'needs a name'),
  /** Id of the control. */ to: partId,
  mover: moverSchema.optional(),
  laws: z.array(lawSchema).min(1).max(4),
  /** Fingerprint of the model that its gains were found for. */ tunedFor: z.string().max(80).optional(),
});
export type Chain = z.infer<typeof chainSchema>;

/** The loops of a candidate. */
export const autopilotSchema = z.object({
  /** Of its computing, s. */ step: finiteNumber
    .min(CONTROL_LIMITS.step.min)
    .max(CONTROL_LIMITS.step.max)
    .default(0.02),
  /** From measuring to moving, beside it, s. */
  delay: finiteNumber.min(CONTROL_LIMITS.delay.min).max(CONTROL_LIMITS.delay.max).default(0),
  /** Of the first order, of all that is measured, s. */ sensorLag: finiteNumber
    .min(CONTROL_LIMITS.sensorLag.min)
    .max(CONTROL_LIMITS.sensorLag.max)
    .default(0),
  /** Margins that every loop should keep. */
  aims: z
    .object({
      gainMarginDb: finiteNumber.min(0).max(40).default(6),
      phaseMarginDeg: finiteNumber.min(0).max(90).default(45),
    })
    .prefault({}),
  chains: z
    .array(chainSchema)
    .max(12)
    .default([])
    .refine((l) => new Set(l.map((c) => c.id)).size === l.length, 'has two chains with one id')
    .refine((l) => new Set(l.map((c) => c.to)).size === l.length, 'has two chains that move one control'),
});
export type AutopilotSettings = z.infer<typeof autopilotSchema>;
