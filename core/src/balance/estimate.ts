import type { Body, LiftingSurface, SectionLookup } from '../airframe';
import { InvalidInput } from '../numerics';
import type { MassItem } from './balance';
import { partContent } from './spread';

/** What an airframe is made of, for a first guess of its mass; what is 0 is not there. */
export interface Materials {
  /** Of a skin, kg/m² of wetted area. */ skin: number;
  /** Of what fills it, kg/m³ of its volume. */ solid: number;
  /** Ribs: kg/m² of their own area, and the distance between them, m. */
  rib: number;
  ribSpacing: number;
}

/**
 * Mass items of the parts of an airframe: skins over the wetted area, solids over the volume, and ribs as their mean weight over the planform, each spread
 * over its part. @param prefix of the ids, so that they do not meet others. @throws InvalidInput `estimate` where nothing has a density.
 */
export function estimatedItems(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
  { skin, solid, rib, ribSpacing }: Materials,
  prefix = 'estimate',
): MassItem[] {
  if (!(skin > 0 || solid > 0 || (rib > 0 && ribSpacing > 0)))
    throw new InvalidInput(
      'estimate',
      'No density is given: there is nothing to estimate from.',
      'Give a skin, a solid or ribs.',
    );
  const out: MassItem[] = [];
  const add = (part: { id: string; name: string }, what: string, shape: MassItem['shape'], mass: number) => {
    if (mass > 0)
      out.push({
        id: `${prefix}-${part.id}-${what}`.slice(0, 60),
        name: `${part.name || part.id}, ${what}`.slice(0, 80),
        mass: Number(mass.toPrecision(4)),
        position: { x: 0, y: 0, z: 0 },
        shape,
        part: part.id,
        group: 'Structure',
      });
  };
  const measured = (id: string, how: 'skin' | 'volume') => partContent(id, how, surfaces, bodies, lookup) ?? 0;
  for (const part of [...surfaces, ...bodies]) {
    if (skin > 0) add(part, 'skin', 'skin', skin * measured(part.id, 'skin'));
    const filled = solid > 0 || (rib > 0 && ribSpacing > 0) ? measured(part.id, 'volume') : 0;
    add(part, 'solid', 'volume', solid * filled);
    // So many ribs a metre of the length, each of the area of the section there: together the volume over the distance.
    if (ribSpacing > 0) add(part, 'ribs', 'volume', (rib * filled) / ribSpacing);
  }
  return out;
}
