import type { FieldLimit } from '../limits';

const angle = (label: string, most: number, step: number, more: Partial<FieldLimit> = {}): FieldLimit => ({
  label,
  dimension: 'angle',
  min: -most,
  max: most,
  step,
  ...more,
});
/** Below, nothing can be built, and numbers lose their digits. */
const size = (label: string, dimension: 'length' | 'chord', step: number): FieldLimit => ({
  label,
  dimension,
  min: 5e-4,
  max: 1000,
  above: { nearest: 0.001 },
  step,
});
const place = (label: string): FieldLimit => ({
  label,
  dimension: 'length',
  min: -1000,
  max: 1000,
  step: 0.01,
  hint: 'Of the leading edge at the root',
});

/** Limits of every number of a lifting surface; its schema, its refusals and the fields of the interface are made from them. */
export const SURFACE_LIMITS = {
  position: { x: place('Place, x aft'), y: place('Place, y right'), z: place('Place, z up') },
  incidenceDeg: angle('Incidence', 45, 0.1),
  station: {
    chord: size('Chord', 'chord', 0.005),
    twistDeg: angle('Twist', 45, 0.1),
  },
  bay: {
    span: size('Span', 'length', 0.01),
    sweepDeg: angle('Sweep, ¼ chord', 75, 0.5, { reason: 'beyond, a bay is no lifting surface' }),
    dihedralDeg: angle('Dihedral', 75, 0.5, { reason: 'for a fin, choose the vertical plane' }),
  },
} as const satisfies Record<string, FieldLimit | Record<string, FieldLimit>>;

export const MOST_STATIONS = 40;
export const MOST_SURFACES = 20;
