/** How thickness adds to friction, by name: a factor on it. */
export const SURFACE_FORMS = {
  thickness: { name: 'thickness', source: '1 + 2 t + 60 t⁴; handbook of 1965, cited from memory' },
  crest: { name: 'thickness and its crest', source: '1 + 0.6 t/x + 100 t⁴; handbook of 1975, cited from memory' },
} as const;
export type SurfaceForm = keyof typeof SURFACE_FORMS;

export const BODY_FORMS = {
  fineness: { name: 'fineness', source: '1 + 1.5/f^1.5 + 7/f³; handbook of 1965, cited from memory' },
  'fineness-cube': { name: 'cube of the fineness', source: '1 + 60/f³ + f/400; handbook of 1975, cited from memory' },
} as const;
export type BodyForm = keyof typeof BODY_FORMS;

/** What a part loses by standing next to others, by name: a factor on it. */
export const JOINTS = {
  none: { name: 'none', wing: 1, tail: 1, body: 1, source: 'parts as if alone' },
  usual: { name: 'usual', wing: 1, tail: 1.05, body: 1, source: '5 % on tails, none on faired wings; our own choice' },
} as const;
export type JointRule = keyof typeof JOINTS;

/** Form factor of a surface. @param thickness over chord. @param crest chord fraction of the greatest thickness. */
export const surfaceForm = (form: SurfaceForm, thickness: number, crest: number): number =>
  form === 'thickness'
    ? 1 + 2 * thickness + 60 * thickness ** 4
    : 1 + (0.6 * thickness) / Math.max(0.05, crest) + 100 * thickness ** 4;

/** Form factor of a body. @param fineness length over the diameter of a circle of its greatest cross-section. */
export const bodyForm = (form: BodyForm, fineness: number): number =>
  form === 'fineness' ? 1 + 1.5 / fineness ** 1.5 + 7 / fineness ** 3 : 1 + 60 / fineness ** 3 + fineness / 400;
