import type { ComparedQuantity, MethodName, MethodPair } from '../candidate';
import { DEG } from '../numerics';
import type { Dimension } from '../units';
import { number, type Finding } from './findings';

/** What compared quantities are called, and how they are told; `by` takes them from SI into their dimension. */
export const COMPARED: Record<
  ComparedQuantity,
  { name: string; dimension: Dimension; digits: number; unit?: string; by?: number }
> = {
  'static-margin': { name: 'static margin', dimension: 'ratio', digits: 1 },
  'lift-slope': { name: 'lift slope', dimension: 'plain', digits: 2, unit: '/rad' },
  'trim-angle': { name: 'trim angle', dimension: 'angle', digits: 2, by: DEG },
  drag: { name: 'drag coefficient', dimension: 'plain', digits: 5 },
  'short-period': { name: 'short-period frequency', dimension: 'plain', digits: 3, unit: 'Hz' },
  'short-period-damping': { name: 'short-period damping ratio', dimension: 'plain', digits: 3 },
  phugoid: { name: 'phugoid frequency', dimension: 'plain', digits: 4, unit: 'Hz' },
  'dutch-roll': { name: 'Dutch-roll frequency', dimension: 'plain', digits: 3, unit: 'Hz' },
  'dutch-roll-damping': { name: 'Dutch-roll damping ratio', dimension: 'plain', digits: 3 },
  'short-period-half': { name: 'short-period time to half', dimension: 'plain', digits: 3, unit: 's' },
  'roll-half': { name: 'roll time to half', dimension: 'plain', digits: 4, unit: 's' },
  'induced-drag': { name: 'induced drag coefficient', dimension: 'plain', digits: 5 },
  'phugoid-damping': { name: 'phugoid damping ratio', dimension: 'plain', digits: 3 },
};

/** What the methods are called. */
export const METHOD_NAMES: Record<MethodName, string> = {
  'section-polars': 'section polars',
  lattice: 'inviscid lattice',
  'build-up': 'drag build-up',
  'far-field': 'far field of the lattice',
  'near-field': 'forces on its strips',
  'linear-model': 'linear model',
  flight: 'flight simulation',
};

/** The pairs of methods that differ by more than their bands, as one finding; none where all agree. */
export function methodFindings(pairs: readonly MethodPair[]): Finding[] {
  const differ = pairs.filter((p) => !p.agree);
  if (differ.length === 0) return [];
  return [
    {
      code: 'methods-differ',
      id: 'methods-differ',
      state: 'fact',
      facts: {
        pairs: differ.map(({ quantity, first, second }) => {
          const { dimension, digits, by = 1 } = COMPARED[quantity];
          const told = (v: number) => number(by * v, dimension, digits);
          return {
            quantity,
            first: told(first.value),
            second: told(second.value),
            methods: [first.method, second.method],
          };
        }),
      },
      evidence: { area: 'motion', mark: 'methods' },
    },
  ];
}
