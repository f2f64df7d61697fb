import type { FieldLimit } from '../limits';

const place = (label: string): FieldLimit => ({ label, dimension: 'length', min: -1000, max: 1000, step: 0.01 });

/** Limits of a mass item's numbers. */
export const MASS_ITEM_LIMITS = {
  mass: { label: 'Mass', dimension: 'mass', min: 0, max: 1e6, step: 0.1 },
  position: { x: place('x, aft'), y: place('y, right'), z: place('z, up') },
} as const satisfies Record<string, FieldLimit | Record<string, FieldLimit>>;

export const MOST_MASS_ITEMS = 200;
