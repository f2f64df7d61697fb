import { z } from 'zod';
import { actuationSchema } from '../../actuation';
import { bodySchema, MOST_BODIES, MOST_SURFACES, SURFACE_LIMITS, surfaceSchema } from '../../airframe';
import { loadingsSchema, massItemSchema, MOST_MASS_ITEMS, weighingSchema } from '../../balance';
import { autopilotSchema } from '../../control';
import { isDerivative } from '../../motion';
import { energySchema } from '../../performance';
import { engineSchema } from '../../propulsion';
import { dragSchema } from '../../drag';
import { finiteNumber, partId, within, words, type FieldLimit } from '../../limits';
import { candidateStudy } from './candidate-study';
import { partKind } from './kind';
import { sectionReference } from './section';

export const LONGEST_CANDIDATE_NAME = 60;

/** Limits of a candidate's sweep of angles, degrees. */
export const SWEEP_LIMITS = {
  fromDeg: { label: 'From', dimension: 'angle', min: -30, max: 30, step: 1 },
  toDeg: { label: 'To', dimension: 'angle', min: -30, max: 30, step: 1 },
  stepDeg: { label: 'Step', dimension: 'angle', min: 0.1, max: 5, step: 0.5 },
} as const satisfies Record<string, FieldLimit>;

/** Limits of the sizes that coefficients are made with, m² and m. */
export const REFERENCE_LIMITS = {
  area: { label: 'Area', dimension: 'area', min: 1e-6, max: 1e6, step: 0.01 },
  span: { label: 'Span', dimension: 'length', min: 1e-3, max: 1e4, step: 0.01 },
  chord: { label: 'Chord', dimension: 'chord', min: 1e-3, max: 1e4, step: 0.005 },
} as const satisfies Record<string, FieldLimit>;

/** A setting of the controls that is kept by name; controls that it does not name are at rest. */
export const controlSetting = z.object({
  id: partId,
  name: words(60).min(1, 'needs a name'),
  /** Deflections by the id of the control, degrees. */
  deflectionsDeg: z.record(partId, within(SURFACE_LIMITS.control.deflectionDeg)),
});
export type ControlSetting = z.infer<typeof controlSetting>;
const MOST_SETTINGS = 40;

/** Numbers by the derivative's name, also of what controls do. */
const namedDerivatives = z.record(words(100).refine(isDerivative, 'is no derivative'), finiteNumber);

/** A candidate by itself: what it is called, and how it is looked at. Its surfaces and mass items are parts of their own. */
export const candidateHead = z.object({
  id: partId,
  letter: z.string().regex(/^[A-Z]{1,2}$/, 'must be one or two capital letters'),
  name: words(LONGEST_CANDIDATE_NAME).min(1, 'needs a name'),
  note: words(4000),
  /** Place in the colour and dash order. */
  style: z.number().int().min(0).max(63),
  /** Area, span and chord of the coefficients, when they are not those of the wing. */
  reference: z
    .object({
      area: within(REFERENCE_LIMITS.area),
      span: within(REFERENCE_LIMITS.span),
      chord: within(REFERENCE_LIMITS.chord),
    })
    .nullable(),
  sweep: z
    .object({
      fromDeg: within(SWEEP_LIMITS.fromDeg),
      toDeg: within(SWEEP_LIMITS.toDeg),
      stepDeg: within(SWEEP_LIMITS.stepDeg),
    })
    .refine((s) => s.fromDeg < s.toDeg, { message: 'must start below its end', path: ['fromDeg'] }),
  /** How its drag is built up; as usual where it is not said. */
  drag: dragSchema.optional(),
  loadings: loadingsSchema.optional(),
  /** What pushes it; nothing is known of it where it is not said. */ engine: engineSchema.optional(),
  /** What it flies on; nothing is told of range and endurance where it is not said. */ energy: energySchema.optional(),
  /** Derivatives that replace those that are computed, by name; and a set that was measured, to compare with. */
  derivatives: z
    .object({
      overrides: namedDerivatives.default({}),
      measured: z.object({ name: words(120), values: namedDerivatives }).optional(),
    })
    .optional(),
  /** Loops that control it. */
  autopilot: autopilotSchema.optional(),
  /** What moves its controls, by the id of the control. */
  actuation: actuationSchema.optional(),
  settings: z
    .array(controlSetting)
    .max(MOST_SETTINGS)
    .refine((list) => new Set(list.map((s) => s.name)).size === list.length, 'has two settings with one name')
    .optional(),
  /** The built aircraft on scales. */ weighing: weighingSchema.optional(),
  study: candidateStudy.optional(),
});

