import { z } from 'zod';
import { partId, within, words, type FieldLimit } from '../limits';

/** Limits of what moves a control. */
export const ACTUATION_LIMITS = {
  overhang: {
    label: 'Overhang balance',
    dimension: 'ratio',
    min: 0,
    max: 0.5,
    step: 0.01,
    hint: 'part of the control ahead of its hinge line, a share of the chord behind it',
    optional: true,
  },
  torque: { label: 'Torque', dimension: 'moment', min: 1e-3, max: 1e5, step: 0.05, hint: 'that the servo holds' },
  travelDeg: { label: 'Travel', dimension: 'angle', min: 5, max: 120, step: 5, hint: 'of the servo, either way' },
  arm: {
    label: 'Arm',
    dimension: 'chord',
    min: 1e-3,
    max: 1,
    step: 0.001,
    hint: 'of the servo: from its axis to the rod',
    optional: true,
  },
  horn: {
    label: 'Horn',
    dimension: 'chord',
    min: 1e-3,
    max: 1,
    step: 0.001,
    hint: 'of the control: from its hinge to the rod',
    optional: true,
  },
} as const satisfies Record<string, FieldLimit>;
const L = ACTUATION_LIMITS;

/** A servo with its linkage; SI, degrees. */
export const servoSchema = z.object({
  name: words(60).default(''),
  torque: within(L.torque),
  travelDeg: within(L.travelDeg),
  arm: within(L.arm).optional(),
  horn: within(L.horn).optional(),
  /** Whether one servo moves the panels of both sides. */
  both: z.boolean().optional(),
});
export type Servo = z.infer<typeof servoSchema>;

/** What moves controls, by the id of the control; one that is not named is moved by nobody knows what. */
export const actuationSchema = z.record(
  partId,
  z.object({ overhang: within(L.overhang).optional(), servo: servoSchema.optional() }),
);
export type Actuation = z.infer<typeof actuationSchema>;
