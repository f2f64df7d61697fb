import { z } from 'zod';
import { parseJson } from '../limits';
import { mixFraction, MOST_STEPS, plainSteps, sectionSource, type ShapingStep } from '../shaping';
import { invalidFrom } from './parts';
import type { Resolver } from './resolve';

const mixStep = z.object({
  kind: z.literal('mix'),
  id: z.string().max(40).optional(),
  off: z.boolean().optional(),
  fraction: mixFraction,
  /** A designation, a file, or a source in full. */
  with: z.union([z.string().min(1).max(400), sectionSource]),
});

/** A recipe by itself: the file that the command line applies and the interface copies. */
export const recipeFile = z.object({
  format: z.literal('veldtwind-recipe'),
  version: z.literal(1),
  steps: z
    .array(z.discriminatedUnion('kind', [...plainSteps, mixStep]))
    .min(1)
    .max(MOST_STEPS),
});

/**
 * Reads a recipe file, or the bare list of its steps.
 * @param text JSON. @param lookup gives the section that a mix step names.
 * @throws InvalidInput `json`, or `invalid` with the path of the field and the nearest value that works.
 */
export function readRecipeFile(text: string, lookup: Resolver): ShapingStep[] {
  const raw = parseJson(text, 'The recipe', 'See docs/recipe-file.md for the format.');
  const given = Array.isArray(raw) ? { format: 'veldtwind-recipe', version: 1, steps: raw } : raw;
  const parsed = recipeFile.safeParse(given);
  if (!parsed.success) throw invalidFrom(parsed.error, 'Recipe');
  return parsed.data.steps.map((step): ShapingStep => {
    if (step.kind !== 'mix') return step;
    const { with: other, ...rest } = step;
    return { ...rest, other: typeof other === 'string' ? lookup(other) : other };
  });
}
