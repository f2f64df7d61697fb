import { z } from 'zod';
import { within, type FieldLimit } from '../limits';
import { STEP_LIMITS, type StepKind } from './limits';

const surface = z.enum(['upper', 'lower']);
const finite = z.number().refine(Number.isFinite, 'must be a finite number');
const limits = STEP_LIMITS;
/** Target speeds: x of the chord and speed over that of the stream, positive toward the trailing edge. */
const speeds = z.array(z.tuple([finite.min(-0.1).max(1.1), finite.min(-10).max(10)])).max(400);

const common = {
  id: z.string().max(40).optional(),
  /** Left out of the result while it is off. */
  off: z.boolean().optional(),
};
const step = <K extends StepKind, S extends z.ZodRawShape>(kind: K, shape: S) =>
  z.object({ kind: z.literal(kind), ...common, ...shape });
const stretch = <L extends { from: FieldLimit; to: FieldLimit }>(l: L) => ({
  surface,
  from: within(l.from),
  to: within(l.to),
});

/** What a design to a speed found, kept so that it is not solved again: the displacement over the share of the way around the outline. */
const found = z.object({
  /** Fingerprint of all that the design was made from; with another one it is solved anew. */
  of: z.string().max(16),
  s: z.array(finite).max(1200),
  x: z.array(finite).max(1200),
  y: z.array(finite).max(1200),
});
/** A displacement that a design found. */
export type FoundDisplacement = z.infer<typeof found>;

/** Every step but the mix, which names another section. */
export const plainSteps = [
  step('set-thickness', { to: within(limits['set-thickness'].to) }),
  step('scale-thickness', { by: within(limits['scale-thickness'].by) }),
  step('set-camber', { to: within(limits['set-camber'].to) }),
  step('scale-camber', { by: within(limits['scale-camber'].by) }),
  step('thickness-crest', { to: within(limits['thickness-crest'].to) }),
  step('camber-crest', { to: within(limits['camber-crest'].to) }),
  step('nose-radius', {
    to: within(limits['nose-radius'].to),
    blend: within(limits['nose-radius'].blend).default(0.25),
  }),
  step('edge-gap', {
    to: within(limits['edge-gap'].to),
    blend: within(limits['edge-gap'].blend).default(0.6),
    /** Half where it is not given. */ upper: within(limits['edge-gap'].upper).optional(),
  }),
  step('hinge', {
    x: within(limits.hinge.x),
    height: within(limits.hinge.height).default(0.5),
    angleDeg: within(limits.hinge.angleDeg),
    joint: within(limits.hinge.joint).default(0.012),
  }),
  step('square-up', {}),
  step('rotate', {
    angleDeg: within(limits.rotate.angleDeg),
    x: within(limits.rotate.x).default(0.25),
    y: within(limits.rotate.y).default(0),
  }),
  step('scale', { by: within(limits.scale.by) }),
  step('smooth', {
    ...stretch(limits.smooth),
    strength: within(limits.smooth.strength).default(1),
    bound: within(limits.smooth.bound).default(0.002),
  }),
  step('bump', {
    surface,
    at: within(limits.bump.at),
    height: within(limits.bump.height),
    width: within(limits.bump.width).default(0.3),
  }),
  step('target-speed', {
    ...stretch(limits['target-speed']),
    angleDeg: within(limits['target-speed'].angleDeg),
    target: speeds.min(2),
    found: found.optional(),
  }),
  step('smooth-speed', {
    ...stretch(limits['smooth-speed']),
    angleDeg: within(limits['smooth-speed'].angleDeg),
    strength: within(limits['smooth-speed'].strength).default(1),
    times: within(limits['smooth-speed'].times).default(1),
    found: found.optional(),
  }),
  step('whole-speed', {
    angleDeg: within(limits['whole-speed'].angleDeg),
    gap: within(limits['whole-speed'].gap).optional(),
    upper: speeds.min(5),
    lower: speeds.min(5),
    found: found.optional(),
  }),
] as const;

