import { z } from 'zod';
import { partId, within, words, type FieldLimit } from '../limits';
import { materialChoice } from './materials';

const thickness = (label: string, more: Partial<FieldLimit> = {}): FieldLimit => ({
  label,
  dimension: 'thickness',
  min: 1e-5,
  max: 0.5,
  step: 1e-4,
  ...more,
});
const share = (label: string, hint: string): FieldLimit => ({
  label,
  dimension: 'plain',
  min: 0,
  max: 1,
  step: 0.01,
  hint,
});

/** Limits of the numbers of a surface's structure. */
export const STRUCTURE_LIMITS = {
  skin: {
    thickness: thickness('Skin thickness'),
    to: { ...share('Rear edge', 'chord fraction'), min: 0.05, optional: true },
  },
  spar: {
    at: share('Chord position', 'chord fraction'),
    tipAt: { ...share('Outer chord position', 'chord fraction'), optional: true },
    from: share('From', 'share of the half span'),
    to: share('To', 'share of the half span'),
    width: thickness('Width', { min: 5e-4, max: 2, step: 1e-3, hint: 'of a tube: its diameter' }),
    tipWidth: thickness('Outer width', { min: 5e-4, max: 2, step: 1e-3, optional: true }),
    height: thickness('Height', {
      min: 5e-4,
      max: 5,
      step: 1e-3,
      optional: true,
      hint: 'fills the section where none is given',
    }),
    cap: thickness('Cap thickness'),
    tipCap: thickness('Outer cap thickness', { optional: true }),
    web: thickness('Web thickness'),
    wall: thickness('Wall thickness'),
  },
  ribs: {
    thickness: thickness('Rib thickness', { min: 1e-4, step: 5e-4 }),
    spacing: { label: 'Rib spacing', dimension: 'length', min: 0.005, max: 20, step: 0.01 },
    holes: {
      label: 'Lightening holes',
      dimension: 'ratio',
      min: 0,
      max: 0.8,
      step: 0.05,
      hint: 'share of the rib that is cut away',
      optional: true,
    },
  },
  weighed: { label: 'Weighed mass', dimension: 'mass', min: 0, max: 1e5, step: 0.01, optional: true },
} as const satisfies Record<string, FieldLimit | Record<string, FieldLimit>>;
const L = STRUCTURE_LIMITS;
export const MOST_SPARS = 8;

/** Mass that was weighed, of all of a member on both sides, kg; it counts instead of the computed one. */
const weighed = within(L.weighed).optional();

/** Kinds of spar: `solid` rectangle; `tube`; two caps with one web (`i`) or two (`box`). */
export const SPAR_KINDS = ['solid', 'tube', 'i', 'box'] as const;

/** A spar of a surface; m, chord fractions, shares of the half span. */
export const sparSchema = z
  .object({
    id: partId,
    name: words(60).min(1, 'needs a name'),
    kind: z.enum(SPAR_KINDS),
    material: materialChoice,
    at: within(L.spar.at),
    tipAt: within(L.spar.tipAt).optional(),
    from: within(L.spar.from).default(0),
    to: within(L.spar.to).default(1),
    width: within(L.spar.width),
    tipWidth: within(L.spar.tipWidth).optional(),
    height: within(L.spar.height).optional(),
    cap: within(L.spar.cap).optional(),
    tipCap: within(L.spar.tipCap).optional(),
    web: within(L.spar.web).optional(),
    webMaterial: materialChoice.optional(),
    wall: within(L.spar.wall).optional(),
    weighed,
  })
  .superRefine((s, context) => {
    const refuse = (path: string, message: string) => context.addIssue({ code: 'custom', path: [path], message });
    if (!(s.to > s.from)) refuse('to', `must lie outboard of its inner end, ${s.from}`);
    if (s.kind === 'i' || s.kind === 'box') {
      if (s.cap === undefined) refuse('cap', 'is needed: the thickness of the caps');
      if (s.web === undefined) refuse('web', 'is needed: the thickness of the web');
      else if (s.kind === 'box' && 2 * s.web >= Math.min(s.width, s.tipWidth ?? s.width))
        refuse('web', `must be thinner than half the width, ${Math.min(s.width, s.tipWidth ?? s.width) / 2} m`);
    }
    if (s.kind === 'tube') {
      if (s.wall === undefined) refuse('wall', 'is needed: the thickness of the wall');
      else if (2 * s.wall > Math.min(s.width, s.tipWidth ?? s.width))
        refuse('wall', `must be at most the radius, ${Math.min(s.width, s.tipWidth ?? s.width) / 2} m`);
    }
  });
export type Spar = z.infer<typeof sparSchema>;

/** What a surface is made of. */
export const surfaceStructure = z.object({
  /** A shell from the leading edge back to a chord fraction: 1 and without, all of it. */
  skin: z
    .object({
      material: materialChoice,
      thickness: within(L.skin.thickness),
      to: within(L.skin.to).optional(),
      weighed,
    })
    .optional(),
  spars: z
    .array(sparSchema)
    .max(MOST_SPARS, `has at most ${MOST_SPARS} spars`)
    .refine((list) => new Set(list.map((s) => s.id)).size === list.length, 'has two spars with one id')
    .refine(
      (list) => list.every((s) => !['skin', 'ribs', 'core'].includes(s.id)),
      'has a spar whose id is skin, ribs or core, which are members of their own',
    )
    .default([]),
  ribs: z
    .object({
      material: materialChoice,
      thickness: within(L.ribs.thickness),
      spacing: within(L.ribs.spacing),
      holes: within(L.ribs.holes).optional(),
      weighed,
    })
    .optional(),
  /** Fills the section. */
  core: z.object({ material: materialChoice, weighed }).optional(),
});
export type SurfaceStructure = z.infer<typeof surfaceStructure>;
