import type { FieldLimit } from '../limits';

const place = (label: string): FieldLimit => ({ label, dimension: 'plain', min: 0, max: 1 });

/** Limits of every number of every shaping step; the schema, the refusals and the fields of the interface are made from them. */
export const STEP_LIMITS = {
  'set-thickness': { to: { label: 'Thickness', dimension: 'ratio', min: 0.005, max: 0.6 } },
  'scale-thickness': { by: { label: 'Factor', dimension: 'plain', min: 0.02, max: 20, neutral: 1 } },
  'set-camber': { to: { label: 'Camber', dimension: 'ratio', min: -0.25, max: 0.25 } },
  'scale-camber': { by: { label: 'Factor', dimension: 'plain', min: -20, max: 20, neutral: 1 } },
  'thickness-crest': { to: { label: 'Crest, x / c', dimension: 'plain', min: 0.05, max: 0.85 } },
  'camber-crest': { to: { label: 'Crest, x / c', dimension: 'plain', min: 0.03, max: 0.95 } },
  'nose-radius': {
    to: { label: 'Radius', dimension: 'ratio', min: 0.0002, max: 0.2 },
    blend: { label: 'Blended over', dimension: 'ratio', min: 0.02, max: 0.8 },
  },
  'edge-gap': {
    to: { label: 'Gap', dimension: 'ratio', min: 0, max: 0.05 },
    blend: { label: 'Blended over', dimension: 'ratio', min: 0.02, max: 1 },
    upper: {
      label: 'Share of the upper surface',
      dimension: 'ratio',
      min: 0,
      max: 1,
      optional: true,
      otherwise: 'half',
      hint: 'of the change: at 100 % the lower surface stays as it is',
    },
  },
  hinge: {
    x: { label: 'Hinge, x / c', dimension: 'plain', min: 0.1, max: 0.98 },
    height: {
      label: 'Hinge height',
      dimension: 'ratio',
      min: 0,
      max: 1,
      hint: 'share of the local thickness, from the lower surface',
    },
    angleDeg: { label: 'Down', dimension: 'angle', min: -60, max: 60, neutral: 0 },
    joint: {
      label: 'Joint rounded by',
      dimension: 'ratio',
      min: 0.004,
      max: 0.06,
      hint: 'half the length of the rounding on the side that closes',
    },
  },
  'square-up': {},
  rotate: {
    angleDeg: { label: 'Nose up', dimension: 'angle', min: -45, max: 45, neutral: 0 },
    x: { label: 'About x / c', dimension: 'plain', min: -2, max: 3 },
    y: { label: 'About y / c', dimension: 'plain', min: -2, max: 2 },
  },
  scale: { by: { label: 'Factor', dimension: 'plain', min: 0.01, max: 100, neutral: 1 } },
  mix: { fraction: { label: 'Share of the other', dimension: 'ratio', min: 0, max: 1, neutral: 0 } },
  smooth: {
    from: place('From x / c'),
    to: place('To x / c'),
    strength: { label: 'Strength', dimension: 'plain', min: 0, max: 10, neutral: 0 },
    bound: {
      label: 'Moves at most',
      dimension: 'ratio',
      min: 0.00001,
      max: 0.05,
      hint: 'no point leaves its place by more',
    },
  },
  bump: {
    at: { label: 'At x / c', dimension: 'plain', min: 0, max: 1 },
    height: { label: 'Height', dimension: 'ratio', min: -0.1, max: 0.1, neutral: 0, hint: 'outward' },
    width: { label: 'Width', dimension: 'ratio', min: 0.03, max: 1, hint: 'of the whole bump, along the surface' },
  },
  'target-speed': {
    from: place('From x / c'),
    to: place('To x / c'),
    angleDeg: { label: 'At the angle', dimension: 'angle', min: -15, max: 15 },
  },
  'smooth-speed': {
    from: place('From x / c'),
    to: place('To x / c'),
    angleDeg: { label: 'At the angle', dimension: 'angle', min: -15, max: 15 },
    strength: { label: 'Strength', dimension: 'plain', min: 0, max: 10, neutral: 0 },
    times: { label: 'Times', dimension: 'count', min: 1, max: 5 },
  },
  'whole-speed': {
    angleDeg: { label: 'At the angle', dimension: 'angle', min: -15, max: 15 },
    gap: { label: 'Edge gap', dimension: 'ratio', min: 0, max: 0.05, hint: 'kept as it is without', optional: true },
  },
} as const satisfies Record<string, Record<string, FieldLimit>>;

/** A kind of shaping step. */
export type StepKind = keyof typeof STEP_LIMITS;

/** Limits of the fields of one kind of step. */
export function limitsOf(kind: StepKind): Record<string, FieldLimit> {
  return STEP_LIMITS[kind];
}