/** Share of the other section in a mix. */
export const mixFraction = within(limits.mix.fraction);
/** A mix with another section of the project, by its id. */
export const savedMixStep = step('mix', { fraction: mixFraction, with: z.string().min(1).max(80) });

export const MOST_STEPS = 60;
/** A shaping step as it is saved. */
export const savedStep = z.discriminatedUnion('kind', [...plainSteps, savedMixStep]);
/** A shaping step as it is saved. */
export type SavedStep = z.infer<typeof savedStep>;
/** Every step but the mix. */
export type PlainStep = Exclude<SavedStep, { kind: 'mix' }>;

const designation = z.object({
  kind: z.literal('designation'),
  designation: z.string().max(12),
  trailingEdge: z.enum(['published', 'sharp']),
});
const pair = z.tuple([finite, finite]);
const coordinates = z.object({ kind: z.literal('coordinates'), points: z.array(pair).min(10).max(5000) });
const drawn = z.object({ kind: z.literal('drawn'), points: z.array(pair).min(7).max(80) });
const coefficients = z.array(finite.min(-5).max(5)).min(2).max(16);
const classShape = z.object({
  kind: z.literal('class-shape'),
  upper: coefficients,
  lower: coefficients,
  edgeUpper: finite.min(-0.05).max(0.05),
  edgeLower: finite.min(-0.05).max(0.05),
  /** The foremost point, when it is not the origin. */
  nose: z.tuple([finite.min(-0.05).max(0.05), finite.min(-0.05).max(0.05)]).optional(),
});
export const ownSources = [designation, coordinates, drawn, classShape] as const;
/** A source as it is saved: a mix names two sections of the project. */
export const savedSource = z.discriminatedUnion('kind', [
  ...ownSources,
  z.object({
    kind: z.literal('mix'),
    a: z.string().min(1).max(80),
    b: z.string().min(1).max(80),
    fraction: mixFraction,
  }),
]);
/** A source as it is saved: other sections by their id. */
export type SavedSource = z.infer<typeof savedSource>;

/** A section by its digits. */
export type DesignationSource = z.infer<typeof designation>;
/** A section by points. */
export type CoordinatesSource = z.infer<typeof coordinates>;
/** A section by a few points of a curve. */
export type DrawnSource = z.infer<typeof drawn>;
/** A section by class and shape functions. */
export type ClassShapeSource = z.infer<typeof classShape>;
/** A section between two others, complete in itself. */
export interface MixSource {
  kind: 'mix';
  a: SectionSource;
  b: SectionSource;
  fraction: number;
}
/** A mix step whose other section is at hand. */
export interface MixStep {
  kind: 'mix';
  id?: string;
  off?: boolean;
  fraction: number;
  other: SectionSource;
}
/** A shaping step as it is computed: other sections inside it. */
export type ShapingStep = PlainStep | MixStep;
/** A source with steps done on it. */
export interface RecipeSource {
  kind: 'recipe';
  source: SectionSource;
  steps: ShapingStep[];
}
/** Where a section's shape comes from, complete in itself: whatever it names is inside it. */
export type SectionSource =
  DesignationSource | CoordinatesSource | DrawnSource | ClassShapeSource | MixSource | RecipeSource;

export const sectionSource: z.ZodType<SectionSource, SectionSource> = z.lazy(() =>
  z.union([
    z.discriminatedUnion('kind', [...ownSources]),
    z.object({ kind: z.literal('mix'), a: sectionSource, b: sectionSource, fraction: mixFraction }),
    z.object({
      kind: z.literal('recipe'),
      source: sectionSource,
      steps: z
        .array(
          z.union([
            z.discriminatedUnion('kind', [...plainSteps]),
            step('mix', { fraction: mixFraction, other: sectionSource }),
          ]),
        )
        .max(MOST_STEPS),
    }),
  ]),
) as z.ZodType<SectionSource, SectionSource>;
