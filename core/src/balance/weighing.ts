import { z } from 'zod';
import { GRAVITY } from '../atmosphere';
import { finiteNumber, within } from '../limits';
import { InvalidInput } from '../numerics';
import { MASS_ITEM_LIMITS } from './limits';

/** A scale under the aircraft: where it stands (m, in the airframe's axes) and what it reads (kg). */
export interface ScaleReading {
  x: number;
  /** m to the right; 0 where the scales stand along the middle. */ y: number;
  reading: number;
}

/** Most scales under an aircraft. */
export const MOST_SCALES = 12;
/** A weigh-in of the built aircraft as it is kept: its scales, the centre that is wanted, where mass may be added, and a swing test. */
export const weighingSchema = z.object({
  scales: z
    .array(
      z.object({
        x: within(MASS_ITEM_LIMITS.position.x),
        y: within(MASS_ITEM_LIMITS.position.y),
        reading: within(MASS_ITEM_LIMITS.mass),
      }),
    )
    .max(MOST_SCALES)
    .default([]),
  /** x of the centre, m; that of the model without. */ wanted: finiteNumber.nullable().default(null),
  /** x of added mass, m. */ arm: finiteNumber.nullable().default(null),
  /** Of a swing test: pivot to centre, m, and whole period, s. */
  length: finiteNumber.positive().nullable().default(null),
  period: finiteNumber.positive().nullable().default(null),
});
export type Weighing = z.infer<typeof weighingSchema>;

/** Mass and centre of what stands level on scales. */
export interface Weighed {
  mass: number;
  x: number;
  y: number;
}

/**
 * Mass and centre by reaction forces: moments about the origin balance.
 * @throws InvalidInput `weighing` for fewer than two scales that read something, or all of them at one place.
 */
export function weighedOn(scales: readonly ScaleReading[]): Weighed {
  const refuse = (what: string, hint: string): never => {
    throw new InvalidInput('weighing', what, hint, 'scales');
  };
  for (const s of scales)
    if (![s.x, s.y, s.reading].every(Number.isFinite) || s.reading < 0)
      refuse('A scale reads no mass below zero, and stands at a place.', 'Give all of its numbers.');
  const mass = scales.reduce((sum, s) => sum + s.reading, 0);
  if (scales.length < 2 || !(mass > 0))
    refuse('A centre needs two scales and more.', 'Stand the aircraft on two or three scales, and read each.');
  const [first] = scales;
  if (scales.every((s) => Math.hypot(s.x - first.x, s.y - first.y) < 1e-4))
    refuse('All scales stand at one place.', 'Set them apart along the aircraft.');
  return {
    mass,
    x: scales.reduce((sum, s) => sum + s.reading * s.x, 0) / mass,
    y: scales.reduce((sum, s) => sum + s.reading * s.y, 0) / mass,
  };
}

/**
 * Mass to be added at an arm that brings the centre to a place; negative where mass has to go from there.
 * @param mass, x of the aircraft, kg and m. @param wanted x of the centre. @param arm x of the added mass.
 * @throws InvalidInput `weighing` where the arm is the wanted place itself.
 */
export function massForCentre(mass: number, x: number, wanted: number, arm: number): number {
  if (Math.abs(wanted - arm) < 1e-6)
    throw new InvalidInput(
      'weighing',
      'Mass that is added at the wanted centre does not move it.',
      'Give an arm farther away.',
      'arm',
    );
  return (mass * (x - wanted)) / (wanted - arm);
}

/**
 * Moment of inertia about the centre by a swing test: the aircraft hangs as a pendulum and swings a little.
 * @param length from the pivot to its centre, m. @param period of a whole swing, s. @returns kg m².
 * @throws InvalidInput `weighing` where a mass in one point would swing more slowly.
 * @source the compound pendulum: I = m g l T²/4π² − m l².
 */
export function swungInertia(mass: number, length: number, period: number): number {
  const own = mass * length * ((GRAVITY * period ** 2) / (4 * Math.PI ** 2) - length);
  if (!(own >= 0))
    throw new InvalidInput(
      'weighing',
      `A mass in one point swings in ${(2 * Math.PI * Math.sqrt(length / GRAVITY)).toFixed(3)} s at this length; ${period} s is less.`,
      'Measure the length from the pivot to the centre of gravity, and the time of ten whole swings.',
      'period',
    );
  return own;
}
