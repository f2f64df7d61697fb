import { z } from 'zod';
import { words } from '../limits';
import { partKey } from './parts';

/** Parts that one edit may touch: a thousand sections with their texts, and room. */
export const MOST_CHANGES = 12_000;
export const LONGEST_LABEL = 120;

/** One part set to a value, or removed. */
export const partChange = z.object({ part: partKey, value: z.unknown().nullable() });

/** An edit as a client sends it: what it was made on, what to call it, and the parts that it changes. */
export const editRequest = z.object({
  baseVersion: z.number().int().min(0),
  label: words(LONGEST_LABEL).min(1),
  changes: z.array(partChange).min(1).max(MOST_CHANGES),
});
