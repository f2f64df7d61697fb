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
const share = (label: string): FieldLimit => ({
  label,
  dimension: 'plain',
  min: 0,
  max: 1,
  step: 0.05,
  hint: 'chord fraction',
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
  rollDeg: angle('Turn about x', 180, 1),
  yawDeg: angle('Turn about z', 45, 0.5),
  pressureRatio: { label: 'Ratio q / q∞', dimension: 'plain', min: 0.1, max: 5, step: 0.01 },
  station: {
    chord: size('Chord', 'chord', 0.005),
    twistDeg: angle('Twist', 45, 0.1),
    twistAbout: share('Twisted about'),
  },
  edge: {
    angleDeg: angle('Held at', 80, 1),
    reach: { label: 'Reach', dimension: 'plain', min: 0.02, max: 1, step: 0.05, hint: 'share of the bay’s span' },
    reachOutboard: {
      label: 'Reach outboard',
      dimension: 'plain',
      min: 0.02,
      max: 1,
      step: 0.05,
      hint: 'share of the span of the bay outboard',
    },
  },
  bay: {
    span: size('Span', 'length', 0.01),
    sweepDeg: angle('Sweep', 75, 0.5, { reason: 'beyond, a bay is no lifting surface' }),
    sweepAt: share('Sweep measured at'),
    dihedralDeg: angle('Dihedral', 75, 0.5, { reason: 'for a fin, choose the vertical plane' }),
  },
  control: {
    from: { label: 'From', dimension: 'plain', min: 0, max: 1, step: 0.01, hint: 'share of the half span' },
    to: { label: 'To', dimension: 'plain', min: 0, max: 1, step: 0.01, hint: 'share of the half span' },
    hinge: { label: 'Hinge', dimension: 'plain', min: 0.05, max: 0.98, step: 0.01, hint: 'chord fraction' },
    deflectionDeg: angle('Deflection', 60, 1),
    limitDeg: angle('Limit', 60, 1),
    riggingDeg: angle('Rigging', 20, 0.1, { hint: 'Deflection on the right less that on the left' }),
  },
  /** Of the right half less those of the left. */
  asymmetry: {
    incidenceDeg: angle('Incidence', 10, 0.1),
    twistDeg: angle('Tip twist', 10, 0.1, { hint: 'Growing from the root to the tip' }),
    dihedralDeg: angle('Dihedral', 10, 0.1),
    mass: { label: 'Mass', dimension: 'mass', min: -1000, max: 1000, step: 0.005 },
    drag: {
      label: 'Profile drag',
      dimension: 'ratio',
      min: -1,
      max: 5,
      step: 0.05,
      hint: 'Share of the drag of one half',
    },
  },
  attachedShare: { label: 'At share', dimension: 'plain', min: 0, max: 1, step: 0.01 },
  attachedChord: share('At chord fraction'),
} as const satisfies Record<string, FieldLimit | Record<string, FieldLimit>>;

export const MOST_STATIONS = 40;
export const MOST_SURFACES = 20;
export const MOST_CONTROLS = 20;