const ids = z.array(partId).max(1000).default([]);
/** A candidate as it is stored: with the order of what belongs to it. Ids that are not there are passed over, others follow behind. */
const storedHead = candidateHead.extend({
  order: z.object({ surfaces: ids, massItems: ids, bodies: ids }).prefault({}),
});

/** Each id once in a list. */
const apart = (list: { id: string }[]) => new Set(list.map((v) => v.id)).size === list.length;

/** Refuses two controls with one id: settings and answers name them by it. */
const controlsApart = (surfaces: z.infer<typeof surfaceSchema>[], context: z.RefinementCtx) => {
  const seen = new Map<string, string>();
  surfaces.forEach((s, i) =>
    s.controls?.forEach((c, k) => {
      const other = seen.get(c.id);
      if (other)
        context.addIssue({
          code: 'custom',
          path: [i, 'controls', k, 'id'],
          message: `is the id of a control of ${other} already`,
        });
      seen.set(c.id, s.name);
    }),
  );
};

/** A candidate with all that belongs to it, as the document, files and analyses have it. */
export const candidatePart = candidateHead.extend({
  surfaces: z
    .array(surfaceSchema)
    .max(MOST_SURFACES)
    .refine(apart, 'has two surfaces with one id')
    .superRefine(controlsApart),
  massItems: z.array(massItemSchema).max(MOST_MASS_ITEMS).refine(apart, 'has two mass items with one id'),
  bodies: z.array(bodySchema).max(MOST_BODIES).refine(apart, 'has two bodies with one id').default([]),
});

export type CandidateHead = z.infer<typeof storedHead>;
export type SurfacePart = z.infer<typeof surfaceSchema>;
export type MassItemPart = z.infer<typeof massItemSchema>;
export type BodyPart = z.infer<typeof bodySchema>;
export type CandidatePart = z.infer<typeof candidatePart>;

export const candidateKind = partKind<CandidateHead>({
  schema: storedHead,
  // Version 1 held its surfaces and mass items; the document takes them apart where it meets them. Version 3 has an energy, version 4 servos, version 5 a weigh-in and a study, version 6 derivatives of controls that are set by hand.
  version: 6,
  migrations: {
    2: (value) => value,
    3: (value) => value,
    4: (value) => value,
    5: (value) => value,
    6: (value) => value,
  },
  place: { at: 'record', field: 'candidates' },
  label: (c) => `candidate ${c.letter}`,
  references: () => [],
});

const of = (name: string, owner: unknown) => {
  const letter = (owner as CandidateHead | undefined)?.letter;
  return letter ? `${name} of ${letter}` : name;
};

export const surfaceKind = partKind<SurfacePart>({
  schema: surfaceSchema,
  // Version 3 may say what it is made of, version 4 how its halves differ.
  version: 4,
  migrations: { 3: (value) => value, 4: (value) => value },
  place: { at: 'list', owner: 'candidate', field: 'surfaces' },
  label: (s, owner) => of(s.name, owner),
  references: (s) => s.stations.flatMap((t, i) => sectionReference(t.section, `stations.${i}.section`)),
});

export const bodyKind = partKind<BodyPart>({
  schema: bodySchema,
  version: 1,
  migrations: {},
  place: { at: 'list', owner: 'candidate', field: 'bodies' },
  label: (b, owner) => of(b.name, owner),
  references: () => [],
});

export const massItemKind = partKind<MassItemPart>({
  schema: massItemSchema,
  version: 2,
  migrations: {},
  place: { at: 'list', owner: 'candidate', field: 'massItems' },
  label: (m, owner) => of(m.name || 'a mass item', owner),
  references: () => [],
});
