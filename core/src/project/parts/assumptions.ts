import { z } from 'zod';
import { within, type FieldLimit } from '../../limits';
import { AIRCRAFT_CLASSES, FLIGHT_PHASES } from '../../motion';
import { performanceSchema } from '../../performance';

/** The method that a project means: the best that there is, or one of them by name. */
export const CHOSEN_METHODS = ['best', 'lattice', 'polars', 'panels'] as const;
export type ChosenMethod = (typeof CHOSEN_METHODS)[number];
/** The method that a choice comes to when all that it needs is there. */
export const methodMeant = (chosen: ChosenMethod) => (chosen === 'best' ? 'polars' : chosen);
/** Whether what was made by the lattice stands only until the polars that are meant are there. */
export const awaitsPolars = (made: string, chosen: ChosenMethod): boolean =>
  made === 'lattice' && methodMeant(chosen) === 'polars';

/** Limits of the numbers that are assumed. */
export const ASSUMPTION_LIMITS = {
  criticalAmplification: {
    label: 'Critical n',
    dimension: 'plain',
    min: 0.1,
    max: 30,
    step: 0.5,
    hint: 'Growth of disturbances at which the boundary layer turns turbulent: 9 of a quiet stream, 11 to 14 of calm air, 4 of a rough stream',
  },
} as const satisfies Record<string, FieldLimit>;

/** What decides numbers of a project without being a size of the aircraft: equal for whoever opens it. */
export const assumptionsSchema = z.object({
  method: z.enum(CHOSEN_METHODS).default('best'),
  /** Whether polars that the candidates need are computed by themselves. */ computePolars: z.boolean().default(true),
  criticalAmplification: within(ASSUMPTION_LIMITS.criticalAmplification).default(9),
  aircraftClass: z.enum(AIRCRAFT_CLASSES).default('I'),
  flightPhase: z.enum(FLIGHT_PHASES).default('B'),
  performance: performanceSchema.prefault({}),
});
export type Assumptions = z.infer<typeof assumptionsSchema>;
