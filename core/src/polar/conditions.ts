import { z } from 'zod';
import { finiteNumber, within, type FieldLimit } from '../limits';
import {
  HIGHEST_REYNOLDS,
  LOWEST_REYNOLDS,
  MOST_GRAIN,
  MOST_TURBULENCE,
  type ViscousConditions,
} from '../section-flow';

/** Limits of the conditions at which a section is solved. */
export const CONDITION_LIMITS = {
  alphaDeg: { label: 'Angle of attack', dimension: 'angle', min: -45, max: 45, step: 0.25 },
  cl: { label: 'Lift coefficient', dimension: 'plain', min: -5, max: 5, step: 0.02 },
  reynolds: {
    label: 'Reynolds number',
    dimension: 'count',
    min: LOWEST_REYNOLDS,
    max: HIGHEST_REYNOLDS,
    step: 10_000,
  },
  mach: { label: 'Mach number', dimension: 'plain', min: 0, max: 0.69, step: 0.01 },
  criticalAmplification: { label: 'Critical amplification', dimension: 'plain', min: 0.1, max: 30, step: 0.5 },
  turbulence: { label: 'Turbulence', dimension: 'plain', min: 0, max: MOST_TURBULENCE, step: 0.1, optional: true },
  grain: {
    label: 'Roughness, k / c',
    dimension: 'plain',
    min: 0,
    max: MOST_GRAIN,
    step: 0.00005,
    hint: 'height of grains all over the surface: trips the laminar layer where it is thin enough, and raises the friction of the turbulent one',
    optional: true,
  },
  trip: { label: 'Trip, x / c', dimension: 'plain', min: 0, max: 1, step: 0.01, optional: true },
} as const satisfies Record<string, FieldLimit>;

/** A flap as it is typed: hinge in chords and in thicknesses from below, angle positive down. */
export const flapSetting = z.object({
  x: z.number().min(0.1).max(0.98),
  y: z.number().min(0).max(1),
  angleDeg: z.number().min(-60).max(60),
});
export type FlapSetting = z.infer<typeof flapSetting>;

const L = CONDITION_LIMITS;
/** Conditions of a viscous solution. */
export const viscousConditions = z.object({
  reynolds: within({ ...L.reynolds, dimension: 'plain' }),
  mach: within(L.mach).optional(),
  criticalAmplification: within(L.criticalAmplification).optional(),
  criticalTop: within({ ...L.criticalAmplification, label: 'Critical amplification, upper surface' }).optional(),
  criticalBottom: within({ ...L.criticalAmplification, label: 'Critical amplification, lower surface' }).optional(),
  turbulence: within(L.turbulence).optional(),
  grain: within(L.grain).optional(),
  tripTop: within(L.trip).optional(),
  tripBottom: within(L.trip).optional(),
}) satisfies z.ZodType<ViscousConditions>;

/** An angle of attack, rad, within ±45°. */
export const angle = finiteNumber.min(-0.7854).max(0.7854);
