import type { Body, LiftingSurface, SectionLookup } from '../airframe';
import { z } from 'zod';
import { estimatedItems, massProperties, memberItems, placedItems, type MassItem, type Materials } from '../balance';
import { partId } from '../limits';
import { candidatePart } from '../project';
import { analysis } from '../results';
import { sectionSource, type SectionSource } from '../shaping';
import { sectionLookup } from './section-lookup';

/**
 * A candidate whose mass items all have a place: those that are spread over its parts too, and the members of its structure, which are items by themselves.
 * Placed once more, it stays as it is. @throws InvalidInput from {@link placedItems}.
 */
export function withPlacedMass<C extends { surfaces: LiftingSurface[]; bodies?: Body[]; massItems: MassItem[] }>(
  candidate: C,
  lookup: SectionLookup,
): C {
  const { surfaces, bodies = [] } = candidate;
  const items = placedItems(candidate.massItems, surfaces, bodies, lookup);
  const there = new Set(items.map((i) => i.id));
  const members = memberItems(surfaces, bodies, lookup).filter((i) => !there.has(i.id));
  return items === candidate.massItems && members.length === 0
    ? candidate
    : { ...candidate, massItems: [...items, ...members] };
}

/** What an estimate of the structure depends on. */
export interface EstimateInput {
  surfaces: LiftingSurface[];
  bodies: Body[];
  sections: Record<string, SectionSource>;
  materials: Materials;
  prefix: string;
}

/** A first guess of the structure's mass, as items that are spread over its parts, and what they come to. */
export const massEstimate = analysis({
  version: 1,
  input: z.object({
    surfaces: candidatePart.shape.surfaces,
    bodies: candidatePart.shape.bodies,
    sections: z.record(z.string(), sectionSource),
    materials: z.object({
      skin: z.number().min(0).max(1e5),
      solid: z.number().min(0).max(1e5),
      rib: z.number().min(0).max(1e5),
      ribSpacing: z.number().min(0).max(1e3),
    }),
    prefix: partId,
  }) as unknown as z.ZodType<EstimateInput>,
  run: ({ surfaces, bodies, sections, materials, prefix }: EstimateInput) => {
    const lookup = sectionLookup(sections);
    const items = estimatedItems(surfaces, bodies, lookup, materials, prefix);
    return { items, properties: massProperties(placedItems(items, surfaces, bodies, lookup)) };
  },
});
