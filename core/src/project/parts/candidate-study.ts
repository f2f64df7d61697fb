import { z } from 'zod';
import { finiteNumber } from '../../limits';

/** Most variables that a candidate is studied over. */
export const MOST_STUDY_VARIABLES = 24;
const path = z.string().min(1).max(200);
const quantity = z.string().min(1).max(160);
const bounds = { from: finiteNumber, to: finiteNumber };

/** How a candidate is studied: what is varied within which bounds, how uncertain it is, what a search aims at, what a map shows. What is not said is as usual. */
export const candidateStudy = z.object({
  variables: z
    .array(z.object({ path, ...bounds }))
    .max(MOST_STUDY_VARIABLES)
    .optional(),
  /** Quantities of performance are asked for, too. */ performance: z.boolean().optional(),
  /** Standard deviations, by the path of the variable. */ deviations: z.record(path, finiteNumber.min(0)).optional(),
  samples: z.number().int().min(1).max(100_000).optional(),
  aims: z
    .array(z.object({ id: quantity, sense: z.enum(['least', 'greatest']) }))
    .max(4)
    .optional(),
  budget: z.number().int().min(1).max(100_000).optional(),
  map: z
    .object({
      x: path.optional(),
      /** Empty for curves over one variable. */ y: z.string().max(200).optional(),
      quantity: z.string().max(200).optional(),
      ranges: z.record(path, z.object(bounds)).optional(),
    })
    .optional(),
});
export type CandidateStudy = z.infer<typeof candidateStudy>;
