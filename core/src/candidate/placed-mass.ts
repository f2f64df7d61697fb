import type { Body, LiftingSurface, SectionLookup } from '../airframe';
import { placedItems, type MassItem } from '../balance';

/** A candidate whose mass items all have a place: those that are spread over its parts too. @throws InvalidInput from {@link placedItems}. */
export function withPlacedMass<C extends { surfaces: LiftingSurface[]; bodies?: Body[]; massItems: MassItem[] }>(
  candidate: C,
  lookup: SectionLookup,
): C {
  const massItems = placedItems(candidate.massItems, candidate.surfaces, candidate.bodies ?? [], lookup);
  return massItems === candidate.massItems ? candidate : { ...candidate, massItems: [...massItems] };
}
