import { z } from 'zod';
import { words, within, type FieldLimit } from '../limits';

/** Limits of a material's numbers. */
export const MATERIAL_LIMITS = {
  density: { label: 'Density', dimension: 'density', min: 1, max: 25_000, step: 10 },
  modulus: { label: 'Modulus of elasticity', dimension: 'stress', min: 1e5, max: 1e12, step: 1e8 },
  shearModulus: { label: 'Shear modulus', dimension: 'stress', min: 1e4, max: 1e12, step: 1e7 },
  tension: { label: 'Tensile strength', dimension: 'stress', min: 1e3, max: 1e11, step: 1e6 },
  compression: { label: 'Compressive strength', dimension: 'stress', min: 1e3, max: 1e11, step: 1e6 },
  shear: { label: 'Shear strength', dimension: 'stress', min: 1e3, max: 1e11, step: 1e5 },
  price: { label: 'Price per kg', dimension: 'plain', min: 0, max: 1e6, step: 1, optional: true },
} as const satisfies Record<string, FieldLimit>;
const L = MATERIAL_LIMITS;

/** A material along the span; Pa, kg/m³. */
export const materialSchema = z.object({
  name: words(60).min(1, 'needs a name'),
  density: within(L.density),
  modulus: within(L.modulus),
  shearModulus: within(L.shearModulus),
  tension: within(L.tension),
  compression: within(L.compression),
  shear: within(L.shear),
  /** Per kg, in whatever currency is reckoned with. */ price: within(L.price).optional(),
  /** A covering that has mass and carries nothing. */ slack: z.boolean().optional(),
});
export type Material = z.infer<typeof materialSchema>;

const M = 1e6;
const G = 1e9;
/** @param E, S moduli in GPa; @param strengths tension, compression, shear in MPa. */
const made = (
  name: string,
  density: number,
  [E, S]: readonly [number, number],
  strengths: readonly [number, number, number],
  price: number,
): Material => ({
  name,
  density,
  modulus: E * G,
  shearModulus: S * G,
  tension: strengths[0] * M,
  compression: strengths[1] * M,
  shear: strengths[2] * M,
  price,
});

/** Materials to begin with: round numbers of their kinds, of no maker. What is bought is measured, and typed as a material of one's own. */
export const MATERIALS = {
  'balsa-light': made('Balsa, light', 110, [2.3, 0.1], [13, 7, 1.5], 60),
  'balsa-hard': made('Balsa, hard', 180, [4.4, 0.18], [25, 15, 2.6], 60),
  spruce: made('Spruce', 430, [10.5, 0.65], [70, 36, 7], 25),
  'birch-plywood': made('Birch plywood', 680, [8.5, 0.7], [55, 35, 9], 30),
  'birch-plywood-45': made('Birch plywood at 45°', 680, [2.6, 2.4], [28, 28, 20], 30),
  'carbon-rod': made('Carbon rod or tube, drawn', 1550, [120, 4.5], [1200, 750, 45], 120),
  'carbon-cloth': made('Carbon cloth, 0/90°', 1500, [56, 4], [550, 400, 65], 90),
  'carbon-cloth-45': made('Carbon cloth, ±45°', 1500, [15, 27], [130, 130, 190], 90),
  'glass-cloth': made('Glass cloth, 0/90°', 1850, [20, 3.5], [280, 200, 45], 25),
  'glass-cloth-45': made('Glass cloth, ±45°', 1850, [10, 8.5], [110, 110, 105], 25),
  aluminium: made('Aluminium alloy', 2700, [69, 26], [270, 240, 160], 12),
  printed: made('Printed plastic', 1220, [2.4, 0.85], [35, 40, 18], 22),
  'foam-hard': made('Hard foam', 33, [0.015, 0.006], [0.4, 0.25, 0.22], 20),
  film: { ...made('Covering film', 1300, [0.5, 0.1], [60, 1, 20], 45), slack: true },
} as const satisfies Record<string, Material>;
export type MaterialId = keyof typeof MATERIALS;

/** A material of the table by its id, or one of one's own. Not a union: that would not tell which of the two was meant. */
export const materialChoice = z.unknown().superRefine((value, context) => {
  if (typeof value === 'string') {
    if (!Object.hasOwn(MATERIALS, value))
      context.addIssue({
        code: 'custom',
        message: `must be one of ${Object.keys(MATERIALS).join(', ')}, or a material of its own`,
      });
    return;
  }
  const parsed = materialSchema.safeParse(value);
  for (const { path, message } of parsed.error?.issues ?? [])
    context.addIssue({ code: 'custom', path: [...path], message });
}) as unknown as z.ZodType<MaterialId | Material, MaterialId | Material>;
export type MaterialChoice = z.infer<typeof materialChoice>;

export const materialOf = (choice: MaterialChoice): Material =>
  typeof choice === 'string' ? MATERIALS[choice] : choice;
