import { z } from 'zod';
import { within, type FieldLimit } from '../limits';

/** What takes the pitching moment away: the control that pitches, the incidence of the tailplane, or nothing. */
export const TRIMMED_BY = ['control', 'incidence', 'none'] as const;
export type TrimmedBy = (typeof TRIMMED_BY)[number];

/** How an aircraft leaves the ground. */
export const LAUNCHES = ['wheels', 'rail', 'throw'] as const;

/** Limits of the numbers that performance is told with. */
export const PERFORMANCE_LIMITS = {
  greatestLoad: {
    label: 'Positive load limit',
    dimension: 'plain',
    min: 1,
    max: 50,
    step: 0.1,
    hint: 'Of the structure: 3.8 of a normal category aircraft',
  },
  leastLoad: {
    label: 'Negative load limit',
    dimension: 'plain',
    min: -50,
    max: 0,
    step: 0.1,
    hint: 'Of the structure, upside down: −1.5 of a normal category aircraft',
  },
  diveRatio: {
    label: 'Dive / cruise speed',
    dimension: 'plain',
    min: 1,
    max: 5,
    step: 0.05,
    hint: 'Design dive speed over the speed of the brief: 1.4',
  },
  safetyFactor: {
    label: 'Factor of safety',
    dimension: 'plain',
    min: 1,
    max: 5,
    step: 0.1,
    hint: 'Ultimate over limit load: 1.5',
  },
  rolling: {
    label: 'Rolling friction',
    dimension: 'plain',
    min: 0,
    max: 1,
    step: 0.01,
    hint: '0.03 on a runway, 0.08 on grass',
  },
  braking: {
    label: 'Braking friction',
    dimension: 'plain',
    min: 0,
    max: 1.5,
    step: 0.05,
    hint: 'Of braked wheels, or a skid',
  },
  obstacle: {
    label: 'Obstacle height',
    dimension: 'length',
    min: 0,
    max: 1000,
    step: 1,
    hint: 'To be cleared behind a take-off and before a landing: 15 m',
  },
  groundAngleDeg: {
    label: 'Ground attitude',
    dimension: 'angle',
    min: -20,
    max: 25,
    step: 0.5,
    hint: 'Angle of attack while it rolls',
  },
  groundHeight: {
    label: 'Ground effect height',
    dimension: 'length',
    min: 0,
    max: 1000,
    step: 0.05,
    hint: 'Of the centre of gravity over the ground while it rolls; 0: no ground effect',
  },
  railLength: { label: 'Rail length', dimension: 'length', min: 0, max: 1000, step: 0.1, above: { nearest: 0.01 } },
  railForce: {
    label: 'Rail force, N',
    dimension: 'plain',
    min: 0,
    max: 1e7,
    step: 1,
    hint: 'Along the rail, the same over its length',
  },
  throwSpeed: {
    label: 'Throw speed',
    dimension: 'speed',
    min: 0,
    max: 100,
    step: 0.5,
    hint: 'Of the hand, or the catapult',
  },
} as const satisfies Record<string, FieldLimit>;

const limits = PERFORMANCE_LIMITS;
/** How performance is told: what trims, loads, and the ground. SI; degrees where the name says so. */
export const performanceSchema = z.object({
  trimmedBy: z.enum(TRIMMED_BY).default('control'),
  greatestLoad: within(limits.greatestLoad).default(3.8),
  leastLoad: within(limits.leastLoad).default(-1.5),
  diveRatio: within(limits.diveRatio).default(1.4),
  safetyFactor: within(limits.safetyFactor).default(1.5),
  launch: z.enum(LAUNCHES).default('wheels'),
  rolling: within(limits.rolling).default(0.05),
  braking: within(limits.braking).default(0.3),
  obstacle: within(limits.obstacle).default(15),
  groundAngleDeg: within(limits.groundAngleDeg).default(3),
  groundHeight: within(limits.groundHeight).default(0),
  railLength: within(limits.railLength).default(3),
  railForce: within(limits.railForce).default(500),
  throwSpeed: within(limits.throwSpeed).default(10),
});
export type PerformanceSettings = z.infer<typeof performanceSchema>;
