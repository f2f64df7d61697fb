import type { Strength, SurfaceStrength } from '../candidate';
import { quantityIn, quantitiesOf, type Quantity } from './quantity';

const hertz = { dimension: 'plain' as const, digits: 2, per: 'Hz' };

/** Strength and stiffness of one built surface over all load cases. */
export const SURFACE_STRENGTH_QUANTITIES = quantitiesOf<SurfaceStrength>([
  {
    id: 'structure.surface.leastReserve',
    symbol: 'least reserve',
    name: 'least reserve',
    says: 'of all members in all load cases, over the ultimate load; negative where one fails',
    formula: 'σ_allowable/(j σ) − 1',
    dimension: 'ratio',
    digits: 0,
    of: (s) => {
      const all = s.members.flatMap((m) => (m.worst ? [m.worst.reserve] : []));
      return all.length > 0 ? Math.min(...all) : null;
    },
  },
  {
    id: 'structure.surface.mass',
    symbol: 'm',
    name: 'mass',
    says: 'of all members, both sides',
    dimension: 'mass',
    digits: 3,
    of: (s) => s.mass,
  },
  {
    id: 'structure.surface.tipDeflection',
    symbol: 'tip deflection',
    name: 'tip deflection',
    says: 'at limit load, in the case that deflects most; up is positive',
    dimension: 'thickness',
    digits: 1,
    of: (s) => s.tipDeflection,
  },
  {
    id: 'structure.surface.tipTwist',
    symbol: 'tip twist',
    name: 'tip twist',
    says: 'nose-up, at the same load',
    dimension: 'angle',
    of: (s) => s.tipTwistDeg,
  },
  {
    id: 'structure.surface.divergenceSpeed',
    symbol: 'V divergence',
    name: 'divergence speed',
    says: 'equivalent; strip theory with section lift slopes of 2π. Without a number, no speed diverges',
    dimension: 'speed',
    of: (s) => s.divergenceSpeed,
  },
  {
    id: 'structure.surface.bendingFrequency',
    symbol: 'f bending',
    name: 'first bending',
    says: 'root held',
    ...hertz,
    of: (s) => s.frequencies.bending,
  },
  {
    id: 'structure.surface.torsionFrequency',
    symbol: 'f torsion',
    name: 'first torsion',
    says: 'root held',
    ...hertz,
    of: (s) => s.frequencies.torsion,
  },
]);

/** A quantity of all surfaces, chosen or summed from those of each. */
function ofAll(
  id: string,
  own: string,
  name: string,
  says: string,
  choose: (all: number[]) => number,
): Quantity<Pick<Strength, 'surfaces'>> {
  const { of, ...q } = quantityIn(SURFACE_STRENGTH_QUANTITIES, `structure.surface.${own}`);
  return {
    ...q,
    id,
    name,
    says,
    of: ({ surfaces }) => {
      const all = surfaces.map(of).filter((v): v is number => v !== null);
      return all.length > 0 ? choose(all) : null;
    },
  };
}

/** Strength and stiffness of all built surfaces of a candidate over its load cases. */
export const STRENGTH_QUANTITIES = quantitiesOf<Pick<Strength, 'surfaces'>>([
  ofAll(
    'structure.leastReserve',
    'leastReserve',
    'least reserve of strength',
    'of all members of all surfaces in all load cases, over the ultimate load; negative where one fails',
    (all) => Math.min(...all),
  ),
  ofAll('structure.mass', 'mass', 'mass of the built surfaces', 'of all members, both sides', (all) =>
    all.reduce((sum, m) => sum + m, 0),
  ),
  ofAll('structure.tipDeflection', 'tipDeflection', 'greatest tip deflection', 'in size, at limit load', (all) =>
    Math.max(...all.map(Math.abs)),
  ),
  ofAll(
    'structure.bendingFrequency',
    'bendingFrequency',
    'lowest bending frequency',
    'of the first bending of a surface, root held',
    (all) => Math.min(...all),
  ),
]);
