import { z } from 'zod';
import { finiteNumber, within, words, type FieldLimit } from '../../limits';
import { assumptionsSchema } from './assumptions';
import { partKind } from './kind';

/** Limits of the brief's numbers. */
export const BRIEF_LIMITS = {
  speed: { label: 'Speed', dimension: 'speed', min: 0, max: 400, above: { nearest: 1 }, step: 0.5 },
  altitude: { label: 'Altitude', dimension: 'altitude', min: -1000, max: 50000, step: 50 },
  mass: { label: 'Mass', dimension: 'mass', min: 0, max: 1e6, above: { nearest: 0.01 }, step: 0.1 },
  spanLimit: {
    label: 'Span, at most',
    dimension: 'length',
    min: 0,
    max: 1000,
    above: { nearest: 0.01 },
    step: 0.05,
    optional: true,
  },
  climbSpeed: {
    label: 'Climb speed',
    dimension: 'speed',
    min: 0,
    max: 400,
    above: { nearest: 1 },
    step: 0.5,
    optional: true,
  },
  stallSpeed: {
    label: 'Stall speed, at most',
    dimension: 'speed',
    min: 0,
    max: 400,
    above: { nearest: 1 },
    step: 0.5,
    optional: true,
  },
} as const satisfies Record<string, FieldLimit>;

/** A band to hold; null is open. */
export const band = z
  .object({ min: finiteNumber.nullable(), max: finiteNumber.nullable() })
  .refine((b) => b.min === null || b.max === null || b.min <= b.max, {
    message: 'lower limit must not be above the upper one',
    path: ['min'],
  });

/** How much a requirement weighs. */
export const WEIGHTS = ['must', 'wish'] as const;
/** Requirements that a brief holds at most. */
export const MOST_REQUIREMENTS = 40;

/** A band on any quantity of a candidate, by its id; as stored: SI, degrees, fractions, or the unit that the quantity names. */
export const requirement = z
  .object({
    quantity: z.string().min(1).max(80),
    min: finiteNumber.nullable().default(null),
    max: finiteNumber.nullable().default(null),
    weight: z.enum(WEIGHTS).default('must'),
    /** Of a quantity of level flight: at this speed, m/s; at the design speed without. */
    speed: within(BRIEF_LIMITS.speed).optional(),
  })
  .refine((b) => b.min === null || b.max === null || b.min <= b.max, {
    message: 'lower limit must not be above the upper one',
    path: ['min'],
  });
export type Requirement = z.infer<typeof requirement>;
/** The bands that every brief has, as requirements; without limits where they are open. */
export function standingRequirements({ bands, stallSpeed }: Pick<BriefPart, 'bands' | 'stallSpeed'>): Requirement[] {
  const of = (quantity: string, { min, max }: Band): Requirement => ({ quantity, min, max, weight: 'must' });
  return [
    of('trim-angle', bands.trimAngleDeg),
    of('static-margin', bands.staticMargin),
    of('pitch-slope', bands.pitchSlopePerDeg),
    of('performance.stallSpeed', { min: null, max: stallSpeed }),
  ];
}
/** What tells requirements apart: one quantity may be asked for at several speeds. */
export const requirementKey = ({ quantity, speed }: Pick<Requirement, 'quantity' | 'speed'>): string =>
  speed === undefined ? quantity : `${quantity} at ${speed}`;

/** What the aircraft must do. Speed in m/s, altitude and span in m, mass in kg, angles in degrees. */
export const briefPart = z.object({
  speed: within(BRIEF_LIMITS.speed),
  altitude: within(BRIEF_LIMITS.altitude),
  mass: within(BRIEF_LIMITS.mass),
  spanLimit: within(BRIEF_LIMITS.spanLimit).nullable(),
  climbSpeed: within(BRIEF_LIMITS.climbSpeed).nullable().default(null),
  stallSpeed: within(BRIEF_LIMITS.stallSpeed).nullable().default(null),
  bands: z.object({
    trimAngleDeg: band,
    staticMargin: band,
    pitchSlopePerDeg: band,
    /** Of every mode that swings. */ dampingRatio: band.default({ min: null, max: null }),
  }),
  /** Bands on further quantities, each once at a speed. */
  requirements: z
    .array(requirement)
    .max(MOST_REQUIREMENTS)
    .refine((list) => new Set(list.map(requirementKey)).size === list.length, 'has two bands on one quantity')
    .default([]),
  note: words(8000),
  assumptions: assumptionsSchema.prefault({}),
});

export type BriefPart = z.infer<typeof briefPart>;
export type Band = z.infer<typeof band>;

export const briefKind = partKind<BriefPart>({
  schema: briefPart,
  // Version 1 assumed nothing: those of the schema are what it was computed with. Version 3 has requirements, and how performance is told; version 4 has them at speeds.
  version: 4,
  migrations: { 2: (value) => value, 3: (value) => value, 4: (value) => value },
  place: { at: 'single', field: 'brief' },
  label: () => 'the brief',
  references: () => [],
});
