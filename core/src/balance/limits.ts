import type { FieldLimit } from '../limits';

const place = (label: string): FieldLimit => ({ label, dimension: 'length', min: -1000, max: 1000, step: 0.01 });

/** Limits of a mass item's numbers. */
export const MASS_ITEM_LIMITS = {
  mass: { label: 'Mass', dimension: 'mass', min: 0, max: 1e6, step: 0.1 },
  size: { label: 'Size', dimension: 'length', min: 0, max: 1000, step: 0.01 },
  inertia: { label: 'Moment of inertia', dimension: 'plain', min: 0, max: 1e9, step: 0.01 },
  product: { label: 'Product of inertia', dimension: 'plain', min: -1e9, max: 1e9, step: 0.01 },
  share: { label: 'Share', dimension: 'ratio', min: 0, max: 10, step: 0.1 },
  position: { x: place('x, aft'), y: place('y, right'), z: place('z, up') },
} as const satisfies Record<string, FieldLimit | Record<string, FieldLimit>>;

export const MASS_SHAPES = ['point', 'rod', 'box', 'plate', 'cylinder', 'skin', 'volume', 'area'] as const;

export const MOST_MASS_ITEMS = 200;
