import { z } from 'zod';
import { partId, within, words, type FieldLimit } from '../limits';
import { BODY_FORMS, JOINTS, SURFACE_FORMS, type BodyForm, type JointRule, type SurfaceForm } from './form';
import { FRICTION_LAW_NAMES } from './friction';

/** Limits of the numbers of a drag build-up. */
export const DRAG_LIMITS = {
  laminarShare: { label: 'Laminar run', dimension: 'ratio', min: 0, max: 1, step: 0.05, optional: true },
  roughness: {
    label: 'Roughness',
    dimension: 'length',
    min: 0,
    max: 0.01,
    step: 0.00001,
    hint: 'sand height',
    optional: true,
  },
  formFactor: { label: 'Form factor', dimension: 'plain', min: 0.5, max: 10, step: 0.01, optional: true },
  interference: { label: 'Interference', dimension: 'plain', min: 0.5, max: 5, step: 0.01, optional: true },
  counts: { label: 'Counts', dimension: 'plain', min: -1000, max: 10000, step: 1 },
  coefficient: { label: 'Coefficient', dimension: 'plain', min: -0.1, max: 1, step: 0.0005 },
  share: { label: 'Share of the shape’s drag', dimension: 'ratio', min: -0.9, max: 10, step: 0.01 },
  reserve: {
    label: 'Reserve on the total',
    dimension: 'ratio',
    min: 0,
    max: 0.95,
    step: 0.01,
    reason: 'a reserve of all is no total',
  },
  area: { label: 'Drag area', dimension: 'area', min: -10, max: 1000, step: 0.001 },
} as const satisfies Record<string, FieldLimit>;

export const ALLOWANCE_KINDS = ['counts', 'coefficient', 'share', 'reserve', 'area'] as const;
export type AllowanceKind = (typeof ALLOWANCE_KINDS)[number];

/** Drag that is added for what is not modelled, with a name and a reason. */
export const allowanceSchema = z
  .object({
    name: words(80).min(1, 'needs a name'),
    kind: z.enum(ALLOWANCE_KINDS),
    amount: z.number(),
    /** Why it is there. */ reason: words(500).optional(),
  })
  .superRefine((a, context) => {
    const parsed = within(DRAG_LIMITS[a.kind]).safeParse(a.amount);
    if (!parsed.success)
      context.addIssue({ code: 'custom', path: ['amount'], message: parsed.error.issues[0].message });
  });
export type Allowance = z.infer<typeof allowanceSchema>;

const keys = <K extends string>(of: Record<K, unknown>) => Object.keys(of) as [K, ...K[]];

/** What replaces the build-up's own numbers of a part. */
export const dragPartSchema = z.object({
  laminarShare: within(DRAG_LIMITS.laminarShare).optional(),
  roughness: within(DRAG_LIMITS.roughness).optional(),
  formFactor: within(DRAG_LIMITS.formFactor).optional(),
  interference: within(DRAG_LIMITS.interference).optional(),
});

/** How the drag of a candidate is built up. */
export const dragSchema = z.object({
  law: z
    .enum(FRICTION_LAW_NAMES as [(typeof FRICTION_LAW_NAMES)[number], ...typeof FRICTION_LAW_NAMES])
    .default('log-power'),
  /** What gives the surfaces' drag: this build-up where it is not said, or the polars of their sections in level flight; never both. */
  surfaces: z.enum(['build-up', 'polars']).optional(),
  surfaceForm: z.enum(keys(SURFACE_FORMS)).default('thickness' satisfies SurfaceForm),
  bodyForm: z.enum(keys(BODY_FORMS)).default('fineness' satisfies BodyForm),
  joints: z.enum(keys(JOINTS)).default('usual' satisfies JointRule),
  allowances: z
    .array(allowanceSchema)
    .max(60)
    .refine(
      (list) => list.reduce((sum, a) => sum + (a.kind === 'reserve' ? a.amount : 0), 0) < 1,
      'has reserves that add up to the whole drag or more; together they must stay below 100 %',
    )
    .default([]),
  parts: z.record(partId, dragPartSchema).default({}),
});
export type DragSettings = z.infer<typeof dragSchema>;
