import type { MassItem } from '@veldtwind/core/balance';
import { sectionLookup, withPlacedMass } from '@veldtwind/core/candidate';
import { displayUnit, formatQuantity, type UnitSet } from '@veldtwind/core/units';
import type { CandidatePart, SectionPart } from '@/lib/types';

/** A candidate with the mass items of parts where their parts lie; as it stands where a part cannot be placed. */
export function withItemsInPlace(candidate: CandidatePart, sections: Record<string, SectionPart>): CandidatePart {
  try {
    return withPlacedMass(candidate, sectionLookup(sections));
  } catch {
    return candidate;
  }
}

/** A mass item where it lies, m; its mirror image is one more. */
export interface MassPoint {
  key: string;
  name: string;
  /** Name and mass. */ text: string;
  x: number;
  y: number;
  z: number;
  /** Mass over the heaviest item's. */ share: number;
}

/** Mass items as points, the heaviest first. */
export function massPoints(
  items: readonly Pick<MassItem, 'id' | 'name' | 'mass' | 'position' | 'mirrored'>[],
  units: UnitSet,
): MassPoint[] {
  const heaviest = Math.max(1e-9, ...items.map((m) => m.mass));
  return [...items]
    .sort((a, b) => b.mass - a.mass)
    .flatMap((m) =>
      (m.mirrored ? [1, -1] : [1]).map((side) => ({
        key: side > 0 ? m.id : `${m.id}-mirrored`,
        name: m.name,
        text: `${m.name}, ${formatQuantity(m.mass, 'mass', units)} ${displayUnit('mass', units).symbol}`,
        x: m.position.x,
        y: side * m.position.y,
        z: m.position.z,
        share: Math.max(0, m.mass / heaviest),
      })),
    );
}

/** Of labels in the order of their weight those that keep clear of each other. @param at where each begins, px. */
export function clearLabels<T>(
  list: readonly T[],
  at: (item: T) => { x: number; y: number; width: number },
  most: number,
  height = 14,
): T[] {
  const kept: { item: T; x: number; y: number; width: number }[] = [];
  for (const item of list) {
    if (kept.length >= most) break;
    const box = at(item);
    if (kept.every((k) => Math.abs(k.y - box.y) >= height || box.x + box.width < k.x || k.x + k.width < box.x))
      kept.push({ item, ...box });
  }
  return kept.map((k) => k.item);
}
